import { decode, encode } from 'fast-png';
import type { Raster } from './raster';

/**
 * A PNG of 8 bits a channel, without alpha where every texel is opaque; of at most 256 colors one of numbers into their
 * list, where that is smaller. The same texels either way.
 */
export function encodePng(raster: Raster): Uint8Array {
  const indexed = encodeIndexed(raster);
  // Beside its list of colors a small picture may be the larger one.
  if (indexed && raster.width * raster.height > 65_536) return indexed;
  const plain = encodePlain(raster);
  return indexed && indexed.length < plain.length ? indexed : plain;
}

function encodePlain({ width, height, data }: Raster): Uint8Array {
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

/** `null` where there are more than 256 colors. */
function encodeIndexed({ width, height, data }: Raster): Uint8Array | null {
  const numbers = new Map<number, number>();
  const texels = new Uint32Array(width * height);
  for (let t = 0, i = 0; t < texels.length; t++, i += 4) {
    const color = ((data[i]! << 24) | (data[i + 1]! << 16) | (data[i + 2]! << 8) | data[i + 3]!) >>> 0;
    texels[t] = color;
    if (t && color === texels[t - 1]) continue;
    if (!numbers.has(color) && numbers.set(color, 0).size > 256) return null;
  }
  // Those that are not opaque first: only of them the file tells how clear they are.
  const colors = [...numbers.keys()].sort((a, b) => (a & 255) - (b & 255) || a - b);
  colors.forEach((color, i) => numbers.set(color, i));
  const isOpaque = colors.every((c) => (c & 255) === 255);
  const palette = colors.map((c) => [c >>> 24, (c >>> 16) & 255, (c >>> 8) & 255, ...(isOpaque ? [] : [c & 255])]);
  const depth = ([1, 2, 4] as const).find((bits) => colors.length <= 2 ** bits) ?? 8;
  const line = Math.ceil((width * depth) / 8);
  const packed = new Uint8Array(line * height);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++)
      packed[y * line + ((x * depth) >> 3)]! |= numbers.get(texels[y * width + x]!)! << (8 - depth - ((x * depth) & 7));
  return encode({ width, height, data: packed, channels: 1, depth, palette });
}

/** Any PNG as 8 bits of sRGB and alpha. Throws where it is none. */
export function decodePng(bytes: Uint8Array): Raster {
  const png = decode(bytes);
  const { width, height, channels, depth, palette } = png;
  const out = new Uint8Array(width * height * 4);
  const shift = depth === 16 ? 8 : 0;
  // Of fewer bits, several lie in a byte, and every row begins with one.
  const line = Math.ceil((width * depth) / 8);
  const bitsAt = (i: number): number => {
    const bit = (i % width) * depth;
    return (png.data[Math.floor(i / width) * line + (bit >> 3)]! >> (8 - depth - (bit & 7))) & (2 ** depth - 1);
  };
  for (let i = 0; i < width * height; i++) {
    const value = (k: number) => (depth < 8 ? (bitsAt(i) * 255) / (2 ** depth - 1) : png.data[i * channels + k]! >> shift);
    if (palette) {
      const entry = palette[depth < 8 ? bitsAt(i) : png.data[i]!] ?? [0, 0, 0];
      out.set([entry[0]!, entry[1]!, entry[2]!, entry[3] ?? 255], i * 4);
    } else if (channels >= 3) out.set([value(0), value(1), value(2), channels === 4 ? value(3) : 255], i * 4);
    else out.set([value(0), value(0), value(0), channels === 2 ? value(1) : 255], i * 4);
  }
  return { width, height, data: out };
}
