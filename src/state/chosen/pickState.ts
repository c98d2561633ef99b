import { type ById, byId } from '@/core/ground/byId';
import { facesWhere } from '@/core/shapes/mesh/facesWhere';
import { create } from 'zustand';
import type { Edit } from '@/core/kit/edit/edit';
import type { Likeness } from '@/core/shapes/pick/likeParts';
import { perKit } from './session';

/**
 * Which faces of the model in view are picked, and which ones a click would take. Arrays are changed in
 * place; the versions tell.
 */
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
  /** The edge or corner was chosen by a key, and holds until the pointer leaves the face. */
  isSpotHeld: boolean;
  /** Picked faces of other models, by model id: the pick may go through the whole kit. */
  elsewhere: ById<Uint32Array>;
  /** The border of the pick as edges, as the corner that stands for each; `null` while it is not asked for. */
  edges: Uint32Array | null;
  /**
   * What a drag may have left out, or taken by accident; `cell`: the drag colored faces with it, instead of
   * picking them, by the edit `joins`.
   */
  missed: { left: Uint32Array; lone: Uint32Array; cell?: number; joins?: Edit | null } | null;
  /** Other faces that share texels of a piece of art with the face under the pointer. */
  sharing: Uint32Array;
  /** What a click there would take. */
  wouldTake: Uint32Array;
  /** On like parts: how many they are, and how far they differ. */
  likeness: Likeness | null;
  /** Faces that a report points out. */
  shown: Uint32Array;
  /** Where the face cursor stands; -1 where the pointer is used. */
  cursor: number;
  reset(faces: number): void;
  /** Changes the pick; what is hidden is never picked, however it came about. */
  set(change: (picked: Uint8Array) => void): void;
}

export interface Spot {
  edge: number;
  corner: number;
  /** Whether the pointer lies so near that edge that it says which one is meant; else the likeliest ring is. */
  isNearEdge?: boolean;
  /** Where on the face it is; absent where no pointer is there. */
  point?: readonly [number, number, number];
}

const none = new Uint32Array(0);
const nowhere = byId<never>();

/** A model comes into view with nothing picked, pointed at or hidden. */
const nothingPicked = {
  count: 0,
  last: null,
  hidden: null,
  past: [],
  face: -1,
  spot: { edge: 0, corner: 0 },
  isSpotHeld: false,
  elsewhere: nowhere,
  edges: null,
  missed: null,
  sharing: none,
  likeness: null,
  wouldTake: none,
  shown: none,
  cursor: -1,
};

export const usePick = perKit(
  create<PickState>((set, get) => ({
    picked: new Uint8Array(0),
    version: 0,
    ...nothingPicked,
    reset: (faces) => set({ picked: new Uint8Array(faces), version: get().version + 1, ...nothingPicked }),
    set: (change) => {
      const { picked, hidden, version } = get();
      change(picked);
      let count = 0;
      for (let f = 0; f < picked.length; f++) {
        if (hidden?.[f]) picked[f] = 0;
        count += picked[f]!;
      }
      set({ count, version: version + 1, shown: none, missed: null, edges: null, elsewhere: nowhere });
    },
  })),
);

export const pickedFaces = (): Uint32Array => {
  const { picked } = usePick.getState();
  return facesWhere(picked.length, (f) => picked[f]);
};

/** How many picks can be stepped back through. */
const mostPast = 30;

/** Keeps a pick that is about to be changed, for stepping back. */
export function keepForStepBack(faces: Uint32Array = pickedFaces()): void {
  const { past } = usePick.getState();
  const latest = past.at(-1);
  if (faces.length && !(latest?.length === faces.length && latest.every((f, i) => f === faces[i])))
    usePick.setState({ past: [...past.slice(1 - mostPast), faces] });
}

/** Lets the pick go, and keeps it for `bringBackPick`. */
export function letPickGo(): void {
  const { count, elsewhere } = usePick.getState();
  if (!count && elsewhere === nowhere) return;
  const faces = pickedFaces();
  keepForStepBack(faces);
  if (count) usePick.setState({ last: faces });
  usePick.getState().set((picked) => picked.fill(0));
}

/** How many faces of how many other models are picked. */
export function elsewhereCount(elsewhere: PickState['elsewhere']): { faces: number; models: number } {
  const lists = Object.values(elsewhere);
  return { faces: lists.reduce((n, l) => n + l.length, 0), models: lists.length };
}

export const countWords = () => {
  const { count, elsewhere } = usePick.getState();
  const { faces, models } = elsewhereCount(elsewhere);
  const here = count === 1 ? '1 face picked' : `${count} faces picked`;
  return faces ? `${here}, and ${faces} on ${models === 1 ? 'another model' : `${models} other models`}` : here;
};

/** Nothing that is hidden is taken. */
export function shownOnly(faces: Uint32Array): Uint32Array {
  const { hidden } = usePick.getState();
  return hidden ? faces.filter((f) => !hidden[f]) : faces;
}
