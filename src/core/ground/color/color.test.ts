import { converter, differenceEuclidean } from 'culori';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { hexFromLch, hexFromRgb, lchFromHex, parseHex, rgbFromHex } from './hex';
import { fitToGamut, isInGamut, labDistance, labFromRgb, lchFromRgb, rgbFromLab, type Lab } from './oklab';
import { nearestOfAll, quantize } from './quantize';

const byte = fc.integer({ min: 0, max: 255 });
const rgb = fc.tuple(byte, byte, byte);
const oklab = converter('oklab');

describe('OKLab', () => {
  it('agrees with an independent implementation, and returns to the same bytes', () => {
    fc.assert(
      fc.property(rgb, (c) => {
        const theirs = oklab(hexFromRgb(c))!;
        const ours = labFromRgb(c);
        expect(Math.abs(ours[0] - theirs.l) + Math.abs(ours[1] - theirs.a) + Math.abs(ours[2] - theirs.b)).toBeLessThan(2e-6);
        expect(rgbFromLab(ours)).toEqual(c);
        expect(rgbFromHex(hexFromLch(lchFromRgb(c)))).toEqual(c);
      }),
      { seed: 1 },
    );
    expect(labDistance(labFromRgb([255, 0, 0]), labFromRgb([0, 0, 255]))).toBeCloseTo(differenceEuclidean('oklab')('#f00', '#00f'), 5);
  });

  it('meets the gamut by lowering chroma alone', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.02, max: 0.98, noNaN: true }),
        fc.double({ min: 0, max: 0.5, noNaN: true }),
        fc.double({ min: 0, max: 360, noNaN: true }),
        (l, c, h) => {
          const fit = fitToGamut({ l, c, h });
          expect(isInGamut(fit)).toBe(true);
          expect(fit.l).toBe(l);
          expect(fit.h).toBe(h);
          expect(fit.c).toBeLessThanOrEqual(c);
          if (fit.c < c) expect(isInGamut({ l, c: fit.c + 2e-3, h })).toBe(false);
        },
      ),
      { seed: 2 },
    );
  });

  it('reads what an artist types as a color', () => {
    expect(parseHex(' #B5463A ')).toBe('#b5463a');
    expect(parseHex('fa0')).toBe('#ffaa00');
    expect(parseHex('#12345')).toBeNull();
    expect(lchFromHex('#808080').c).toBeLessThan(1e-4);
  });
});

it('the nearest color is that which comparing with all finds, of equals the first, also far from every one', () => {
  // On a coarse grid: many are equally near, of one lightness, or at a border between two levels of it.
  const part = fc.integer({ min: -2, max: 10 }).map((v) => v / 8);
  const lab: fc.Arbitrary<Lab> = fc.tuple(part, part, part);
  fc.assert(
    fc.property(fc.array(lab, { minLength: 1, maxLength: 40 }), fc.array(lab), (among, of) => {
      const off = (c: Lab, o: Lab) => (c[0] - o[0]) ** 2 + (c[1] - o[1]) ** 2 + (c[2] - o[2]) ** 2;
      const wanted = of.map((o) => among.reduce((best, c, i) => (off(c, o) < off(among[best]!, o) ? i : best), 0));
      expect([...nearestOfAll(Float64Array.from(of.flat()), among)]).toEqual(wanted);
    }),
  );
});

describe('quantize', () => {
  it('returns few colors exactly', () => {
    const input = ['#b5463a', '#111111', '#b5463a'].map((h) => ({ rgb: rgbFromHex(h), weight: 1 }));
    const { colors, assignment, maxError } = quantize(input, 2);
    expect(colors.map(hexFromRgb)).toEqual(['#b5463a', '#111111']);
    expect([...assignment]).toEqual([0, 1, 0]);
    expect(maxError).toBe(0);
  });

  it('finds the families of a noisy palette and states its error', () => {
    const families = ['#b5463a', '#2d3446', '#e2bf62', '#7f8b40'].map(rgbFromHex);
    const input = Array.from({ length: 400 }, (_, i) => ({
      rgb: families[i % 4]!.map((v, k) => v + ((i * (k + 3)) % 7) - 3) as unknown as [number, number, number],
      weight: 1,
    }));
    const { colors, assignment, maxError, meanError } = quantize(input, 4);
    expect(new Set([0, 1, 2, 3].map((i) => assignment[i]))).toHaveProperty('size', 4);
    assignment.forEach((c, i) => expect(c).toBe(assignment[i % 4]));
    const worst = Math.max(...input.map((c, i) => labDistance(labFromRgb(c.rgb), labFromRgb(colors[assignment[i]!]!))));
    expect(maxError).toBeCloseTo(worst, 9);
    expect(meanError).toBeLessThan(maxError);
  });
});
