import type { Raster } from '../../ground/pictures/raster';

/** Where columns and rows of blocks begin and end: ascending pixel positions, with both borders of the picture. */
export interface Lines {
  xs: number[];
  ys: number[];
}

/**
 * A step of this size in any channel (0..255) between two neighbours is an edge: above the noise of a JPEG,
 * or above the steps of a gradient.
 */
const edgeSteps = { noisy: 20, clean: 20, small: 10 };
/** Pixels of a picture that may well be a list of colors. */
const smallPicture = 4096;
/** An edge must run along at least this share of the picture to be a line. */
const leastRun = 1 / 48;
/** More lines than this are no palette. */
const mostLines = 600;

/**
 * Whether neighbours differ a little both across and down, as they do around the edges of a JPEG but not in
 * clean blocks or strips of gradients.
 */
export function isNoisy({ width, height, data }: Raster): boolean {
  let noisy = 0;
  let total = 0;
  const step = Math.max(1, Math.floor(Math.sqrt((width * height) / 65_536)));
  for (let y = 1; y < height; y += step)
    for (let x = 1; x < width; x += step) {
      const at = (y * width + x) * 4;
      const differs = (before: number) => {
        const d =
          Math.abs(data[at]! - data[before]!) + Math.abs(data[at + 1]! - data[before + 1]!) + Math.abs(data[at + 2]! - data[before + 2]!);
        return d > 0 && d < 24;
      };
      if (differs(at - 4) && differs(at - width * 4)) noisy++;
      total++;
    }
  return noisy > total * 0.003;
}

/** The borders of blocks: straight runs of edges across or down the picture, blurred ones at their steepest place. */
export function findLines(raster: Raster): Lines {
  const noisy = isNoisy(raster);
  return { xs: linesAlong(raster, 'x', noisy), ys: linesAlong(raster, 'y', noisy) };
}

function linesAlong({ width, height, data }: Raster, axis: 'x' | 'y', noisy: boolean): number[] {
  const [length, breadth] = axis === 'x' ? [width, height] : [height, width];
  const [step, across] = axis === 'x' ? [4, width * 4] : [width * 4, 4];
  // Every so many-th pixel across is enough on large pictures.
  const stride = Math.max(1, Math.floor(breadth / 1024));
  const samples = Math.ceil(breadth / stride);
  const edgeStep = noisy ? edgeSteps.noisy : width * height <= smallPicture ? edgeSteps.small : edgeSteps.clean;
  const longest = new Float32Array(length + 1);
  const strength = new Float32Array(length + 1);
  for (let i = 1; i < length; i++) {
    let run = 0;
    let sum = 0;
    for (let k = 0; k < breadth; k += stride) {
      const at = i * step + k * across;
      const before = at - step;
      const d = Math.max(
        Math.abs(data[at]! - data[before]!),
        Math.abs(data[at + 1]! - data[before + 1]!),
        Math.abs(data[at + 2]! - data[before + 2]!),
        Math.abs(data[at + 3]! - data[before + 3]!),
      );
      if (d >= edgeStep) {
        run++;
        sum += d;
        if (run > longest[i]!) longest[i] = run;
      } else run = 0;
    }
    strength[i] = sum / samples;
  }
  const needed = Math.max(1, samples * leastRun);
  const found: number[] = [];
  for (let i = 1; i < length; i++) if (longest[i]! >= needed) found.push(i);
  if (found.length > mostLines) return [0, length];
  // Where blocks are single pixels nearly every position is a line, and no edge is a blurred one.
  const isDense = found.length > length * 0.6;
  const lines = isDense ? found : found.filter((i) => !isShadow(i));
  return [0, ...lines, length];

  /**
   * A weaker edge within a few pixels of a stronger one: its blur, or the ringing of JPEG; but not the far
   * side of a thin gutter.
   */
  function isShadow(i: number): boolean {
    // JPEG works in blocks of 8 pixels, and rings as far.
    const reach = noisy ? 8 : 3;
    for (let k = i - reach; k <= i + reach; k++) {
      if (k < 1 || k >= length || k === i || longest[k]! < needed) continue;
      if (strength[i]! < strength[k]! * (noisy ? 0.6 : 0.35)) return true;
      const isStronger = strength[k]! > strength[i]! || (strength[k]! === strength[i]! && k < i);
      if (isStronger && Math.abs(k - i) < 3 && isOneStep(Math.min(i, k), Math.max(i, k))) return true;
    }
    return false;
  }

  /** Whether the picture goes on in the same direction over both edges, as it does over a blurred one. */
  function isOneStep(from: number, to: number): boolean {
    let whole = 0;
    let parts = 0;
    for (let k = 0; k < breadth; k += stride) {
      const at = (i: number) => i * step + k * across;
      for (let c = 0; c < 4; c++) {
        whole += Math.abs(data[at(to) + c]! - data[at(from - 1) + c]!);
        for (let i = from; i <= to; i++) parts += Math.abs(data[at(i) + c]! - data[at(i - 1) + c]!);
      }
    }
    return whole > parts * 0.7;
  }
}
