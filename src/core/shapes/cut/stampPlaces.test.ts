import { expect, it } from 'vitest';
import { box, boxFaces, grid, triangulated } from '@tests/meshes';
import { adjacencyOf, type Adjacency } from '../mesh/adjacency';
import { meshFromLists } from '../mesh/build';
import { faceCount, type PolyMesh } from '../mesh/polyMesh';
import type { Symmetry } from '../pick/symmetry';
import type { Point } from './facePlaces';
import { areaAt, likeAreas } from './likeAreas';
import { pointIn, type Stamp } from './stampCut';
import { frameOn, inMiddleOf, isSameStamp, mirroredStamp } from './stampFrame';
import { stampOutlines } from './stampOutlines';
import { svgOutlines } from './svgOutlines';

const near = (p: Point) => p.map((v) => Number(v.toFixed(4)) + 0);
/** A box 3 m by 1 m by 2 m, away from the origin. */
const hall: PolyMesh = { ...box(), positions: box().positions.map((v, i) => v * [3, 1, 2][i % 3]! + 5) };

it('a stamp stands upright on walls, and is seen from above on floors', () => {
  const mesh = hall;
  const adjacency = adjacencyOf(mesh);
  const directions = Array.from({ length: 6 }, (_, f) => {
    const { u, v } = frameOn(adjacency, f, [0, 0, 0]);
    return [near(u), near(v)];
  });
  // At the back, the front, below, above, at the left and the right: each to its right, and up.
  expect(directions).toEqual([
    [[-1, 0, 0], [0, 1, 0]],
    [[1, 0, 0], [0, 1, 0]],
    [[1, 0, 0], [0, 0, 1]],
    [[1, 0, 0], [0, 0, -1]],
    [[0, 0, 1], [0, 1, 0]],
    [[0, 0, -1], [0, 1, 0]],
  ]); // prettier-ignore
  expect(near(inMiddleOf(mesh, [5], frameOn(adjacency, 5, [0, 0, 0])).origin)).toEqual([0, 5.5, 6]);
  const leaning = meshFromLists({ positions: [0, 0, 0, 2, 0, 0, 2, 1, -1, 0, 1, -1], faces: [[0, 1, 2, 3]] });
  const { u, v, origin } = areaAt(leaning, adjacencyOf(leaning), 0, { cells: new Uint16Array(1), angle: 5 }).frame;
  expect([near(u), near(v), near(origin)]).toEqual([[1, 0, 0], near([0, Math.SQRT1_2, -Math.SQRT1_2]), [1, 0.5, -0.5]]);
});

it('a stamp lies in the plane of its face whichever way that leans', () => {
  for (const normal of [
    [1, 1, 1],
    [-1, 0.5, 2],
    [0.3, 1, 0.1],
    [0.2, -1, 0.3],
    [-0.1, 1, -0.4],
  ] as const) // prettier-ignore
  {
    const length = Math.hypot(...normal);
    const n = normal.map((v) => v / length) as [number, number, number];
    const { u, v } = frameOn({ normals: Float32Array.from(n) } as Adjacency, 0, [0, 0, 0]);
    const dot = (a: Point, b: Point) => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
    expect([dot(u, u), dot(v, v), dot(u, v), dot(u, n), dot(v, n)].map((d) => Number(d.toFixed(5)) + 0)).toEqual([1, 1, 0, 0, 0]);
    // To its front; on a wall level to the right, on a floor along x.
    expect(dot([u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]], n)).toBeCloseTo(1, 5);
    if (Math.abs(n[1]) < 0.9) expect([u[1], v[1] > 0]).toEqual([0, true]);
    else expect(u[0]).toBeGreaterThan(0.9);
  }
});

it('areas are alike whose outlines are, seen upright from the front, however they are cut into faces', () => {
  const like = (mesh: PolyMesh, face: number, cells = new Uint16Array(faceCount(mesh))) =>
    likeAreas(mesh, adjacencyOf(mesh), face, { cells, angle: 5 }).map(({ faces }) => [...faces].sort((a, b) => a - b));
  expect(like(hall, 0)).toEqual([[0], [1]]);
  expect(like(hall, 5)).toEqual([[5], [4]]);
  expect(like(hall, 3)).toEqual([[3], [2]]);
  expect(like(triangulated(box()), 0)).toHaveLength(6);
  // A wall of six faces, and a hall whose walls are as large.
  const two = (mesh: PolyMesh, away: number) => mesh.positions.map((p, i) => p + (i % 3 === 0 ? away : 0));
  const wall = meshFromLists({ positions: grid(3).positions.map((_, i, all) => [all[i]!, all[i + 1]! / 3, 0][i % 3]!), faces: [] });
  for (let v = 0; v < 16; v++) wall.positions.set([v % 4, Math.floor(v / 4) / 3, 0], v * 3);
  const quads = Array.from({ length: 9 }, (_, i) => {
    const at = Math.floor(i / 3) * 4 + (i % 3);
    return [at, at + 1, at + 5, at + 4];
  });
  const both = meshFromLists({
    positions: [...two(hall, 20), ...wall.positions],
    faces: [...boxFaces, ...quads.map((q) => q.map((v) => v + 8))],
  });
  expect(like(both, 0)).toEqual([[0], [1], Array.from({ length: 9 }, (_, i) => 6 + i)]);
  expect(faceCount(both)).toBe(15);
  // Where a color ends, an area does; also when it was colored only now.
  const cells = new Uint16Array(15);
  expect(like(both, 0, cells)).toHaveLength(3);
  cells[10] = 4;
  expect(like(both, 0, cells)).toEqual([[0], [1]]);
  // As large, but of another form.
  const slanted = meshFromLists({ positions: [0, 0, 0, 3, 0, 0, 4, 1, 0, 1, 1, 0, 9, 0, 0, 12, 0, 0, 12, 1, 0, 9, 1, 0], faces: [[0, 1, 2, 3], [4, 5, 6, 7]] }); // prettier-ignore
  expect(like(slanted, 0)).toEqual([[0]]);
});

it('a stamp has its mirror image on the twin, none where it is its own', () => {
  const mesh = hall;
  const adjacency = adjacencyOf(mesh);
  const symmetry: Symmetry = { axis: 'x', offset: 6.5, matched: 6, unmatched: 0, tolerance: 0.01, twin: Int32Array.of(0, 1, 2, 3, 5, 4) };
  const outlines = stampOutlines({ kind: 'round', width: 0.4, height: 0.6, sides: 5 }, { columns: 1, rows: 1, gap: 0 }, 20);
  const on = (face: number, origin: Point): Stamp => ({ face, frame: frameOn(adjacency, face, origin), outlines });
  const places = ({ frame }: Stamp) => outlines[0]!.map((p) => near(pointIn(frame, p)).join());
  const right = on(5, [8, 5.4, 6.2]);
  const left = mirroredStamp(symmetry, right)!;
  expect(left.face).toBe(4);
  expect(places(left)).toEqual(outlines[0]!.map((p) => near(pointIn(right.frame, p)).map((v, k) => (k ? v : Number((13 - v).toFixed(4)))).join())); // prettier-ignore
  // In the middle of the front an upright one is its own mirror image; a turned one, or one beside it, is not.
  const upright = { ...on(1, [6.5, 5.5, 7]), outlines: stampOutlines({ kind: 'rectangle', width: 1, height: 0.5 }, { columns: 2, rows: 1, gap: 0.1 }, 0) }; // prettier-ignore
  expect(mirroredStamp(symmetry, upright)).toBeNull();
  expect(mirroredStamp(symmetry, on(1, [6.5, 5.5, 7]))).not.toBeNull();
  expect(mirroredStamp({ ...symmetry, twin: symmetry.twin.map(() => -1) }, right)).toBeNull();
  expect(isSameStamp(right, { ...right, frame: { ...right.frame, origin: [8, 5.4, 6.3] } })).toBe(false);
  expect(isSameStamp(right, { ...right, frame: { ...right.frame, origin: [7, 5.4, 6.2] } })).toBe(false);
});

it('outlines of SVG paths lie in a square around their middle, up being up, with their transforms and in straight pieces', () => {
  const near4 = (o: readonly (readonly number[])[]) => o.map((p) => p.map((v) => Number(v.toFixed(4)) + 0));
  // A house with a point on top, twice as wide as it is high once it is stretched; then what it stands in turns it.
  const house = { d: 'M 0 4 h 4 V 2 L 2 0 L 0 2 z', transforms: [] };
  expect(near4(svgOutlines([house]).outlines[0]!)).toEqual([[-0.5, -0.5], [0.5, -0.5], [0.5, 0], [0, 0.5], [-0.5, 0]]); // prettier-ignore
  expect([svgOutlines([house]).aspect, svgOutlines([{ ...house, transforms: ['scale(2 1)'] }]).aspect]).toEqual([1, 0.5]);
  const turned = svgOutlines([{ d: 'M0 0h2v1h-2z', transforms: ['translate(5 5)', 'rotate(90)'] }]);
  expect([turned.aspect, near4(turned.outlines[0]!)[1]]).toEqual([2, [0.5, -0.5]]);
  // A circle of two arcs: every point half a side from the middle; and a hole of a curve in it.
  const round = svgOutlines([{ d: 'M0 5a5 5 0 1 0 10 0a5 5 0 1 0 -10 0M4 5q1 -1 2 0q-1 1 -2 0', transforms: [] }]);
  expect(round.outlines.map((o) => o.length)).toEqual([32, 16]);
  for (const p of round.outlines[0]!) expect(Math.hypot(...p)).toBeCloseTo(0.5, 3);
  for (const [d, why] of [
    ['M0 0', 'no outline'],
    ['M0 0h4h-2z', 'no outline'],
    ['M0 0h4q', 'cannot be read'],
    ['M0 0' + 'h1'.repeat(100_001), 'too long'],
  ] as const)
    // prettier-ignore
    expect(() => svgOutlines([{ d, transforms: [] }])).toThrow(why);
  expect(() => svgOutlines([])).toThrow('no outline');
});
