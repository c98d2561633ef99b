import type { Raster } from '@/core/ground/pictures/raster';

/** Digits 0 to 4 on a 3 × 5 grid, rows from the top. */
const digits = ['###,#.#,#.#,#.#,###', '.#.,##.,.#.,.#.,###', '##.,..#,.#.,#..,###', '###,..#,.##,..#,###', '#.#,#.#,###,..#,..#'];

/** Metres that the board counts. */
export const numeralRows = 4;

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
  for (let metre = 0; metre < numeralRows; metre++) {
    const base = height - metre * 64;
    const color = metre % 2 ? red : ink;
    for (let k = 0; k < 10; k++) fill(0, Math.round(base - (k + 1) * 6.4), k % 5 === 0 ? 20 : 12, k % 2 ? 3 : 4, color);
    digits[metre]!.split(',').forEach((row, y) =>
      [...row].forEach((cell, x) => cell === '#' && fill(24 + x * 7, base - 52 + y * 8, 7, 8, color)),
    );
  }
  return { width, height, data };
}

/** The same board in the fewest texels that can be read: 8 × 8 a metre, two beside two, from 0 at the top left. */
export function numeralTexels(): Raster {
  const size = 16;
  const data = new Uint8Array(size * size * 4);
  const [ground, ink, red] = [
    [240, 236, 222],
    [38, 42, 61],
    [177, 66, 54],
  ] as const;
  for (let y = 0; y < size; y++)
    for (let x = 0; x < size; x++) {
      const metre = Math.floor(x / 8) + 2 * Math.floor(y / 8);
      const [u, v] = [x % 8, y % 8];
      const isMark = v === 7 ? u < 3 : v % 2 === 1 && u < 2;
      const isDigit = digits[metre]!.split(',')[v - 1]?.[u - 4] === '#';
      data.set([...(isMark || isDigit ? (metre % 2 ? red : ink) : ground), 255], (y * size + x) * 4);
    }
  return { width: size, height: size, data };
}
