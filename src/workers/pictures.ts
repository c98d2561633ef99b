import * as Comlink from 'comlink';
import type { Hex } from '@/core/ground/color/hex';
import { decodePicture } from '@/core/ground/pictures/decodePicture';
import type { KitPictures } from '@/core/ground/pictures/picture';
import type { Sheet } from '@/core/kit/kit';
import { type DrawnPalette, sampleColors, drawSeries } from '@/core/sheet/picture/drawColors';
import type { Lines } from '@/core/sheet/picture/findLines';
import { type Finding, readBlocks, recognise } from '@/core/sheet/picture/readBlocks';
import { type EncodedSheet, encodeSheet } from '@/core/sheet/encode';
import type { Raster } from '@/core/ground/pictures/raster';
import { pictureDecoder } from './codecs';

/** A picture that sheets are drawn from, by its address: its file, or the texels of painted art. */
export type PictureFile = { address: string; bytes: Uint8Array } | { address: string; raster: Raster };

let palettePicture: Raster | null = null;

/** Decoding, recognising and drawing colors from pictures. */
export const pictures = {
  /** Each sheet as the file that it leaves as. */
  async encodeSheets(sheets: Sheet[], pictures: PictureFile[]): Promise<EncodedSheet[]> {
    const opened = await openPictures(pictures);
    return sheets.map((s) => encodeSheet(s, opened));
  },

  /** Recognises what a palette picture holds; it stays open for `readBlocks`. */
  async openPalettePicture(name: string, bytes: Uint8Array): Promise<{ raster: Raster; finding: Finding }> {
    await pictureDecoder();
    palettePicture = decodePicture(name, bytes);
    return { raster: palettePicture, finding: recognise(palettePicture) };
  },

  /** What lies between lines that were moved by hand. */
  readBlocks(lines: Lines): Finding {
    if (!palettePicture) throw new Error('No palette picture is open.');
    return readBlocks(palettePicture, lines);
  },

  /** Palettes of 1 to `most` colors that stand for a picture. */
  drawColors(raster: Raster, most: number, locked: Hex[]): DrawnPalette[] {
    return drawSeries(sampleColors(raster), most, locked);
  },

  async decodePicture(name: string, bytes: Uint8Array): Promise<Raster> {
    await pictureDecoder();
    const raster = decodePicture(name, bytes);
    return Comlink.transfer(raster, [raster.data.buffer]);
  },
};

/** Pictures decoded lately, for sheets that are encoded again and again. */
const decoded = new Map<string, Raster>();

export async function openPictures(files: PictureFile[]): Promise<KitPictures> {
  if (files.length) await pictureDecoder();
  const wanted = new Set(files.map((f) => f.address));
  for (const address of decoded.keys()) if (!wanted.has(address)) decoded.delete(address);
  const out = new Map<string, { bytes: Uint8Array; raster: Raster }>();
  for (const file of files) {
    if ('raster' in file) {
      out.set(file.address, { bytes: new Uint8Array(), raster: file.raster });
      continue;
    }
    const { address, bytes } = file;
    const raster = decoded.get(address) ?? decodePicture('A picture of the sheet', bytes);
    decoded.set(address, raster);
    out.set(address, { bytes, raster });
  }
  return out;
}
