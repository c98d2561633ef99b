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
 * At most `count` colors that stand for the given ones, with the least squared OKLab error by weight.
 *
 * Method: cut the widest box of the color space at its weighted mean (after Heckbert, 1982, in OKLab), then
 * Lloyd's iteration. Where the input has no more than `count` distinct colors it is returned exactly.
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
  const weights = distinct.map((d) => d.weight);
  const centers = settle(labs, weights, cutBoxes(labs, weights, count));
  const colors = centers.map(rgbFromLab);
  const shown = colors.map(labFromRgb);
  const nearest = labs.map((lab) => nearestIndex(lab, shown));
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
  let best = 0;
  let least = Infinity;
  among.forEach((candidate, i) => {
    const d = labDistance(lab, candidate);
    if (d < least) {
      least = d;
      best = i;
    }
  });
  return best;
}

function meanOf(members: number[], labs: Lab[], weights: number[]): Lab {
  let total = 0;
  const sum = [0, 0, 0];
  for (const i of members) {
    const w = Math.max(weights[i]!, 1e-9);
    total += w;
    for (let k = 0; k < 3; k++) sum[k]! += labs[i]![k]! * w;
  }
  return [sum[0]! / total, sum[1]! / total, sum[2]! / total];
}

function cutBoxes(labs: Lab[], weights: number[], count: number): Lab[] {
  const boxes = [labs.map((_, i) => i)];
  while (boxes.length < count) {
    let widest = -1;
    let spread = 0;
    let axis = 0;
    let at = 0;
    boxes.forEach((members, b) => {
      if (members.length < 2) return;
      const mean = meanOf(members, labs, weights);
      for (let k = 0; k < 3; k++) {
        let variance = 0;
        for (const i of members) variance += (labs[i]![k]! - mean[k]!) ** 2 * Math.max(weights[i]!, 1e-9);
        if (variance > spread) [widest, spread, axis, at] = [b, variance, k, mean[k]!];
      }
    });
    if (widest < 0) break;
    const members = boxes[widest]!;
    const low = members.filter((i) => labs[i]![axis]! <= at);
    const high = members.filter((i) => labs[i]![axis]! > at);
    if (!low.length || !high.length) break;
    boxes.splice(widest, 1, low, high);
  }
  return boxes.map((members) => meanOf(members, labs, weights));
}

function settle(labs: Lab[], weights: number[], start: Lab[]): Lab[] {
  let centers = start;
  for (let round = 0; round < 12; round++) {
    const members: number[][] = centers.map(() => []);
    labs.forEach((lab, i) => members[nearestIndex(lab, centers)]!.push(i));
    const next = centers.map((c, k) => (members[k]!.length ? meanOf(members[k]!, labs, weights) : c));
    const moved = next.reduce((most, c, k) => Math.max(most, labDistance(c, centers[k]!)), 0);
    centers = next;
    if (moved < 1e-5) break;
  }
  return centers;
}
