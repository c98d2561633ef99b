import { readFileSync } from 'node:fs';
import { expect, type Locator, type Page } from '@playwright/test';
import {
  DoubleSide,
  Mesh,
  MeshBasicMaterial,
  BufferGeometry,
  Float32BufferAttribute,
  PerspectiveCamera,
  Raycaster,
  Triangle,
  Vector2,
  Vector3,
} from 'three';
import { sampleWithThree } from '@tests/sampleWithThree';
import { bytesOf, pickBar, viewport } from '../kit';
import type { JobModel } from './models';

/** As the viewport has it, degrees. */
const fov = 32;

/** What an artist does, each click, key, drag or typed field counted as one act. */
export class Acts {
  count = 0;
  private picked = 0;
  constructor(
    readonly page: Page,
    private model: JobModel,
  ) {}

  async click(what: Locator, options: Parameters<Locator['click']>[0] = {}): Promise<void> {
    this.count++;
    await what.click(options);
  }
  async key(key: string): Promise<void> {
    this.count++;
    await this.page.keyboard.press(key);
  }
  async type(field: Locator, text: string): Promise<void> {
    this.count++;
    await field.fill(text);
  }
  has = (piece: string): boolean => this.model.pieces.includes(piece);
  allColored = (): Promise<void> => expect(pickBar(this.page)).toContainText('Every face is colored');
  button = (name: string | RegExp) => this.page.getByRole('button', { name });

  /** Files dropped on the home page; the model opens in Color where nothing is to be decided. */
  async open(...models: JobModel[]): Promise<void> {
    this.count++;
    this.model = models[0]!;
    await this.page.goto('/');
    await expect(this.button('Open a model')).toBeVisible();
    await this.page
      .getByLabel('Open models or an archive')
      .setInputFiles(models.map((m) => ({ name: m.file, mimeType: 'model/obj', buffer: Buffer.from(m.obj) })));
    await expect(this.page).toHaveURL(/\/color$/);
    await this.isShown();
  }
  /** A model in the list at the left comes into view. */
  async show(model: JobModel, name: RegExp): Promise<void> {
    await this.click(this.page.getByRole('complementary', { name: 'Models of the kit' }).getByRole('button', { name }).first());
    this.model = model;
    await this.isShown();
  }
  private async isShown(): Promise<void> {
    await expect(viewport(this.page)).toHaveAttribute('aria-busy', 'false');
    await expect(pickBar(this.page)).toBeVisible();
  }

  /** A click, or two, on a piece, where it can be seen; and what is picked then. */
  async face(
    piece: string,
    { shift = false, twice = false, takes }: { shift?: boolean; twice?: boolean; takes?: number } = {},
  ): Promise<void> {
    this.count += twice ? 2 : 1;
    const own = this.model.pieces.filter((p) => p === piece).length;
    this.picked = takes ?? own + (shift ? this.picked : 0);
    const { x, y } = await this.spotOn(piece);
    if (shift) await this.page.keyboard.down('Shift');
    await this.page.mouse.click(x, y, twice ? { clickCount: 2 } : {});
    if (shift) await this.page.keyboard.up('Shift');
    await expect(pickBar(this.page)).toContainText(`${this.picked} face${this.picked === 1 ? '' : 's'} picked`);
  }

  /** A press on a piece in Paint, where it can be seen. */
  async paint(piece: string): Promise<void> {
    this.count++;
    const { x, y } = await this.spotOn(piece);
    await this.page.mouse.move(x, y);
    await expect(this.page.getByText(/shown (at one place|by \d+ faces)/)).toBeVisible();
    await this.page.mouse.click(x, y);
  }

  /** A word of the phrase, and what it is to say. */
  async say(word: RegExp, to: RegExp): Promise<void> {
    await this.click(this.page.getByLabel('What a press sets').getByRole('button', { name: word }));
    await this.click(this.page.getByRole('menuitemradio', { name: to }));
  }

  /** A color of the tray, by its role. */
  async color(role: string, { shift = false } = {}): Promise<void> {
    await this.click(this.button(new RegExp(`^${role}, [\\d,]+ face`)), shift ? { modifiers: ['Shift'] } : {});
  }

  /** Back from another view. */
  async toColor(): Promise<void> {
    await this.click(this.page.getByRole('link', { name: 'Color', exact: true }));
    await this.isShown();
  }
  async handOff(): Promise<void> {
    await this.click(this.page.getByRole('link', { name: 'Hand-off', exact: true }));
  }
  /** What leaves: for each model its triangles' colors by piece. */
  async download(by: 'color' | 'base', ...models: JobModel[]): Promise<Record<string, string[]>> {
    const wanted = this.page.waitForEvent('download');
    await this.click(this.button('Download GLB'));
    const { triangles } = await sampleWithThree(await bytesOf(await wanted));
    const found: Record<string, Set<string>> = {};
    for (const t of triangles) {
      const piece = nearestPiece(models.length ? models : [this.model], new Vector3(...t.middle));
      (found[piece] ??= new Set()).add('#' + (t[by] ?? []).map((v) => v.toString(16).padStart(2, '0')).join(''));
    }
    return Object.fromEntries(Object.entries(found).map(([piece, colors]) => [piece, [...colors]]));
  }

  /** Where on the screen the largest face of a piece is seen. */
  private async spotOn(piece: string): Promise<{ x: number; y: number }> {
    const box = (await viewport(this.page).boundingBox())!;
    // The eye is kept a moment after it has come to rest.
    const eye = await this.page.waitForFunction(() => {
      const all = JSON.parse(localStorage.getItem('oligochrome eyes') ?? '[]') as [string, Eye][];
      return all.at(-1)?.[1];
    });
    const { target, direction, distance } = (await eye.jsonValue()) as Eye;
    const camera = new PerspectiveCamera(fov, box.width / box.height, distance / 200, distance * 60);
    camera.position.set(...direction).normalize().multiplyScalar(distance).add(new Vector3(...target)); // prettier-ignore
    camera.lookAt(...target);
    camera.updateMatrixWorld();
    const all = trianglesOf(this.model);
    const ray = new Raycaster();
    const mesh = new Mesh(
      new BufferGeometry().setAttribute('position', new Float32BufferAttribute(all.flatMap(({ t }) => [...t.a, ...t.b, ...t.c]), 3)), // prettier-ignore
      new MeshBasicMaterial({ side: DoubleSide }),
    );
    /** Whether the piece is what a pointer meets here, also a few pixels beside. */
    const isSafe = (at: Vector3) =>
      [[0, 0], [4, 0], [-4, 0], [0, 4], [0, -4]].every(([dx, dy]) => {
        ray.setFromCamera(new Vector2(at.x + (dx! * 2) / box.width, at.y + (dy! * 2) / box.height), camera);
        const hit = ray.intersectObject(mesh)[0];
        return hit && all[hit.faceIndex!]!.piece === piece;
      }); // prettier-ignore
    const spots: { x: number; y: number; size: number }[] = [];
    for (const { piece: own, t } of all) {
      if (own !== piece) continue;
      // Its middle, and points toward its corners, of which one may be seen where the middle is not.
      const middle = t.getMidpoint(new Vector3());
      for (const point of [middle, ...[t.a, t.b, t.c].map((corner) => middle.clone().lerp(corner, 0.7))]) {
        const toEye = camera.position.clone().sub(point).normalize();
        const size = t.getArea() * t.getNormal(new Vector3()).dot(toEye) * (point === middle ? 1 : 0.1);
        const at = point.clone().project(camera);
        if (size > 1e-4 && isSafe(at))
          spots.push({ x: box.x + ((at.x + 1) / 2) * box.width, y: box.y + ((1 - at.y) / 2) * box.height, size });
      }
    }
    // Bars stand over the edges of the viewport.
    const free = await this.page.evaluate(
      (list) => list.filter(({ x, y }) => document.elementFromPoint(x, y)?.closest('#viewport')),
      spots.sort((p, q) => q.size - p.size),
    );
    if (!free[0]) throw new Error(`Nothing of the ${piece} is seen.`);
    return free[0];
  }
}

interface Eye {
  target: [number, number, number];
  direction: [number, number, number];
  distance: number;
}

function trianglesOf({ positions, faces, pieces }: JobModel): { piece: string; t: Triangle }[] {
  const at = (v: number) => new Vector3(positions[v * 3], positions[v * 3 + 1], positions[v * 3 + 2]);
  return faces.flatMap((face, f) =>
    face.slice(2).map((v, k) => ({ piece: pieces[f]!, t: new Triangle(at(face[0]!), at(face[k + 1]!), at(v)) })),
  );
}

function nearestPiece(models: readonly JobModel[], point: Vector3): string {
  let [best, least] = ['', Infinity];
  for (const { piece, t } of models.flatMap(trianglesOf)) {
    const d = t.closestPointToPoint(point, new Vector3()).distanceTo(point);
    if (d < least) [best, least] = [piece, d];
  }
  return best;
}

const stated = readFileSync('docs/acts.md', 'utf8');
/** The count is the one that the document states, and no more than is wanted. */
export function expectStated(job: string, count: number, goal: number): void {
  const [, told, most] = new RegExp(`\\| ${job} +\\| (\\d+) of (\\d+) +\\|`).exec(stated) ?? [];
  expect([told, most]).toEqual([String(count), String(goal)]);
  expect(count).toBeLessThanOrEqual(goal);
}
