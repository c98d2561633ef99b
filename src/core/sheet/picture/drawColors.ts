import { hexFromRgb, rgbFromHex, type Hex } from '../../ground/color/hex';
import { labFromLinear, labFromRgb, linearFromByte, rgbFromLab } from '../../ground/color/oklab';
import type { Raster } from '../../ground/pictures/raster';

export interface DrawnColor {
  color: Hex;
  /** Share of the picture's opaque pixels, 0..1. */
  share: number;
  locked: boolean;
}
export interface DrawnPalette {
  /** Locked colors first, then by share. */
  colors: DrawnColor[];
  /** Mean OKLab distance between a pixel and its color. */
  error: number;
}

/**
 * Distinct colors of a picture, 32 levels a channel: OKLab of their means, 3 for each, and how many pixels
 * have them.
 */
export interface ColorCounts {
  lab: Float32Array;
  weight: Float32Array;
  pixels: number;
}

/** Pixels that are looked at, at most; of larger pictures every so many-th, so that every column has its turn. */
const mostSamples = 250_000;

/** Pixels of less than half opacity do not count. */
export function sampleColors({ width, height, data }: Raster): ColorCounts {
  const step = Math.ceil((width * height) / mostSamples) | 1;
  const count = new Uint32Array(32768);
  const red = new Uint32Array(32768);
  const green = new Uint32Array(32768);
  const blue = new Uint32Array(32768);
  for (let i = 0; i < data.length; i += 4 * step) {
    if (data[i + 3]! < 128) continue;
    const r = data[i]!;
    const g = data[i + 1]!;
    const b = data[i + 2]!;
    const bin = ((r >> 3) << 10) | ((g >> 3) << 5) | (b >> 3);
    count[bin]!++;
    red[bin]! += r;
    green[bin]! += g;
    blue[bin]! += b;
  }
  const used: number[] = [];
  for (let bin = 0; bin < count.length; bin++) if (count[bin]) used.push(bin);
  const lab = new Float32Array(used.length * 3);
  const weight = new Float32Array(used.length);
  let pixels = 0;
  used.forEach((bin, i) => {
    const n = count[bin]!;
    const mean = (sum: Uint32Array) => linearFromByte(Math.round(sum[bin]! / n));
    lab.set(labFromLinear(mean(red), mean(green), mean(blue)), i * 3);
    weight[i] = n;
    pixels += n;
  });
  return { lab, weight, pixels };
}

/**
 * The `count` colors that stand for a picture with the least error in OKLab; locked colors stay as they are
 * and are among them.
 *
 * Method: the cluster with the largest squared error is split along its widest axis until there are enough,
 * each split settled by a few rounds of Lloyd's iteration; more rounds at the end. Against boxes cut first
 * and settled once this gave 1 to 3 % less error on photo-like pictures.
 */
export function drawColors(counts: ColorCounts, count: number, locked: readonly Hex[] = []): DrawnPalette {
  return drawSeries(counts, count, locked).at(-1) ?? { colors: [], error: 0 };
}

/**
 * The palettes of 1, 2, … `most` colors (never fewer than are locked, never more than the picture has), each
 * grown from the one before.
 */
export function drawSeries(counts: ColorCounts, most: number, locked: readonly Hex[] = []): DrawnPalette[] {
  const { lab, weight } = counts;
  if (!weight.length) return [];
  const clusters = new Clusters(lab, weight);
  for (const hex of locked) clusters.add(labFromRgb(rgbFromHex(hex)));
  if (!locked.length) clusters.add(clusters.mean());
  clusters.locked = locked.length;
  const out: DrawnPalette[] = [];
  for (;;) {
    clusters.settle(3);
    const isLast = clusters.size >= most || !clusters.canSplit();
    const settled = isLast ? clusters : clusters.copy();
    settled.settle(isLast ? 24 : 5);
    out.push(settled.palette(locked, counts.pixels));
    if (isLast) return out;
    clusters.split();
  }
}

class Clusters {
  locked = 0;
  private center: number[] = [];
  private readonly owner: Uint16Array;
  private readonly distance: Float32Array;

  constructor(
    private readonly lab: Float32Array,
    private readonly weight: Float32Array,
  ) {
    this.owner = new Uint16Array(weight.length);
    this.distance = new Float32Array(weight.length);
  }

  get size(): number {
    return this.center.length / 3;
  }

  add(color: readonly number[]): void {
    this.center.push(color[0]!, color[1]!, color[2]!);
  }

  copy(): Clusters {
    const other = new Clusters(this.lab, this.weight);
    other.center = [...this.center];
    other.locked = this.locked;
    return other;
  }

  mean(): number[] {
    const { lab, weight } = this;
    const sum = [0, 0, 0];
    let total = 0;
    for (let i = 0; i < weight.length; i++) {
      for (let k = 0; k < 3; k++) sum[k]! += lab[i * 3 + k]! * weight[i]!;
      total += weight[i]!;
    }
    return sum.map((s) => s / total);
  }

  /** Lloyd's iteration until nothing moves, at most so many rounds; leaves every color assigned. */
  settle(rounds: number): void {
    for (let round = 0; round < rounds; round++) {
      this.assign();
      if (!this.recenter()) return;
    }
    this.assign();
  }

  private assign(): void {
    const { lab, owner, distance } = this;
    const center = Float32Array.from(this.center);
    for (let i = 0, at = 0; i < owner.length; i++, at += 3) {
      const [l, a, b] = [lab[at]!, lab[at + 1]!, lab[at + 2]!];
      let best = 0;
      let least = Infinity;
      for (let c = 0; c < center.length; c += 3) {
        const [dl, da, db] = [l - center[c]!, a - center[c + 1]!, b - center[c + 2]!];
        const d = dl * dl + da * da + db * db;
        if (d < least) {
          least = d;
          best = c;
        }
      }
      owner[i] = best / 3;
      distance[i] = least;
    }
  }

  private recenter(): boolean {
    const sums = new Float64Array(this.size * 4);
    const { lab, weight, owner } = this;
    for (let i = 0; i < owner.length; i++) {
      const at = owner[i]! * 4;
      const w = weight[i]!;
      sums[at]! += lab[i * 3]! * w;
      sums[at + 1]! += lab[i * 3 + 1]! * w;
      sums[at + 2]! += lab[i * 3 + 2]! * w;
      sums[at + 3]! += w;
    }
    let isMoved = false;
    for (let c = this.locked; c < this.size; c++) {
      if (!sums[c * 4 + 3]) continue;
      for (let k = 0; k < 3; k++) {
        const next = sums[c * 4 + k]! / sums[c * 4 + 3]!;
        isMoved ||= Math.abs(next - this.center[c * 3 + k]!) > 1e-4;
        this.center[c * 3 + k] = next;
      }
    }
    return isMoved;
  }

  private errors(): Float64Array {
    const errors = new Float64Array(this.size);
    for (let i = 0; i < this.owner.length; i++) errors[this.owner[i]!]! += this.distance[i]! * this.weight[i]!;
    return errors;
  }

  canSplit(): boolean {
    return this.errors().some((e) => e > 1e-7);
  }

  /** The worst cluster gets a second center: the mean of what lies beyond its own along its widest axis. */
  split(): void {
    const errors = this.errors();
    const worst = errors.indexOf(errors.reduce((a, b) => Math.max(a, b)));
    const { lab, weight, owner, center } = this;
    const spread = [0, 0, 0];
    for (let i = 0; i < owner.length; i++)
      if (owner[i] === worst) for (let k = 0; k < 3; k++) spread[k]! += (lab[i * 3 + k]! - center[worst * 3 + k]!) ** 2 * weight[i]!;
    const axis = spread.indexOf(Math.max(...spread));
    const sides = [new Float64Array(4), new Float64Array(4)];
    for (let i = 0; i < owner.length; i++) {
      if (owner[i] !== worst) continue;
      const side = sides[lab[i * 3 + axis]! > center[worst * 3 + axis]! ? 1 : 0]!;
      for (let k = 0; k < 3; k++) side[k]! += lab[i * 3 + k]! * weight[i]!;
      side[3]! += weight[i]!;
    }
    const mean = (s: Float64Array) => [0, 1, 2].map((k) => s[k]! / s[3]!);
    const [low, high] = sides as [Float64Array, Float64Array];
    if (worst >= this.locked && low[3]! > 0) for (const [k, v] of mean(low).entries()) center[worst * 3 + k] = v;
    this.add(mean(high[3]! > 0 ? high : low));
  }

  palette(locked: readonly Hex[], pixels: number): DrawnPalette {
    const weights = new Float64Array(this.size);
    let error = 0;
    for (let i = 0; i < this.owner.length; i++) {
      weights[this.owner[i]!]! += this.weight[i]!;
      error += Math.sqrt(this.distance[i]!) * this.weight[i]!;
    }
    const colors = Array.from({ length: this.size }, (_, c): DrawnColor => {
      const at = c * 3;
      const color = locked[c] ?? hexFromRgb(rgbFromLab([this.center[at]!, this.center[at + 1]!, this.center[at + 2]!]));
      return { color, share: weights[c]! / pixels, locked: c < this.locked };
    });
    colors.sort((p, q) => Number(q.locked) - Number(p.locked) || q.share - p.share);
    return { colors, error: error / pixels };
  }
}
