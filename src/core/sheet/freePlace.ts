import type { Rect } from '../kit/kit';
import { overlap } from './arrange';

/**
 * Finds room for one box after the other among texels that are taken (1 each, row by row), each the highest and then the
 * farthest left, `gap` texels from all; `null` where there is none. Method: a table of sums.
 */
export function freePlaces(taken: Uint8Array, width: number, height: number): (w: number, h: number, gap: number) => Rect | null {
  const wide = width + 1;
  const sums = new Uint32Array(wide * (height + 1));
  for (let y = 0; y < height; y++)
    for (let x = 0, row = 0; x < width; x++) {
      row += taken[y * width + x]!;
      sums[(y + 1) * wide + x + 1] = sums[y * wide + x + 1]! + row;
    }
  const placed: Rect[] = [];
  return (w, h, gap) => {
    for (let y = 0; y + h <= height; y++)
      for (let x = 0; x + w <= width; x++) {
        const [x0, y0, x1, y1] = [Math.max(0, x - gap), Math.max(0, y - gap), Math.min(width, x + w + gap), Math.min(height, y + h + gap)];
        if (sums[y1 * wide + x1]! - sums[y0 * wide + x1]! - sums[y1 * wide + x0]! + sums[y0 * wide + x0]!) continue;
        const over = placed.find((p) => overlap(p, { x: x0, y: y0, w: x1 - x0, h: y1 - y0 }));
        if (over) {
          // Past the one that is in the way.
          x = Math.max(x, over.x + over.w + gap - 1);
          continue;
        }
        const rect = { x, y, w, h };
        placed.push(rect);
        return rect;
      }
    return null;
  };
}
