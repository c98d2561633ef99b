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
 * The different colors of texels; `data`: sRGB bytes, `stride` (3 or 4) for each. `counts`: which texels count, 1 each.
 * Method: a table by hashed color, looked through one by one from where it should be.
 */
export function distinctColors(data: Uint8Array, stride: 3 | 4, counts: Uint8Array): DistinctColors {
  const of = new Uint32Array(counts.length).fill(none);
  let places = new Int32Array(1024).fill(-1);
  let colors = new Uint32Array(512);
  let times = new Uint32Array(512);
  let count = 0;
  const placeOf = (color: number): number => {
    const mask = places.length - 1;
    let at = (Math.imul(color, 0x9e3779b1) >>> 8) & mask;
    while (places[at]! >= 0 && colors[places[at]!] !== color) at = (at + 1) & mask;
    return at;
  };
  const twice = () => {
    const [moreColors, moreTimes] = [new Uint32Array(count * 2), new Uint32Array(count * 2)];
    moreColors.set(colors);
    moreTimes.set(times);
    [colors, times] = [moreColors, moreTimes];
    places = new Int32Array(places.length * 2).fill(-1);
    for (let i = 0; i < count; i++) places[placeOf(colors[i]!)] = i;
  };
  let last = -1;
  for (let t = 0, i = 0; t < of.length; t++, i += stride) {
    if (!counts[t]) continue;
    const color = (data[i]! << 16) | (data[i + 1]! << 8) | data[i + 2]!;
    if (last < 0 || colors[last] !== color) {
      let place = placeOf(color);
      if (places[place]! < 0) {
        if (count === colors.length) {
          twice();
          place = placeOf(color);
        }
        colors[count] = color;
        places[place] = count++;
      }
      last = places[place]!;
    }
    times[last]!++;
    of[t] = last;
  }
  const own = colors.slice(0, count);
  const labs = new Float64Array(count * 3);
  for (let i = 0; i < count; i++) {
    const c = own[i]!;
    const lab = labFromRgb([c >> 16, (c >> 8) & 255, c & 255]);
    for (let k = 0; k < 3; k++) labs[i * 3 + k] = lab[k]!;
  }
  return { colors: own, labs, counts: times.slice(0, count), of };
}
