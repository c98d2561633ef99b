import type { Adjacency } from '../mesh/adjacency';
import { facesWhere } from '../mesh/facesWhere';
import { boundsOf, largestSide } from '../mesh/measure';
import { faceCount, type PolyMesh } from '../mesh/polyMesh';
import type { Axis } from '../pick/symmetry';
import { cutFaces, type CutMesh, type EdgePoints, type FaceCut } from './cutFaces';
import { planPlaneCut, type Plane } from './planeCut';
import { bandsOf, planRingCuts, type RingCut } from './ringCut';

/** A stretch of an axis, metres: a plane cuts at each of its ends that is a number. */
export interface Band {
  from: number;
  to: number;
}

/** How a model is cut: along rings, or by planes across an axis. `within`: 1 for faces that planes cut, all where it is not told. */
export type CutWish =
  { kind: 'rings'; cuts: readonly RingCut[] } | { kind: 'planes'; axis: Axis; bands: readonly Band[]; within?: Uint8Array };

const normals: Record<Axis, Plane['normal']> = { x: [1, 0, 0], y: [0, 1, 0], z: [0, 0, 1] };

/** New points and cuts, as `cutFaces` takes them. Throws as `planRingCuts` and `planPlaneCut` do. */
export function planCut(mesh: PolyMesh, adjacency: Adjacency, wish: CutWish): { points: EdgePoints[]; cuts: FaceCut[] } {
  if (wish.kind === 'rings') return planRingCuts(mesh, adjacency, wish.cuts);
  const ends = wish.bands.flatMap(({ from, to }) => [from, to]).filter(Number.isFinite);
  const plans = ends.map((distance) => planPlaneCut(mesh, adjacency, { normal: normals[wish.axis], distance }, wish.within));
  return { points: plans.flatMap((p) => p.points), cuts: plans.flatMap((p) => p.cuts) };
}

/**
 * A mesh that is cut. `between`: the new faces in the bands, between the cuts of a ring, or at the narrower side of a
 * single one. Throws as `planCut` does, and where nothing would be cut.
 */
export function cutModel(mesh: PolyMesh, adjacency: Adjacency, wish: CutWish): CutMesh & { between: Uint32Array } {
  const { points, cuts } = planCut(mesh, adjacency, wish);
  if (!cuts.length) throw new Error('Nothing lies there to be cut.');
  const cut = cutFaces(mesh, adjacency, points, cuts);
  return { ...cut, between: wish.kind === 'rings' ? bandsOf(adjacency, wish.cuts, cut) : facesBetween(cut, wish) };
}

function facesBetween({ mesh, origins }: CutMesh, { axis, bands, within }: Extract<CutWish, { kind: 'planes' }>): Uint32Array {
  const k = ['x', 'y', 'z'].indexOf(axis);
  // New points lie as near to a plane as numbers of their kind can.
  const slack = largestSide(boundsOf(mesh)) * 1e-5;
  const { positions, cornerVertex, faceStart } = mesh;
  return facesWhere(faceCount(mesh), (f) => {
    if (within && !within[origins.from[f]!]) return false;
    let [least, most] = [Infinity, -Infinity];
    for (let c = faceStart[f]!; c < faceStart[f + 1]!; c++) {
      const at = positions[cornerVertex[c]! * 3 + k]!;
      if (at < least) least = at;
      if (at > most) most = at;
    }
    return bands.some(({ from, to }) => least >= from - slack && most <= to + slack);
  });
}
