import type { Raster } from './raster';

/** Texels a side of the largest picture that is written. */
export const largestWritten = 8192;

/** A picture in which each texel is a block of so many a side. `name`: of what, for the words. Throws where a side would be too long. */
export function enlarged({ width, height, data }: Raster, times: number, name: string): Raster {
  if (times === 1) return { width, height, data };
  const [w, h] = [width * times, height * times];
  if (Math.max(w, h) > largestWritten)
    throw new Error(
      `“${name}” at ${times} times its size would have ${w} × ${h} texels; up to ${largestWritten.toLocaleString('en')} a side are written.`,
    );
  const to = new Uint32Array(w * h);
  const texels = new Uint32Array(data.buffer, data.byteOffset, width * height);
  for (let y = 0; y < h; y++) for (let x = 0; x < w; x++) to[y * w + x] = texels[Math.floor(y / times) * width + Math.floor(x / times)]!;
  return { width: w, height: h, data: new Uint8Array(to.buffer) };
}
