import { create } from 'zustand';
import { group, type Edit } from '@/core/edit/edit';
import { clearanceFor, fitted, layAt, moved, noMove, tooNear, type Move } from '@/core/islands/arrangeIslands';
import { boundsOf, islandsOf, type Island } from '@/core/islands/islandsOf';
import { overlaps } from '@/core/islands/overlaps';
import { flatAreas, layCharts, packIslands } from '@/core/islands/charts';
import { facing, project } from '@/core/islands/project';
import { islandCells } from '@/core/islands/texels';
import { findCell, type Cell, type Seats, type Sheet } from '@/core/kit/kit';
import type { Point3 } from '@/core/seat/gradientRules';
import { seatsAfter } from '@/core/seat/layAlong';
import { count } from '@/core/words';
import { useColoring } from '../color/coloringState';
import { mostOnPage, useLaying } from '../color/laying';
import { dispatch, refusedAsReadOnly } from '../kit/edits';
import { current, useEditor, type CurrentModel } from '../kit/editor';
import { perKit } from '../kit/session';
import { usePhrase } from '../pick/phrase';
import { pickedFaces, usePick } from '../pick/pickState';
import { announce } from '../view/announce';
import { notify, notifyError } from '../view/notices';
import { presentView, useView } from '../view/viewState';

export const useIslands = perKit(
  create<{
    /** Islands are kept inside their cell, with the clearance that the sheet's filter and mip levels ask for. */
    isKept: boolean;
    /** Mip levels for which islands stay clear of their cell's border. */
    mipLevels: number;
  }>(() => ({ isKept: true, mipLevels: 0 })),
  ['isKept', 'mipLevels'],
);

/** Texels that islands of a sheet have to stay away from the border of their cell. */
export const clearanceOf = (sheet: Sheet): number => clearanceFor(sheet.filter, useIslands.getState().mipLevels);
const keptClearance = (sheet: Sheet): number => (useIslands.getState().isKept ? clearanceOf(sheet) : 0);

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
export function islandProblems(
  { islands, sheet, of, texels }: IslandsInView,
  mipLevels: number,
): { near: Uint32Array; overlapping: Uint32Array } {
  const cells = new Map(sheet.cells.map((c) => [c.id, c]));
  const near = tooNear(islands, cells, clearanceFor(sheet.filter, mipLevels));
  const art = islands.filter((i) => cells.get(i.cell)!.fill.kind === 'art');
  const pairs = new Set(overlaps(art, of.loaded!.mesh.faceStart, texels, sheet).flat());
  const facesOf = (list: Island[]) => Uint32Array.from(list.flatMap((i) => [...i.faces]));
  return { near: facesOf(near), overlapping: facesOf(art.filter((_, i) => pairs.has(i))) };
}

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

/** Shows what is picked moved by texels, with the pointer at `at`. */
export function previewMove(by: readonly [number, number], at: readonly [number, number]): void {
  const view = islandsInView();
  if (!view || view.of.model.faces > mostOnPage || useEditor.getState().readOnly) return;
  const would = moveEdit(view, { ...noMove, by }, cellAt(view, ...at));
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

/** How faces are laid flat: as they are seen straight on, from where one looks now, or each flat area by itself. */
export type Flattening = 'straight' | 'view' | 'areas';

/** Lays the picked faces flat on a cell, as large as it takes them. */
export function flattenPicked(how: Flattening, cellId: number): void {
  const view = islandsInView();
  if (!view || refusedAsReadOnly()) return;
  const cell = findCell(useEditor.getState().state.kit, cellId)?.cell;
  if (!cell || !islandCells(view.sheet).has(cellId)) return notify('Choose the art or the gradient first on which they are to lie.');
  const faces = pickedFaces();
  if (!faces.length) return notify('Pick the faces first.');
  const { mesh } = view.of.loaded!;
  try {
    const flat = flatOf(view, how, faces, cell);
    const { state } = useEditor.getState();
    if (dispatch(layAt(state, view.of.model.id, mesh.faceStart, faces, cellId, flat, `Flatten onto ${cell.role || 'a cell'}`)))
      announce(`${count(faces.length, 'face')} lie flat on ${cell.role || 'the cell'}`);
  } catch (error) {
    notifyError(error);
  }
}

function flatOf(view: IslandsInView, how: Flattening, faces: Uint32Array, cell: Cell): Float32Array {
  const { mesh, adjacency, angles } = view.of.loaded!;
  const clearance = clearanceOf(view.sheet);
  if (how === 'areas') {
    const charts = flatAreas(adjacency, faces, usePhrase.getState().flat ?? angles.flat);
    return layCharts(mesh, adjacency, charts, cell, Math.max(leastMargin, 2 * clearance), clearance).texels;
  }
  const { right, up } = how === 'straight' ? facing(adjacency.normals, adjacency.areas, faces) : screenAxes();
  return fitted(faces, mesh.faceStart, project(mesh, faces, right, up), cell, clearance);
}

/** Lays all islands of art that has islands with common texels side by side, so that none has. */
export function partIslands(): void {
  const view = islandsInView();
  if (!view || refusedAsReadOnly()) return;
  const { faceStart } = view.of.loaded!.mesh;
  const shared = new Set(islandProblems(view, useIslands.getState().mipLevels).overlapping);
  const clearance = clearanceOf(view.sheet);
  try {
    const { state } = useEditor.getState();
    const edits = view.sheet.cells.flatMap((cell): Edit[] => {
      const islands = view.islands.filter((i) => i.cell === cell.id).map((i) => i.faces);
      if (!islands.some((faces) => shared.has(faces[0]!))) return [];
      const { texels } = packIslands(islands, faceStart, view.texels, cell, Math.max(leastMargin, 2 * clearance), clearance);
      const faces = Uint32Array.from(islands.flatMap((list) => [...list]));
      return [layAt(state, view.of.model.id, faceStart, faces, cell.id, texels, 'Part islands')].filter((e) => e !== null);
    });
    if (edits.length) dispatch(group('Part islands', edits));
  } catch (error) {
    notifyError(error);
  }
}

/** Texels between islands at least. */
const leastMargin = 1;

/** Right and up on the screen, in the mesh's space. */
function screenAxes(): { right: Point3; up: Point3 } {
  const m = presentView()?.matrix;
  const row = (k: number): Point3 => {
    const v = m ? [m[k]!, m[k + 4]!, m[k + 8]!] : k ? [0, 1, 0] : [1, 0, 0];
    const length = Math.hypot(...v) || 1;
    return v.map((x) => x / length) as unknown as Point3;
  };
  return { right: row(0), up: row(1) };
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
