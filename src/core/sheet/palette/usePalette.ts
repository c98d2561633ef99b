import { mostIn } from '../../ground/limits';
import { applyEdit } from '../../kit/edit/editKinds';
import { group, type Edit } from '../../kit/edit/edit';
import { findSheet, usableCells, type KitState, type Sheet } from '../../kit/kit';
import { editCell } from '../cells';
import { newColor } from '../newColor';
import type { PaletteColor } from '../../ground/palettes/palette';
import type { Going } from './whereColorsGo';

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
  if (used + missing.length > mostIn.cells)
    throw new Error(`The sheet would hold ${used + missing.length} colors; it can hold ${mostIn.cells}.`);
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
 * The sheet's cells take colors of the palette as `going` says; roles, ramps and faces stay. Throws on a frozen
 * sheet.
 */
export function replaceByPalette(state: KitState, sheetId: string, colors: readonly PaletteColor[], going: Going, name: string): Edit {
  const sheet = findSheet(state.kit, sheetId);
  if (sheet.frozen) throw new Error(`“${sheet.name}” is frozen: its colors stay as they are.`);
  const edits = sheet.cells.flatMap((cell) => {
    const color = colors[going.get(cell.id) ?? -1]?.color;
    return color && cell.fill.kind === 'solid' ? [editCell(sheet, cell.id, { fill: { ...cell.fill, color } })] : [];
  });
  return group(`Take the colors of ${name}`, edits);
}
