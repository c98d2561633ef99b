import type { Adjacency } from '../mesh/adjacency';
import type { PolyMesh } from '../mesh/polyMesh';
import { facesByPart } from '../mesh/facesByPart';
import { facingAlike } from '../mesh/measure';
import { partShapes, type PartShapes } from './partShapes';
import { pointCorners } from './points';

/** How far edge lengths, and distances from the part's middle, may differ, as a share of themselves. */
export const usualLikeness = 0.01;

export interface LikeOptions {
  /** How far lengths may differ, as a share of themselves; `Infinity`: only how faces hang together counts. */
  within: number;
  /** Of a part that is like itself or another one in several ways: the face that lies as the given one does, or all. */
  ends: 'same' | 'all';
}
export const usualLike: LikeOptions = { within: usualLikeness, ends: 'same' };

/** What was found to be like some faces' parts. */
export interface Likeness {
  /** Other parts. */
  parts: number;
  /** The most by which a length of them differs, as a share, once they are of one size. */
  difference: number;
}

/** One part of a mesh. */
export interface PartOf {
  mesh: PolyMesh;
  adjacency: Adjacency;
  part: number;
}

/**
 * The same faces on every part that is congruent to the given faces' parts, up to move, turn, mirror and
 * uniform scale, or built alike; the faces themselves first.
 */
export function likeFaces(mesh: PolyMesh, adjacency: Adjacency, faces: ArrayLike<number>, options: Partial<LikeOptions> = {}): Uint32Array {
  const out = new Set(Array.from(faces));
  for (const { part, faces: own } of facesByPart(adjacency, out))
    for (const map of mapsOfLikeParts({ mesh, adjacency, part }, { ...usualLike, ...options })) for (const f of own) out.add(map.get(f)!);
  return Uint32Array.from(out);
}

/** How many parts are like that of a face, and how far from it. */
export function likenessOf(mesh: PolyMesh, adjacency: Adjacency, face: number, options: Partial<LikeOptions> = {}): Likeness {
  const part = adjacency.part[face]!;
  const maps = mapsOfLikeParts({ mesh, adjacency, part }, { ...usualLike, ...options });
  const { edge, area } = partShapes(mesh, adjacency);
  const parts = new Set<number>();
  let difference = 0;
  for (const map of maps) {
    const other = adjacency.part[map.get(face)!]!;
    if (other !== part) parts.add(other);
    const scale = Math.sqrt(area[other]! / area[part]!) || 1;
    for (const [f, g] of map) difference = Math.max(difference, apartBy(adjacency, edge, f, g, scale));
  }
  return { parts: parts.size, difference };
}

/** How far the lengths around two faces differ at most, sorted, so that it does not matter which edge is which. */
function apartBy({ faceStart }: Adjacency, edge: Float32Array, f: number, g: number, scale: number): number {
  const lengths = (h: number) => edge.slice(faceStart[h]!, faceStart[h + 1]!).sort();
  const [p, q] = [lengths(f), lengths(g)];
  return p.reduce((most, v, i) => Math.max(most, Math.abs(v * scale - q[i]!) / Math.max(v * scale, q[i]!, 1e-12)), 0);
}

let latest: { of: PartOf; options: LikeOptions; maps: Map<number, number>[] } | null = null;

/**
 * How a part corresponds to each other part that is like it. The latest answer is kept, since a pointer moves
 * from face to face of one part.
 */
function mapsOfLikeParts(of: PartOf, options: LikeOptions): readonly Map<number, number>[] {
  const { mesh, adjacency, part } = of;
  const isKnown = latest?.of.adjacency === adjacency && latest.of.part === part;
  if (isKnown && latest!.options.within === options.within && latest!.options.ends === options.ends) return latest!.maps;
  const maps: Map<number, number>[] = [];
  // Without lengths the walk over edges alone decides.
  const tolerance = Math.min(options.within, 1e6);
  for (let p = 0; p < adjacency.partStart.length - 1; p++) {
    const ways = partMaps(of, { mesh, adjacency, part: p }, tolerance);
    if (options.ends === 'all') {
      let tried = 0;
      for (const map of ways) if (maps.push(map) && ++tried === mostMaps) break;
    } else if (p !== part) {
      const map = leastTurned(adjacency, ways);
      if (map) maps.push(map);
    }
  }
  latest = { of, options, maps };
  return maps;
}

/** A part that corresponds to itself in more ways than this is not looked at further. */
export const mostMaps = 64;

/**
 * Of the ways in which two parts correspond the one in which faces face most nearly as they did, so that the
 * left end of a board is the left end of another one, too.
 */
function leastTurned({ normals }: Adjacency, maps: Iterable<Map<number, number>>): Map<number, number> | null {
  let best: Map<number, number> | null = null;
  let most = -Infinity;
  let tried = 0;
  for (const map of maps) {
    let agreement = 0;
    for (const [f, g] of map) agreement += facingAlike(normals, f, normals, g);
    if (agreement > most + 1e-6) [best, most] = [map, agreement];
    if (++tried === mostMaps || most > map.size * 0.9999) break;
  }
  return best;
}

/**
 * Each way in which one part corresponds to another, face to face; none where they are not alike. A part that
 * is symmetrical in itself has several.
 *
 * Method: parts with other counts of faces and corners, or other proportions of areas, are passed over. Then
 * both meshes are walked in step over their edges, from a rare face of the first and each candidate of the
 * second, either way round; every edge must have the same length up to one scale, and every corner the same
 * distance from its part's middle: edges alone would let a part bend.
 */
export function* partMaps(a: PartOf, b: PartOf, tolerance = usualLikeness): Generator<Map<number, number>> {
  const [first, second] = [facesOfPart(a), facesOfPart(b)];
  if (first.length !== second.length) return;
  const [p, q] = [partShapes(a.mesh, a.adjacency), partShapes(b.mesh, b.adjacency)];
  if (p.corners[a.part] !== q.corners[b.part]) return;
  const shares = q.shares(b.part);
  if (!p.shares(a.part).every((v, i) => Math.abs(v - shares[i]!) <= tolerance * 3 * v + 1e-5)) return;
  const [area, otherArea] = [p.area[a.part]!, q.area[b.part]!];
  const seed = rarestFace(a, first, area);
  const size = sizeOf(a.adjacency, seed);
  const share = a.adjacency.areas[seed]! / area;
  const slack = share * Math.max(0.05, tolerance * 5) + 1e-9;
  // Faces that face as the seed does come first: most like parts are not turned at all.
  const [{ normals: own }, { normals: other }] = [a.adjacency, b.adjacency];
  const facing = (g: number) => facingAlike(own, seed, other, g);
  const candidates = second.filter((g) => sizeOf(b.adjacency, g) === size && Math.abs(b.adjacency.areas[g]! / otherArea - share) <= slack);
  const walk = stepper(a, b, p, q, Math.sqrt(otherArea / area), tolerance);
  for (const candidate of candidates.sort((f, g) => facing(g) - facing(f)))
    for (const mirrored of [false, true])
      for (let turn = 0; turn < size; turn++) {
        const map = walk(seed, candidate, turn, mirrored, first.length);
        if (map) yield map;
      }
}

/** All corners at the point of a corner. */
function cornersAt(adjacency: Adjacency, corner: number): Uint32Array {
  const { start, corners } = pointCorners(adjacency);
  const p = adjacency.cornerPoint[corner]!;
  return corners.subarray(start[p]!, start[p + 1]!);
}

const facesOfPart = ({ adjacency: { partStart, partFaces }, part }: PartOf) => partFaces.subarray(partStart[part]!, partStart[part + 1]!);
const sizeOf = ({ faceStart }: Adjacency, f: number) => faceStart[f + 1]! - faceStart[f]!;

/** A face of which the part has the fewest: by its corners and its share of the area. */
function rarestFace({ adjacency }: PartOf, faces: Uint32Array, area: number): number {
  const rank = (f: number) => sizeOf(adjacency, f) * 1e6 + Math.round((adjacency.areas[f]! / area) * 1e4);
  const counts = new Map<number, number>();
  for (const f of faces) counts.set(rank(f), (counts.get(rank(f)) ?? 0) + 1);
  return faces.reduce((best, f) => (counts.get(rank(f))! < counts.get(rank(best))! ? f : best), faces[0]!);
}

/**
 * A walk from face to face over edges, in both parts at once; `null` as soon as they differ, or where it does
 * not come to `wanted` faces. `turn`: the corner of the candidate whose edge corresponds to that of the
 * seed's first corner.
 */
function stepper(a: PartOf, b: PartOf, p: PartShapes, q: PartShapes, scale: number, tolerance: number) {
  const { faceStart, cornerFace, neighbour, areas } = a.adjacency;
  const { faceStart: otherStart, cornerFace: otherFace, neighbour: otherNeighbour } = b.adjacency;
  return (seed: number, candidate: number, turn: number, mirrored: boolean, wanted: number): Map<number, number> | null => {
    const fits = (c: number, d: number, end: number): boolean =>
      Math.abs(p.edge[c]! * scale - q.edge[d]!) <= tolerance * scale * Math.max(p.edge[c]!, small) &&
      Math.abs(p.away[c]! * scale - q.away[end]!) <= tolerance * scale * Math.max(p.away[c]!, small);
    /** The corner (or the edge) of the other face that corresponds to corner k, by the offset of its face. */
    const edgeAt = (k: number, offset: number, n: number) => (mirrored ? (offset - k + n) % n : (offset + k) % n);
    const map = new Map([[seed, candidate]]);
    /** For each mapped face, the corner of the other whose edge corresponds to the edge of its first corner. */
    const offsets = new Map([[seed, turn]]);
    const small = Math.sqrt(areas[seed]! || 1e-12) * 0.1;
    let walked = 0;
    for (const [f, g] of map) {
      const [start, from, n] = [faceStart[f]!, otherStart[g]!, faceStart[f + 1]! - faceStart[f]!];
      const offset = offsets.get(f)!;
      for (let k = 0; k < n; k++) {
        const c = start + k;
        // Mirrored faces run the other way round, so that an edge ends where ours begins.
        const at = edgeAt(k, offset, n);
        const d = from + at;
        const end = mirrored ? from + ((at + 1) % n) : d;
        if (!fits(c, d, end)) return null;
        const [over, otherOver] = [neighbour[c]!, otherNeighbour[d]!];
        if (over < 0 !== otherOver < 0) return null;
        if (over < 0) continue;
        const [next, there] = [cornerFace[over]!, otherFace[otherOver]!];
        const size = faceStart[next + 1]! - faceStart[next]!;
        const [i, j] = [over - faceStart[next]!, otherOver - otherStart[there]!];
        const known = map.get(next);
        const turned = mirrored ? (j + i) % size : (j - i + size) % size;
        if (known !== undefined) {
          if (known !== there || offsets.get(next) !== turned) return null;
          continue;
        }
        if (otherStart[there + 1]! - otherStart[there]! !== size) return null;
        map.set(next, there);
        offsets.set(next, turned);
      }
      // Pieces that hang together in a point alone are walked to over that point.
      if (++walked === map.size && walked < wanted) stepOverPoints();
    }
    return map.size === wanted ? map : null;

    function stepOverPoints(): void {
      const taken = new Set(map.values());
      for (const [f, g] of map) {
        const n = faceStart[f + 1]! - faceStart[f]!;
        for (let k = 0; k < n; k++) {
          const at = edgeAt(k, offsets.get(f)!, n);
          const corner = mirrored ? (at + 1) % n : at;
          for (const c of cornersAt(a.adjacency, faceStart[f]! + k)) {
            const face = cornerFace[c]!;
            if (map.has(face)) continue;
            for (const d of cornersAt(b.adjacency, otherStart[g]! + corner)) {
              const there = otherFace[d]!;
              const size = faceStart[face + 1]! - faceStart[face]!;
              if (taken.has(there) || otherStart[there + 1]! - otherStart[there]! !== size) continue;
              const [i, j] = [c - faceStart[face]!, d - otherStart[there]!];
              const offset = mirrored ? (j + i - 1 + size) % size : (j - i + size) % size;
              const isSame = Array.from({ length: size }, (_, m) => {
                const e = otherStart[there]! + edgeAt(m, offset, size);
                const end = mirrored ? otherStart[there]! + ((edgeAt(m, offset, size) + 1) % size) : e;
                return fits(faceStart[face]! + m, e, end);
              }).every(Boolean);
              if (!isSame) continue;
              map.set(face, there);
              offsets.set(face, offset);
              return;
            }
          }
        }
      }
    }
  };
}
