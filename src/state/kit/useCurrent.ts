import { byId } from '@/core/ground/byId';
import { useMemo } from 'react';
import type { KitState } from '@/core/kit/kit';
import { currentOf, useEditor, type CurrentModel } from './editor';

/** The kit itself, whichever variant is shown. */
export const useBase = (): KitState => useEditor((s) => s.base ?? s.state);

/** The model in view as it stands; follows its own mesh alone, so that the others may come one after another. */
export function useCurrent(): CurrentModel | null {
  const state = useEditor((s) => s.state);
  const modelId = useEditor((s) => s.modelId);
  const loaded = useEditor((s) => currentOf(s)?.loaded);
  return useMemo(() => {
    const current = currentOf({ state, modelId, meshes: byId() });
    return current && { ...current, loaded };
  }, [state, modelId, loaded]);
}
