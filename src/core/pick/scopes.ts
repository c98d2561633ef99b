import type { Adjacency } from '../mesh/adjacency';
import type { PolyMesh } from '../mesh/polyMesh';

/** What one click takes, from the smallest to the largest; each double click widens to the next. */
export const scopes = ['face', 'flat', 'smooth', 'part', 'object'] as const;
export type Scope = (typeof scopes)[number] | 'color';

export interface PickContext {
  mesh: PolyMesh;
  adjacency: Adjacency;
  /** Cell of each face; 0 as it came in. */
  cells: Uint16Array;
}

export interface PickRequest {
  scope: Scope;
  face: number;
  /** Degrees, for `flat` and `smooth`. */
  angle: number;
  /** Most faces a flood may take before it gives up with `null`, so that the page stays free. */
  limit?: number;
}

/** The faces that a click takes, unordered and without duplicates; `null` where a flood passed its limit. */
export function facesOf(context: PickContext, { scope, face, angle, limit = Infinity }: PickRequest): Uint32Array | null {
  const { mesh, adjacency } = context;
  switch (scope) {
    case 'face':
      return Uint32Array.of(face);
    case 'flat':
      return floodFlat(adjacency, face, angle, limit);
    case 'smooth':
      return floodSmooth(adjacency, face, angle, limit);
    case 'part':
      return partOf(adjacency, face);
    case 'object':
      return collect(mesh.faceObject, mesh.faceObject[face]!);
    case 'color':
      return sameColor(context, face);
  }
}

/** The next larger scope; the largest stays. */
export function widerScope(scope: Scope): Scope {
  const at = scopes.indexOf(scope as (typeof scopes)[number]);
  return at < 0 ? 'object' : scopes[Math.min(at + 1, scopes.length - 1)]!;
}

export function partOf({ part, partStart, partFaces }: Adjacency, face: number): Uint32Array {
  const p = part[face]!;
  return partFaces.slice(partStart[p]!, partStart[p + 1]!);
}

function sameColor({ mesh, cells }: PickContext, face: number): Uint32Array {
  const cell = cells[face]!;
  if (cell !== 0) return collect(cells, cell);
  const slot = mesh.faceSlot[face]!;
  const faces: number[] = [];
  for (let f = 0; f < cells.length; f++) if (cells[f] === 0 && mesh.faceSlot[f] === slot) faces.push(f);
  return Uint32Array.from(faces);
}

function collect(values: Uint16Array, wanted: number): Uint32Array {
  let count = 0;
  for (let f = 0; f < values.length; f++) if (values[f] === wanted) count++;
  const faces = new Uint32Array(count);
  for (let f = 0, i = 0; f < values.length; f++) if (values[f] === wanted) faces[i++] = f;
  return faces;
}

/** A stamp for each face instead of a cleared array, so that a small flood on a large mesh costs only what it takes. */
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

/** Touching faces whose normals lie within `angle` degrees of the first face's; a flipped face counts by its other side. */
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
