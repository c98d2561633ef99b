import { create } from 'zustand';
import { group, type Edit } from '@/core/kit/edit/edit';
import { clearanceFor, fitted, layAt, moved, noMove, type Move } from '@/core/islands/arrangeIslands';
import { boundsOf, islandsOf, type Island } from '@/core/islands/islandsOf';
import { problemsOf } from '@/core/islands/problems';
import { islandCells } from '@/core/islands/texels';
import type { Cell, Seats, Sheet } from '@/core/kit/kit';
import { seatsAfter } from '@/core/faces/seat/layAlong';
import { count } from '@/core/ground/words';
import { useColoring } from '../chosen/coloringState';
import { mostOnPage, useLaying } from '../laying/laying';
import { dispatch, refusedAsReadOnly } from '../kit/edits';
import { current, useEditor, type CurrentModel } from '../kit/editor';
import { perKit } from '../chosen/session';
import { pickedFaces, usePick } from '../chosen/pickState';
import { announce } from '../told/announce';
import { notifyError } from '../told/notices';
import { useView } from '../chosen/viewState';

export const useIslands = perKit(
  create<{
    /** Islands are kept inside their cell, with the clearance that the sheet's filter and mip levels ask for. */
    isKept: boolean;
    /** Mip levels for which islands stay clear of their cell's border. */
    mipLevels: number;
    /** How islands are packed: whether they may be turned by quarters. */
    mayTurn: boolean;
    /** Islands of one shape share their texels, as mirrored parts do. */
    stacksLike: boolean;
    /** Islands come no larger than what lies on the cell already. */
    keepsDensity: boolean;
    /** Texels between islands, and what lies farther apart by how many. */
    margin: number;
    groupsBy: 'none' | 'regions' | 'materials';
    groupMargin: number;
  }>(() => ({
    isKept: true,
    mipLevels: 0,
    mayTurn: false,
    stacksLike: false,
    keepsDensity: true,
    margin: 1,
    groupsBy: 'none',
    groupMargin: 4,
  })),
  ['isKept', 'mipLevels', 'mayTurn', 'stacksLike', 'keepsDensity', 'margin', 'groupsBy', 'groupMargin'],
);

/** Texels that islands of a sheet have to stay away from the border of their cell. */
export const clearanceOf = (sheet: Sheet): number => clearanceFor(sheet.filter, useIslands.getState().mipLevels);
export const keptClearance = (sheet: Sheet): number => (useIslands.getState().isKept ? clearanceOf(sheet) : 0);

export interface IslandsInView {
  of: CurrentModel;
  sheet: Sheet;
  islands: Island[];
  texels: Float32Array;
}

let latest: { seats: Seats; sheet: Sheet; found: IslandsInView } | null = null;

/** The islands of the model in view on its sheet; `null` until its mesh is there. */
export function islandsInView(): IslandsInView | null {
  const c = current();
  if (!c?.loaded) return null;
  const seats = useEditor.getState().state.seats[c.model.id]!;
  if (latest?.seats === seats && latest.sheet === c.sheet && latest.found.of.model === c.model) return latest.found;
  const found = { of: c, sheet: c.sheet, ...islandsOf(c.loaded.adjacency, seats, c.sheet) };
  latest = { seats, sheet: c.sheet, found };
  return found;
}

/** What is wrong with how islands lie, for so many mip levels. */
export const islandProblems = ({ islands, sheet, of, texels }: IslandsInView, mipLevels: number): ReturnType<typeof problemsOf> =>
  problemsOf(islands, of.loaded!.mesh.faceStart, texels, sheet, mipLevels);

/** Picked faces that lie as islands, by their cell. */
function pickedByCell({ of, sheet }: IslandsInView): { cell: Cell; faces: Uint32Array }[] {
  const own = islandCells(sheet);
  const lists = new Map<number, number[]>();
  for (const f of pickedFaces()) {
    const id = of.cells[f]!;
    if (!own.has(id)) continue;
    const list = lists.get(id);
    if (list) list.push(f);
    else lists.set(id, [f]);
  }
  return [...lists].map(([id, faces]) => ({ cell: sheet.cells.find((c) => c.id === id)!, faces: Uint32Array.from(faces) }));
}

/** Texels around what is picked of the islands; `null` where nothing is. */
export function pickedBounds(): Island['bounds'] | null {
  const view = islandsInView();
  const faces = view ? pickedByCell(view).flatMap((p) => [...p.faces]) : [];
  return faces.length ? boundsOf(faces, view!.of.loaded!.mesh.faceStart, view!.texels) : null;
}

/** The edit that moves what is picked; onto `target` where it is dropped on another cell. */
function moveEdit(view: IslandsInView, move: Move, target: Cell | null): Edit | null {
  const { state } = useEditor.getState();
  const { faceStart } = view.of.loaded!.mesh;
  const edits = pickedByCell(view).flatMap(({ cell, faces }): Edit[] => {
    const to = target ?? cell;
    const texels = moved(faces, faceStart, view.texels, move, to, keptClearance(view.sheet));
    return [layAt(state, view.of.model.id, faceStart, faces, to.id, texels, 'Move islands')].filter((e) => e !== null);
  });
  return edits.length ? group('Move islands', edits) : null;
}

/** The cell with art or a gradient at a place of the sheet, other than those of what is picked. */
function cellAt(view: IslandsInView, x: number, y: number): Cell | null {
  const own = islandCells(view.sheet);
  const found = view.sheet.cells.find(({ rect }) => x >= rect.x && y >= rect.y && x < rect.x + rect.w && y < rect.y + rect.h);
  return found && own.has(found.id) && !pickedByCell(view).some((p) => p.cell === found) ? found : null;
}

/** Shows what is picked moved; with the pointer at `at` it may come onto the cell there. */
export function previewMove(move: Partial<Move>, at?: readonly [number, number]): void {
  const view = islandsInView();
  if (!view || view.of.model.faces > mostOnPage || useEditor.getState().readOnly) return;
  const would = moveEdit(view, { ...noMove, ...move }, at ? cellAt(view, ...at) : null);
  const { id } = view.of.model;
  useView.setState({ hatchHidden: true });
  useLaying.setState({ preview: would && { model: id, seats: seatsAfter(useEditor.getState().state, id, would) } });
}

export function endMove(): void {
  useView.setState({ hatchHidden: false });
  useLaying.setState({ preview: null });
}

let last: Edit | null = null;

/** Moves what is picked. `at`: where it was dropped; `isStep`: steps in a row are one undo. */
export function movePicked(move: Partial<Move>, { at, isStep = false }: { at?: readonly [number, number]; isStep?: boolean } = {}): void {
  endMove();
  const view = islandsInView();
  if (!view || refusedAsReadOnly()) return;
  try {
    const target = at ? cellAt(view, ...at) : null;
    const edit = moveEdit(view, { ...noMove, ...move }, target);
    if (!edit) return;
    const done = dispatch(edit, { joins: isStep ? last : null });
    last = isStep ? done : null;
    if (target) announce(`Moved onto ${target.role || 'another cell'}`);
  } catch (error) {
    notifyError(error);
  }
}

/** Fills the cell of what is picked. */
export function fitPicked(isStretched: boolean): void {
  withPicked('Fit into the cell', (faces, faceStart, texels, cell, clearance) =>
    fitted(faces, faceStart, texels, cell, clearance, isStretched),
  );
}

/** What is picked keeps away from the border of its cell as far as it should. */
export function bringInside(): void {
  withPicked('Keep clear of the border', (faces, faceStart, texels, cell, clearance) =>
    moved(faces, faceStart, texels, noMove, cell, clearance),
  );
}

/** What is picked shows one texel: that under its middle. */
export function shrinkPicked(): void {
  withPicked('Shrink to a point', (faces, faceStart, texels, cell) =>
    moved(faces, faceStart, texels, { ...noMove, size: [0, 0] }, cell, 0),
  );
}

function withPicked(
  label: string,
  make: (faces: Uint32Array, faceStart: Uint32Array, texels: Float32Array, cell: Cell, clearance: number) => Float32Array,
): void {
  const view = islandsInView();
  if (!view || refusedAsReadOnly()) return;
  const { faceStart } = view.of.loaded!.mesh;
  const { state } = useEditor.getState();
  try {
    const edits = pickedByCell(view).flatMap(({ cell, faces }): Edit[] => {
      const texels = make(faces, faceStart, view.texels, cell, clearanceOf(view.sheet));
      return [layAt(state, view.of.model.id, faceStart, faces, cell.id, texels, label)].filter((e) => e !== null);
    });
    if (edits.length) dispatch(group(label, edits));
  } catch (error) {
    notifyError(error);
  }
}

/** Picks islands on the sheet as faces on the model. */
export function pickIsland({ faces }: Island, { add, take }: { add: boolean; take: boolean }): void {
  usePick.getState().set((picked) => {
    if (!add && !take) picked.fill(0);
    for (const f of faces) picked[f] = take ? 0 : 1;
  });
  announce(`${count(faces.length, 'face')} of an island`);
}

/** Pointing at an island lights its faces. */
export const pointAtIsland = (island: Island | null): void => usePick.setState({ wouldTake: island?.faces ?? new Uint32Array(0) });

/** The cell that flattening goes to: that of the phrase where it is art or a gradient, else that of what is picked, else any art. */
export function targetCell(view: IslandsInView): Cell | null {
  const own = islandCells(view.sheet);
  const { cell } = useColoring.getState();
  const id = own.has(cell) ? cell : pickedByCell(view)[0]?.cell.id;
  return (
    view.sheet.cells.find((c) => c.id === id) ??
    view.sheet.cells.find((c) => c.fill.kind === 'art') ??
    view.sheet.cells.find((c) => own.has(c.id)) ??
    null
  );
}
