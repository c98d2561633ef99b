import { makePaintable, layForPainting, type PaintLayout } from '@/core/islands/paintable';
import { byId } from '@/core/ground/byId';
import { applyEdit } from '@/core/kit/edit/editKinds';
import { type Cell, type KitState, type Model } from '@/core/kit/kit';
import { texelsUnder } from '@/core/faces/seat/texelsOnFaces';
import { adjacencyOf } from '@/core/shapes/mesh/adjacency';
import { facesWhere } from '@/core/shapes/mesh/facesWhere';
import { measureFaces } from '@/core/shapes/mesh/measure';
import type { PolyMesh } from '@/core/shapes/mesh/polyMesh';
import { triangulate } from '@/core/shapes/mesh/triangulate';
import { brushEdit, type Sets } from '@/core/sheet/paint/brush';
import { Shape } from './shape';

/** The seal of the skerry: a few boxes, lying along Z, its head up. */
export function seal(): Shape {
  const s = new Shape();
  s.as('body', () => {
    s.box(0.625, 0.5, 1);
    s.at({ move: [0, 0.0625, -0.75] }, () => s.box(0.375, 0.25, 0.5));
  });
  s.as('head', () => s.at({ move: [0, 0.375, 0.625] }, () => s.box(0.5, 0.5, 0.5)));
  s.as('snout', () => s.at({ move: [0, 0.375, 0.9375] }, () => s.box(0.25, 0.25, 0.125)));
  s.as('flipper', () => {
    for (const side of [1, -1]) {
      s.at({ move: [0.4375 * side, 0, 0.1875] }, () => s.box(0.25, 0.125, 0.375));
      s.at({ move: [0.125 * side, 0.0625, -1.125] }, () => s.box(0.25, 0.125, 0.25));
    }
  });
  return s;
}

/** Texels a metre: of the head a face has 4 × 4. */
const density = 8;
/** The number of its pixels: the same in every copy of the demo. */
const pixels = '5ea15ea15ea15ea15ea15ea15ea15ea1';

/**
 * The seal painted: its fur of three shades, pale below; eye, nose and spots on its left side alone, so that there is
 * something left to do. `cells`: by their roles.
 */
export function painted(state: KitState, model: Model, mesh: PolyMesh, shape: Shape, cells: ReadonlyMap<string, number>): KitState {
  const surface = { mesh, adjacency: adjacencyOf(mesh), triangles: triangulate(mesh) };
  const faces = Uint32Array.from(shape.roles.keys());
  const layout = inRowsOf(16, layForPainting(surface, faces, density, 0));
  const [dark, base, light] = ['slate, in shade', 'slate', 'slate, lit'].map((role) => cells.get(role)!) as [number, number, number];
  const made = makePaintable(state, model.id, mesh, layout, base, 'seal');
  let now = numbered(applyEdit(state, made.edit), made.cell);
  const { normals } = measureFaces(mesh);
  const { width } = layout;
  const under = (role: string | null, isMeant: (normal: number[]) => boolean): Uint32Array => {
    const meant = facesWhere(
      faces.length,
      (f) => (role === null || shape.roles[f] === role) && isMeant([...normals.slice(f * 3, f * 3 + 3)]),
    );
    const isUnder = texelsUnder(mesh, now.seats[model.id]!, { id: made.cell }, now.pixels![pixels]!, meant);
    return facesWhere(isUnder.length, (t) => isUnder[t]);
  };
  const set = (texels: Uint32Array, sets: Sets) => {
    const edit = brushEdit(now, pixels, texels, sets);
    if (edit) now = applyEdit(now, edit);
  };
  const pale = cells.get('lime wash, in shade')!;
  set(
    under(null, () => true),
    { kind: 'ordered', from: base, to: light, share: 0.125, grid: 8 },
  );
  set(
    under(null, ([, y]) => y! < -0.5),
    { kind: 'cell', cell: pale },
  );
  set(
    under('body', ([, y]) => y! > 0.5),
    { kind: 'ordered', from: base, to: light, share: 0.5, grid: 8 },
  );
  set(
    under('head', ([, y]) => y! > 0.5),
    { kind: 'ordered', from: light, to: base, share: 0.25, grid: 8 },
  );
  for (const role of ['flipper', 'snout'])
    set(
      under(role, ([, y]) => y! > -0.5),
      { kind: 'cell', cell: dark },
    );
  const left = (role: string) => under(role, ([x]) => x! > 0.5);
  const [row, column] = [(t: number) => Math.floor(t / width), (t: number) => t % width];
  const [first] = left('head');
  const eye = left('head').filter((t) => row(t) === row(first!) + 1 && column(t) > column(first!) && column(t) < column(first!) + 3);
  eye.forEach((t, i) => set(Uint32Array.of(t), { kind: 'cell', cell: i ? dark : cells.get('lime wash')! }));
  const spots = left('body').filter((t) => (column(t) * 5 + row(t) * 3) % 7 === 0);
  set(spots, { kind: 'cell', cell: dark });
  return now;
}

/** The art has a height that is a multiple of so many texels: what is left over is there to be painted, too. */
function inRowsOf(texels: number, { height, at, ...layout }: PaintLayout): PaintLayout {
  const to = Math.ceil(height / texels) * texels;
  return { ...layout, height: to, at: at.map((v, i) => (i % 2 ? (v * height) / to : v)) };
}

function numbered({ kit, seats, ...state }: KitState, cell: number): KitState {
  const [own] = Object.values(state.pixels!);
  const withNumber = (c: Cell): Cell => (c.id === cell ? { ...c, fill: { kind: 'art', picture: pixels, painted: true } } : c);
  const sheets = kit.sheets.map((s) => ({ ...s, cells: s.cells.map(withNumber) }));
  return { ...state, kit: { ...kit, sheets }, seats, pixels: byId({ [pixels]: own! }) };
}
