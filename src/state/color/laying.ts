import { create } from 'zustand';
import type { Edit } from '@/core/edit/edit';
import { findCell, type Seats } from '@/core/kit/kit';
import { layAlong, seatsAfter, type Laying } from '@/core/seat/layAlong';
import { count } from '@/core/words';
import { dispatch, refusedAsReadOnly } from '../kit/edits';
import { current, useEditor } from '../kit/editor';
import { perKit } from '../kit/session';
import { letPickGo, pickedFaces, usePick } from '../pick/pickState';
import { announce } from '../view/announce';
import { notify, notifyError } from '../view/notices';
import { presentView, useView } from '../view/viewState';
import { openFaces } from './coloring';
import { useColoring } from './coloringState';

/** What was laid last, and can still be changed by words: as long as nothing else was done. */
interface Laid extends Pick<Laying, 'start' | 'end' | 'screenUp'> {
  model: string;
  mesh: string;
  faces: Uint32Array;
  cell: number;
  edit: Edit;
}

export interface LayingState extends Pick<Laying, 'rule' | 'tone' | 'over'> {
  /** What is shown while it is decided. */
  preview: { model: string; seats: Seats } | null;
  laid: Laid | null;
}

export const useLaying = perKit(
  create<LayingState>(() => ({ rule: 'height', tone: 'smooth', over: 'pick', preview: null, laid: null })),
  ['rule', 'tone', 'over'],
);

/** Up on the screen, in the world. */
function screenUp(): Laying['screenUp'] {
  const m = presentView()?.matrix;
  const up = m ? ([m[1]!, m[5]!, m[9]!] as const) : ([0, 1, 0] as const);
  const length = Math.hypot(...up) || 1;
  return [up[0] / length, up[1] / length, up[2] / length];
}

/** The edit that lays faces of the model in view; `null` where nothing would change, or it is not prepared. */
function edit(faces: Uint32Array, cell: number, run: Pick<Laying, 'start' | 'end' | 'screenUp'>): Edit | null {
  const c = current();
  if (!c?.loaded) return null;
  const { rule, tone, over } = useLaying.getState();
  const { mesh, adjacency } = c.loaded;
  return layAlong(useEditor.getState().state, c.model.id, mesh, adjacency, faces, cell, { rule, tone, over, ...run });
}

/** Whether a cell is a gradient that faces can be laid along. */
export const isGradient = (cell: number): boolean => findCell(useEditor.getState().state.kit, cell)?.cell.fill.kind === 'gradient';

/** Shows the picked faces as they would be, from one place of a gradient to another. */
export function previewLaying(cell: number, start: number, end: number): void {
  const c = current();
  const faces = pickedFaces();
  if (!c || !faces.length || useEditor.getState().readOnly) return;
  const would = edit(faces, cell, { start, end, screenUp: screenUp() });
  const { state } = useEditor.getState();
  useView.setState({ hatchHidden: true });
  useLaying.setState({ preview: would && { model: c.model.id, seats: seatsAfter(state, c.model.id, would) } });
}

export function endPreview(): void {
  useView.setState({ hatchHidden: false });
  useLaying.setState({ preview: null });
}

/** Lays the picked faces along a gradient, and lets them go. */
export function layPick(cell: number, start = 0, end = 1): void {
  endPreview();
  const c = current();
  if (!c?.loaded || refusedAsReadOnly()) return;
  if (!isGradient(cell)) return notify('Choose a gradient in the tray, or drag along one: the pick is laid along it.');
  const faces = openFaces(c, pickedFaces());
  if (!faces.length) return notify('Pick the faces first, then drag along the gradient.');
  try {
    const run = { start, end, screenUp: screenUp() };
    const done = dispatch(edit(faces, cell, run));
    useColoring.setState({ cell });
    if (usePick.getState().count) letPickGo();
    if (done) useLaying.setState({ laid: { ...run, model: c.model.id, mesh: c.model.mesh, faces, cell, edit: done } });
    announce(`${count(faces.length, 'face')} laid along ${roleOf(cell)}`);
  } catch (error) {
    notifyError(error);
  }
}

const roleOf = (cell: number): string => findCell(useEditor.getState().state.kit, cell)?.cell.role || 'the gradient';

/** What was laid last, where it is still the last thing that was done to the model in view. */
export function lastLaid(): Laid | null {
  const { laid } = useLaying.getState();
  const { history, state, modelId } = useEditor.getState();
  const isLast = laid && history.edits[history.cursor - 1] === laid.edit && laid.model === modelId;
  return isLast && state.kit.models.some((m) => m.id === laid.model && m.mesh === laid.mesh) ? laid : null;
}

/** Other words for what was laid last: it is laid anew, in the same undo. */
export function layAgain(change: Partial<Pick<Laying, 'rule' | 'tone' | 'over' | 'start' | 'end'>>): void {
  const laid = lastLaid();
  const { rule, tone, over, start, end } = change;
  useLaying.setState({ ...(rule && { rule }), ...(tone && { tone }), ...(over && { over }) });
  if (!laid) return;
  const run = { start: start ?? laid.start, end: end ?? laid.end, screenUp: laid.screenUp };
  const again = edit(laid.faces, laid.cell, run);
  const done = again && dispatch(again, { joins: laid.edit });
  // Where the words change nothing, they are remembered all the same.
  useLaying.setState({ laid: { ...laid, ...run, edit: done ?? laid.edit } });
}
