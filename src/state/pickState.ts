import { create } from 'zustand';
import type { Missed } from '@/core/pick/change';

/** Which faces of the model in view are picked, and which ones a click would take. Arrays are changed in place; the versions tell. */
export interface PickState {
  /** 1 for each picked face. */
  picked: Uint8Array;
  count: number;
  version: number;
  /** 1 for each face that is hidden from view; `null` where none is. */
  hidden: Uint8Array | null;
  /** Picks that were let go, the latest last, for stepping back through them. */
  past: readonly Uint32Array[];
  /** The pick that was let go last, for bringing it back. */
  last: Uint32Array | null;
  /** The face under the pointer or the face cursor; -1 none. */
  face: number;
  /** The edge and the corner of that face that the pointer is nearest to. */
  spot: Spot;
  /** What a drag may have left out, or taken by accident. */
  missed: Missed | null;
  /** What a click there would take. */
  wouldTake: Uint32Array;
  /** Faces that a report points out. */
  shown: Uint32Array;
  /** Where the face cursor stands; -1 where the pointer is used. */
  cursor: number;
  reset(faces: number): void;
  set(change: (picked: Uint8Array) => void): void;
}

export interface Spot {
  edge: number;
  corner: number;
}

const none = new Uint32Array(0);

export const usePick = create<PickState>((set, get) => ({
  picked: new Uint8Array(0),
  count: 0,
  version: 0,
  last: null,
  hidden: null,
  past: [],
  face: -1,
  spot: { edge: 0, corner: 0 },
  missed: null,
  wouldTake: none,
  shown: none,
  cursor: -1,
  reset: (faces) =>
    set({
      picked: new Uint8Array(faces),
      count: 0,
      version: get().version + 1,
      last: null,
      hidden: null,
      past: [],
      face: -1,
      missed: null,
      wouldTake: none,
      shown: none,
      cursor: -1,
    }),
  set: (change) => {
    const { picked, version } = get();
    change(picked);
    let count = 0;
    for (let f = 0; f < picked.length; f++) count += picked[f]!;
    set({ count, version: version + 1, shown: none, missed: null });
  },
}));

export function pickedFaces(): Uint32Array {
  const { picked, count } = usePick.getState();
  const faces = new Uint32Array(count);
  for (let f = 0, i = 0; f < picked.length; f++) if (picked[f]) faces[i++] = f;
  return faces;
}

/** Lets the pick go, and keeps it for `bringBackPick`. */
export function letPickGo(): void {
  const { count } = usePick.getState();
  if (!count) return;
  const faces = pickedFaces();
  usePick.setState(({ past }) => ({ last: faces, past: [...past.slice(-19), faces] }));
  usePick.getState().set((picked) => picked.fill(0));
}
