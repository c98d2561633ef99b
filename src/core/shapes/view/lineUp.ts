import type { Bounds } from '../mesh/measure';
import type { Raster } from '../../ground/pictures/raster';
import type { RasterInput } from './rasterFaces';
import { framingHalf, thumbnail } from './thumbnail';

/** A model as it is drawn: its triangles, and sRGB of each face. */
export interface Sitter {
  input: RasterInput;
  bounds: Bounds;
  normals: Float32Array;
  colorOf: (face: number) => ArrayLike<number>;
}

/** A line-up is at most so wide, in pixels. */
const mostWidth = 8192;

/**
 * Models side by side at one true scale, on one ground line, transparent around. `height`: pixels of the
 * tallest one, as tall as it will appear in play. `flat`: the colors as they are, without any light.
 */
export function lineUpAtScale(sitters: readonly Sitter[], height: number, flat: boolean): Raster {
  const tallest = Math.max(1e-6, ...sitters.map(({ bounds }) => bounds.max[1]! - bounds.min[1]!));
  const perMetre = height / tallest;
  const pictures = sitters.map((s) => pictureOf(s, perMetre, flat));
  return inRow(pictures, Math.max(6, Math.round(height / 16)));
}

/** Rows of models, one above the other; pixels from the top on which the models of each stand. */
export interface Rows extends Raster {
  grounds: number[];
}

/** Pixels of the tallest model when widths are compared, and rows at most. */
const [probe, mostRows] = [48, 4];

/**
 * The same models as large as a stage allows, at one true scale, in as many rows as make them largest; each row in the
 * middle of the width.
 */
export function lineUpFilling(sitters: readonly Sitter[], width: number, height: number, flat: boolean): Rows {
  const tallest = Math.max(1e-6, ...sitters.map(({ bounds }) => bounds.max[1]! - bounds.min[1]!));
  const draw = (perMetre: number) => sitters.map((s) => pictureOf(s, perMetre, flat));
  const gapOf = (perMetre: number) => Math.max(3, Math.round((perMetre * tallest) / 16));
  const small = draw(probe / tallest);
  const gap = gapOf(probe / tallest);
  let best = { scale: 0, rows: [] as number[][] };
  for (let n = 1; n <= Math.min(mostRows, sitters.length); n++) {
    const rows = inRows(
      small.map((p) => p.width + gap),
      n,
    );
    const widest = Math.max(...rows.map((row) => row.reduce((sum, i) => sum + small[i]!.width + gap, gap)));
    const tall = rows.reduce((sum, row) => sum + Math.max(...row.map((i) => small[i]!.height)) + gap, gap);
    const scale = Math.min(width / widest, height / tall);
    if (scale > best.scale) best = { scale, rows };
  }
  const perMetre = (probe / tallest) * best.scale;
  const pictures = draw(perMetre);
  const out: Rows = {
    width: Math.max(1, Math.floor(width)),
    height: Math.max(1, Math.floor(height)),
    data: new Uint8Array(0),
    grounds: [],
  };
  out.data = new Uint8Array(out.width * out.height * 4);
  const drawn = best.rows.map((row) =>
    inRow(
      row.map((i) => pictures[i]!),
      gapOf(perMetre),
    ),
  );
  const free = Math.max(0, out.height - drawn.reduce((sum, r) => sum + r.height, 0)) / (drawn.length + 1);
  let y = 0;
  for (const row of drawn) {
    y += free;
    const [top, left] = [Math.round(y), Math.round((out.width - row.width) / 2)];
    for (let line = 0; line < row.height && top + line < out.height; line++) {
      const from = Math.max(0, -left);
      const to = Math.min(row.width, out.width - left);
      out.data.set(
        row.data.subarray((line * row.width + from) * 4, (line * row.width + to) * 4),
        ((top + line) * out.width + left + from) * 4,
      );
    }
    y += row.height;
    out.grounds.push(Math.min(out.height, Math.round(y)));
  }
  return out;
}

/** Numbers of things of these widths, in order, in so many rows of about the same width. */
function inRows(widths: readonly number[], rows: number): number[][] {
  const total = widths.reduce((sum, w) => sum + w, 0);
  const out: number[][] = Array.from({ length: rows }, () => []);
  let before = 0;
  widths.forEach((w, i) => {
    out[Math.min(rows - 1, Math.floor(((before + w / 2) / total) * rows))]!.push(i);
    before += w;
  });
  return out.filter((row) => row.length);
}

function pictureOf(s: Sitter, perMetre: number, flat: boolean): Raster {
  const size = Math.max(4, Math.min(2048, Math.round(2 * framingHalf(s.bounds) * perMetre)));
  return cropped(thumbnail(s.input, s.bounds, s.normals, s.colorOf, size, { flat }));
}

/** Pictures in a row, standing on one line. */
function inRow(pictures: readonly Raster[], gap: number): Raster {
  const width = Math.min(
    mostWidth,
    pictures.reduce((sum, p) => sum + p.width + gap, gap),
  );
  const height = Math.max(1, ...pictures.map((p) => p.height));
  const out: Raster = { width, height, data: new Uint8Array(width * height * 4) };
  let x = gap;
  for (const p of pictures) {
    const shown = Math.max(0, Math.min(p.width, width - x));
    for (let y = 0; y < p.height; y++)
      out.data.set(p.data.subarray(y * p.width * 4, (y * p.width + shown) * 4), ((height - p.height + y) * width + x) * 4);
    x += p.width + gap;
  }
  return out;
}

/** Without the empty rows and columns around. */
export function cropped({ width, height, data }: Raster): Raster {
  let [x0, y0, x1, y1] = [width, height, 0, 0];
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++)
      if (data[(y * width + x) * 4 + 3]) [x0, y0, x1, y1] = [Math.min(x0, x), Math.min(y0, y), Math.max(x1, x), Math.max(y1, y)];
  if (x1 < x0) return { width: 1, height: 1, data: new Uint8Array(4) };
  const [w, h] = [x1 - x0 + 1, y1 - y0 + 1];
  const out = new Uint8Array(w * h * 4);
  for (let y = 0; y < h; y++) out.set(data.subarray(((y + y0) * width + x0) * 4, ((y + y0) * width + x0 + w) * 4), y * w * 4);
  return { width: w, height: h, data: out };
}
