import { boxFaces, box, grid } from '@tests/meshes';
import { expect, it } from 'vitest';
import { adjacencyOf } from '../mesh/adjacency';
import { meshFromLists } from '../mesh/build';
import type { PolyMesh } from '../mesh/polyMesh';
import { beyondRing, floodBulge, floodToNeck } from './bodies';
import { likeFaces, likenessOf } from './likeParts';

const sorted = (faces: Uint32Array | null) => [...faces!].sort((a, b) => a - b);
const range = (from: number, to: number) => Array.from({ length: to - from }, (_, i) => from + i);

/** A body turned on a lathe: rings of so many sides at these heights and radii, closed by a face at either end. */
function turned(sides: number, profile: readonly (readonly [height: number, radius: number])[]): PolyMesh {
  const positions = profile.flatMap(([y, r]) =>
    range(0, sides).flatMap((i) => [r * Math.cos((i * 2 * Math.PI) / sides), y, -r * Math.sin((i * 2 * Math.PI) / sides)]),
  );
  const belts = range(0, profile.length - 1).flatMap((k) =>
    range(0, sides).map((i) => {
      const j = (i + 1) % sides;
      return [k * sides + i, k * sides + j, (k + 1) * sides + j, (k + 1) * sides + i];
    }),
  );
  const top = range(0, sides).map((i) => (profile.length - 1) * sides + i);
  return meshFromLists({ positions, faces: [...belts, top, range(0, sides).reverse()] });
}

/** A knob on a plate: the step between them turns inward all around (belt 1), the rim of the plate outward. */
const knob = turned(8, [[0, 3], [0.5, 3], [0.5, 1], [2, 1]]); // prettier-ignore

it('ends a pick where the surface turns inward, from either side, and not at outward folds', () => {
  const adjacency = adjacencyOf(knob);
  // The knob: its side (belt 2) and its top (24). The plate: its rim, the step, and its bottom (25).
  for (const f of [16, 24]) expect(sorted(floodBulge(knob, adjacency, f, 30))).toEqual([...range(16, 24), 24]);
  for (const f of [0, 8, 25]) expect(sorted(floodBulge(knob, adjacency, f, 30))).toEqual([...range(0, 16), 25]);
  expect(floodBulge(knob, adjacency, 16, 95)).toHaveLength(26);
  expect(floodBulge(knob, adjacency, 0, 30, 5)).toBeNull();
  // Seen from inside knob and plate are hollows, and end where they did.
  const inside = { ...knob, cornerVertex: knob.cornerVertex.slice() };
  for (let f = 0; f + 1 < inside.faceStart.length; f++)
    inside.cornerVertex.subarray(inside.faceStart[f]!, inside.faceStart[f + 1]!).reverse();
  const within = adjacencyOf(inside);
  for (const f of [16, 24]) expect(sorted(floodBulge(inside, within, f, 30))).toEqual([...range(16, 24), 24]);
  for (const f of [0, 8, 25]) expect(sorted(floodBulge(inside, within, f, 30))).toEqual([...range(0, 16), 25]);
  expect(floodBulge(inside, within, 24, 95)).toHaveLength(26);
});

it('a hollow is told by the longer of its sharp edges, shallow folds apart, and a face without any belongs to what bulges', () => {
  // From left to right: a floor, a wall, a top, a step down over the whole depth; a side of the top turns outward on a short edge.
  const fold = (...points: [x: number, y: number, depth: number][]) =>
    meshFromLists({
      positions: points.flatMap(([x, y, depth]) => [x, y, 0, x, y, depth]),
      faces: points.slice(1).map((_, i) => [i * 2, i * 2 + 1, i * 2 + 3, i * 2 + 2]),
    });
  const found = (mesh: PolyMesh, face: number, angle = 30) => sorted(floodBulge(mesh, adjacencyOf(mesh), face, angle));
  // Floor (0, 1), wall (2), top (3): inward between 1 and 2, outward between 2 and 3.
  const step = fold([-2, 0, 1], [-1, 0, 1], [0, 0, 1], [0, 1, 1], [1, 1, 1]);
  expect([0, 1, 2, 3].map((f) => found(step, f))).toEqual([
    [0, 1],
    [0, 1, 2],
    [2, 3],
    [2, 3],
  ]);
  // The wall between a floor and a ledge, the one edge longer than the other.
  const narrows = (low: number, high: number) => fold([-1, 0, low], [0, 0, low], [0, 1, high], [1, 1, high]);
  expect(found(narrows(3, 1), 1)).toEqual([0, 1]);
  expect(found(narrows(1, 3), 1)).toEqual([1, 2]);
  // A long fold inward of 25 degrees counts as none beside a short sharp one outward.
  const t = (25 * Math.PI) / 180;
  const shallow = fold([-1, 0, 9], [0, 0, 9], [Math.cos(t), Math.sin(t), 1], [1 + Math.cos(t), -2, 1]);
  expect(found(shallow, 1)).toEqual([0, 1, 2]);
  expect(found(shallow, 1, 20)).toEqual([0, 1]);
});

it('takes all on the smaller side of the ring through an edge', () => {
  // Upright edges of belt 1 are crossed by the ring that goes around.
  const leg = turned(6, [[0, 1], [1, 1], [2, 1], [5, 1], [9, 1]]); // prettier-ignore
  const adjacency = adjacencyOf(leg);
  expect(sorted(beyondRing(leg, adjacency, leg.faceStart[6]! + 1))).toEqual([...range(0, 12), 25]);
  expect(sorted(beyondRing(leg, adjacency, leg.faceStart[12]! + 1))).toEqual([...range(0, 18), 25]);
  expect(sorted(beyondRing(leg, adjacency, leg.faceStart[18]! + 1))).toEqual([...range(18, 24), 24]);
  // Across, the run ends at the caps and parts nothing.
  expect(sorted(beyondRing(leg, adjacency, leg.faceStart[6]!))).toEqual([0, 6, 12, 18]);
  expect(beyondRing(leg, adjacency, leg.faceStart[6]! + 1, 3)).toBeNull();
  // An end that is open ends the side; a run that is not closed has none, though it parts the floor.
  const open = meshFromLists({ positions: leg.positions, faces: range(0, 24).map((f) => Array.from(leg.cornerVertex.slice(f * 4, f * 4 + 4))) }); // prettier-ignore
  expect(sorted(beyondRing(open, adjacencyOf(open), open.faceStart[6]! + 1))).toEqual(range(0, 12));
  expect(sorted(beyondRing(open, adjacencyOf(open), open.faceStart[0]! + 1))).toEqual(range(0, 6));
  const floor = grid(5);
  expect(sorted(beyondRing(floor, adjacencyOf(floor), floor.faceStart[11]! + 1))).toEqual([1, 6, 11, 16, 21]);
  // Of two sides alike the first; around a handle both are the same.
  const even = turned(6, [[0, 1], [1, 1], [2, 1], [3, 1]]); // prettier-ignore
  expect(sorted(beyondRing(even, adjacencyOf(even), even.faceStart[6]! + 1))).toEqual([...range(0, 12), 19]);
  const [around, along] = [8, 5];
  const handle = meshFromLists({
    positions: range(0, around * along).flatMap((i) => {
      const [a, b] = [(Math.floor(i / along) * 2 * Math.PI) / around, ((i % along) * 2 * Math.PI) / along];
      return [Math.cos(a) * (3 + Math.cos(b)), Math.sin(b), Math.sin(a) * (3 + Math.cos(b))];
    }),
    faces: range(0, around * along).map((i) => {
      const [a, b] = [Math.floor(i / along), i % along];
      const at = (p: number, q: number) => (p % around) * along + (q % along);
      return [at(a, b), at(a, b + 1), at(a + 1, b + 1), at(a + 1, b)];
    }),
  });
  expect([0, 1].map((k) => beyondRing(handle, adjacencyOf(handle), handle.faceStart[13]! + k)!.length).sort()).toEqual([5, 8]);
});

it('takes a body up to its next narrow ring, and all of it where it has none', () => {
  // A hand, its wrist between belts 3 and 4, and an arm that widens.
  const arm = turned(8, [[0, 0.5], [1, 2], [2, 2], [3, 1.4], [4, 0.9], [5, 1.4], [9, 2.4], [14, 3]]); // prettier-ignore
  const adjacency = adjacencyOf(arm);
  // From the end of the hand: four belts and the cap below.
  expect(sorted(floodToNeck(arm, adjacency, 57))).toEqual([...range(0, 32), 57]);
  expect(floodToNeck(arm, adjacency, 56)).toHaveLength(58);
  expect(floodToNeck(box(), adjacencyOf(box()), 0)).toHaveLength(6);
  expect([57, 58].map((limit) => floodToNeck(arm, adjacency, 57, limit)?.length)).toEqual([undefined, 32 + 1]);
});

it('holds a neck to four fifths of what lies before it, six fifths of it within five rings behind, three fifths of the area', () => {
  // From the cap below: a neck between belts 1 and 2 of a radius, then rings that widen to another one.
  const neck = (radius: number, ...behind: number[]) =>
    floodToNeck(...fromBelow(turned(6, [[0, 2], [0.5, 2], [1, radius], ...behind.map((r, i): [number, number] => [4 + i * 3, r])])))!.length; // prettier-ignore
  const fromBelow = (mesh: PolyMesh) => [mesh, adjacencyOf(mesh), mesh.faceStart.length - 2] as const;
  const taken = 1 + 2 * 6;
  expect([neck(1.59, 4), neck(1.61, 4)]).toEqual([taken, 1 + 3 * 6 + 1]);
  expect([neck(1, 1.05, 1.05, 1.05, 1.05, 1.21), neck(1, 1.05, 1.05, 1.05, 1.05, 1.19), neck(1, 1.05, 1.05, 1.05, 1.05, 1.05, 4)].map((n) => n === taken)).toEqual([true, false, false]); // prettier-ignore
  // Just as wide behind it is no neck yet: it is where it widens.
  expect(neck(1, 1, 4)).toBe(taken + 6);
  // What lies before it is more than three fifths: it is the rest that is small, and all is taken.
  const ball = (height: number) => floodToNeck(...fromBelow(turned(6, [[0, 2], [height, 2], [height + 0.5, 1], [height + 2, 2], [height + 4, 2]])))!.length; // prettier-ignore
  expect([ball(1), ball(9)]).toEqual([taken, 1 + 4 * 6 + 1]);
  // Another part comes first, and a piece that hangs on in a point alone is not reached.
  const arm = turned(6, [[0, 2], [0.5, 2], [1, 1], [4, 4]]); // prettier-ignore
  const lists = Array.from({ length: arm.faceStart.length - 1 }, (_, f) =>
    Array.from(arm.cornerVertex.slice(arm.faceStart[f]!, arm.faceStart[f + 1]!)),
  );
  const second = meshFromLists({
    positions: [...[...box().positions].map((v) => v + 20), ...arm.positions],
    faces: [...boxFaces, ...lists.map((f) => f.map((v) => v + 8))],
  });
  expect(sorted(floodToNeck(second, adjacencyOf(second), 6 + 19))).toEqual([...range(6, 18), 6 + 19]);
  const tip = meshFromLists({ positions: [...box().positions, ...[...box().positions].map((v) => v + 1)], faces: [...boxFaces, ...boxFaces.map((f) => f.map((v) => v + 8))] }); // prettier-ignore
  expect(sorted(floodToNeck(tip, adjacencyOf(tip), 7))).toEqual(range(6, 12));
});

it('finds parts that are only built alike, and all ends of those that are symmetrical', () => {
  // Two boards of other lengths, and a wedge of as many faces that hang together otherwise.
  const board = (length: number, x: number) => box().positions.map((v, i) => (i % 3 === 0 ? v * length + x : v));
  const mesh = meshFromLists({
    positions: [...board(3, 0), ...board(5, 10)],
    faces: [...boxFaces, ...boxFaces.map((f) => f.map((v) => v + 8))],
  });
  const adjacency = adjacencyOf(mesh);
  // Face 4 is the end at x = 0 of the first board, 5 the other one.
  const end = [0, 1, 2, 3, 4, 5].find((f) => adjacency.normals[f * 3]! < -0.9)!;
  const other = [0, 1, 2, 3, 4, 5].find((f) => adjacency.normals[f * 3]! > 0.9)!;
  expect(sorted(likeFaces(mesh, adjacency, [end]))).toEqual([end]);
  expect(sorted(likeFaces(mesh, adjacency, [end], { within: Infinity }))).toEqual([end, end + 6]);
  expect(sorted(likeFaces(mesh, adjacency, [end], { ends: 'all' }))).toEqual([end, other].sort((a, b) => a - b));
  expect(likenessOf(mesh, adjacency, end, { within: Infinity })).toMatchObject({ parts: 1 });
  // Of one area each, lengths 3 and 1 against 5 and 1: the short sides differ by the root of 22 / 14.
  expect(likenessOf(mesh, adjacency, end, { within: Infinity }).difference).toBeCloseTo(1 - (3 * Math.sqrt(22 / 14)) / 5, 5);
  expect(likenessOf(mesh, adjacency, end)).toEqual({ parts: 0, difference: 0 });
});
