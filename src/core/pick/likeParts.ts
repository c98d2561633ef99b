import type { Adjacency } from '../mesh/adjacency';
import type { PolyMesh } from '../mesh/polyMesh';

/** How far edge lengths, and distances from the part's middle, may differ, as a share of themselves. */
export const usualLikeness = 0.01;

/** One part of a mesh. */
export interface PartOf {
  mesh: PolyMesh;
  adjacency: Adjacency;
  part: number;
}

/**
 * The same faces on every part that is congruent to the given faces' parts, up to move, turn, mirror and uniform scale; the faces themselves first. `tolerance`:
 * see `usualLikeness`.
 */
export function likeFaces(mesh: PolyMesh, adjacency: Adjacency, faces: ArrayLike<number>, tolerance = usualLikeness): Uint32Array {
  const byPart = new Map<number, number[]>();
  for (const f of Array.from(faces)) byPart.set(adjacency.part[f]!, [...(byPart.get(adjacency.part[f]!) ?? []), f]);
  const out = new Set(Array.from(faces));
  for (const [part, own] of byPart)
    for (let p = 0; p < adjacency.partStart.length - 1; p++) {
      if (p === part) continue;
      const map = leastTurned(adjacency, partMaps({ mesh, adjacency, part }, { mesh, adjacency, part: p }, tolerance));
      if (map) for (const f of own) out.add(map.get(f)!);
    }
  return Uint32Array.from(out);
}

/** A part that corresponds to itself in more ways than this is not looked at further. */
export const mostMaps = 64;

/** Of the ways in which two parts correspond the one in which faces face most nearly as they did, so that the left end of a board is the left end of another one, too. */
function leastTurned({ normals }: Adjacency, maps: Iterable<Map<number, number>>): Map<number, number> | null {
  let best: Map<number, number> | null = null;
  let most = -Infinity;
  let tried = 0;
  for (const map of maps) {
    let agreement = 0;
    for (const [f, g] of map) for (let k = 0; k < 3; k++) agreement += normals[f * 3 + k]! * normals[g * 3 + k]!;
    if (agreement > most + 1e-6) [best, most] = [map, agreement];
    if (++tried === mostMaps) break;
  }
  return best;
}

/**
 * Each way in which one part corresponds to another, face to face; none where they are not alike. A part that is symmetrical in itself has several.
 *
 * Method: parts with other counts of faces and corners, or other proportions of areas, are passed over. Then both meshes are walked in step over their edges,
 * from a rare face of the first and each candidate of the second, either way round; every edge must have the same length up to one scale, and every corner the same distance from its
 * part's middle: edges alone would let a part bend.
 */
export function* partMaps(a: PartOf, b: PartOf, tolerance = usualLikeness): Generator<Map<number, number>> {
  const [first, second] = [facesOfPart(a), facesOfPart(b)];
  if (first.length !== second.length) return;
  const [p, q] = [profileOf(a.adjacency, first), profileOf(b.adjacency, second)];
  if (p.corners !== q.corners || !sameShares(p.shares, q.shares, tolerance)) return;
  const scale = Math.sqrt(q.area / p.area);
  const size = ({ adjacency: { faceStart } }: PartOf, f: number) => faceStart[f + 1]! - faceStart[f]!;
  const rank = (f: number) => `${size(a, f)},${Math.round((a.adjacency.areas[f]! / p.area) * 1e4)}`;
  const counts = new Map<string, number>();
  for (const f of first) counts.set(rank(f), (counts.get(rank(f)) ?? 0) + 1);
  const seed = first.reduce((best, f) => (counts.get(rank(f))! < counts.get(rank(best))! ? f : best), first[0]!);
  const share = a.adjacency.areas[seed]! / p.area;
  const middles: [number[], number[]] = [middleOf(a.mesh, first), middleOf(b.mesh, second)];
  const slack = Math.max(0.05, tolerance * 5);
  for (const candidate of second) {
    if (size(b, candidate) !== size(a, seed) || Math.abs(b.adjacency.areas[candidate]! / q.area - share) > share * slack + 1e-9) continue;
    for (const mirrored of [false, true])
      for (let turn = 0; turn < size(a, seed); turn++) {
        const map = walkInStep(a, b, { seed, candidate, turn, mirrored, scale, middles, tolerance });
        if (map?.size === first.length) yield map;
      }
  }
}

const facesOfPart = ({ adjacency: { partStart, partFaces }, part }: PartOf) => partFaces.subarray(partStart[part]!, partStart[part + 1]!);

function profileOf({ areas, faceStart }: Adjacency, faces: Uint32Array) {
  let area = 0;
  let corners = 0;
  for (const f of faces) {
    area += areas[f]!;
    corners += faceStart[f + 1]! - faceStart[f]!;
  }
  const shares = Float64Array.from(faces, (f) => areas[f]! / (area || 1)).sort();
  return { area: area || 1e-12, corners, shares };
}

const sameShares = (p: Float64Array, q: Float64Array, tolerance: number) =>
  p.every((v, i) => Math.abs(v - q[i]!) <= tolerance * 3 * v + 1e-5);

interface Start {
  seed: number;
  candidate: number;
  turn: number;
  mirrored: boolean;
  scale: number;
  middles: readonly [number[], number[]];
  tolerance: number;
}

/** From face to face over edges, in both parts at once; `null` as soon as they differ. */
function walkInStep(
  a: PartOf,
  b: PartOf,
  { seed, candidate, turn, mirrored, scale, middles: [ownMiddle, otherMiddle], tolerance }: Start,
): Map<number, number> | null {
  const sizeIn = ({ faceStart }: Adjacency, f: number) => faceStart[f + 1]! - faceStart[f]!;
  const map = new Map([[seed, candidate]]);
  /** For each mapped face, the corner of the other whose edge corresponds to the edge of its first corner. */
  const offset = new Map([[seed, turn]]);
  const stack = [seed];
  /** The corner whose edge corresponds to the edge of a corner. Mirrored faces run the other way round. */
  const counterpart = (c: number) => {
    const f = a.adjacency.cornerFace[c]!;
    const k = c - a.adjacency.faceStart[f]!;
    const n = sizeIn(a.adjacency, f);
    return b.adjacency.faceStart[map.get(f)!]! + ((((mirrored ? offset.get(f)! - k : offset.get(f)! + k) % n) + n) % n);
  };
  const mean = Math.sqrt(a.adjacency.areas[seed]! || 1e-12);
  const differ = (own: number, other: number) => Math.abs(own * scale - other) > tolerance * scale * Math.max(own, mean * 0.1);
  while (stack.length) {
    const f = stack.pop()!;
    for (let c = a.adjacency.faceStart[f]!; c < a.adjacency.faceStart[f + 1]!; c++) {
      const d = counterpart(c);
      if (differ(edgeLength(a, c), edgeLength(b, d))) return null;
      // A mirrored face runs the other way, so that its edge ends where ours begins.
      if (differ(distance(a.mesh, c, ownMiddle), distance(b.mesh, mirrored ? nextCorner(b.adjacency, d) : d, otherMiddle))) return null;
      const [over, otherOver] = [a.adjacency.neighbour[c]!, b.adjacency.neighbour[d]!];
      if (over < 0 !== otherOver < 0) return null;
      if (over < 0) continue;
      const [g, h] = [a.adjacency.cornerFace[over]!, b.adjacency.cornerFace[otherOver]!];
      if (map.has(g)) {
        if (map.get(g) !== h || counterpart(over) !== otherOver) return null;
        continue;
      }
      const n = sizeIn(a.adjacency, g);
      if (n !== sizeIn(b.adjacency, h)) return null;
      map.set(g, h);
      const [k, m] = [over - a.adjacency.faceStart[g]!, otherOver - b.adjacency.faceStart[h]!];
      offset.set(g, mirrored ? (m + k) % n : (m - k + n) % n);
      stack.push(g);
    }
  }
  return map;
}

function middleOf({ positions, cornerVertex, faceStart }: PolyMesh, faces: Uint32Array): number[] {
  const sum = [0, 0, 0];
  let n = 0;
  for (const f of faces)
    for (let c = faceStart[f]!; c < faceStart[f + 1]!; c++) {
      for (let k = 0; k < 3; k++) sum[k]! += positions[cornerVertex[c]! * 3 + k]!;
      n++;
    }
  return sum.map((s) => s / n);
}

const distance = ({ positions, cornerVertex }: PolyMesh, c: number, from: readonly number[]): number =>
  Math.hypot(...from.map((v, k) => positions[cornerVertex[c]! * 3 + k]! - v));

function nextCorner({ cornerFace, faceStart }: Adjacency, c: number): number {
  const f = cornerFace[c]!;
  return c + 1 < faceStart[f + 1]! ? c + 1 : faceStart[f]!;
}

function edgeLength({ mesh: { positions, cornerVertex }, adjacency }: PartOf, c: number): number {
  const next = nextCorner(adjacency, c);
  const [a, b] = [cornerVertex[c]! * 3, cornerVertex[next]! * 3];
  return Math.hypot(positions[a]! - positions[b]!, positions[a + 1]! - positions[b + 1]!, positions[a + 2]! - positions[b + 2]!);
}
