import { safeName } from '@/core/io/fileNames';
import { keepSlotsOf } from './slots';
import type { ExportModel, LeaveAs } from '@/core/io/exportModel';
import { findSheet, type Model } from '@/core/kit/kit';
import { extensionOfMime } from '@/core/sheet/encode';
import type { Cost } from '@/core/budget/tally';
import { archiveExtension, contentsOfKit } from '@/core/kit/contents';
import { readBlob } from '@/data/blobs';
import { coreWorker } from '@/workers/client';
import { filesOf, meshOf, useEditor } from './editor';
import { pictureFiles } from './pictures';
import { trianglesOf, unseenFaces, useUnseen } from './unseen';

export type What = 'model' | 'kit';

async function exportItem(model: Model): Promise<ExportModel> {
  const loaded = await meshOf(model);
  const { state } = useEditor.getState();
  const item = { model, mesh: loaded.mesh, seats: state.seats[model.id]!, files: await filesOf(model) };
  if (!useUnseen.getState().leaveOut) return item;
  const leaveOut = new Uint8Array(model.faces);
  for (const f of await unseenFaces(loaded)) leaveOut[f] = 1;
  return { ...item, leaveOut };
}

function chosen(what: What): { models: Model[]; name: string } {
  const { state, modelId } = useEditor.getState();
  const models = what === 'kit' ? state.kit.models : state.kit.models.filter((m) => m.id === modelId);
  if (!models.length) throw new Error('There is no model to export yet.');
  return { models, name: safeName(what === 'kit' ? state.kit.name : models[0]!.name, what) };
}

/** Triangles that cannot be seen from any side, and how many models have such. */
export async function unseenTriangles(what: What): Promise<{ triangles: number; models: number }> {
  let [triangles, withSome] = [0, 0];
  for (const model of chosen(what).models) {
    const loaded = await meshOf(model);
    const faces = await unseenFaces(loaded);
    if (faces.length) withSome++;
    triangles += trianglesOf(loaded, faces);
  }
  return { triangles, models: withSome };
}

export interface GlbResult {
  bytes: Uint8Array;
  cost: Cost;
  name: string;
}

export interface GlbOptions {
  unlit: boolean;
  as: LeaveAs;
}

export async function makeGlb(what: What, options: GlbOptions): Promise<GlbResult> {
  const { models, name } = chosen(what);
  const items = await Promise.all(models.map(exportItem));
  const { kit } = useEditor.getState().state;
  const { bytes, cost } = await coreWorker().exportGlb(kit, items, await pictureFiles(kit), options);
  return { bytes, cost, name: `${name}.glb` };
}

export async function downloadGlb(what: What, options: GlbOptions): Promise<void> {
  if (options.as === 'slots') keepSlotsOf(chosen(what).models);
  const { bytes, name } = await makeGlb(what, options);
  download(bytes, name, 'model/gltf-binary');
}

export async function downloadObj(what: What, as: LeaveAs): Promise<void> {
  if (as === 'slots') keepSlotsOf(chosen(what).models);
  const { models, name } = chosen(what);
  const items = await Promise.all(models.map(exportItem));
  const { kit } = useEditor.getState().state;
  download(await coreWorker().exportObjZip(kit, items, await pictureFiles(kit), name, as), `${name}-obj.zip`, 'application/zip');
}

export async function downloadSheet(sheetId: string): Promise<void> {
  const sheet = findSheet(useEditor.getState().state.kit, sheetId);
  const [encoded] = await coreWorker().encodeSheets([sheet], await pictureFiles(useEditor.getState().state.kit));
  const { bytes, mime } = encoded!;
  download(bytes, `${safeName(sheet.name.toLowerCase(), 'sheet')}.${extensionOfMime(mime)}`, mime);
}

/** Works from memory where it must, so that a kit can leave a full storage. */
export async function downloadArchive(): Promise<void> {
  const { state } = useEditor.getState();
  const blobs = new Map<string, Uint8Array>();
  for (const id of contentsOfKit(state.kit)) blobs.set(id, await readBlob(id));
  download(await coreWorker().writeArchive(state, blobs), `${safeName(state.kit.name, 'kit')}${archiveExtension}`, 'application/zip');
}

/** Cost of all models, or of the one in view, as they came in; `fileBytes` 0 where a model did not come from a file. */
export async function costBefore(what: What): Promise<Cost & { fileBytes: number }> {
  const { models } = chosen(what);
  const sum = { materials: 0, drawCalls: 0, textureBytes: 0, gpuVertices: 0, fileBytes: 0 };
  for (const model of models) {
    const cost = await coreWorker().costBefore(model.mesh, await filesOf(model));
    for (const key of Object.keys(cost) as (keyof Cost)[]) sum[key] += cost[key];
    sum.fileBytes += model.source.bytes ?? 0;
  }
  return sum;
}

export function download(bytes: Uint8Array, name: string, type: string): void {
  const url = URL.createObjectURL(new Blob([bytes as Uint8Array<ArrayBuffer>], { type }));
  const link = document.createElement('a');
  link.href = url;
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(url), 60_000);
}
