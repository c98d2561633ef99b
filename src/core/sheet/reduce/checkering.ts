import type { DistinctColors } from '../../ground/color/distinctColors';
import { labFromLinear, labFromRgb, linearFromByte, type Lab, type Rgb } from '../../ground/color/oklab';
import { nearestAmong } from '../../ground/color/quantize';
import { orderOfTexel } from '../paint/patterns';
import type { Resampled } from './resample';

/** How two colors feign a third: not at all, by an even pattern, or by handing on what each texel is off by. */
export type Checkering = 'none' | 'ordered' | 'diffusion';

/** The color of each texel that counts, as its index. `own`: the different colors of those texels; `nearest`: which color each is nearest to. */
export function checkerTexels(
  from: Resampled,
  own: DistinctColors,
  nearest: Uint16Array,
  colors: readonly Rgb[],
  checkering: Exclude<Checkering, 'none'>,
): Uint16Array {
  const labs = colors.map(labFromRgb);
  if (checkering === 'diffusion') return diffused(from, colors, labs);
  const index = new Uint16Array(from.counts.length);
  const pairs = pairsOf(own, nearest, labs);
  for (let t = 0; t < index.length; t++) {
    if (!from.counts[t]) continue;
    const color = own.of[t]!;
    const isOther = pairs.share[color]! > orderOfTexel(t % from.width, Math.floor(t / from.width));
    index[t] = isOther ? pairs.other[color]! : nearest[color]!;
  }
  return index;
}

/** How much the distance of two colors counts against mixing them: far ones show as dots. */
const dotsShow = 0.15;

/** For each color the one that, mixed at a share of at most a half with the nearest, comes nearest to it. */
function pairsOf({ labs: own }: DistinctColors, nearest: Uint16Array, labs: readonly Lab[]): { other: Uint16Array; share: Float32Array } {
  const flat = Float64Array.from(labs.flat());
  const other = nearest.slice();
  const share = new Float32Array(nearest.length);
  for (let i = 0; i < nearest.length; i++) {
    const n = nearest[i]! * 3;
    const [l, a, b] = [flat[n]!, flat[n + 1]!, flat[n + 2]!];
    const [wl, wa, wb] = [own[i * 3]! - l, own[i * 3 + 1]! - a, own[i * 3 + 2]! - b];
    let least = Math.sqrt(wl * wl + wa * wa + wb * wb);
    for (let c = 0; c < flat.length; c += 3) {
      const [dl, da, db] = [flat[c]! - l, flat[c + 1]! - a, flat[c + 2]! - b];
      const length = dl * dl + da * da + db * db;
      if (length === 0) continue;
      const part = Math.max(0, Math.min(0.5, (wl * dl + wa * da + wb * db) / length));
      const [ol, oa, ob] = [wl - dl * part, wa - da * part, wb - db * part];
      const off = Math.sqrt(ol * ol + oa * oa + ob * ob) + dotsShow * Math.sqrt(length * part);
      if (off >= least) continue;
      least = off;
      other[i] = c / 3;
      share[i] = part;
    }
  }
  return { other, share };
}

/** Where no color comes near, what is handed on would grow without end, and show far away. */
const within = (light: number): number => Math.max(-1, Math.min(2, light));

/**
 * Every texel takes the color nearest to what it should be, and hands what it is off by, in linear light, to those that
 * follow, as far as they count. Source: R. W. Floyd, L. Steinberg, An adaptive algorithm for spatial grey scale, 1976;
 * rows to and fro.
 */
function diffused({ width, height, data, counts }: Resampled, colors: readonly Rgb[], labs: readonly Lab[]): Uint16Array {
  const index = new Uint16Array(counts.length);
  const linear = colors.map((c) => c.map(linearFromByte));
  const off = [new Float64Array((width + 2) * 3), new Float64Array((width + 2) * 3)];
  const wanted = [0, 0, 0];
  const nearest = nearestAmong(labs);
  for (let y = 0; y < height; y++) {
    const [here, below] = [off[y & 1]!, off[(y + 1) & 1]!];
    below.fill(0);
    const step = y & 1 ? -1 : 1;
    for (let i = 0; i < width; i++) {
      const x = step > 0 ? i : width - 1 - i;
      const t = y * width + x;
      if (!counts[t]) continue;
      for (let k = 0; k < 3; k++) wanted[k] = within(linearFromByte(data[t * 4 + k]!) + here[(x + 1) * 3 + k]!);
      const best = nearest(...labFromLinear(wanted[0]!, wanted[1]!, wanted[2]!));
      index[t] = best;
      for (let k = 0; k < 3; k++) {
        const error = (wanted[k]! - linear[best]![k]!) / 16;
        here[(x + 1 + step) * 3 + k]! += error * 7;
        below[(x + 1 - step) * 3 + k]! += error * 3;
        below[(x + 1) * 3 + k]! += error * 5;
        below[(x + 1 + step) * 3 + k]! += error;
      }
    }
  }
  return index;
}
