import type { Raster } from '@/core/sheet/raster';

/** Digits 0 to 4 on a 3 × 5 grid, rows from the top. */
const digits = ['###,#.#,#.#,#.#,###', '.#.,##.,.#.,.#.,###', '##.,..#,.#.,#..,###', '###,..#,.##,..#,###', '#.#,#.#,###,..#,..#'];

/**
 * The tide gauge's board, 64 × 256 texels: a mark every tenth of a metre and a large numeral for each metre,
 * from 0 at the foot.
 */
export function numerals(): Raster {
  const [width, height, board] = [64, 256, 48];
  const data = new Uint8Array(width * height * 4);
  const fill = (x0: number, y0: number, w: number, h: number, rgb: [number, number, number]) => {
    for (let y = y0; y < y0 + h; y++)
      for (let x = x0; x < x0 + w; x++) if (x >= 0 && y >= 0 && x < width && y < height) data.set([...rgb, 255], (y * width + x) * 4);
  };
  fill(0, 0, board, height, [238, 232, 214]);
  fill(board, 0, width - board, height, [86, 92, 104]);
  const ink: [number, number, number] = [38, 40, 52];
  const red: [number, number, number] = [168, 58, 48];
  for (let metre = 0; metre < 4; metre++) {
    const base = height - metre * 64;
    const color = metre % 2 ? red : ink;
    for (let k = 0; k < 10; k++) fill(0, Math.round(base - (k + 1) * 6.4), k % 5 === 0 ? 20 : 12, k % 2 ? 3 : 4, color);
    digits[metre]!.split(',').forEach((row, y) =>
      [...row].forEach((cell, x) => cell === '#' && fill(24 + x * 7, base - 52 + y * 8, 7, 8, color)),
    );
  }
  return { width, height, data };
}
