import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { box, grid, triangulated } from '@tests/meshes';
import { adjacencyOf } from '../mesh/adjacency';
import { meshFromLists } from '../mesh/build';
import { checkMesh } from '../mesh/checkMesh';
import { areaOf, measureFaces, volumeOf } from '../mesh/measure';
import { faceCount, type PolyMesh } from '../mesh/polyMesh';
import type { BorderWidth } from './borderInside';
import { cutModel, planCut, type CutWish } from './cutModel';
import { signedArea, type Flat } from './facePlaces';
import { pictureAsSharp } from './pictureAsSharp';
import type { Stamp } from './stampCut';
import { stampOutlines, type StampShape } from './stampOutlines';

const cutAs = (mesh: PolyMesh, wish: CutWish) => cutModel(mesh, adjacencyOf(mesh), wish);
/** Square metres of faces together. */
function areaOfFaces(mesh: PolyMesh, faces: ArrayLike<number>): number {
  const { areas } = measureFaces(mesh);
  return Array.from(faces).reduce((sum, f) => sum + areas[f]!, 0);
}
const flags = (mesh: PolyMesh, faces: readonly number[]) => {
  const out = new Uint16Array(faceCount(mesh));
  for (const f of faces) out[f] = 1;
  return out;
};

const frame = { origin: [0, 0, 0], u: [1, 0, 0], v: [0, 0, -1] } as const;
const single = { columns: 1, rows: 1, gap: 0 };
const bumpy = (n: number) => grid(n, (x, z) => Math.sin(x * 3 + z * z) * 0.1);
const inCells = (mesh: PolyMesh, cells: readonly number[], perCell: number) =>
  flags(
    mesh,
    cells.flatMap((c) => Array.from({ length: perCell }, (_, k) => c * perCell + k)),
  );
/** Of a mesh with nothing broken: open edges, edges of three faces or more, faces that are flipped, and the smallest face. */
const broken = (mesh: PolyMesh) => {
  const { openEdges, nonManifoldEdges, against, areas } = adjacencyOf(checkMesh(mesh));
  return { openEdges, nonManifoldEdges, flipped: against.includes(1), isThin: areas.some((a) => !(a > 0)) };
};
const sound = { openEdges: 0, nonManifoldEdges: 0, flipped: false, isThin: false };

describe('lines inside an outline', () => {
  it.each([1, 2])('lie as far from it everywhere, whether the picked faces are quads or triangles (%i in a cell)', (perCell) => {
    const mesh = perCell === 1 ? grid(4) : triangulated(grid(4));
    const row = [0, 1, 2, 3];
    const all = Array.from({ length: 16 }, (_, i) => i);
    const ring = all.filter((c) => ![5, 6, 9, 10].includes(c));
    const w = 0.15;
    for (const [cells, times, stripes, inside] of [
      [all, 1, 16 * w - 4 * w * w, (4 - 2 * w) ** 2],
      [row, 1, 10 * w - 4 * w * w, (4 - 2 * w) * (1 - 2 * w)],
      [row.slice(0, 1), 1, 4 * w - 4 * w * w, (1 - 2 * w) ** 2],
      // Two lines: the outer stripe alone; three: the third one, too.
      [all, 2, 16 * w - 4 * w * w, (4 - 4 * w) ** 2],
      [all, 3, 16 * w - 4 * w * w + (16 - 16 * w) * w - 4 * w * w, (4 - 6 * w) ** 2],
      // An L has a hollow corner, a ring of cells two outlines.
      [[...row, 4, 8, 12], 1, 16 * w - 5 * w * w + w * w, 7 - 16 * w + 4 * w * w],
      [ring, 1, 16 * w - 4 * w * w + 8 * w + 4 * w * w, 12 - 24 * w],
    ] as const) {
      const wish = { kind: 'border', picked: inCells(mesh, cells, perCell), width: { kind: 'metres', metres: w }, times } as const;
      const cut = cutAs(mesh, { ...wish, takes: 'stripes' });
      expect(areaOfFaces(cut.mesh, cut.between)).toBeCloseTo(stripes, 5);
      expect(areaOfFaces(cut.mesh, cutAs(mesh, { ...wish, takes: 'inside' }).between)).toBeCloseTo(inside, 5);
      expect(areaOf(cut.mesh)).toBeCloseTo(16, 5);
      expect(broken(cut.mesh)).toEqual({ ...sound, openEdges: 16 });
    }
  });

  it('are held back where the outline would meet itself, and a share is one of the way there; with mitres a quad has four borders', () => {
    const mesh = box(2);
    const wish = (width: BorderWidth, faces = [0]) =>
      ({ kind: 'border', picked: flags(mesh, faces), width, times: 1, takes: 'inside' }) as const;
    // To the middle it is a metre.
    const plan = planCut(mesh, adjacencyOf(mesh), wish({ kind: 'metres', metres: 3 }));
    expect(plan.heldBackTo).toBeCloseTo(0.95, 4);
    expect(planCut(mesh, adjacencyOf(mesh), wish({ kind: 'metres', metres: 0.4 })).heldBackTo).toBeUndefined();
    const half = cutAs(mesh, wish({ kind: 'share', share: 0.5 }));
    expect([areaOfFaces(half.mesh, half.between), sizesOf(half.mesh)]).toEqual([expect.closeTo(1, 4), Array(10).fill(4)]);
    expect(broken(half.mesh)).toEqual(sound);
    // Around a corner of three sides: the line goes over both edges that part two of them.
    const around = cutAs(mesh, wish({ kind: 'metres', metres: 0.25 }, [0, 2, 5]));
    expect(areaOfFaces(around.mesh, around.between)).toBeCloseTo(3 * 4 - 0.25 * 12 + 0.0625 * 3, 3);
    // Each of two sides by itself, though they touch.
    const apart = cutAs(mesh, { ...wish({ kind: 'metres', metres: 0.25 }), picked: Uint16Array.of(1, 0, 2, 0, 0, 0) });
    expect([areaOfFaces(apart.mesh, apart.between), apart.between.length, broken(apart.mesh)]).toEqual([2 * 1.5 * 1.5, 2, sound]);
    expect(() => cutAs(mesh, wish({ kind: 'metres', metres: 0.2 }, []))).toThrow('has no outline');
    expect(() => cutAs(mesh, wish({ kind: 'metres', metres: 0.2 }, [0, 1, 2, 3, 4, 5]))).toThrow('has no outline');
    expect(() => cutAs(mesh, wish({ kind: 'metres', metres: 0 }))).toThrow('above zero');
    expect(() => cutAs(mesh, wish({ kind: 'share', share: 1 }))).toThrow('below 1');
    expect(() => cutAs(mesh, { ...wish({ kind: 'share', share: 0.5 }), times: 9 })).toThrow('1 to 8 lines');
  });

  it('leave nothing open, flipped or without area, whatever is picked on whatever surface, and cut again', () => {
    fc.assert(
      fc.property(
        fc.boolean(),
        fc.uniqueArray(fc.nat(15), { minLength: 1 }),
        fc.uniqueArray(fc.nat(60), { minLength: 1 }),
        fc.double({ min: 0.01, max: 2, noNaN: true }),
        fc.integer({ min: 1, max: 3 }),
        (isCut, cells, again, metres, times) => {
          const mesh = isCut ? triangulated(bumpy(4)) : bumpy(4);
          const first = cutAs(mesh, {
            kind: 'border',
            picked: inCells(mesh, cells, isCut ? 2 : 1),
            width: { kind: 'metres', metres },
            times,
            takes: 'stripes',
          });
          expect(broken(first.mesh)).toEqual({ ...sound, openEdges: 16 });
          const faces = faceCount(first.mesh);
          const cutAgain = () =>
            cutAs(first.mesh, {
              kind: 'border',
              picked: flags(
                first.mesh,
                again.map((f) => f % faces),
              ),
              width: { kind: 'share', share: 0.5 },
              times: 1,
              takes: 'inside',
            });
          let second;
          try {
            second = cutAgain();
          } catch (error) {
            expect(String(error)).toMatch(/no room|no outline/);
            return;
          }
          expect(broken(second.mesh)).toEqual({ ...sound, openEdges: 16 });
          expect(areaOf(second.mesh) / areaOf(mesh)).toBeCloseTo(1, 2);
        },
      ),
      { numRuns: 25, endOnFailure: true },
    );
  });
});

describe('stamps', () => {
  const shapes: fc.Arbitrary<StampShape> = fc.oneof(
    fc.record({ kind: fc.constant('rectangle' as const), width: fc.constantFrom(0.3, 1, 2.5), height: fc.constantFrom(0.3, 1, 2) }),
    fc.record({
      kind: fc.constant('round' as const),
      width: fc.constantFrom(0.3, 1, 2.5),
      height: fc.constantFrom(0.4, 2),
      sides: fc.integer({ min: 3, max: 12 }),
    }),
    // A star, hollow at every other corner.
    fc.record({
      kind: fc.constant('drawn' as const),
      width: fc.constantFrom(1, 2.5),
      height: fc.constant(1),
      outlines: fc.constant([star(5)]),
    }),
  );

  it('have the area of their outlines, wherever they lie: across edges, along them, over corners, inside of a face or over its end', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(1, 2, 16),
        shapes,
        fc.tuple(fc.constantFrom(1, 2, 3), fc.constantFrom(1, 2)),
        fc.constantFrom(0, 45, 17),
        // Of quarters, so that lines often lie on edges and corners.
        fc.tuple(fc.integer({ min: 2, max: 14 }), fc.integer({ min: 2, max: 14 })),
        (kind, shape, [columns, rows], degrees, [x, z]) => {
          const mesh = kind === 1 ? grid(4) : kind === 2 ? triangulated(grid(4)) : wholeFloor;
          const outlines = stampOutlines(shape, { columns, rows, gap: 0.1 }, degrees);
          const origin = [x / 4, 0, z / 4] as const;
          const stamp: Stamp = { face: 0, frame: { ...frame, origin }, outlines };
          const seen = outlines.map((o) => clippedArea(o.map(([u, v]): Flat => [u + origin[0], origin[2] - v])));
          fc.pre(!seen.every((a) => a < 1e-6 || Math.abs(a - 16) < 1e-6));
          const plan = planCut(mesh, adjacencyOf(mesh), { kind: 'stamps', stamps: [stamp] });
          // Nothing is left to be cut where all lines run along edges.
          fc.pre(plan.cuts.length > 0);
          const cut = cutAs(mesh, { kind: 'stamps', stamps: [stamp] });
          expect(areaOfFaces(cut.mesh, cut.between)).toBeCloseTo(
            seen.reduce((sum, a) => sum + a, 0),
            4,
          );
          expect(areaOf(cut.mesh)).toBeCloseTo(16, 4);
          expect(broken(cut.mesh)).toMatchObject({ nonManifoldEdges: 0, flipped: false, isThin: false });
        },
      ),
      { numRuns: 80, endOnFailure: true },
    );
  });

  it('leave closed meshes closed and keep their volume, on walls, too; a shape in a shape is a hole', () => {
    const mesh = box(2);
    const outlines = [...stampOutlines({ kind: 'rectangle', width: 0.8, height: 0.8 }, single, 0), ...stampOutlines({ kind: 'round', width: 0.5, height: 0.5, sides: 6 }, single, 0)]; // prettier-ignore
    for (const [face, origin, u, v] of [
      [0, [1, 1, 0], [-1, 0, 0], [0, 1, 0]],
      [2, [1, 0, 1], [-1, 0, 0], [0, 0, 1]],
    ] as const) {
      const cut = cutAs(mesh, { kind: 'stamps', stamps: [{ face, frame: { origin, u, v }, outlines }] });
      const [outer, inner] = outlines.map((o) => Math.abs(signedArea(o)) / 2) as [number, number];
      expect(areaOfFaces(cut.mesh, cut.between)).toBeCloseTo(outer - inner, 5);
      expect([broken(cut.mesh), cut.changed]).toEqual([sound, 1]);
      expect(volumeOf(cut.mesh)).toBeCloseTo(8, 5);
    }
  });

  it('are refused with a reason where they make no sense, and lie on nothing that is steep', () => {
    const mesh = box(2);
    const on = (outlines: Flat[][], face = 2, more: Stamp[] = []) =>
      cutAs(mesh, { kind: 'stamps', stamps: [{ face, frame: { ...frame, origin: [1, 0, 1] }, outlines }, ...more] });
    const square = stampOutlines({ kind: 'rectangle', width: 0.5, height: 0.5 }, single, 0);
    expect(() => on(square, 0)).toThrow('nearly flat');
    expect(() => on([[[0, 0], [1, 1], [1, 0], [0, 1]]])).toThrow('crosses itself'); // prettier-ignore
    expect(() => on([...square, square[0]!.map(([x, y]): Flat => [x + 0.5, y])])).toThrow('touch or cross');
    expect(() => on(square, 2, [{ face: 2, frame: { ...frame, origin: [1.2, 0, 1] }, outlines: square }])).toThrow('touch or cross');
    expect(() => on([[[0, 0], [1, 1]]])).toThrow('three corners'); // prettier-ignore
    expect(() => on([[[0, 0], [NaN, 1], [1, 0]]])).toThrow('lies nowhere'); // prettier-ignore
    expect(() => on([Array.from({ length: 1025 }, (_, i): Flat => [Math.cos(i), Math.sin(i)])])).toThrow('at most 1024');
    expect(() => on(stampOutlines({ kind: 'rectangle', width: 2, height: 2 }, single, 0))).toThrow('Nothing lies there');
    for (const [shape, rows, why] of [
      [{ kind: 'rectangle', width: 0, height: 1 }, single, 'wide and high'],
      [{ kind: 'round', width: 1, height: 1, sides: 2 }, single, '3 to 64'],
      [{ kind: 'rectangle', width: 1, height: 1 }, { columns: 33, rows: 1, gap: 1 }, '1 to 32'],
      [{ kind: 'rectangle', width: 1, height: 1 }, { columns: 2, rows: 1, gap: 0 }, 'gap above zero'],
    ] as const)
      expect(() => stampOutlines(shape, rows, 0)).toThrow(why);
  });

  it('stand in rows around their middle, turned counter-clockwise, a round one on one of its sides', () => {
    const near = (list: readonly (readonly Flat[])[]) => list.map((o) => o.map((p) => p.map((v) => Number(v.toFixed(4)) + 0)));
    expect(near(stampOutlines({ kind: 'rectangle', width: 2, height: 1 }, { columns: 2, rows: 2, gap: 1 }, 0)).map((o) => o[0])).toEqual([
      [-2.5, -1.5],
      [0.5, -1.5],
      [-2.5, 0.5],
      [0.5, 0.5],
    ]);
    expect(near(stampOutlines({ kind: 'rectangle', width: 2, height: 1 }, single, 90))[0]![1]).toEqual([0.5, 1]);
    const [hexagon] = near(stampOutlines({ kind: 'round', width: 4, height: 2, sides: 6 }, single, 0));
    expect([hexagon![0], hexagon!.at(-1)]).toEqual([
      [1, -0.866],
      [-1, -0.866],
    ]);
  });
});

it('a picture as sharp has a texel for every pixel of all faces, at the size at which the model is seen', () => {
  // A cube of 2 m, 24 square metres, 10 pixels a metre.
  expect(pictureAsSharp(box(2), 20)).toBe(2400);
  expect(pictureAsSharp(meshFromLists({ positions: [1, 1, 1, 1, 1, 1, 1, 1, 1], faces: [[0, 1, 2]] }), 20)).toBe(0);
});

const sizesOf = (mesh: PolyMesh) => Array.from({ length: faceCount(mesh) }, (_, f) => mesh.faceStart[f + 1]! - mesh.faceStart[f]!);
/** One face with a corner at every metre of its outline. */
const wholeFloor = meshFromLists({
  positions: Array.from({ length: 16 }, (_, i) => {
    const [side, at] = [i >> 2, i & 3];
    return [
      [0, 0, at],
      [at, 0, 4],
      [4, 0, 4 - at],
      [4 - at, 0, 0],
    ][side]!;
  }).flat(),
  faces: [Array.from({ length: 16 }, (_, i) => i)],
});
function star(points: number): Flat[] {
  return Array.from({ length: points * 2 }, (_, i): Flat => {
    const [angle, far] = [(i * Math.PI) / points, i % 2 ? 0.2 : 0.5];
    return [Math.cos(angle) * far, Math.sin(angle) * far];
  });
}
/** The area of an outline that lies on a floor of 4 m by 4 m, clipped side by side (Sutherland and Hodgman). */
function clippedArea(outline: Flat[]): number {
  let left = outline;
  for (const k of [0, 1])
    for (const isInside of [(v: number) => v >= 0, (v: number) => v <= 4]) {
      const at = isInside(5) ? 0 : 4;
      left = left.flatMap((p, i) => {
        const q = left[(i + 1) % left.length]!;
        const share = (at - p[k]!) / (q[k]! - p[k]!);
        const crossing: Flat = [p[0] + (q[0] - p[0]) * share, p[1] + (q[1] - p[1]) * share];
        return [...(isInside(p[k]!) ? [p] : []), ...(isInside(p[k]!) !== isInside(q[k]!) ? [crossing] : [])];
      });
    }
  return Math.abs(signedArea(left)) / 2;
}
