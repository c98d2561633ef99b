import { create } from 'zustand';
import { safeName } from '@/core/ground/bytes/fileNames';
import { keepSlotsOf } from '../color/slots';
import { findSheet, type Kit, type Model } from '@/core/kit/kit';
import { extensionOfMime } from '@/core/sheet/encode';
import type { Cost } from '@/core/files/budget/tally';
import { archiveExtension, contentsOfKit } from '@/core/kit/contents';
import { readBlob } from '@/data/blobs';
import { longWorker, startTask, type LongTask } from '@/workers/client';
import { announce } from '../told/announce';
import { download } from '../told/download';
import { filesOf, meshOf } from '../kit/meshes';
import { baseState, useEditor } from '../kit/editor';
import { pictureFiles } from '../chosen/pictures';
import { onKitClosed, perKit } from '../chosen/session';
import { useHandOff } from '../chosen/handOff';
import type { VariantCost } from '@/core/files/budget/costOfVariant';
import { useUnseen } from '../proof/unseen';
import { patchesOfModel } from '@/core/kit/patches';
import type { LeaveOptions } from '@/core/kit/leaveOptions';
import type { Leaving, Measured } from '@/workers/leaving';
import type { PictureFile } from '@/workers/pictures';

export type What = 'model' | 'kit';

async function exportItem(model: Model): Promise<Leaving> {
  const loaded = await meshOf(model);
  const state = baseState();
  const item = { model, seats: state.seats[model.id]!, patches: patchesOfModel(state, model.id), files: await filesOf(model) };
  const { leaveOut, faces } = useUnseen.getState();
  const unseen = faces[loaded.id];
  // Export never waits for them: what is not found yet leaves.
  if (!leaveOut || !unseen?.length) return { ...item, ...(unseen && { unseen }) };
  const out = new Uint8Array(model.faces);
  for (const f of unseen) out[f] = 1;
  return { ...item, unseen, leaveOut: out };
}

function chosen(what: What): { models: Model[]; name: string } {
  const { modelId } = useEditor.getState();
  const state = baseState();
  const models = what === 'kit' ? state.kit.models : state.kit.models.filter((m) => m.id === modelId);
  if (!models.length) throw new Error('There is no model to export yet.');
  return { models, name: safeName(what === 'kit' ? state.kit.name : models[0]!.name, what) };
}

export const leavingItems = (models: readonly Model[]): Promise<Leaving[]> => Promise.all(models.map(exportItem));

/** The models that leave. */
export const leavingModels = (what: What): Model[] => chosen(what).models;

/** Asks the worker about what leaves, as it is now. */
async function withItems<T>(
  what: What,
  ask: (kit: Kit, items: Leaving[], pictures: PictureFile[], options: LeaveOptions, name: string) => Promise<T>,
  options: LeaveOptions = useHandOff.getState(),
): Promise<T> {
  const { models, name } = chosen(what);
  const items = await leavingItems(models);
  const { kit } = baseState();
  return ask(kit, items, await pictureFiles(kit), { ...options }, name);
}

/** Figures of the GLB that would leave, and what would not leave in it. */
export const measureGlb = (what: What, options: LeaveOptions): Promise<Measured> =>
  withItems(what, (kit, items, pictures, own) => longWorker().measureGlb(kit, items, pictures, own), options);

export const lossesAsObj = (what: What, options: LeaveOptions): Promise<Measured['losses']> =>
  withItems(what, (kit, items, _, own) => longWorker().losses(kit, items, 'obj', own), options);

/** The file that is being written, once that takes a moment. */
export const useWriting = perKit(create<{ name: string }>(() => ({ name: '' })));

let running: LongTask<unknown> | null = null;
export const cancelWriting = (): void => running?.cancel();
onKitClosed(cancelWriting);

/** Writes a file in a worker of its own, so that it can be cancelled. Throws while another one is written. */
export async function writeFile(name: string, type: string, ask: Parameters<typeof startTask<Uint8Array>>[0]): Promise<void> {
  if (running) throw new Error('A file is being written already; wait for it or cancel it.');
  const task = startTask(ask);
  running = task;
  const slow = setTimeout(() => useWriting.setState({ name }), 300);
  try {
    const bytes = await task.done;
    if (bytes) download(bytes, name, type);
    else announce('This was cancelled; no file was written.');
  } finally {
    running = null;
    clearTimeout(slow);
    useWriting.setState({ name: '' });
  }
}

export async function downloadGlb(what: What): Promise<void> {
  if (useHandOff.getState().as === 'slots') keepSlotsOf(chosen(what).models);
  await withItems(what, (kit, items, pictures, options, name) =>
    writeFile(`${name}.glb`, 'model/gltf-binary', (worker) => worker.exportGlb(kit, items, pictures, options)),
  );
}

export async function downloadObj(what: What): Promise<void> {
  if (useHandOff.getState().as === 'slots') keepSlotsOf(chosen(what).models);
  await withItems(what, (kit, items, pictures, options, name) =>
    writeFile(`${name}-obj.zip`, 'application/zip', (worker) => worker.exportObjZip(kit, items, pictures, name, options)),
  );
}

/** Models in a format without materials of its own. */
export async function downloadLoose(what: What, format: 'ply' | 'stl'): Promise<void> {
  await withItems(what, (kit, items, pictures, options, name) =>
    writeFile(`${name}.${format}`, 'application/octet-stream', (worker) => worker.exportLoose(kit, items, pictures, format, options)),
  );
}

export async function downloadSheet(sheetId: string): Promise<void> {
  const sheet = findSheet(useEditor.getState().state.kit, sheetId);
  const [encoded] = await longWorker().encodeSheets([sheet], await pictureFiles(useEditor.getState().state.kit));
  const { bytes, mime } = encoded!;
  download(bytes, `${safeName(sheet.name.toLowerCase(), 'sheet')}.${extensionOfMime(mime)}`, mime);
}

/** What a variant adds to the GLB of the whole kit. */
export const costOfVariant = (id: string): Promise<VariantCost> =>
  withItems('kit', (kit, items, pictures, options) => longWorker().measureVariant(kit, items, pictures, options, id));

/** Works from memory where it must, so that a kit can leave a full storage. */
export async function downloadArchive(): Promise<void> {
  const state = baseState();
  const blobs = new Map<string, Uint8Array>();
  for (const id of contentsOfKit(state.kit)) blobs.set(id, await readBlob(id));
  const name = `${safeName(state.kit.name, 'kit')}${archiveExtension}`;
  await writeFile(name, 'application/zip', (worker) => worker.writeArchive(state, blobs));
}

/**
 * Cost of all models, or of the one in view, as they came in, with the bytes of all their files; `fileBytes`
 * 0 where none came from a file.
 */
export async function costBefore(what: What): Promise<Cost & { fileBytes: number }> {
  const { models } = chosen(what);
  const sum = { materials: 0, drawCalls: 0, textureBytes: 0, gpuVertices: 0, atHardEdges: 0, atBorders: 0, fileBytes: 0 };
  for (const model of models) {
    const files = await filesOf(model);
    const cost = await longWorker().costBefore(model.mesh, files);
    for (const key of Object.keys(cost) as (keyof Cost)[]) sum[key] += cost[key];
    // A glTF is kept among its files; of other formats only what lies beside them.
    const own = model.source.format === 'gltf' && files.length ? 0 : (model.source.bytes ?? 0);
    sum.fileBytes += files.reduce((n, f) => n + f.bytes.length, own);
  }
  // Some were made here: then no number would be true of the whole.
  return models.some((m) => m.source.format === 'made') ? { ...sum, fileBytes: 0 } : sum;
}
