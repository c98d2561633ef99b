import { labDistance, labFromRgb, rgbFromLab, type Lab, type Rgb } from './oklab';

export interface WeightedColor {
  rgb: Rgb;
  weight: number;
}
export interface Quantized {
  colors: Rgb[];
  /** For each input color, the index of the color that stands for it. */
  assignment: Uint32Array;
  /** Largest and mean (by weight) OKLab distance between an input color and its stand-in. */
  maxError: number;
  meanError: number;
}

/**
 * At most `count` colors that stand for the given ones, with the least squared OKLab error by weight (`centersOf`). Where
 * the input has no more than `count` distinct colors it is returned exactly.
 */
export function quantize(input: readonly WeightedColor[], count: number): Quantized {
  const keys = new Map<number, number>();
  const distinct: WeightedColor[] = [];
  const of = new Uint32Array(input.length);
  input.forEach(({ rgb, weight }, i) => {
    const key = (rgb[0] << 16) | (rgb[1] << 8) | rgb[2];
    let at = keys.get(key);
    if (at === undefined) {
      at = distinct.length;
      keys.set(key, at);
      distinct.push({ rgb, weight: 0 });
    }
    distinct[at]!.weight += weight;
    of[i] = at;
  });
  if (distinct.length <= count) return { colors: distinct.map((d) => d.rgb), assignment: of, maxError: 0, meanError: 0 };

  const labs = distinct.map((d) => labFromRgb(d.rgb));
  const weights = Float64Array.from(distinct, (d) => d.weight);
  const flat = Float64Array.from(labs.flat());
  const colors = centersOf(flat, weights, count).map(rgbFromLab);
  const shown = colors.map(labFromRgb);
  const nearest = nearestOfAll(flat, shown);
  let maxError = 0;
  let sum = 0;
  let total = 0;
  nearest.forEach((c, i) => {
    const d = labDistance(labs[i]!, shown[c]!);
    maxError = Math.max(maxError, d);
    sum += d * weights[i]!;
    total += weights[i]!;
  });
  return { colors, assignment: of.map((d) => nearest[d]!), maxError, meanError: total > 0 ? sum / total : 0 };
}

/** For each color (`labs`: 3 numbers each) the index of the nearest of some, of equals the first. */
export function nearestOfAll(labs: Float64Array, among: readonly Lab[]): Uint16Array {
  const nearest = nearestAmong(among);
  const out = new Uint16Array(labs.length / 3);
  for (let i = 0, at = 0; i < out.length; i++, at += 3) out[i] = nearest(labs[at]!, labs[at + 1]!, labs[at + 2]!);
  return out;
}

/**
 * Which of some colors is the nearest, of equals the first. Method: from those of its lightness on both ways, until lightness
 * alone is farther off than what was found.
 */
export function nearestAmong(among: readonly Lab[]): (l: number, a: number, b: number) => number {
  const order = Uint16Array.from(among, (_, c) => c).sort((p, q) => among[p]![0] - among[q]![0]);
  const centers = Float64Array.from(order, (c) => among[c]![0]);
  const as = Float64Array.from(order, (c) => among[c]![1]);
  const bs = Float64Array.from(order, (c) => among[c]![2]);
  const startOf = startsByLightness(centers);
  return (l, a, b) => {
    let best = 0;
    let least = Infinity;
    const start = startOf[l > 0 ? (l < 1 ? Math.floor(l * levels) : levels) : 0]!;
    for (let step = 1, c = start; step >= -1; step -= 2, c = start - 1)
      for (; c >= 0 && c < centers.length; c += step) {
        const dl = l - centers[c]!;
        const byLightness = dl * dl;
        // Past those of its own lightness all that follow are farther off still.
        if (byLightness > least && dl * step < 0) break;
        const da = a - as[c]!;
        const db = b - bs[c]!;
        const d = byLightness + da * da + db * db;
        if (d < least || (d === least && order[c]! < best)) {
          least = d;
          best = order[c]!;
        }
      }
    return best;
  };
}

const levels = 256;

/** Where to begin among ascending lightnesses, for each level of lightness: at the first that is not below it. */
function startsByLightness(ascending: Float64Array): Uint16Array {
  const starts = new Uint16Array(levels + 1);
  for (let level = 0, c = 0; level <= levels; level++) {
    while (c < ascending.length && ascending[c]! < level / levels) c++;
    starts[level] = c;
  }
  return starts;
}

/** No weight of 0 takes a color out of the count. */
const leastWeight = 1e-9;

/**
 * At most `count` colors with the least squared distance to the given ones (`labs`: 3 numbers each) by weight.
 *
 * Method: cut the widest box of the color space at its weighted mean (after Heckbert, 1982, in OKLab), then
 * Lloyd's iteration.
 */
export function centersOf(labs: Float64Array, weights: ArrayLike<number>, count: number): Lab[] {
  return settle(labs, weights, cutBoxes(labs, weights, count));
}

interface Box {
  /** Where its members begin and end in the order. */
  from: number;
  to: number;
  mean: [number, number, number];
  /** The axis along which its members spread most, and how much. */
  axis: number;
  spread: number;
}

function cutBoxes(labs: Float64Array, weights: ArrayLike<number>, count: number): Lab[] {
  const order = Uint32Array.from(weights, (_, i) => i);
  const boxOf = (from: number, to: number): Box => {
    const mean: [number, number, number] = [0, 0, 0];
    let total = 0;
    for (let i = from; i < to; i++) {
      const at = order[i]! * 3;
      const w = Math.max(weights[order[i]!]!, leastWeight);
      total += w;
      for (let k = 0; k < 3; k++) mean[k]! += labs[at + k]! * w;
    }
    for (let k = 0; k < 3; k++) mean[k]! /= total;
    const spreads = [0, 0, 0];
    for (let i = from; i < to; i++) {
      const at = order[i]! * 3;
      const w = Math.max(weights[order[i]!]!, leastWeight);
      for (let k = 0; k < 3; k++) spreads[k]! += (labs[at + k]! - mean[k]!) * (labs[at + k]! - mean[k]!) * w;
    }
    const spread = to - from < 2 ? 0 : Math.max(...spreads);
    return { from, to, mean, axis: Math.max(0, spreads.indexOf(spread)), spread };
  };
  const boxes = [boxOf(0, order.length)];
  while (boxes.length < count) {
    const widest = boxes.reduce((most, box, i) => (box.spread > boxes[most]!.spread ? i : most), 0);
    const { from, to, mean, axis, spread } = boxes[widest]!;
    if (!(spread > 0)) break;
    // Those at or below the mean first, each half in its order.
    const members = order.slice(from, to);
    let low = from;
    for (const i of members) if (labs[i * 3 + axis]! <= mean[axis]!) order[low++] = i;
    if (low === from || low === to) break;
    let high = low;
    for (const i of members) if (labs[i * 3 + axis]! > mean[axis]!) order[high++] = i;
    boxes.splice(widest, 1, boxOf(from, low), boxOf(low, to));
  }
  return boxes.map((b) => b.mean);
}

/** OKLab; far below what can be seen. */
const stillness = 1e-4;

function settle(labs: Float64Array, weights: ArrayLike<number>, start: Lab[]): Lab[] {
  let centers = start;
  for (let round = 0; round < 12; round++) {
    const owner = nearestOfAll(labs, centers);
    const sums = new Float64Array(centers.length * 4);
    for (let i = 0; i < owner.length; i++) {
      const at = owner[i]! * 4;
      const w = Math.max(weights[i]!, leastWeight);
      sums[at]! += labs[i * 3]! * w;
      sums[at + 1]! += labs[i * 3 + 1]! * w;
      sums[at + 2]! += labs[i * 3 + 2]! * w;
      sums[at + 3]! += w;
    }
    const next = centers.map((c, k): Lab => {
      const [l, a, b, total] = sums.subarray(k * 4, k * 4 + 4) as unknown as [number, number, number, number];
      return total > 0 ? [l / total, a / total, b / total] : c;
    });
    const moved = next.reduce((most, c, k) => Math.max(most, labDistance(c, centers[k]!)), 0);
    centers = next;
    if (moved < stillness) break;
  }
  return centers;
}
