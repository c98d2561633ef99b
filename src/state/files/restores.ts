import { create } from 'zustand';
import type { RestoreRow } from '@/data/db';
import { forgetRestores, keepRestore, restoresOf } from '@/data/restores';
import { kitMoment, useEditor } from '../kit/editor';
import { perKit } from '../chosen/session';
import type { Replaced } from './folders';

/** Files of folders that were replaced, as they were before, the latest first; the way back. */
export const useRestores = perKit(create<{ restores: readonly RestoreRow[] }>(() => ({ restores: [] })));

export async function readRestores(): Promise<void> {
  const isNow = kitMoment();
  const restores = await restoresOf(useEditor.getState().state.kit.id);
  if (isNow()) useRestores.setState({ restores });
}

/** Keeps what is about to be replaced in a folder, each path once; see `putFile`. */
export function keepReplaced(kit: string, folder: string): (replaced: Replaced) => Promise<void> {
  const kept = new Set<string>();
  return async ({ path, bytes, sha256 }) => {
    // What the folder did not have needs no way back, and what was written meanwhile is no earlier state.
    if (bytes && !kept.has(path)) {
      await keepRestore({ kit, folder, path, sha256, bytes, at: Date.now() });
      await readRestores();
    }
    kept.add(path);
  };
}

export async function dropRestores(): Promise<void> {
  await forgetRestores(useEditor.getState().state.kit.id);
  await readRestores();
}
