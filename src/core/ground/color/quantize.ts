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

export function nearestIndex(lab: Lab, among: readonly Lab[]): number {
  return nearestOfAll(Float64Array.from(lab), among)[0]!;
}

/** For each color (`labs`: 3 numbers each) the index of the nearest of some, of equals the first. */
export function nearestOfAll(labs: Float64Array, among: readonly Lab[]): Uint16Array {
  const centers = Float64Array.from(among.flat());
  const out = new Uint16Array(labs.length / 3);
  for (let i = 0, at = 0; i < out.length; i++, at += 3) {
    const l = labs[at]!;
    const a = labs[at + 1]!;
    const b = labs[at + 2]!;
    let best = 0;
    let least = Infinity;
    for (let c = 0; c < centers.length; c += 3) {
      const dl = l - centers[c]!;
      const da = a - centers[c + 1]!;
      const db = b - centers[c + 2]!;
      const d = dl * dl + da * da + db * db;
      if (d < least) {
        least = d;
        best = c;
      }
    }
    out[i] = best / 3;
  }
  return out;
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
