import { boxFaces, box } from '@tests/meshes';
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
});

it('takes a body up to its next narrow ring, and all of it where it has none', () => {
  // A hand, its wrist between belts 3 and 4, and an arm that widens.
  const arm = turned(8, [[0, 0.5], [1, 2], [2, 2], [3, 1.4], [4, 0.9], [5, 1.4], [9, 2.4], [14, 3]]); // prettier-ignore
  const adjacency = adjacencyOf(arm);
  // From the end of the hand: four belts and the cap below.
  expect(sorted(floodToNeck(arm, adjacency, 57))).toEqual([...range(0, 32), 57]);
  expect(floodToNeck(arm, adjacency, 56)).toHaveLength(58);
  expect(floodToNeck(box(), adjacencyOf(box()), 0)).toHaveLength(6);
  expect(floodToNeck(arm, adjacency, 57, 40)).toBeNull();
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
