import { groupForAll, type Edit } from '../kit/edit/edit';
import { findCell, findSheet, type KitState, type Rect, type Sheet } from '../kit/kit';
import { arrangeSheet } from './arrange';
import { isKept } from './cells';
import { kitAfter } from '../kit/edit/kitAfter';
import { goingTo, retireCells, type Successors } from './retireCells';

/**
 * Several colors become one: what refers to the others refers to `keep`, and their cells become spare. Throws on
 * a frozen sheet.
 */
export function mergeColors(state: KitState, keep: number, others: readonly number[]): Edit {
  const { sheet } = findCell(state.kit, keep)!;
  return groupForAll(`Merge into ${nameOf(state, keep)}`, makeSpare(state, sheet, goingTo(others, keep)).edits);
}

/** Colors of one sheet become spare cells; what refers to them refers to another color (0: none, faces become uncolored). Throws on a frozen sheet. */
export function spareColors(state: KitState, sheet: Sheet, gone: ReadonlySet<number>, moveTo: number): Edit {
  return groupForAll(gone.size === 1 ? 'Make a cell spare' : 'Make cells spare', makeSpare(state, sheet, goingTo(gone, moveTo)).edits);
}

/**
 * Neighbours become one cell over the rectangle that holds them; `keep` gives it its color. Throws where
 * another color lies in that rectangle.
 */
export function mergeCells(state: KitState, keep: number, ids: readonly number[]): Edit {
  const { sheet } = findCell(state.kit, keep)!;
  const rect = boxAround(sheet.cells.filter((c) => ids.includes(c.id)).map((c) => c.rect));
  const gone = sheet.cells.filter((c) => ids.includes(c.id) && c.fill.kind !== 'spare').map((c) => c.id);
  const { edits, kit } = makeSpare(state, sheet, goingTo(gone, keep));
  const after = findSheet(kit, sheet.id);
  const cells = after.cells.filter((c) => c.id === keep || !ids.includes(c.id)).map((c) => (c.id === keep ? { ...c, rect } : c));
  return groupForAll(`Merge into ${nameOf(state, keep)}`, [...edits, arrangeSheet(kit, after, { ...after, cells }, 'Merge cells')]);
}

const nameOf = (state: KitState, id: number) => findCell(state.kit, id)!.cell.role || 'one color';

/** The cells that go become spare; on a frozen sheet only what was added can, and its picture shows there again. */
function makeSpare(state: KitState, of: Sheet, successors: Successors): ReturnType<typeof retireCells> {
  if ([...successors.keys()].some((id) => isKept(of, id))) throw new Error(`“${of.name}” is frozen: its colors stay as they are.`);
  const retired = retireCells(state, successors);
  const sheet = findSheet(retired.kit, of.id);
  const spared = sheet.cells.flatMap((before, index): Edit[] => {
    if (!successors.has(before.id) || before.fill.kind === 'spare') return [];
    const after = { id: before.id, rect: before.rect, role: '', fill: { kind: 'spare' as const } };
    return [{ kind: 'put', list: 'cells', of: sheet.id, index, before, after }];
  });
  return { edits: [...retired.edits, ...spared], kit: kitAfter(retired.kit, spared) };
}

function boxAround(rects: readonly Rect[]): Rect {
  const x = Math.min(...rects.map((r) => r.x));
  const y = Math.min(...rects.map((r) => r.y));
  return { x, y, w: Math.max(...rects.map((r) => r.x + r.w)) - x, h: Math.max(...rects.map((r) => r.y + r.h)) - y };
}
