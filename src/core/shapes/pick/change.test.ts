import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { adjacencyOf } from '../mesh/adjacency';
import { meshFromLists } from '../mesh/build';
import { faceCount, type PolyMesh } from '../mesh/polyMesh';
import { box, boxFaces, grid, triangulated } from '@tests/meshes';
import { type Missed, fillHoles, grow, growToCreases, invertInParts, missedFaces, ringsFrom, shrink } from './change';
import { borderOf, edgeCorner, lengthOfEdges } from './edges';
import { likeFaces, partMaps } from './likeParts';
import { facesOfSpans, spansOfFaces } from './namedPicks';
import { facesOf, type Scope } from './scopes';
import { findSymmetry, mirrorPlanes, twinsAcross } from './symmetry';

/** Boxes, each moved, turned about a tilted axis, mirrored and scaled as told. */
function boxes(
  list: readonly { at: [number, number, number]; turn?: number; scale?: number; mirror?: boolean; squash?: number }[],
): PolyMesh {
  const positions: number[] = [];
  const faces: number[][] = [];
  list.forEach(({ at, turn = 0, scale = 1, mirror = false, squash = 1 }, n) => {
    const wedge = box().positions.slice();
    // One corner is cut short, so that a box is like no other way round.
    wedge[7 * 3] = 0.7;
    for (let v = 0; v < 8; v++) {
      let [x, y, z] = [wedge[v * 3]! * (mirror ? -1 : 1), wedge[v * 3 + 1]! * 2 * squash, wedge[v * 3 + 2]! * 3];
      [x, z] = [x * Math.cos(turn) - z * Math.sin(turn), x * Math.sin(turn) + z * Math.cos(turn)];
      [x, y] = [x * Math.cos(turn) - y * Math.sin(turn), x * Math.sin(turn) + y * Math.cos(turn)];
      positions.push(x * scale + at[0], y * scale + at[1], z * scale + at[2]);
    }
    for (const f of boxFaces) faces.push((mirror ? [...f].reverse() : f).map((v) => v + n * 8));
  });
  return meshFromLists({ positions, faces });
}

const take = (
  mesh: PolyMesh,
  scope: Scope,
  face: number,
  rest: { angle?: number; edge?: number; corner?: number; cells?: Uint16Array; like?: { within: number } } = {},
) =>
  [
    ...facesOf(
      { mesh, adjacency: adjacencyOf(mesh), cells: rest.cells ?? new Uint16Array(faceCount(mesh)) },
      {
        scope,
        face,
        angle: rest.angle ?? 0,
        edge: rest.edge ?? 0,
        corner: rest.corner ?? 0,
        ...(rest.like && { like: rest.like }),
      },
    )!,
  ].sort((a, b) => a - b);

const flagsOf = (faces: readonly number[], n: number) => Uint8Array.from({ length: n }, (_, f) => (faces.includes(f) ? 1 : 0));
const listOf = (flags: Uint8Array) => [...flags.keys()].filter((f) => flags[f]);

describe('a ring', () => {
  it('closes on closed quads, runs from border to border on open ones, and never crosses another kind of face', () => {
    const cube = box();
    for (let face = 0; face < 6; face++) for (let edge = 0; edge < 4; edge++) expect(take(cube, 'ring', face, { edge })).toHaveLength(4);
    expect(take(cube, 'ring', 0, { edge: 0 })).not.toEqual(take(cube, 'ring', 0, { edge: 1 }));
    expect(take(cube, 'ring', 0, { edge: 0 })).toEqual(take(cube, 'ring', 0, { edge: 2 }));
    const floor = grid(5);
    expect([take(floor, 'ring', 12, { edge: 0 }), take(floor, 'ring', 12, { edge: 1 })].sort((a, b) => a[0]! - b[0]!)).toEqual([
      [2, 7, 12, 17, 22],
      [10, 11, 12, 13, 14],
    ]);
    // One face of the row is cut in two triangles.
    const lists = Array.from({ length: 25 }, (_, f) => Array.from(floor.cornerVertex.slice(f * 4, f * 4 + 4)));
    const cut = lists.flatMap((q, f) =>
      f === 13
        ? [
            [q[0]!, q[1]!, q[2]!],
            [q[0]!, q[2]!, q[3]!],
          ]
        : [q],
    );
    const mixed = meshFromLists({ positions: floor.positions, faces: cut });
    const rings = [0, 1].map((edge) => take(mixed, 'ring', 12, { edge }));
    expect(rings).toContainEqual([10, 11, 12]);
    for (const ring of rings) for (const f of ring) expect(mixed.faceStart[f + 1]! - mixed.faceStart[f]!).toBe(4);
  });

  it('goes on over triangles in the direction it has', () => {
    const floor = triangulated(grid(4));
    const runs = [0, 1, 2].map((edge) => take(floor, 'ring', 8, { edge }));
    expect(runs.some((r) => r.length === 8)).toBe(true);
  });
});

it('takes the fan around a corner, what touches in one color, what faces the same way, patches of UVs', () => {
  const floor = grid(4);
  expect(take(floor, 'fan', 5, { corner: 0 })).toEqual([0, 1, 4, 5]);
  const cells = Uint16Array.from({ length: 16 }, (_, f) => (f % 4 < 2 || f === 15 ? 7 : 3));
  expect(take(floor, 'touching color', 0, { cells })).toEqual([0, 1, 4, 5, 8, 9, 12, 13]);
  expect(take(floor, 'color', 0, { cells })).toEqual([0, 1, 4, 5, 8, 9, 12, 13, 15]);
  const two = boxes([{ at: [0, 0, 0] }, { at: [9, 0, 0] }]);
  expect(take(two, 'facing', 2, { angle: 5 })).toEqual([2, 8]);
  const uv = Float32Array.from({ length: 128 }, (_, i) => {
    const [f, v] = [Math.floor(i / 8), floor.cornerVertex[i >> 1]!];
    return i % 2 ? floor.positions[v * 3 + 2]! : floor.positions[v * 3]! + (f % 4 < 2 ? 0 : 50);
  });
  expect(take({ ...floor, uvSets: [uv] }, 'patch', 0)).toEqual([0, 1, 4, 5, 8, 9, 12, 13]);
});

it('finds like parts moved, turned, mirrored and scaled, with the right faces, and no others', () => {
  const mesh = boxes([
    { at: [0, 0, 0] },
    { at: [9, 0, 0], turn: 0.7, scale: 2.5 },
    { at: [20, 0, 0], turn: 2, mirror: true },
    { at: [30, 0, 0], squash: 1.3 },
  ]);
  const adjacency = adjacencyOf(mesh);
  for (let f = 0; f < 6; f++) expect(take(mesh, 'like', f)).toEqual([f, f + 6, f + 12]);
  const maps = (p: number) => [...partMaps({ mesh, adjacency, part: 0 }, { mesh, adjacency, part: p })];
  expect([maps(1).length, maps(2).length, maps(3).length]).toEqual([1, 1, 0]);
  expect([...likeFaces(mesh, adjacency, [2, 3])]).toEqual([2, 3, 8, 9, 14, 15]);
  // A plain box is like another in many ways; its ends stay the ends they were.
  const plain = meshFromLists({
    positions: [0, 4, 8].flatMap((up) => Array.from(box().positions, (v, i) => (i % 3 === 0 ? v * 3 : v + (i % 3 === 1 ? up : 0)))),
    faces: [0, 8, 16].flatMap((from) => boxFaces.map((f) => f.map((v) => v + from))),
  });
  for (let f = 0; f < 6; f++) expect(take(plain, 'like', f)).toEqual([f, f + 6, f + 12]);
  // A quarter more is like enough where so much is allowed.
  expect(take(mesh, 'like', 0, { like: { within: 0.3 } })).toHaveLength(4);
});

describe('changing the pick', () => {
  const floor = grid(6);
  const adjacency = adjacencyOf(floor);
  const picks = fc.array(fc.boolean(), { minLength: 36, maxLength: 36 }).map((list) => Uint8Array.from(list, Number));
  const isWithin = (p: Uint8Array, q: Uint8Array) => p.every((v, i) => v <= q[i]!);

  it('shrink after grow holds the pick, grow after shrink lies within it, inverting twice is nothing', () => {
    fc.assert(
      fc.property(picks, (picked) => {
        expect(isWithin(picked, shrink(adjacency, grow(adjacency, picked)))).toBe(true);
        expect(isWithin(grow(adjacency, shrink(adjacency, picked)), picked)).toBe(true);
        if (picked.some((p) => p) && picked.some((p) => !p))
          expect(invertInParts(adjacency, invertInParts(adjacency, picked))).toEqual(picked);
        // Rings tell at once what growing and shrinking come to step by step.
        const rings = ringsFrom(adjacency, picked);
        const at = (n: number) => picked.map((_, f) => Number(rings[f]! <= n));
        expect([at(0), at(1), at(2)]).toEqual([picked, grow(adjacency, picked), grow(adjacency, grow(adjacency, picked))]);
        expect([at(-1), at(-2)]).toEqual([shrink(adjacency, picked), shrink(adjacency, shrink(adjacency, picked))]);
      }),
      { seed: 11, numRuns: 60 },
    );
    expect(listOf(grow(adjacency, flagsOf([14], 36)))).toEqual([7, 8, 9, 13, 14, 15, 19, 20, 21]);
  });

  it('goes on to the next crease, fills holes, and says what was missed and what was taken alone', () => {
    const cube = adjacencyOf(box());
    expect(listOf(growToCreases(cube, flagsOf([0], 6), 30))).toEqual([0]);
    expect(listOf(growToCreases(adjacency, flagsOf([0], 36), 30))).toHaveLength(36);
    const ring = [7, 8, 9, 13, 15, 19, 20, 21];
    expect(listOf(fillHoles(adjacency, flagsOf(ring, 36)))).toEqual([...ring, 14].sort((a, b) => a - b));
    const lists = (missed: Missed) => missed.left.map((gap) => [...gap]);
    expect(lists(missedFaces(floor, adjacency, flagsOf(ring, 36)))).toEqual([[14]]);
    // A small strip along one side, and a lone small face far from the pick.
    const uneven = grid(6);
    for (let v = 0; v < 49; v++) if (uneven.positions[v * 3] === 6) uneven.positions[v * 3] = 5.2;
    const small = adjacencyOf(uneven);
    const lone = missedFaces(uneven, small, flagsOf([0, 1, 2, 6, 7, 8, 35], 36));
    expect([...lone.lone]).toEqual([35]);
    // A row of small faces along the end of the deck was plainly left out; one small face in a notch was not.
    const most = Array.from({ length: 36 }, (_, f) => f).filter((f) => f % 6 < 5);
    expect(lists(missedFaces(uneven, small, flagsOf(most, 36)))).toEqual([]);
    const notch = [...most, 5, 11, 23, 29, 35];
    expect(lists(missedFaces(uneven, small, flagsOf(notch, 36)))).toEqual([[17]]);
    // A leg without its foot: few faces, closed off by the pick, but they bulge out.
    const leg = tube(8, 6);
    const around = adjacencyOf(leg);
    const foot = Array.from({ length: 8 * 6 }, (_, f) => f);
    expect(lists(missedFaces(leg, around, flagsOf(foot, around.areas.length)))).toEqual([]);
    // The same border with a flat lid is a gap.
    const lid = { ...leg, positions: leg.positions.map((v, i) => (i % 3 === 1 && i >= leg.positions.length - 3 ? 6 : v)) };
    expect(lists(missedFaces(lid, adjacencyOf(lid), flagsOf(foot, around.areas.length)))).toEqual([[48, 49, 50, 51]]);
  });
});

it('counts areas by part: what is left of a part is a hole only where less of it is left than was picked', () => {
  // A crate of one metre, and one of ten beside it.
  const two = boxes([{ at: [0, 0, 0] }, { at: [30, 0, 0], scale: 10 }]);
  const adjacency = adjacencyOf(two);
  const filled = (...picked: number[]) => listOf(fillHoles(adjacency, flagsOf(picked, 12)));
  expect(filled(0, 6, 7, 8, 9, 10)).toEqual([0, 6, 7, 8, 9, 10, 11]);
  expect(filled(0, 1, 2, 3, 4, 6)).toEqual([0, 1, 2, 3, 4, 5, 6]);
  // Nothing of a part is picked: it has no hole.
  expect(filled(0, 1, 2, 3, 4, 5)).toEqual([0, 1, 2, 3, 4, 5]);
  expect(listOf(invertInParts(adjacency, flagsOf([7, 8], 12)))).toEqual([6, 9, 10, 11]);
});

it('holds gaps to six faces, a share of the pick, of the border and of a flat border’s room, and lone faces to small ones', () => {
  const side = 9;
  const floor = grid(side);
  const adjacency = adjacencyOf(floor);
  const at = (x: number, z: number) => z * side + x;
  const without = (gap: readonly number[], mesh = floor) => {
    const picked = new Uint8Array(side * side).fill(1);
    for (const f of gap) picked[f] = 0;
    return missedFaces(mesh, mesh === floor ? adjacency : adjacencyOf(mesh), picked).left.map((f) => [...f]);
  };
  const block = (w: number, h: number, x = 3, z = 3) =>
    Array.from({ length: w * h }, (_, i) => at(x + (i % w), z + Math.floor(i / w))).sort((p, q) => p - q);
  expect(without(block(3, 2))).toEqual([block(3, 2)]);
  expect(without(block(7, 1, 1))).toEqual([]);
  expect(without([...block(2, 1, 1, 1), ...block(2, 1, 5, 6)])).toEqual([block(2, 1, 1, 1), block(2, 1, 5, 6)]);
  // Four faces within eight are more than 15 % of what is picked around them; within thirty they are not.
  const only = (picked: readonly number[]) => missedFaces(floor, adjacency, flagsOf([...picked], side * side)).left.length;
  const frame = (n: number) => block(2 + 2 * n, 2 + 2 * n, 4 - n, 4 - n).filter((f) => !block(2, 2, 4, 4).includes(f));
  expect([only(frame(1)), only(frame(2))]).toEqual([0, 1]);
  // One face picked is no pick, of which anything could be missed.
  expect(missedFaces(floor, adjacency, flagsOf([3], side * side))).toEqual({ left: [], lone: new Uint32Array(0) });
  // Faces of a quarter beside the pick, open on one side or two: half of their border at least lies against it.
  const narrow = grid(side);
  for (let v = 0; v < (side + 1) ** 2; v++) if (narrow.positions[v * 3] === side) narrow.positions[v * 3] = side - 0.75;
  expect(without([at(8, 4)], narrow)).toEqual([[at(8, 4)]]);
  expect(without([at(8, 0)], narrow)).toEqual([[at(8, 0)]]);
  // A lone face of a quarter: far from the pick it was taken by accident, beside it or as a part of its own it was not.
  const lone = (...picked: number[]) => [...missedFaces(narrow, adjacencyOf(narrow), flagsOf(picked, side * side)).lone];
  expect([lone(0, 1, 2, at(8, 4)), lone(0, 1, 2, at(7, 4), at(8, 4)), lone(0, 1, 2, at(5, 4))]).toEqual([[at(8, 4)], [], []]);
  const apart = boxes([{ at: [0, 0, 0], scale: 9 }, { at: [30, 0, 0] }]);
  expect([...missedFaces(apart, adjacencyOf(apart), flagsOf([0, 1, 2, 3, 6], 12)).lone]).toEqual([6]);
  expect([...missedFaces(apart, adjacencyOf(apart), flagsOf([0, 1, 2, 3, 6, 7, 8, 9, 10, 11], 12)).lone]).toEqual([]);
});

/** A tube of square quads, open below, with a pointed end of four faces of two segments each. */
function tube(around: number, rows: number): PolyMesh {
  const positions: number[] = [];
  for (let y = 0; y <= rows; y++)
    for (let a = 0; a < around; a++) positions.push(Math.cos((a / around) * 2 * Math.PI), y, Math.sin((a / around) * 2 * Math.PI));
  positions.push(0, rows + 3, 0);
  const faces: number[][] = [];
  for (let y = 0; y < rows; y++)
    for (let a = 0; a < around; a++) {
      const next = (a + 1) % around;
      faces.push([y * around + a, (y + 1) * around + a, (y + 1) * around + next, y * around + next]);
    }
  const top = rows * around;
  for (let a = 0; a < around; a += 2) faces.push([top + a, positions.length / 3 - 1, top + ((a + 2) % around), top + a + 1]);
  return meshFromLists({ positions, faces });
}

it('finds the plane that mirrors a mesh, twins that choose each other, and faces that are their own', () => {
  const bell = boxes([{ at: [1, 0, 0] }, { at: [-1, 0, 0], mirror: true }, { at: [7, 5, 5], scale: 0.3 }]);
  const found = findSymmetry(bell, adjacencyOf(bell));
  expect([found.axis, found.offset, found.matched, found.unmatched]).toEqual(['x', 0, 12, 6]);
  fc.assert(
    fc.property(fc.array(fc.double({ min: -0.3, max: 0.3, noNaN: true }), { minLength: 25, maxLength: 25 }), (heights) => {
      const mesh = grid(4, (x, z) => heights[Math.min(x, 4 - x) * 5 + z]!);
      const { twin, matched, unmatched, axis, offset } = findSymmetry(mesh, adjacencyOf(mesh));
      expect([axis, offset, matched, unmatched]).toEqual(['x', 2, 16, 0]);
      twin.forEach((g, f) => expect(twin[g]).toBe(f));
      const odd = findSymmetry(grid(3), adjacencyOf(grid(3)));
      expect(odd.twin.filter((g, f) => g === f)).toHaveLength(3);
    }),
    { seed: 4, numRuns: 20 },
  );
});

it('finds like parts whose pieces hang together in a point alone, turned and mirrored', () => {
  /** Two boxes of different length that share one corner, moved by a function. */
  const pair = (move: (p: number[]) => number[]) => {
    const p = Array.from({ length: 8 }, (_, v) => [...box().positions.slice(v * 3, v * 3 + 3)]);
    const second = p.slice(0, 7).map(([x, y, z]) => [x! - 1, y! - 1, z! * 0.5 - 0.5]);
    return [...p, ...second].map(move);
  };
  // The second box's last corner is the first box's first one.
  const faces = [...boxFaces, ...boxFaces.map((f) => f.map((v) => (v === 7 ? 0 : v + 8)))];
  const moves: ((p: number[]) => number[])[] = [(p) => p, ([x, y, z]) => [9 - z!, y! + 2, x!], ([x, y, z]) => [-x! - 20, y!, z!]];
  const mesh = meshFromLists({
    positions: moves.flatMap((move) => pair(move).flat()),
    faces: moves.flatMap((_, n) => faces.map((f) => (n === 2 ? [...f].reverse() : f).map((v) => v + n * 15))),
  });
  const adjacency = adjacencyOf(mesh);
  expect(adjacency.partStart).toHaveLength(4);
  expect(likeFaces(mesh, adjacency, [7])).toHaveLength(3);
  expect(likeFaces(mesh, adjacency, [0, 7])).toHaveLength(6);
});

it('finds the plane of a body that stands anywhere, with something at one side of it', () => {
  const body = boxes([
    { at: [21, 3, 0] },
    { at: [19, 3, 0], mirror: true },
    { at: [22.5, 5, 0] },
    { at: [17.5, 5, 0], mirror: true },
    { at: [90, 7, 7], scale: 0.4 },
  ]);
  const found = findSymmetry(body, adjacencyOf(body));
  expect([found.axis, found.matched, found.unmatched]).toEqual(['x', 24, 6]);
  expect(found.offset).toBeCloseTo(20, 3);
});

it('takes a mesh for mirrored that is so only nearly, within the tolerance and not beyond', () => {
  fc.assert(
    fc.property(fc.array(fc.double({ min: -1, max: 1, noNaN: true }), { minLength: 147, maxLength: 147 }), (noise) => {
      const mesh = grid(6, (x) => Math.abs(x - 3));
      // Middles are means of four corners, so they move by less than 2 % of the size.
      for (let i = 0; i < 147; i++) mesh.positions[i]! += noise[i]! * 0.03;
      const adjacency = adjacencyOf({ ...mesh });
      const near = twinsAcross(mesh, adjacency, { axis: 'x', offset: 3 }, 0.02);
      expect(near.matched).toBe(36);
      near.twin.forEach((g, f) => expect(near.twin[g]).toBe(f));
      for (const tolerance of [0.0005, 0.002]) {
        const { matched, unmatched, twin } = twinsAcross(mesh, adjacency, { axis: 'x', offset: 3 }, tolerance);
        expect([matched + unmatched, twin.filter((g) => g >= 0).length]).toEqual([36, matched]);
        expect(matched).toBeLessThanOrEqual(near.matched);
      }
    }),
    { seed: 9, numRuns: 25 },
  );
  const [best] = mirrorPlanes(
    grid(6, (x) => Math.abs(x - 3)),
    adjacencyOf(grid(6, (x) => Math.abs(x - 3))),
  );
  expect(best).toMatchObject({ axis: 'x', offset: 3, share: 1 });
});

it('the border of a pick is what lies between it and the rest, and spans of faces say just what they were made of', () => {
  const floor = grid(6);
  const adjacency = adjacencyOf(floor);
  fc.assert(
    fc.property(fc.uniqueArray(fc.nat(35), { minLength: 1 }), (list) => {
      const faces = Uint32Array.from(list).sort();
      const spans = spansOfFaces(faces);
      expect(facesOfSpans(spans)).toEqual(faces);
      const picked = flagsOf([...faces], 36);
      const border = new Set(borderOf(adjacency, picked));
      for (let c = 0; c < adjacency.neighbour.length; c++) {
        const d = adjacency.neighbour[c]!;
        const isBetween =
          d < 0 ? picked[adjacency.cornerFace[c]!] === 1 : picked[adjacency.cornerFace[c]!] !== picked[adjacency.cornerFace[d]!];
        expect(border.has(edgeCorner(adjacency, c))).toBe(isBetween);
      }
      // All edges of the floor are one metre long.
      expect(lengthOfEdges(floor, adjacency, Uint32Array.from(border))).toBeCloseTo(border.size, 4);
      // A patch that begins in the pick stays in it, where its border is a seam.
      const context = { mesh: floor, adjacency, cells: new Uint16Array(36), seams: [...border] };
      const patch = facesOf(context, { scope: 'patch', face: faces[0]!, angle: 0 })!;
      expect(patch.every((f) => picked[f])).toBe(true);
    }),
    { seed: 21, numRuns: 40 },
  );
});

it('a patch ends at creases, too, where asked', () => {
  const cube = box();
  const context = { mesh: cube, adjacency: adjacencyOf(cube), cells: new Uint16Array(6) };
  expect(facesOf(context, { scope: 'patch', face: 0, angle: 30 })).toHaveLength(6);
  expect(facesOf(context, { scope: 'patch', face: 0, angle: 30, creases: true })).toHaveLength(1);
});
