import { group, type Edit } from '@/core/kit/edit/edit';
import { creases, edgesBetween, edgesOfUvs, mirroredEdges } from '@/core/islands/unwrap/seams';
import type { PolyMesh } from '@/core/shapes/mesh/polyMesh';
import { borderOf } from '@/core/shapes/pick/edges';
import { chartFaces } from '@/core/islands/unwrap/chart';
import { count } from '@/core/ground/words';
import { pickingWorker } from '@/workers/client';
import { current, moment, useEditor } from '../kit/editor';
import { dispatch, refusedAsReadOnly } from '../kit/edits';
import { angleFor } from '../pick/picking';
import { usePick, pickedFaces } from '../chosen/pickState';
import { symmetryInView } from '../pick/symmetries';
import { announce } from '../told/announce';
import { notify, notifyError } from '../told/notices';
import { useView } from '../chosen/viewState';

/** By what edges become seams: among the picked faces, or on the whole model where none is picked. */
export type SeamsBy = 'creases' | 'regions' | 'materials' | 'border' | 'way' | 'file' | 'mirror';

/** The edit after which these edges, and no others, are the seams of the model in view. */
export function seamsEdit(edges: Iterable<number>): Edit | null {
  const { model } = current() ?? {};
  const seams = [...new Set(edges)].sort((p, q) => p - q);
  if (!model || seams.join() === model.seams.join()) return null;
  const { models } = useEditor.getState().state.kit;
  return { kind: 'put', list: 'models', of: 'kit', index: models.indexOf(model), before: model, after: { ...model, seams } };
}

/** Edges become seams, or are none any more; they are shown. */
export function changeSeams(edges: Iterable<number>, isSeam: boolean): boolean {
  const { model } = current() ?? {};
  if (!model || refusedAsReadOnly()) return false;
  const seams = new Set(model.seams);
  const before = seams.size;
  for (const c of edges)
    if (isSeam) seams.add(c);
    else seams.delete(c);
  const edit = seamsEdit(seams);
  if (!edit || !dispatch(group(isSeam ? 'Mark seams' : 'Take away seams', [edit]))) return false;
  useView.setState({ seams: true });
  const changed = Math.abs(seams.size - before);
  announce(`${count(changed, 'edge')} ${isSeam ? 'marked as seams' : 'no seams any more'}`);
  return true;
}

/** Edges around the pick become seams, at which patches end and unwraps are cut, or are none any more. */
export function setSeams(isSeam: boolean): void {
  const { edges } = usePick.getState();
  if (!edges) return;
  changeSeams(edges, isSeam);
  usePick.setState({ edges: null });
}

export async function markSeams(by: SeamsBy): Promise<void> {
  const isNow = moment();
  try {
    const edges = await edgesBy(by);
    if (!edges || !isNow()) return;
    if (!changeSeams(edges, true)) notify(edges.length ? 'These edges are seams already.' : nothing[by]);
  } catch (error) {
    if (isNow()) notifyError(error);
  }
}

const nothing: Record<SeamsBy, string> = {
  creases: 'No edge among these faces is as sharp as that.',
  regions: 'No two regions meet among these faces.',
  materials: 'No two materials meet among these faces.',
  border: 'The pick has no border: it goes all around.',
  way: 'The picked faces touch, so that there is no way between them.',
  file: 'The UVs of the file part nowhere among these faces.',
  mirror: 'No seam has a twin across the mirror plane.',
};

async function edgesBy(by: SeamsBy): Promise<Uint32Array | null> {
  const { model, loaded } = current() ?? {};
  if (!model || !loaded) return null;
  const { adjacency, mesh } = loaded;
  const { picked, count: some } = usePick.getState();
  const faces = some ? pickedFaces() : Uint32Array.from(adjacency.areas.keys());
  switch (by) {
    case 'creases':
      return creases(adjacency, faces, angleFor('smooth'));
    case 'regions':
      return edgesBetween(adjacency, faces, useEditor.getState().state.seats[model.id]!.region);
    case 'materials':
      return edgesBetween(adjacency, faces, mesh.faceSlot);
    case 'border':
      if (!some) notify('Pick the faces first, around which the seam is to run.');
      return some ? borderOf(adjacency, picked) : null;
    case 'way': {
      const patches = chartFaces(adjacency, faces, () => false);
      if (!some || patches.length !== 2) {
        notify('Pick two faces, or two patches, between which the seam is to run.');
        return null;
      }
      const [from, to] = patches.map((list) => [...list].flatMap((f) => cornersOfFace(mesh, f)));
      return (await pickingWorker().edgePath(loaded.id, from!, to!)) ?? new Uint32Array(0);
    }
    case 'file':
      if (!mesh.uvSets[0]) notify('The file of this model has no UVs.');
      return mesh.uvSets[0] ? edgesOfUvs(adjacency, faces, mesh.uvSets[0]) : null;
    case 'mirror': {
      const symmetry = await symmetryInView();
      return symmetry && mirroredEdges(mesh, adjacency, model.seams, symmetry);
    }
  }
}

const cornersOfFace = ({ faceStart }: PolyMesh, f: number): number[] =>
  Array.from({ length: faceStart[f + 1]! - faceStart[f]! }, (_, k) => faceStart[f]! + k);

/** What of the pick is a seam is none any more; of the whole model where nothing is picked. */
export function clearSeams(): void {
  const { model, loaded } = current() ?? {};
  if (!model || !loaded) return;
  const { picked, count: some } = usePick.getState();
  const { cornerFace, neighbour } = loaded.adjacency;
  const isIn = (c: number) => !some || picked[cornerFace[c]!] || (neighbour[c]! >= 0 && picked[cornerFace[neighbour[c]!]!]);
  if (!changeSeams(model.seams.filter(isIn), false)) notify(some ? 'No edge of the pick is a seam.' : 'No edge is a seam.');
}
