import type { Bounds } from '../mesh/measure';
import type { Raster } from '../sheet/raster';
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
  const pictures = sitters.map((s) => {
    const size = Math.max(4, Math.min(2048, Math.round(2 * framingHalf(s.bounds) * perMetre)));
    return cropped(thumbnail(s.input, s.bounds, s.normals, s.colorOf, size, { flat }));
  });
  return inRow(pictures, Math.max(6, Math.round(height / 16)));
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
