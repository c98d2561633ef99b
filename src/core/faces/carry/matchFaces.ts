import { equalArrays } from '../../ground/equalArrays';
import { facesWhere } from '../../shapes/mesh/facesWhere';
import { adjacencyOf } from '../../shapes/mesh/adjacency';
import { boundsOf, facingAlike, largestSide, measureFaces, middlesOfFaces } from '../../shapes/mesh/measure';
import { faceCount, type PolyMesh } from '../../shapes/mesh/polyMesh';
import { triangulate } from '../../shapes/mesh/triangulate';
import { mostMaps, partMaps } from '../../shapes/pick/likeParts';
import { pointGrid } from '../../shapes/pick/pointGrid';
import { faceLookup } from './faceLookup';
import { cornerRun, type FaceOrigins } from '../../shapes/mesh/faceOrigins';

/**
 * Why a face passes for the one it was: it lies in the same place, inside former faces, on a part that moved,
 * or has the same number in a mesh of the same build.
 */
export const matchKinds = ['place', 'within', 'moved', 'order'] as const;
export type MatchKind = (typeof matchKinds)[number];

export interface FaceMatch {
  /**
   * `frame`: the one in which most faces met, where the file came back scaled, moved or turned. On parts that
   * moved corners go by their order, elsewhere by their places.
   */
  origins: Required<Omit<FaceOrigins, 'corners'>>;
  /** For each face of the new mesh 1 + the index of the reason in `matchKinds`; 0 where there is none. */
  by: Uint8Array;
  counts: Record<MatchKind, number>;
  /** Faces of the new mesh that could not be matched, ascending. */
  unmatched: Uint32Array;
}

/**
 * Shares of the model's size: how far corners of one face may lie apart, and how far a face may lie from the
 * one it lies in.
 */
const slack = { corner: 2e-4, surface: 1e-3 };

/**
 * Which face of one mesh is which of another, by geometry: after a change outside, or on an altered copy.
 * `isAlike`: whether two old faces look the same, so that it does not matter which of them is meant; where it
 * matters and cannot be told, a face stays unmatched.
 *
 * `onProgress` is told now and then which share of the work is done, roughly.
 *
 * Method: the old mesh is tried where it was, scaled and moved to the new one's bounds, and turned from Z up
 * to Y up; the frame in which most faces meet counts.
 */
export function matchFaces(
  before: PolyMesh,
  after: PolyMesh,
  isAlike: (f: number, g: number) => boolean,
  onProgress: (share: number) => void = () => undefined,
): FaceMatch {
  const old = bestFrame(before, after);
  const from = new Int32Array(faceCount(after)).fill(-1);
  const by = new Uint8Array(from.length);
  const matching = (kind: MatchKind): Matching => ({
    onFace: (f) => {
      if (f % tellEvery === 0) onProgress((matchKinds.indexOf(kind) + f / from.length) / matchKinds.length);
    },
    old,
    after,
    from,
    isAlike,
    take: (f, was) => {
      from[f] = was;
      by[f] = matchKinds.indexOf(kind) + 1;
    },
  });
  matchByPlace(matching('place'));
  if (from.includes(-1)) matchWithin(matching('within'));
  if (from.includes(-1)) matchMovedParts(matching('moved'));
  if (from.includes(-1) && isSameBuild(old, after)) from.forEach((g, f) => g < 0 && matching('order').take(f, f));
  const counts = Object.fromEntries(matchKinds.map((kind, i) => [kind, by.reduce((n, b) => n + Number(b === i + 1), 0)]));
  const order = Int8Array.from(by, (b) => (b > matchKinds.indexOf('within') + 1 ? cornerRun.same : cornerRun.byPlace));
  return {
    origins: { from, order, frame: old.positions },
    by,
    counts: counts as FaceMatch['counts'],
    unmatched: facesWhere(from.length, (f) => from[f]! < 0),
  };
}

/** Two meshes, what is known so far, and how to say what is found. */
interface Matching {
  old: PolyMesh;
  after: PolyMesh;
  /** See `FaceOrigins`; filled as faces are taken. */
  from: Int32Array;
  isAlike: (f: number, g: number) => boolean;
  take: (face: number, was: number) => void;
  /** Told of every face that is looked at, in order. */
  onFace: (face: number) => void;
}

/** Faces after which progress is told. */
const tellEvery = 4096;

const sizeOf = (mesh: PolyMesh): number => Math.max(largestSide(boundsOf(mesh)), 1e-9);

type Point = readonly [number, number, number];
function moved(mesh: PolyMesh, move: (p: Point) => Point): PolyMesh {
  const positions = new Float32Array(mesh.positions.length);
  for (let i = 0; i < positions.length; i += 3)
    positions.set(move([mesh.positions[i]!, mesh.positions[i + 1]!, mesh.positions[i + 2]!]), i);
  return { ...mesh, positions };
}

const none = new Int32Array(0);

function bestFrame(before: PolyMesh, after: PolyMesh): PolyMesh {
  const turned = () => moved(before, ([x, y, z]) => [x, z, -y]);
  const frames = [() => before, () => fitted(before, after), turned, () => fitted(turned(), after)];
  const step = Math.max(1, Math.floor(faceCount(after) / 2000));
  const asked = Math.ceil(faceCount(after) / step);
  let best = before;
  let most = 0;
  for (const frameOf of frames) {
    const frame = frameOf();
    if (!frame) continue;
    let met = 0;
    matchByPlace({ old: frame, after, from: none, isAlike: () => true, take: () => met++, onFace: () => undefined }, step);
    if (met > most) [best, most] = [frame, met];
    // Most of a changed model is where it was.
    if (most > asked * 0.9) break;
  }
  return best;
}

/** Scaled alike along all axes and moved, so that the bounds agree; `null` where the boxes have other proportions. */
function fitted(mesh: PolyMesh, to: PolyMesh): PolyMesh | null {
  const [p, q] = [boundsOf(mesh), boundsOf(to)];
  const scale = sizeOf(to) / sizeOf(mesh);
  for (let k = 0; k < 3; k++) if (Math.abs((p.max[k]! - p.min[k]!) * scale - (q.max[k]! - q.min[k]!)) > sizeOf(to) * 0.005) return null;
  const fit = (v: number, k: number) => (v - (p.min[k]! + p.max[k]!) / 2) * scale + (q.min[k]! + q.max[k]!) / 2;
  return moved(mesh, ([x, y, z]) => [fit(x, 0), fit(y, 1), fit(z, 2)]);
}

/** Faces whose corners lie where those of an old face lay. Where two lay there, the one that faces the same way. */
function matchByPlace({ old, after, isAlike, take, onFace }: Matching, step = 1): void {
  const reach = sizeOf(after) * slack.corner;
  const middles = middlesOfFaces(after);
  const grid = pointGrid(middlesOfFaces(old), reach * 2);
  // Only where two faces lie in one place does it matter which way they face.
  let sides: [old: Float32Array, now: Float32Array] | null = null;
  const facing = (f: number, g: number) => {
    const [was, is] = (sides ??= [measureFaces(old).normals, measureFaces(after).normals]);
    return facingAlike(is, f, was, g);
  };
  for (let f = 0; f < faceCount(after); f += step) {
    onFace(f);
    const there: number[] = [];
    grid.near(middles[f * 3]!, middles[f * 3 + 1]!, middles[f * 3 + 2]!, reach, (g) => {
      if (sameCorners(old, g, after, f, reach)) there.push(g);
    });
    const ahead = there.length > 1 ? there.filter((g) => facing(f, g) > 0.5) : there;
    // Where none faces the same way, any of them could be meant.
    const meant = ahead.length ? ahead : there;
    const [first] = meant;
    if (first !== undefined && meant.every((g) => g === first || isAlike(first, g))) take(f, first);
  }
}

function sameCorners(old: PolyMesh, g: number, after: PolyMesh, f: number, reach: number): boolean {
  const [start, end] = [after.faceStart[f]!, after.faceStart[f + 1]!];
  if (old.faceStart[g + 1]! - old.faceStart[g]! !== end - start) return false;
  for (let c = start; c < end; c++) {
    const v = after.cornerVertex[c]! * 3;
    let isMet = false;
    for (let d = old.faceStart[g]!; d < old.faceStart[g + 1]! && !isMet; d++) {
      const w = old.cornerVertex[d]! * 3;
      isMet =
        Math.hypot(
          after.positions[v]! - old.positions[w]!,
          after.positions[v + 1]! - old.positions[w + 1]!,
          after.positions[v + 2]! - old.positions[w + 2]!,
        ) <= reach;
    }
    if (!isMet) return false;
  }
  return true;
}

/**
 * Faces that lie on old ones which all look the same: those cut smaller, those joined, those whose corners
 * slid along the surface.
 */
function matchWithin({ old, after, from, isAlike, take, onFace }: Matching): void {
  const { normals } = adjacencyOf(old);
  const own = adjacencyOf(after).normals;
  const lookup = faceLookup(old, triangulate(old, normals));
  const reach = sizeOf(after) * slack.surface;
  for (let f = 0; f < from.length; f++) {
    onFace(f);
    if (from[f]! >= 0) continue;
    let first = -1;
    const isOn = samplePoints(after, f).every((p) => {
      const under = lookup(p, reach).filter((g) => facingAlike(own, f, normals, g) > 0.98);
      if (!under.length) return false;
      if (first < 0) first = under[0]!;
      return under.every((g) => isAlike(first, g));
    });
    if (isOn) take(f, first);
  }
}

/** The middle of a face, and points most of the way to its corners and to the middles of its edges. */
function samplePoints({ positions, cornerVertex, faceStart }: PolyMesh, f: number): Point[] {
  const [start, end] = [faceStart[f]!, faceStart[f + 1]!];
  const corners = Array.from(cornerVertex.subarray(start, end), (v): Point => [
    positions[v * 3]!,
    positions[v * 3 + 1]!,
    positions[v * 3 + 2]!,
  ]);
  const mix = (p: Point, q: Point, t: number): Point => [p[0] + (q[0] - p[0]) * t, p[1] + (q[1] - p[1]) * t, p[2] + (q[2] - p[2]) * t];
  const mean = (k: 0 | 1 | 2) => corners.reduce((sum, c) => sum + c[k], 0) / corners.length;
  const centre: Point = [mean(0), mean(1), mean(2)];
  return [centre, ...corners.flatMap((c, i) => [mix(centre, c, 0.85), mix(centre, mix(c, corners[(i + 1) % corners.length]!, 0.5), 0.85)])];
}

/**
 * Parts none of whose faces was found are looked for among the parts that are no longer where they were, then
 * among all.
 */
function matchMovedParts({ old, after, from, isAlike, take, onFace }: Matching): void {
  const [a, b] = [adjacencyOf(old), adjacencyOf(after)];
  const isMet = new Uint8Array(faceCount(old));
  for (const g of from) if (g >= 0) isMet[g] = 1;
  const parts = (of: typeof a) => Array.from({ length: of.partStart.length - 1 }, (_, p) => p);
  const facesOf = (of: typeof a, p: number) => of.partFaces.subarray(of.partStart[p]!, of.partStart[p + 1]!);
  const gone = parts(a).filter((p) => facesOf(a, p).every((f) => !isMet[f]));
  for (const part of parts(b)) {
    const faces = facesOf(b, part);
    onFace(faces[0]!);
    if (faces.some((f) => from[f]! >= 0)) continue;
    const mapsFrom = (list: number[]) =>
      list.flatMap((p) => firstOf(mostMaps, partMaps({ mesh: after, adjacency: b, part }, { mesh: old, adjacency: a, part: p })));
    const maps = mapsFrom(gone);
    const all = maps.length ? maps : mapsFrom(parts(a));
    if (!all.length) continue;
    // A part that was only moved has its faces facing as they did.
    const upright = all.filter((map) => faces.every((f) => facingAlike(b.normals, f, a.normals, map.get(f)!) > 0.999));
    const [first, ...others] = upright.length ? upright : all;
    for (const f of faces) if (others.every((map) => isAlike(first!.get(f)!, map.get(f)!))) take(f, first!.get(f)!);
  }
}

function firstOf<T>(most: number, items: Iterable<T>): T[] {
  const out: T[] = [];
  for (const item of items) {
    out.push(item);
    if (out.length === most) break;
  }
  return out;
}

/** The same faces over the same vertices, so that only places differ. */
const isSameBuild = (p: PolyMesh, q: PolyMesh): boolean =>
  equalArrays(p.faceStart, q.faceStart) && equalArrays(p.cornerVertex, q.cornerVertex);
