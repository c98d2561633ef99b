import { distanceToTriangle } from '../../shapes/mesh/distance';
import { boundsOf, largestSide } from '../../shapes/mesh/measure';
import type { PolyMesh } from '../../shapes/mesh/polyMesh';
import type { Triangles } from '../../shapes/mesh/triangulate';

type Point = readonly [number, number, number];
/** The faces within `reach` metres of a point. */
export type FaceLookup = (point: Point, reach: number) => number[];

/**
 * Method: triangles are listed in the cubes of a grid that their bounds touch; along an axis twice the cube root
 * of their number, at most 64.
 */
export function faceLookup(mesh: PolyMesh, triangles: Triangles): FaceLookup {
  const bounds = boundsOf(mesh);
  const along = Math.max(1, Math.min(64, Math.ceil(Math.cbrt(triangles.face.length) * 2)));
  const side = largestSide(bounds) / along || 1;
  const cell = (v: number, k: number) => Math.max(0, Math.min(along - 1, Math.floor((v - bounds.min[k]!) / side)));
  const corner = (c: number): Point => {
    const v = mesh.cornerVertex[c]! * 3;
    return [mesh.positions[v]!, mesh.positions[v + 1]!, mesh.positions[v + 2]!];
  };
  const cornersOf = (t: number): [Point, Point, Point] => {
    const { corners } = triangles;
    return [corner(corners[t * 3]!), corner(corners[t * 3 + 1]!), corner(corners[t * 3 + 2]!)];
  };
  /** The cubes that the box around some points, wider by `reach` on all sides, touches. */
  const cubesAt = function* (points: readonly Point[], reach: number): Generator<number> {
    const span = (k: 0 | 1 | 2) => {
      const own = points.map((p) => p[k]);
      return [cell(Math.min(...own) - reach, k), cell(Math.max(...own) + reach, k)] as const;
    };
    const [[x0, x1], [y0, y1], [z0, z1]] = [span(0), span(1), span(2)];
    for (let z = z0; z <= z1; z++) for (let y = y0; y <= y1; y++) for (let x = x0; x <= x1; x++) yield (z * along + y) * along + x;
  };
  const inCube = new Map<number, number[]>();
  for (let t = 0; t < triangles.face.length; t++)
    for (const cube of cubesAt(cornersOf(t), 0)) {
      const list = inCube.get(cube);
      if (list) list.push(t);
      else inCube.set(cube, [t]);
    }

  return (point, reach) => {
    const near = new Set<number>();
    for (const cube of cubesAt([point], reach)) for (const t of inCube.get(cube) ?? []) near.add(t);
    const found = new Set<number>();
    for (const t of near) if (distanceToTriangle(point, ...cornersOf(t)) <= reach) found.add(triangles.face[t]!);
    return [...found];
  };
}
