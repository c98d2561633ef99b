import type { Raster } from '../../ground/pictures/raster';

/** The next smaller mip level: each texel the mean of the up to four that it stands for, as graphics cards make it. */
function nextMip({ width, height, data }: Raster): Raster {
  const [w, h] = [Math.max(1, width >> 1), Math.max(1, height >> 1)];
  const out = new Uint8Array(w * h * 4);
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++) {
      const [x1, y1] = [Math.min(width - 1, x * 2 + 1), Math.min(height - 1, y * 2 + 1)];
      for (let k = 0; k < 4; k++) {
        const at = (px: number, py: number) => data[(py * width + px) * 4 + k]!;
        out[(y * w + x) * 4 + k] = Math.round((at(x * 2, y * 2) + at(x1, y * 2) + at(x * 2, y1) + at(x1, y1)) / 4);
      }
    }
  return { width: w, height: h, data: out };
}

/** A mip level of a raster; 0 is the raster itself. */
export function mipOf(raster: Raster, level: number): Raster {
  let out = raster;
  for (let n = 0; n < level && (out.width > 1 || out.height > 1); n++) out = nextMip(out);
  return out;
}

/** How many mip levels a picture has, with itself. */
export const levelsOf = (width: number, height: number): number => 1 + Math.floor(Math.log2(Math.max(width, height)));

/**
 * All mip levels of a raster in one: the raster at the top left, the smaller ones right of it, each under the one
 * before. What they leave free is see-through.
 */
export function mipAtlas(raster: Raster): Raster {
  const levels = [raster];
  while (levels.length < levelsOf(raster.width, raster.height)) levels.push(nextMip(levels.at(-1)!));
  const smaller = levels.slice(1);
  const width = raster.width + (smaller[0]?.width ?? 0);
  const height = Math.max(
    raster.height,
    smaller.reduce((sum, l) => sum + l.height, 0),
  );
  const data = new Uint8Array(width * height * 4);
  let below = 0;
  levels.forEach((level, n) => {
    const [x, y] = n === 0 ? [0, 0] : [raster.width, below];
    for (let row = 0; row < level.height; row++)
      data.set(level.data.subarray(row * level.width * 4, (row + 1) * level.width * 4), ((y + row) * width + x) * 4);
    if (n > 0) below += level.height;
  });
  return { width, height, data };
}

/** The color at a place, 0..1 across and down, as an engine samples it: the nearest texel, or a mix of four. */
export function sample({ width, height, data }: Raster, u: number, v: number, filter: 'nearest' | 'linear'): [number, number, number] {
  const clamped = (t: number, size: number) => Math.max(0, Math.min(size - 1, t));
  if (filter === 'nearest') {
    const at = (clamped(Math.floor(v * height), height) * width + clamped(Math.floor(u * width), width)) * 4;
    return [data[at]!, data[at + 1]!, data[at + 2]!];
  }
  const [x, y] = [u * width - 0.5, v * height - 0.5];
  const [fx, fy] = [x - Math.floor(x), y - Math.floor(y)];
  const texel = (dx: number, dy: number, k: number) =>
    data[(clamped(Math.floor(y) + dy, height) * width + clamped(Math.floor(x) + dx, width)) * 4 + k]!;
  return [0, 1, 2].map(
    (k) => (texel(0, 0, k) * (1 - fx) + texel(1, 0, k) * fx) * (1 - fy) + (texel(0, 1, k) * (1 - fx) + texel(1, 1, k) * fx) * fy,
  ) as [number, number, number];
}
