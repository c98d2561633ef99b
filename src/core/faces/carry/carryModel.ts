import { type ById, byId } from '../../ground/byId';
import { facesWhere } from '../../shapes/mesh/facesWhere';
import { carryPatch, carrySeats } from './carrySeats';
import { oldCorner, type CornersOnOutlines, type FaceOrigins } from '../../shapes/mesh/faceOrigins';
import { copySeats, type KitState, type Model, type NamedPick, type SeatPatch, type Seats } from '../../kit/kit';
import { copyPatches, patchesOfModel } from '../../kit/patches';
import type { Remeshed } from '../../kit/edit/edit';
import { adjacencyOf, nextCorner, type Adjacency } from '../../shapes/mesh/adjacency';
import type { PolyMesh } from '../../shapes/mesh/polyMesh';
import { facesOfSpans, spansOfFaces } from '../../shapes/pick/namedPicks';
import { edgeCorner } from '../../shapes/pick/edges';

/** What a model had before it takes another mesh, for the way back. */
export const remeshedFrom = (state: KitState, model: Model, seats = state.seats[model.id]!): Remeshed => ({
  mesh: model.mesh,
  faces: model.faces,
  seats: copySeats(seats),
  ...(Object.keys(patchesOfModel(state, model.id)).length && { patches: copyPatches(patchesOfModel(state, model.id)) }),
  source: model.source,
  seams: model.seams,
  picks: model.picks ?? [],
  ...(model.placement && { placement: model.placement }),
});

/** All that lies on a model's faces. */
export interface Carried {
  seats: Seats;
  /** By variant; absent where none says anything. */
  patches?: ById<SeatPatch>;
  seams: Model['seams'];
  picks: NamedPick[];
}

/** What lies on faces beside their seats: what variants say of them by variant. */
export type OnFaces = Pick<Model, 'seams' | 'picks'> & Pick<Carried, 'patches'>;

/** Everything that lies on the faces of a mesh comes to another one. */
export function carryAll(model: OnFaces, seats: Seats, before: PolyMesh, after: PolyMesh, origins: FaceOrigins): Carried {
  const { seams = [], picks = [] } = carryEdgesAndPicks(model, { ...before, positions: origins.frame ?? before.positions }, after, origins);
  const patches = Object.entries(model.patches ?? {}).flatMap(([id, patch]) => {
    const carried = carryPatch(patch, before, after, origins);
    return carried ? [[id, carried] as const] : [];
  });
  return {
    seats: carrySeats(seats, before, after, origins),
    ...(patches.length && { patches: byId(patches) }),
    seams,
    picks,
  };
}

/**
 * Seams and named picks of a model on a changed mesh. A seam stays where one of its faces is known again and
 * has an edge between the same places of its outline.
 */
function carryEdgesAndPicks(
  { seams, picks = [] }: Pick<Model, 'seams' | 'picks'>,
  before: PolyMesh,
  after: PolyMesh,
  origins: FaceOrigins,
): Pick<Remeshed, 'seams' | 'picks'> {
  const { from } = origins;
  const carriedPicks = picks.map((pick) => {
    const was = new Set(facesOfSpans(pick.spans));
    return { ...pick, spans: spansOfFaces(facesWhere(from.length, (f) => was.has(from[f]!))) };
  });
  if (!seams.length) return { seams, picks: carriedPicks };
  const [old, now] = [adjacencyOf(before), adjacencyOf(after)];
  const isSeam = new Set(seams.flatMap((c) => [c, old.neighbour[c]!]));
  const carried = new Set<number>();
  if (origins.corners) {
    for (const c of edgesOnOutlines(old, now, origins.corners, isSeam)) carried.add(edgeCorner(now, c));
    return { seams: [...carried].sort((p, q) => p - q), picks: carriedPicks };
  }
  for (let f = 0; f < from.length; f++) {
    const g = from[f]!;
    const size = after.faceStart[f + 1]! - after.faceStart[f]!;
    if (g < 0 || before.faceStart[g + 1]! - before.faceStart[g]! !== size) continue;
    const was = Array.from({ length: size }, (_, k) => {
      const told = oldCorner(origins, f, k, size);
      return told >= 0 ? told : cornerAt(before, g, after, after.faceStart[f]! + k);
    });
    for (let k = 0; k < size; k++) {
      const [p, q] = [was[k]!, was[(k + 1) % size]!];
      // An edge that runs the other way now began at its other end.
      const edge = (p + 1) % size === q ? p : q;
      if (isSeam.has(before.faceStart[g]! + edge)) carried.add(edgeCorner(now, after.faceStart[f]! + k));
    }
  }
  return { seams: [...carried].sort((p, q) => p - q), picks: carriedPicks };
}

/** The corners of a mesh whose edges lie on edges of the old one that are in a set. */
function* edgesOnOutlines(
  old: Adjacency,
  now: Adjacency,
  { corner, share, across, onEdge }: CornersOnOutlines,
  isIn: ReadonlySet<number>,
): Generator<number> {
  for (let c = 0; c < corner.length; c++) {
    const edge = corner[c]!;
    if (!isIn.has(edge)) continue;
    if (onEdge) {
      if (onEdge[c]) yield c;
      continue;
    }
    const end = nextCorner(now, c);
    if (across && (across.part[c]! > 0 || across.part[end]! > 0)) continue;
    // On along the same edge, or to where it ends: any other way runs through the face.
    if ((corner[end] === edge && share[end]! > share[c]!) || (corner[end] === nextCorner(old, edge) && share[end] === 0)) yield c;
  }
}

/** The corner of an old face, from its first, that lies nearest to a corner of the new mesh. */
function cornerAt(before: PolyMesh, face: number, after: PolyMesh, corner: number): number {
  const v = after.cornerVertex[corner]! * 3;
  const start = before.faceStart[face]!;
  let best = 0;
  let least = Infinity;
  for (let c = start; c < before.faceStart[face + 1]!; c++) {
    const w = before.cornerVertex[c]! * 3;
    let d = 0;
    for (let k = 0; k < 3; k++) d += (after.positions[v + k]! - before.positions[w + k]!) ** 2;
    if (d < least) [best, least] = [c - start, d];
  }
  return best;
}
