import { artWithFreeColors } from '@/core/faces/adopt/takeReduced';
import { equalArrays } from '@/core/ground/equalArrays';
import type { Raster } from '@/core/ground/pictures/raster';
import { findCell } from '@/core/kit/kit';
import { isPainted, shownPixels } from '@/core/kit/pixels';
import { keepBlob } from '@/data/blobs';
import { longWorker } from '@/workers/client';
import { keepPicture, usePictures } from '../chosen/pictures';
import { baseState, kitMoment } from '../kit/editor';
import { dispatch } from '../kit/edits';
import { announce } from '../told/announce';

/** Painted art becomes a picture with colors of its own, in every coloring as it looks now; one undo. Throws what stands in the way. */
export async function leaveItsOwnColors(cell: number): Promise<void> {
  const isNow = kitMoment();
  const { kit, pixels } = baseState();
  const fill = findCell(kit, cell)?.cell.fill;
  if (!isPainted(fill)) return;
  const { rasters } = usePictures.getState();
  const own = rasters.get(fill.picture);
  if (!own) throw new Error('Its art is still being prepared. Try again in a moment.');
  const keep = async (raster: Raster): Promise<string> => {
    const bytes = await longWorker().encodePng(raster);
    const address = await keepBlob(bytes);
    keepPicture(address, bytes, raster);
    return address;
  };
  const address = await keep(own);
  const variants = new Map<string, string>();
  for (const { id, fills } of kit.variants) {
    const said = fills[cell];
    const shown = said && !isPainted(said) ? undefined : rasters.get(shownPixels(isPainted(said) ? said.picture : fill.picture, id));
    if (shown && !equalArrays(shown.data, own.data)) variants.set(id, await keep(shown));
  }
  // What was painted meanwhile is not in these pictures.
  const now = baseState();
  const stays = now.kit.sheets === kit.sheets && now.kit.variants === kit.variants && now.pixels === pixels;
  if (!isNow() || !stays) return;
  if (dispatch(artWithFreeColors(now, cell, { own: address, variants }))) announce('The art has colors of its own now');
}
