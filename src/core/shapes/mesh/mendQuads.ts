import { adjacencyOf, type Adjacency } from './adjacency';
import { pickRows } from './build';
import { cornerCount, faceCount, type PolyMesh } from './polyMesh';

export interface MendQuadsOptions {
  /** Largest fold, in degrees, between the two triangles of a quad. */
  fold?: number;
}

/** Whether `mendQuads` has anything to work on: a mesh of triangles only. */
export const isAllTriangles = (mesh: PolyMesh): boolean => faceCount(mesh) > 0 && cornerCount(mesh) === faceCount(mesh) * 3;

/**
 * Turns pairs of triangles back into the quads they were cut from. Pairs share slot and object, run on
 * without a break in normals, UVs and colors (or in the source vertex, where that is known), lie flat and
 * form a convex quad. Triangles that follow each other in the file pair first, then the squarest. Faces keep
 * the order of their first triangle; corner 0 to corner 2 is the cut that the file made.
 */
export function mendQuads(mesh: PolyMesh, { fold = 1 }: MendQuadsOptions = {}): PolyMesh {
  if (!isAllTriangles(mesh)) return mesh;
  const adjacency = adjacencyOf(mesh);
  const triangles = faceCount(mesh);
  const leastCosine = Math.cos((fold * Math.PI) / 180);
  const squareness = new Float32Array(triangles * 3).fill(Infinity);
  for (let c = 0; c < triangles * 3; c++) {
    const d = adjacency.neighbour[c]!;
    if (d > c && adjacency.cosine[c]! >= leastCosine) squareness[c] = squareness[d] = skewOfPair(mesh, adjacency, c, d);
  }

  /** The corner of the triangle's edge that it is joined at. */
  const joined = new Int32Array(triangles).fill(-1);
  const join = (c: number) => {
    const d = adjacency.neighbour[c]!;
    joined[Math.floor(c / 3)] = c;
    joined[Math.floor(d / 3)] = d;
  };
  for (let t = 0; t + 1 < triangles; t++) {
    if (joined[t]! >= 0) continue;
    for (let c = t * 3; c < t * 3 + 3; c++) {
      if (squareness[c]! === Infinity || Math.floor(adjacency.neighbour[c]! / 3) !== t + 1) continue;
      join(c);
      break;
    }
  }
  const candidates: number[] = [];
  for (let c = 0; c < triangles * 3; c++) if (adjacency.neighbour[c]! > c && squareness[c]! < Infinity) candidates.push(c);
  candidates.sort((a, b) => squareness[a]! - squareness[b]! || a - b);
  for (const c of candidates) {
    if (joined[Math.floor(c / 3)]! < 0 && joined[Math.floor(adjacency.neighbour[c]! / 3)]! < 0) join(c);
  }
  return joinTriangles(mesh, joined, adjacency.neighbour);
}

const nextInTriangle = (c: number) => (c % 3 === 2 ? c - 2 : c + 1);

/**
 * The largest cosine at a corner of the quad that two triangles form (0: square); Infinity where they may not
 * be joined.
 */
function skewOfPair(mesh: PolyMesh, adjacency: Adjacency, c: number, d: number): number {
  if (adjacency.against[c]) return Infinity;
  const a = Math.floor(c / 3);
  const b = Math.floor(d / 3);
  if (mesh.faceSlot[a] !== mesh.faceSlot[b] || mesh.faceObject[a] !== mesh.faceObject[b]) return Infinity;
  if (mesh.faceGroup && mesh.faceGroup[a] !== mesh.faceGroup[b]) return Infinity;
  if (mesh.source?.facePrimitive && mesh.source.facePrimitive[a] !== mesh.source.facePrimitive[b]) return Infinity;
  if (!isContinuous(mesh, c, nextInTriangle(d)) || !isContinuous(mesh, nextInTriangle(c), d)) return Infinity;
  const quad = quadCorners(c, d);
  const p = quad.map((corner) => mesh.cornerVertex[corner]! * 3);
  const n = adjacency.normals;
  let skew = 0;
  for (let k = 0; k < 4; k++) {
    const o = p[k]!;
    const u = difference(mesh.positions, p[(k + 1) % 4]!, o);
    const w = difference(mesh.positions, p[(k + 3) % 4]!, o);
    const lengths = Math.hypot(...u) * Math.hypot(...w);
    if (lengths === 0) return Infinity;
    const turn =
      (u[1] * w[2] - u[2] * w[1]) * n[a * 3]! + (u[2] * w[0] - u[0] * w[2]) * n[a * 3 + 1]! + (u[0] * w[1] - u[1] * w[0]) * n[a * 3 + 2]!;
    // Corners that are nearly straight would make a quad that is a triangle to the eye.
    if (turn / lengths < 0.02) return Infinity;
    skew = Math.max(skew, Math.abs(u[0] * w[0] + u[1] * w[1] + u[2] * w[2]) / lengths);
  }
  return skew;
}

function difference(p: Float32Array, a: number, b: number): [number, number, number] {
  return [p[a]! - p[b]!, p[a + 1]! - p[b + 1]!, p[a + 2]! - p[b + 2]!];
}

/** Corners of the quad over the shared edge: its start and end are corners 2 and 0. */
const quadCorners = (c: number, d: number) => [nextInTriangle(c), nextInTriangle(nextInTriangle(c)), c, nextInTriangle(nextInTriangle(d))];

function isContinuous(mesh: PolyMesh, c: number, d: number): boolean {
  const source = mesh.source?.cornerVertex;
  if (source) return source[c] === source[d];
  const same = (data: ArrayLike<number> | undefined, width: number) => {
    if (data) for (let k = 0; k < width; k++) if (data[c * width + k] !== data[d * width + k]) return false;
    return true;
  };
  return same(mesh.cornerNormals, 3) && same(mesh.cornerColors, 4) && mesh.uvSets.every((uv) => same(uv, 2));
}

function joinTriangles(mesh: PolyMesh, joined: Int32Array, neighbour: Int32Array): PolyMesh {
  const triangles = faceCount(mesh);
  let faces = 0;
  let corners = 0;
  const isSecond = (t: number) => joined[t]! >= 0 && Math.floor(neighbour[joined[t]!]! / 3) < t;
  for (let t = 0; t < triangles; t++) {
    if (isSecond(t)) continue;
    faces++;
    corners += joined[t]! >= 0 ? 4 : 3;
  }
  const faceStart = new Uint32Array(faces + 1);
  const from = new Uint32Array(corners);
  const first = new Uint32Array(faces);
  const source = new Int32Array(faces * 2);
  let f = 0;
  let at = 0;
  for (let t = 0; t < triangles; t++) {
    if (isSecond(t)) continue;
    const c = joined[t]!;
    const order = c >= 0 ? quadCorners(c, neighbour[c]!) : [t * 3, t * 3 + 1, t * 3 + 2];
    for (const corner of order) from[at++] = corner;
    first[f] = t;
    source[f * 2] = t;
    source[f * 2 + 1] = c >= 0 ? Math.floor(neighbour[c]! / 3) : -1;
    faceStart[++f] = at;
  }
  return {
    ...mesh,
    faceStart,
    cornerVertex: pickRows(mesh.cornerVertex, from, 1),
    ...(mesh.cornerNormals && { cornerNormals: pickRows(mesh.cornerNormals, from, 3) }),
    ...(mesh.cornerColors && { cornerColors: pickRows(mesh.cornerColors, from, 4) }),
    uvSets: mesh.uvSets.map((uv) => pickRows(uv, from, 2)),
    faceSlot: pickRows(mesh.faceSlot, first, 1),
    faceObject: pickRows(mesh.faceObject, first, 1),
    ...(mesh.faceGroup && { faceGroup: pickRows(mesh.faceGroup, first, 1) }),
    source: {
      ...mesh.source,
      triangles: source,
      ...(mesh.source?.facePrimitive && { facePrimitive: pickRows(mesh.source.facePrimitive, first, 1) }),
      ...(mesh.source?.cornerVertex && { cornerVertex: pickRows(mesh.source.cornerVertex, from, 1) }),
    },
  };
}
