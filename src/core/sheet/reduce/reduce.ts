import { hexFromRgb, rgbFromHex, type Hex } from '../../ground/color/hex';
import { distinctColors, none, type DistinctColors } from '../../ground/color/distinctColors';
import { labDistance, labFromRgb, rgbFromLab } from '../../ground/color/oklab';
import { centersOf, nearestAmong, nearestOfAll } from '../../ground/color/quantize';
import type { Raster } from '../../ground/pictures/raster';
import { spareColor } from '../raster';
import { checkerTexels, type Checkering } from './checkering';
import { countingTexels, resample, spansOfTexels, type Resampled, type Sampling } from './resample';

/** How a picture becomes few big texels of few colors. */
export interface Reduction {
  /** Texels; never more than the picture has. */
  width: number;
  height: number;
  sampling: Sampling;
  /** The most colors. */
  colors: number;
  /** Colors to keep to; any where it is not told. */
  among?: readonly Hex[];
  checkering: Checkering;
}

export interface Reduced {
  width: number;
  height: number;
  /** Those that are used, the most frequent first. */
  colors: Hex[];
  /** Row by row: which color, counted from 1; 0 nothing. */
  index: Uint16Array;
  /** How far the picture's texels are from what is shown in their place, OKLab: mean and largest. */
  mean: number;
  worst: number;
}

/** The most colors, and the largest picture by its side in texels that comes of it. */
export const reductionLimits = { colors: 256, side: 4096 } as const;

/**
 * A picture in few colors and few texels. `isUnder`: 1 for texels that lie under islands, all where it is not told: the others
 * take no color from the count, and show the color of the island nearest to them. Deterministic. Throws where there
 * are less than one or more than 256 colors, no texels, or more than the picture has, or no color to keep to.
 */
export function reducePicture(raster: Raster, reduction: Reduction, isUnder?: Uint8Array): Reduced {
  check(raster, reduction);
  const few = resample(raster, reduction, reduction.sampling, isUnder);
  const own = distinctColors(few.data, few.counts);
  const chosen = chooseColors(own, reduction);
  const nearest = nearestOfAll(own.labs, chosen.map((c) => labFromRgb(rgbFromHex(c)))); // prettier-ignore
  const { checkering } = reduction;
  const checkered = checkering === 'none' ? null : checkerTexels(few, own, nearest, chosen.map(rgbFromHex), checkering);
  const { colors, number } = inOrder(
    chosen,
    checkered ? usesOf(few, checkered, chosen.length) : usesOfNearest(own, nearest, chosen.length),
  );
  const index = checkered
    ? numbersOf(checkered, few.counts, number)
    : numbersOf(own.of, few.counts, nearest.map((n) => number[n]!)); // prettier-ignore
  const shown = { width: few.width, height: few.height, colors, index };
  const isSameSize = few.width === raster.width && few.height === raster.height;
  const error =
    isSameSize && !checkered
      ? errorOfColors(own, nearest, chosen)
      : errorOf(raster, isSameSize ? own : distinctColors(raster.data, countingTexels(raster, isUnder)), shown);
  grow(few, index);
  return { ...shown, ...error };
}

/** The number of what each texel that counts has, 0 for the others. */
function numbersOf(found: Uint16Array | Uint32Array, counts: Uint8Array, number: Uint16Array): Uint16Array {
  const out = new Uint16Array(counts.length);
  for (let t = 0; t < out.length; t++) if (counts[t]) out[t] = number[found[t]!]!;
  return out;
}

/** What was reduced as a picture. */
export function rasterOfReduced({ width, height, colors, index }: Pick<Reduced, 'width' | 'height' | 'colors' | 'index'>): Raster {
  const data = new Uint8Array(width * height * 4);
  const rgbs = colors.map(rgbFromHex);
  // What is see-through has a grey that harms no neighbour where filters mix it in.
  index.forEach((n, t) => data.set(n ? [...rgbs[n - 1]!, 255] : [...spareColor, 0], t * 4));
  return { width, height, data };
}

function check({ width, height }: Raster, reduction: Reduction): void {
  const { colors, among } = reduction;
  const isCount = (v: number, most: number) => Number.isInteger(v) && v >= 1 && v <= most;
  if (!isCount(colors, reductionLimits.colors)) throw new Error(`A picture is brought to 1 to ${reductionLimits.colors} colors.`);
  if (!isCount(reduction.width, reductionLimits.side) || !isCount(reduction.height, reductionLimits.side))
    throw new Error(`A picture is brought to 1 to ${reductionLimits.side.toLocaleString('en')} texels a side.`);
  if (reduction.width > width || reduction.height > height)
    throw new Error(
      `The picture has ${width} × ${height} texels; ${reduction.width} × ${reduction.height} would be more. Choose a smaller size.`,
    );
  if (among && !among.length) throw new Error('There is no color to keep to. Add one to the list, or let any be chosen.');
}

/** Colors that stand for what counts, at most as many as are wanted; of those to keep to, the nearest to them. */
function chooseColors(own: DistinctColors, { colors, among }: Reduction): Hex[] {
  if (!own.colors.length) return [];
  // As many as may be: all are there to be chosen from.
  if (among && among.length <= colors) return [...new Set(among)];
  const free = freeColors(own, colors);
  if (!among) return free;
  const nearest = nearestAmong(among.map((c) => labFromRgb(rgbFromHex(c))));
  return [...new Set(free.map((c) => among[nearest(...labFromRgb(rgbFromHex(c)))]!))];
}

function freeColors({ colors, labs, counts }: DistinctColors, count: number): Hex[] {
  if (colors.length <= count) return Array.from(colors, (c) => hexFromRgb([c >> 16, (c >> 8) & 255, c & 255]));
  const near = together(labs, colors, counts);
  return centersOf(near.labs, near.weights, count).map((lab) => hexFromRgb(rgbFromLab(lab)));
}

/** Colors up to which each is weighed by itself; of more, those that are alike to 32 levels a channel are weighed together. */
const mostExact = 4096;

function together(labs: Float64Array, colors: Uint32Array, counts: Uint32Array): { labs: Float64Array; weights: ArrayLike<number> } {
  if (colors.length <= mostExact) return { labs, weights: counts };
  const sums = new Float64Array(32768 * 4);
  for (let i = 0; i < colors.length; i++) {
    const c = colors[i]!;
    const at = (((c >> 19) << 10) | (((c >> 11) & 31) << 5) | ((c >> 3) & 31)) * 4;
    for (let k = 0; k < 3; k++) sums[at + k]! += labs[i * 3 + k]! * counts[i]!;
    sums[at + 3]! += counts[i]!;
  }
  const [means, weights]: [number[], number[]] = [[], []];
  for (let at = 0; at < sums.length; at += 4) {
    const n = sums[at + 3]!;
    if (!n) continue;
    means.push(sums[at]! / n, sums[at + 1]! / n, sums[at + 2]! / n);
    weights.push(n);
  }
  return { labs: Float64Array.from(means), weights };
}

function usesOf({ counts }: Resampled, found: Uint16Array, colors: number): Uint32Array {
  const uses = new Uint32Array(colors);
  for (let t = 0; t < found.length; t++) if (counts[t]) uses[found[t]!]!++;
  return uses;
}

/** Where every texel shows what its own color is nearest to. */
function usesOfNearest({ counts }: DistinctColors, nearest: Uint16Array, colors: number): Uint32Array {
  const uses = new Uint32Array(colors);
  for (let i = 0; i < nearest.length; i++) uses[nearest[i]!]! += counts[i]!;
  return uses;
}

/** Only colors that are used, and numbers from 1, the most frequent first; equals by their value. */
function inOrder(chosen: readonly Hex[], uses: Uint32Array): { colors: Hex[]; number: Uint16Array } {
  const order = [...uses.keys()].filter((i) => uses[i]).sort((a, b) => uses[b]! - uses[a]! || (chosen[a]! < chosen[b]! ? -1 : 1));
  const number = new Uint16Array(chosen.length);
  order.forEach((i, n) => (number[i] = n + 1));
  return { colors: order.map((i) => chosen[i]!), number };
}

/** Where every texel shows what its own color is nearest to. */
function errorOfColors(
  { labs: own, counts }: DistinctColors,
  nearest: Uint16Array,
  chosen: readonly Hex[],
): { mean: number; worst: number } {
  const labs = chosen.map((c) => labFromRgb(rgbFromHex(c)));
  let [sum, counted, worst] = [0, 0, 0];
  for (let i = 0; i < nearest.length; i++) {
    const off = labDistance([own[i * 3]!, own[i * 3 + 1]!, own[i * 3 + 2]!], labs[nearest[i]!]!);
    sum += off * counts[i]!;
    counted += counts[i]!;
    worst = Math.max(worst, off);
  }
  return { mean: counted ? sum / counted : 0, worst };
}

/** Over the picture's own texels, as far as they lie under islands and are opaque. */
function errorOf(
  { width, height }: Raster,
  { labs: own, of }: DistinctColors,
  shown: Pick<Reduced, 'width' | 'height' | 'colors' | 'index'>,
): { mean: number; worst: number } {
  const labs = Float64Array.from(shown.colors.flatMap((c) => labFromRgb(rgbFromHex(c))));
  const columns = texelsOfSpans(width, shown.width);
  const rows = texelsOfSpans(height, shown.height);
  let [sum, counted, worst] = [0, 0, 0];
  for (let v = 0, t = 0; v < height; v++)
    for (let u = 0; u < width; u++, t++) {
      const color = of[t]!;
      const number = shown.index[rows[v]! * shown.width + columns[u]!]!;
      if (color === none || !number) continue;
      const p = color * 3;
      const q = (number - 1) * 3;
      const dl = own[p]! - labs[q]!;
      const da = own[p + 1]! - labs[q + 1]!;
      const db = own[p + 2]! - labs[q + 2]!;
      const off = Math.sqrt(dl * dl + da * da + db * db);
      sum += off;
      counted++;
      if (off > worst) worst = off;
    }
  return { mean: counted ? sum / counted : 0, worst };
}

/** For each of `from` texels which of `to` takes its place. */
function texelsOfSpans(from: number, to: number): Uint32Array {
  const spans = spansOfTexels(from, to);
  const out = new Uint32Array(from);
  for (let i = 0; i < to; i++) out.fill(i, spans[i], spans[i + 1]);
  return out;
}

/** Texels outside of all islands show the color of the nearest island, ring by ring, so that filters mix in nothing else. */
function grow({ width, height, counts, isClear }: Resampled, index: Uint16Array): void {
  let edge: number[] = [];
  if (!counts.includes(0)) return;
  const isKnown = counts.map((own, t) => own | isClear[t]!);
  // Nothing is outside of a picture that is taken as a whole.
  if (!isKnown.includes(0)) return;
  for (let t = 0; t < index.length; t++) if (isKnown[t]) edge.push(t);
  while (edge.length) {
    const next: number[] = [];
    for (const t of edge) {
      const [x, y] = [t % width, Math.floor(t / width)];
      const visit = (n: number) => {
        if (isKnown[n]) return;
        isKnown[n] = 1;
        index[n] = index[t]!;
        next.push(n);
      };
      if (x > 0) visit(t - 1);
      if (x + 1 < width) visit(t + 1);
      if (y > 0) visit(t - width);
      if (y + 1 < height) visit(t + width);
    }
    edge = next;
  }
}
