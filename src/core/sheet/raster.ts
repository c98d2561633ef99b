import { rgbFromHex } from '../ground/color/hex';
import { byteFromLinear, labFromRgb, linearFromLab, rgbFromLab, type Lab, type Rgb } from '../ground/color/oklab';
import type { Pictures, Raster } from '../ground/pictures/raster';
import type { Cell, Fill, Rect, Sheet } from '../kit/kit';

/** What spare texels hold: a mid grey that would show as a mistake, yet harm no neighbour through filtering. */
export const spareColor: Rgb = [128, 128, 128];

/**
 * The texels of a sheet. Art without its picture is left grey. On a frozen picture only cells that were
 * appended are drawn.
 */
export function rasterSheet(sheet: Sheet, pictures: Pictures = new Map()): Raster {
  const { width, height } = sheet;
  const raster: Raster = { width, height, data: new Uint8Array(width * height * 4) };
  const frozen = sheet.frozen && pictures.get(sheet.frozen.picture);
  if (frozen && frozen.width === width && frozen.height === height) {
    raster.data.set(frozen.data);
    for (const cell of sheet.cells) if (sheet.frozen!.appended?.includes(cell.id)) rasterCell(raster, cell, pictures);
    return raster;
  }
  new Uint32Array(raster.data.buffer).fill(packed([...spareColor, 255]));
  // Art goes on past its border, under whatever lies there.
  if (sheet.padding) for (const cell of sheet.cells) if (cell.fill.kind === 'art') rasterPadding(raster, cell, sheet.padding, pictures);
  for (const cell of sheet.cells) if (cell.fill.kind !== 'spare') rasterCell(raster, cell, pictures);
  return raster;
}

/**
 * Where in a raster's data the texel at UVs (from the top left) begins, of a cell's texels the nearest one: art runs from
 * edge to edge, and at its far edge the next cell begins.
 */
export function texelAt({ width, height }: Raster, { x, y, w, h }: Rect, u: number, v: number): number {
  const within = (texel: number, first: number, size: number) => Math.max(first, Math.min(first + size - 1, Math.floor(texel)));
  return (within(v * height, y, h) * width + within(u * width, x, w)) * 4;
}

function rasterCell(raster: Raster, { rect, fill }: Cell, pictures: Pictures): void {
  if (fill.kind === 'solid') {
    const texels = new Uint32Array(raster.data.buffer);
    const value = packed([...rgbFromHex(fill.color), Math.round((fill.alpha ?? 1) * 255)]);
    for (let y = rect.y; y < rect.y + rect.h; y++) texels.fill(value, y * raster.width + rect.x, y * raster.width + rect.x + rect.w);
    return;
  }
  const art = fill.kind === 'art' ? pictures.get(fill.picture) : undefined;
  if (art) {
    copyArt(raster, rect, art);
    return;
  }
  const texel = texelOf(fill, rect.w, rect.h, pictures);
  for (let y = 0; y < rect.h; y++)
    for (let x = 0; x < rect.w; x++) raster.data.set(texel(x, y), ((rect.y + y) * raster.width + rect.x + x) * 4);
}

/** Pixel for pixel where the cell has the picture's size, else the nearest ones; four bytes at a time. */
function copyArt(raster: Raster, { x: left, y: top, w, h }: Cell['rect'], art: Raster): void {
  const data = art.data.byteOffset % 4 ? art.data.slice() : art.data;
  const from = new Uint32Array(data.buffer, data.byteOffset, art.width * art.height);
  const to = new Uint32Array(raster.data.buffer);
  const columns = Uint32Array.from({ length: w }, (_, x) => Math.floor((x * art.width) / w));
  for (let y = 0; y < h; y++) {
    const row = Math.floor((y * art.height) / h) * art.width;
    const at = (top + y) * raster.width + left;
    if (w === art.width) to.set(from.subarray(row, row + w), at);
    else for (let x = 0; x < w; x++) to[at + x] = from[row + columns[x]!]!;
  }
}

function rasterPadding(raster: Raster, { rect, fill }: Cell, padding: number, pictures: Pictures): void {
  const texel = texelOf(fill, rect.w, rect.h, pictures);
  const clamp = (v: number, size: number) => Math.max(0, Math.min(size - 1, v));
  for (let y = -padding; y < rect.h + padding; y++)
    for (let x = -padding; x < rect.w + padding; x++) {
      const [tx, ty] = [rect.x + x, rect.y + y];
      if (tx < 0 || ty < 0 || tx >= raster.width || ty >= raster.height) continue;
      raster.data.set(texel(clamp(x, rect.w), clamp(y, rect.h)), (ty * raster.width + tx) * 4);
    }
}

/** Four bytes as they lie in memory, whatever the machine's byte order. */
const packed = (rgba: readonly number[]): number => new Uint32Array(Uint8Array.from(rgba).buffer)[0]!;

type Texel = (x: number, y: number) => ArrayLike<number>;

function texelOf(fill: Fill, w: number, h: number, pictures: Pictures): Texel {
  switch (fill.kind) {
    case 'solid': {
      const rgba = [...rgbFromHex(fill.color), Math.round((fill.alpha ?? 1) * 255)];
      return () => rgba;
    }
    case 'gradient': {
      const size = fill.axis === 'x' ? w : h;
      const line = Array.from({ length: size }, (_, i) => [...gradientAt(fill, size > 1 ? i / (size - 1) : 0.5), 255]);
      return fill.axis === 'x' ? (x) => line[x]! : (_, y) => line[y]!;
    }
    case 'corners': {
      const [a, b, c, d] = fill.colors.map(rgbFromHex) as [Rgb, Rgb, Rgb, Rgb];
      return (x, y) => {
        const u = w > 1 ? x / (w - 1) : 0.5;
        const v = h > 1 ? y / (h - 1) : 0.5;
        return [...mixColors(mixColors(a, b, u, fill.mix), mixColors(c, d, u, fill.mix), v, fill.mix), 255];
      };
    }
    case 'art': {
      const art = pictures.get(fill.picture);
      if (!art) break;
      return (x, y) => {
        // Pixel for pixel where the cell has the picture's size.
        const at = (Math.floor((y * art.height) / h) * art.width + Math.floor((x * art.width) / w)) * 4;
        return art.data.subarray(at, at + 4);
      };
    }
    case 'spare':
  }
  const spare = [...spareColor, 255];
  return () => spare;
}

/** Color of a gradient at 0..1 along its axis. */
export function gradientAt(fill: Extract<Fill, { kind: 'gradient' }>, at: number): Rgb {
  const t = fill.bands ? Math.min(fill.bands - 1, Math.floor(at * fill.bands)) / Math.max(1, fill.bands - 1) : at;
  const stops = [...fill.stops].sort((p, q) => p.at - q.at);
  const after = stops.findIndex((s) => s.at >= t);
  if (after === 0) return rgbFromHex(stops[0]!.color);
  if (after < 0) return rgbFromHex(stops.at(-1)!.color);
  const [p, q] = [stops[after - 1]!, stops[after]!];
  return mixColors(rgbFromHex(p.color), rgbFromHex(q.color), (t - p.at) / (q.at - p.at), fill.mix);
}

function mixColors(p: Rgb, q: Rgb, t: number, mix: 'oklab' | 'srgb'): Rgb {
  if (mix === 'srgb') return p.map((v, k) => Math.round(v + (q[k]! - v) * t)) as unknown as Rgb;
  const [a, b] = [labFromRgb(p), labFromRgb(q)];
  return rgbFromLab(a.map((v, k) => v + (b[k]! - v) * t) as unknown as Lab);
}

/** The one color that stands for a cell where a texture cannot go: its own, or its mean in linear light. */
export function meanColor(fill: Fill, pictures: Pictures = new Map()): Rgb {
  if (fill.kind === 'solid') return rgbFromHex(fill.color);
  if (fill.kind === 'spare') return spareColor;
  const size = 16;
  const texel = texelOf(fill, size, size, pictures);
  const sum = [0, 0, 0];
  for (let y = 0; y < size; y++)
    for (let x = 0; x < size; x++) {
      const rgba = texel(x, y);
      linearFromLab(labFromRgb([rgba[0]!, rgba[1]!, rgba[2]!])).forEach((v, k) => (sum[k]! += v / size ** 2));
    }
  return sum.map(byteFromLinear) as unknown as Rgb;
}
