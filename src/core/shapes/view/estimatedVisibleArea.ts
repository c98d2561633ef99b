import type { Bounds } from '../mesh/measure';
import { rasterFaces, type RasterInput } from './rasterFaces';
import { framingHalf, framingMatrix } from './thumbnail';

/** The six axes and the eight diagonals between them. */
const directions = [-1, 0, 1].flatMap((x) =>
  [-1, 0, 1].flatMap((y) => [-1, 0, 1].flatMap((z) => ([1, 3].includes(x * x + y * y + z * z) ? [[x, y, z]] : []))),
);
const size = 192;

/**
 * Square metres of each face that are seen, as the mean over 14 directions from all around; 0 for a face that
 * none of them sees.
 */
export function estimatedVisibleArea(input: RasterInput, bounds: Bounds, faces: number): Float32Array {
  const seen = new Float32Array(faces);
  for (const direction of directions) {
    const matrix = framingMatrix(bounds, 1.02, direction);
    const pixel = ((2 * framingHalf(bounds, 1.02, direction)) / size) ** 2;
    for (const f of rasterFaces(input, matrix, size, size).faces) if (f >= 0) seen[f]! += pixel / directions.length;
  }
  return seen;
}
