import { halfPlane } from './completeHalf';
import { adjacencyOf, edgeLength, nextCorner } from '../mesh/adjacency';
import { boundsOf, largestSide } from '../mesh/measure';
import { faceCount, type PolyMesh } from '../mesh/polyMesh';
import { orientFaces } from './orient';

export type ProblemKind =
  | 'flipped'
  | 'inside-out'
  | 'duplicate'
  | 'degenerate'
  | 'open-border'
  | 'non-manifold'
  | 'zero-normal'
  | 'huge'
  | 'tiny'
  | 'z-up'
  | 'half';

export interface Problem {
  kind: ProblemKind;
  /** Faces, edges (open-border, non-manifold) or 1 for the model as a whole. */
  count: number;
  /** The faces concerned, ascending; empty where it is the model as a whole. */
  faces: Uint32Array;
}

/** Metres: a model larger or smaller than this is likely in another unit. */
export const usualSize = { least: 0.02, most: 100 };

/** What is wrong with a mesh, in the order in which an artist would look at it. */
export function inspectMesh(mesh: PolyMesh): Problem[] {
  const { flipped, insideOut } = orientFaces(mesh);
  const faceProblem = (kind: ProblemKind, faces: Uint32Array): Problem => ({ kind, count: faces.length, faces });
  const whole = (kind: ProblemKind, is: boolean): Problem => ({ kind, count: is ? 1 : 0, faces: new Uint32Array(0) });
  const size = largestSide(boundsOf(mesh));
  return [
    faceProblem('flipped', flipped),
    faceProblem('inside-out', insideOut),
    faceProblem('duplicate', duplicateFaces(mesh)),
    faceProblem('degenerate', degenerateFaces(mesh)),
    { kind: 'open-border' as const, count: adjacencyOf(mesh).openEdges, faces: facesWith(mesh, 'open') },
    { kind: 'non-manifold' as const, count: adjacencyOf(mesh).nonManifoldEdges, faces: facesWith(mesh, 'crowded') },
    faceProblem('zero-normal', zeroNormals(mesh)),
    whole('huge', size > usualSize.most),
    whole('tiny', size > 0 && size < usualSize.least),
    whole('z-up', looksZUp(mesh)),
    { kind: 'half' as const, count: halfPlane(mesh)?.edges ?? 0, faces: new Uint32Array(0) },
  ].filter((p) => p.count > 0);
}

/** Later faces over the same set of points, whichever way they turn. */
export function duplicateFaces(mesh: PolyMesh): Uint32Array {
  const { cornerPoint } = adjacencyOf(mesh);
  const heads = new Map<number, number[]>();
  const found: number[] = [];
  const pointsOf = (f: number) => cornerPoint.slice(mesh.faceStart[f]!, mesh.faceStart[f + 1]!).sort();
  for (let f = 0; f < faceCount(mesh); f++) {
    // A sum that does not depend on the order finds candidates cheaply.
    let key = 0;
    for (let c = mesh.faceStart[f]!; c < mesh.faceStart[f + 1]!; c++) key = (key + Math.imul(cornerPoint[c]! + 1, 0x9e3779b1)) | 0;
    const same = heads.get(key);
    if (!same) {
      heads.set(key, [f]);
      continue;
    }
    const points = pointsOf(f);
    const isDuplicate = same.some((g) => {
      const other = pointsOf(g);
      return other.length === points.length && other.every((p, i) => p === points[i]);
    });
    if (isDuplicate) found.push(f);
    else same.push(f);
  }
  return Uint32Array.from(found);
}

/** Faces with no area to speak of, beside the square of their own outline's length. */
export function degenerateFaces(mesh: PolyMesh): Uint32Array {
  const adjacency = adjacencyOf(mesh);
  const { areas, faceStart } = adjacency;
  const found: number[] = [];
  for (let f = 0; f < faceCount(mesh); f++) {
    let longest = 0;
    for (let c = faceStart[f]!; c < faceStart[f + 1]!; c++) longest = Math.max(longest, edgeLength(mesh, adjacency, c));
    if (areas[f]! <= longest * longest * 1e-6) found.push(f);
  }
  return Uint32Array.from(found);
}

/** Faces at edges that only one face uses, or more than two. */
function facesWith(mesh: PolyMesh, what: 'open' | 'crowded'): Uint32Array {
  const adjacency = adjacencyOf(mesh);
  const { neighbour, cornerFace, cornerPoint } = adjacency;
  if ((what === 'open' ? adjacency.openEdges : adjacency.nonManifoldEdges) === 0) return new Uint32Array(0);
  const next = (c: number) => nextCorner(adjacency, c);
  // An edge that one face uses has no neighbour: only edges between the points of such are counted, by a key
  // of both. Crowded ones may all be paired.
  const isNear = new Uint8Array(adjacency.pointCount).fill(what === 'open' ? 0 : 1);
  for (let c = 0; c < neighbour.length; c++) if (neighbour[c]! < 0) isNear[cornerPoint[c]!] = isNear[cornerPoint[next(c)]!] = 1;
  const near: number[] = [];
  for (let c = 0; c < neighbour.length; c++) if (isNear[cornerPoint[c]!] && isNear[cornerPoint[next(c)]!]) near.push(c);
  const key = (c: number) => {
    const [p, q] = [cornerPoint[c]!, cornerPoint[next(c)]!];
    return Math.min(p, q) * adjacency.pointCount + Math.max(p, q);
  };
  const uses = new Map<number, number>();
  for (const c of near) uses.set(key(c), (uses.get(key(c)) ?? 0) + 1);
  const faces = new Set<number>();
  for (const c of near) {
    const n = uses.get(key(c))!;
    if (what === 'open' ? n === 1 : n > 2) faces.add(cornerFace[c]!);
  }
  return Uint32Array.from(faces).sort();
}

function zeroNormals(mesh: PolyMesh): Uint32Array {
  const normals = mesh.cornerNormals;
  if (!normals) return new Uint32Array(0);
  const found: number[] = [];
  for (let f = 0; f < faceCount(mesh); f++)
    for (let c = mesh.faceStart[f]!; c < mesh.faceStart[f + 1]!; c++)
      if (Math.hypot(normals[c * 3]!, normals[c * 3 + 1]!, normals[c * 3 + 2]!) < 1e-6) {
        found.push(f);
        break;
      }
  return Uint32Array.from(found);
}

/** Of its extent along the other two axes, what lies on the ground: what a wheeled or legged thing stands on spreads wide. */
function spreadOnGround({ positions }: PolyMesh, { min, max }: ReturnType<typeof boundsOf>, up: 1 | 2): number {
  const ground = min[up]! + (max[up]! - min[up]!) * 0.02;
  const across = [0, 1, 2].filter((k) => k !== up);
  const spread = across.map((k) => {
    let [least, most] = [Infinity, -Infinity];
    for (let v = 0; v < positions.length; v += 3) {
      if (positions[v + up]! > ground) continue;
      least = Math.min(least, positions[v + k]!);
      most = Math.max(most, positions[v + k]!);
    }
    return max[k]! > min[k]! ? (most - least) / (max[k]! - min[k]!) : 0;
  });
  return spread[0]! * spread[1]!;
}

/**
 * The model does not stand on y = 0, and stands on z = 0 centred about y = 0, or touches the ground far more widely
 * along Z than along Y: Z is likely up.
 */
function looksZUp(mesh: PolyMesh): boolean {
  const bounds = boundsOf(mesh);
  const { min, max } = bounds;
  const size = largestSide(bounds);
  const near = (v: number) => Math.abs(v) < size * 0.02;
  const height = max[2] - min[2];
  if (size === 0 || height <= size * 0.05 || max[1] - min[1] <= size * 0.02 || near(min[1])) return false;
  if (near(min[2]) && near((min[1] + max[1]) / 2)) return true;
  return spreadOnGround(mesh, bounds, 2) > 0.4 && spreadOnGround(mesh, bounds, 1) < 0.2;
}
