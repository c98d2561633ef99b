import { create } from 'zustand';
import { carryColors, looksOf, reread } from '@/core/carry/carryColors';
import type { FaceMatch, MatchKind } from '@/core/carry/matchFaces';
import { limits } from '@/core/io/errors';
import { isModelFile } from '@/core/io/fileKinds';
import { db } from '@/data/db';
import { coreWorker, proxy, startTask } from '@/workers/client';
import type { LoadedMesh } from '@/workers/residents';
import { announce } from './announce';
import { dispatch, flushEdits, keepMesh, showModel, useEditor } from './editor';
import { useImport } from './importing';
import { notify } from './notices';
import { frame } from './viewState';

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

export const useCarried = create<{ report: Carried | null; busy: string }>(() => ({ report: null, busy: '' }));

/** Runs work that may fail, telling meanwhile what is done. */
async function working(what: string, work: () => Promise<void>): Promise<void> {
  if (useEditor.getState().readOnly) {
    notify('This kit is open in another tab. Take over to edit it here.', { isError: true });
    return;
  }
  useCarried.setState({ busy: what, report: null });
  try {
    await work();
  } catch (error) {
    notify(error instanceof Error ? error.message : String(error), { isError: true });
  } finally {
    useCarried.setState({ busy: '' });
  }
}

const loadedOf = (mesh: string): LoadedMesh => {
  const loaded = useEditor.getState().meshes[mesh];
  if (!loaded) throw new Error('The model is still being prepared; try again in a moment.');
  return loaded;
};

/** The model's file as it is now, after a change outside: colors, regions, seams and named picks stay on the faces that are known again. */
export const readFileAgain = (modelId: string, files: readonly File[]): Promise<void> =>
  working('Reading the file again', async () => {
    const model = useEditor.getState().state.kit.models.find((m) => m.id === modelId)!;
    const old = loadedOf(model.mesh);
    const task = startTask();
    try {
      const tooLarge = files.find((f) => f.size > limits.bytes);
      if (tooLarge)
        throw new Error(
          `${tooLarge.name} has ${Math.round(tooLarge.size / 1048576)} MB; files up to ${limits.bytes / 1048576} MB can be read.`,
        );
      const named = await Promise.all(files.map(async (f) => ({ name: f.name, bytes: new Uint8Array(await f.arrayBuffer()) })));
      if (!named.some((f) => isModelFile(f.name)))
        throw new Error(`${named[0]!.name} is no model: choose an .obj, .glb, .gltf, .ply or .stl file.`);
      const progress = proxy(async (_: number, doing: string) => useCarried.setState({ busy: doing }));
      const { models, errors } = await task.worker.importFiles(
        named,
        (model.source.mended ?? 0) > 0 || useImport.getState().mend,
        progress,
      );
      const [read] = models;
      if (!read) throw new Error(errors[0]?.message ?? 'The file holds no model.');
      let { address, packed } = read;
      await db.blobs.bulkPut([{ id: address, bytes: packed }, ...read.files.map((f) => ({ id: f.content, bytes: f.bytes }))]);
      let loaded = await coreWorker().load(address, packed, read.files);
      // The corrections of axis and scale that stand in a node above a glTF's vertices are made again.
      const { upFromZ = false, scale = 1 } = model.placement ?? {};
      for (const [repair, is] of [
        ['turn-up', upFromZ],
        ['scale', scale !== 1],
      ] as const)
        if (is) {
          ({ address, packed, loaded } = await coreWorker().repair(address, read.files, repair, { factor: scale }));
          await db.blobs.put({ id: address, bytes: packed });
        }
      if (address === model.mesh) {
        notify(`${read.report.name} holds the same mesh as before; nothing has changed.`);
        return;
      }
      const match = await coreWorker().matchMeshes(model.mesh, address, looksOf(useEditor.getState().state.seats[modelId]!));
      keepMesh(loaded);
      const source = {
        format: read.format,
        name: read.report.name,
        files: read.files.map(({ name, content }) => ({ name, content })),
        bytes: read.fileBytes,
        triangles: read.triangles,
        mended: read.mended,
      };
      const { state } = useEditor.getState();
      if (!dispatch(reread(state, modelId, match, old.mesh, { mesh: loaded.mesh, address, source }))) return;
      await flushEdits();
      report(modelId, `${model.name} was read again`, 'bare', match, loaded);
    } finally {
      task.end();
    }
  });

/** Colors of one model come to another that is an altered copy of it, or like it. */
export const carryColorsFrom = (fromId: string, toId: string): Promise<void> =>
  working('Matching faces', async () => {
    const { state } = useEditor.getState();
    const [from, to] = [fromId, toId].map((id) => state.kit.models.find((m) => m.id === id)!);
    const [given, own] = [loadedOf(from!.mesh), loadedOf(to!.mesh)];
    const match = await coreWorker().matchMeshes(given.id, own.id, looksOf(state.seats[fromId]!));
    if (match.unmatched.length === to!.faces) throw new Error(`No face of ${to!.name} is like one of ${from!.name}; nothing was carried.`);
    const { edit } = carryColors(useEditor.getState().state, fromId, toId, match, { from: given.mesh, to: own.mesh });
    if (dispatch(edit)) report(toId, `Colors came from ${from!.name}`, 'kept', match, own);
  });

function report(
  model: string,
  title: string,
  rest: Carried['rest'],
  { counts, unmatched }: FaceMatch,
  { id, adjacency }: LoadedMesh,
): void {
  showModel(model);
  frame('model');
  const byPart = new Map<number, number[]>();
  for (const f of unmatched) byPart.set(adjacency.part[f]!, [...(byPart.get(adjacency.part[f]!) ?? []), f]);
  const parts = [...byPart].map(([part, faces]) => ({ part, faces: Uint32Array.from(faces) }));
  useCarried.setState({
    report: { model, mesh: id, title, rest, counts, unmatched: parts.sort((p, q) => q.faces.length - p.faces.length) },
  });
  announce(unmatched.length ? `${title}; ${unmatched.length} faces could not be matched` : `${title}; every face was matched`);
}

export const closeCarried = (): void => useCarried.setState({ report: null });
