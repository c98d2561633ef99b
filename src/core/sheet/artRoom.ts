import { maxSheetSize } from '../ground/limits';
import { groupForAll, type Edit } from '../kit/edit/edit';
import type { Cell, Kit, Rect, Sheet } from '../kit/kit';
import type { SheetInColorings } from '../kit/colorings/shown';
import { changeCells } from './arrange';
import { newHalf } from './cells';
import { exactnessOf, gaps, planRelay, type Relay } from './relay';

/** A sheet of which one piece of art takes most, beside a strip of the colors. */
export interface ArtRoomOptions {
  /** Of the whole sheet, in texels. */
  width: number;
  height: number;
  /** On which side of the sheet the colors lie. */
  side: 'left' | 'right' | 'top' | 'bottom';
  /** The size of the art; all that is left where it is left out. */
  art?: { width: number; height: number };
}

export interface ArtRoom {
  width: number;
  height: number;
  /** Where each cell that has a color comes to lie. */
  places: Relay['places'];
  art: Rect;
  /** Rectangles of the spare cells. */
  free: Rect[];
}

/**
 * The sheet with its colors on the narrowest strip that holds them, at the size and alignment that they have, and art
 * on the rest. Throws where the sheet is frozen, or where colors and art do not fit.
 */
export function planArtRoom(shown: SheetInColorings, { width, height, side, art }: ArtRoomOptions): ArtRoom {
  const [sheet] = shown;
  if (sheet.frozen) throw new Error(`“${sheet.name}” is frozen: its layout stays as it is.`);
  if (Math.max(width, height) > maxSheetSize || Math.min(width, height) < 1)
    throw new Error(`A sheet has from 1 to ${maxSheetSize} texels a side.`);
  const isUpright = side === 'left' || side === 'right';
  const exactTo = exactnessOf(shown);
  const unit = 2 ** exactTo;
  for (let thick = unit; thick < (isUpright ? width : height); thick += unit) {
    const size = isUpright ? { width: thick, height } : { width, height: thick };
    const plan = relayOrNull(shown, size, exactTo);
    if (!plan) continue;
    const room = isUpright ? { w: width - thick, h: height } : { w: width, h: height - thick };
    const own = art ? { w: art.width, h: art.height } : room;
    if (own.w > room.w || own.h > room.h)
      throw new Error(
        `The picture has ${own.w} × ${own.h} texels; beside the colors there are ${room.w} × ${room.h}. Choose a larger sheet.`,
      );
    const strip = { x: side === 'right' ? width - thick : 0, y: side === 'bottom' ? height - thick : 0 };
    const places = plan.places.map(({ cell, rect }) => ({ cell, rect: { ...rect, x: rect.x + strip.x, y: rect.y + strip.y } }));
    const rect = { x: side === 'left' ? thick : 0, y: side === 'top' ? thick : 0, ...own };
    return { width, height, places, art: rect, free: gaps([...places.map((p) => p.rect), rect], width, height, unit, 0) };
  }
  throw new Error(`The colors do not fit beside art on ${width} × ${height} texels.`);
}

function relayOrNull(shown: SheetInColorings, size: { width: number; height: number }, exactTo: 0 | 1 | 2): Relay | null {
  try {
    return planRelay(shown, new Set(), { exactTo, spares: 0, dropUnused: false, size, padding: shown[0].padding });
  } catch {
    return null;
  }
}

/**
 * The sheet grown to twice the side that is shorter, with a further piece of art on the new half; nothing that is there
 * moves. Throws where it is as large as a sheet can be.
 */
export function growForArtEdit(kit: Kit, sheet: Sheet, picture: string, role: string): { edit: Edit; cell: Cell } {
  if (sheet.frozen) throw new Error(`“${sheet.name}” is frozen: its layout stays as it is.`);
  const rect = newHalf(sheet);
  const [width, height] = [rect.x + rect.w, rect.y + rect.h];
  const cell: Cell = { id: kit.nextCell, rect, role, fill: { kind: 'art', picture } };
  const edits: Edit[] = [
    { kind: 'set', of: sheet.id, before: { width: sheet.width, height: sheet.height }, after: { width, height } },
    { kind: 'put', list: 'cells', of: sheet.id, index: sheet.cells.length, before: null, after: cell },
    { kind: 'set', of: 'kit', before: { nextCell: cell.id }, after: { nextCell: cell.id + 1 } },
  ];
  return { edit: groupForAll('Grow the sheet', edits), cell };
}

/** The plan as one edit, with the new cell's id; no face changes its color. */
export function artRoomEdit(kit: Kit, sheet: Sheet, plan: ArtRoom, picture: string, role: string): { edit: Edit; cell: number } {
  const rectOf = new Map(plan.places.map(({ cell, rect }) => [cell.id, rect]));
  const free = [...plan.free];
  const cells = sheet.cells.flatMap((cell) => {
    const rect = rectOf.get(cell.id) ?? free.shift();
    return rect ? [{ ...cell, rect }] : [];
  });
  const { width, height } = plan;
  const edits = changeCells(kit, sheet, { width, height, cells }, free);
  const id = kit.nextCell + free.length;
  const after: Cell = { id, rect: plan.art, role, fill: { kind: 'art', picture } };
  edits.push(
    { kind: 'put', list: 'cells', of: sheet.id, index: cells.length + free.length, before: null, after },
    { kind: 'set', of: 'kit', before: { nextCell: id }, after: { nextCell: id + 1 } },
  );
  return { edit: groupForAll('Make room for art', edits), cell: id };
}
