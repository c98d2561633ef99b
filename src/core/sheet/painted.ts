import { byId } from '../ground/byId';
import { rgbFromHex } from '../ground/color/hex';
import type { KitPicture } from '../ground/pictures/picture';
import type { Pictures, Raster } from '../ground/pictures/raster';
import { kitOfVariant } from '../kit/colorings/shown';
import type { Kit, KitState, Rect } from '../kit/kit';
import { carryCounts, isPainted, paintedIn, pixelsOf, pixelsOfVariant, type Pixels } from '../kit/pixels';
import { eachRun, type TexelChange } from '../kit/texelChange';
import { carryOpacity } from './opacity';
import { meanColor, spareColor } from './raster';

/** What nothing is: clear, of a grey that harms no neighbour where filters mix it in. */
const nothing = [...spareColor, 0] as const;

/** The color of each cell of a kit, as four bytes in memory; cells that differ from place to place have their mean. */
function colorsOfCells({ sheets }: Pick<Kit, 'sheets'>, pictures: Pictures): Uint32Array {
  const bytes = new Uint8Array(65536 * 4);
  bytes.set(nothing);
  for (const { cells } of sheets)
    for (const { id, fill } of cells) {
      const alpha = fill.kind === 'solid' ? Math.round((fill.alpha ?? 1) * 255) : 255;
      bytes.set(
        [...(fill.kind === 'solid' ? rgbFromHex(fill.color) : isPainted(fill) ? spareColor : meanColor(fill, pictures)), alpha],
        id * 4,
      );
    }
  return new Uint32Array(bytes.buffer);
}

const colors = new WeakMap<Kit['sheets'], { pictures: Pictures; colors: Uint32Array }>();
function knownColors(kit: Kit, pictures: Pictures): Uint32Array {
  let known = colors.get(kit.sheets);
  if (known?.pictures !== pictures) colors.set(kit.sheets, (known = { pictures, colors: colorsOfCells(kit, pictures) }));
  return known.colors;
}

const noPictures: Pictures = new Map();
/** The rasters of pixels, each with the colors of cells that it was made of. */
const rasters = new WeakMap<Pixels, { table: Uint32Array; raster: Raster }[]>();

/** The texels of painted art as colors, as a kit shows its cells; the same raster again while neither changes. */
export function rasterOfPixels(pixels: Pixels, kit: Kit, pictures = noPictures): Raster {
  const table = knownColors(kit, pictures);
  let own = rasters.get(pixels);
  if (!own) rasters.set(pixels, (own = []));
  const known = own.find((r) => r.table === table);
  if (known) return known.raster;
  const { width, height, cells } = pixels;
  const texels = new Uint32Array(cells.length);
  for (let i = 0; i < cells.length; i++) texels[i] = table[cells[i]!]!;
  const raster = { width, height, data: new Uint8Array(texels.buffer) };
  // Few tables are in use at a time, one for each coloring; those before them are let go.
  own.unshift({ table, raster });
  own.length = Math.min(own.length, mostTables);
  return raster;
}

const mostTables = 8;

/**
 * Pixels that were patched in place (`after`: their new wrapper) keep the rasters that were made of them: only the texels
 * of a change are drawn anew, in place, under wrappers of their own.
 */
export function carryRasters(before: Pixels, after: Pixels, change: TexelChange): void {
  if (before.cells !== after.cells) return;
  const own = (rasters.get(before) ?? []).map(({ table, raster }) => {
    const texels = new Uint32Array(raster.data.buffer, raster.data.byteOffset, after.cells.length);
    let isOpaque = true;
    eachRun(change, (from, count, was, is) => {
      // Filling one texel has its price.
      if (count === 1) texels[from] = table[is]!;
      else texels.fill(table[is]!, from, from + count);
      isOpaque &&= table[was]! >>> 24 === 255 && table[is]! >>> 24 === 255;
    });
    const next = { ...raster };
    if (isOpaque) carryOpacity(raster, next);
    return { table, raster: next };
  });
  rasters.set(after, own);
  carryCounts(before, after, change);
}

/** The rectangle of texels in which a change lies; `null` where there is none. */
export function boundsOfChange(change: TexelChange, width: number): Rect | null {
  let [x0, y0, x1, y1] = [Infinity, Infinity, -1, -1];
  const add = (from: number, count: number) => {
    const last = from + count - 1;
    const [top, bottom] = [Math.floor(from / width), Math.floor(last / width)];
    y0 = Math.min(y0, top);
    y1 = Math.max(y1, bottom);
    x0 = Math.min(x0, top === bottom ? from % width : 0);
    x1 = Math.max(x1, top === bottom ? last % width : width - 1);
  };
  if ('spans' in change) eachRun(change, add);
  else add(change.first, change.after.length);
  return x1 < 0 ? null : { x: x0, y: y0, w: x1 - x0 + 1, h: y1 - y0 + 1 };
}

/** Every picture of painted art that a coloring of a kit shows, by its number there. */
function paintings(state: KitState, pictures: Pictures): Map<string, () => Raster> {
  const { kit, pixels = byId() } = state;
  const out = new Map<string, () => Raster>();
  const colorings = [[kit, pixels] as const, ...kit.variants.map((v) => [kitOfVariant(kit, v), pixelsOfVariant(state, v)] as const)];
  for (const [shown, pixels] of colorings)
    for (const key of paintedIn(shown)) {
      const own = pixels[pixelsOf(key)];
      if (own && !out.has(key)) out.set(key, () => rasterOfPixels(own, shown, pictures));
    }
  return out;
}

/** Pictures together with those of painted art; of these each is made when it is first asked for. */
export function withPainted(pictures: Pictures, state: KitState): Pictures {
  if (!state.pixels) return pictures;
  const own = paintings(state, pictures);
  return new (class extends Map<string, Raster> {
    override get = (key: string): Raster | undefined => own.get(key)?.() ?? super.get(key);
    override has = (key: string): boolean => own.has(key) || super.has(key);
  })(pictures);
}

/** The pictures of painted art as what leaves takes them; they have no file. */
export const paintedPictures = (state: KitState, pictures = noPictures): [string, KitPicture][] =>
  [...paintings(state, pictures)].map(([key, raster]) => [key, { bytes: new Uint8Array(), raster: raster() }]);
