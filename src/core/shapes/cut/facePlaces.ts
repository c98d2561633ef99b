import { nextCorner, type Adjacency } from '../mesh/adjacency';
import type { PolyMesh } from '../mesh/polyMesh';

/** Shares of an edge nearer than this are one point. */
export const leastShare = 1e-4;

/** A place on a face's outline: a corner, or the point at a share of its edge. */
export interface OutlinePlace {
  corner: number;
  /** 0: the corner itself. */
  share: number;
}

/** A point inside a face: on the way between two places of its outline. Two of the same numbers are two points. */
export interface InsidePoint {
  from: OutlinePlace;
  to: OutlinePlace;
  /** How far from the one to the other, above 0 and below 1. */
  share: number;
}

export type FacePlace = OutlinePlace | InsidePoint;

/** A straight cut through a face, from one place of its outline to another. */
export interface StraightCut {
  face: number;
  from: OutlinePlace;
  to: OutlinePlace;
}

/**
 * A cut of several legs: between places of a face's outline, or inside points of earlier cuts, by way of inside points. One that
 * ends at the very inside point where it begins cuts out what it runs around.
 */
export interface FaceCut {
  face: number;
  from: FacePlace;
  to: FacePlace;
  via?: readonly InsidePoint[];
}

export const isInside = (place: FacePlace): place is InsidePoint => 'to' in place;

/** Whether two places are one: the same inside point, or as near on an outline as points can be. */
export const isSamePlace = (p: FacePlace, q: FacePlace): boolean =>
  isInside(p) || isInside(q) ? p === q : p.corner === q.corner && Math.abs(p.share - q.share) < leastShare;

/** New points on edges: shares of its length from the corner whose edge it is, each above 0 and below 1. */
export interface EdgePoints {
  corner: number;
  shares: readonly number[];
}

/** The points that cuts need on edges at their ends. */
export const pointsAtEnds = (cuts: readonly FaceCut[]): EdgePoints[] =>
  cuts.flatMap(({ from, to }) => [from, to].flatMap((p) => (isInside(p) || !p.share ? [] : [{ corner: p.corner, shares: [p.share] }])));

export type Point = readonly [x: number, y: number, z: number];

const mix = (a: Point, b: Point, share: number): Point => [
  a[0] + (b[0] - a[0]) * share,
  a[1] + (b[1] - a[1]) * share,
  a[2] + (b[2] - a[2]) * share,
];

/** Where a place lies: metres, in the mesh's frame. */
export function pointOf(mesh: PolyMesh, adjacency: Adjacency, place: FacePlace): Point {
  if (isInside(place)) return mix(pointOf(mesh, adjacency, place.from), pointOf(mesh, adjacency, place.to), place.share);
  const { corner, share } = place;
  const at = cornerPoint(mesh, corner);
  return share ? mix(at, cornerPoint(mesh, nextCorner(adjacency, corner)), share) : at;
}

export function cornerPoint({ positions, cornerVertex }: PolyMesh, corner: number): Point {
  const v = cornerVertex[corner]! * 3;
  return [positions[v]!, positions[v + 1]!, positions[v + 2]!];
}

export type Flat = readonly [u: number, v: number];

/** Drops the axis that a face's normal is nearest to, so that its outline keeps its turn: counter-clockwise as seen from the front. */
export function flattener({ normals }: Adjacency, face: number): (p: Point) => Flat {
  const normal = [normals[face * 3]!, normals[face * 3 + 1]!, normals[face * 3 + 2]!];
  const sizes = normal.map(Math.abs);
  const drop = sizes.indexOf(Math.max(...sizes));
  const [u, v] = [(drop + 1) % 3, (drop + 2) % 3] as [0, 1];
  return normal[drop]! < 0 ? (p) => [p[v], p[u]] : (p) => [p[u], p[v]];
}

/** Twice the area to the left of the way from `a` over `b` to `c`; below 0 where it turns right. */
export const turn = (a: Flat, b: Flat, c: Flat): number => (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0]);

/** Whether a point lies inside an outline, by the even-odd rule. */
export function isWithin(outline: readonly Flat[], [x, y]: Flat): boolean {
  let inside = false;
  for (let i = 0, last = outline.length - 1; i < outline.length; last = i++) {
    const [a, b] = [outline[i]!, outline[last]!];
    if (a[1] > y !== b[1] > y && x < a[0] + ((y - a[1]) / (b[1] - a[1])) * (b[0] - a[0])) inside = !inside;
  }
  return inside;
}

/** Twice an outline's area; below 0 where it runs clockwise. */
export function signedArea(outline: readonly Flat[]): number {
  let sum = 0;
  for (let i = 0, last = outline.length - 1; i < outline.length; last = i++)
    sum += outline[last]![0] * outline[i]![1] - outline[last]![1] * outline[i]![0];
  return sum;
}
