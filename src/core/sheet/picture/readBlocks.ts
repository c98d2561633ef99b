import { hexFromRgb, type Hex } from '../../ground/color/hex';
import { labDistance, labFromRgb, type Rgb } from '../../ground/color/oklab';
import type { Fill, Rect } from '../../kit/kit';
import type { Raster } from '../../ground/pictures/raster';
import { findLines, isNoisy, type Lines } from './findLines';
import { fitGradient } from './fitGradient';

export interface Block {
  /** Pixels of the picture. */
  rect: Rect;
  /** `spare`: empty; `art`: neither flat nor a gradient. */
  fill: Exclude<Fill, { kind: 'art' }> | { kind: 'art' };
}

export interface Finding {
  /** What the picture is: one color a pixel, blocks, gradients, both, or none of these. */
  kind: 'pixels' | 'blocks' | 'gradients' | 'mixed' | 'picture';
  width: number;
  height: number;
  lines: Lines;
  blocks: Block[];
  /** For regular blocks: their count, their usual size, and the pixels between them. */
  grid?: { columns: number; rows: number; block: [number, number]; gutter: number };
}

export const countBlocks = ({ blocks }: Finding) => ({
  colors: blocks.filter((b) => b.fill.kind === 'solid').length,
  gradients: blocks.filter((b) => b.fill.kind === 'gradient').length,
  empty: blocks.filter((b) => b.fill.kind === 'spare').length,
  art: blocks.filter((b) => b.fill.kind === 'art').length,
});

/** Colors of all blocks in reading order; of gradients their stops. */
export const colorsOfFinding = ({ blocks }: Finding): Hex[] =>
  blocks.flatMap(({ fill }) => (fill.kind === 'solid' ? [fill.color] : fill.kind === 'gradient' ? fill.stops.map((s) => s.color) : []));

/** Mean distance (channels, 0..255) from a flat color or a gradient up to which noise is overlooked. */
const noise = 7;
/** From one end of a block to the other, in any channel; noise averages out there. */
const mostTrend = 4;
/** A picture of which more than this share is neither flat nor gradient is no palette. */
const mostArt = 0.25;

/** Recognises a palette picture. Nothing recognised: one block of art over the whole picture. */
export function recognise(raster: Raster): Finding {
  if (Math.min(raster.width, raster.height) === 1) return onePerPixel(raster);
  const finding = readBlocks(raster, dropIdleLines(raster, findLines(raster)));
  if (finding.kind === 'pixels' && raster.width * raster.height <= 4096) return onePerPixel(raster);
  const area = (kind: string) => finding.blocks.reduce((sum, b) => (b.fill.kind === kind ? sum + b.rect.w * b.rect.h : sum), 0);
  const isPalette =
    finding.blocks.length <= 4096 && area('art') <= mostArt * raster.width * raster.height && area('solid') + area('gradient') > 0;
  if (isPalette && !isPhoto(finding)) return finding;
  const rect = { x: 0, y: 0, w: raster.width, h: raster.height };
  return {
    kind: 'picture',
    width: raster.width,
    height: raster.height,
    lines: { xs: [0, raster.width], ys: [0, raster.height] },
    blocks: [{ rect, fill: { kind: 'art' } }],
  };
}

/** Every pixel is a color, also where neighbours are alike; clear ones are empty. */
function onePerPixel({ width, height, data }: Raster): Finding {
  const blocks = Array.from({ length: width * height }, (_, i): Block => {
    const rect = { x: i % width, y: Math.floor(i / width), w: 1, h: 1 };
    return { rect, fill: solidOf([0, 1, 2, 3].map((k) => data[i * 4 + k]!)) };
  });
  const lines = { xs: rangeOf(0, width), ys: rangeOf(0, height) };
  return { kind: 'pixels', width, height, lines, blocks, grid: { columns: width, rows: height, block: [1, 1], gutter: 0 } };
}

/** Lines all over, and hardly a block of any size between them. */
function isPhoto({ kind, blocks, width, height }: Finding): boolean {
  if (kind === 'pixels') return width * height > 4096;
  const small = blocks.filter((b) => b.rect.w < 3 || b.rect.h < 3).length;
  return width * height > 4096 && small > blocks.length * 0.5;
}

/** Reads what lies between lines, which may have been moved by hand. */
export function readBlocks(raster: Raster, lines: Lines): Finding {
  const { width, height } = raster;
  const table = grid(raster, lines);
  const gutters = findGutters(table, lines, isNoisy(raster));
  const blocks = joinGradients(raster, table, lines, gutters);
  markEmpty(blocks, gutters.color);
  const columns = lines.xs.length - 1 - gutters.columns.size;
  const rows = lines.ys.length - 1 - gutters.rows.size;
  const widths = sizes(lines.xs, gutters.columns);
  const heights = sizes(lines.ys, gutters.rows);
  const block: [number, number] = [median(widths), median(heights)];
  const counts = { solid: 0, gradient: 0 };
  for (const { fill } of blocks) if (fill.kind === 'solid' || fill.kind === 'gradient') counts[fill.kind]++;
  const isPixels = block[0] === 1 && block[1] === 1 && blocks.length > 1;
  const isRegular = blocks.length === columns * rows && counts.gradient === 0;
  const gutter = gutters.size;
  return {
    kind: isPixels ? 'pixels' : counts.gradient ? (counts.solid ? 'mixed' : 'gradients') : 'blocks',
    width,
    height,
    lines,
    blocks,
    ...(isRegular && blocks.length > 1 && { grid: { columns, rows, block, gutter } }),
  };
}

/** Lines on both sides of which the picture is the same all along are JPEG's own. */
function dropIdleLines(raster: Raster, lines: Lines): Lines {
  const table = grid(raster, lines);
  const differ = (p: Reading, q: Reading) => p.mean.some((v, k) => Math.abs(v - q.mean[k]!) > noise);
  const rows = table.map((_, r) => r);
  const columns = table[0]!.map((_, c) => c);
  return {
    xs: lines.xs.filter((_, i) => i === 0 || i === columns.length || rows.some((r) => differ(table[r]![i - 1]!, table[r]![i]!))),
    ys: lines.ys.filter((_, i) => i === 0 || i === rows.length || columns.some((c) => differ(table[i - 1]![c]!, table[i]![c]!))),
  };
}

interface Reading {
  rect: Rect;
  mean: number[];
  isFlat: boolean;
}

function grid(raster: Raster, { xs, ys }: Lines): Reading[][] {
  return ys.slice(1).map((y1, r) =>
    xs.slice(1).map((x1, c) => {
      const rect = { x: xs[c]!, y: ys[r]!, w: x1 - xs[c]!, h: y1 - ys[r]! };
      const mean = sampledMean(raster, inset(rect));
      return { rect, mean, isFlat: isFlat(raster, inset(rect), mean) };
    }),
  );
}

/** One color but for noise, with no trend from end to end. */
function isFlat(raster: Raster, rect: Rect, mean: readonly number[]): boolean {
  if (sampledDeviation(raster, rect, () => mean) > noise) return false;
  const { x, y, w, h } = rect;
  const [across, down] = [Math.ceil(w / 4), Math.ceil(h / 4)];
  // In a thin block the border's blur cannot be left out.
  const most = Math.min(w, h) < 8 ? mostTrend * 3 : mostTrend;
  const differ = (p: Rect, q: Rect) => {
    const [a, b] = [sampledMean(raster, p), sampledMean(raster, q)];
    return a.some((v, k) => Math.abs(v - b[k]!) > most);
  };
  return (
    !differ({ x, y, w: across, h }, { x: x + w - across, y, w: across, h }) &&
    !differ({ x, y, w, h: down }, { x, y: y + h - down, w, h: down })
  );
}

/** Away from the border, where blur and JPEG noise sit. */
function inset({ x, y, w, h }: Rect): Rect {
  const cut = (size: number) => (size >= 12 ? Math.min(8, Math.floor(size * 0.2)) : size >= 5 ? 1 : 0);
  const [dx, dy] = [cut(w), cut(h)];
  return { x: x + dx, y: y + dy, w: w - 2 * dx, h: h - 2 * dy };
}

/** Every so many-th pixel of large blocks. */
const strideOf = ({ w, h }: Rect): number => Math.max(1, Math.floor(Math.sqrt((w * h) / 4096)));

function sampledMean({ width, data }: Raster, rect: Rect): number[] {
  const stride = strideOf(rect);
  const sum = [0, 0, 0, 0];
  let n = 0;
  for (let y = rect.y; y < rect.y + rect.h; y += stride)
    for (let x = rect.x; x < rect.x + rect.w; x += stride) {
      const at = (y * width + x) * 4;
      for (let k = 0; k < 4; k++) sum[k]! += data[at + k]!;
      n++;
    }
  return sum.map((s) => s / n);
}

/** Mean over pixels of the largest channel's distance from what is expected there. */
function sampledDeviation({ width, data }: Raster, rect: Rect, expected: (x: number, y: number) => readonly number[]): number {
  const stride = strideOf(rect);
  let sum = 0;
  let n = 0;
  for (let y = rect.y; y < rect.y + rect.h; y += stride)
    for (let x = rect.x; x < rect.x + rect.w; x += stride) {
      const at = (y * width + x) * 4;
      const e = expected(x, y);
      sum += Math.max(
        Math.abs(data[at]! - e[0]!),
        Math.abs(data[at + 1]! - e[1]!),
        Math.abs(data[at + 2]! - e[2]!),
        Math.abs(data[at + 3]! - e[3]!),
      );
      n++;
    }
  return n ? sum / n : 0;
}

interface Gutters {
  columns: Set<number>;
  rows: Set<number>;
  color: number[] | null;
  size: number;
}

const isNear = (p: readonly number[], q: readonly number[]) =>
  (p[3]! < 8 && q[3]! < 8) || p.every((v, k) => Math.abs(v - q[k]!) <= noise + 3);

/**
 * Columns and rows that hold one color from end to end and are narrow beside the blocks, or lie at the border
 * in that color.
 */
function findGutters(table: Reading[][], { xs, ys }: Lines, noisy: boolean): Gutters {
  const rows = table.length;
  const columns = table[0]!.length;
  const column = (c: number) => table.map((row) => row[c]!);
  // In a JPEG the colors of the blocks bleed into thin gutters.
  const near = (p: readonly number[], q: readonly number[]) => (noisy ? p.every((v, k) => Math.abs(v - q[k]!) <= 48) : isNear(p, q));
  const colorOf = (list: Reading[]) => [0, 1, 2, 3].map((k) => median(list.map((b) => b.mean[k]!)));
  const uniform = (list: Reading[]) => list.every((b) => (noisy || b.isFlat) && near(b.mean, colorOf(list)));
  const size = (at: number[], i: number) => at[i + 1]! - at[i]!;
  const found: Gutters = { columns: new Set(), rows: new Set(), color: null, size: 0 };
  const usual = (at: number[], n: number, list: (i: number) => Reading[]) =>
    median(Array.from({ length: n }, (_, i) => i).flatMap((i) => (uniform(list(i)) && n > 1 ? [] : [size(at, i)])));
  const scan = (at: number[], n: number, list: (i: number) => Reading[], into: Set<number>) => {
    if (n < 2) return;
    const block = usual(at, n, list);
    for (let i = 0; i < n; i++) {
      const cells = list(i);
      if (!uniform(cells) || cells.length < 2) continue;
      const isNarrow = block > 0 && size(at, i) <= block * 0.5;
      const isInner = i > 0 && i < n - 1;
      if (isNarrow && (found.color === null || near(colorOf(cells), found.color))) {
        into.add(i);
        found.color ??= colorOf(cells);
        if (isInner) found.size ||= size(at, i);
      }
    }
  };
  scan(xs, columns, column, found.columns);
  scan(ys, rows, (r) => table[r]!, found.rows);
  // Margins may be wider than gutters.
  const { color } = found;
  if (color)
    for (const [set, n, list] of [
      [found.columns, columns, column],
      [found.rows, rows, (r: number) => table[r]!],
    ] as const)
      for (const i of [0, n - 1]) if (n > 2 && uniform(list(i)) && near(colorOf(list(i)), color)) set.add(i);
  // A row or column that is one color by chance is no gutter where everything would go.
  if (found.columns.size === columns) found.columns.clear();
  if (found.rows.size === rows) found.rows.clear();
  return found;
}

function sizes(at: number[], without: ReadonlySet<number>): number[] {
  return at.slice(1).flatMap((end, i) => (without.has(i) ? [] : [end - at[i]!]));
}

function median(list: number[]): number {
  const sorted = [...list].sort((a, b) => a - b);
  return sorted[Math.floor(sorted.length / 2)] ?? 0;
}

/**
 * Flat cells stand for themselves; others are grown over lines that do not show in them (they come from
 * blocks elsewhere), then read as a gradient along x or y.
 */
function joinGradients(raster: Raster, table: Reading[][], lines: Lines, gutters: Gutters): Block[] {
  const rows = table.length;
  const columns = table[0]!.length;
  const done = new Uint8Array(rows * columns);
  const blocks: Block[] = [];
  for (let r = 0; r < rows; r++)
    for (let c = 0; c < columns; c++) {
      if (done[r * columns + c] || gutters.rows.has(r) || gutters.columns.has(c)) continue;
      const start = table[r]![c]!;
      let [r1, c1] = [r, c];
      if (!start.isFlat || isPartOfStrip(r, c)) {
        while (r1 + 1 < rows && canGrow(r1 + 1, c, 'y')) r1++;
        while (c1 + 1 < columns && rangeOf(r, r1).every((k) => canGrow(k, c1 + 1, 'x'))) c1++;
      }
      for (let y = r; y <= r1; y++) for (let x = c; x <= c1; x++) done[y * columns + x] = 1;
      const rect = {
        x: lines.xs[c]!,
        y: lines.ys[r]!,
        w: lines.xs[c1 + 1]! - lines.xs[c]!,
        h: lines.ys[r1 + 1]! - lines.ys[r]!,
      };
      const isOne = r1 === r && c1 === c;
      blocks.push({ rect, fill: isOne && start.isFlat ? solidOf(start.mean) : gradientOf(raster, rect) });
    }
  return blocks;

  /** Whether the cell goes on from the one before it, along an axis, without an edge. */
  function canGrow(r: number, c: number, axis: 'x' | 'y'): boolean {
    if (done[r * columns + c] || gutters.rows.has(r) || gutters.columns.has(c)) return false;
    const { rect } = table[r]![c]!;
    return edgeBefore(raster, rect, axis) < 12;
  }

  /** A flat piece of a gradient whose next piece is not flat. */
  function isPartOfStrip(r: number, c: number): boolean {
    const goesOn = (rr: number, cc: number, axis: 'x' | 'y') =>
      rr < rows && cc < columns && !table[rr]![cc]!.isFlat && canGrow(rr, cc, axis);
    return goesOn(r + 1, c, 'y') || goesOn(r, c + 1, 'x');
  }
}

const rangeOf = (from: number, to: number) => Array.from({ length: to - from + 1 }, (_, i) => from + i);

/** Mean step over the line before a cell, measured from one pixel before to one behind. */
function edgeBefore({ width, data }: Raster, { x, y, w, h }: Rect, axis: 'x' | 'y'): number {
  let sum = 0;
  const n = axis === 'x' ? h : w;
  for (let i = 0; i < n; i++) {
    const at = axis === 'x' ? ((y + i) * width + x) * 4 : (y * width + x + i) * 4;
    const before = at - (axis === 'x' ? 4 : width * 4);
    sum += Math.max(...[0, 1, 2, 3].map((k) => Math.abs(data[at + k]! - data[before + k]!)));
  }
  return sum / n;
}

function solidOf([r, g, b, a]: readonly number[]): Block['fill'] {
  if (a! < 8) return { kind: 'spare' };
  const color = hexFromRgb([Math.round(r!), Math.round(g!), Math.round(b!)]);
  return a! < 250 ? { kind: 'solid', color, alpha: Math.round((a! / 255) * 100) / 100 } : { kind: 'solid', color };
}

/** The gradient along x or y that a block is, else art. */
function gradientOf(raster: Raster, rect: Rect): Block['fill'] {
  const inner = inset(rect);
  const candidates = (['y', 'x'] as const).map((axis) => {
    // Along the axis the ends belong to the gradient; only across it the border is left out.
    const area = axis === 'y' ? { ...rect, x: inner.x, w: inner.w } : { ...rect, y: inner.y, h: inner.h };
    const line = Array.from({ length: axis === 'y' ? rect.h : rect.w }, (_, i) =>
      sampledMean(raster, axis === 'y' ? { ...area, y: rect.y + i, h: 1 } : { ...area, x: rect.x + i, w: 1 }),
    );
    const at = (x: number, y: number) => line[axis === 'y' ? y - rect.y : x - rect.x]!;
    return { axis, line, error: sampledDeviation(raster, area, at) };
  });
  const best = candidates.sort((p, q) => p.error - q.error)[0]!;
  if (best.error > noise || best.line.length < 3) return { kind: 'art' };
  const line = best.line.map(([r, g, b]): Rgb => [Math.round(r!), Math.round(g!), Math.round(b!)]);
  const ends = labDistance(labFromRgb(line[0]!), labFromRgb(line.at(-1)!));
  const fit = fitGradient(line);
  if (fit.error > 0.03) return { kind: 'art' };
  if (ends < 0.01 && fit.stops.length === 2) return solidOf(sampledMean(raster, inner));
  return { kind: 'gradient', axis: best.axis, mix: fit.mix, stops: fit.stops };
}

/**
 * Blocks in the color between the blocks are empty; so is a run of equal white, black or middle grey ones
 * that ends the picture.
 */
function markEmpty(blocks: Block[], background: number[] | null): void {
  const rgbOf = (b: Block) => (b.fill.kind === 'solid' ? b.fill.color : null);
  if (background) {
    const hex = hexFromRgb([Math.round(background[0]!), Math.round(background[1]!), Math.round(background[2]!)]);
    for (const b of blocks) if (rgbOf(b) !== null && labDistance(lab(rgbOf(b)!), lab(hex)) < 0.012) b.fill = { kind: 'spare' };
  }
  const last = [...blocks].reverse().find((b) => b.fill.kind !== 'spare');
  const fillers: Hex[] = ['#ffffff', '#000000', '#808080', '#ff00ff'];
  const filler = last && rgbOf(last) && fillers.find((f) => labDistance(lab(f), lab(rgbOf(last)!)) < 0.02);
  if (!filler) return;
  const tail: Block[] = [];
  for (let i = blocks.length - 1; i >= 0; i--) {
    const color = rgbOf(blocks[i]!);
    if (blocks[i]!.fill.kind === 'spare') continue;
    if (color === null || labDistance(lab(color), lab(filler)) >= 0.02) break;
    tail.push(blocks[i]!);
  }
  if (tail.length >= 2 && tail.length < blocks.length) for (const b of tail) b.fill = { kind: 'spare' };
}

const lab = (hex: Hex) => {
  const n = Number.parseInt(hex.slice(1), 16);
  return labFromRgb([n >> 16, (n >> 8) & 255, n & 255]);
};
