import type { Side } from '@/state/chosen/viewState';

/**
 * Where an eye is, as it is kept for a model: target, direction towards the eye, distance (metres), the named side, and
 * whether it stands where the whole model was framed.
 */
export interface StoredEye {
  target: [number, number, number];
  direction: [number, number, number];
  distance: number;
  side: Side;
  isFramed?: boolean;
}

const key = 'oligochrome eyes';
/** Of so many models the eyes are kept, the latest. */
const most = 200;
let eyes: Map<string, StoredEye> | null = null;
let timer: ReturnType<typeof setTimeout> | undefined;

function load(): Map<string, StoredEye> {
  if (eyes) return eyes;
  try {
    const stored = JSON.parse(localStorage.getItem(key) ?? '[]') as [string, StoredEye][];
    eyes = new Map(stored.filter(([, e]) => [...e.target, ...e.direction, e.distance].every(Number.isFinite)));
  } catch {
    // Views are no work of the artist: without them a model is framed anew.
    eyes = new Map();
  }
  return eyes;
}

export const eyeOf = (model: string): StoredEye | undefined => load().get(model);

/** Kept for the next time that the model is shown, also after closing the page. */
export function keepEye(model: string, eye: StoredEye): void {
  const all = load();
  all.delete(model);
  all.set(model, eye);
  clearTimeout(timer);
  timer = setTimeout(() => {
    try {
      localStorage.setItem(key, JSON.stringify([...all].slice(-most)));
    } catch {
      // No room: it is kept while the page is open.
    }
  }, 400);
}
