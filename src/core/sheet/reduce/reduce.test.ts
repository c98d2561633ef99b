import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { rgbFromHex, type Hex } from '../../ground/color/hex';
import { labDistance, labFromRgb, type Rgb } from '../../ground/color/oklab';
import type { Raster } from '../../ground/pictures/raster';
import { reducePicture, type Reduction } from './reduce';

const tones: Record<string, Hex> = { k: '#000000', w: '#ffffff', r: '#c03020', b: '#2040c0', g: '#808080' };
/** A picture in letters, row by row; `.`: see-through. */
const picture = (...rows: string[]): Raster => ({
  width: rows[0]!.length,
  height: rows.length,
  data: Uint8Array.from(rows.flatMap((row) => [...row].flatMap((c) => (tones[c] ? [...rgbFromHex(tones[c]), 255] : [9, 9, 9, 0])))),
});
const usual: Reduction = { width: 1, height: 1, sampling: 'nearest', colors: 256, checkering: 'none' };
/** What comes of it, in letters; `?` where the color is another. */
function drawn(of: Raster, reduction: Partial<Reduction>, isUnder?: Uint8Array): string[] {
  const { width, colors, index } = reducePicture(of, { ...usual, width: of.width, height: of.height, ...reduction }, isUnder);
  const letter = new Map(Object.entries(tones).map(([k, hex]) => [hex, k]));
  const all = Array.from(index, (n) => (n ? (letter.get(colors[n - 1]!) ?? '?') : '.')).join('');
  return all.match(new RegExp(`.{${width}}`, 'g'))!;
}
const under = (...rows: string[]) => Uint8Array.from([...rows.join('')], (c) => (c === '#' ? 1 : 0));

describe('fewer texels', () => {
  it('takes the middle one, the most frequent, or the mean in linear light', () => {
    const from = picture('kkwwrr', 'kwwwrb', 'kkwwrr');
    expect(drawn(from, { width: 2, height: 1 })).toEqual(['wr']);
    expect(drawn(picture('kkwrrb', 'kkkwrr', 'kwkwrr'), { width: 2, height: 1, sampling: 'majority' })).toEqual(['kr']);
    const { colors } = reducePicture(picture('kw', 'wk'), { ...usual, sampling: 'area' });
    // Half of the light, not half of the byte.
    expect(colors).toEqual(['#bcbcbc']);
  });

  it('takes nothing from beside islands, and has the islands go on there', () => {
    const from = picture('rrbb', 'rrbb', 'kkww', 'kkww');
    expect(drawn(from, { width: 2, height: 2, sampling: 'area' }, under('#...', '....', '....', '...#'))).toEqual(['rr', 'rw']);
    const { colors } = reducePicture(from, { ...usual, width: 2, height: 2, colors: 1 }, under('#...', '....', '....', '....'));
    expect(colors).toEqual([tones.r]);
  });

  it('leaves see-through what is mostly so, and does not let it count', () => {
    expect(drawn(picture('k.', '..', 'kk', '.k'), { width: 1, height: 2, sampling: 'area' })).toEqual(['.', 'k']);
    expect(drawn(picture('....', '....'), { width: 2, height: 1 })).toEqual(['..']);
  });

  it('takes uneven steps, each texel once', () =>
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 17 }), fc.integer({ min: 1, max: 17 }), (a, b) => {
        const [from, to] = [Math.max(a, b), Math.min(a, b)];
        const stripes = picture(Array.from({ length: from }, (_, i) => 'kwrbg'[i % 5]).join(''));
        const { index, mean } = reducePicture(stripes, { ...usual, width: to, height: 1 });
        expect(index.every((n) => n > 0)).toBe(true);
        expect(mean === 0).toBe(to === from || from === 1);
      }),
    ));
});

describe('fewer colors', () => {
  it('keeps few colors exactly, the most frequent first', () => {
    const { colors, index, mean, worst } = reducePicture(picture('wkw', 'rww'), { ...usual, width: 3, height: 2, colors: 3 });
    expect(colors).toEqual([tones.w, tones.k, tones.r]);
    expect([...index]).toEqual([1, 2, 1, 3, 1, 1]);
    expect([mean, worst]).toEqual([0, 0]);
  });

  it('states the error against the picture as it came', () => {
    const from = picture('kkkw', 'kkkk');
    const { mean, worst } = reducePicture(from, { ...usual, colors: 1, sampling: 'majority' });
    const off = labDistance(labFromRgb([0, 0, 0]), labFromRgb([255, 255, 255]));
    expect(worst).toBeCloseTo(off, 6);
    expect(mean).toBeCloseTo(off / 8, 6);
  });

  it('keeps to a list: all of it where it is short, else what comes nearest to the best', () => {
    const list: Hex[] = ['#101010', '#f0f0f0', '#b03020', '#2050c0'];
    const from = picture('kkwr', 'kbwr');
    expect(reducePicture(from, { ...usual, width: 4, height: 2, among: list }).colors.sort()).toEqual([...list].sort());
    const few = reducePicture(from, { ...usual, width: 4, height: 2, among: list, colors: 2 });
    expect(few.colors).toHaveLength(2);
    expect(few.colors.every((c) => list.includes(c))).toBe(true);
  });

  const noisy = fc
    .record({ side: fc.integer({ min: 2, max: 12 }), seed: fc.nat() })
    .map(({ side, seed }): Raster => ({ width: side, height: side, data: Uint8Array.from({ length: side * side * 4 }, (_, i) => (i % 4 === 3 ? 255 : (Math.imul(i + seed, 0x9e3779b1) >>> 20) & 255)) })); // prettier-ignore

  it('shows each texel in the nearest of its colors, whatever they are, and the same every time', () =>
    fc.assert(
      fc.property(noisy, fc.integer({ min: 1, max: 9 }), (from, colors) => {
        const reduction = { ...usual, width: from.width, height: from.height, colors };
        const reduced = reducePicture(from, reduction);
        expect(reducePicture(from, reduction)).toEqual(reduced);
        expect(reduced.colors.length).toBeLessThanOrEqual(colors);
        const labs = reduced.colors.map((c) => labFromRgb(rgbFromHex(c)));
        reduced.index.forEach((n, t) => {
          const lab = labFromRgb([...from.data.subarray(t * 4, t * 4 + 3)] as unknown as Rgb);
          const least = Math.min(...labs.map((l) => labDistance(lab, l)));
          expect(labDistance(lab, labs[n - 1]!)).toBeCloseTo(least, 9);
        });
      }),
    ));

  it('feigns a grey by black and white: evenly by a checker, at half of the light by handing on', () => {
    const grey: Raster = { width: 8, height: 8, data: new Uint8Array(256).map((_, i) => (i % 4 === 3 ? 255 : 99)) };
    const among: Hex[] = ['#000000', '#ffffff'];
    const at = { width: 8, height: 8, among };
    expect(new Set(drawn(grey, at))).toEqual(new Set(['kkkkkkkk']));
    const checker = drawn(grey, { ...at, checkering: 'ordered' });
    const whites = checker.join('').replace(/k/g, '').length;
    // 99 is at OKLab 0.5: not the half of its light.
    expect(whites).toBeGreaterThan(28);
    expect(whites).toBeLessThan(37);
    for (const [y, row] of checker.entries()) for (const [x, c] of [...row].entries()) if ((x ^ y) & 1) expect(c).toBe('k');
    // Light 0.125: one of eight.
    const handed = drawn(grey, { ...at, checkering: 'diffusion' })
      .join('')
      .replace(/k/g, '').length;
    expect(handed).toBeGreaterThan(5);
    expect(handed).toBeLessThan(12);
  });
});

it('refuses sizes and counts that cannot be, and says what to do', () => {
  const from = picture('kw', 'wk');
  const refused = (with_: Partial<Reduction>) => () => reducePicture(from, { ...usual, ...with_ });
  expect(refused({ width: 3 })).toThrow('The picture has 2 × 2 texels; 3 × 1 would be more. Choose a smaller size.');
  expect(refused({ colors: 0 })).toThrow('1 to 256 colors');
  expect(refused({ colors: 257 })).toThrow('1 to 256 colors');
  expect(refused({ height: 0 })).toThrow('1 to 4,096 texels a side');
  expect(refused({ width: 1.5 })).toThrow('1 to 4,096 texels a side');
  expect(refused({ among: [] })).toThrow('no color to keep to');
  expect(refused({ width: 1, height: 1, colors: 256, among: ['#000000'] })).not.toThrow();
});
