import { remeshedFrom } from '@/core/faces/carry/carryModel';
import { group, type Edit } from '@/core/kit/edit/edit';
import type { KitState, Model } from '@/core/kit/kit';
import type { FaceOrigins } from '@/core/shapes/mesh/faceOrigins';
import { keepBlobs } from '@/data/blobs';
import { longWorker } from '@/workers/client';
import type { LoadedMesh } from '@/workers/residents';
import { baseState, kitMoment } from './editor';
import { dispatch } from './edits';
import { keepMesh } from './meshes';

/** A mesh that was made of another one, as workers give it. */
interface MadeMesh {
  address: string;
  packed: Uint8Array;
  loaded: LoadedMesh;
  origins: FaceOrigins;
}

/**
 * A model takes a mesh that was made of its own, with all that lies on its faces: one edit, or none where the kit was closed
 * meanwhile. `madeBy`: the kit by whose colors the mesh was made, where these decided which faces became one. Throws where the model
 * has another mesh by then, or where `madeBy` is no longer the kit.
 */
export async function takeMesh(
  { id, name, mesh }: Model,
  { address, packed, loaded, origins }: MadeMesh,
  label: string,
  { placementOf = (now) => now.placement, madeBy }: { placementOf?: (now: Model) => Model['placement']; madeBy?: KitState } = {},
): Promise<Edit | null> {
  const isNow = kitMoment();
  await keepBlobs([{ id: address, bytes: packed }]);
  if (!isNow()) return null;
  const state = baseState();
  const now = state.kit.models.find((m) => m.id === id);
  // Colors may have changed meanwhile, and go along as they are now; on another mesh the answer means nothing.
  if (now?.mesh !== mesh || (madeBy && madeBy !== state))
    throw new Error(`“${name}” changed while a new mesh was made of it; nothing was done. Try again.`);
  await keepMesh(loaded);
  const { seams, picks = [] } = now;
  // Remembered before asking: where a face is colored meanwhile, the edit is refused, not wrong.
  const before = remeshedFrom(state, now);
  const onFaces = { seams, picks, ...(before.patches && { patches: before.patches }) };
  const carried = await longWorker().carryRemeshed(mesh, address, onFaces, before.seats, origins);
  if (!isNow()) return null;
  const placement = placementOf(now);
  const after = { mesh: address, faces: origins.from.length, ...carried, ...(placement && { placement }) };
  return dispatch(group(label, [{ kind: 'remesh', model: id, before, after }]));
}
