import { remembered } from '../../ground/remembered';
import { nextCorner, type Adjacency } from '../mesh/adjacency';
import { boundsOf, largestSide } from '../mesh/measure';
import { faceCount, type PolyMesh } from '../mesh/polyMesh';
import {
  flattener,
  cornerPoint,
  isWithin,
  leastShare,
  pointOf,
  pointsAtEnds,
  type EdgePoints,
  type Flat,
  type OutlinePlace,
  type StraightCut,
} from './facePlaces';

export interface Plane {
  /** Of unit length. */
  normal: readonly [number, number, number];
  /** Metres from the origin along the normal. */
  distance: number;
}

const sizeOf = remembered((mesh: PolyMesh) => largestSide(boundsOf(mesh)));
/** Share of the model's size within which a corner lies on a plane. */
const onPlane = 1e-6;

/** How far each vertex lies before a plane, metres; 0 for those that lie on it. */
function beforePlane(mesh: PolyMesh, { normal: [x, y, z], distance }: Plane): Float64Array {
  const { positions } = mesh;
  const slack = sizeOf(mesh) * onPlane;
  const out = new Float64Array(positions.length / 3);
  for (let v = 0, i = 0; v < out.length; v++, i += 3) {
    const off = positions[i]! * x + positions[i + 1]! * y + positions[i + 2]! * z - distance;
    out[v] = off <= slack && off >= -slack ? 0 : off;
  }
  return out;
}

/** Whether a plane may run through a face: not all of its corners lie at one side. */
function isMet({ faceStart, cornerVertex }: PolyMesh, off: Float64Array, face: number): boolean {
  let [before, behind, on] = [0, 0, 0];
  for (let c = faceStart[face]!; c < faceStart[face + 1]!; c++) {
    const d = off[cornerVertex[c]!]!;
    if (d > 0) before++;
    else if (d < 0) behind++;
    else on++;
  }
  return (before > 0 && behind > 0) || on > 1;
}

/**
 * What a plane cuts: new points where edges cross it, and cuts through faces between them; a face that it meets in a corner or along an edge alone is not
 * cut. `within`: 1 for the faces that are meant, all where it is not told. Throws where the normal has no direction.
 */
export function planPlaneCut(
  mesh: PolyMesh,
  adjacency: Adjacency,
  plane: Plane,
  within?: Uint8Array,
): { points: EdgePoints[]; cuts: StraightCut[] } {
  if (!(Math.abs(Math.hypot(...plane.normal) - 1) < 1e-3) || !Number.isFinite(plane.distance))
    throw new Error('A plane needs a direction of length 1 and a distance.');
  const off = beforePlane(mesh, plane);
  const cuts: StraightCut[] = [];
  for (let f = 0; f < faceCount(mesh); f++) {
    if ((within && !within[f]) || !isMet(mesh, off, f)) continue;
    const places = placesOn(mesh, adjacency, off, f);
    if (places.length < 2) continue;
    const own = places.length === 2 ? [[places[0]!, places[1]!] as const] : pairsInside(mesh, adjacency, f, places, plane);
    // Along an edge nothing is cut.
    const through = own.filter(([p, q]) => !isAlongEdge(adjacency, p, q));
    for (const [from, to] of through) cuts.push({ face: f, from, to });
  }
  return { points: pointsAtEnds(cuts), cuts };
}

/** Where a face's outline meets the plane, in its order. What lies nearly at a corner lies there. */
function placesOn({ faceStart, cornerVertex }: PolyMesh, adjacency: Adjacency, off: Float64Array, face: number): OutlinePlace[] {
  const places: OutlinePlace[] = [];
  const put = (corner: number, share: number) => {
    if (!places.some((p) => p.corner === corner && p.share === share)) places.push({ corner, share });
  };
  for (let c = faceStart[face]!; c < faceStart[face + 1]!; c++) {
    const next = nextCorner(adjacency, c);
    const [a, b] = [off[cornerVertex[c]!]!, off[cornerVertex[next]!]!];
    if (a === 0) put(c, 0);
    if (a * b >= 0) continue;
    // Reckoned from the lower point on, so that both faces at an edge agree.
    const isUp = adjacency.cornerPoint[c]! < adjacency.cornerPoint[next]!;
    const low = isUp ? a / (a - b) : b / (b - a);
    const share = isUp ? low : 1 - low;
    if (low < leastShare) put(isUp ? c : next, 0);
    else if (low > 1 - leastShare) put(isUp ? next : c, 0);
    else put(c, share);
  }
  return places;
}

function isAlongEdge(adjacency: Adjacency, p: OutlinePlace, q: OutlinePlace): boolean {
  const ends = (a: OutlinePlace, b: OutlinePlace) => !a.share && !b.share && nextCorner(adjacency, a.corner) === b.corner;
  return ends(p, q) || ends(q, p);
}

/** Of a face that a plane meets more than twice: the stretches of their common line that lie in it. */
function pairsInside(
  mesh: PolyMesh,
  adjacency: Adjacency,
  face: number,
  places: readonly OutlinePlace[],
  { normal }: Plane,
): (readonly [OutlinePlace, OutlinePlace])[] {
  const [fx, fy, fz] = [0, 1, 2].map((k) => adjacency.normals[face * 3 + k]!) as [number, number, number];
  const way = [normal[1] * fz - normal[2] * fy, normal[2] * fx - normal[0] * fz, normal[0] * fy - normal[1] * fx];
  const along = places
    .map((place) => ({ place, point: pointOf(mesh, adjacency, place) }))
    .map((p) => ({ ...p, t: p.point[0]! * way[0]! + p.point[1]! * way[1]! + p.point[2]! * way[2]! }))
    .sort((p, q) => p.t - q.t);
  const flat = flattener(adjacency, face);
  const outline: Flat[] = [];
  for (let c = mesh.faceStart[face]!; c < mesh.faceStart[face + 1]!; c++) outline.push(flat(cornerPoint(mesh, c)));
  return along.slice(1).flatMap((q, i) => {
    const p = along[i]!;
    const middle = [0, 1, 2].map((k) => (p.point[k]! + q.point[k]!) / 2) as [number, number, number];
    return isWithin(outline, flat(middle)) ? [[p.place, q.place] as const] : [];
  });
}
