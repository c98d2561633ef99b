import { mostIn } from '../../ground/limits';
import { applyEdit } from '../../kit/edit/editKinds';
import { groupForAll, type Edit } from '../../kit/edit/edit';
import { findSheet, type KitState } from '../../kit/kit';
import { createRamp } from '../ramp/rampEdits';
import { editCell } from '../cells';
import { newColor } from '../newColor';
import { sheetInColorings } from '../../kit/colorings/shown';
import { planRelay, relaySheet, type RelayOptions } from '../relay';
import type { PlannedColor } from './planColors';

export interface PlanOptions extends Pick<RelayOptions, 'exactTo' | 'spares'> {
  /** Colors that no face sits on stay, too. */
  keepUnused: boolean;
}

/**
 * Planned colors on the smallest sheet that holds them beside the colors in use (`used`), with spares; as one
 * edit. Throws where the sheet would hold too many cells.
 */
export function planSheet(
  state: KitState,
  sheetId: string,
  planned: readonly PlannedColor[],
  used: ReadonlySet<number>,
  { exactTo, spares, keepUnused }: PlanOptions,
): Edit {
  const total = planned.reduce((sum, p) => sum + p.colors.length, 0);
  const edits: Edit[] = [];
  let next = state;
  const take = (edit: Edit) => {
    edits.push(edit);
    next = applyEdit(next, edit);
  };
  const sheet = () => findSheet(next.kit, sheetId);
  if (sheet().cells.length + total > mostIn.cells) throw new Error(`The sheet would hold more than ${mostIn.cells} cells.`);
  if (!keepUnused) dropUnused();
  for (const { name, colors, baseIndex } of planned) {
    if (colors.length === 1) take(newColor(next, { sheet: sheetId, color: colors[0]!, role: name }).edit);
    else take(createRamp(next, { sheet: sheetId, name, colors, baseIndex }).edit);
  }
  const everything = new Set(sheet().cells.map((c) => c.id));
  take(relaySheet(next.kit, sheet(), planRelay(sheetInColorings(next.kit, sheet()), everything, { exactTo, spares, dropUnused: false })));
  return groupForAll(`Plan ${planned.length === 1 ? planned[0]!.name : `${planned.length} roles`}`, edits);

  function dropUnused(): void {
    const stays = (id: number) => used.has(id);
    for (let index = sheet().ramps.length - 1; index >= 0; index--) {
      const before = sheet().ramps[index]!;
      const cells = before.cells.filter(stays);
      if (cells.length < before.cells.length)
        take({ kind: 'put', list: 'ramps', of: sheetId, index, before, after: cells.length ? { ...before, cells } : null });
    }
    for (const cell of sheet().cells)
      if (cell.fill.kind === 'solid' && !stays(cell.id)) take(editCell(sheet(), cell.id, { fill: { kind: 'spare' }, role: '' }));
  }
}
