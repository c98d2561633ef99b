import { create } from 'zustand';
import { usesInAll, weightOf } from '@/core/kit/colorings/usesOfCells';
import { groupForAll, type Edit } from '@/core/kit/edit/edit';
import { type Cell, findCell, findSheet, type KitState, type Rect, type Sheet } from '@/core/kit/kit';
import {
  cellsInBand,
  deleteBand,
  insertBand,
  moveCells,
  pinchSheet,
  resizeCell,
  sortCells,
  splitCell,
  type Band,
  type SortBy,
} from '@/core/sheet/arrange';
import { mergeCells, mergeColors, spareColors } from '@/core/sheet/mergeColors';
import { goingTo, retireCells } from '@/core/sheet/retireCells';
import { announce } from '../told/announce';
import { useColoring } from '../chosen/coloringState';
import { baseState, current, useEditor } from '../kit/editor';
import { dispatch } from '../kit/edits';
import { notifyError } from '../told/notices';
import { perKit } from '../chosen/session';

/** How the colors of the sheet are shown. */
export type Look = 'true' | 'grey' | 'protan' | 'deutan' | 'tritan';

export interface BoardState {
  /** Palette is the view. */
  isOpen: boolean;
  /** The sheet that is worked on; `null`: that of the model in view. */
  sheetId: string | null;
  /** Selected cells, the one that was selected last at the end. */
  selected: readonly number[];
  look: Look;
  /** The sheet itself, or the models in their colors. */
  mode: 'sheet' | 'line-up';
  /** On a frozen sheet: where a cell may be made. */
  outlined: Rect | null;
}

export const useBoard = perKit(
  create<BoardState>(() => ({
    isOpen: false,
    sheetId: null,
    selected: [],
    look: 'true',
    mode: 'sheet',
    outlined: null,
  })),
  ['isOpen', 'look'],
);

export function sheetOnBoard(state: KitState, sheetId: string | null): Sheet {
  return state.kit.sheets.find((s) => s.id === sheetId) ?? current()?.sheet ?? state.kit.sheets[0]!;
}

/** The sheet that new colors go to: that on the board while Palette is open, else that of the model in view. */
export function sheetInHand(): Sheet {
  const { isOpen, sheetId } = useBoard.getState();
  return sheetOnBoard(useEditor.getState().state, isOpen ? sheetId : null);
}

export const boardSheet = (): Sheet => sheetOnBoard(baseState(), useBoard.getState().sheetId);

/** Selects cells; a single color also becomes that of the phrase. */
export function selectCells(ids: readonly number[]): void {
  useBoard.setState({ selected: ids, outlined: null });
  const { panel } = useColoring.getState();
  const only = ids.length === 1 ? findCell(useEditor.getState().state.kit, ids[0]!)?.cell : undefined;
  if (only && only.fill.kind !== 'spare') useColoring.setState({ cell: only.id, panel: { kind: 'edit', cell: only.id }, drafts: {} });
  else if (panel?.kind === 'edit') useColoring.setState({ panel: null, drafts: {} });
}

/** A place of a frozen picture without a cell. */
export const outlinePlace = (rect: Rect): void => useBoard.setState({ outlined: rect.w > 0 && rect.h > 0 ? rect : null });

export function toggleCell(id: number): void {
  const { selected } = useBoard.getState();
  selectCells(selected.includes(id) ? selected.filter((s) => s !== id) : [...selected, id]);
}

/** Makes an edit and has it done; what forbids it is said. */
export function attempt(make: () => Edit | null, done?: string): boolean {
  try {
    const isDone = dispatch(make()) !== null;
    if (isDone && done) announce(done);
    return isDone;
  } catch (error) {
    notifyError(error);
    return false;
  }
}

const kit = () => baseState().kit;

export const moveSelected = (dx: number, dy: number): boolean =>
  (dx !== 0 || dy !== 0) && attempt(() => moveCells(kit(), boardSheet(), useBoard.getState().selected, dx, dy), 'Moved');

export const resizeOnBoard = (id: number, rect: Rect): boolean => attempt(() => resizeCell(kit(), boardSheet(), id, rect), 'Resized');

export const splitOnBoard = (id: number, columns: number, rows: number): boolean =>
  attempt(() => splitCell(kit(), boardSheet(), id, columns, rows), `Split in ${columns} × ${rows}`);

/** The selected color with most faces gives the merged cell its color. */
export function mergeSelected(): void {
  const state = baseState();
  const uses = usesInAll(state);
  const cells = useBoard.getState().selected.map((id) => findCell(state.kit, id)!.cell);
  const rank = (c: Cell) => (c.fill.kind === 'spare' ? -1 : weightOf(uses.get(c.id)));
  const keep = [...cells].sort((a, b) => rank(b) - rank(a))[0];
  if (
    keep &&
    attempt(
      () =>
        mergeCells(
          state,
          keep.id,
          cells.map((c) => c.id),
        ),
      'Merged',
    )
  )
    selectCells([keep.id]);
}

export const mergeInto = (keep: number, others: readonly number[]): boolean =>
  attempt(() => mergeColors(baseState(), keep, others), 'Merged');

/** The selected colors become spare cells; their faces go to `moveTo` (0: they become uncolored). */
export function spareSelected(moveTo: number): void {
  const gone = new Set(useBoard.getState().selected.filter((id) => id !== moveTo));
  if (attempt(() => spareColors(baseState(), boardSheet(), gone, moveTo), 'Made spare')) selectCells([]);
}

export const insertOnBoard = (band: Band): boolean => attempt(() => insertBand(kit(), boardSheet(), band), 'Inserted');

export const colorsInBand = (band: Band): Cell[] => cellsInBand(boardSheet(), band);

/** Deletes a band; faces on colors that lie wholly inside go to `moveTo` (0: they become uncolored). */
export function deleteOnBoard(band: Band, moveTo: number): boolean {
  const sheet = boardSheet();
  return attempt(() => {
    const gone = cellsInBand(sheet, band).map((c) => c.id);
    const retired = retireCells(baseState(), goingTo(gone, moveTo));
    return groupForAll(band.axis === 'x' ? 'Delete columns' : 'Delete rows', [
      ...retired.edits,
      deleteBand(retired.kit, findSheet(retired.kit, sheet.id), band),
    ]);
  }, 'Deleted');
}

export const pinchOnBoard = (width: number, height: number): boolean =>
  attempt(() => pinchSheet(kit(), boardSheet(), width, height), `The sheet is ${width} × ${height} texels`);

export function sortOnBoard(by: SortBy): void {
  const uses = usesInAll(baseState());
  attempt(() => sortCells(kit(), boardSheet(), by, (id) => uses.get(id)?.faces ?? 0), 'Sorted');
}
