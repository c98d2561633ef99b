import { maxSheetSize } from '../ground/limits';
import type { Edit } from '../kit/edit/edit';
import type { Cell, Kit, Rect, Sheet } from '../kit/kit';
import { newPixelsId, type Pixels } from '../kit/pixels';
import { changeCells, overlap } from './arrange';
import { freePlaces } from './freePlace';
import { exactnessOf, gaps } from './relay';

/**
 * Where an art finds room on a sheet on which nothing moves: to the right of all, or below; the sheet grows by powers
 * of two. Throws where it would be too large.
 */
export function roomBeside(
  { width, height }: Pick<Sheet, 'width' | 'height'>,
  art: { width: number; height: number },
): { width: number; height: number; rect: Rect } {
  const up = (v: number) => 2 ** Math.ceil(Math.log2(v));
  const ways = [
    { width: up(width + art.width), height: up(Math.max(height, art.height)), x: width, y: 0 },
    { width: up(Math.max(width, art.width)), height: up(height + art.height), x: 0, y: height },
  ].filter((w) => Math.max(w.width, w.height) <= maxSheetSize);
  const longer = (w: { width: number; height: number }) => Math.max(w.width, w.height);
  const [best] = ways.sort((a, b) => a.width * a.height - b.width * b.height || longer(a) - longer(b));
  if (!best) throw new Error(`The sheet would have more than ${maxSheetSize} texels a side. Choose fewer texels.`);
  return { width: best.width, height: best.height, rect: { x: best.x, y: best.y, w: art.width, h: art.height } };
}

/** Where an art finds room among spare cells and texels of no cell, so far from others that it does not bleed; `null` where it finds none. */
function spareRoom(sheet: Sheet, art: { width: number; height: number }): ReturnType<typeof roomBeside> | null {
  const { width, height, cells, filter, padding } = sheet;
  const taken = new Uint8Array(width * height);
  for (const { rect, fill } of cells)
    if (fill.kind !== 'spare')
      for (let y = rect.y; y < rect.y + rect.h; y++) taken.fill(1, y * width + rect.x, y * width + rect.x + rect.w);
  const rect = freePlaces(taken, width, height)(art.width, art.height, filter === 'nearest' ? 0 : Math.max(1, padding));
  return rect && { width, height, rect };
}

/**
 * The edits after which painted art lies on a sheet, beside all that is there (`roomBeside`), or in the place of spare
 * cells where it may and they have the room, with its cell; each of its texels is a block of `times` a side there. Throws
 * where the sheet is frozen, or would be too large.
 */
export function artBeside(
  kit: Kit,
  sheet: Sheet,
  pixels: Pixels,
  role: string,
  { times = 1, isInSpareRoom = false }: { times?: number; isInSpareRoom?: boolean } = {},
): { edits: Edit[]; cell: Cell } {
  if (sheet.frozen) throw new Error(`“${sheet.name}” is frozen: it has no room for art.`);
  const size = { width: pixels.width * times, height: pixels.height * times };
  const { width, height, rect } = (isInSpareRoom && spareRoom(sheet, size)) || roomBeside(sheet, size);
  // Spare cells give way to it.
  const cells = sheet.cells.filter((c) => !overlap(c.rect, rect));
  const free = gaps([...cells.map((c) => c.rect), rect], width, height, 2 ** exactnessOf([sheet]), 0);
  const edits = changeCells(kit, sheet, { width, height, cells }, free);
  const id = kit.nextCell + free.length;
  const art = newPixelsId();
  const cell: Cell = { id, rect, role, fill: { kind: 'art', picture: art, painted: true } };
  edits.push(
    { kind: 'canvas', art, before: null, after: pixels },
    { kind: 'put', list: 'cells', of: sheet.id, index: cells.length + free.length, before: null, after: cell },
    { kind: 'set', of: 'kit', before: { nextCell: id }, after: { nextCell: id + 1 } },
  );
  return { edits, cell };
}
