import { expect, it } from 'vitest';
import { boundsOf, measureFaces } from '../mesh/measure';
import { triangulate } from '../mesh/triangulate';
import { box, grid } from '@tests/meshes';
import { lineUpFilling, type Rows, type Sitter } from './lineUp';
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

it('fills a stage with models at one scale, in the rows that make them largest', () => {
  const sitter = (size: number, shade: number): Sitter => {
    const mesh = box(size);
    const shaded = { input: inputOf(mesh), bounds: boundsOf(mesh), normals: measureFaces(mesh).normals };
    return { ...shaded, colorOf: () => [shade, shade, shade] };
  };
  const four = lineUpFilling([sitter(1, 60), sitter(1, 120), sitter(1, 180), sitter(1, 240)], 120, 120, true);
  expect([four.width, four.height, four.grounds.length]).toEqual([120, 120, 2]);
  /** Left, right, top and bottom of the pixels of a shade. */
  const extent = ({ width, data }: Rows, shade: number) => {
    const at = Array.from({ length: data.length / 4 }, (_, i) => i).filter((i) => data[i * 4 + 3] && Math.abs(data[i * 4]! - shade) < 3);
    const [xs, ys] = [at.map((i) => i % width), at.map((i) => Math.floor(i / width))];
    return [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)];
  };
  const [a, b, c, d] = [60, 120, 180, 240].map((shade) => extent(four, shade)) as [number[], number[], number[], number[]];
  // Two by two, in their order; larger than a quarter of the width, which one row would give.
  expect([a[1]! < b[0]!, c[1]! < d[0]!, a[3]! < c[2]!, a[1]! - a[0]! > 30]).toEqual([true, true, true, true]);
  expect([a[3]! + 1, c[3]! + 1]).toEqual(four.grounds);
  const two = lineUpFilling([sitter(1, 60), sitter(2, 120)], 300, 60, true);
  const [small, large] = [extent(two, 60), extent(two, 120)];
  expect([two.grounds.length, small[3]]).toEqual([1, large[3]]);
  expect((large[3]! - large[2]!) / (small[3]! - small[2]!)).toBeCloseTo(2, 0);
});
