import { type ById, byId, withId } from '@/core/ground/byId';
import { create } from 'zustand';
import { contentsOf, picturesOfSheet } from '@/core/kit/contents';
import type { Cell, Kit } from '@/core/kit/kit';
import { swatchOf } from '@/core/sheet/cells';
import type { Raster } from '@/core/ground/pictures/raster';
import { readBlob } from '@/data/blobs';
import { longWorker } from '@/workers/client';
import type { PictureFile } from '@/workers/pictures';
import { notifyError } from '../told/notices';

/** Decoded pictures of the open kit, and addresses under which the page can show them; by content address. */
export const usePictures = create<{ rasters: ReadonlyMap<string, Raster>; urls: ById<string> }>(() => ({
  rasters: new Map(),
  urls: byId(),
}));

const underway = new Set<string>();

/** Has the worker decode the pictures that the kit names and that are not there yet. */
export async function preparePictures(kit: Kit): Promise<void> {
  const wanted = new Set([
    ...kit.sheets.flatMap(picturesOfSheet),
    ...kit.references.map((r) => r.picture),
    ...kit.variants.flatMap(contentsOf.variants),
  ]);
  for (const address of wanted) {
    if (underway.has(address) || usePictures.getState().rasters.has(address)) continue;
    underway.add(address);
    try {
      const bytes = await readBlob(address);
      keepPicture(address, bytes, await longWorker().decodePicture('A picture of this kit', bytes));
    } catch (error) {
      notifyError(error);
    } finally {
      underway.delete(address);
    }
  }
}

export function keepPicture(address: string, bytes: Uint8Array, raster: Raster): void {
  const url = URL.createObjectURL(new Blob([bytes as Uint8Array<ArrayBuffer>]));
  usePictures.setState(({ rasters, urls }) => ({ rasters: new Map(rasters).set(address, raster), urls: withId(urls, address, url) }));
}

/** Lets go of what no open kit shows. */
export function forgetPictures(): void {
  for (const url of Object.values(usePictures.getState().urls)) URL.revokeObjectURL(url);
  usePictures.setState({ rasters: new Map(), urls: byId() });
}

/** The files of the pictures that the kit's sheets are drawn from, and of others besides. */
export async function pictureFiles(kit: Kit, others: readonly string[] = []): Promise<PictureFile[]> {
  const addresses = [...new Set([...kit.sheets.flatMap(picturesOfSheet), ...kit.variants.flatMap(contentsOf.variants), ...others])];
  return Promise.all(addresses.map(async (address) => ({ address, bytes: await readBlob(address) })));
}

/** The color by which a cell is drawn where only one can be shown. */
export const swatch = (cell: Cell): string => swatchOf(cell, usePictures.getState().rasters);
