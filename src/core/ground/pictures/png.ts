import { decode, encode } from 'fast-png';
import type { Raster } from './raster';

/** A PNG of 8 bits a channel; without alpha where every texel is opaque. */
export function encodePng({ width, height, data }: Raster): Uint8Array {
  let opaque = true;
  for (let i = 3; i < data.length; i += 4) opaque &&= data[i] === 255;
  if (!opaque) return encode({ width, height, data, channels: 4, depth: 8 });
  const rgb = new Uint8Array(width * height * 3);
  for (let i = 0, o = 0; i < data.length; i += 4) {
    rgb[o++] = data[i]!;
    rgb[o++] = data[i + 1]!;
    rgb[o++] = data[i + 2]!;
  }
  return encode({ width, height, data: rgb, channels: 3, depth: 8 });
}

/** Any PNG as 8 bits of sRGB and alpha. Throws where it is none. */
export function decodePng(bytes: Uint8Array): Raster {
  const png = decode(bytes);
  const { width, height, channels, depth, palette } = png;
  const out = new Uint8Array(width * height * 4);
  const shift = depth === 16 ? 8 : 0;
  for (let i = 0; i < width * height; i++) {
    const value = (k: number) => png.data[i * channels + k]! >> shift;
    if (palette) {
      const entry = palette[png.data[i]!] ?? [0, 0, 0];
      out.set([entry[0]!, entry[1]!, entry[2]!, entry[3] ?? 255], i * 4);
    } else if (channels >= 3) out.set([value(0), value(1), value(2), channels === 4 ? value(3) : 255], i * 4);
    else out.set([value(0), value(0), value(0), channels === 2 ? value(1) : 255], i * 4);
  }
  return { width, height, data: out };
}
