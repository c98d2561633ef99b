import { byId } from '../../ground/byId';
import { applyEdit } from '../../kit/edit/editKinds';
import { group, groupForAll, type Edit } from '../../kit/edit/edit';
import { usesInAll } from '../../kit/colorings/usesOfCells';
import { sheetInColorings } from '../../kit/colorings/shown';
import { findCell, findModel, findSheet, type Cell, type Fill, type KitState, type Rect } from '../../kit/kit';
import { copyPixels, isPainted, newPixelsId, type Pixels } from '../../kit/pixels';
import { changeCells } from '../../sheet/arrange';
import { artBeside, roomBeside } from '../../sheet/artBeside';
import { editCell } from '../../sheet/cells';
import { exactnessOf, gaps, planRelay, relaySheet } from '../../sheet/relay';
import { colorsOnSheet } from '../../sheet/reduce/colorsOf';
import type { Reduced } from '../../sheet/reduce/reduce';
import { seatByUvs } from './seatsByUvs';

/** A model whose faces come to lie on a picture: which, and where, in shares of it, 2 for each corner of the mesh. */
export interface ModelOnPicture {
  id: string;
  faces: Uint32Array;
  faceStart: Uint32Array;
  at: Float32Array;
}

/** What an artist sees before it is taken, too: nothing that is open may be patched. */
const documentOf = ({ kit, pixels }: KitState): KitState => ({ kit, seats: byId(), ...(pixels && { pixels }) });

/**
 * The edit by which a reduced picture becomes painted art on the sheet of the first of some models, beside all that is
 * there, and their faces lie on it as they do on the picture; its colors become cells (`colorsOnSheet`). Throws where the
 * sheet is frozen or too small for it, and where no face may move. `times`: each texel is a block of so many a side.
 */
export function reducedToArt(
  state: KitState,
  reduced: Reduced,
  name: string,
  models: readonly ModelOnPicture[],
  times = 1,
): { edit: Edit; cell: number } {
  const first = models[0] && findModel(state.kit, models[0].id);
  if (!first) throw new Error('No model shows this picture any more.');
  const { edits, next, cells } = colorsOnSheet(documentOf(state), first.sheet, reduced.colors, name);
  const beside = artBeside(next.kit, findSheet(next.kit, first.sheet), pixelsOf(reduced, cells), name, { times });
  const after = { ...applyEdit(next, groupForAll(name, beside.edits)), seats: state.seats };
  const seated = models.flatMap(({ id, faces, faceStart, at }): Edit[] => {
    const cell = new Uint16Array(findModel(state.kit, id).faces);
    for (const f of faces) cell[f] = beside.cell.id;
    return [seatByUvs(after, id, first.sheet, faceStart, { cell, at, across: 0 })].filter((e) => e !== null);
  });
  if (!seated.length) throw new Error('All faces that show this picture lie in locked regions. Unlock them first.');
  return { edit: groupForAll(`Bring ${name} to few colors`, [...edits, ...beside.edits, ...seated]), cell: beside.cell.id };
}

/**
 * The edit by which art with colors of its own becomes painted art, in the size it is reduced to; where the sheet is
 * smaller for it, it is laid out anew. No face moves on it. What variants have painted otherwise on it goes. `times` as above. Throws where it is not there or its sheet is frozen.
 */
export function reducedArt(state: KitState, cellId: number, reduced: Reduced, times = 1): { edit: Edit; cell: number } {
  const found = findCell(state.kit, cellId);
  const own = found?.cell.fill;
  if (!found || own?.kind !== 'art') throw new Error('The art is not there any more.');
  const { sheet, cell } = found;
  if (sheet.frozen) throw new Error(`“${sheet.name}” is frozen: its art stays as it is.`);
  const name = cell.role || 'art';
  const made = colorsOnSheet(documentOf(state), sheet.id, reduced.colors, name);
  const edits = [...made.edits];
  let next = made.next;
  const take = (edit: Edit) => {
    edits.push(edit);
    next = applyEdit(next, edit);
  };
  // What was painted before is painted again, under the same number.
  const art = isPainted(own) ? own.picture : newPixelsId();
  const before = isPainted(own) ? copyPixels(state.pixels![art]!) : null;
  const fill: Fill = { ...own, picture: art, painted: true };
  const rect = { ...cell.rect, w: reduced.width * times, h: reduced.height * times };
  take({ kind: 'canvas', art, before, after: pixelsOf(reduced, made.cells) });
  // What variants have painted otherwise had the size that it had.
  next.kit.variants.forEach((variant, index) => {
    const { [cellId]: said, ...fills } = variant.fills;
    if (isPainted(said)) take({ kind: 'put', list: 'variants', of: 'kit', index, before: variant, after: { ...variant, fills } });
  });
  // Smaller than it was, it lies over nothing else; larger, it moves to where there is room.
  const isLarger = rect.w > cell.rect.w || rect.h > cell.rect.h;
  if (isLarger) take(group('Make room', movedBeside(next, sheet.id, cellId, rect)));
  take(editCell(findSheet(next.kit, sheet.id), cellId, { fill, ...(!isLarger && { rect }) }));
  const smaller = layOutSmaller({ ...next, seats: state.seats }, sheet.id);
  if (smaller) edits.push(smaller);
  return { edit: groupForAll(`Bring ${name} to few colors`, edits), cell: cellId };
}

/** The edits after which a cell has another size, beside all that is there (`roomBeside`). */
function movedBeside({ kit }: KitState, sheetId: string, cellId: number, { w, h }: Rect): Edit[] {
  const sheet = findSheet(kit, sheetId);
  const { width, height, rect } = roomBeside(sheet, { width: w, height: h });
  const cells = sheet.cells.map((c) => (c.id === cellId ? { ...c, rect } : c));
  const taken = cells.map((c) => c.rect);
  return changeCells(kit, sheet, { width, height, cells }, gaps(taken, width, height, 2 ** exactnessOf([sheet]), 0));
}

/** The sheet laid out anew, where that has fewer texels. */
function layOutSmaller(state: KitState, sheetId: string): Edit | null {
  const sheet = findSheet(state.kit, sheetId);
  const shown = sheetInColorings(state.kit, sheet);
  try {
    const plan = planRelay(shown, new Set(usesInAll(state).keys()), { exactTo: exactnessOf(shown), spares: 0, dropUnused: false });
    return plan.width * plan.height < sheet.width * sheet.height ? relaySheet(state.kit, sheet, plan) : null;
  } catch {
    return null;
  }
}

const pixelsOf = ({ width, height, index }: Reduced, cells: readonly number[]): Pixels => ({
  width,
  height,
  cells: index.map((n) => (n ? cells[n - 1]! : 0)),
});

/** Painted art and what it shows in a coloring as a picture, by the address that it has been given: of the default, and of variants that differ. */
export interface ArtPictures {
  own: string;
  variants: ReadonlyMap<string, string>;
}

/**
 * The edit by which painted art has colors of its own from now on, as it shows them: its texels know no cells any more.
 * Throws where it is not there.
 */
export function artWithFreeColors(state: KitState, cellId: number, { own, variants }: ArtPictures): Edit {
  const found = findCell(state.kit, cellId);
  if (!found || !isPainted(found.cell.fill)) throw new Error('The art is not there any more.');
  const { sheet, cell } = found;
  const { painted: _, picture, ...art } = found.cell.fill;
  const free = (address: string): Cell['fill'] => ({ ...art, picture: address });
  const edits: Edit[] = [editCell(sheet, cellId, { fill: free(own) })];
  state.kit.variants.forEach((before, index) => {
    const address = variants.get(before.id);
    if (address === undefined) return;
    const after = { ...before, fills: { ...before.fills, [cellId]: free(address) } };
    edits.push({ kind: 'put', list: 'variants', of: 'kit', index, before, after });
  });
  edits.push({ kind: 'canvas', art: picture, before: copyPixels(state.pixels![picture]!), after: null });
  return groupForAll(`Leave ${cell.role || 'art'} its own colors`, edits);
}
