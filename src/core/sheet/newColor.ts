import { mostCellIds, mostIn } from '../ground/limits';
import { lchFromHex, type Hex } from '../ground/color/hex';
import { applyEdit } from '../kit/edit/editKinds';
import { group, type Edit } from '../kit/edit/edit';
import { snapToAllowed } from './allowedColors';
import { findSheet, solid, spareCells, type Cell, type KitState, type Ramp, type Sheet } from '../kit/kit';
import { editCell, growSheet, rampOf } from './cells';

export interface NewColor {
  sheet: string;
  color: Hex;
  role: string;
  finish?: Cell['finish'];
  /** Put the new cell into the ramp of this cell, beside it by lightness. */
  beside?: number;
}

/**
 * Turns the first spare cell into a color; where none is spare, the sheet grows first. Returns the edit and
 * the cell's id. Where the kit keeps to a list of colors, the nearest of it is taken. A frozen sheet takes
 * colors only in empty places, and only where the artist has allowed it. Throws where it may take none, where
 * the sheet cannot grow, and where the kit has given out all cells.
 */
export function newColor(state: KitState, { sheet: sheetId, color, role, finish, beside }: NewColor): { edit: Edit; cell: number } {
  let next = state;
  const edits: Edit[] = [];
  const take = (edit: Edit) => {
    edits.push(edit);
    next = applyEdit(next, edit);
  };
  const sheet = () => findSheet(next.kit, sheetId);
  const { frozen } = sheet();
  if (frozen && !frozen.appended)
    throw new Error(
      `“${sheet().name}” is frozen: it keeps its picture as it is. In Palette you can allow that colors are added in its empty places.`,
    );
  if (frozen && !spareCells(sheet()).length) throw new Error(`“${sheet().name}” is frozen and has no empty place left.`);
  if (!spareCells(sheet()).length) take(group('Grow the sheet', growSheet(next.kit, sheet())));
  const spare = spareCells(sheet())[0];
  if (!spare)
    throw new Error(
      next.kit.nextCell > mostCellIds
        ? 'The kit has used up its 65,534 cell numbers; start a new kit for more colors.'
        : `“${sheet().name}” holds ${mostIn.cells} cells; a sheet cannot hold more. Add another sheet.`,
    );
  if (frozen) {
    const after = { frozen: { ...frozen, appended: [...frozen.appended!, spare.id] } };
    take({ kind: 'set', of: sheetId, before: { frozen }, after });
  }
  take(editCell(sheet(), spare.id, { fill: solid(snapToAllowed(state.kit, color)), role, ...(finish && { finish }) }));
  const ramp = beside === undefined ? null : rampOf(sheet(), beside);
  if (ramp) take(editRamp(sheet(), ramp.id, insertBeside(sheet(), ramp, beside!, spare.id)));
  return { edit: group('New color', edits), cell: spare.id };
}

export function editRamp(sheet: Sheet, id: string, cells: number[]): Edit {
  const index = sheet.ramps.findIndex((r) => r.id === id);
  const before = sheet.ramps[index]!;
  return { kind: 'put', list: 'ramps', of: sheet.id, index, before, after: cells.length ? { ...before, cells } : null };
}

function insertBeside(sheet: Sheet, ramp: Ramp, beside: number, added: number): number[] {
  const at = ramp.cells.indexOf(beside);
  const lightness = (id: number) => cellLightness(sheet, id);
  const index = lightness(added) < lightness(beside) ? at : at + 1;
  return [...ramp.cells.slice(0, index), added, ...ramp.cells.slice(index)];
}

function cellLightness(sheet: Sheet, id: number): number {
  const fill = sheet.cells.find((c) => c.id === id)?.fill;
  return fill?.kind === 'solid' ? lchFromHex(fill.color).l : 0;
}
