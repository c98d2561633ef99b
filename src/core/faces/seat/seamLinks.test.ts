import { expect, it } from 'vitest';
import { box, grid } from '@tests/meshes';
import { layForPainting } from '../../islands/paintable';
import { adjacencyOf } from '../../shapes/mesh/adjacency';
import type { PolyMesh } from '../../shapes/mesh/polyMesh';
import { triangulate } from '../../shapes/mesh/triangulate';
import { seamLinks } from './seamLinks';
import { ownersOfTexels, pointOfTexel } from './texelsOnFaces';

/** A box with other lengths a side, so that no two sides can be taken for each other. */
const crate: PolyMesh = { ...box(), positions: box().positions.map((v, i) => v * [1, 2, 3][i % 3]!) };

function linked(mesh: PolyMesh, density: number) {
  const surface = { mesh, adjacency: adjacencyOf(mesh), triangles: triangulate(mesh) };
  const faces = Uint32Array.from({ length: mesh.faceStart.length - 1 }, (_, f) => f);
  const { at, width, height } = layForPainting(surface, faces, density, 0);
  const seats = { cell: new Uint16Array(faces.length).fill(1), at };
  const owners = ownersOfTexels(mesh, seats, { id: 1 }, { width, height });
  const links = seamLinks(mesh, surface.adjacency, seats, 1, { width, height });
  const placeOf = (t: number) =>
    pointOfTexel(mesh, surface.triangles, seats, { width, height }, owners.face[t]!, [t % width, Math.floor(t / width)])!;
  return { links, owners, placeOf };
}

it('joins texels of two faces that lie at one place of their common edge, both ways', () => {
  const density = 8;
  const { links, owners, placeOf } = linked(crate, density);
  for (const [a, others] of links)
    for (const b of others) {
      expect(links.get(b)!.has(a)).toBe(true);
      expect(owners.face[a]).not.toBe(owners.face[b]);
      const [p, q] = [placeOf(a), placeOf(b)];
      // Around a corner of a right angle the middles of two texels are half of one's diagonal apart, and by as much along it.
      expect(Math.hypot(...p.map((v, k) => v - q[k]!))).toBeLessThan(1.3 / density);
    }
  // Each of the twelve edges is a seam here: all along each of its sides lie texels that have somebody across.
  const perimeter = 2 * ((1 + 2) * 2 + (2 + 3) * 2 + (1 + 3) * 2) * density;
  expect(links.size).toBeGreaterThan(perimeter * 0.85);
});

it('joins nothing where faces lie together on the art', () => {
  expect(linked(grid(4), 8).links.size).toBe(0);
});
