import { boundsOf, largestSide } from '../mesh/measure';
import type { PolyMesh } from '../mesh/polyMesh';
import type { Triangles } from '../mesh/triangulate';

/** The faces within `reach` metres of a point. */
export type FaceLookup = (point: readonly [number, number, number], reach: number) => number[];

/**
 * Method: triangles are listed in the cubes of a grid that their bounds touch; about as many cubes as
 * triangles, at most 64 along an axis. Distance to a triangle: C. Ericson, Real-Time Collision Detection,
 * 5.1.5.
 */
export function faceLookup(mesh: PolyMesh, triangles: Triangles): FaceLookup {
  const bounds = boundsOf(mesh);
  const { min } = bounds;
  const longest = Math.max(largestSide(bounds), 1e-9);
  const along = Math.max(4, Math.min(64, Math.ceil(Math.cbrt(triangles.face.length) * 2)));
  const side = (longest / along) * 1.0001;
  const cell = (v: number, k: number) => Math.max(0, Math.min(along - 1, Math.floor((v - min[k]!) / side)));
  const corner = (t: number, i: number, k: number) => mesh.positions[mesh.cornerVertex[triangles.corners[t * 3 + i]!]! * 3 + k]!;
  const cellsOf = (low: readonly number[], high: readonly number[], visit: (cell: number) => void) => {
    for (let z = cell(low[2]!, 2); z <= cell(high[2]!, 2); z++)
      for (let y = cell(low[1]!, 1); y <= cell(high[1]!, 1); y++)
        for (let x = cell(low[0]!, 0); x <= cell(high[0]!, 0); x++) visit((z * along + y) * along + x);
  };
  const eachCell = (t: number, visit: (cell: number) => void) => {
    const span = (pick: (...v: number[]) => number) => [0, 1, 2].map((k) => pick(corner(t, 0, k), corner(t, 1, k), corner(t, 2, k)));
    cellsOf(span(Math.min), span(Math.max), visit);
  };
  const start = new Uint32Array(along ** 3 + 1);
  for (let t = 0; t < triangles.face.length; t++) eachCell(t, (c) => start[c + 1]!++);
  for (let c = 0; c < along ** 3; c++) start[c + 1]! += start[c]!;
  const list = new Uint32Array(start[along ** 3]!);
  const at = start.slice();
  for (let t = 0; t < triangles.face.length; t++) eachCell(t, (c) => (list[at[c]!++] = t));

  return (p, reach) => {
    const found = new Set<number>();
    const seen = new Set<number>();
    cellsOf(
      p.map((v) => v - reach),
      p.map((v) => v + reach),
      (c) => {
        for (let i = start[c]!; i < start[c + 1]!; i++) {
          const t = list[i]!;
          if (seen.has(t)) continue;
          seen.add(t);
          const [a, b, d] = [0, 1, 2].map((n) => [corner(t, n, 0), corner(t, n, 1), corner(t, n, 2)]) as [number[], number[], number[]];
          if (distanceToTriangle(p, a, b, d) <= reach) found.add(triangles.face[t]!);
        }
      },
    );
    return [...found];
  };
}

type Vector = readonly number[];
const sub = (p: Vector, q: Vector) => [p[0]! - q[0]!, p[1]! - q[1]!, p[2]! - q[2]!];
const dot = (p: Vector, q: Vector) => p[0]! * q[0]! + p[1]! * q[1]! + p[2]! * q[2]!;
const along = (p: Vector, d: Vector, t: number) => [p[0]! + d[0]! * t, p[1]! + d[1]! * t, p[2]! + d[2]! * t];
const distance = (p: Vector, q: Vector) => Math.hypot(p[0]! - q[0]!, p[1]! - q[1]!, p[2]! - q[2]!);

function distanceToTriangle(p: Vector, a: Vector, b: Vector, c: Vector): number {
  const [ab, ac] = [sub(b, a), sub(c, a)];
  const [d1, d2] = [dot(ab, sub(p, a)), dot(ac, sub(p, a))];
  if (d1 <= 0 && d2 <= 0) return distance(p, a);
  const [d3, d4] = [dot(ab, sub(p, b)), dot(ac, sub(p, b))];
  if (d3 >= 0 && d4 <= d3) return distance(p, b);
  const vc = d1 * d4 - d3 * d2;
  if (vc <= 0 && d1 >= 0 && d3 <= 0) return distance(p, along(a, ab, d1 / (d1 - d3)));
  const [d5, d6] = [dot(ab, sub(p, c)), dot(ac, sub(p, c))];
  if (d6 >= 0 && d5 <= d6) return distance(p, c);
  const vb = d5 * d2 - d1 * d6;
  if (vb <= 0 && d2 >= 0 && d6 <= 0) return distance(p, along(a, ac, d2 / (d2 - d6)));
  const va = d3 * d6 - d5 * d4;
  if (va <= 0 && d4 - d3 >= 0 && d5 - d6 >= 0) return distance(p, along(b, sub(c, b), (d4 - d3) / (d4 - d3 + d5 - d6)));
  const whole = va + vb + vc;
  return distance(p, along(along(a, ab, vb / whole), ac, vc / whole));
}
