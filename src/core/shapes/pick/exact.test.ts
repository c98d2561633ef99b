import fc from 'fast-check';
import { expect, it } from 'vitest';
import { box, grid, triangulated } from '@tests/meshes';
import { adjacencyOf, type Adjacency } from '../mesh/adjacency';
import { meshFromLists } from '../mesh/build';
import type { PolyMesh } from '../mesh/polyMesh';
import { alongStroke, facesThroughBrush, facesUnderBrush } from './brush';
import { growToCreases } from './change';
import { borderOf, edgeCorner, lengthOfEdges } from './edges';
import { floodFlat, floodSmooth, floodWhere } from './floods';
import { facesOfSpans, spansOfFaces } from './namedPicks';
import { facesSeenInside, isInside, isNearLine, isWhollyInside, maskOf, ownersOf, polygonOf, projectVertices, touches } from './outline';
import { pointGrid } from './pointGrid';
import { proposeAngles } from './proposeAngles';
import { isClosedRing, isNearEdge, likeliestEdge, nearestCorner, nearestEdge, ringThrough } from './ring';
import { facesOf, type Scope } from './scopes';
import { mirrorPlanes, twinsAcross } from './symmetry';

type P = readonly [number, number];
/** Faces whose vertices lie on the screen as given. */
function onScreen(...polygons: P[][]): { mesh: PolyMesh; screen: Float32Array } {
  const all = polygons.flat();
  let n = 0;
  const faces = polygons.map((p) => p.map(() => n++));
  return { mesh: meshFromLists({ positions: all.flatMap(([x, y]) => [x, y, 0]), faces }), screen: Float32Array.from(all.flat()) };
}
const outlineOf = (points: readonly P[]) => Float32Array.from(points.flat());
const square: P[] = [[10, 10], [20, 10], [20, 30], [10, 30]]; // prettier-ignore

it('a face touches an outline where one of them holds a corner of the other, or their sides cross', () => {
  const number = fc.integer({ min: 0, max: 4000 });
  const point = fc.tuple(number, number).map(([x, y]): P => [x / 100, y / 100]);
  const turn = (a: P, b: P, c: P) => (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0]);
  /** Half planes instead of crossings of a ray. */
  const holds = (t: readonly P[], p: P) => [0, 1, 2].every((i) => turn(t[i]!, t[(i + 1) % 3]!, p) * turn(t[0]!, t[1]!, t[2]!) >= 0);
  const cross = (a: P, b: P, c: P, d: P) => {
    const [r, s] = [[b[0] - a[0], b[1] - a[1]], [d[0] - c[0], d[1] - c[1]]] as [P, P]; // prettier-ignore
    const by = r[0] * s[1] - r[1] * s[0];
    const [t, u] = [((c[0] - a[0]) * s[1] - (c[1] - a[1]) * s[0]) / by, ((c[0] - a[0]) * r[1] - (c[1] - a[1]) * r[0]) / by];
    return t >= 0 && t <= 1 && u >= 0 && u <= 1;
  };
  fc.assert(
    fc.property(fc.tuple(point, point, point), fc.tuple(point, point, point), (a, b) => {
      const { mesh, screen } = onScreen([[0, 0], [1, 0], [0, 1]], [...a]); // prettier-ignore
      fc.pre(Math.abs(turn(...a)) > 1 && Math.abs(turn(...b)) > 1);
      // The screen has whole floats: both sides of the comparison get the same. No point lies on another's line.
      const face = a.map((p) => p.map(Math.fround) as unknown as P);
      const line = b.map((p) => p.map((v) => Math.fround(v + 0.00371)) as unknown as P);
      const sides = [0, 1, 2].flatMap((i) => [0, 1, 2].map((k) => cross(face[i]!, face[(i + 1) % 3]!, line[k]!, line[(k + 1) % 3]!)));
      const wanted = face.some((p) => holds(line, p)) || line.some((p) => holds(face, p)) || sides.some(Boolean);
      expect(touches(mesh, screen, 1, outlineOf(line))).toBe(wanted);
    }),
    { numRuns: 400, seed: 11 },
  );
  // Around all of it, in all of it, beside it on each side, and across without a corner in it.
  const at = (...points: P[]) => touches(onScreen(points).mesh, onScreen(points).screen, 0, outlineOf(square));
  expect(at([12, 12], [14, 12], [13, 14])).toBe(true);
  expect(at([0, 0], [80, 0], [0, 80])).toBe(true);
  expect(at([0, 18], [40, 20], [0, 22])).toBe(true);
  expect(at([14, 0], [16, 0], [15, 40])).toBe(true);
  for (const beside of [
    [
      [2, 12],
      [9, 12],
      [9, 28],
    ],
    [
      [21, 12],
      [29, 12],
      [21, 28],
    ],
    [
      [11, 2],
      [19, 2],
      [15, 9],
    ],
    [
      [11, 31],
      [19, 31],
      [15, 39],
    ],
  ] as P[][])
    // prettier-ignore
    expect(at(...beside)).toBe(false);
  // Beside it, within its bounds' reach: a slanted face before a corner.
  expect(at([19, 2], [28, 2], [28, 11])).toBe(false);
});

it('an outline has all corners of a face in it, or its line near them', () => {
  const { mesh, screen } = onScreen([[0, 0], [1, 0], [0, 1]], [[12, 12], [18, 12], [18, 28]], [[12, 12], [18, 12], [25, 28]]); // prettier-ignore
  expect([0, 1, 2].map((f) => isWhollyInside(mesh, screen, f, outlineOf(square)))).toEqual([false, true, false]);
  const near = (points: P[], margin: number, isClosed: boolean) => {
    const made = onScreen([[90, 90], [91, 90], [90, 91]], points); // prettier-ignore
    return isNearLine(made.mesh, made.screen, 1, outlineOf([[0, 0], [10, 0], [10, 10]]), margin, isClosed); // prettier-ignore
  };
  const cases: [P, number][] = [[[5, 2], 2], [[-3, 0], 3], [[10, 13], 3], [[13, 4], 3], [[7, -2], 2], [[-3, -4], 5]]; // prettier-ignore
  for (const [p, d] of cases) {
    expect(near([p, p, [10, 0]], d, false)).toBe(true);
    expect(near([p, p, [10, 0]], d - 0.01, false)).toBe(false);
    expect(near([[10, 0], [5, 0], p], d - 0.01, false)).toBe(false); // prettier-ignore
  }
  // The side that closes it, and what lies inside, count only where it is closed.
  expect([near([[3, 4], [3, 4], [4, 5]], 1, true), near([[3, 4], [3, 4], [4, 5]], 1, false)]).toEqual([true, false]); // prettier-ignore
  expect([near([[8, 4], [7, 3], [8, 3]], 0.5, true), near([[8, 4], [7, 3], [8, 3]], 0.5, false)]).toEqual([true, false]); // prettier-ignore
});

it('a mask has the pixels whose middle lies in the outline, and faces own theirs', () => {
  const rows = (mask: Uint8Array, width: number) =>
    Array.from({ length: mask.length / width }, (_, y) => mask.slice(y * width, (y + 1) * width).join(''));
  expect(rows(maskOf(outlineOf([[1, 1], [3, 1], [3, 3], [1, 3]]), 5, 4), 5)).toEqual(['00000', '01100', '01100', '00000']); // prettier-ignore
  expect(rows(maskOf(outlineOf([[-2, -2], [1.6, -2], [1.6, 9], [-2, 9]]), 4, 2), 4)).toEqual(['1100', '1100']); // prettier-ignore
  expect(rows(maskOf(outlineOf([[2.4, -2], [9, -2], [9, 1.4], [2.4, 1.4]]), 4, 3), 4)).toEqual(['0011', '0000', '0000']); // prettier-ignore
  // Two legs of one outline: between them nothing.
  expect(rows(maskOf(outlineOf([[0, 0], [5, 0], [5, 2], [4, 2], [4, 1], [1, 1], [1, 2], [0, 2]]), 5, 2), 5)).toEqual(['11111', '10001']); // prettier-ignore
  const raster = { width: 3, height: 2, faces: Int32Array.of(0, -1, 2, 2, 0, 3) };
  expect([...ownersOf(raster, 5)]).toEqual([1, 0, 1, 1, 0]);
  expect([...ownersOf(raster, 5, Uint8Array.of(0, 1, 0, 1, 0, 0))]).toEqual([0, 0, 1, 0, 0]);
  const { mesh, screen } = onScreen([[0, 0], [1, 0], [1, 2]], [[4, 4], [5, 4], [5, 5]], [[0, 0], [9, 0], [0, 9]], [[2, 1], [3, 1], [3, 2]]); // prettier-ignore
  const all = outlineOf([[-1, -1], [4, -1], [4, 3], [-1, 3]]); // prettier-ignore
  expect([...facesSeenInside(mesh, raster, all, 'touched', () => screen)]).toEqual([0, 2, 3]);
  expect([...facesSeenInside(mesh, raster, all, 'inside', () => screen)]).toEqual([0, 3]);
});

it('vertices come to the screen by perspective, and a face behind the eye ends before it', () => {
  // The eye looks along -z: w is the distance.
  const matrix = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, -1, 0, 0, 0, 0];
  const mesh = meshFromLists({ positions: [9, 9, -9, 1, 2, -4, -3, 1, -2, 0, 1, 1], faces: [[1, 2, 3], [0, 1, 2]] }); // prettier-ignore
  const screen = projectVertices(mesh, matrix, 200, 100);
  expect([...screen.slice(2, 6)]).toEqual([125, 25, -50, 25]);
  expect(screen.slice(6).every(Number.isNaN)).toBe(true);
  const skewed = projectVertices(mesh, [2, 0, 0, 0, 0, 3, 0, 0, 0, 0, 1, 0, 0.5, 0.25, 0, 1], 200, 100);
  expect([...skewed.slice(2, 4)]).toEqual([(2.5 * 0.5 + 0.5) * 200, (0.5 - 6.25 * 0.5) * 100]);
  expect([...polygonOf(mesh, screen, 1)]).toEqual([...screen.slice(0, 6)]);
  expect(polygonOf(mesh, screen, 0)).toHaveLength(0);
  const cut = polygonOf(mesh, screen, 0, { matrix, width: 200, height: 100 });
  expect(cut).toHaveLength(8);
  expect([...cut.slice(0, 4)]).toEqual([125, 25, -50, 25]);
  const near = 1e-4;
  const between = (p: number[], q: number[]) => {
    const t = (near - p[2]!) / (q[2]! - p[2]!);
    const [x, y] = [0, 1].map((k) => (p[k]! + (q[k]! - p[k]!) * t) / near) as [number, number];
    return [(x * 0.5 + 0.5) * 200, (0.5 - y * 0.5) * 100];
  };
  // Clip coordinates: x, y and the distance of each corner.
  const wanted = [...between([-3, 1, 2], [0, 1, -1]), ...between([0, 1, -1], [1, 2, 4])];
  wanted.forEach((v, i) => expect(cut[4 + i]! / v).toBeCloseTo(1, 3));
  // What reaches behind the eye is there as far as it is before it.
  const strip = outlineOf([[-60, 0], [-40, 0], [-40, 50], [-60, 50]]); // prettier-ignore
  expect(touches(mesh, screen, 0, strip, { matrix, width: 200, height: 100 })).toBe(true);
  expect(touches(mesh, screen, 0, strip)).toBe(false);
});

it('a brush takes the pixels of its circle, from the face under its middle on', () => {
  const n = 8;
  const floor = grid(n);
  const adjacency = adjacencyOf(floor);
  const raster = { width: n, height: n, faces: Int32Array.from({ length: n * n }, (_, i) => (i === 27 ? -1 : i)) };
  const place = fc.double({ min: -2, max: 10, noNaN: true });
  fc.assert(
    fc.property(place, place, fc.double({ min: 0.3, max: 5, noNaN: true }), (x, y, radius) => {
      const taken = facesUnderBrush(floor, raster, adjacency, { x, y, radius, angle: 30, reach: 'touched' });
      const under = new Set(
        [...raster.faces].filter((f, i) => f >= 0 && Math.hypot((i % n) + 0.5 - x, Math.floor(i / n) + 0.5 - y) <= radius),
      );
      const start = x >= 0 && y >= 0 && x < n && y < n ? raster.faces[Math.floor(y) * n + Math.floor(x)]! : -1;
      const wanted = new Set(start < 0 ? [] : [start]);
      for (const f of wanted)
        for (const g of [f % n ? f - 1 : -1, f % n < n - 1 ? f + 1 : -1, f - n, f + n]) if (under.has(g)) wanted.add(g);
      expect([...taken].sort((a, b) => a - b)).toEqual([...wanted].sort((a, b) => a - b));
    }),
    { numRuns: 200, seed: 3 },
  );
  // Wholly under it: the four corners of one face are 0.71 from its middle.
  const screen = Float32Array.from({ length: (n + 1) ** 2 * 2 }, (_, i) => (i % 2 ? Math.floor((i >> 1) / (n + 1)) : (i >> 1) % (n + 1)));
  const whole = (radius: number) =>
    facesUnderBrush(floor, raster, adjacency, { x: 2.5, y: 1.5, radius, angle: 30, reach: 'inside' }, screen);
  expect([whole(0.7), whole(0.71)]).toEqual([[], [10]]);
  const through = (radius: number, reach: 'touched' | 'inside') =>
    facesThroughBrush(floor, adjacency, screen, { x: 2.5, y: 1.5, radius, angle: 30, reach }).sort((a, b) => a - b);
  expect([through(0.45, 'touched'), through(0.6, 'touched'), through(0.72, 'inside')]).toEqual([[10], [2, 9, 10, 11, 18], [10]]);
  expect(alongStroke([1, 2], [4, 6], 4)).toEqual([[2, 2 + 4 / 3], [3, 2 + 8 / 3], [4, 6]].map(([x, y]) => [expect.closeTo(x!, 9), expect.closeTo(y!, 9)])); // prettier-ignore
  expect([alongStroke([0, 0], [0, 0], 9), alongStroke([0, 0], [3, 0], 0.1)]).toEqual([[[0, 0]], [[1, 0], [2, 0], [3, 0]]]); // prettier-ignore
});

it('proposes angles out of the empty stretches of how edges fold', () => {
  /** Edges that fold by so many degrees, so many times. */
  const folds = (...list: [degrees: number, times: number][]) => {
    const cosines = list.flatMap(([degrees, times]) => Array<number>(times).fill(Math.cos((degrees * Math.PI) / 180)));
    const neighbour = Int32Array.from({ length: cosines.length * 2 + 1 }, (_, c) => (c === cosines.length * 2 ? -1 : c ^ 1));
    return proposeAngles({ neighbour, cosine: Float32Array.from([...cosines.flatMap((v) => [v, v]), 0]) } as Adjacency);
  };
  // Empty from 2 to 44 and from 46 to 80: the lowest, and the widest.
  expect(folds([0, 100], [45, 100])).toEqual({ flat: 20, smooth: 63 });
  // 12 to 29 is shorter than 31 to 69.
  expect(folds([0, 50], [8, 50], [30, 50], [70, 50])).toEqual({ flat: 5, smooth: 50 });
  // Too short a stretch at first: 2 to 4; then 6 to 15.
  expect(folds([0, 50], [5, 50], [16, 50], [40, 50])).toEqual({ flat: 11, smooth: 61 });
  // A few odd edges are no fold; one more than 4 in a thousand is.
  expect(folds([0, 996], [30, 4])).toEqual({ flat: 20, smooth: 46 });
  expect(folds([0, 994], [30, 6]).smooth).toBe(56);
  // Beyond a right angle all is one; without an empty stretch the usual ones.
  expect(folds([0, 10], [120, 10])).toEqual({ flat: 20, smooth: 46 });
  expect(folds(...Array.from({ length: 91 }, (_, d): [number, number] => [d, 1]))).toEqual({ flat: 8, smooth: 30 });
  // A hair below a degree counts for it.
  expect(folds([0, 50], [19.8, 50], [50, 50])).toEqual({ flat: 11, smooth: 66 });
});

it('edges have one corner, borders their length, and picks their spans', () => {
  const floor = grid(2);
  const adjacency = adjacencyOf(floor);
  // The side between faces 0 and 1: corner 2 of the one, corner 4 of the other.
  expect([edgeCorner(adjacency, 2), edgeCorner(adjacency, 4), edgeCorner(adjacency, 0)]).toEqual([2, 2, 0]);
  expect([...borderOf(adjacency, Uint8Array.of(1, 0, 0, 0))]).toEqual([0, 1, 2, 3]);
  expect([...borderOf(adjacency, Uint8Array.of(0, 1, 0, 0))]).toEqual([2, 5, 6, 7]);
  expect([...borderOf(adjacency, Uint8Array.of(1, 1, 0, 0))]).toEqual([0, 1, 3, 5, 6, 7]);
  const slanted = grid(1, (x, z) => x * 2 + z * 3);
  expect(lengthOfEdges(slanted, adjacencyOf(slanted), Uint32Array.of(0, 3))).toBeCloseTo(Math.hypot(1, 3) + Math.hypot(1, 2), 6);
  expect(spansOfFaces(Uint32Array.of(0, 1, 2, 5, 7, 8))).toEqual([0, 3, 5, 1, 7, 2]);
  expect([spansOfFaces(new Uint32Array(0)), [...facesOfSpans([0, 3, 5, 1, 7, 2])]]).toEqual([[], [0, 1, 2, 5, 7, 8]]);
});

it('floods end at their angle, to the hair, and at their limit', () => {
  // A strip of five quads that folds by 0, 10, 20 and 40 degrees.
  const turns = [0, 0, 10, 30, 70].map((d) => (d * Math.PI) / 180);
  const strip: [number, number][] = [[0, 0]];
  for (const t of turns) strip.push([strip.at(-1)![0] + Math.cos(t), strip.at(-1)![1] + Math.sin(t)]);
  const mesh = meshFromLists({
    positions: strip.flatMap(([x, y]) => [x, y, 0, x, y, 1]),
    faces: turns.map((_, i) => [i * 2, i * 2 + 1, i * 2 + 3, i * 2 + 2]),
  });
  const adjacency = adjacencyOf(mesh);
  const list = (faces: Uint32Array | null) => [...faces!].sort();
  expect([9.9, 10.1, 30.1].map((a) => list(floodFlat(adjacency, 0, a)).length)).toEqual([2, 3, 4]);
  expect([list(floodFlat(adjacency, 4, 41)), list(floodFlat(adjacency, 3, 20.1))]).toEqual([[3, 4], [0, 1, 2, 3].slice(2)]);
  expect([9.9, 10.1, 20.1, 40.1].map((a) => list(floodSmooth(adjacency, 0, a)).length)).toEqual([2, 3, 4, 5]);
  const grown = (angle: number) => [...growToCreases(adjacency, Uint8Array.of(0, 0, 1, 0, 0), angle)].join('');
  expect([9.9, 10.1, 20.1, 40.1].map(grown)).toEqual(['00100', '11100', '11110', '11111']);
  expect([floodSmooth(adjacency, 0, 90, 4), floodWhere(adjacency, 0, 4, () => true)]).toEqual([null, null]);
  expect(floodWhere(adjacency, 0, 5, () => true)).toHaveLength(5);
  expect(list(floodWhere(adjacency, 0, 9, (_, g) => g < 3))).toEqual([0, 1, 2]);
});

it('scopes go by seams, folds, materials and where faces look, to the hair', () => {
  // Five quads in a strip, of folds of 0, 10, 20 and 40 degrees, in two materials.
  const turns = [0, 0, 10, 30, 70].map((d) => (d * Math.PI) / 180);
  const strip: [number, number][] = [[0, 0]];
  for (const t of turns) strip.push([strip.at(-1)![0] + Math.cos(t), strip.at(-1)![1] + Math.sin(t)]);
  const slot = { name: 'a', color: '#808080', given: true };
  const made = meshFromLists({
    positions: [...strip.flatMap(([x, y]) => [x, y, 0, x, y, 1]), 9, 9, 9, 10, 9, 9, 9, 10, 9],
    faces: [...turns.map((_, i) => [i * 2, i * 2 + 1, i * 2 + 3, i * 2 + 2]), [12, 13, 14]],
  });
  const mesh = { ...made, slots: [slot, { ...slot, name: 'b' }], faceSlot: Uint16Array.of(0, 0, 1, 1, 0, 0) };
  const take = (scope: Scope, face: number, request: object = {}, context: object = {}) =>
    [
      ...facesOf({ mesh, adjacency: adjacencyOf(mesh), cells: new Uint16Array(6), ...context }, { scope, face, angle: 0, ...request })!,
    ].sort();
  expect([9.9, 10.1, 30.1].map((angle) => take('facing', 1, { angle }).length)).toEqual([2, 3, 4]);
  expect([take('facing', 4, { angle: 40.1 }), take('facing', 3, { angle: 19.9 })]).toEqual([[3, 4], [3]]);
  expect([take('part', 2), take('part', 5)]).toEqual([[0, 1, 2, 3, 4], [5]]);
  // Bare faces are of one color where they are of one material.
  expect([take('touching color', 0), take('touching color', 2), take('color', 0), take('slot', 3)]).toEqual([
    [0, 1],
    [2, 3],
    [0, 1, 4, 5],
    [2, 3],
  ]);
  const cells = Uint16Array.of(7, 7, 7, 0, 7, 0);
  expect([take('touching color', 0, {}, { cells }), take('color', 4, {}, { cells }), take('color', 3, {}, { cells })]).toEqual([
    [0, 1, 2],
    [0, 1, 2, 4],
    [3],
  ]);
  // A patch ends at a seam that was marked, at one of the UVs, and at creases where these end it, too.
  const patch = (request: object, seams: number[] = []) => take('patch', 0, request, { seams: Uint32Array.from(seams) });
  expect([patch({}), patch({ creases: true, angle: 10.1 }), patch({ creases: true, angle: 9.9 })]).toEqual([
    [0, 1, 2, 3, 4],
    [0, 1, 2],
    [0, 1],
  ]);
  const adjacency = adjacencyOf(mesh);
  const between = [4, 5, 6, 7].find((c) => adjacency.neighbour[c]! >= 8)!;
  expect(patch({}, [edgeCorner(adjacency, between)])).toEqual([0, 1]);
  for (const shift of [
    [0.5, 0],
    [0, 0.5],
  ]) {
    const uv = Float32Array.from({ length: mesh.cornerVertex.length * 2 }, (_, i) => {
      const c = i >> 1;
      const v = mesh.cornerVertex[c]!;
      return mesh.positions[v * 3 + (i % 2 ? 2 : 0)]! + (c >= 12 ? shift[i % 2]! : 0);
    });
    expect(take('patch', 0, {}, { mesh: { ...mesh, uvSets: [uv] }, adjacency })).toEqual([0, 1, 2]);
  }
});

it('the nearest edge and corner of a face are told for each side, and whether one is meant', () => {
  const quad: P[] = [[0, 0], [4, 0], [4, 2], [0, 2]]; // prettier-ignore
  const { mesh } = onScreen([[9, 9], [10, 9], [9, 10]], quad); // prettier-ignore
  const adjacency = adjacencyOf(mesh);
  const edge = (x: number, y: number) => nearestEdge(mesh, adjacency, 1, [x, y, 0]) - 3;
  expect([edge(2, 0.1), edge(3.9, 1), edge(2, 1.8), edge(0.2, 1), edge(3.2, 0.5), edge(3.7, 0.5)]).toEqual([0, 1, 2, 3, 0, 1]);
  const corner = (x: number, y: number) => nearestCorner(mesh, adjacency, 1, [x, y, 0]) - 3;
  expect([corner(0.5, 0.5), corner(3, 0.5), corner(3, 1.5), corner(1, 1.5)]).toEqual([0, 1, 2, 3]);
  // 0.18 of the root of its 8 square metres.
  const far = 0.18 * Math.sqrt(8);
  expect([far - 0.01, far + 0.01].map((y) => isNearEdge(mesh, adjacency, 1, 3, [2, y, 0]))).toEqual([true, false]);
  expect([4 - far + 0.01, 4 - far - 0.01].map((x) => isNearEdge(mesh, adjacency, 1, 4, [x, 1, 0]))).toEqual([true, false]);
  // A row of triangles is run through from end to end, in order, from any of its faces.
  const row = triangulated(grid(3));
  const rows = adjacencyOf(row);
  expect([...ringThrough(row, rows, row.faceStart[6]!)]).toEqual([11, 10, 9, 8, 7, 6]);
  expect([...ringThrough(row, rows, row.faceStart[8]!)].sort((a, b) => a - b)).toEqual([6, 7, 8, 9, 10, 11]);
  // A pentagon is run through by nothing, though a triangle lies beside it; of two alike the first edge and corner count.
  const five = meshFromLists({ positions: [0, 0, 0, 1, 0, 0, 1, 1, 0, 0.5, 2, 0, 0, 1, 0, 1, 2, 0], faces: [[0, 1, 2, 3, 4], [2, 5, 3]] }); // prettier-ignore
  expect([...ringThrough(five, adjacencyOf(five), 2)]).toEqual([0]);
  const even = grid(1);
  expect([nearestEdge(even, adjacencyOf(even), 0, [0.5, 0, 0.5]), nearestCorner(even, adjacencyOf(even), 0, [0.5, 0, 0.5])]).toEqual([
    0, 0,
  ]);
});

it('rings are told in their order, end before another kind of face, and close where they come back', () => {
  const floor = grid(4);
  const adjacency = adjacencyOf(floor);
  // Through face 5: along z by its first edge's like, along x by the other's.
  const runs = [0, 1, 2, 3].map((k) => [...ringThrough(floor, adjacency, floor.faceStart[5]! + k)].join());
  expect(new Set(runs)).toEqual(new Set(['1,5,9,13', '13,9,5,1', '4,5,6,7', '7,6,5,4']));
  expect([0, 1].map((k) => isClosedRing(adjacency, floor.faceStart[5]! + k))).toEqual([false, false]);
  // Of two open runs the shorter is likelier, whichever comes first; a closed one is likelier than a short one.
  const deck = (w: number, h: number) => {
    const at = (x: number, z: number) => z * (w + 1) + x;
    const positions = Array.from({ length: (w + 1) * (h + 1) }, (_, i) => [i % (w + 1), 0, Math.floor(i / (w + 1))]).flat();
    const cells = Array.from({ length: w * h }, (_, i) => [i % w, Math.floor(i / w)] as const);
    return meshFromLists({ positions, faces: cells.map(([x, z]) => [at(x, z), at(x, z + 1), at(x + 1, z + 1), at(x + 1, z)]) });
  };
  const likely = (mesh: PolyMesh, face: number) => [
    ...ringThrough(mesh, adjacencyOf(mesh), mesh.faceStart[face]! + likeliestEdge(adjacencyOf(mesh), face)),
  ];
  expect([likely(deck(2, 5), 4), likely(deck(5, 2), 6)].map((r) => r.sort((a, b) => a - b))).toEqual([[4, 5], [1, 6]]); // prettier-ignore
  expect(likeliestEdge(adjacencyOf(floor), 6)).toBe(0);
  /** A band of so many sides, of quads or of triangles, open above and below; it leans, so that no axis is its own. */
  const band = (sides: number, isCut: boolean, first = 0) => {
    const ring = (y: number, by: number) =>
      Array.from({ length: sides }, (_, i) => {
        const [a, b] = [Math.cos(((i + by) * 2 * Math.PI) / sides), Math.sin(((i + by) * 2 * Math.PI) / sides)];
        return [a * 2, y + a * 0.4 + b * 0.7, b * 2];
      });
    const positions = [...ring(0, 0), ...ring(4, isCut ? 0.5 : 0)].flat();
    const faces = Array.from({ length: sides }, (_, i) => {
      const [a, b, c, d] = [i, (i + 1) % sides, sides + i, sides + ((i + 1) % sides)];
      return isCut ? [[a, c, b], [b, c, d]] : [[b, a, c, d].map((_, k, all) => all[(k + first) % 4]!)]; // prettier-ignore
    }).flat();
    return meshFromLists({ positions, faces });
  };
  for (const first of [0, 1]) {
    const mesh = band(9, false, first);
    expect(likely(mesh, 4)).toHaveLength(9);
    expect([0, 1].map((k) => isClosedRing(adjacencyOf(mesh), k)).sort()).toEqual([false, true]);
  }
  // Around a band of triangles the run goes once, from any of them, by the sides that cross it.
  const cut = band(7, true);
  const around = adjacencyOf(cut);
  expect(likeliestEdge(around, 3)).toBe(0);
  for (let f = 0; f < 14; f++) {
    const lengths = [0, 1, 2].map((k) => ringThrough(cut, around, f * 3 + k).length);
    expect(lengths.filter((n) => n === 14).length).toBeGreaterThanOrEqual(2);
    expect(isClosedRing(around, f * 3)).toBe(false);
  }
  // Long thin triangles on a slope: it is the way that counts, not how long a side is; a quad behind them ends the run.
  const thin = meshFromLists({
    positions: [0, 0, 0, 0, 2, 1, 9, 1, 0, 9, 3, 1, 18, 2, 0, 18, 4, 1, 27, 3, 0, 27, 5, 1],
    faces: [[0, 2, 3, 1], [2, 4, 3], [3, 4, 5], [4, 6, 7, 5]], // prettier-ignore
  });
  expect([...ringThrough(thin, adjacencyOf(thin), thin.faceStart[2]! + 1)].sort()).toEqual([1, 2]);
});

it('points are found in their cubes, and twins across the plane that they are mirrored over', () => {
  const value = fc.double({ min: -3, max: 3, noNaN: true });
  fc.assert(
    fc.property(fc.array(fc.tuple(value, value, value), { minLength: 1, maxLength: 60 }), fc.tuple(value, value, value), (points, at) => {
      const gridOf = pointGrid(Float32Array.from(points.flat()), 1);
      const found: number[] = [];
      gridOf.near(at[0], at[1], at[2], 0.5, (p) => found.push(p));
      const near = points.flatMap((p, i) => (p.every((v, k) => Math.abs(Math.fround(v) - at[k]!) <= 0.49) ? [i] : []));
      const cube = (v: number) => Math.floor(v);
      const reach = points.flatMap((p, i) => (p.every((v, k) => cube(Math.fround(v)) >= cube(at[k]! - 0.5) && cube(Math.fround(v)) <= cube(at[k]! + 0.5)) ? [i] : [])); // prettier-ignore
      for (const p of near) expect(found).toContain(p);
      expect([...found].sort((a, b) => a - b)).toEqual(reach);
    }),
    { numRuns: 100, seed: 5 },
  );
  // Two boxes apart along z, and a lone one: mirrored over z = 4, but for the lone one.
  const at = (x: number, z: number) => [...box().positions].map((v, i) => v + (i % 3 === 0 ? x : i % 3 === 2 ? z : 0));
  const shift = (by: number) => [[0, 1, 3, 2], [4, 6, 7, 5], [0, 4, 5, 1], [2, 3, 7, 6], [0, 2, 6, 4], [1, 5, 7, 3]].map((f) => f.map((v) => v + by)); // prettier-ignore
  const mesh = meshFromLists({ positions: [...at(0, 0), ...at(0, 7), ...at(2.5, 1)], faces: [...shift(0), ...shift(8), ...shift(16)] });
  const adjacency = adjacencyOf(mesh);
  const found = twinsAcross(mesh, adjacency, { axis: 'z', offset: 4 });
  expect([found.matched, found.unmatched]).toEqual([12, 6]);
  for (let f = 0; f < 6; f++) {
    expect(found.twin[f]).toBeGreaterThanOrEqual(6);
    expect(found.twin[found.twin[f]!]).toBe(f);
    expect(found.twin[12 + f]).toBe(-1);
  }
  // A box by itself is mirrored over the middle of each axis, all of it.
  expect(mirrorPlanes(box(2), adjacencyOf(box(2))).map(({ axis, offset, share }) => [axis, offset, share])).toEqual([['x', 1, 1], ['y', 1, 1], ['z', 1, 1]]); // prettier-ignore
  expect(isInside(outlineOf(square), 10.5, 29.5)).toBe(true);
});
