import { stacked } from './arrangeMany';
import { boundsOf } from './islandsOf';

/**
 * Lays islands of one shape onto the first of each, turned by quarters or over as it takes, so that they are packed as
 * one: mirrored parts share their texels. Returns each stack's faces as one island, and where corners lie then.
 */
export function stackLike(
  islands: readonly Uint32Array[],
  faceStart: Uint32Array,
  places: Float32Array,
): { islands: Uint32Array[]; places: Float32Array } {
  let at = places;
  const stacks = new Map<string, { first: Uint32Array; faces: number[] }[]>();
  const all: { faces: number[] }[] = [];
  for (const island of islands) {
    const key = looksOf(island, faceStart, places);
    const known = stacks.get(key) ?? [];
    stacks.set(key, known);
    const home = known.find(({ first }) => {
      const tried = stacked([first, island], faceStart, at);
      if (tried.unlike.length) return false;
      at = tried.texels;
      return true;
    });
    if (home) home.faces.push(...island);
    else {
      const stack = { first: island, faces: [...island] };
      known.push(stack);
      all.push(stack);
    }
  }
  return { islands: all.map(({ faces }) => Uint32Array.from(faces).sort()), places: at };
}

/** What two islands must have in common to be worth comparing: faces, and sides up to a turn, roughly. */
function looksOf(island: Uint32Array, faceStart: Uint32Array, places: Float32Array): string {
  const [x0, x1, y0, y1] = boundsOf(island, faceStart, places);
  const corners = island.reduce((sum, f) => sum + faceStart[f + 1]! - faceStart[f]!, 0);
  return `${island.length} ${corners} ${[x1 - x0, y1 - y0].sort((a, b) => a - b).map((s) => s.toPrecision(2))}`; // prettier-ignore
}
