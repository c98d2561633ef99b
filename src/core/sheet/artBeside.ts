import { maxSheetSize } from '../ground/limits';
import type { Edit } from '../kit/edit/edit';
import type { Cell, Kit, Rect, Sheet } from '../kit/kit';
import { newPixelsId, type Pixels } from '../kit/pixels';
import { changeCells } from './arrange';
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

/**
 * The edits after which painted art lies on a sheet, beside all that is there (`roomBeside`), with its cell; each of its
 * texels is a block of `times` a side there. Throws where
 * the sheet is frozen, or would be too large.
 */
export function artBeside(kit: Kit, sheet: Sheet, pixels: Pixels, role: string, times = 1): { edits: Edit[]; cell: Cell } {
  if (sheet.frozen) throw new Error(`“${sheet.name}” is frozen: it has no room for art.`);
  const { width, height, rect } = roomBeside(sheet, { width: pixels.width * times, height: pixels.height * times });
  const free = gaps([...sheet.cells.map((c) => c.rect), rect], width, height, 2 ** exactnessOf([sheet]), 0);
  const edits = changeCells(kit, sheet, { width, height, cells: sheet.cells }, free);
  const id = kit.nextCell + free.length;
  const art = newPixelsId();
  const cell: Cell = { id, rect, role, fill: { kind: 'art', picture: art, painted: true } };
  edits.push(
    { kind: 'canvas', art, before: null, after: pixels },
    { kind: 'put', list: 'cells', of: sheet.id, index: sheet.cells.length + free.length, before: null, after: cell },
    { kind: 'set', of: 'kit', before: { nextCell: id }, after: { nextCell: id + 1 } },
  );
  return { edits, cell };
}
