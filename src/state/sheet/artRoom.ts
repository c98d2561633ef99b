import { checker } from '@/core/islands/checker';
import { stemOf } from '@/core/ground/bytes/text';
import { findCell, type Cell, type Sheet } from '@/core/kit/kit';
import { artRoomEdit, growForArtEdit, planArtRoom, type ArtRoomOptions } from '@/core/sheet/artRoom';
import { newHalf } from '@/core/sheet/cells';
import type { Raster } from '@/core/ground/pictures/raster';
import { keepBlob } from '@/data/blobs';
import { longWorker } from '@/workers/client';
import { announce } from '../told/announce';
import { notify } from '../told/notices';
import { setCellFill } from '../color/coloring';
import { closePanel, useColoring } from '../chosen/coloringState';
import { dispatch } from '../kit/edits';
import { sheetInColorings } from '@/core/kit/colorings/shown';
import { baseState, kitMoment, useEditor } from '../kit/editor';
import { keepPicture } from '../chosen/pictures';

export interface Picture {
  name: string;
  bytes: Uint8Array;
  raster: Raster;
}

/** Texels a square of the checker that stands on art until there is a picture. */
const checkerStep = 8;

export async function openPicture(file: File): Promise<Picture> {
  const bytes = new Uint8Array(await file.arrayBuffer());
  return { name: stemOf(file.name), bytes, raster: await longWorker().decodePicture(file.name, bytes) };
}

/** Makes most of a sheet art, with a picture or a checker of texels on it. Throws what stands in the way. */
export async function makeArtRoom(sheet: Sheet, options: ArtRoomOptions, picture: Picture | null): Promise<void> {
  const isNow = kitMoment();
  const shown = () => {
    const { kit } = baseState();
    const now = kit.sheets.find((s) => s.id === sheet.id);
    if (!now) throw new Error('The sheet is gone, so nothing was changed.');
    return sheetInColorings(kit, now);
  };
  const { art } = planArtRoom(shown(), options);
  const raster = picture?.raster ?? checker(art.w, art.h, checkerStep);
  const bytes = picture?.bytes ?? (await longWorker().encodePng(raster));
  const address = await keepBlob(bytes);
  keepPicture(address, bytes, raster);
  if (!isNow()) return;
  const [now] = shown();
  const { edit, cell } = artRoomEdit(baseState().kit, now, planArtRoom(shown(), options), address, picture?.name ?? 'art');
  if (!dispatch(edit)) return;
  closePanel();
  useColoring.setState({ cell });
  announce(`${now.name} has room for art: ${art.w} × ${art.h} texels`);
}

/** Lets a sheet grow by a further piece of art, a checker; nothing that is there moves. Throws where it cannot. */
export async function growForArt(sheetId: string, beside: Cell): Promise<Cell | null> {
  const isNow = kitMoment();
  const sheetNow = () => baseState().kit.sheets.find((s) => s.id === sheetId);
  const before = sheetNow();
  if (!before) return null;
  const { w, h } = newHalf(before);
  const raster = checker(w, h, checkerStep);
  const bytes = await longWorker().encodePng(raster);
  const address = await keepBlob(bytes);
  keepPicture(address, bytes, raster);
  const now = isNow() ? sheetNow() : undefined;
  if (!now || now.width !== before.width || now.height !== before.height) return null;
  const { edit, cell } = growForArtEdit(baseState().kit, now, address, beside.role);
  return dispatch(edit) ? cell : null;
}

/** Another picture for a piece of art; seats stay where they are. One of another size is sampled to the cell's. */
export async function replaceArt(id: number, file: File): Promise<void> {
  const isNow = kitMoment();
  const { bytes, raster } = await openPicture(file);
  const address = await keepBlob(bytes);
  keepPicture(address, bytes, raster);
  const found = isNow() ? findCell(useEditor.getState().state.kit, id) : null;
  if (found?.cell.fill.kind !== 'art') return;
  const { rect, fill } = found.cell;
  setCellFill(id, { kind: 'art', picture: address, ...(fill.repeats && { repeats: true }) });
  if (raster.width !== rect.w || raster.height !== rect.h)
    notify(`The picture has ${raster.width} × ${raster.height} texels, the art ${rect.w} × ${rect.h}: it is drawn at the art’s size.`);
}
