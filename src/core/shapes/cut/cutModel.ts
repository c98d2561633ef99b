import type { Adjacency } from '../mesh/adjacency';
import { facesWhere } from '../mesh/facesWhere';
import { boundsOf, largestSide } from '../mesh/measure';
import { faceCount, type PolyMesh } from '../mesh/polyMesh';
import type { Axis } from '../pick/symmetry';
import { cutFaces, type CutMesh } from './cutFaces';
import { planBorderInside, stripesOf, type BorderWish } from './borderInside';
import type { EdgePoints, FaceCut } from './facePlaces';
import { planPlaneCut, type Plane } from './planeCut';
import { bandsOf, planRingCuts, type RingCut } from './ringCut';
import { planStamps, stampedFaces, type Stamp } from './stampCut';

/** A stretch of an axis, metres: a plane cuts at each of its ends that is a number. */
export interface Band {
  from: number;
  to: number;
}

/**
 * How a model is cut: along rings, by planes across an axis, by lines inside an outline, or by stamps. `within`: 1 for faces that
 * planes cut, all where it is not told. `takes`: what counts as between lines inside an outline.
 */
export type CutWish =
  | { kind: 'rings'; cuts: readonly RingCut[] }
  | { kind: 'planes'; axis: Axis; bands: readonly Band[]; within?: Uint8Array }
  | ({ kind: 'border'; takes: 'stripes' | 'inside' } & BorderWish)
  | { kind: 'stamps'; stamps: readonly Stamp[] };

const normals: Record<Axis, Plane['normal']> = { x: [1, 0, 0], y: [0, 1, 0], z: [0, 0, 1] };

/** What is to be cut, as `cutFaces` takes it, and which of the new faces then are between. */
export interface CutPlan {
  points: EdgePoints[];
  cuts: FaceCut[];
  between: (cut: CutMesh) => Uint32Array;
  /** Metres, of lines inside an outline that cannot be as wide as was wished. */
  heldBackTo?: number;
}

/** Throws as `planRingCuts`, `planPlaneCut`, `planBorderInside` and `planStamps` do. */
export function planCut(mesh: PolyMesh, adjacency: Adjacency, wish: CutWish): CutPlan {
  switch (wish.kind) {
    case 'rings':
      return { ...planRingCuts(mesh, adjacency, wish.cuts), between: (cut) => bandsOf(adjacency, wish.cuts, cut) };
    case 'planes': {
      const ends = wish.bands.flatMap(({ from, to }) => [from, to]).filter(Number.isFinite);
      const plans = ends.map((distance) => planPlaneCut(mesh, adjacency, { normal: normals[wish.axis], distance }, wish.within));
      return { points: plans.flatMap((p) => p.points), cuts: plans.flatMap((p) => p.cuts), between: (cut) => facesBetween(cut, wish) };
    }
    case 'border': {
      const plan = planBorderInside(mesh, adjacency, wish);
      return {
        ...plan,
        between: (cut) => stripesOf(plan, wish.picked, cut)[wish.takes],
        ...(plan.isHeldBack && { heldBackTo: plan.metres }),
      };
    }
    case 'stamps': {
      const plans = planStamps(mesh, adjacency, wish.stamps);
      const between = (cut: CutMesh) =>
        Uint32Array.from(new Set(plans.flatMap((p, i) => [...stampedFaces(wish.stamps[i]!, p, cut)]))).sort();
      return { points: plans.flatMap((p) => p.points), cuts: plans.flatMap((p) => p.cuts), between };
    }
  }
}

/**
 * A mesh that is cut. `between`: the new faces in the bands, between the cuts of a ring, or at the narrower side of a
 * single one; between lines or inside of them; under stamps. Throws as `planCut` does, and where nothing would be cut.
 */
export function cutModel(mesh: PolyMesh, adjacency: Adjacency, wish: CutWish): CutMesh & { between: Uint32Array } {
  const { points, cuts, between } = planCut(mesh, adjacency, wish);
  if (!cuts.length) throw new Error('Nothing lies there to be cut.');
  const cut = cutFaces(mesh, adjacency, points, cuts);
  return { ...cut, between: between(cut) };
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
