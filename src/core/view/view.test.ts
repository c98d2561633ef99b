import { expect, it } from 'vitest';
import { boundsOf, measureFaces } from '../mesh/measure';
import { triangulate } from '../mesh/triangulate';
import { box, grid } from '@tests/meshes';
import { rasterFaces } from './rasterFaces';
import { sideBySide, thumbnail } from './thumbnail';

const inputOf = (mesh: ReturnType<typeof box>) => {
  const { corners, face } = triangulate(mesh);
  return { positions: mesh.positions, triangleVertices: corners.map((c) => mesh.cornerVertex[c]!), triangleFace: face };
};
/** Looks along -z at x and y from -1 to 1. */
const front = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, -0.1, 0, 0, 0, 0, 1];

it('sees the nearest face in each pixel, whole and without gaps', () => {
  const { faces } = rasterFaces(inputOf(box(1)), front, 20, 20);
  // The box covers the upper right quarter; its front is face 1.
  faces.forEach((f, i) => expect(f).toBe(i % 20 >= 10 && i < 200 ? 1 : -1));
});

it('leaves out what lies behind the camera', () => {
  const perspective = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, -1, -1, 0, 0, -0.2, 0];
  expect(rasterFaces(inputOf(box(1)), perspective, 8, 8).faces.every((f) => f === -1)).toBe(true);
});

it('frames a model in the middle of its picture with air around', () => {
  const mesh = grid(3, (x, z) => x * z);
  const picture = thumbnail(inputOf(mesh), boundsOf(mesh), measureFaces(mesh).normals, () => [200, 100, 50], 40);
  let [left, right, top, bottom] = [40, 0, 40, 0];
  for (let i = 0; i < 1600; i++)
    if (picture.data[i * 4 + 3])
      [left, right, top, bottom] = [Math.min(left, i % 40), Math.max(right, i % 40), Math.min(top, i / 40), Math.max(bottom, i / 40)];
  expect(Math.min(left, 39 - right, top, 39 - bottom)).toBeGreaterThan(0);
  expect(right - left > 20 || bottom - top > 20).toBe(true);
  const row = sideBySide([picture, picture], 4);
  expect([row.width, row.data[(20 * 160 + 10) * 4 + 3], row.data.slice((20 * 160 + 40) * 4, (20 * 160 + 80) * 4)]).toEqual([
    160,
    0,
    picture.data.slice(20 * 160, 21 * 160),
  ]);
});
