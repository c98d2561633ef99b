import { create } from 'zustand';
import type { Outline } from '@/core/pick/outline';
import { announce } from './announce';
import { lookForMissed } from './changePick';
import { colorFaces } from './coloring';
import { useColoring } from './coloringState';
import { countWords } from './picking';
import { usePick } from './pickState';
import { usePhrase } from './phrase';
import { mirroredByPhrase } from './symmetries';

/** What is drawn over the viewport while a drag takes faces. */
export const useDrag = create<{ outline: Outline | null; circle: { x: number; y: number } | null }>(() => ({
  outline: null,
  circle: null,
}));

export type DragKeys = { add: boolean; take: boolean };

/** How a drag changes the pick: by the phrase, or by held keys; both keys keep only what is in both. */
export function dragAct({ add, take }: DragKeys): 'pick' | 'add' | 'take' | 'both' | 'color' {
  if (add && take) return 'both';
  if (take) return 'take';
  if (add) return 'add';
  return usePhrase.getState().act;
}

/** Faces that a finished box, lasso or brush took. `before`: the pick as it was when the drag began; `seen`: faces that are seen, where only those were taken. */
export async function takeDragged(taken: Uint32Array, before: Uint8Array, keys: DragKeys, seen: Uint8Array | null): Promise<void> {
  const act = dragAct(keys);
  const faces = await mirroredByPhrase(taken);
  const { cell } = useColoring.getState();
  if (act === 'color' && cell) {
    usePick.getState().set((picked) => picked.set(before));
    colorFaces(faces, cell);
    return;
  }
  usePick.getState().set((picked) => {
    if (act === 'both') {
      picked.fill(0);
      for (const f of faces) picked[f] = before[f]!;
      return;
    }
    if (act === 'add' || act === 'take') picked.set(before);
    else picked.fill(0);
    for (const f of faces) picked[f] = act === 'take' ? 0 : 1;
  });
  await lookForMissed(seen);
  const { missed } = usePick.getState();
  announce(`${countWords()}${missed?.left.length ? `; ${missed.left.length} small faces beside them are not` : ''}`);
}
