import { useEffect, useState } from 'react';
import type { Model } from '@/core/kit/kit';
import { pickingWorker } from '@/workers/client';
import { useEditor } from '../kit/editor';

/** Seen area of each face of the given models, by mesh, as the worker finds it. */
export function useVisibleAreas(models: readonly Model[]): ReadonlyMap<string, Float32Array> {
  const meshes = useEditor((s) => s.meshes);
  const [areas, setAreas] = useState<ReadonlyMap<string, Float32Array>>(new Map());
  const wanted = models
    .map((m) => m.mesh)
    .filter((id) => meshes[id])
    .join(' ');
  useEffect(() => {
    let isLatest = true;
    void (async () => {
      for (const id of wanted.split(' ').filter(Boolean)) {
        const area = await pickingWorker().estimatedVisibleArea(id);
        if (!isLatest) return;
        setAreas((known) => new Map(known).set(id, area));
      }
    })();
    return () => {
      isLatest = false;
    };
  }, [wanted]);
  return areas;
}
