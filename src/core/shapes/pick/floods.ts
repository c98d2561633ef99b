import type { Adjacency } from '../mesh/adjacency';

/**
 * A stamp for each face instead of a cleared array, so that a small flood on a large mesh costs only what it
 * takes.
 */
interface Scratch {
  stamp: Uint32Array;
  round: number;
  stack: Uint32Array;
  side: Int8Array;
}
const scratches = new WeakMap<Adjacency, Scratch>();
function scratchFor(adjacency: Adjacency): Scratch {
  let scratch = scratches.get(adjacency);
  const faces = adjacency.faceStart.length - 1;
  if (!scratch) {
    scratch = { stamp: new Uint32Array(faces), round: 0, stack: new Uint32Array(faces), side: new Int8Array(faces) };
    scratches.set(adjacency, scratch);
  }
  scratch.round++;
  return scratch;
}

/**
 * Touching faces whose normals lie within `angle` degrees of the first face's; a flipped face counts by its
 * other side.
 */
export function floodFlat(adjacency: Adjacency, face: number, angle: number, limit = Infinity): Uint32Array | null {
  const { normals, neighbour, against, faceStart, cornerFace } = adjacency;
  const scratch = scratchFor(adjacency);
  const { stamp, round, stack, side } = scratch;
  const least = Math.cos((angle * Math.PI) / 180) - 1e-6;
  const [nx, ny, nz] = [normals[face * 3]!, normals[face * 3 + 1]!, normals[face * 3 + 2]!];
  let taken = 1;
  stack[0] = face;
  stamp[face] = round;
  side[face] = 1;
  for (let i = 0; i < taken; i++) {
    const f = stack[i]!;
    const end = faceStart[f + 1]!;
    for (let c = faceStart[f]!; c < end; c++) {
      const d = neighbour[c]!;
      if (d < 0) continue;
      const g = cornerFace[d]!;
      if (stamp[g] === round) continue;
      const s = against[c] ? -side[f]! : side[f]!;
      if ((normals[g * 3]! * nx + normals[g * 3 + 1]! * ny + normals[g * 3 + 2]! * nz) * s < least) continue;
      stamp[g] = round;
      side[g] = s;
      stack[taken++] = g;
      if (taken > limit) return null;
    }
  }
  return stack.slice(0, taken);
}

/** Touching faces, over every corner's edge that may be crossed to face `g`; `null` past the limit. */
export function floodWhere(
  adjacency: Adjacency,
  face: number,
  limit: number,
  mayCross: (corner: number, g: number) => boolean,
): Uint32Array | null {
  const { neighbour, faceStart, cornerFace } = adjacency;
  const { stamp, round, stack } = scratchFor(adjacency);
  let taken = 1;
  stack[0] = face;
  stamp[face] = round;
  for (let i = 0; i < taken; i++) {
    const f = stack[i]!;
    for (let c = faceStart[f]!; c < faceStart[f + 1]!; c++) {
      const d = neighbour[c]!;
      if (d < 0) continue;
      const g = cornerFace[d]!;
      if (stamp[g] === round || !mayCross(c, g)) continue;
      stamp[g] = round;
      stack[taken++] = g;
      if (taken > limit) return null;
    }
  }
  return stack.slice(0, taken);
}

/** Touching faces, neighbour to neighbour, over every edge that folds by at most `angle` degrees. */
export function floodSmooth(adjacency: Adjacency, face: number, angle: number, limit = Infinity): Uint32Array | null {
  const { neighbour, cosine, faceStart, cornerFace } = adjacency;
  const { stamp, round, stack } = scratchFor(adjacency);
  const least = Math.cos((angle * Math.PI) / 180) - 1e-6;
  let taken = 1;
  stack[0] = face;
  stamp[face] = round;
  for (let i = 0; i < taken; i++) {
    const f = stack[i]!;
    const end = faceStart[f + 1]!;
    for (let c = faceStart[f]!; c < end; c++) {
      const d = neighbour[c]!;
      if (d < 0 || cosine[c]! < least) continue;
      const g = cornerFace[d]!;
      if (stamp[g] === round) continue;
      stamp[g] = round;
      stack[taken++] = g;
      if (taken > limit) return null;
    }
  }
  return stack.slice(0, taken);
}
