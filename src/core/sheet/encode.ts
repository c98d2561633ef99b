import { encodePng } from '../ground/pictures/png';
import { probePicture, type KitPictures } from '../ground/pictures/picture';
import type { Sheet } from '../kit/kit';
import { rasterSheet } from './raster';
import type { Pictures } from '../ground/pictures/raster';

export interface EncodedSheet {
  bytes: Uint8Array;
  mime: 'image/png' | 'image/jpeg' | 'image/webp';
}

/** A sheet as a picture file. A frozen sheet to which nothing was appended leaves as the very bytes that came in. */
export function encodeSheet(sheet: Sheet, pictures: KitPictures): EncodedSheet {
  const frozen = sheet.frozen && pictures.get(sheet.frozen.picture);
  if (frozen && !sheet.frozen!.appended?.length) {
    const kind = probePicture(frozen.bytes)?.kind ?? 'png';
    return { bytes: frozen.bytes, mime: `image/${kind}` };
  }
  return { bytes: encodePng(rasterSheet(sheet, rastersOf(pictures))), mime: 'image/png' };
}

/**
 * A sheet as a PNG in which each texel is a block of `times` × `times`: for programs that blur what is small. Throws
 * where a side would be more than 8,192.
 */
export function encodeScaled(sheet: Sheet, pictures: KitPictures, times: number): Uint8Array {
  const from = rasterSheet(sheet, rastersOf(pictures));
  const [width, height] = [from.width * times, from.height * times];
  if (Math.max(width, height) > 8192)
    throw new Error(`“${sheet.name}” at ${times} times its size would have ${width} × ${height} texels; up to 8,192 a side are written.`);
  const to = new Uint32Array(width * height);
  const texels = new Uint32Array(from.data.buffer, from.data.byteOffset, from.width * from.height);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) to[y * width + x] = texels[Math.floor(y / times) * from.width + Math.floor(x / times)]!;
  return encodePng({ width, height, data: new Uint8Array(to.buffer) });
}

export const rastersOf = (pictures: KitPictures): Pictures => new Map([...pictures].map(([id, p]) => [id, p.raster]));

export const extensionOfMime = (mime: EncodedSheet['mime']): string =>
  ({ 'image/png': 'png', 'image/jpeg': 'jpg', 'image/webp': 'webp' })[mime];
