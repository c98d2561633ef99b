import type { Raster } from '../ground/pictures/raster';

/** A checker of light and dark squares, so many texels wide, on which the size of texels and their stretch is seen. */
export function checker(width: number, height: number, step: number): Raster {
  const data = new Uint8Array(width * height * 4);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++)
      data.fill((Math.floor(x / step) + Math.floor(y / step)) % 2 ? 0x62 : 0xd0, (y * width + x) * 4, (y * width + x) * 4 + 3);
  for (let i = 3; i < data.length; i += 4) data[i] = 255;
  return { width, height, data };
}
