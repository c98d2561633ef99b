import { box, grid } from '@tests/meshes';
import { expect, it } from 'vitest';
import type { Cell } from '../kit/kit';
import { adjacencyOf } from '../shapes/mesh/adjacency';
import { meshFromLists } from '../shapes/mesh/build';
import type { PolyMesh } from '../shapes/mesh/polyMesh';
import { triangulate } from '../shapes/mesh/triangulate';
import type { Unwrapped } from './unwrap/unwrap';
import { byFileUvs } from './fileUvs';
import { boundsOf } from './islandsOf';
import { layOut, type LayingOut } from './layOut';

const surfaceOf = (mesh: PolyMesh) => ({ mesh, adjacency: adjacencyOf(mesh), triangles: triangulate(mesh) });
const lay = (mesh: PolyMesh, how: LayingOut) => {
  const surface = surfaceOf(mesh);
  return layOut(surface, Uint32Array.from(surface.adjacency.areas.keys()), how) as Unwrapped;
};

/** A closed tube of 12 sides about an axis, of radius 1 and length 5. */
function tube(axis: 0 | 1 | 2): PolyMesh {
  const place = (a: number, h: number) => {
    const p = [0, 0, 0];
    [p[axis], p[(axis + 1) % 3], p[(axis + 2) % 3]] = [h, Math.cos(a), Math.sin(a)];
    return p;
  };
  const positions = [0, 5].flatMap((h) => Array.from({ length: 12 }, (_, i) => place((i / 6) * Math.PI, h)).flat());
  const sides = Array.from({ length: 12 }, (_, i) => [i, (i + 1) % 12, 12 + ((i + 1) % 12), 12 + i]);
  const ends = [Array.from({ length: 12 }, (_, i) => 11 - i), Array.from({ length: 12 }, (_, i) => 12 + i)];
  return meshFromLists({ positions, faces: [...sides, ...ends] });
}

it('rolls a tube off around its own axis, its ends laid by themselves, and never mirrored', () => {
  for (const axis of [0, 1, 2] as const) {
    const mesh = tube(axis);
    const { islands, places } = lay(mesh, { kind: 'around' });
    expect(islands.map((i) => i.length).sort()).toEqual([1, 1, 12]);
    const [x0, x1, y0, y1] = boundsOf(
      islands.find((i) => i.length === 12)!,
      mesh.faceStart,
      places,
    );
    expect([x1 - x0, y1 - y0]).toEqual([expect.closeTo(2 * Math.PI, 4), expect.closeTo(5, 4)]);
    // To the right and down, faces seen from the front run counter-clockwise: their area is below 0.
    for (let f = 0; f < 14; f++) {
      const corners = Array.from({ length: mesh.faceStart[f + 1]! - mesh.faceStart[f]! }, (_, k) => mesh.faceStart[f]! + k);
      const area = corners.reduce((sum, c, k) => {
        const d = corners[(k + 1) % corners.length]!;
        return sum + places[c * 2]! * places[d * 2 + 1]! - places[d * 2]! * places[c * 2 + 1]!;
      }, 0);
      expect(area).toBeLessThan(-0.1);
    }
  }
});

it('says how many triangles of what is rolled off lie with their back up', () => {
  expect(lay(tube(1), { kind: 'around' }).flipped).toBe(0);
  // A tall ring: what is turned to its axis lies with its back up.
  const at = (i: number, k: number) => {
    const [a, b] = [(i * Math.PI) / 8, (k * Math.PI) / 4];
    return [(3 + Math.cos(b)) * Math.sin(a), 4 * Math.sin(b), (3 + Math.cos(b)) * Math.cos(a)];
  };
  const positions = Array.from({ length: 16 }, (_, i) => Array.from({ length: 8 }, (_, k) => at(i, k)).flat()).flat();
  const faces = Array.from({ length: 128 }, (_, n) => {
    const [i, k] = [n >> 3, n & 7];
    const of = (a: number, b: number) => (a % 16) * 8 + (b % 8);
    return [of(i, k), of(i + 1, k), of(i + 1, k + 1), of(i, k + 1)];
  });
  const ring = meshFromLists({ positions, faces });
  const { normals } = adjacencyOf(ring);
  const outward = Array.from(
    { length: 128 },
    (_, f) => normals[f * 3]! * positions[faces[f]![0]! * 3]! + normals[f * 3 + 2]! * positions[faces[f]![0]! * 3 + 2]!,
  );
  const { flipped, islands, places } = lay(ring, { kind: 'around' });
  const sides = islands.find((list) => list.length > 16)!;
  expect(places.some((v) => v !== 0)).toBe(true);
  expect(flipped).toBe(2 * sides.filter((f) => outward[f]! < 0).length);
  expect(flipped).toBeGreaterThan(20);
});

it('lays a box from six sides, each face from the one that it is turned to most', () => {
  const mesh = box(2);
  const { islands, places } = lay(mesh, { kind: 'box' });
  expect(islands.length).toBe(6);
  for (const faces of islands) {
    const [x0, x1, y0, y1] = boundsOf(faces, mesh.faceStart, places);
    expect([x1 - x0, y1 - y0]).toEqual([2, 2]);
  }
  const bent = grid(4, (x) => x * x * 0.4);
  expect(lay(bent, { kind: 'box' }).islands.map((i) => i.length).sort((a, b) => a - b)).toEqual([4, 12]); // prettier-ignore
});

it('keeps the UVs of a file; islands beside the picture come onto it, those that repeat it only where it may', () => {
  const cell = (repeats: boolean): Cell => ({
    id: 1,
    rect: { x: 10, y: 20, w: 40, h: 80 },
    role: '',
    fill: { kind: 'art', picture: 'a', repeats },
  });
  const plane = grid(2);
  const square = (u: number, v: number, size: number) => [u, v, u, v + size, u + size, v + size, u + size, v];
  plane.uvSets = [Float32Array.from([...square(0, 0, 0.5), ...square(2, -1, 0.25), ...square(0.5, 0.25, 1), ...square(0, 0.5, 0.5)])];
  const surface = surfaceOf(plane);
  const all = Uint32Array.of(0, 1, 2, 3);
  const once = byFileUvs(surface, all, cell(false))!;
  expect([[...once.faces], [...once.left]]).toEqual([[0, 1, 3], [2]]);
  expect([...once.texels.slice(0, 8)]).toEqual([10, 20, 10, 60, 30, 60, 30, 20]);
  expect([...once.texels.slice(8, 12)]).toEqual([10, 20, 10, 40]);
  const often = byFileUvs(surface, all, cell(true))!;
  expect(often.left.length).toBe(0);
  expect([...often.texels.slice(16, 20)]).toEqual([30, 40, 30, 120]);
  expect(byFileUvs(surfaceOf(grid(2)), all, cell(true))).toBeNull();
});
