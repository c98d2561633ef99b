import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { adjacencyOf } from '@/core/mesh/adjacency';
import { meshFromLists } from '@/core/mesh/build';
import { boundsOf, measureFaces } from '@/core/mesh/measure';
import { faceCount, type PolyMesh } from '@/core/mesh/polyMesh';
import { triangulate } from '@/core/mesh/triangulate';
import { rasterFaces } from '@/core/view/rasterFaces';
import { framingMatrix } from '@/core/view/thumbnail';
import { buildTree } from './rays';
import { facesInOutline } from './facesInOutline';
import type { LoadedMesh } from './core.worker';
import { box, boxFaces, grid } from '@tests/meshes';
import { facesUnderBrush } from '@/core/pick/brush';
import { isInside, maskOf } from '@/core/pick/outline';

const size = 200;
/** What an orthographic camera sees from a direction. */
function lookAt(mesh: PolyMesh, from: [number, number, number]) {
  const triangles = triangulate(mesh, measureFaces(mesh).normals);
  const matrix = framingMatrix(boundsOf(mesh), 1.25, from);
  const ahead = from.map((v) => -v / Math.hypot(...from)) as [number, number, number];
  const loaded = { mesh, triangles } as LoadedMesh;
  const take = (outline: number[], side: 'near' | 'through', reach: 'touched' | 'inside') => [
    ...facesInOutline(loaded, buildTree({ mesh, triangles }), {
      outline: Float32Array.from(outline),
      matrix,
      width: size,
      height: size,
      side,
      reach,
      eye: [0, 0, 0],
      ahead,
    }).faces,
  ];
  const input = {
    positions: mesh.positions,
    triangleVertices: triangles.corners.map((c) => mesh.cornerVertex[c]!),
    triangleFace: triangles.face,
  };
  return { take, raster: rasterFaces(input, matrix, size, size) };
}

const all = [0, 0, size, 0, size, size, 0, size];

describe('an outline', () => {
  it('takes only what is seen on the near side, everything through the model, and whole faces where asked', () => {
    const cube = lookAt(box(), [0, 0, 1]);
    expect(cube.take(all, 'near', 'touched')).toEqual([1]);
    expect(cube.take(all, 'through', 'touched')).toHaveLength(6);
    const floor = lookAt(grid(4), [0, 1, 0]);
    const half = [0, 0, size / 2 - 10, 0, size / 2 - 10, size, 0, size];
    expect(floor.take(half, 'near', 'touched')).toHaveLength(8);
    expect(floor.take(half, 'near', 'inside')).toHaveLength(4);
    expect(floor.take(all, 'near', 'inside')).toHaveLength(16);
  });

  it('takes faces that are too small for a pixel where a ray meets them first, and not where something hides them', () => {
    const tiny = (at: number[], s: number) => Array.from(box().positions).map((v, i) => (v - 0.5) * s + at[i % 3]!);
    const build = (z: number) =>
      meshFromLists({
        positions: [...box(4).positions, ...tiny([2.01, 2.01, z], 0.001)],
        faces: [...boxFaces, ...boxFaces.map((f) => f.map((v) => v + 8))],
      });
    expect(lookAt(build(4.2), [0, 0, 1]).take(all, 'near', 'touched')).toContain(7);
    expect(lookAt(build(2), [0, 0, 1]).take(all, 'near', 'touched')).toEqual([1]);
  });

  it('has the same inside for a mask as for its points, whatever its shape', () => {
    const point = fc.double({ min: -5, max: 45, noNaN: true });
    fc.assert(
      fc.property(fc.array(point, { minLength: 6, maxLength: 16 }), (numbers) => {
        const outline = Float32Array.from(numbers.slice(0, numbers.length & ~1));
        const mask = maskOf(outline, 40, 40);
        for (let i = 0; i < 1600; i += 7) expect(mask[i] === 1).toBe(isInside(outline, (i % 40) + 0.5, Math.floor(i / 40) + 0.5));
      }),
      { seed: 9, numRuns: 30 },
    );
  });
});

it('a brush takes what lies under it and stops at sharp edges', () => {
  const step = grid(6, (x) => (x >= 3 ? 2 : 0));
  const { raster } = lookAt(step, [0, 1, 0.001]);
  const adjacency = adjacencyOf(step);
  const at = (angle: number) => facesUnderBrush(raster, adjacency, 60, 100, 200, angle).length;
  expect(at(180)).toBeGreaterThan(at(40));
  expect(at(40)).toBe(12);
  expect(facesUnderBrush(raster, adjacency, 2, 2, 1, 90)).toEqual([]);
  expect(faceCount(step)).toBe(36);
});
