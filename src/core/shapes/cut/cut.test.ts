import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { box, grid } from '@tests/meshes';
import { adjacencyOf, nextCorner } from '../mesh/adjacency';
import { meshFromLists } from '../mesh/build';
import { checkMesh } from '../mesh/checkMesh';
import { cornerCount, faceCount, type PolyMesh } from '../mesh/polyMesh';
import { triangulate } from '../mesh/triangulate';
import { cutFaces } from './cutFaces';
import { cutModel } from './cutModel';
import { linesOfCuts } from './linesOfCuts';
import { mirroredCut } from './mirroredCut';
import { planPlaneCut } from './planeCut';
import { mostRingCuts, planRingCuts, ringAcross, type RingCut, type RingPlaces } from './ringCut';
import type { Symmetry } from '../pick/symmetry';

/** A box of n × n quads a side, with each corner's place as its UV, its normal, and its color, and a gap between none of them. */
function blocks(n: number): PolyMesh {
  const positions: number[] = [];
  const number = new Map<string, number>();
  const at = (p: number[]) => {
    const key = p.join();
    if (!number.has(key)) number.set(key, positions.push(...p) / 3 - 1);
    return number.get(key)!;
  };
  const faces: number[][] = [];
  for (const axis of [0, 1, 2])
    for (const side of [0, n])
      for (let u = 0; u < n; u++)
        for (let v = 0; v < n; v++) {
          const place = (a: number, b: number) => {
            const p = [0, 0, 0];
            [p[axis], p[(axis + 1) % 3], p[(axis + 2) % 3]] = [side, a, b];
            return at(p);
          };
          const quad = [place(u, v), place(u + 1, v), place(u + 1, v + 1), place(u, v + 1)];
          faces.push(side ? quad : quad.reverse());
        }
  const mesh = meshFromLists({ positions, faces });
  const placeOf = (c: number, k: number) => positions[mesh.cornerVertex[c]! * 3 + k]! / n;
  const corners = Array.from({ length: cornerCount(mesh) }, (_, c) => c);
  return {
    ...mesh,
    faceSlot: Uint16Array.from({ length: faces.length }, (_, f) => f % 2),
    slots: [mesh.slots[0]!, { ...mesh.slots[0]!, name: 'other' }],
    uvSets: [
      Float32Array.from(corners.flatMap((c) => [placeOf(c, 0), placeOf(c, 1)])),
      Float32Array.from(corners.flatMap((c) => [placeOf(c, 2), 0])),
    ],
    cornerNormals: Float32Array.from(corners.flatMap(() => [0, 0.6, 0.8])),
  };
}

/** Six times the volume, and twice the area, of a mesh's triangles. */
function measures(mesh: PolyMesh): { volume: number; area: number; least: number } {
  const { corners } = triangulate(mesh);
  const p = (c: number) => [0, 1, 2].map((k) => mesh.positions[mesh.cornerVertex[c]! * 3 + k]!) as [number, number, number];
  let [volume, area, least] = [0, 0, Infinity];
  for (let t = 0; t < corners.length; t += 3) {
    const [a, b, c] = [p(corners[t]!), p(corners[t + 1]!), p(corners[t + 2]!)];
    const [u, v] = [0, 1].map((i) => [b, c][i]!.map((x, k) => x - a[k]!)) as [number[], number[]];
    const cross = [u[1]! * v[2]! - u[2]! * v[1]!, u[2]! * v[0]! - u[0]! * v[2]!, u[0]! * v[1]! - u[1]! * v[0]!];
    volume += a[0] * (b[1] * c[2] - b[2] * c[1]) + a[1] * (b[2] * c[0] - b[0] * c[2]) + a[2] * (b[0] * c[1] - b[1] * c[0]);
    area += Math.hypot(...cross);
    least = Math.min(least, Math.hypot(...cross));
  }
  return { volume, area, least };
}

const cutRing = (mesh: PolyMesh, adjacency: ReturnType<typeof adjacencyOf>, edge: number, where: RingPlaces) =>
  cutModel(mesh, adjacency, { kind: 'rings', cuts: [{ edge, places: where }] });

const places: fc.Arbitrary<RingPlaces> = fc.oneof(
  fc.record({ kind: fc.constant('even' as const), count: fc.integer({ min: 1, max: 4 }) }),
  fc.record({ kind: fc.constant('share' as const), share: fc.double({ min: 0.01, max: 0.99, noNaN: true }) }),
  fc.record({
    kind: fc.constant('metres' as const),
    metres: fc.constantFrom(0.05, 0.3),
    from: fc.constantFrom('left' as const, 'right' as const),
  }),
);

describe('a cut along a ring', () => {
  it('keeps closed meshes closed, their form, slots and what lies on their corners, however often they are cut', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 3 }), fc.array(fc.tuple(fc.nat(), places), { minLength: 1, maxLength: 4 }), (n, steps) => {
        let mesh = blocks(n);
        const before = measures(mesh);
        for (const [at, where] of steps) {
          const adjacency = adjacencyOf(mesh);
          const quads = Array.from({ length: faceCount(mesh) }, (_, f) => f).filter(
            (f) => mesh.faceStart[f + 1]! - mesh.faceStart[f]! === 4,
          );
          if (!quads.length) break;
          const face = quads[at % quads.length]!;
          const old = mesh;
          const metres = where.kind === 'metres' ? where.metres : 0;
          const isWide = ringAcross(adjacency, mesh.faceStart[face]! + (at % 4))!.crossings.every(({ in: c, out: d }) =>
            [c, d].every((e) => lengthOf(old, e) > metres * 1.1),
          );
          if (!isWide) continue;
          const cut = cutRing(mesh, adjacency, mesh.faceStart[face]! + (at % 4), where);
          mesh = checkMesh(cut.mesh);
          expect([...mesh.faceSlot]).toEqual([...cut.origins.from].map((f) => old.faceSlot[f]!));
          expect(cut.between.length).toBeGreaterThan(0);
        }
        const { openEdges, nonManifoldEdges, against } = adjacencyOf(mesh);
        expect([openEdges, nonManifoldEdges, against.includes(1)]).toEqual([0, 0, false]);
        const after = measures(mesh);
        expect(after.volume / before.volume).toBeCloseTo(1, 5);
        expect(after.area / before.area).toBeCloseTo(1, 5);
        expect(after.least).toBeGreaterThan(0);
        mesh.cornerVertex.forEach((v, c) => {
          const place = [mesh.uvSets[0]![c * 2]!, mesh.uvSets[0]![c * 2 + 1]!, mesh.uvSets[1]![c * 2]!];
          place.forEach((p, k) => expect(p * n).toBeCloseTo(mesh.positions[v * 3 + k]!, 4));
          expect(Math.hypot(...mesh.cornerNormals!.subarray(c * 3, c * 3 + 3))).toBeCloseTo(1, 5);
        });
      }),
      { numRuns: 60 },
    );
  });

  it('lies where it was said: in even steps, at a share from the left, at metres from either border; its bands lie between, or at the narrower side', () => {
    const mesh = box(2);
    const adjacency = adjacencyOf(mesh);
    // From the edge of face 2 that runs along x on: the left is where it begins, at x = 0.
    const edge = mesh.faceStart[2]!;
    expect([0, 1].map((k) => mesh.positions[mesh.cornerVertex[edge + k]! * 3])).toEqual([0, 2]);
    const xs = (where: RingPlaces) => {
      const { mesh: after, between } = cutRing(mesh, adjacency, edge, where);
      const middle = (f: number) => {
        const own = after.cornerVertex.subarray(after.faceStart[f]!, after.faceStart[f + 1]!);
        return own.reduce((sum, v) => sum + after.positions[v * 3]!, 0) / own.length;
      };
      const added = new Set([...after.positions.subarray(24)].filter((_, i) => i % 3 === 0).map((x) => Number(x.toFixed(5))));
      return [[...added].sort(), [...new Set([...between].map((f) => Number(middle(f).toFixed(5))))].sort(), faceCount(after)];
    };
    expect(xs({ kind: 'even', count: 3 })).toEqual([[0.5, 1, 1.5], [0.75, 1.25], 6 + 12]);
    expect(xs({ kind: 'even', count: 1 })).toEqual([[1], [0.5], 10]);
    expect(xs({ kind: 'share', share: 0.25 })).toEqual([[0.5], [0.25], 10]);
    expect(xs({ kind: 'metres', metres: 0.25, from: 'left' })).toEqual([[0.25], [0.125], 10]);
    expect(xs({ kind: 'metres', metres: 0.25, from: 'right' })).toEqual([[1.75], [1.875], 10]);
    expect(xs({ kind: 'share', share: 0.75 })).toEqual([[1.5], [1.75], 10]);
  });

  it('ends where the ring ends; what lies beyond gets the point, and stays one face', () => {
    const mesh = grid(3);
    const ring = ringAcross(adjacencyOf(mesh), mesh.faceStart[4]!)!;
    expect([ring.crossings.map((c) => c.face).sort((a, b) => a - b), ring.isClosed]).toEqual([[3, 4, 5], false]);
    // A triangle at the end of two quads becomes a face of four corners.
    const fan = meshFromLists({
      positions: [0, 0, 0, 1, 0, 0, 1, 1, 0, 0, 1, 0, 0.5, 2, 0],
      faces: [
        [0, 1, 2, 3],
        [3, 2, 4],
      ],
    });
    const { mesh: after, origins } = cutRing(fan, adjacencyOf(fan), 0, { kind: 'even', count: 1 });
    expect([...after.faceStart]).toEqual([0, 4, 8, 12]);
    expect([...origins.from]).toEqual([0, 0, 1]);
    // Only what was cut has corners that are to be told by their places.
    expect([...cutRing(mesh, adjacencyOf(mesh), mesh.faceStart[4]!, { kind: 'even', count: 1 }).origins.order!]).toEqual([
      1, 1, 1, 0, 0, 0, 0, 0, 0, 1, 1, 1,
    ]);
  });

  it('goes on over a neighbour that runs the other way, on its own side', () => {
    // The second of three quads in a row faces down.
    const row = meshFromLists({
      positions: [0, 1, 2, 3].flatMap((z) => [0, 0, z, 4, 0, z]),
      faces: [
        [0, 2, 3, 1],
        [2, 3, 5, 4],
        [4, 6, 7, 5],
      ],
    });
    const { mesh: after, changed } = cutRing(row, adjacencyOf(row), 3, { kind: 'share', share: 0.75 });
    expect(changed).toBe(3);
    const xs = [...after.positions.subarray(24)].filter((_, i) => i % 3 === 0);
    expect(new Set(xs)).toEqual(new Set([1]));
  });

  it.each<[string, RingPlaces]>([
    ['1 to 16 times', { kind: 'even', count: mostRingCuts + 1 }],
    ['1 to 16 times', { kind: 'even', count: 0 }],
    ['between the two borders', { kind: 'share', share: 1 }],
    ['at a number above zero', { kind: 'metres', metres: 0, from: 'left' }],
    ['narrower than 2 m in places', { kind: 'metres', metres: 2, from: 'left' }],
  ])('is refused, as it is cut %s', (why, where) => {
    expect(() => cutRing(box(2), adjacencyOf(box(2)), 0, where)).toThrow(why);
  });

  it('needs a face of four corners', () => {
    const one = meshFromLists({ positions: [0, 0, 0, 1, 0, 0, 0, 0, 1], faces: [[0, 1, 2]] });
    expect(() => cutRing(one, adjacencyOf(one), 0, { kind: 'even', count: 1 })).toThrow('faces of four corners');
  });
});

describe('a cut by a plane', () => {
  const unit = fc.tuple(...[0, 1, 2].map(() => fc.double({ min: -1, max: 1, noNaN: true }))).filter((n) => Math.hypot(...n) > 0.1);
  it('leaves every face on one side of it, and closed meshes closed, whichever way it lies', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 3 }),
        fc.array(fc.tuple(unit, fc.double({ min: -0.8, max: 0.8, noNaN: true })), { minLength: 1, maxLength: 3 }),
        (n, planes) => {
          let mesh = blocks(n);
          const before = measures(mesh);
          for (const [way, off] of planes) {
            const length = Math.hypot(...way);
            const normal = way.map((v) => v / length) as [number, number, number];
            // Through a place between the middle and the outside.
            const distance = normal.reduce((sum, v) => sum + v * (n / 2), 0) + off * n * 0.5;
            const { points, cuts } = planPlaneCut(mesh, adjacencyOf(mesh), { normal, distance });
            mesh = checkMesh(cutFaces(mesh, adjacencyOf(mesh), points, cuts).mesh);
            for (let f = 0; f < faceCount(mesh); f++) {
              const own = [...mesh.cornerVertex.subarray(mesh.faceStart[f]!, mesh.faceStart[f + 1]!)];
              const offs = own.map((v) => normal.reduce((sum, x, k) => sum + x * mesh.positions[v * 3 + k]!, 0) - distance);
              // As near to a corner as an edge is not cut.
              expect(Math.min(...offs) > -5e-4 * n || Math.max(...offs) < 5e-4 * n).toBe(true);
            }
          }
          const { openEdges, nonManifoldEdges } = adjacencyOf(mesh);
          expect([openEdges, nonManifoldEdges]).toEqual([0, 0]);
          const after = measures(mesh);
          expect(after.volume / before.volume).toBeCloseTo(1, 4);
          expect(after.area / before.area).toBeCloseTo(1, 4);
        },
      ),
      { numRuns: 80, endOnFailure: true },
    );
  });

  /** A U of eight corners on the floor, open toward z = 3. */
  const u = meshFromLists({
    positions: [0, 0, 0, 0, 0, 3, 1, 0, 3, 1, 0, 1, 2, 0, 1, 2, 0, 3, 3, 0, 3, 3, 0, 0],
    faces: [[0, 1, 2, 3, 4, 5, 6, 7]],
  });
  const sizes = (mesh: PolyMesh) => Array.from({ length: faceCount(mesh) }, (_, f) => mesh.faceStart[f + 1]! - mesh.faceStart[f]!).sort();
  const across = (mesh: PolyMesh, at: number, within?: Uint8Array) =>
    cutModel(mesh, adjacencyOf(mesh), { kind: 'planes', axis: 'z', bands: [{ from: at, to: Infinity }], ...(within && { within }) });

  it('parts a face that it meets more than twice where it runs inside of it alone', () => {
    // Both legs of the U, and what joins them.
    expect(sizes(across(u, 2).mesh)).toEqual([4, 4, 8]);
    expect([...across(u, 2).between]).toHaveLength(2);
    // Along the ground of the gap: through the legs, on from its corners.
    expect(sizes(across(u, 1).mesh)).toEqual([4, 4, 6]);
  });

  it('does so slanted, and whichever way the face lies in space', () => {
    for (const turn of [0, 1, 2])
      for (const mirrored of [1, -1]) {
        // The U with its axes changed about, and away from the origin.
        const turned = (p: readonly number[]) =>
          [0, 1, 2].map((k) => p[(k + turn) % 3]! * (k === turn ? mirrored : 1) + 5) as [number, number, number];
        const positions = Array.from({ length: 8 }, (_, v) => turned([...u.positions.subarray(v * 3, v * 3 + 3)])).flat();
        const mesh = { ...u, positions: Float32Array.from(positions) };
        // z = 2 + x / 5 on the floor of the U: a point and a direction of it, turned as the face is.
        const length = Math.hypot(1, 0.2);
        const normal = turned([-0.2 / length, 0, 1 / length]).map((v) => v - 5) as [number, number, number];
        const distance = turned([0, 0, 2]).reduce((sum, v, k) => sum + v * normal[k]!, 0);
        const { points, cuts } = planPlaneCut(mesh, adjacencyOf(mesh), { normal, distance });
        expect(sizes(cutFaces(mesh, adjacencyOf(mesh), points, cuts).mesh)).toEqual([4, 4, 8]);
        const lines = [...linesOfCuts(mesh, adjacencyOf(mesh), cuts)];
        const wanted = [
          [0, 0, 2],
          [1, 0, 2.2],
          [2, 0, 2.4],
          [3, 0, 2.6],
        ]
          .map(turned)
          .map((p) => p.map((v) => v.toFixed(4)).join());
        const got = Array.from({ length: 4 }, (_, i) =>
          lines
            .slice(i * 3, i * 3 + 3)
            .map((v) => v.toFixed(4))
            .join(),
        );
        expect(got.sort()).toEqual(wanted.sort());
      }
  });

  it('does not cut what it meets in a corner or along an edge, nor faces that are not meant, and says so where nothing is left', () => {
    expect(() => across(box(), 0)).toThrow('Nothing lies there to be cut.');
    expect(() => across(box(), 5)).toThrow('Nothing lies there to be cut.');
    const two = cutModel(box(), adjacencyOf(box()), { kind: 'planes', axis: 'y', bands: [{ from: 0.25, to: 0.75 }] });
    expect([faceCount(two.mesh), two.between.length, two.changed]).toEqual([6 + 8, 4, 4]);
    const within = Uint8Array.from({ length: 6 }, (_, f) => (f === 4 ? 1 : 0));
    const one = across(box(), 0.5, within);
    expect([one.changed, one.between.length]).toEqual([1, 1]);
    // Beside it two faces got a corner, so that nothing gapes.
    expect(sizes(one.mesh)).toEqual([4, 4, 4, 4, 4, 5, 5]);
    expect(adjacencyOf(one.mesh).openEdges).toBe(0);
    expect(() => planPlaneCut(box(), adjacencyOf(box()), { normal: [0, 0, 0], distance: 0 })).toThrow('direction of length 1');
  });
});

it('the mirror image of a cut along a ring crosses the mirrored edge at the mirrored place', () => {
  const mesh = box(2);
  const adjacency = adjacencyOf(mesh);
  // Across x = 1 the left face and the right one are twins; the others are their own.
  const twin = Int32Array.of(0, 1, 2, 3, 5, 4);
  const symmetry: Symmetry = { axis: 'x', offset: 1, matched: 6, unmatched: 0, tolerance: 0.01, twin };
  for (const places of [
    { kind: 'share', share: 0.25 },
    { kind: 'metres', metres: 0.5, from: 'left' },
    { kind: 'even', count: 2 },
  ] as const)
    for (let edge = 0; edge < 24; edge++) {
      const own = linesOf(mesh, [{ edge, places }]).map(([x, y, z]) => [2 - x!, y!, z!]);
      expect(sorted(linesOf(mesh, [mirroredCut(mesh, adjacency, symmetry, { edge, places })!]))).toEqual(sorted(own));
    }
  // Away from the origin, across another axis.
  const high = { ...mesh, positions: mesh.positions.map((v, i) => (i % 3 === 1 ? v + 4 : v)) };
  const up: Symmetry = { ...symmetry, axis: 'y', offset: 5, twin: Int32Array.of(0, 1, 3, 2, 4, 5) };
  const above = { edge: high.faceStart[0]!, places: { kind: 'metres' as const, metres: 0.5, from: 'left' as const } };
  const image = linesOf(high, [above]).map(([x, y, z]) => [x!, 10 - y!, z!]);
  expect(sorted(linesOf(high, [mirroredCut(high, adjacencyOf(high), up, above)!]))).toEqual(sorted(image));
  const lone = { ...symmetry, twin: twin.map(() => -1) };
  expect(mirroredCut(mesh, adjacency, lone, { edge: 0, places: { kind: 'even', count: 1 } })).toBeNull();
  // Rings that cross are refused, the same twice is cut once, and two of one ring are both cut.
  const cutsOf = (...list: [number, number][]) =>
    planRingCuts(mesh, adjacency, list.map(([edge, share]) => ({ edge, places: { kind: 'share' as const, share } }))).cuts.length; // prettier-ignore
  expect([cutsOf([0, 0.25]), cutsOf([0, 0.25], [0, 0.25]), cutsOf([0, 0.25], [2, 0.75]), cutsOf([0, 0.25], [0, 0.5])]).toEqual([
    4, 4, 4, 8,
  ]);
  expect(() => cutsOf([0, 0.25], [1, 0.25])).toThrow('cross each other');
});
const linesOf = (mesh: PolyMesh, cuts: RingCut[]): number[][] => {
  const lines = linesOfCuts(mesh, adjacencyOf(mesh), planRingCuts(mesh, adjacencyOf(mesh), cuts).cuts);
  return Array.from({ length: lines.length / 3 }, (_, i) => [...lines.subarray(i * 3, i * 3 + 3)]);
};
const sorted = (points: readonly number[][]): string[] => [...new Set(points.map((p) => p.map((v) => v.toFixed(4)).join()))].sort();

it('an edge without length takes no point, cuts between neighbours of an outline are none, and colors are mixed as light', () => {
  const mesh: PolyMesh = {
    ...meshFromLists({ positions: [0, 0, 0, 0, 0, 0, 1, 0, 0, 1, 1, 0], faces: [[0, 1, 2, 3]] }),
    cornerColors: Uint8Array.of(0, 0, 0, 255, 0, 0, 0, 255, 0, 0, 0, 255, 255, 255, 255, 0),
    cornerNormals: Float32Array.of(0, 0, 1, 0, 0, 1, 0, 0, 1, 0, 1, 0),
    faceGroup: Uint16Array.of(7),
    groups: [],
  };
  const adjacency = adjacencyOf(mesh);
  const cut = cutFaces(
    mesh,
    adjacency,
    [
      { corner: 0, shares: [0.5] },
      { corner: 2, shares: [0.5, 0, 1, 0.50001] },
    ],
    [
      { face: 0, from: { corner: 1, share: 0 }, to: { corner: 2, share: 0 } },
      { face: 0, from: { corner: 2, share: 0.5 }, to: { corner: 0, share: 0 } },
    ],
  );
  expect([...cut.mesh.faceStart]).toEqual([0, 4, 7]);
  // Half way between two directions, of unit length; the others as they were.
  const normalAt = (c: number) => [...cut.mesh.cornerNormals!.subarray(c * 3, c * 3 + 3)].map((v) => Number(v.toFixed(4)));
  expect(normalAt([...cut.mesh.cornerVertex].indexOf(4))).toEqual([0, 0.7071, 0.7071]);
  expect([...cut.mesh.cornerVertex].map((v, c) => (v < 4 ? normalAt(c).join() : ''))).toEqual(
    [...cut.mesh.cornerVertex].map((v) => (v === 3 ? '0,1,0' : v < 4 ? '0,0,1' : '')),
  );
  expect([...cut.mesh.faceGroup!]).toEqual([7, 7]);
  expect(nextCorner(adjacency, 3)).toBe(0);
  const at = [...cut.mesh.cornerVertex].indexOf(4);
  expect([...cut.mesh.cornerColors!.subarray(at * 4, at * 4 + 4)]).toEqual([188, 188, 188, 128]);
});

it('a face that was not cut keeps the cut of its file, the others the place of their first triangle; turned faces stay turned', () => {
  const mesh = grid(2);
  const triangles = Int32Array.from({ length: 8 }, (_, i) => 10 + i);
  const reversed = Uint8Array.of(0, 1, 0, 1);
  const cut = (source: PolyMesh['source']) => across(0, { ...mesh, source: source! }).source!;
  // The upper row is cut.
  const after = cut({ triangles, reversed });
  expect([...after.triangles!]).toEqual([10, -1, 10, -1, 12, -1, 12, -1, 14, 15, 16, 17]);
  expect([...after.reversed!]).toEqual([0, 0, 1, 1, 0, 1]);
  expect(cut({ otherDraws: 3 })).toEqual({ otherDraws: 3 });
});
/** Cut along the row that begins with a face. */
function across(face: number, mesh: PolyMesh): PolyMesh {
  const edge = [0, 1]
    .map((k) => mesh.faceStart[face]! + k)
    .find((c) => ringAcross(adjacencyOf(mesh), c)!.crossings.some((x) => x.face === face + 1))!;
  return cutModel(mesh, adjacencyOf(mesh), { kind: 'rings', cuts: [{ edge, places: { kind: 'even', count: 1 } }] }).mesh;
}

const lengthOf = (mesh: PolyMesh, corner: number): number => {
  const adjacency = adjacencyOf(mesh);
  const [a, b] = [corner, nextCorner(adjacency, corner)].map((c) => mesh.cornerVertex[c]! * 3) as [number, number];
  return Math.hypot(...[0, 1, 2].map((k) => mesh.positions[a + k]! - mesh.positions[b + k]!));
};
