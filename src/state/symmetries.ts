import { create } from 'zustand';
import type { Symmetry } from '@/core/pick/symmetry';
import { coreWorker } from '@/workers/client';
import { current } from './editor';

/** Planes over which meshes are mirrored, as the worker found them, by mesh. */
export const useSymmetries = create<Readonly<Record<string, Symmetry>>>(() => ({}));

/** The plane of the model in view; found when it is first asked for. */
export async function symmetryInView(): Promise<Symmetry | null> {
  const id = current()?.loaded?.id;
  if (!id) return null;
  const known = useSymmetries.getState()[id];
  if (known) return known;
  const found = await coreWorker().symmetry(id);
  useSymmetries.setState({ [id]: found });
  return found;
}

/** Faces and their twins. */
export function withTwins(faces: Uint32Array, { twin }: Symmetry): Uint32Array {
  const all = new Set(faces);
  for (const f of faces) if (twin[f]! >= 0) all.add(twin[f]!);
  return Uint32Array.from(all);
}
