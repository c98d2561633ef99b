import { facesWhere } from '@/core/shapes/mesh/facesWhere';
import { create } from 'zustand';
import type { Edit } from '@/core/kit/edit/edit';
import type { Outline } from '@/core/shapes/pick/outline';
import { announce } from '../told/announce';
import { lookForMissed } from './changePick';
import { colorFaces } from '../color/coloring';
import { useColoring } from '../chosen/coloringState';
import { count } from '@/core/ground/words';
import { countWords, keepForStepBack, shownOnly, usePick } from '../chosen/pickState';
import { usePhrase } from '../chosen/phrase';
import { mirroredByPhrase } from './symmetries';
import { perKit } from '../chosen/session';

/** What is drawn over the viewport while a drag takes faces. */
export const useDrag = perKit(
  create<{ outline: Outline | null; circle: { x: number; y: number } | null }>(() => ({
    outline: null,
    circle: null,
  })),
);

export type DragKeys = { add: boolean; take: boolean };

/** How a drag changes the pick: by the phrase, or by held keys; both keys keep only what is in both. */
export function dragAct({ add, take }: DragKeys): 'pick' | 'add' | 'take' | 'both' | 'color' {
  if (add && take) return 'both';
  if (take) return 'take';
  if (add) return 'add';
  const { act } = usePhrase.getState();
  // A drag does not cut.
  return act === 'cut' ? 'pick' : act;
}

/**
 * Faces that a finished box, lasso or brush took. `before`: the pick as it was when the drag began; `seen`: 1
 * for faces that own a pixel, where only what is seen was taken; `small`: faces without one that are seen all
 * the same, which join when rays have found them; `isNear`: whether a face lies in what was drawn or close to
 * it.
 */
export async function takeDragged(
  taken: Uint32Array,
  before: Uint8Array,
  keys: DragKeys,
  seen: Uint8Array | null,
  small: Promise<Uint32Array> = Promise.resolve(new Uint32Array(0)),
  isNear: (face: number) => boolean = () => true,
): Promise<void> {
  const act = dragAct(keys);
  const { cell } = useColoring.getState();
  const isColoring = act === 'color' && cell > 0;
  const began = usePick.getState().version;
  const faces = shownOnly(await mirroredByPhrase(taken));
  // Another model may be in view by then, or another pick.
  if (usePick.getState().version !== began) return;
  let colored: Edit | null = null;
  if (isColoring) {
    usePick.getState().set((picked) => picked.set(before));
    colored = colorFaces(faces, cell);
  } else {
    keepForStepBack(facesWhere(before.length, (f) => before[f]));
    apply(faces);
  }
  const { version } = usePick.getState();
  const joining = shownOnly(await mirroredByPhrase(await small));
  if (usePick.getState().version !== version) return;
  if (isColoring) {
    if (joining.length) colored = colorFaces(joining, cell, { joins: colored }) ?? colored;
    await lookForMissed(seen && withSmall(seen, joining), isNear, {
      faces: Uint32Array.from([...faces, ...joining]),
      cell,
      joins: colored,
    });
    return;
  }
  if (joining.length) apply(Uint32Array.from(new Set([...faces, ...joining])));
  await lookForMissed(seen && withSmall(seen, joining), isNear);
  const { missed } = usePick.getState();
  announce(
    `${countWords()}${missed?.left.length ? `; ${count(missed.left.length, 'small face')} beside them ${missed.left.length === 1 ? 'is' : 'are'} not` : ''}`,
  );

  function apply(list: Uint32Array): void {
    usePick.getState().set((picked) => {
      if (act === 'both') {
        picked.fill(0);
        for (const f of list) picked[f] = before[f]!;
        return;
      }
      if (act === 'add' || act === 'take') picked.set(before);
      else picked.fill(0);
      for (const f of list) picked[f] = act === 'take' ? 0 : 1;
    });
  }
}

function withSmall(seen: Uint8Array, small: Uint32Array): Uint8Array {
  const all = seen.slice();
  for (const f of small) all[f] = 1;
  return all;
}
