import { applyEdit } from '../edit/editKinds';
import { group, type Edit } from '../edit/edit';
import { findSheet, usableCells, type KitState, type Sheet } from '../kit/kit';
import { editCell, mostCells } from '../sheet/cells';
import { newColor } from '../sheet/newColor';
import { colorsInOrder } from '../sheet/order';
import type { PaletteColor } from './palette';

/** The palette's colors that the sheet does not have, each once. */
export function missingColors(sheet: Sheet, colors: readonly PaletteColor[]): PaletteColor[] {
  const known = new Set(sheet.cells.map((c) => (c.fill.kind === 'solid' ? c.fill.color : '')));
  return colors.filter(({ color }) => !known.has(color) && known.add(color));
}

/**
 * Each missing color on a cell of its own; the sheet grows where it must. Throws where it cannot hold them,
 * or is frozen.
 */
export function addPalette(state: KitState, sheetId: string, colors: readonly PaletteColor[], name: string): Edit {
  const missing = missingColors(findSheet(state.kit, sheetId), colors);
  const used = usableCells(findSheet(state.kit, sheetId)).length;
  if (used + missing.length > mostCells) throw new Error(`The sheet would hold ${used + missing.length} colors; it can hold ${mostCells}.`);
  const edits: Edit[] = [];
  let next = state;
  for (const { color, name: role } of missing) {
    const { edit } = newColor(next, { sheet: sheetId, color, role: role ?? '' });
    edits.push(edit);
    next = applyEdit(next, edit);
  }
  return group(`Add the colors of ${name}`, edits);
}

/**
 * The sheet's colors take the palette's, one to one in the order of the tray; roles, ramps and faces stay.
 * What is left over on either side stays as it is. Throws on a frozen sheet.
 */
export function replaceByPalette(state: KitState, sheetId: string, colors: readonly PaletteColor[], name: string): Edit {
  const sheet = findSheet(state.kit, sheetId);
  if (sheet.frozen) throw new Error(`“${sheet.name}” is frozen: its colors stay as they are.`);
  const edits = colorsInOrder(sheet)
    .slice(0, colors.length)
    .map((cell, i) => editCell(sheet, cell.id, { fill: { kind: 'solid', color: colors[i]!.color } }));
  return group(`Take the colors of ${name}`, edits);
}
