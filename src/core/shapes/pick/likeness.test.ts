import fc from 'fast-check';
import { expect, it } from 'vitest';
import { box, boxFaces } from '@tests/meshes';
import { adjacencyOf } from '../mesh/adjacency';
import { meshFromLists } from '../mesh/build';
import { likeFaces, likenessOf, partMaps } from './likeParts';

type V = [number, number, number];
const unit = fc.double({ min: 0, max: 1, noNaN: true });
const seed = fc.integer({ min: 1, max: 1e9 });
/** The same numbers for the same seed, 0 to 1. */
const randomFrom = (start: number) => {
  let s = start;
  return () => ((s = (Math.imul(s, 1103515245) + 12345) & 0x7fffffff) >>> 8) / 0x7fffff;
};

/** Quads of an uneven 4 × 3 floor, some of them cut in two, some left out, so that pieces hang together in points alone. */
function body(random: () => number, gaps: boolean): { positions: V[]; faces: number[][] } {
  const positions: V[] = [];
  for (let z = 0; z <= 3; z++) for (let x = 0; x <= 4; x++) positions.push([x + random() * 0.6, random() * 1.5, z + random() * 0.6]);
  const at = (x: number, z: number) => z * 5 + x;
  const faces: number[][] = [];
  for (let z = 0; z < 3; z++)
    for (let x = 0; x < 4; x++) {
      // A checkered rest: each quad meets the next in a point.
      if (gaps && (x + z) % 2) continue;
      const quad = [at(x, z), at(x, z + 1), at(x + 1, z + 1), at(x + 1, z)];
      if (random() < 0.4) faces.push([quad[0]!, quad[1]!, quad[2]!], [quad[0]!, quad[2]!, quad[3]!]);
      else faces.push(quad);
    }
  return { positions, faces };
}

/** Turned, mirrored, sized, moved; faces in another order, each from another corner on. `bent`: each place moved so far. */
function copyOf(of: ReturnType<typeof body>, random: () => number, mirrored: boolean, scale: number, bent: number) {
  const [a, b] = [random() * 6, random() * 6];
  const positions = of.positions.map(([x, y, z]): V => {
    const [px, pz] = [x * Math.cos(a) - z * Math.sin(a), x * Math.sin(a) + z * Math.cos(a)];
    const [qx, qy] = [px * Math.cos(b) - y * Math.sin(b), px * Math.sin(b) + y * Math.cos(b)];
    const nudge = () => (random() - 0.5) * bent;
    return [((mirrored ? -qx : qx) + nudge()) * scale + 40, (qy + nudge()) * scale, (pz + nudge()) * scale];
  });
  const order = of.faces.map((_, f) => f).sort(() => random() - 0.5);
  const faces = order.map((f) => {
    const face = mirrored ? [...of.faces[f]!].reverse() : of.faces[f]!;
    const from = Math.floor(random() * face.length);
    return [...face.slice(from), ...face.slice(0, from)];
  });
  return { positions, faces, order };
}

const both = (a: { positions: V[]; faces: number[][] }, b: { positions: V[]; faces: number[][] }) =>
  meshFromLists({
    positions: [...a.positions, ...b.positions].flat(),
    faces: [...a.faces, ...b.faces.map((f) => f.map((v) => v + a.positions.length))],
  });

it('a face is known again on a copy that is turned, mirrored, sized and numbered otherwise, and on nothing else', () => {
  fc.assert(
    fc.property(seed, fc.boolean(), fc.boolean(), unit, unit, (start, gaps, mirrored, size, pick) => {
      const random = randomFrom(start);
      const first = body(random, gaps);
      const n = first.faces.length;
      const copy = copyOf(first, random, mirrored, 0.2 + size * 4, 0);
      const mesh = both(first, copy);
      const adjacency = adjacencyOf(mesh);
      const f = Math.min(n - 1, Math.floor(pick * n));
      const image = n + copy.order.indexOf(f);
      expect([...likeFaces(mesh, adjacency, [f])]).toEqual([f, image]);
      expect([...likeFaces(mesh, adjacency, [image])]).toEqual([image, f]);
      expect(likenessOf(mesh, adjacency, f)).toMatchObject({ parts: 1 });
      expect(likenessOf(mesh, adjacency, f).difference).toBeLessThan(1e-3);
      const maps = [...partMaps({ mesh, adjacency, part: 0 }, { mesh, adjacency, part: 1 })];
      expect(maps).toHaveLength(1);
      for (const [from, to] of maps[0]!) expect(copy.order[to - n]).toBe(from);

      // Bent by a quarter of a face it is another part, though built alike.
      const bent = copyOf(first, random, mirrored, 1, 0.5);
      const other = both(first, bent);
      const around = adjacencyOf(other);
      expect([...likeFaces(other, around, [f])]).toEqual([f]);
      if (!gaps) {
        expect([...likeFaces(other, around, [f], { within: Infinity })]).toHaveLength(2);
        expect(likenessOf(other, around, f, { within: Infinity }).difference).toBeGreaterThan(0.02);
      }
      // One face more, and it is built otherwise.
      const more = both(first, { positions: [...copy.positions, [90, 0, 0]], faces: [...copy.faces, [copy.faces[0]![0]!, copy.faces[0]![1]!, copy.positions.length]] }); // prettier-ignore
      expect([...likeFaces(more, adjacencyOf(more), [f], { within: Infinity })]).toEqual([f]);
    }),
    { numRuns: 60, seed: 8 },
  );
});

/** Meshes side by side as parts of one. */
const together = (...list: { positions: ArrayLike<number>; faces: readonly (readonly number[])[] }[]) => {
  const starts = list.map((_, n) => list.slice(0, n).reduce((sum, { positions }) => sum + positions.length / 3, 0));
  return meshFromLists({
    positions: list.flatMap(({ positions }) => Array.from(positions)),
    faces: list.flatMap(({ faces }, n) => faces.map((f) => f.map((v) => v + starts[n]!))),
  });
};
const crate = (sx: number, sy: number, sz: number, by = 0) => ({
  positions: Array.from(box().positions, (v, i) => v * [sx, sy, sz][i % 3]! + by),
  faces: boxFaces,
});
const sorted = (faces: Uint32Array) => [...faces].sort((a, b) => a - b);

it('holds lengths to their share whatever the size of the copy, and parts to how far corners lie from their middle', () => {
  for (const scale of [0.1, 1, 10])
    for (const [stretch, isLike] of [
      [1.02, true],
      [1.12, false],
    ] as const) {
      const mesh = together(crate(1, 2, 3), crate(scale, 2 * scale, 3 * scale * stretch, 90));
      expect(likeFaces(mesh, adjacencyOf(mesh), [0], { within: 0.05 })).toHaveLength(isLike ? 2 : 1);
    }
  // A strip of three squares, flat and folded up: each edge is as long as it was.
  const faces = [[0, 1, 3, 2], [2, 3, 5, 4], [4, 5, 7, 6]]; // prettier-ignore
  const flat = { positions: [0, 0, 0, 0, 0, 1, 1, 0, 0, 1, 0, 1, 2, 0, 0, 2, 0, 1, 3, 0, 0, 3, 0, 1], faces };
  const folded = { positions: [9, 1, 0, 9, 1, 1, 9, 0, 0, 9, 0, 1, 10, 0, 0, 10, 0, 1, 10, 1, 0, 10, 1, 1], faces };
  const mesh = together(flat, folded);
  expect([...likeFaces(mesh, adjacencyOf(mesh), [0])]).toEqual([0]);
  expect([...likeFaces(mesh, adjacencyOf(mesh), [0], { within: 0.9 })]).toEqual([0, 3]);
});

it('answers for the part, the likeness and the ends that are asked for, one after the other on one mesh', () => {
  const mesh = together(crate(1, 1, 1), crate(1, 1, 1.2, 9), crate(2, 2, 2, 20));
  const adjacency = adjacencyOf(mesh);
  const ask = (face: number, within: number, ends: 'same' | 'all') => likeFaces(mesh, adjacency, [face], { within, ends }).length;
  const asked: [number, number, 'same' | 'all', number][] = [
    [0, 0.01, 'same', 2], [0, 0.3, 'same', 3], [0, 0.3, 'all', 18], [0, 0.01, 'all', 12], [6, 0.01, 'all', 2], [6, 0.01, 'same', 1], [0, 0.01, 'same', 2]]; // prettier-ignore
  for (const [face, within, ends, count] of asked) expect(ask(face, within, ends)).toBe(count);
  // Parts that are like it are other ones, though it is like itself in many ways.
  expect(likenessOf(mesh, adjacency, 0, { ends: 'all' })).toMatchObject({ parts: 1 });
  // Only so many ways are looked at: of a drum of 40 sides the lid alone, of one of 12 both ends.
  const drum = (sides: number) => {
    const ring = (y: number) =>
      Array.from({ length: sides }, (_, i) => [Math.cos((i * 2 * Math.PI) / sides), y, Math.sin((i * 2 * Math.PI) / sides)]);
    const each = Array.from({ length: sides }, (_, i) => i);
    const around = each.map((i) => [i, i + sides, ((i + 1) % sides) + sides, (i + 1) % sides]);
    return together({ positions: [...ring(0), ...ring(1)].flat(), faces: [...around, each, each.map((i) => i + sides).reverse()] });
  };
  const lids = (sides: number) => sorted(likeFaces(drum(sides), adjacencyOf(drum(sides)), [sides], { ends: 'all' }));
  expect([lids(12), lids(40)]).toEqual([[12, 13], [40]]); // prettier-ignore
});

it('takes of the ways in which a part is like another the one that is turned least', () => {
  const upright = [0, 1, 2, 3, 4, 5];
  for (const degrees of [
    [25, 0],
    [-40, 0],
    [0, 20],
    [30, -35],
    [-25, 25],
  ]) {
    // prettier-ignore
    const [a, b] = degrees.map((d) => (d * Math.PI) / 180) as [number, number];
    const turned = crate(1, 1, 1);
    for (let v = 0; v < 8; v++) {
      const [x, y, z] = turned.positions.slice(v * 3, v * 3 + 3) as V;
      const [px, pz] = [x * Math.cos(a) - z * Math.sin(a), x * Math.sin(a) + z * Math.cos(a)];
      turned.positions.splice(v * 3, 3, px + 9, y * Math.cos(b) - pz * Math.sin(b), y * Math.sin(b) + pz * Math.cos(b));
    }
    const mesh = together(crate(1, 1, 1), turned);
    for (const f of upright) expect([...likeFaces(mesh, adjacencyOf(mesh), [f])]).toEqual([f, f + 6]);
  }
});

it('does not take parts for built alike that have as many faces and corners, but other numbers of them at a point', () => {
  // Both of eight triangles without a border: four at each of six points; and from three to five.
  const eight = { positions: [1, 0, 0, -1, 0, 0, 0, 1, 0, 0, -1, 0, 0, 0, 1, 0, 0, -1], faces: [[0, 2, 4], [2, 1, 4], [1, 3, 4], [3, 0, 4], [2, 0, 5], [1, 2, 5], [3, 1, 5], [0, 3, 5]] }; // prettier-ignore
  const other = { positions: [9, 0, 0, 12, 0, 0, 9, 3, 0, 9, 0, 3, 11, 1, 1.5, 9.5, 1, -1], faces: [[0, 1, 3], [0, 3, 2], [1, 2, 4], [2, 3, 4], [3, 1, 4], [0, 2, 5], [2, 1, 5], [1, 0, 5]] }; // prettier-ignore
  const mesh = together(eight, other, { ...eight, positions: eight.positions.map((v) => v * 3 + 40) });
  const adjacency = adjacencyOf(mesh);
  expect([mesh.faceStart.length - 1, adjacency.openEdges]).toEqual([24, 0]);
  for (let f = 0; f < 8; f++) expect(sorted(likeFaces(mesh, adjacency, [f], { within: Infinity }))).toEqual([f, f + 16]);
  for (let f = 8; f < 16; f++) expect(sorted(likeFaces(mesh, adjacency, [f], { within: Infinity }))).toEqual([f]);
});
