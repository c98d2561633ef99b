import { create } from 'zustand';
import { onFacesOf } from '@/core/faces/carry/onFaces';
import { count } from '@/core/ground/words';
import { dissolveAngles } from '@/core/shapes/dissolve/dissolve';
import { longWorker } from '@/workers/client';
import type { IdleEdges } from '@/workers/cutting';
import { perKit } from '../chosen/session';
import { baseState, current, moment, useEditor } from '../kit/editor';
import { refusedAsReadOnly } from '../kit/edits';
import { filesOf } from '../kit/meshes';
import { takeMesh } from '../kit/takeMesh';
import { announce } from '../told/announce';
import { notify, notifyError } from '../told/notices';

export interface TakingAwayState {
  /** Whether edges that part nothing are looked for and shown. */
  isOpen: boolean;
  /** Degrees within which faces are flat together. */
  angle: number;
  /** What was found, in which mesh. */
  found: (IdleEdges & { mesh: string }) | null;
  isBusy: boolean;
}

export const useTakingAway = perKit(
  create<TakingAwayState>(() => ({ isOpen: false, angle: dissolveAngles.usual, found: null, isBusy: false })),
);

let asked = 0;
/** Looks for edges of the model in view that part nothing, as long as they are shown. */
export async function lookForIdleEdges(): Promise<void> {
  const number = ++asked;
  const { isOpen, angle } = useTakingAway.getState();
  const c = current();
  if (!isOpen || !c?.loaded) return useTakingAway.setState({ found: null });
  const { id, mesh } = c.loaded;
  const isNow = moment();
  useTakingAway.setState({ isBusy: true });
  try {
    const found = await longWorker().idleEdges(id, onFacesOf(baseState(), c.model, mesh.faceStart), angle);
    if (isNow() && number === asked) useTakingAway.setState({ found: { ...found, mesh: id } });
  } catch (error) {
    if (isNow() && number === asked) {
      useTakingAway.setState({ found: null });
      notifyError(error);
    }
  } finally {
    if (number === asked) useTakingAway.setState({ isBusy: false });
  }
}

/** Takes away what is shown, in one edit. */
export async function takeIdleEdgesAway(): Promise<void> {
  const { found, angle, isBusy } = useTakingAway.getState();
  const c = current();
  if (isBusy || !found || !c?.loaded || c.loaded.id !== found.mesh || refusedAsReadOnly()) return;
  const isNow = moment();
  // Faces that were alike then become one: where one is colored meanwhile, nothing is done.
  const madeBy = baseState();
  const on = onFacesOf(madeBy, c.model, c.loaded.mesh.faceStart);
  useTakingAway.setState({ isBusy: true });
  try {
    const made = await longWorker().withoutIdleEdges(c.model.mesh, await filesOf(c.model), on, angle);
    if (!isNow()) return announce('Another model came into view before edges were taken away; nothing was done.');
    if (await takeMesh(c.model, made, 'Edges that part nothing taken away', { madeBy }))
      notify(`${count(found.edges, 'edge')} taken away: ${count(found.triangles, 'triangle')} less. Undo brings them back.`);
  } catch (error) {
    notifyError(error);
  } finally {
    useTakingAway.setState({ isBusy: false });
  }
}

useEditor.subscribe((now, before) => {
  if (useTakingAway.getState().isOpen && (now.state !== before.state || now.modelId !== before.modelId || now.meshes !== before.meshes))
    void lookForIdleEdges();
});
useTakingAway.subscribe((now, before) => {
  if (now.isOpen !== before.isOpen || now.angle !== before.angle) void lookForIdleEdges();
});
