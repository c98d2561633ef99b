import { nextCorner, type Adjacency } from '../mesh/adjacency';
import type { PolyMesh } from '../mesh/polyMesh';
import { edgeCorner } from './edges';
import { floodFlat, floodSmooth, floodWhere } from './floods';
import { beyondRing, floodBulge, floodToNeck } from './bodies';
import { likeFaces, type LikeOptions } from './likeParts';
import { pointCorners } from './points';
import { ringThrough } from './ring';

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
  /** Degrees, for scopes that go by one. */
  angle: number;
  /** Which edge of the face, for `ring`, and which corner, for `fan`: 0 to its number of corners. */
  edge?: number;
  corner?: number;
  /** For `patch`: it ends at creases sharper than `angle`, too. */
  creases?: boolean;
  /** For `like`: how much parts may differ, and which of their faces are meant. */
  like?: Partial<LikeOptions>;
  /** Most faces a flood may take before it gives up with `null`, so that the page stays free. */
  limit?: number;
}

/** An angle that a scope goes by. */
export type ScopeAngle = 'flat' | 'smooth' | 'facing' | 'inward';

/** One way in which a click takes faces. */
interface ScopeEntry {
  /** As it stands in the phrase, and what it means. */
  word: string;
  hint: string;
  /** `F`, or `Shift F`. */
  key?: string;
  angle?: ScopeAngle;
  /** The angle can be set in the phrase: what stands before it, and what it says. */
  asks?: { before: string; says: string };
  /** It depends on which edge or corner of the face is meant. */
  spot?: 'edge' | 'corner';
  /** Where the pointer is near no edge, that of the likeliest ring is meant. */
  ofRing?: boolean;
  /** Coloring changes what it takes. */
  isByColor?: boolean;
  /** Too slow for the page, whatever the mesh. */
  isSlow?: boolean;
  /** What a double click takes; by default the whole object. */
  wider?: string;
  /** The faces, unordered and without duplicates; `null` where a flood passed its limit. */
  faces: (context: PickContext, request: PickRequest) => Uint32Array | null;
}

const turnsAway = { before: 'within', says: 'Faces may turn away by' };

/**
 * All of them, in the order of the phrase. A new one is an entry here; its word, key and angle appear by
 * themselves.
 */
export const scopes = {
  face: {
    word: 'one face',
    hint: 'just the one under the pointer',
    key: 'F',
    wider: 'flat',
    faces: (_, { face }) => Uint32Array.of(face),
  },
  flat: {
    word: 'the flat area',
    hint: 'touching faces that face about the same way',
    key: 'A',
    angle: 'flat',
    asks: turnsAway,
    wider: 'smooth',
    faces: ({ adjacency }, { face, angle, limit }) => floodFlat(adjacency, face, angle, limit),
  },
  smooth: {
    word: 'the smooth area',
    hint: 'touching faces up to the next crease',
    key: 'S',
    angle: 'smooth',
    asks: { before: 'up to creases of', says: 'Edges may fold by' },
    wider: 'neck',
    faces: ({ adjacency }, { face, angle, limit }) => floodSmooth(adjacency, face, angle, limit),
  },
  bulge: {
    word: 'what bulges out or is set in',
    hint: 'a handle from its cup: up to where the surface turns inward',
    key: 'P',
    angle: 'inward',
    asks: { before: 'up to inward folds of', says: 'Edges may fold inward by' },
    wider: 'part',
    faces: ({ mesh, adjacency }, { face, angle, limit }) => floodBulge(mesh, adjacency, face, angle, limit),
  },
  neck: {
    word: 'up to the next narrow ring',
    hint: 'a hand from its arm: up to where the body is narrowest',
    key: 'U',
    wider: 'part',
    faces: ({ mesh, adjacency }, { face, limit }) => floodToNeck(mesh, adjacency, face, limit),
  },
  part: {
    word: 'the whole part',
    hint: 'everything that hangs together with it',
    key: 'W',
    faces: ({ adjacency }, { face }) => partOf(adjacency, face),
  },
  object: {
    word: 'the whole object',
    hint: 'the named object of the file',
    faces: ({ mesh }, { face }) => collect(mesh.faceObject, mesh.faceObject[face]!),
  },
  ring: {
    word: 'the ring',
    hint: 'a run of quads through the nearest edge',
    key: 'Shift S',
    spot: 'edge',
    ofRing: true,
    faces: ({ mesh, adjacency }, { face, edge = 0 }) => ringThrough(mesh, adjacency, mesh.faceStart[face]! + edge),
  },
  beyond: {
    word: 'all on one side of the ring',
    hint: 'the ring through the nearest edge and the smaller side of it: a foot from its ankle on',
    key: 'Shift P',
    spot: 'edge',
    ofRing: true,
    wider: 'part',
    faces: ({ mesh, adjacency }, { face, edge = 0, limit }) => beyondRing(mesh, adjacency, mesh.faceStart[face]! + edge, limit),
  },
  fan: {
    word: 'the fan around a corner',
    hint: 'all faces at the nearest corner',
    spot: 'corner',
    faces: ({ mesh, adjacency }, { face, corner = 0 }) => fanAround(adjacency, mesh.faceStart[face]! + corner),
  },
  patch: {
    word: 'the patch',
    hint: 'up to seams, of its UVs or marked',
    angle: 'smooth',
    faces: patchOf,
  },
  color: {
    word: 'everything of the same color',
    hint: 'all faces on the same cell',
    key: 'C',
    isByColor: true,
    faces: (context, { face }) => sameColor(context, face),
  },
  'kit color': {
    word: 'the same color in the whole kit',
    hint: 'on all models that share the sheet',
    isByColor: true,
    faces: (context, { face }) => sameColor(context, face),
  },
  'touching color': {
    word: 'what touches in the same color',
    hint: 'as far as the color goes',
    key: 'Shift C',
    faces: (context, { face, limit }) => floodWhere(context.adjacency, face, limit ?? Infinity, (_, g) => sameSeat(context, face, g)),
  },
  slot: {
    word: 'the same material',
    hint: 'all faces of the material it came with',
    faces: ({ mesh }, { face }) => collect(mesh.faceSlot, mesh.faceSlot[face]!),
  },
  region: {
    word: 'the region',
    hint: 'all faces of its region',
    faces: ({ regions }, { face }) => (regions?.[face] ? collect(regions, regions[face]!) : Uint32Array.of(face)),
  },
  facing: {
    word: 'all that faces the same way',
    hint: 'anywhere on the model',
    angle: 'facing',
    asks: turnsAway,
    faces: ({ adjacency }, { face, angle }) => facingLike(adjacency, face, angle),
  },
  like: {
    word: 'the same on like parts',
    hint: 'this face on every part of the same shape',
    key: 'Shift F',
    // Parts are compared one by one.
    isSlow: true,
    faces: ({ mesh, adjacency }, { face, like }) => likeFaces(mesh, adjacency, [face], like),
  },
} as const satisfies Record<string, ScopeEntry>;

export type Scope = keyof typeof scopes;
/** In the order of the phrase. */
export const scopeList = Object.keys(scopes) as Scope[];
/** What the table says of a scope. */
export const aboutScope = (scope: Scope): ScopeEntry => scopes[scope];

/** The faces that a click takes, unordered and without duplicates; `null` where a flood passed its limit. */
export const facesOf = (context: PickContext, request: PickRequest): Uint32Array | null =>
  aboutScope(request.scope).faces(context, request);

/** The next larger scope; the largest stays. */
export const widerScope = (scope: Scope): Scope =>
  (aboutScope(scope).wider as Scope | undefined) ?? (scope === 'object' ? scope : 'object');

/** As far as no seam lies in between: of the UVs, or marked; and no crease, where these end it too. */
function patchOf(
  { mesh, adjacency, seams }: PickContext,
  { face, angle, creases = false, limit = Infinity }: PickRequest,
): Uint32Array | null {
  const marked = new Set(seams);
  const least = creases ? Math.cos((angle * Math.PI) / 180) - 1e-6 : -2;
  const mayCross = (c: number) => adjacency.cosine[c]! >= least && !marked.has(edgeCorner(adjacency, c)) && !isSeam(mesh, adjacency, c);
  return floodWhere(adjacency, face, limit, mayCross);
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
function isSeam(mesh: PolyMesh, adjacency: Adjacency, c: number): boolean {
  const uv = mesh.uvSets[0];
  const d = adjacency.neighbour[c]!;
  if (!uv || d < 0) return false;
  const next = (k: number) => nextCorner(adjacency, k);
  const differ = (p: number, q: number) => Math.abs(uv[p * 2]! - uv[q * 2]!) + Math.abs(uv[p * 2 + 1]! - uv[q * 2 + 1]!) > 1e-5;
  return adjacency.against[c] ? differ(c, d) || differ(next(c), next(d)) : differ(c, next(d)) || differ(next(c), d);
}

function collect(values: Uint16Array, wanted: number): Uint32Array {
  let count = 0;
  for (let f = 0; f < values.length; f++) if (values[f] === wanted) count++;
  const faces = new Uint32Array(count);
  for (let f = 0, i = 0; f < values.length; f++) if (values[f] === wanted) faces[i++] = f;
  return faces;
}
