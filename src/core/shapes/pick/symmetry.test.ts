import fc from 'fast-check';
import { expect, it } from 'vitest';
import { grid } from '@tests/meshes';
import { adjacencyOf } from '../mesh/adjacency';
import { meshFromLists } from '../mesh/build';
import { boundsOf, largestSide, middlesOfFaces } from '../mesh/measure';
import type { PolyMesh } from '../mesh/polyMesh';
import { findSymmetry, mirrorPlanes, twinsAcross, type Axis } from './symmetry';

type P = readonly [number, number, number];
interface Loose {
  at: P;
  /** Axis that it looks along, backwards where negative: 1 is x. */
  looks?: 1 | 2 | 3 | -1 | -2 | -3;
  /** Half of its diagonal. */
  size?: number;
  corners?: 3 | 4;
}
const axisNames = ['x', 'y', 'z'] as const;

/** Faces that hang together with no other, regular around their middle. */
function looseFaces(list: readonly Loose[]): PolyMesh {
  const faces = list.map(({ at, looks = 2, size = 0.1, corners = 4 }) => {
    const k = Math.abs(looks) - 1;
    return Array.from({ length: corners }, (_, i) => {
      const turn = ((i * 2 * Math.PI) / corners) * Math.sign(looks);
      const p = [...at];
      p[(k + 1) % 3]! += Math.cos(turn) * size;
      p[(k + 2) % 3]! += Math.sin(turn) * size;
      return p;
    });
  });
  let n = 0;
  return meshFromLists({ positions: faces.flat(2), faces: faces.map((f) => f.map(() => n++)) });
}

it('the twin of a face is the nearest of its kind that also looks the mirrored way, where both choose each other', () => {
  const place = fc.integer({ min: -6, max: 6 }).map((v) => v / 50);
  const face = fc.record({
    at: fc.tuple(place, place, place),
    looks: fc.constantFrom(...([1, 2, 3, -1, -2, -3] as const)),
    size: fc.constantFrom(0.2, 0.203, 0.25, 0.3),
    corners: fc.constantFrom(3 as const, 4 as const),
  });
  const cases = fc.tuple(
    fc.array(face, { minLength: 2, maxLength: 60 }),
    fc.constantFrom(...axisNames),
    place,
    fc.constantFrom(0.004, 0.04, 0.3),
  );
  fc.assert(
    fc.property(cases, ([list, axis, offset, tolerance]) => {
      const mesh = looseFaces(list);
      const adjacency = adjacencyOf(mesh);
      const middles = middlesOfFaces(mesh);
      const slack = largestSide(boundsOf(mesh)) * tolerance;
      const k = axisNames.indexOf(axis);
      const at = (f: number) => [...middles.subarray(f * 3, f * 3 + 3)];
      const normal = (f: number) => [...adjacency.normals.subarray(f * 3, f * 3 + 3)];
      const across = (p: number[], by: number) => p.map((v, i) => (i === k ? by - v : v));
      const nearest = list.map((one, f) => {
        const p = across(at(f), 2 * offset);
        const away = (g: number) => {
          const apart = at(g).reduce((sum, v, i) => sum + (v - p[i]!) ** 2, 0);
          const turned = 1 - normal(g).reduce((sum, v, i) => sum + v * across(normal(f), 0)[i]!, 0);
          return apart + 0.1 * turned * slack * slack;
        };
        const areas = (g: number) => [adjacency.areas[f]!, adjacency.areas[g]!];
        const kind = list.flatMap((other, g) => {
          const [least, most] = [Math.min(...areas(g)), Math.max(...areas(g))];
          const isAlike = other.corners === one.corners && most - least <= Math.max(0.05, tolerance * 10) * most + 1e-12;
          return isAlike && away(g) < slack * slack ? [g] : [];
        });
        return kind.reduce((best, g) => (best < 0 || away(g) < away(best) ? g : best), -1);
      });
      const wanted = nearest.map((g, f) => (g >= 0 && nearest[g] === f ? g : -1));
      const found = twinsAcross(mesh, adjacency, { axis, offset }, tolerance);
      expect([...found.twin]).toEqual(wanted);
      expect([found.matched, found.unmatched]).toEqual([wanted.filter((g) => g >= 0).length, wanted.filter((g) => g < 0).length]);
    }),
    { numRuns: 300, seed: 12 },
  );
});

/** The same with x, y and z turned on by so many places. */
const turnedBy = (list: readonly Loose[], by: number): Loose[] =>
  list.map(({ at, looks = 2, ...rest }) => {
    const p: [number, number, number] = [0, 0, 0];
    at.forEach((v, k) => (p[(k + by) % 3] = v));
    return { ...rest, at: p, looks: (((Math.abs(looks) - 1 + by) % 3) + 1) as 1 | 2 | 3 };
  });

it('a plane that is neither in the middle nor at 0 is told by the pairs that lie across it, of one size and in one line', () => {
  // Mirrored over 20, each pair in a line of its own.
  const pairs = [1, 2.5, 3.1, 4.7, 5.2, 6.4].flatMap((a, i): Loose[] => [{ at: [20 - a, i * 3, i] }, { at: [20 + a, i * 3, i] }]);
  // More pairs would lie across 40: if they were of one size, of as many corners, or in one line.
  const eight = Array.from({ length: 8 }, (_, i) => i);
  const unequal = eight.flatMap((i): Loose[] => [{ at: [39 - i, 30, i * 3] }, { at: [41 + i, 30, i * 3], size: 0.105 }]);
  const other = eight.flatMap((i): Loose[] => [{ at: [39 - i, 40, i * 3] }, { at: [41 + i, 40, i * 3], corners: 3, size: 0.1241 }]);
  const aside = eight.flatMap((i): Loose[] => [{ at: [39 - i, 50, i * 3] }, { at: [41 + i, 50, i * 3 + 1.5] }]);
  const before = eight.flatMap((i): Loose[] => [{ at: [39 - i, 60, i * 3] }, { at: [41 + i, 61.5, i * 3] }]);
  const list = [...pairs, ...unequal, ...other, ...aside, ...before];
  for (const by of [0, 1, 2]) {
    const mesh = looseFaces(turnedBy(list, by));
    const found = mirrorPlanes(mesh, adjacencyOf(mesh)).find(({ axis }) => axis === axisNames[by])!;
    expect(found.offset).toBeCloseTo(20, 4);
    expect(found.share).toBeCloseTo(12 / list.length, 9);
  }
});

it('the plane at 0 is looked at beside the middle of the bounds, and the middle is 0 where it nearly is', () => {
  // All faces lie across 0 and are their own twins: no pair votes. One far away moves the bounds.
  const across = Array.from({ length: 9 }, (_, i): Loose => ({ at: [0, i, i * 2] }));
  for (const by of [0, 1, 2])
    for (const far of [-8, 8]) {
      const mesh = looseFaces(turnedBy([...across, { at: [far, 0, 0.5] }], by));
      const found = mirrorPlanes(mesh, adjacencyOf(mesh)).find(({ axis }) => axis === axisNames[by])!;
      expect([found.offset, found.share]).toEqual([0, 0.9]);
    }
  const planeOf = (middle: number) => {
    const mesh = looseFaces([{ at: [middle - 1, 0, 0] }, { at: [middle + 1, 0, 0] }, { at: [middle, 0, 3] }]);
    return mirrorPlanes(mesh, adjacencyOf(mesh)).find(({ axis }) => axis === 'x')!;
  };
  expect(planeOf(0.003)).toEqual({ axis: 'x', offset: 0, share: 1 });
  expect(planeOf(0.02).offset).toBeCloseTo(0.02, 6);
});

it('the best axis comes first, and of large meshes every so many faces are compared', () => {
  // Mirrored across x = 45, but for the rows before z = 9: a tenth.
  const mesh = grid(90, (x, z) => (z < 9 ? ((x * 7 + z * 3) % 5) * 8 : Math.abs(x - 45) + z * 1.5));
  const planes = mirrorPlanes(mesh, adjacencyOf(mesh));
  expect(planes[0]).toMatchObject({ axis: 'x', offset: 45 });
  expect(planes[0]!.share).toBeGreaterThan(0.88);
  expect(planes[0]!.share).toBeLessThan(0.93);
  expect(planes.map(({ share }) => share)).toEqual(planes.map(({ share }) => share).sort((p, q) => q - p));
  for (const axis of ['y', 'z'] satisfies Axis[]) {
    const k = axisNames.indexOf(axis);
    const turned = { ...mesh, positions: mesh.positions.map((_, i) => mesh.positions[i - (i % 3) + ((i + 3 - k) % 3)]!) };
    expect(findSymmetry(turned, adjacencyOf(turned))).toMatchObject({ axis, offset: 45 });
  }
});
