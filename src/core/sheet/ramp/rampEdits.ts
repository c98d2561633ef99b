import { mostIn } from '../../ground/limits';
import type { Hex } from '../../ground/color/hex';
import { applyEdit } from '../../kit/edit/editKinds';
import { group, type Edit } from '../../kit/edit/edit';
import { findCell, findSheet, newId, type Cell, type KitState, type Ramp, type Sheet } from '../../kit/kit';
import { editCell } from '../cells';
import { newColor } from '../newColor';
import { stepBetween, stepBeyond } from './makeRamp';

/** The roles of a ramp's steps: "sail, in shade", "sail", "sail, lit"; longer ramps count. */
export function stepRoles(name: string, steps: number, baseIndex: number): string[] {
  return Array.from({ length: steps }, (_, i) => {
    if (i === baseIndex) return name;
    const isShade = i < baseIndex;
    const ofSide = isShade ? baseIndex : steps - 1 - baseIndex;
    const nth = isShade ? baseIndex - i : i - baseIndex;
    return `${name}, ${isShade ? 'in shade' : 'lit'}${ofSide > 1 ? ` ${nth}` : ''}`;
  });
}

export interface NewRamp {
  sheet: string;
  name: string;
  /** Dark to light. */
  colors: Hex[];
  baseIndex: number;
  /** A cell that becomes the base step: it keeps its faces. It must not be a step of another ramp. */
  baseCell?: number;
}

/** Colors on spare cells (the sheet grows where there are too few), tied together as a ramp. */
export function createRamp(state: KitState, { sheet: sheetId, name, colors, baseIndex, baseCell }: NewRamp): { edit: Edit; ramp: Ramp } {
  const edits: Edit[] = [];
  let next = state;
  const take = (edit: Edit) => {
    edits.push(edit);
    next = applyEdit(next, edit);
  };
  const roles = stepRoles(name, colors.length, baseIndex);
  const cells = colors.map((color, i) => {
    if (i === baseIndex && baseCell !== undefined) return baseCell;
    const made = newColor(next, { sheet: sheetId, color, role: roles[i]! });
    take(made.edit);
    return made.cell;
  });
  const ramp: Ramp = { id: newId('r'), name, cells };
  const sheet = findSheet(next.kit, sheetId);
  take({ kind: 'put', list: 'ramps', of: sheetId, index: sheet.ramps.length, before: null, after: ramp });
  return { edit: group(`Make the ramp ${name}`, edits), ramp };
}

/**
 * Other colors for the steps of a ramp; all its faces follow. Throws where their number differs, and on a
 * frozen sheet.
 */
export function recolorRamp(sheet: Sheet, ramp: Ramp, colors: readonly Hex[]): Edit {
  if (colors.length !== ramp.cells.length) throw new Error(`The ramp has ${ramp.cells.length} steps, not ${colors.length}.`);
  const edits = ramp.cells.flatMap((id, i) => {
    const cell = sheet.cells.find((c) => c.id === id)!;
    const isSame = cell.fill.kind === 'solid' && cell.fill.color === colors[i];
    return isSame ? [] : [editCell(sheet, id, { fill: { kind: 'solid', color: colors[i]! } })];
  });
  return group(`Tune the ramp ${ramp.name}`, edits);
}

export const renameRamp = (sheet: Sheet, ramp: Ramp, name: string): Edit => ({
  kind: 'put',
  list: 'ramps',
  of: sheet.id,
  index: sheet.ramps.indexOf(ramp),
  before: ramp,
  after: { ...ramp, name },
});

/** Unties the steps; the colors stay. */
export const untieRamp = (sheet: Sheet, ramp: Ramp): Edit => ({
  kind: 'put',
  list: 'ramps',
  of: sheet.id,
  index: sheet.ramps.indexOf(ramp),
  before: ramp,
  after: null,
});

/**
 * One more step before index `at` of the ramp: 0 is beyond the dark end, the number of steps beyond the light
 * end, others between two. `null` where the color could not differ. Throws where the ramp has as many as it can have.
 */
export function addStep(state: KitState, sheetId: string, rampId: string, at: number): { edit: Edit; cell: number } | null {
  const sheet = findSheet(state.kit, sheetId);
  const ramp = sheet.ramps.find((r) => r.id === rampId)!;
  if (ramp.cells.length >= mostIn.steps) throw new Error(`A ramp has at most ${mostIn.steps} steps. Begin another one.`);
  const colors = rampColors(sheet, ramp);
  const color = at === 0 ? stepBeyond(colors, -1) : at >= colors.length ? stepBeyond(colors, 1) : stepBetween(colors[at - 1]!, colors[at]!);
  if (!color || colors.includes(color)) return null;
  const side = at === 0 ? ', darker' : at >= colors.length ? ', lighter' : ', between';
  const neighbour = findCell(state.kit, ramp.cells[Math.max(0, Math.min(ramp.cells.length - 1, at))]!)!.cell;
  const made = newColor(state, {
    sheet: sheetId,
    color,
    role: `${neighbour.role || ramp.name}${side}`,
    ...(neighbour.finish && { finish: neighbour.finish }),
  });
  const grown = findSheet(applyEdit(state, made.edit).kit, sheetId);
  const index = grown.ramps.findIndex((r) => r.id === rampId);
  const before = grown.ramps[index]!;
  const cells = [...before.cells.slice(0, at), made.cell, ...before.cells.slice(at)];
  const put: Edit = { kind: 'put', list: 'ramps', of: sheetId, index, before, after: { ...before, cells } };
  return { edit: group(`Add a step to ${ramp.name}`, [made.edit, put]), cell: made.cell };
}

export function rampColors(sheet: Sheet, ramp: Ramp): Hex[] {
  return ramp.cells.map((id) => solidColor(sheet.cells.find((c) => c.id === id)!));
}

function solidColor(cell: Cell): Hex {
  if (cell.fill.kind !== 'solid') throw new Error(`“${cell.role}” is no plain color, so it cannot be a step of a ramp.`);
  return cell.fill.color;
}
