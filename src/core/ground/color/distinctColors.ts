import { labFromRgb } from './oklab';

/** The different colors of many texels. */
export interface DistinctColors {
  /** Red, green and blue as one number, in the order in which they come first. */
  colors: Uint32Array;
  /** OKLab, 3 numbers for each color. */
  labs: Float64Array;
  /** How many texels have it. */
  counts: Uint32Array;
  /** Which color each texel has; `none` for those that do not count. */
  of: Uint32Array;
}

/** In `DistinctColors.of`. */
export const none = 0xffffffff;

/**
 * For each color one more than its number, 0 where it did not come; all 0 between calls. Its memory is only taken where
 * colors come.
 */
let numbers: Uint32Array | null = null;
/** Where a color stands in it: alike ones beside each other, as they lie beside each other in pictures, so that what is looked up is near. */
const placeOf = (r: number, g: number, b: number): number =>
  ((r >> 3) << 19) | ((g >> 3) << 14) | ((b >> 3) << 9) | ((r & 7) << 6) | ((g & 7) << 3) | (b & 7);

/**
 * The different colors of texels; `data`: sRGB bytes, 4 for each, of which the last is not looked at. `counts`: which texels
 * count, 1 each. Method: a table with a place for every color.
 */
export function distinctColors(data: Uint8Array, counts: Uint8Array): DistinctColors {
  const table = (numbers ??= new Uint32Array(2 ** 24));
  const of = new Uint32Array(counts.length);
  let colors = new Uint32Array(512);
  let times = new Uint32Array(512);
  let count = 0;
  for (let t = 0, i = 0; t < of.length; t++, i += 4) {
    if (!counts[t]) {
      of[t] = none;
      continue;
    }
    const place = placeOf(data[i]!, data[i + 1]!, data[i + 2]!);
    let number = table[place]!;
    if (!number) {
      if (count === colors.length) [colors, times] = [larger(colors), larger(times)];
      colors[count] = (data[i]! << 16) | (data[i + 1]! << 8) | data[i + 2]!;
      number = table[place] = ++count;
    }
    times[number - 1]!++;
    of[t] = number - 1;
  }
  const own = colors.slice(0, count);
  const labs = new Float64Array(count * 3);
  for (let i = 0; i < count; i++) {
    const [r, g, b] = [own[i]! >> 16, (own[i]! >> 8) & 255, own[i]! & 255];
    table[placeOf(r, g, b)] = 0;
    const lab = labFromRgb([r, g, b]);
    for (let k = 0; k < 3; k++) labs[i * 3 + k] = lab[k]!;
  }
  return { colors: own, labs, counts: times.slice(0, count), of };
}

function larger(list: Uint32Array): Uint32Array<ArrayBuffer> {
  const out = new Uint32Array(list.length * 2);
  out.set(list);
  return out;
}
