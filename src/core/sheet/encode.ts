import { encodePng } from '../ground/pictures/png';
import { enlarged } from '../ground/pictures/enlarge';
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
  return encodePng(enlarged(rasterSheet(sheet, rastersOf(pictures)), times, sheet.name));
}

export const rastersOf = (pictures: KitPictures): Pictures => new Map([...pictures].map(([id, p]) => [id, p.raster]));

export const extensionOfMime = (mime: EncodedSheet['mime']): string =>
  ({ 'image/png': 'png', 'image/jpeg': 'jpg', 'image/webp': 'webp' })[mime];
