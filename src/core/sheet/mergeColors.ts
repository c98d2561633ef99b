import { applyEdit } from '../edit/editKinds';
import { group, type Edit } from '../edit/edit';
import { findCell, findSheet, type KitState, type Rect, type Sheet } from '../kit/kit';
import { moveFaces } from '../seat/moveFaces';
import { arrangeSheet } from './arrange';
import { withoutCells } from '../variants/withoutCells';
import { isKept } from './cells';

/**
 * Several colors become one: all faces of the others move to `keep`, and their cells become spare. Throws on
 * a frozen sheet.
 */
export function mergeColors(state: KitState, keep: number, others: readonly number[]): Edit {
  const gone = new Set(others.filter((id) => id !== keep));
  return group(`Merge into ${nameOf(state, keep)}`, [
    ...moveFaces(state, gone, keep),
    ...makeSpare(state, findCell(state.kit, keep)!.sheet, gone),
  ]);
}

/** Colors of one sheet become spare cells; their faces go to another color (0: they become uncolored). */
export function spareColors(state: KitState, sheet: Sheet, gone: ReadonlySet<number>, moveTo: number): Edit {
  return group(gone.size === 1 ? 'Make a cell spare' : 'Make cells spare', [
    ...moveFaces(state, gone, moveTo),
    ...makeSpare(state, sheet, gone),
  ]);
}

/**
 * Neighbours become one cell over the rectangle that holds them; `keep` gives it its color. Throws where
 * another color lies in that rectangle.
 */
export function mergeCells(state: KitState, keep: number, ids: readonly number[]): Edit {
  const { sheet } = findCell(state.kit, keep)!;
  const rect = boxAround(sheet.cells.filter((c) => ids.includes(c.id)).map((c) => c.rect));
  const gone = new Set(sheet.cells.filter((c) => c.id !== keep && ids.includes(c.id) && c.fill.kind !== 'spare').map((c) => c.id));
  const spared = makeSpare(state, sheet, gone);
  // Only cells and ramps have changed here: seats are patched in place, and what is tried must not touch them.
  const next = spared.reduce((now, edit) => applyEdit(now, edit), state);
  const after = findSheet(next.kit, sheet.id);
  const cells = after.cells.filter((c) => c.id === keep || !ids.includes(c.id)).map((c) => (c.id === keep ? { ...c, rect } : c));
  const arranged = arrangeSheet(next.kit, after, { ...after, cells }, 'Merge cells');
  return group(`Merge into ${nameOf(state, keep)}`, [...moveFaces(state, gone, keep), ...spared, arranged]);
}

const nameOf = (state: KitState, id: number) => findCell(state.kit, id)!.cell.role || 'one color';

/** The cells of these colors become spare, and leave their ramps and variants. */
function makeSpare({ kit }: KitState, sheet: Sheet, gone: ReadonlySet<number>): Edit[] {
  if ([...gone].some((id) => isKept(sheet, id))) throw new Error(`“${sheet.name}” is frozen: its colors stay as they are.`);
  const edits: Edit[] = withoutCells(kit, gone);
  for (let index = sheet.ramps.length - 1; index >= 0; index--) {
    const before = sheet.ramps[index]!;
    const cells = before.cells.filter((id) => !gone.has(id));
    if (cells.length < before.cells.length)
      edits.push({ kind: 'put', list: 'ramps', of: sheet.id, index, before, after: cells.length ? { ...before, cells } : null });
  }
  sheet.cells.forEach((before, index) => {
    if (!gone.has(before.id) || before.fill.kind === 'spare') return;
    const after = { id: before.id, rect: before.rect, role: '', fill: { kind: 'spare' as const } };
    edits.push({ kind: 'put', list: 'cells', of: sheet.id, index, before, after });
  });
  return edits;
}

function boxAround(rects: readonly Rect[]): Rect {
  const x = Math.min(...rects.map((r) => r.x));
  const y = Math.min(...rects.map((r) => r.y));
  return { x, y, w: Math.max(...rects.map((r) => r.x + r.w)) - x, h: Math.max(...rects.map((r) => r.y + r.h)) - y };
}
