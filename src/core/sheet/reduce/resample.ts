import { byteFromLinear, linearFromByte } from '../../ground/color/oklab';
import type { Raster } from '../../ground/pictures/raster';

/** How one texel comes of the many that it takes the place of: the one in the middle, their most frequent color, or their mean. */
export type Sampling = 'nearest' | 'majority' | 'area';

/** Few texels of many: sRGB bytes, 4 each, of which the last is not looked at, and which count: 1 where any that is under an island and opaque lies there. */
export interface Resampled {
  width: number;
  height: number;
  data: Uint8Array;
  counts: Uint8Array;
  /** 1 where an island lies but most of it is see-through. */
  isClear: Uint8Array;
}

/** First texel of each of `to` spans of `from` texels, and the end of the last. */
export const spansOfTexels = (from: number, to: number): Uint32Array =>
  Uint32Array.from({ length: to + 1 }, (_, i) => Math.floor((i * from) / to));

/** The texels of a picture that take part, 1 each: under islands, where that is told, and of half opacity or more. */
export function countingTexels({ width, height, data }: Raster, isUnder?: Uint8Array): Uint8Array {
  const counts = new Uint8Array(width * height);
  for (let t = 0; t < counts.length; t++) counts[t] = data[t * 4 + 3]! >> 7;
  if (isUnder) for (let t = 0; t < counts.length; t++) if (!isUnder[t]) counts[t] = 0;
  return counts;
}

/**
 * A picture in fewer texels, `width` × `height`, at most as many as it has. `isUnder`: 1 for texels that lie under islands,
 * all where it is not told; no others take part. Texels of less than half opacity are nothing.
 */
export function resample(
  { width: fromWidth, height: fromHeight, data }: Raster,
  { width, height }: { width: number; height: number },
  sampling: Sampling,
  isUnder?: Uint8Array,
): Resampled {
  if (width === fromWidth && height === fromHeight) return asItIs({ width, height, data }, isUnder);
  const [columns, rows] = [spansOfTexels(fromWidth, width), spansOfTexels(fromHeight, height)];
  const few = new Uint8Array(width * height * 4);
  const counts = new Uint8Array(width * height);
  const isClear = new Uint8Array(width * height);
  const block: number[] = [];
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      block.length = 0;
      let clear = 0;
      for (let v = rows[y]!; v < rows[y + 1]!; v++)
        for (let u = columns[x]!; u < columns[x + 1]!; u++) {
          const t = v * fromWidth + u;
          if (isUnder && !isUnder[t]) continue;
          if (data[t * 4 + 3]! < 128) clear++;
          else block.push(t);
        }
      const at = y * width + x;
      if (clear > block.length) isClear[at] = 1;
      else if (block.length) {
        counts[at] = 1;
        const middle = [(columns[x]! + columns[x + 1]! - 1) / 2, (rows[y]! + rows[y + 1]! - 1) / 2] as const;
        if (sampling === 'area') meanOf(data, block, few, at * 4);
        else if (sampling === 'majority') majorityOf(data, block, few, at * 4);
        else takeTexel(data, nearestTo(block, fromWidth, middle), few, at * 4);
      }
    }
  return { width, height, data: few, counts, isClear };
}

function asItIs(raster: Raster, isUnder?: Uint8Array): Resampled {
  const counts = countingTexels(raster, isUnder);
  const isClear = counts.includes(0) ? counts.map((own, t) => (!own && (!isUnder || isUnder[t]) ? 1 : 0)) : new Uint8Array(counts.length);
  return { ...raster, counts, isClear };
}

function takeTexel(data: Uint8Array, texel: number, out: Uint8Array, at: number): void {
  for (let k = 0; k < 3; k++) out[at + k] = data[texel * 4 + k]!;
}

function nearestTo(block: readonly number[], width: number, [mx, my]: readonly [number, number]): number {
  let [best, least] = [block[0]!, Infinity];
  for (const t of block) {
    const distance = ((t % width) - mx) ** 2 + (Math.floor(t / width) - my) ** 2;
    if (distance < least) [best, least] = [t, distance];
  }
  return best;
}

/** In linear light, as light of many texels adds up. */
function meanOf(data: Uint8Array, block: readonly number[], out: Uint8Array, at: number): void {
  for (let k = 0; k < 3; k++) {
    let sum = 0;
    for (const t of block) sum += linearFromByte(data[t * 4 + k]!);
    out[at + k] = byteFromLinear(sum / block.length);
  }
}

/** Of 32 levels a channel the most frequent color, of equals the first; then the mean of its texels. */
function majorityOf(data: Uint8Array, block: readonly number[], out: Uint8Array, at: number): void {
  const binOf = (t: number) => ((data[t * 4]! >> 3) << 10) | ((data[t * 4 + 1]! >> 3) << 5) | (data[t * 4 + 2]! >> 3);
  const counts = new Map<number, number>();
  for (const t of block) counts.set(binOf(t), (counts.get(binOf(t)) ?? 0) + 1);
  let [best, most] = [-1, 0];
  for (const [bin, count] of counts) if (count > most) [best, most] = [bin, count];
  meanOf(
    data,
    block.filter((t) => binOf(t) === best),
    out,
    at,
  );
}
