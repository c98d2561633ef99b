import type { Adjacency } from '../mesh/adjacency';
import type { PolyMesh } from '../mesh/polyMesh';

/** How far edge lengths, and distances from the part's middle, may differ, as a share of themselves. */
const tolerance = 0.01;

/**
 * The same face on every part that is congruent to the given face's part, up to move, turn, mirror and uniform scale; the face itself first.
 *
 * Method: parts with other counts of faces and corners, or other proportions of areas, are passed over. Then both meshes are walked in step over their edges,
 * from a rare face of the first and each candidate of the second, either way round; every edge must have the same length up to one scale, and every corner the same distance from its
 * part's middle: edges alone would let a part bend.
 */
export function likeFaces(mesh: PolyMesh, adjacency: Adjacency, face: number): Uint32Array {
  const own = adjacency.part[face]!;
  const out = [face];
  for (let p = 0; p < adjacency.partStart.length - 1; p++) {
    if (p === own) continue;
    const map = matchParts(mesh, adjacency, own, p);
    const there = map?.get(face);
    if (there !== undefined) out.push(there);
  }
  return Uint32Array.from(out);
}

/** Faces of part `a` to the faces of part `b` that correspond to them; `null` where the parts are not alike. */
export function matchParts(mesh: PolyMesh, adjacency: Adjacency, a: number, b: number): Map<number, number> | null {
  const [first, second] = [facesOfPart(adjacency, a), facesOfPart(adjacency, b)];
  if (first.length !== second.length) return null;
  const [p, q] = [profileOf(adjacency, first), profileOf(adjacency, second)];
  if (p.corners !== q.corners || !sameShares(p.shares, q.shares)) return null;
  const scale = Math.sqrt(q.area / p.area);
  const size = (f: number) => adjacency.faceStart[f + 1]! - adjacency.faceStart[f]!;
  const rank = (f: number) => `${size(f)},${Math.round((adjacency.areas[f]! / p.area) * 1e4)}`;
  const counts = new Map<string, number>();
  for (const f of first) counts.set(rank(f), (counts.get(rank(f)) ?? 0) + 1);
  const seed = first.reduce((best, f) => (counts.get(rank(f))! < counts.get(rank(best))! ? f : best), first[0]!);
  const share = adjacency.areas[seed]! / p.area;
  const middles = [first, second].map((faces) => middleOf(mesh, faces)) as [number[], number[]];
  for (const candidate of second) {
    if (size(candidate) !== size(seed) || Math.abs(adjacency.areas[candidate]! / q.area - share) > share * 0.05 + 1e-9) continue;
    for (const mirrored of [false, true])
      for (let turn = 0; turn < size(seed); turn++) {
        const map = walkInStep(mesh, adjacency, seed, candidate, turn, mirrored, scale, middles);
        if (map?.size === first.length) return map;
      }
  }
  return null;
}

const facesOfPart = ({ partStart, partFaces }: Adjacency, p: number) => partFaces.subarray(partStart[p]!, partStart[p + 1]!);

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

const sameShares = (p: Float64Array, q: Float64Array) => p.every((v, i) => Math.abs(v - q[i]!) <= 0.03 * v + 1e-5);

/** From face to face over edges, in both parts at once; `null` as soon as they differ. */
function walkInStep(
  mesh: PolyMesh,
  adjacency: Adjacency,
  seed: number,
  candidate: number,
  turn: number,
  mirrored: boolean,
  scale: number,
  [ownMiddle, otherMiddle]: readonly [number[], number[]],
): Map<number, number> | null {
  const { faceStart, cornerFace, neighbour } = adjacency;
  const size = (f: number) => faceStart[f + 1]! - faceStart[f]!;
  const map = new Map([[seed, candidate]]);
  /** For each mapped face, the corner of the other whose edge corresponds to the edge of its first corner. */
  const offset = new Map([[seed, turn]]);
  const stack = [seed];
  /** The corner whose edge corresponds to the edge of a corner. Mirrored faces run the other way round. */
  const counterpart = (c: number) => {
    const f = cornerFace[c]!;
    const g = map.get(f)!;
    const k = c - faceStart[f]!;
    const n = size(f);
    return faceStart[g]! + ((((mirrored ? offset.get(f)! - k : offset.get(f)! + k) % n) + n) % n);
  };
  const mean = Math.sqrt(adjacency.areas[seed]! || 1e-12);
  while (stack.length) {
    const f = stack.pop()!;
    for (let c = faceStart[f]!; c < faceStart[f + 1]!; c++) {
      const d = counterpart(c);
      const [own, other] = [edgeLength(mesh, adjacency, c), edgeLength(mesh, adjacency, d)];
      if (Math.abs(own * scale - other) > tolerance * scale * Math.max(own, mean * 0.1)) return null;
      // A mirrored face runs the other way, so that its edge ends where ours begins.
      const away = distance(mesh, c, ownMiddle);
      const otherAway = distance(mesh, mirrored ? nextCorner(adjacency, d) : d, otherMiddle);
      if (Math.abs(away * scale - otherAway) > tolerance * scale * Math.max(away, mean * 0.1)) return null;
      const [over, otherOver] = [neighbour[c]!, neighbour[d]!];
      if (over < 0 !== otherOver < 0) return null;
      if (over < 0) continue;
      const [g, h] = [cornerFace[over]!, cornerFace[otherOver]!];
      if (map.has(g)) {
        if (map.get(g) !== h || counterpart(over) !== otherOver) return null;
        continue;
      }
      if (size(g) !== size(h)) return null;
      map.set(g, h);
      const [k, m] = [over - faceStart[g]!, otherOver - faceStart[h]!];
      offset.set(g, mirrored ? (m + k) % size(g) : (m - k + size(g)) % size(g));
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

function edgeLength({ positions, cornerVertex }: PolyMesh, adjacency: Adjacency, c: number): number {
  const next = nextCorner(adjacency, c);
  const [a, b] = [cornerVertex[c]! * 3, cornerVertex[next]! * 3];
  return Math.hypot(positions[a]! - positions[b]!, positions[a + 1]! - positions[b + 1]!, positions[a + 2]! - positions[b + 2]!);
}
