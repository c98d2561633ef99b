import type { Rect } from '../kit/kit';

/**
 * Finds room for a box among texels that are taken (1 each, row by row), the highest and then the farthest left, `gap`
 * texels from them, and takes it; `null` where there is none. Method: sums of rows and columns.
 */
export function freePlaces(taken: Uint8Array, width: number, height: number): (w: number, h: number, gap: number) => Rect | null {
  const own = taken.slice();
  return (w, h, gap) => {
    const sums = new Uint32Array((width + 1) * (height + 1));
    for (let y = 0; y < height; y++)
      for (let x = 0, row = 0; x < width; x++) {
        row += own[y * width + x]!;
        sums[(y + 1) * (width + 1) + x + 1] = sums[y * (width + 1) + x + 1]! + row;
      }
    const takenIn = (x0: number, y0: number, x1: number, y1: number) =>
      sums[y1 * (width + 1) + x1]! - sums[y0 * (width + 1) + x1]! - sums[y1 * (width + 1) + x0]! + sums[y0 * (width + 1) + x0]!;
    for (let y = 0; y + h <= height; y++)
      for (let x = 0; x + w <= width; x++) {
        const [x0, y0, x1, y1] = [Math.max(0, x - gap), Math.max(0, y - gap), Math.min(width, x + w + gap), Math.min(height, y + h + gap)];
        if (takenIn(x0, y0, x1, y1)) continue;
        for (let row = y; row < y + h; row++) own.fill(1, row * width + x, row * width + x + w);
        return { x, y, w, h };
      }
    return null;
  };
}
