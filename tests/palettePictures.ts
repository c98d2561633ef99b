import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { PhotonImage } from '@cf-wasm/photon/others';
import { rgbFromHex } from '@/core/ground/color/hex';
import { startPictureDecoder } from '@/core/ground/pictures/decodePicture';
import type { Fill, Rect } from '@/core/kit/kit';
import { gradientAt } from '@/core/sheet/raster';
import type { Raster } from '@/core/ground/pictures/raster';

export const startDecoder = (): void =>
  startPictureDecoder(readFileSync(createRequire(import.meta.url).resolve('@cf-wasm/photon/photon.wasm')));

export const toJpeg = ({ width, height, data }: Raster, quality: number): Uint8Array => {
  const image = new PhotonImage(data, width, height);
  const bytes = image.get_bytes_jpeg(quality);
  image.free();
  return bytes;
};

export const toWebp = ({ width, height, data }: Raster): Uint8Array => {
  const image = new PhotonImage(data, width, height);
  const bytes = image.get_bytes_webp();
  image.free();
  return bytes;
};

/** A picture of blocks on a background. */
export function drawBlocks(
  width: number,
  height: number,
  background: readonly [number, number, number, number],
  blocks: readonly { rect: Rect; fill: Fill }[],
): Raster {
  const data = new Uint8Array(width * height * 4);
  for (let i = 0; i < width * height; i++) data.set(background, i * 4);
  for (const { rect, fill } of blocks)
    for (let y = 0; y < rect.h; y++)
      for (let x = 0; x < rect.w; x++) {
        const rgb =
          fill.kind === 'solid'
            ? rgbFromHex(fill.color)
            : fill.kind === 'gradient'
              ? gradientAt(fill, fill.axis === 'x' ? x / (rect.w - 1) : y / (rect.h - 1))
              : null;
        if (rgb) data.set([...rgb, 255], ((rect.y + y) * width + rect.x + x) * 4);
      }
  return { width, height, data };
}

/** Colors of which no two neighbours are alike. */
export function distinctColors(n: number, seed: number): string[] {
  return Array.from({ length: n }, (_, i) => {
    const k = (i + seed) * 0.61803398875;
    const channel = (by: number) => Math.round(30 + 200 * ((k * by) % 1));
    return '#' + [channel(1), channel(3.7), channel(7.3)].map((v) => v.toString(16).padStart(2, '0')).join('');
  });
}
