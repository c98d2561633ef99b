import { type ById, byId, withId } from '@/core/ground/byId';
import { create } from 'zustand';
import { contentsOf, picturesOfSheet } from '@/core/kit/contents';
import { kitOfVariant } from '@/core/kit/colorings/shown';
import type { Cell, Kit, KitState, Rect } from '@/core/kit/kit';
import { paintedIn } from '@/core/kit/pixels';
import { swatchOf } from '@/core/sheet/cells';
import { withPainted } from '@/core/sheet/painted';
import type { Pictures, Raster } from '@/core/ground/pictures/raster';
import { readBlob } from '@/data/blobs';
import { longWorker } from '@/workers/client';
import type { PictureFile } from '@/workers/pictures';
import { notifyError } from '../told/notices';

interface PicturesOfKit {
  /** Decoded pictures, by content address. */
  decoded: ReadonlyMap<string, Raster>;
  /** The same together with painted art, in every coloring. */
  rasters: Pictures;
  /** The same as it was before the last strokes, for what is not looked at while one paints: swatches, small pictures. */
  settled: Pictures;
  /** The texels of art that alone have changed since the rasters before; `null`: anything may have. */
  touched: Touched | null;
  /** Addresses under which the page can show pictures. */
  urls: ById<string>;
}

/** A rectangle of an art's texels. */
export interface Touched {
  art: string;
  rect: Rect;
}

/** Pictures of the open kit. */
export const usePictures = create<PicturesOfKit>(() => ({
  decoded: new Map(),
  rasters: new Map(),
  settled: new Map(),
  touched: null,
  urls: byId(),
}));

/** What painted art is made of, as it was drawn last. */
let painted: KitState | null = null;

/** Milliseconds without a stroke after which all else follows. */
const settlesAfter = 250;
let settling: ReturnType<typeof setTimeout> | undefined;

/** Has painted art follow a kit; `state`: the kit itself, whichever variant is shown; `touched`: what alone has changed. */
export function paintArt(state: KitState, touched: Touched | null = null): void {
  const isSame =
    painted?.pixels === state.pixels &&
    (!state.pixels || (painted?.kit.sheets === state.kit.sheets && painted.kit.variants === state.kit.variants));
  painted = state;
  if (isSame) return;
  clearTimeout(settling);
  const rasters = withPainted(usePictures.getState().decoded, state);
  usePictures.setState({ rasters, touched, ...(!touched && { settled: rasters }) });
  if (touched) settling = setTimeout(() => usePictures.setState({ settled: usePictures.getState().rasters }), settlesAfter);
}

const underway = new Set<string>();

/** Has the worker decode the pictures that the kit names and that are not there yet. */
export async function preparePictures(kit: Kit): Promise<void> {
  const wanted = new Set([
    ...kit.sheets.flatMap(picturesOfSheet),
    ...kit.references.map((r) => r.picture),
    ...kit.variants.flatMap(contentsOf.variants),
  ]);
  for (const address of wanted) {
    if (underway.has(address) || usePictures.getState().decoded.has(address)) continue;
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
  usePictures.setState(({ decoded: before, urls }) => {
    const decoded = new Map(before).set(address, raster);
    const rasters = painted ? withPainted(decoded, painted) : decoded;
    return { decoded, rasters, settled: rasters, touched: null, urls: withId(urls, address, url) };
  });
}

/** Lets go of what no open kit shows. */
export function forgetPictures(): void {
  for (const url of Object.values(usePictures.getState().urls)) URL.revokeObjectURL(url);
  painted = null;
  clearTimeout(settling);
  usePictures.setState({ decoded: new Map(), rasters: new Map(), settled: new Map(), touched: null, urls: byId() });
}

/** The files of the pictures that the kit's sheets are drawn from, and of others besides. */
export async function pictureFiles(kit: Kit, others: readonly string[] = []): Promise<PictureFile[]> {
  const addresses = [...new Set([...kit.sheets.flatMap(picturesOfSheet), ...kit.variants.flatMap(contentsOf.variants), ...others])];
  const files = addresses.map(async (address): Promise<PictureFile> => ({ address, bytes: await readBlob(address) }));
  return [...(await Promise.all(files)), ...paintedFiles(kit)];
}

/** Painted art as a kit and its variants show it. */
function paintedFiles(kit: Kit): PictureFile[] {
  const { rasters } = usePictures.getState();
  const keys = new Set([kit, ...kit.variants.map((v) => kitOfVariant(kit, v))].flatMap(paintedIn));
  return [...keys].flatMap((address) => {
    const raster = rasters.get(address);
    return raster ? [{ address, raster }] : [];
  });
}

/** The color by which a cell is drawn where only one can be shown. */
export const swatch = (cell: Cell): string => swatchOf(cell, usePictures.getState().rasters);
