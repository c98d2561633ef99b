import type { Adjacency } from '../mesh/adjacency';
import { boundsOf, largestSide, middlesOfFaces, type Bounds } from '../mesh/measure';
import { faceCount, type PolyMesh } from '../mesh/polyMesh';
import { pointGrid } from './pointGrid';

export type Axis = 'x' | 'y' | 'z';
const axes = ['x', 'y', 'z'] as const;

export interface MirrorPlane {
  axis: Axis;
  /** Where the plane stands on its axis, metres. */
  offset: number;
}

export interface Symmetry extends MirrorPlane {
  matched: number;
  unmatched: number;
  /** How far twins may lie apart, as a share of the model's size. */
  tolerance: number;
  /**
   * The twin of each face: another face, itself where it lies across the plane, -1 where there is none. Twins
   * are mutual.
   */
  twin: Int32Array;
}

export const usualTolerance = 0.002;
/** Planes are compared on so many faces; all are matched over the plane that is taken. */
const sample = 4000;
/** A plane over which so many faces have twins needs no rival. */
const clear = 0.9;
/** Faces behind one another that a face is paired with, for voting. */
const mostPairs = 12;

/** The plane across an axis over which most of the mesh is mirrored, with the twins across it. */
export function findSymmetry(mesh: PolyMesh, adjacency: Adjacency, tolerance = usualTolerance): Symmetry {
  return twinsAcross(mesh, adjacency, mirrorPlanes(mesh, adjacency, tolerance)[0]!, tolerance);
}

/**
 * The best plane of each axis, with the share of faces that have a twin across it (of a sample, on large
 * meshes); the best first.
 *
 * Method: for each axis the middle of the bounds, the plane at 0 where that differs, and, where neither holds
 * for most faces, the plane that most pairs of faces vote for.
 */
export function mirrorPlanes(mesh: PolyMesh, adjacency: Adjacency, tolerance = usualTolerance): (MirrorPlane & { share: number })[] {
  const bounds = boundsOf(mesh);
  const { min, max } = bounds;
  const size = sizeOf(bounds);
  const middles = middlesOfFaces(mesh);
  const look = finder(adjacency, middles, size * tolerance, tolerance);
  const faces = faceCount(mesh);
  const step = Math.max(1, Math.floor(faces / sample));
  return axes
    .map((axis, k) => {
      const middle = (min[k]! + max[k]!) / 2;
      const offsets = Math.abs(middle) <= size * tolerance ? [0] : [middle, 0];
      const rate = (offset: number) => {
        let found = 0;
        let asked = 0;
        for (let f = 0; f < faces; f += step, asked++) if (look(f, k, offset) >= 0) found++;
        return { axis, offset, share: found / Math.max(1, asked) };
      };
      const better = (p: ReturnType<typeof rate>, q: ReturnType<typeof rate>) => (q.share > p.share ? q : p);
      const best = offsets.map(rate).reduce(better);
      const voted = best.share < clear ? votedOffset(adjacency, middles, k, size * tolerance) : null;
      return voted === null ? best : better(best, rate(voted));
    })
    .sort((p, q) => q.share - p.share);
}

/**
 * Twins across a given plane: the nearest face, by its middle, of as many corners and about the same area,
 * kept where both choose each other.
 */
export function twinsAcross(mesh: PolyMesh, adjacency: Adjacency, { axis, offset }: MirrorPlane, tolerance = usualTolerance): Symmetry {
  const look = finder(adjacency, middlesOfFaces(mesh), sizeOf(boundsOf(mesh)) * tolerance, tolerance);
  const faces = faceCount(mesh);
  const nearest = new Int32Array(faces);
  for (let f = 0; f < faces; f++) nearest[f] = look(f, axes.indexOf(axis), offset);
  const twin = new Int32Array(faces).fill(-1);
  let matched = 0;
  for (let f = 0; f < faces; f++) {
    const g = nearest[f]!;
    if (g < 0 || nearest[g] !== f) continue;
    twin[f] = g;
    matched++;
  }
  return { axis, offset, twin, matched, unmatched: faces - matched, tolerance };
}

const sizeOf = (bounds: Bounds) => Math.max(largestSide(bounds), 1e-9);

/**
 * Where along an axis most pairs of faces that lie across it from each other, alike in size, have their
 * middle; `null` where there is no such pair. A body with something at one side of it has its plane neither
 * in the middle of its bounds nor at 0.
 */
function votedOffset({ faceStart, areas }: Adjacency, middles: Float32Array, axis: number, slack: number): number | null {
  const [u, v] = [(axis + 1) % 3, (axis + 2) % 3];
  const side = Math.max(slack * 4, 1e-7);
  const columns = new Map<number, number[]>();
  const votes = new Map<number, { count: number; sum: number }>();
  for (let f = 0; f < areas.length; f++) {
    const place = Math.imul(Math.floor(middles[f * 3 + u]! / side), 73856093) ^ Math.imul(Math.floor(middles[f * 3 + v]! / side), 19349663);
    const key = (place ^ Math.imul(faceStart[f + 1]! - faceStart[f]!, 83492791)) | 0;
    const column = columns.get(key);
    if (!column) {
      columns.set(key, [f]);
      continue;
    }
    for (const g of column) {
      if (Math.abs(areas[f]! - areas[g]!) > 0.05 * areas[f]!) continue;
      const middle = (middles[f * 3 + axis]! + middles[g * 3 + axis]!) / 2;
      const vote = votes.get(Math.round(middle / slack));
      if (vote) {
        vote.count++;
        vote.sum += middle;
      } else votes.set(Math.round(middle / slack), { count: 1, sum: middle });
    }
    if (column.length < mostPairs) column.push(f);
  }
  let best: { count: number; sum: number } | null = null;
  for (const vote of votes.values()) if (vote.count > (best?.count ?? 0)) best = vote;
  return best && best.sum / best.count;
}

/**
 * A function from a face, an axis and an offset to the face nearest to its mirror image; -1 where none is
 * near. `slack`: metres.
 */
function finder(
  adjacency: Adjacency,
  middles: Float32Array,
  slack: number,
  tolerance: number,
): (f: number, axis: number, offset: number) => number {
  const { faceStart, areas, normals } = adjacency;
  const grid = pointGrid(middles, Math.max(slack * 2, 1e-7));
  const areaSlack = Math.max(0.05, tolerance * 10);
  return (f, axis, offset) => {
    const p: [number, number, number] = [middles[f * 3]!, middles[f * 3 + 1]!, middles[f * 3 + 2]!];
    p[axis] = 2 * offset - p[axis]!;
    const size = faceStart[f + 1]! - faceStart[f]!;
    const area = areas[f]!;
    let best = -1;
    let least = slack * slack;
    grid.near(...p, slack, (g) => {
      if (faceStart[g + 1]! - faceStart[g]! !== size) return;
      if (Math.abs(areas[g]! - area) > areaSlack * Math.max(areas[g]!, area) + 1e-12) return;
      // 0 where the mirrored normals agree, 2 where they are opposed: tells the two sides of a thin wall apart.
      let gap = 1;
      for (let k = 0; k < 3; k++) gap -= normals[f * 3 + k]! * (k === axis ? -1 : 1) * normals[g * 3 + k]!;
      let d = gap * slack * slack * 0.1;
      for (let k = 0; k < 3; k++) d += (middles[g * 3 + k]! - p[k]!) ** 2;
      if (d < least) {
        least = d;
        best = g;
      }
    });
    return best;
  };
}
