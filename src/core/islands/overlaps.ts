import { eachTexel } from '../faces/adopt/uvTexels';
import type { Island } from './islandsOf';

/**
 * Islands that have a texel of the sheet in common with another one of their cell: painted there, both change.
 * Pairs of their places in the list, each pair once.
 */
export function overlaps(
  islands: readonly Island[],
  faceStart: Uint32Array,
  texels: Float32Array,
  { width, height }: { width: number; height: number },
): [number, number][] {
  const owner = new Int32Array(width * height).fill(-1);
  const pairs = new Map<string, [number, number]>();
  islands.forEach(({ faces }, i) => {
    for (const f of faces) {
      const points = Float64Array.from(texels.subarray(faceStart[f]! * 2, faceStart[f + 1]! * 2));
      let [mx, my] = [0, 0];
      for (let k = 0; k < points.length; k += 2) {
        mx += (points[k]! * 2) / points.length;
        my += (points[k + 1]! * 2) / points.length;
      }
      eachTexel({ points, middle: [mx, my] }, width, height, (x, y) => {
        const at = y * width + x;
        const other = owner[at]!;
        if (other >= 0 && other !== i && islands[other]!.cell === islands[i]!.cell) pairs.set(`${other} ${i}`, [other, i]);
        owner[at] = i;
      });
    }
  });
  return [...pairs.values()];
}
