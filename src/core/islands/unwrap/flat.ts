import type { Chart } from './chart';

/** Places of a chart's vertices in a plane, in metres: across, and up. */
export interface Flat {
  x: Float64Array;
  y: Float64Array;
}

/**
 * The true shape of each triangle, laid into a plane of its own: its first corner at 0, the second at (length, 0),
 * the third at (px, py). Slivers are given a little height, so that every weight that follows is finite.
 */
export interface Rest {
  length: Float64Array;
  px: Float64Array;
  py: Float64Array;
  /** Square metres of the mesh, without that height. */
  area: Float64Array;
}

const leastHeight = 1e-4;

export function restOf({ points, triangles }: Pick<Chart, 'points' | 'triangles'>): Rest {
  const n = triangles.length / 3;
  const rest = { length: new Float64Array(n), px: new Float64Array(n), py: new Float64Array(n), area: new Float64Array(n) };
  for (let t = 0; t < n; t++) {
    const [a, b, c] = [triangles[t * 3]! * 3, triangles[t * 3 + 1]! * 3, triangles[t * 3 + 2]! * 3];
    const [ux, uy, uz] = [points[b]! - points[a]!, points[b + 1]! - points[a + 1]!, points[b + 2]! - points[a + 2]!];
    const [vx, vy, vz] = [points[c]! - points[a]!, points[c + 1]! - points[a + 1]!, points[c + 2]! - points[a + 2]!];
    const [length, other] = [Math.hypot(ux, uy, uz), Math.hypot(vx, vy, vz)];
    const twice = Math.hypot(uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx);
    const longest = Math.max(length, other, 1e-12);
    rest.length[t] = Math.max(length, longest * leastHeight);
    rest.px[t] = length > 0 ? (ux * vx + uy * vy + uz * vz) / length : 0;
    rest.py[t] = Math.max(length > 0 ? twice / length : 0, longest * leastHeight);
    rest.area[t] = twice / 2;
  }
  return rest;
}

/** Cotangents of a triangle's angles at its three corners. */
export function cotangents({ length, px, py }: Rest, t: number): [number, number, number] {
  const [l, x, y] = [length[t]!, px[t]!, py[t]!];
  const twice = l * y;
  return [(l * x) / twice, (l * (l - x)) / twice, (x * (x - l) + y * y) / twice];
}

/** Twice the area of a triangle in the plane; below 0 where it is flipped. */
export function twiceArea(triangles: Uint32Array, { x, y }: Flat, t: number): number {
  const [a, b, c] = [triangles[t * 3]!, triangles[t * 3 + 1]!, triangles[t * 3 + 2]!];
  return (x[b]! - x[a]!) * (y[c]! - y[a]!) - (y[b]! - y[a]!) * (x[c]! - x[a]!);
}

/** Area of the flat triangles over that of the mesh's, and how many of them are flipped; those without area are none. */
export function measureFlat(triangles: Uint32Array, rest: Rest, flat: Flat): { scale: number; flipped: number } {
  let [is, was, flipped] = [0, 0, 0];
  const least = rest.area.reduce((sum, a) => sum + a, 0) * 1e-10;
  for (let t = 0; t < rest.area.length; t++) {
    const area = twiceArea(triangles, flat, t) / 2;
    is += Math.abs(area);
    was += rest.area[t]!;
    if (rest.area[t]! > least && !(area > 0)) flipped++;
  }
  return { scale: was > 0 ? is / was : 1, flipped };
}

/** Sizes a flat chart to the area that it has on the mesh. */
export function toTrueSize(triangles: Uint32Array, rest: Rest, flat: Flat): void {
  const factor = 1 / Math.sqrt(measureFlat(triangles, rest, flat).scale || 1);
  for (let v = 0; v < flat.x.length; v++) {
    flat.x[v]! *= factor;
    flat.y[v]! *= factor;
  }
}

/** Greatest and least factor by which a triangle's lengths change in the plane; both 0 for one without area there. */
export function stretchOf(triangles: Uint32Array, rest: Rest, { x, y }: Flat, t: number): [number, number] {
  const [a, b, c] = [triangles[t * 3]!, triangles[t * 3 + 1]!, triangles[t * 3 + 2]!];
  const [length, px, py] = [rest.length[t]!, rest.px[t]!, rest.py[t]!];
  const [ux, uy] = [(x[b]! - x[a]!) / length, (y[b]! - y[a]!) / length];
  const [vx, vy] = [(x[c]! - x[a]! - ux * px) / py, (y[c]! - y[a]! - uy * px) / py];
  const [square, twice] = [ux * ux + uy * uy + vx * vx + vy * vy, 2 * Math.abs(ux * vy - uy * vx)];
  // Sums and differences of the two factors.
  const [sum, difference] = [Math.sqrt(square + twice), Math.sqrt(Math.max(0, square - twice))];
  return [(sum + difference) / 2, (sum - difference) / 2];
}

/**
 * How far a chart of true size is from true lengths: the mean over the area of the greater of the two factors, or of
 * the inverse of the lesser. 1 where nothing is stretched; infinite where a triangle is flipped.
 */
export function distortion(triangles: Uint32Array, rest: Rest, flat: Flat): number {
  if (measureFlat(triangles, rest, flat).flipped) return Infinity;
  let [sum, all] = [0, 0];
  for (let t = 0; t < rest.area.length; t++) {
    const [most, least] = stretchOf(triangles, rest, flat, t);
    sum += rest.area[t]! * Math.min(1e6, Math.max(most, 1 / Math.max(least, 1e-9)));
    all += rest.area[t]!;
  }
  return all > 0 ? sum / all : 1;
}
