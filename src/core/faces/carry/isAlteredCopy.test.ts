import { expect, it } from 'vitest';
import { isAlteredCopy } from './isAlteredCopy';

const areas = (n: number, from = 1) => Float32Array.from({ length: n }, (_, i) => from + i * 0.1);

it('takes models for copies of one another where half of the faces have one of the same area', () => {
  const crate = areas(20);
  expect(isAlteredCopy(crate, areas(20).reverse())).toBe(true);
  // Ten of the same, ten others; then nine.
  expect(isAlteredCopy(crate, Float32Array.from([...areas(10), ...areas(10, 50)]))).toBe(true);
  expect(isAlteredCopy(crate, Float32Array.from([...areas(9), ...areas(11, 50)]))).toBe(false);
  // Rounded by a file, and beyond that.
  expect(isAlteredCopy(crate, crate.map((a) => a * 1.004))).toBe(true); // prettier-ignore
  expect(isAlteredCopy(Float32Array.of(1, 2), Float32Array.of(1.006, 2.012))).toBe(false);
  // A longer copy, and one thing of many that happens to have the same faces.
  expect(isAlteredCopy(crate, Float32Array.from([...crate, ...areas(60, 50)]))).toBe(true);
  expect(isAlteredCopy(crate, Float32Array.from([...crate, ...areas(61, 50)]))).toBe(false);
  expect(isAlteredCopy(new Float32Array(0), crate)).toBe(false);
  expect(isAlteredCopy(new Float32Array(0), new Float32Array(0))).toBe(false);
  // Whatever the order, and whichever of the two has small faces that the other lacks; the share is of the larger area.
  const more = Float32Array.from([...areas(9, 0.01), ...crate]);
  for (const list of [crate, crate.slice().reverse()]) {
    expect([isAlteredCopy(list, more), isAlteredCopy(more, list)]).toEqual([true, true]);
    expect([isAlteredCopy(list, more.slice().reverse()), isAlteredCopy(more.slice().reverse(), list)]).toEqual([true, true]);
  }
  expect([1.00502, 1.00504].map((a) => isAlteredCopy(Float32Array.of(1), Float32Array.of(a)))).toEqual([true, false]);
});
