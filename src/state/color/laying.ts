import { create } from 'zustand';
import type { Edit } from '@/core/edit/edit';
import { findCell, type Seats } from '@/core/kit/kit';
import { layAlong, runOf, seatsAfter, type Laying } from '@/core/seat/layAlong';
import { count } from '@/core/words';
import { coreWorker } from '@/workers/client';
import type { LoadedMesh } from '@/workers/residents';
import { dispatch, refusedAsReadOnly } from '../kit/edits';
import { current, moment, useEditor } from '../kit/editor';
import { perKit } from '../kit/session';
import { elsewhereCount, letPickGo, pickedFaces, usePick } from '../pick/pickState';
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

type Run = Pick<Laying, 'start' | 'end' | 'screenUp'>;

/** Of more faces than this nothing is shown while it is decided, and the worker measures. */
const mostOnPage = 20_000;

/** The edit that lays faces of a model; `null` where nothing would change. */
const editOf = (modelId: string, loaded: LoadedMesh, faces: Uint32Array, cell: number, run: Float32Array, ends: Run): Edit | null =>
  layAlong(useEditor.getState().state, modelId, loaded.mesh.faceStart, faces, cell, run, ends);

function layingOf(ends: Run): Laying {
  const { rule, tone, over } = useLaying.getState();
  return { rule, tone, over, ...ends };
}

/** The same once it is measured; `null` also where another model, mesh or kit is there by then. */
async function edit(faces: Uint32Array, cell: number, ends: Run): Promise<Edit | null> {
  const c = current();
  if (!c?.loaded) return null;
  const { mesh, adjacency, id } = c.loaded;
  const isNow = moment();
  const laying = layingOf(ends);
  const run = faces.length > mostOnPage ? await coreWorker().runAlong(id, faces, laying) : runOf(mesh, adjacency, faces, laying);
  return isNow() ? editOf(c.model.id, c.loaded, faces, cell, run, ends) : null;
}

/** Whether a cell is a gradient that faces can be laid along. */
export const isGradient = (cell: number): boolean => findCell(useEditor.getState().state.kit, cell)?.cell.fill.kind === 'gradient';

/** Shows the picked faces as they would be, from one place of a gradient to another. */
export function previewLaying(cell: number, start: number, end: number): void {
  const c = current();
  const faces = pickedFaces();
  if (!c?.loaded || !faces.length || c.model.faces > mostOnPage || useEditor.getState().readOnly) return;
  const ends = { start, end, screenUp: screenUp() };
  const run = runOf(c.loaded.mesh, c.loaded.adjacency, faces, layingOf(ends));
  const would = editOf(c.model.id, c.loaded, faces, cell, run, ends);
  useView.setState({ hatchHidden: true });
  useLaying.setState({ preview: would && { model: c.model.id, seats: seatsAfter(useEditor.getState().state, c.model.id, would) } });
}

export function endPreview(): void {
  useView.setState({ hatchHidden: false });
  useLaying.setState({ preview: null });
}

/** Lays the picked faces along a gradient, and lets them go. */
export async function layPick(cell: number, start = 0, end = 1): Promise<void> {
  endPreview();
  const c = current();
  if (!c?.loaded || refusedAsReadOnly()) return;
  if (!isGradient(cell)) return notify('Choose a gradient in the tray, or drag along one: the pick is laid along it.');
  const faces = openFaces(c, pickedFaces());
  if (!faces.length) return notify('Pick the faces first, then drag along the gradient.');
  try {
    const ends = { start, end, screenUp: screenUp() };
    const isNow = moment();
    const { version, elsewhere } = usePick.getState();
    const done = dispatch(await edit(faces, cell, ends));
    if (!isNow()) return;
    useColoring.setState({ cell });
    // What was picked while it was measured is another pick, and stays.
    if (usePick.getState().version === version) letPickGo();
    const others = elsewhereCount(elsewhere).faces;
    if (others) notify(`Laid on ${c.model.name} only: ${count(others, 'picked face')} on other models kept their color.`);
    if (done) useLaying.setState({ laid: { ...ends, model: c.model.id, mesh: c.model.mesh, faces, cell, edit: done } });
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

let asked = 0;
/** Other words for what was laid last: it is laid anew, in the same undo. */
export async function layAgain(change: Partial<Pick<Laying, 'rule' | 'tone' | 'over' | 'start' | 'end'>>): Promise<void> {
  const laid = lastLaid();
  const { rule, tone, over, start, end } = change;
  useLaying.setState({ ...(rule && { rule }), ...(tone && { tone }), ...(over && { over }) });
  if (!laid) return;
  const ends = { start: start ?? laid.start, end: end ?? laid.end, screenUp: laid.screenUp };
  useLaying.setState({ laid: { ...laid, ...ends } });
  const mine = ++asked;
  try {
    const again = await edit(laid.faces, laid.cell, ends);
    // Something else may have been done meanwhile, or other words chosen, which then count.
    const now = lastLaid();
    if (!now || mine !== asked) return;
    const done = again && dispatch(again, { joins: now.edit });
    if (done) useLaying.setState({ laid: { ...now, edit: done } });
  } catch (error) {
    notifyError(error);
  }
}
