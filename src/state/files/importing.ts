import { limits } from '@/core/ground/limits';
import { create } from 'zustand';
import type { Problem } from '@/core/shapes/check/inspectMesh';
import type { Repair, RepairOptions } from '@/core/shapes/check/repair';
import { isModelFile, type NamedFile } from '@/core/ground/bytes/fileKinds';
import { copySeats, emptySeats, newId, type Model } from '@/core/kit/kit';
import { patchesOfWholeKit } from '@/core/kit/patches';
import { removeModel as removeModelEdit } from '@/core/faces/variants/removeModel';
import { group, type Edit } from '@/core/kit/edit/edit';
import { freeName } from '@/core/kit/freeName';
import { materialColors, seatColors, type VertexColors } from '@/core/faces/seat/byMaterial';
import { keepBlobs } from '@/data/blobs';
import { wordsOf } from '@/core/ground/wordsOf';
import { withStorageWords } from '@/data/db';
import { longWorker, proxy, startTask, type LongTask } from '@/workers/client';
import type { ImportedModel, ModelReport } from '@/workers/importing';
import type { LoadedMesh } from '@/workers/residents';
import { cuesThatLose } from '../stage/cues';
import { announce } from '../told/announce';
import { dispatch, refusedAsReadOnly, undoEdit } from '../kit/edits';
import { filesOf, forgetLate, keepMesh } from '../kit/meshes';
import { flushEdits } from '../kit/saving';
import { takeMesh } from '../kit/takeMesh';
import { baseState, kitMoment, showModel, useEditor } from '../kit/editor';
import { notify, notifyError } from '../told/notices';
import { onKitClosed, perKit } from '../chosen/session';

export interface ImportState {
  /** What is being read; `null` when nothing is. */
  busy: { share: number; doing: string } | null;
  errors: { file: string; message: string }[];
  /** Reports of the models that came in, by model id, until they are put away. */
  reports: { model: string; report: ModelReport; files: File[] }[];
  mend: boolean;
}

export const useImport = perKit(
  create<ImportState>(() => ({ busy: null, errors: [], reports: [], mend: true })),
  ['mend'],
);

let running: LongTask<unknown> | null = null;

/**
 * Whether there is nothing to decide about a model that came in: its mesh is sound, but for open edges, which open
 * shapes have, and it has no colors of its own.
 */
const isPlain = ({ loaded: { mesh }, report }: ImportedModel): boolean =>
  report.problems.every((p) => p.kind === 'open-border') &&
  !report.notes.length &&
  !mesh.cornerColors &&
  !mesh.slots.some((s) => s.picture) &&
  materialColors(mesh).length === 0;

/**
 * Reads all models among the files into the open kit, as one edit. The kit stays as it was where nothing can
 * be read. Whether all of them came in with nothing to decide, so that coloring can begin.
 */
export async function importFiles(files: readonly File[]): Promise<boolean> {
  if (refusedAsReadOnly()) return false;
  if (useImport.getState().busy) {
    notify('Files are being read already; wait for them or cancel.');
    return false;
  }
  const models = files.filter((f) => isModelFile(f.name));
  const tooLarge = files.filter((f) => f.size > limits.bytes);
  const errors = tooLarge.map((f) => ({
    file: f.name,
    message: `${f.name}: it has ${Math.round(f.size / 1048576)} MB; files up to ${limits.bytes / 1048576} MB can be read.`,
  }));
  if (!models.length)
    errors.push(...files.filter((f) => f.size <= limits.bytes).map((f) => ({ file: f.name, message: notAModel(f.name) })));
  useImport.setState({ errors, busy: { share: 0, doing: 'Opening the files' } });
  try {
    const named: NamedFile[] = await Promise.all(
      files.filter((f) => f.size <= limits.bytes).map(async (f) => ({ name: f.name, bytes: new Uint8Array(await f.arrayBuffer()) })),
    );
    const onProgress = proxy(async (share: number, doing: string) => useImport.setState({ busy: { share, doing } }));
    const task = startTask((worker) => worker.importFiles(named, useImport.getState().mend, onProgress));
    running = task;
    const outcome = await task.done;
    if (!outcome) {
      announce('Reading was cancelled; the kit is as it was.');
      return false;
    }
    const unread = [...errors, ...outcome.errors];
    useImport.setState({ errors: unread });
    const isTaken = outcome.models.length > 0 && (await takeIn(outcome.models, files));
    return isTaken && !unread.length && outcome.models.every(isPlain);
  } catch (error) {
    const message = wordsOf(withStorageWords(error, 'the model was not brought in'));
    useImport.setState({ errors: [...errors, { file: '', message }] });
    return false;
  } finally {
    running = null;
    useImport.setState({ busy: null });
  }
}

function notAModel(name: string): string {
  if (/\.(png|jpe?g|webp|mtl|bin)$/i.test(name))
    return `${name}: drop it together with the model that uses it (.obj, .gltf, .glb, .ply or .stl).`;
  return `${name}: models are read from .obj, .gltf, .glb, .ply and .stl files.`;
}

export const cancelImport = (): void => running?.cancel();

// An import belongs to its kit, and ends with it.
onKitClosed(() => {
  if (!running) return;
  cancelImport();
  notify('Reading files was stopped, since their kit was closed. Open it and drop them again.');
});

/** Whether they are in the kit. */
async function takeIn(imported: ImportedModel[], files: readonly File[]): Promise<boolean> {
  const isNow = kitMoment();
  const blobs = imported.flatMap((m) => [{ id: m.loaded.id, bytes: m.packed }, ...m.files.map((f) => ({ id: f.content, bytes: f.bytes }))]);
  await keepBlobs(blobs);
  if (!isNow()) return false;
  for (const { loaded } of imported) await keepMesh(loaded);
  if (!isNow()) {
    forgetLate(...imported.map((m) => m.loaded.id));
    return false;
  }
  const state = baseState();
  const edits: Edit[] = [];
  const reports: ImportState['reports'] = [];
  let index = state.kit.models.length;
  const names = state.kit.models.map((m) => m.name);
  for (const item of imported) {
    const model: Model = {
      id: newId('m'),
      name: freeName(item.name, names),
      mesh: item.loaded.id,
      faces: item.report.faces,
      sheet: state.kit.sheets[0]!.id,
      regions: [],
      slots: [],
      source: {
        format: item.format,
        name: item.report.name,
        files: item.files.map(({ name, content }) => ({ name, content })),
        bytes: item.fileBytes,
        triangles: item.triangles,
        mended: item.mended,
      },
      seams: [],
    };
    names.push(model.name);
    edits.push({ kind: 'put', list: 'models', of: 'kit', index: index++, before: null, after: model, seats: emptySeats(model.faces) });
    reports.push({ model: model.id, report: item.report, files: [...files] });
  }
  const label = imported.length === 1 ? `Bring in ${imported[0]!.name}` : `Bring in ${imported.length} models`;
  if (!dispatch(group(label, edits))) return false;
  useImport.setState((s) => ({ reports: [...reports, ...s.reports] }));
  showModel(reports[0]!.model);
  await flushEdits();
  return true;
}

export const putAwayReport = (model: string): void => useImport.setState((s) => ({ reports: s.reports.filter((r) => r.model !== model) }));

/** Reads the same files again without, or with, mended quads, as a model that comes in anew. */
export async function readAgain(model: string, mend: boolean): Promise<void> {
  const entry = useImport.getState().reports.find((r) => r.model === model);
  if (!entry) return;
  useImport.setState({ mend });
  removeModel(model, { quietly: true });
  putAwayReport(model);
  await importFiles(entry.files.filter((f) => !isModelFile(f.name) || f.name === entry.report.name));
}

const modelOf = (id: string) => baseState().kit.models.find((m) => m.id === id);

/** Repairs a model's mesh: a new mesh, with the colors of each face carried over. */
export async function repairModel(id: string, repair: Repair, options: RepairOptions = {}): Promise<void> {
  const model = modelOf(id);
  if (!model) return;
  try {
    const made = await longWorker().repair(model.mesh, await filesOf(model), repair, options);
    if (!(await takeMesh(model, made, repairWords[repair].label, { placementOf: (now) => placementAfter(now, repair, options) }))) return;
    const { address, loaded, changed } = made;
    const { problems, proposedScale } = await longWorker().problems(address);
    updateReport(id, loaded, problems, proposedScale);
    announce(`${repairWords[repair].label}: ${changed} changed`);
  } catch (error) {
    notifyError(error);
  }
}

/** A glTF file's vertices stay as they are; axis and scale are kept for a node above them. */
function placementAfter(model: Model, repair: Repair, options: RepairOptions): Model['placement'] {
  if (model.source.format !== 'gltf' || (repair !== 'turn-up' && repair !== 'scale')) return model.placement;
  const { upFromZ = false, scale = 1 } = model.placement ?? {};
  return repair === 'turn-up' ? { upFromZ: true, scale } : { upFromZ, scale: scale * (options.factor ?? 1) };
}

export const repairWords: Record<Repair, { label: string; button: string }> = {
  'turn-outward': { label: 'Turn faces outward', button: 'Turn them outward' },
  'drop-degenerate': { label: 'Drop faces without area', button: 'Drop them' },
  'drop-duplicate': { label: 'Drop duplicate faces', button: 'Drop them' },
  weld: { label: 'Weld near vertices', button: 'Weld near vertices' },
  'turn-up': { label: 'Turn upright', button: 'Turn upright' },
  scale: { label: 'Scale', button: 'Scale' },
  'flat-normals': { label: 'Use flat normals', button: 'Use flat normals' },
  complete: { label: 'Complete the other half', button: 'Complete it' },
};

function updateReport(id: string, loaded: LoadedMesh, problems: Problem[], proposedScale: number): void {
  const { min, max } = loaded.bounds;
  useImport.setState((s) => ({
    reports: s.reports.map((r) =>
      r.model === id
        ? {
            ...r,
            report: {
              ...r.report,
              problems,
              proposedScale,
              faces: loaded.mesh.faceStart.length - 1,
              size: [max[0] - min[0], max[1] - min[1], max[2] - min[2]],
              parts: loaded.adjacency.partStart.length - 1,
              vertices: loaded.adjacency.pointCount,
            },
          }
        : r,
    ),
  }));
}

/** Checks a model of the kit anew and shows its report. */
export async function reportOn(id: string): Promise<void> {
  const model = modelOf(id);
  const loaded = model && useEditor.getState().meshes[model.mesh];
  if (!model || !loaded) return;
  const { problems, proposedScale } = await longWorker().problems(model.mesh);
  const cost = await longWorker().costBefore(model.mesh, await filesOf(model));
  const { mesh, adjacency, bounds } = loaded;
  const report: ModelReport = {
    name: model.source.name,
    format: model.source.format,
    faces: model.faces,
    triangles: mesh.cornerVertex.length - 2 * model.faces,
    vertices: adjacency.pointCount,
    parts: adjacency.partStart.length - 1,
    materials: [...new Set(mesh.faceSlot)].filter((s) => !mesh.slots[s]!.none).length,
    uvSets: mesh.uvSets.length,
    vertexColors: mesh.cornerColors !== undefined,
    size: [0, 1, 2].map((k) => bounds.max[k]! - bounds.min[k]!) as [number, number, number],
    allTriangles: false,
    mended: model.source.mended ?? 0,
    problems,
    proposedScale,
    notes: [],
    cost,
  };
  useImport.setState((s) => ({ reports: [{ model: id, report, files: [] }, ...s.reports.filter((r) => r.model !== id)] }));
}

export function takeMaterialColors(id: string, mergeNear: boolean): void {
  const { state, meshes } = useEditor.getState();
  const model = modelOf(id);
  const loaded = model && meshes[model.mesh];
  if (loaded) takeColors(() => seatColors(state, id, materialColors(loaded.mesh), { mergeNear }));
}

export const vertexColorsOf = async (id: string, count: number): Promise<VertexColors> =>
  longWorker().vertexColors(modelOf(id)!.mesh, count);

export async function takeVertexColors(id: string, count: number): Promise<void> {
  const { colors } = await vertexColorsOf(id, count);
  takeColors(() => seatColors(useEditor.getState().state, id, colors));
}

function takeColors(make: () => Edit | null): void {
  try {
    dispatch(make());
  } catch (error) {
    notifyError(error);
  }
}

export function removeModel(id: string, { quietly = false } = {}): void {
  const state = baseState();
  const model = state.kit.models.find((m) => m.id === id);
  if (!model) return;
  const placements = (state.kit.placements ?? []).filter((p) => p.model === id).map((p) => p.id);
  const variants = state.kit.variants.filter((v) => v.model === id).map((v) => v.id);
  const tell = cuesThatLose({ models: [id], placements, variants });
  if (!dispatch(removeModelEdit(state, id)) || quietly) return;
  putAwayReport(id);
  if (tell) notify(`${model.name} removed. ${tell}`, { action: { label: 'Undo', run: undoEdit } });
  else announce(`${model.name} removed`);
}

export function renameModel(id: string, name: string): void {
  const { kit } = useEditor.getState().state;
  const index = kit.models.findIndex((m) => m.id === id);
  const before = kit.models[index];
  const clean = name.trim().slice(0, 200);
  if (before && clean && clean !== before.name)
    dispatch(
      group(`Rename ${before.name}`, [{ kind: 'put', list: 'models', of: 'kit', index, before, after: { ...before, name: clean } }]),
    );
}

export function duplicateModel(id: string): void {
  const { kit, seats } = baseState();
  const index = kit.models.findIndex((m) => m.id === id);
  const model = kit.models[index];
  if (!model) return;
  const after: Model = {
    ...model,
    id: newId('m'),
    name: freeName(
      `${model.name} copy`,
      kit.models.map((m) => m.name),
    ),
  };
  const edit: Edit = {
    kind: 'put',
    list: 'models',
    of: 'kit',
    index: index + 1,
    before: null,
    after,
    seats: copySeats(seats[id]!),
    patches: patchesOfWholeKit(baseState(), id),
  };
  if (dispatch(group(`Duplicate ${model.name}`, [edit]))) showModel(after.id);
}
