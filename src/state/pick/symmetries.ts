import { type ById, byId } from '@/core/ground/byId';
import { facesWhere } from '@/core/shapes/mesh/facesWhere';
import { create } from 'zustand';
import type { Axis, MirrorPlane, Symmetry } from '@/core/shapes/pick/symmetry';
import { pickingWorker } from '@/workers/client';
import { announce } from '../told/announce';
import { current } from '../kit/editor';
import { usePhrase, type PhraseState } from '../chosen/phrase';
import { usePick } from '../chosen/pickState';
import { perKit } from '../chosen/session';
import { count } from '@/core/ground/words';

export interface MirrorState {
  /** How much of the mesh is mirrored across each axis, the best first, by mesh. */
  planes: ById<(MirrorPlane & { share: number })[]>;
  /** Twins across the plane in use, by mesh. */
  twins: ById<Symmetry>;
}

export const useSymmetries = perKit(create<MirrorState>(() => ({ planes: byId(), twins: byId() })));

/** The axis to mirror across: the one that was chosen, else the best. */
const axisFor = (planes: readonly MirrorPlane[], { mirrorAxis }: PhraseState): Axis => mirrorAxis ?? planes[0]!.axis;

/** The plane of the model in view with its twins; found when it is first asked for. */
export async function symmetryInView(): Promise<Symmetry | null> {
  const id = current()?.loaded?.id;
  if (!id) return null;
  const phrase = usePhrase.getState();
  const tolerance = phrase.mirrorWithin;
  const known = useSymmetries.getState();
  const before = known.twins[id];
  const isSame = before && Math.abs(before.tolerance - tolerance) < 1e-9;
  const planes = (isSame && known.planes[id]) || (await pickingWorker().mirrorPlanes(id, tolerance));
  const axis = axisFor(planes, phrase);
  if (isSame && before.axis === axis) return before;
  const plane = planes.find((p) => p.axis === axis)!;
  const found = await pickingWorker().twinsAcross(id, plane, tolerance);
  useSymmetries.setState({ planes: byId({ [id]: planes }), twins: byId({ [id]: found }) });
  return found;
}

/** Faces with their twins, or their twins instead, by the phrase. */
export function mirrored(faces: Uint32Array, { twin }: Symmetry, how: 'across' | 'instead'): Uint32Array {
  const all = new Set(how === 'across' ? faces : []);
  for (const f of faces) if (twin[f]! >= 0) all.add(twin[f]!);
  return Uint32Array.from(all);
}

/** What the phrase makes of faces that a click or drag takes. */
export async function mirroredByPhrase(faces: Uint32Array): Promise<Uint32Array> {
  const { mirror } = usePhrase.getState();
  const symmetry = mirror === 'nowhere' ? null : await symmetryInView();
  return symmetry && mirror !== 'nowhere' ? mirrored(faces, symmetry, mirror) : faces;
}

/** Points out the faces that have no twin. */
export async function showFacesWithoutTwin(): Promise<void> {
  const symmetry = await symmetryInView();
  if (!symmetry) return;
  usePick.setState({ shown: facesWhere(symmetry.twin.length, (f) => symmetry.twin[f]! < 0) });
  announce(`${count(symmetry.unmatched, 'face')} without a twin across ${symmetry.axis}`);
}
