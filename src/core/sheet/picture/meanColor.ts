import { byteFromLinear, linearFromByte, type Rgb } from '../../ground/color/oklab';
import type { Raster } from '../../ground/pictures/raster';

/**
 * Mean color, in linear light, of the pixels whose middles lie within a circle (pixels from the top left); at
 * least the pixel under its middle.
 */
export function meanInCircle({ width, height, data }: Raster, x: number, y: number, radius: number): Rgb {
  const sum = [0, 0, 0];
  let weight = 0;
  const add = (px: number, py: number) => {
    const at = (py * width + px) * 4;
    const alpha = data[at + 3]! / 255;
    for (let k = 0; k < 3; k++) sum[k]! += linearFromByte(data[at + k]!) * alpha;
    weight += alpha;
  };
  const clamp = (v: number, most: number) => Math.max(0, Math.min(most - 1, Math.floor(v)));
  for (let py = clamp(y - radius, height); py <= clamp(y + radius, height); py++)
    for (let px = clamp(x - radius, width); px <= clamp(x + radius, width); px++)
      if ((px + 0.5 - x) ** 2 + (py + 0.5 - y) ** 2 <= radius ** 2) add(px, py);
  if (!weight) add(clamp(x, width), clamp(y, height));
  return sum.map((s) => byteFromLinear(weight ? s / weight : 0)) as unknown as Rgb;
}

/** A part of a picture, pixel for pixel. */
export function cropRaster({ width, data }: Raster, rect: { x: number; y: number; w: number; h: number }): Raster {
  const out = new Uint8Array(rect.w * rect.h * 4);
  for (let y = 0; y < rect.h; y++) {
    const from = ((rect.y + y) * width + rect.x) * 4;
    out.set(data.subarray(from, from + rect.w * 4), y * rect.w * 4);
  }
  return { width: rect.w, height: rect.h, data: out };
}
