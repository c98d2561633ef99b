import type { Adjacency } from '../mesh/adjacency';
import type { PolyMesh } from '../mesh/polyMesh';
import { edgeCorner } from './edges';
import { likeFaces } from './likeParts';
import { pointCorners } from './points';
import { ringThrough } from './ring';

/** What one click takes, from the smallest to the largest; each double click widens to the next. */
export const scopes = ['face', 'flat', 'smooth', 'part', 'object'] as const;
export type Scope =
  | (typeof scopes)[number]
  /** The run of faces through an edge; the faces around a corner. */
  | 'ring'
  | 'fan'
  /** The same cell, anywhere on the model or as far as it touches. */
  | 'color'
  | 'kit color'
  | 'touching color'
  | 'slot'
  | 'region'
  /** Everything that faces the same way. */
  | 'facing'
  /** As far as no seam lies in between: of the UVs, or marked. */
  | 'patch'
  /** The same face on every part that is like this one. */
  | 'like';

export interface PickContext {
  mesh: PolyMesh;
  adjacency: Adjacency;
  /** Cell of each face; 0 as it came in. */
  cells: Uint16Array;
  /** Region of each face; 0 none. */
  regions?: Uint16Array;
  /** Edges that were marked as seams, as the corner that stands for each. */
  seams?: readonly number[];
}

export interface PickRequest {
  scope: Scope;
  face: number;
  /** Degrees, for `flat`, `smooth` and `facing`. */
  angle: number;
  /** Which edge of the face, for `ring`, and which corner, for `fan`: 0 to its number of corners. */
  edge?: number;
  corner?: number;
  /** For `patch`: it ends at creases sharper than `angle`, too. */
  creases?: boolean;
  /** For `like`: how much lengths may differ, as a share of themselves. */
  tolerance?: number;
  /** Most faces a flood may take before it gives up with `null`, so that the page stays free. */
  limit?: number;
}

/** The faces that a click takes, unordered and without duplicates; `null` where a flood passed its limit. */
export function facesOf(context: PickContext, request: PickRequest): Uint32Array | null {
  const { scope, face, angle, edge = 0, corner = 0, limit = Infinity, tolerance, creases = false } = request;
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
    case 'ring':
      return ringThrough(mesh, adjacency, mesh.faceStart[face]! + edge);
    case 'fan':
      return fanAround(adjacency, mesh.faceStart[face]! + corner);
    case 'color':
    case 'kit color':
      return sameColor(context, face);
    case 'touching color':
      return floodWhere(adjacency, face, limit, (_, g) => sameSeat(context, face, g));
    case 'slot':
      return collect(mesh.faceSlot, mesh.faceSlot[face]!);
    case 'region':
      return context.regions?.[face] ? collect(context.regions, context.regions[face]!) : Uint32Array.of(face);
    case 'facing':
      return facingLike(adjacency, face, angle);
    case 'patch': {
      const marked = new Set(context.seams);
      const least = creases ? Math.cos((angle * Math.PI) / 180) - 1e-6 : -2;
      return floodWhere(
        adjacency,
        face,
        limit,
        (c) => adjacency.cosine[c]! >= least && !marked.has(edgeCorner(adjacency, c)) && !isSeam(mesh, adjacency, c),
      );
    }
    case 'like':
      return likeFaces(mesh, adjacency, [face], tolerance);
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

const sameSeat = ({ cells, mesh }: PickContext, f: number, g: number): boolean =>
  cells[f] === cells[g] && (cells[f] !== 0 || mesh.faceSlot[f] === mesh.faceSlot[g]);

/** All faces at the point of a corner. */
function fanAround(adjacency: Adjacency, corner: number): Uint32Array {
  const { start, corners } = pointCorners(adjacency);
  const p = adjacency.cornerPoint[corner]!;
  return Uint32Array.from(new Set(Array.from(corners.subarray(start[p]!, start[p + 1]!), (c) => adjacency.cornerFace[c]!)));
}

/** Faces anywhere whose normals lie within `angle` degrees of the face's. */
function facingLike({ normals }: Adjacency, face: number, angle: number): Uint32Array {
  const least = Math.cos((angle * Math.PI) / 180) - 1e-6;
  const [x, y, z] = [normals[face * 3]!, normals[face * 3 + 1]!, normals[face * 3 + 2]!];
  const out: number[] = [];
  for (let f = 0; f * 3 < normals.length; f++)
    if (f === face || normals[f * 3]! * x + normals[f * 3 + 1]! * y + normals[f * 3 + 2]! * z >= least) out.push(f);
  return Uint32Array.from(out);
}

/** Whether the first UV set has a seam at the edge of a corner. */
function isSeam(mesh: PolyMesh, { neighbour, against, cornerFace, faceStart }: Adjacency, c: number): boolean {
  const uv = mesh.uvSets[0];
  const d = neighbour[c]!;
  if (!uv || d < 0) return false;
  const next = (k: number) => (k + 1 < faceStart[cornerFace[k]! + 1]! ? k + 1 : faceStart[cornerFace[k]!]!);
  const differ = (p: number, q: number) => Math.abs(uv[p * 2]! - uv[q * 2]!) + Math.abs(uv[p * 2 + 1]! - uv[q * 2 + 1]!) > 1e-5;
  return against[c] ? differ(c, d) || differ(next(c), next(d)) : differ(c, next(d)) || differ(next(c), d);
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

/** Touching faces, over every corner's edge that may be crossed to face `g`; `null` past the limit. */
function floodWhere(
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
