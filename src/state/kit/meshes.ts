import { byId, withId } from '@/core/ground/byId';
import type { Model } from '@/core/kit/kit';
import { wordsOf } from '@/core/ground/wordsOf';
import { readBlob } from '@/data/blobs';
import { pickingWorker, longWorker, onWorkerRestart, proxy, stopLongWork } from '@/workers/client';
import type { Shown } from '@/workers/rays';
import type { LoadedMesh } from '@/workers/residents';
import { currentOf, isOpen, useEditor } from './editor';
import { notify } from '../told/notices';
import { onKitClosed } from '../chosen/session';

/** Meshes that are being prepared, by address. */
const underway = new Set<string>();

/** Prepares the meshes of all models that are not there yet, the one in view first. */
export async function prepareMeshes(): Promise<void> {
  const { state, meshes } = useEditor.getState();
  const missing = state.kit.models.filter(
    (m, i, all) => !meshes[m.mesh] && !underway.has(m.mesh) && all.findIndex((o) => o.mesh === m.mesh) === i,
  );
  const count = () => useEditor.setState({ preparing: underway.size, prepared: 0 });
  for (const m of missing) underway.add(m.mesh);
  count();
  while (missing.length) {
    // Another model may have come into view meanwhile: it is next.
    const inView = currentOf(useEditor.getState())?.model.mesh;
    const at = Math.max(
      0,
      missing.findIndex((m) => m.mesh === inView),
    );
    const [model] = missing.splice(at, 1) as [Model];
    try {
      const onProgress = proxy((prepared: number) => underway.has(model.mesh) && useEditor.setState({ prepared }));
      const loaded = await longWorker().prepare(model.mesh, await filesOf(model), onProgress);
      if (!isOpen(state.kit.id)) return;
      await keepMesh(loaded);
      if (!isOpen(state.kit.id)) return forgetLate(model.mesh);
    } catch (error) {
      if (!isOpen(state.kit.id)) return;
      notify(`“${model.name}” cannot be shown: ${wordsOf(error)}`, { isError: true });
    }
    underway.delete(model.mesh);
    count();
  }
}

/** Meshes of a kit that was closed meanwhile go, unless the kit that is open now has them as well. */
export function forgetLate(...meshes: string[]): void {
  const { models } = useEditor.getState().state.kit;
  for (const mesh of meshes) {
    if (models.some((m) => m.mesh === mesh)) continue;
    void pickingWorker().forget(mesh);
    useEditor.setState((s) => ({ meshes: byId(Object.entries(s.meshes).filter(([id]) => id !== mesh)) }));
  }
}

// A new worker is given the meshes that the page has, the one in view first.
onWorkerRestart(async (remote) => {
  notify('The part of the page that computes had stopped; it was started again, and nothing is lost.');
  const { state, meshes, modelId } = useEditor.getState();
  const held = state.kit.models.filter((m) => meshes[m.mesh]);
  for (const model of held.sort((a, b) => Number(b.id === modelId) - Number(a.id === modelId))) await remote.keep(meshes[model.mesh]!);
  if (shown) await remote.setShown(...shown);
});

let shown: [string, Shown] | null = null;
/** From now on only what is shown of a mesh is met by rays and outlines. */
export function setShown(mesh: string, what: Shown): void {
  shown = [mesh, what];
  void pickingWorker().setShown(mesh, what);
}

/** Gives a mesh to the worker that picks, and to the page once it is there. */
export async function keepMesh(loaded: LoadedMesh): Promise<void> {
  await pickingWorker().keep(loaded);
  useEditor.setState((s) => ({ meshes: withId(s.meshes, loaded.id, loaded) }));
}

/** The model's mesh as soon as it is prepared, as it may not yet be just after the kit was opened. */
export function meshOf(model: Model): Promise<LoadedMesh> {
  return new Promise((resolve, reject) => {
    const look = () => {
      const { meshes, preparing } = useEditor.getState();
      const loaded = meshes[model.mesh];
      if (!loaded && preparing) return;
      stop();
      if (loaded) resolve(loaded);
      else reject(new Error(`“${model.name}” could not be prepared, so nothing can be done with it.`));
    };
    const stop = useEditor.subscribe(look);
    look();
  });
}

export const filesOf = (model: Model) =>
  Promise.all(model.source.files.map(async ({ name, content }) => ({ name, bytes: await readBlob(content) })));

/** Page and worker forget the meshes of the kit that is closed. */
export function forgetMeshes(): void {
  for (const mesh of Object.keys(useEditor.getState().meshes)) void pickingWorker().forget(mesh);
}

onKitClosed(() => {
  // A large mesh that is being prepared would keep the next kit waiting.
  if (underway.size) stopLongWork();
  underway.clear();
  shown = null;
});
