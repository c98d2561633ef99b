import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { newKit } from './starter';
import { cellErrors, compressed } from './blocks';
import type { Raster } from '../ground/pictures/raster';

const rasterOf = (width: number, height: number, color: (x: number, y: number) => readonly number[]): Raster => ({
  width,
  height,
  data: Uint8Array.from(Array.from({ length: width * height }, (_, i) => [...color(i % width, Math.floor(i / width)), 200]).flat()),
});
const at = ({ width, data }: Raster, x: number, y: number) => [...data.subarray((y * width + x) * 4, (y * width + x) * 4 + 4)];
const far = (a: readonly number[], b: readonly number[]) => Math.max(...[0, 1, 2].map((k) => Math.abs(a[k]! - b[k]!)));
const [red, green, blue, white] = [
  [255, 0, 0],
  [0, 255, 0],
  [0, 0, 255],
  [255, 255, 255],
] as const;

describe('compression in blocks', () => {
  it('keeps a block of one color to the bits that it has, and alpha as it is', () => {
    fc.assert(
      fc.property(fc.tuple(...[0, 1, 2].map(() => fc.integer({ min: 0, max: 255 }))), (color) => {
        const raster = rasterOf(4, 4, () => color);
        const [r, g, b, alpha] = at(compressed(raster, 'bc1'), 3, 2);
        expect(Math.abs(r! - color[0]!)).toBeLessThanOrEqual(4);
        expect(Math.abs(g! - color[1]!)).toBeLessThanOrEqual(2);
        expect(Math.abs(b! - color[2]!)).toBeLessThanOrEqual(4);
        expect(alpha).toBe(200);
        // A base in 5 bits, and at least 2 lighter or darker.
        expect(far(at(compressed(raster, 'etc1'), 1, 1), color)).toBeLessThanOrEqual(7);
      }),
      { numRuns: 60 },
    );
  });

  it('BC1 has four colors on one line in each block: two are kept, three hues are not', () => {
    const two = rasterOf(8, 4, (x, y) => (x < 4 ? (y < 2 ? red : blue) : y % 2 ? green : white));
    const shown = compressed(two, 'bc1');
    for (const [x, y] of [
      [0, 0],
      [3, 3],
      [4, 0],
      [7, 1],
    ] as const)
      expect(far(at(shown, x, y), at(two, x, y))).toBeLessThanOrEqual(1);
    const three = compressed(
      rasterOf(4, 4, (x) => [red, green, blue, red][x]!),
      'bc1',
    );
    expect(far(at(three, 1, 0), green) + far(at(three, 2, 0), blue) + far(at(three, 0, 0), red)).toBeGreaterThan(100);
    const colors = new Set(Array.from({ length: 16 }, (_, i) => at(three, i % 4, i >> 2).join()));
    expect(colors.size).toBeLessThanOrEqual(4);
  });

  it('ETC1 keeps two hues in two halves, whichever way they lie, and not in one', () => {
    const beside = rasterOf(4, 4, (x) => (x < 2 ? [200, 30, 30] : [30, 30, 200]));
    const above = rasterOf(4, 4, (_, y) => (y < 2 ? [200, 30, 30] : [30, 30, 200]));
    const mixed = rasterOf(4, 4, (x, y) => ((x + y) % 2 ? [200, 30, 30] : [30, 30, 200]));
    const worst = (raster: Raster) => {
      const shown = compressed(raster, 'etc1');
      return Math.max(...Array.from({ length: 16 }, (_, i) => far(at(shown, i % 4, i >> 2), at(raster, i % 4, i >> 2))));
    };
    expect(worst(beside)).toBeLessThanOrEqual(12);
    expect(worst(above)).toBeLessThanOrEqual(12);
    expect(worst(mixed)).toBeGreaterThan(60);
  });

  it('stays inside of a raster that is no whole number of blocks, and tells the worst texel of each cell', () => {
    const raster = rasterOf(6, 5, (x, y) => [x * 40, y * 50, 100]);
    expect(compressed(raster, 'bc1').data).toHaveLength(6 * 5 * 4);
    const [sheet] = newKit('Skerry').sheets;
    const cells = sheet!.cells.slice(0, 3).map((c, i) => ({ ...c, rect: { x: i * 2, y: 0, w: 2, h: 1 } }));
    cells[2]!.fill = { kind: 'spare' };
    const before = rasterOf(6, 5, () => [0, 0, 0]);
    const after = rasterOf(6, 5, (x, y) => (x === 1 && y === 0 ? [255, 255, 255] : x === 2 && y === 1 ? [255, 0, 0] : [0, 0, 0]));
    const errors = cellErrors({ ...sheet!, cells }, before, after);
    expect([...errors].map(([id, e]) => [id, Math.round(e * 100) / 100])).toEqual([
      [cells[0]!.id, 1],
      [cells[1]!.id, 0],
    ]);
  });

  it('comes to these very texels, each out of the palette of its block', () => {
    const rows = (raster: Raster, format: 'bc1' | 'etc1') => {
      const shown = compressed(raster, format);
      const hex = (x: number, y: number) =>
        at(shown, x, y)
          .slice(0, 3)
          .map((v) => v.toString(16).padStart(2, '0'))
          .join('');
      return Array.from({ length: shown.height }, (_, y) => Array.from({ length: shown.width }, (_, x) => hex(x, y)).join(' '));
    };
    const noise = rasterOf(4, 4, (x, y) => [((x + y * 4) * 73) % 256, ((x + y * 4) * 151 + 30) % 256, ((x + y * 4) * 37 + 80) % 256]);
    expect(rows(noise, 'bc1')).toEqual([
      '4a144a 979b87 705868 bddfa5',
      '705868 4a144a 979b87 705868',
      '979b87 979b87 705868 979b87',
      '4a144a 979b87 979b87 979b87',
    ]);
    expect(rows(noise, 'etc1')).toEqual([
      '2b4d3c 628473 987676 e6c4c4',
      '628473 2b4d3c 987676 987676',
      '7fa190 7fa190 987676 987676',
      '2b4d3c 7fa190 987676 987676',
    ]);
    // No whole number of blocks.
    const odd = rasterOf(5, 3, (x, y) => [((x + y * 5) * 29) % 256, 100, 255 - (((x + y * 5) * 17) % 256)]);
    expect(rows(odd, 'bc1')).toEqual([
      '1065ce 1065ce 1065ce 3f659c 3965ad',
      '6d656b 6d656b 9c6539 9c6539 556579',
      '3f659c 6d656b 6d656b 9c6539 8c6510',
    ]);
    expect(rows(odd, 'etc1')).toEqual([
      '6655aa 6655aa 7261b6 7261b6 6587ba',
      '7c6bc0 7c6bc0 7c6bc0 8877cc 234578',
      '4d5e3c 4d5e3c 536442 536442 97640f',
    ]);
    // Bases too far apart for a difference, in halves side by side and one above the other.
    const far = (x: number, y: number) => (x < 2 ? [250, 10, 10 + x + 4 * y] : [10, 240, 130 - x - 4 * y]);
    expect(rows(rasterOf(4, 4, far), 'etc1')).toEqual(['fa0c0c fa0c0c 13f079 13f079', ...Array(3).fill('fa0c0c fa0c0c 0fec75 0fec75')]);
    expect(
      rows(
        rasterOf(4, 4, (x, y) => far(y, x)),
        'etc1',
      ),
    ).toEqual([...Array(2).fill('fa0c0c fa0c0c fa0c0c fa0c0c'), ...Array(2).fill('13f079 0fec75 0fec75 0fec75')]);
    const near = rasterOf(4, 4, (x, y) => [100 + x + 4 * y, 120 - x - 4 * y, 130 + x * 20]);
    expect(rows(near, 'etc1')).toEqual(Array(4).fill('647586 68798a 5e6fb3 6879bd'));
    expect(rows(near, 'bc1')).toEqual(Array(4).fill('6b7184 6b7097 6b6eaa 6b6dbd'));
  });
});
