import { limits } from '@/core/ground/limits';
import { withId } from '@/core/ground/byId';
import { create } from 'zustand';
import { carryColors, looksOf, reread } from '@/core/faces/carry/carryColors';
import { copySeats, type Model } from '@/core/kit/kit';
import { copyPatches, patchesOfModel } from '@/core/kit/patches';
import type { FaceMatch, MatchKind } from '@/core/faces/carry/matchFaces';
import { isModelFile } from '@/core/ground/bytes/fileKinds';
import { keepBlobs } from '@/data/blobs';
import { wordsOf } from '@/core/ground/wordsOf';
import { withStorageWords } from '@/data/db';
import { longWorker, proxy, startTask, type LongTask } from '@/workers/client';
import type { ImportedModel } from '@/workers/importing';
import type { LoadedMesh } from '@/workers/residents';
import { announce } from '../told/announce';
import { dispatch, refusedAsReadOnly } from '../kit/edits';
import { flushEdits } from '../kit/saving';
import { keepMesh, meshOf } from '../kit/meshes';
import { baseState, showModel, useEditor } from '../kit/editor';
import { putAwayReport, readAgain, useImport } from './importing';
import { notify } from '../told/notices';
import { frame } from '../chosen/viewState';
import { facesByPart } from '@/core/shapes/mesh/facesByPart';
import { perKit } from '../chosen/session';
import { count } from '@/core/ground/words';

/** What was carried to a model, and what could not be. */
export interface Carried {
  model: string;
  /** Of this mesh the report speaks; with another one, as after undo, it has nothing to say. */
  mesh: string;
  title: string;
  /** What became of the faces without a match. */
  rest: 'bare' | 'kept';
  counts: Record<MatchKind, number>;
  /** Faces that could not be matched, part by part. */
  unmatched: { part: number; faces: Uint32Array }[];
}

export interface CarryState {
  report: Carried | null;
  /** What is being done; empty when nothing is. */
  busy: string;
  canCancel: boolean;
}

export const useCarried = perKit(create<CarryState>(() => ({ report: null, busy: '', canCancel: false })));

let running: LongTask<unknown> | null = null;
export const cancelCarrying = (): void => running?.cancel();

/** Does a step in a worker of its own, which can be cancelled: `null` where it was. */
async function step<T>(ask: Parameters<typeof startTask<T>>[0]): Promise<T | null> {
  const task = startTask(ask);
  running = task;
  useCarried.setState({ canCancel: true });
  try {
    return await task.done;
  } finally {
    running = null;
    useCarried.setState({ canCancel: false });
  }
}

const matching = (share: number): void => useCarried.setState({ busy: `Matching faces, ${Math.round(share * 100)} %` });

/** Runs work that may fail, telling meanwhile what is done. */
async function working(what: string, work: () => Promise<void>): Promise<void> {
  if (refusedAsReadOnly()) return;
  useCarried.setState({ busy: what, report: null });
  try {
    await work();
  } catch (error) {
    const message = wordsOf(withStorageWords(error, 'the file was not taken in'));
    notify(message, { isError: true });
  } finally {
    useCarried.setState({ busy: '' });
  }
}

/**
 * Throws later where one of these models has another mesh by then, or is gone: what was matched would be
 * about others.
 */
function sameMeshes(...models: Model[]): () => void {
  return () => {
    const { kit } = useEditor.getState().state;
    const other = models.find((m) => kit.models.find((n) => n.id === m.id)?.mesh !== m.mesh);
    if (other) throw new Error(`“${other.name}” changed meanwhile, so nothing was carried. Try again.`);
  };
}

/** Reads a model from files in a worker of its own; `null` where that was cancelled. */
async function readOne(files: readonly File[], mend: boolean): Promise<ImportedModel | null> {
  const tooLarge = files.find((f) => f.size > limits.bytes);
  if (tooLarge)
    throw new Error(
      `${tooLarge.name} has ${Math.round(tooLarge.size / 1048576)} MB; files up to ${limits.bytes / 1048576} MB can be read.`,
    );
  const named = await Promise.all(files.map(async (f) => ({ name: f.name, bytes: new Uint8Array(await f.arrayBuffer()) })));
  if (!named.some((f) => isModelFile(f.name)))
    throw new Error(`${named[0]!.name} is no model: choose an .obj, .glb, .gltf, .ply or .stl file.`);
  const progress = proxy(async (_: number, doing: string) => useCarried.setState({ busy: doing }));
  const outcome = await step((worker) => worker.importFiles(named, mend, progress));
  if (outcome && !outcome.models[0]) throw new Error(outcome.errors[0]?.message ?? 'The file holds no model.');
  return outcome?.models[0] ?? null;
}

/**
 * Keeps what was read; with the corrections of axis and scale that stand in a node above a glTF's vertices
 * made again.
 */
async function keepRead(read: ImportedModel, { placement }: Model): Promise<LoadedMesh> {
  await keepBlobs([{ id: read.loaded.id, bytes: read.packed }, ...read.files.map((f) => ({ id: f.content, bytes: f.bytes }))]);
  let { loaded } = read;
  const { upFromZ = false, scale = 1 } = placement ?? {};
  const corrections = [...(upFromZ ? (['turn-up'] as const) : []), ...(scale === 1 ? [] : (['scale'] as const))];
  for (const repair of corrections) {
    const corrected = await longWorker().repair(loaded.id, read.files, repair, { factor: scale });
    await keepBlobs([{ id: corrected.address, bytes: corrected.packed }]);
    loaded = corrected.loaded;
  }
  return loaded;
}

const cancelled = 'This was cancelled; the model is as it was.';

/**
 * The model's file as it is now, after a change outside: colors, regions, seams and named picks stay on the
 * faces that are known again.
 */
export const readFileAgain = (modelId: string, files: readonly File[], mend?: boolean): Promise<void> =>
  working('Reading the file again', async () => {
    const model = baseState().kit.models.find((m) => m.id === modelId)!;
    const isStill = sameMeshes(model);
    const old = await meshOf(model);
    const read = await readOne(files, mend ?? ((model.source.mended ?? 0) > 0 || useImport.getState().mend));
    if (!read) return announce(cancelled);
    const source: Model['source'] = {
      format: read.format,
      name: read.report.name,
      files: read.files.map(({ name, content }) => ({ name, content })),
      bytes: read.fileBytes,
      triangles: read.triangles,
      mended: read.mended,
    };
    const loaded = await keepRead(read, model);
    const isSame = (list: Model['source']['files']) => JSON.stringify(list) === JSON.stringify(model.source.files);
    if (loaded.id === model.mesh && isSame(source.files)) {
      notify(`${read.report.name} holds the same as before; nothing has changed.`);
      return;
    }
    const then = baseState();
    const patches = Object.entries(patchesOfModel(then, modelId)).length ? { patches: copyPatches(patchesOfModel(then, modelId)) } : {};
    const seats = copySeats(then.seats[modelId]!);
    const { seams, picks = [] } = then.kit.models.find((m) => m.id === modelId)!;
    const looks = looksOf(then.kit, seats, old.mesh.faceStart);
    const found = await step((worker) =>
      worker.matchMeshes(model.mesh, loaded.id, looks, { seams, picks, ...patches }, seats, proxy(matching)),
    );
    if (!found) return announce(cancelled);
    const { match, carried } = found;
    isStill();
    await keepMesh(loaded);
    isStill();
    const edit = reread({ ...baseState(), seats: withId(then.seats, modelId, seats) }, modelId, carried, {
      address: loaded.id,
      source,
    });
    if (!dispatch(edit)) return;
    await flushEdits();
    report(modelId, `${model.name} was read again`, 'bare', match, loaded);
  });

/**
 * The files that a model came in with, read again with or without mended quads. What was done with it since then stays; a
 * model with which nothing was done comes in anew, with its report.
 */
export async function readWithQuads(modelId: string, mend: boolean): Promise<void> {
  const entry = useImport.getState().reports.find((r) => r.model === modelId);
  const state = baseState();
  const model = state.kit.models.find((m) => m.id === modelId);
  if (!entry || !model) return;
  const isTouched =
    state.seats[modelId]!.cell.some((c) => c > 0) ||
    model.regions.length > 0 ||
    model.seams.length > 0 ||
    Object.keys(patchesOfModel(state, modelId)).length > 0 ||
    state.kit.variants.some((v) => v.model === modelId) ||
    (state.kit.placements ?? []).some((p) => p.model === modelId);
  if (!isTouched) return readAgain(modelId, mend);
  const files = entry.files.filter((f) => !isModelFile(f.name) || f.name === entry.report.name);
  await readFileAgain(modelId, files, mend);
  if (baseState().kit.models.find((m) => m.id === modelId)?.mesh !== model.mesh) putAwayReport(modelId);
}

/** Colors of one model come to another that is an altered copy of it, or like it. */
export const carryColorsFrom = (fromId: string, toId: string): Promise<void> =>
  working('Matching faces', async () => {
    const { state } = useEditor.getState();
    const [from, to] = [fromId, toId].map((id) => state.kit.models.find((m) => m.id === id)!);
    const isStill = sameMeshes(from!, to!);
    const [given, own] = await Promise.all([meshOf(from!), meshOf(to!)]);
    const { seams, picks = [] } = from!;
    const looks = looksOf(state.kit, state.seats[fromId]!, given.mesh.faceStart);
    const seats = state.seats[fromId]!;
    const found = await step((worker) => worker.matchMeshes(given.id, own.id, looks, { seams, picks }, seats, proxy(matching)));
    if (!found) return announce(cancelled);
    const { match, carried } = found;
    isStill();
    if (match.unmatched.length === to!.faces) throw new Error(`No face of ${to!.name} is like one of ${from!.name}; nothing was carried.`);
    const { edit } = carryColors(useEditor.getState().state, fromId, toId, match.origins, carried.seats, own.mesh.faceStart);
    if (dispatch(edit)) report(toId, `Colors came from ${from!.name}`, 'kept', match, own);
  });

function report(
  model: string,
  title: string,
  rest: Carried['rest'],
  { counts, unmatched }: Pick<FaceMatch, 'counts' | 'unmatched'>,
  { id, adjacency }: LoadedMesh,
): void {
  showModel(model);
  frame('model');
  useCarried.setState({
    report: { model, mesh: id, title, rest, counts, unmatched: facesByPart(adjacency, unmatched) },
  });
  announce(unmatched.length ? `${title}; ${count(unmatched.length, 'face')} could not be matched` : `${title}; every face was matched`);
}

export const closeCarried = (): void => useCarried.setState({ report: null });
