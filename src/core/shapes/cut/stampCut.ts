import earcut from 'earcut';
import type { Adjacency } from '../mesh/adjacency';
import { faceCount, type PolyMesh } from '../mesh/polyMesh';
import type { CutMesh } from './cutFaces';
import { floodWhere } from '../pick/floods';
import { FaceUnder } from './faceUnder';
import { cornerPoint, isWithin, pointsAtEnds, turn, type EdgePoints, type FaceCut, type Flat, type Point } from './facePlaces';
import { flatOutline } from './insidePoint';
import { boundsOf, onLine, sizeOfStamp } from './stampOutlines';

/** A plane in which outlines lie: where its middle is, and its two directions, of length 1 and at right angles; metres. */
export interface StampFrame {
  origin: Point;
  u: Point;
  v: Point;
}

export interface Stamp {
  /** The face on which it lies; it goes on over its neighbours that are nearly as flat. */
  face: number;
  frame: StampFrame;
  /** Closed lines, metres in the plane. What lies in an even number of them is outside. */
  outlines: readonly (readonly Flat[])[];
}

/** Degrees by which faces under a stamp may lean away from its plane. */
const mostLeaning = 30;

export interface StampPlan {
  points: EdgePoints[];
  cuts: FaceCut[];
  /** Faces under the stamp. */
  under: Set<number>;
}

export const flatIn =
  ({ origin, u, v }: StampFrame) =>
  (p: Point): Flat => {
    const [x, y, z] = [p[0] - origin[0], p[1] - origin[1], p[2] - origin[2]];
    return [x * u[0] + y * u[1] + z * u[2], x * v[0] + y * v[1] + z * v[2]];
  };

export const pointIn = ({ origin, u, v }: StampFrame, [x, y]: Flat): Point => [
  origin[0] + u[0] * x + v[0] * y,
  origin[1] + u[1] * x + v[1] * y,
  origin[2] + u[2] * x + v[2] * y,
];

/** A plane's direction towards its front, of length 1. */
export const normalOf = ({ u, v }: StampFrame): Point => [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]];

/**
 * The cuts of outlines that are laid on a face and what continues it nearly flat; where this ends, they end. A corner of the mesh that
 * lies on a line is cut at, an edge along one is none. Method: each line's stretches inside of each face, between where it meets the
 * face's outline, joined to ways. Throws where outlines cross themselves or each other, have too many corners, or cut nothing.
 */
export function planStamp(mesh: PolyMesh, adjacency: Adjacency, { face, frame, outlines }: Stamp): StampPlan {
  const flat = flatIn(frame);
  const size = sizeOfStamp(outlines);
  const under = facesUnder(mesh, adjacency, face, frame, outlines);
  const cuts = [...under].flatMap((f) => {
    const own = new FaceUnder(adjacency, f, flatOutline(mesh, f, flat), size * onLine);
    return outlines.flatMap((outline) => own.cuts(outline));
  });
  return { points: pointsAtEnds(cuts), cuts, under };
}

/** The cuts of several stamps. Throws as `planStamp` does, and where two of them lie on each other. */
export function planStamps(mesh: PolyMesh, adjacency: Adjacency, stamps: readonly Stamp[]): StampPlan[] {
  const plans = stamps.map((stamp) => planStamp(mesh, adjacency, stamp));
  // By face the stamps above it: only those that have one in common can lie on each other.
  const above = new Map<number, number[]>();
  for (const [i, { under }] of plans.entries()) {
    const others = new Set<number>();
    for (const f of under) {
      const own = above.get(f) ?? [];
      for (const k of own) others.add(k);
      above.set(f, [...own, i]);
    }
    const { frame, outlines } = stamps[i]!;
    for (const k of others) {
      const flat = flatIn(stamps[k]!.frame);
      sizeOfStamp([...stamps[k]!.outlines, ...outlines.map((o) => o.map((p) => flat(pointIn(frame, p))))]);
    }
  }
  return plans;
}

/** The new faces inside of what was stamped, ascending. */
export function stampedFaces({ frame, outlines }: Stamp, { under }: StampPlan, { mesh, origins }: CutMesh): Uint32Array {
  const flat = flatIn(frame);
  const out: number[] = [];
  for (let f = 0; f < faceCount(mesh); f++) {
    if (!under.has(origins.from[f]!)) continue;
    const place = placeInside(flatOutline(mesh, f, flat));
    if (place && outlines.filter((o) => isWithin(o, place)).length % 2) out.push(f);
  }
  return Uint32Array.from(out);
}

/** The middle of an outline's largest triangle. */
function placeInside(outline: readonly Flat[]): Flat | null {
  const corners = earcut(outline.flat());
  let [most, best]: [number, Flat | null] = [0, null];
  for (let i = 0; i < corners.length; i += 3) {
    const [a, b, c] = [0, 1, 2].map((k) => outline[corners[i + k]!]!) as [Flat, Flat, Flat];
    const area = Math.abs(turn(a, b, c));
    if (area > most) [most, best] = [area, [(a[0] + b[0] + c[0]) / 3, (a[1] + b[1] + c[1]) / 3]];
  }
  return best;
}

/** Of the first face and what continues it nearly flat, the faces that lie under a stamp or near. */
function facesUnder(mesh: PolyMesh, adjacency: Adjacency, first: number, frame: StampFrame, outlines: Stamp['outlines']): Set<number> {
  const normal = normalOf(frame);
  const { normals } = adjacency;
  const least = Math.cos((mostLeaning * Math.PI) / 180);
  const facing = (g: number) => normal[0] * normals[g * 3]! + normal[1] * normals[g * 3 + 1]! + normal[2] * normals[g * 3 + 2]!;
  if (!(Math.abs(facing(first)) >= least)) throw new Error('A stamp lies on faces that are nearly flat; point at one.');
  const flat = flatIn(frame);
  const near = boundsOf(outlines.flat());
  // No further than what lies between the first face and the stamp.
  const between = boundsOf([...outlines.flat(), ...flatOutline(mesh, first, flat)]);
  const meets = (f: number, bounds: typeof near): boolean => {
    const low = [Infinity, Infinity];
    const high = [-Infinity, -Infinity];
    for (let c = mesh.faceStart[f]!; c < mesh.faceStart[f + 1]!; c++)
      flat(cornerPoint(mesh, c)).forEach((n, k) => {
        if (n < low[k]!) low[k] = n;
        if (n > high[k]!) high[k] = n;
      });
    return bounds.every(([least, most], k) => low[k]! <= most && high[k]! >= least);
  };
  const side = Math.sign(facing(first));
  const found = floodWhere(adjacency, first, Infinity, (_, g) => facing(g) * side >= least && meets(g, between))!;
  return new Set(found.filter((f) => meets(f, near)));
}
