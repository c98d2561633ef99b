import type { Adjacency } from '../mesh/adjacency';
import type { PolyMesh } from '../mesh/polyMesh';
import { cornerPoint } from '../cut/facePlaces';
import type { Corners } from './partingEdges';

/** Share of a straight edge's length by which a point may lie beside it. */
const besideBy = 1e-5;

/**
 * Polygons, as corners of a mesh, without the points at which no other edge ends, that lie on the straight line between their two
 * neighbours in every polygon that has them, and have just what is mixed of these. `isSeam`: corners whose edges are marked.
 */
export function withoutStraightPoints(
  mesh: PolyMesh,
  adjacency: Adjacency,
  polygons: readonly (readonly number[])[],
  corners: Corners,
  isSeam: ReadonlySet<number>,
): number[][] {
  const { cornerPoint: pointOf, pointCount } = adjacency;
  // Each use of a point in a polygon, with those before and behind it.
  const slots = polygons.flatMap((p) => p.length);
  const starts = new Uint32Array(polygons.length + 1);
  slots.forEach((n, i) => (starts[i + 1] = starts[i]! + n));
  const total = starts[polygons.length]!;
  const [corner, polygon, before, behind] = [
    new Uint32Array(total),
    new Uint32Array(total),
    new Uint32Array(total),
    new Uint32Array(total),
  ];
  const uses: number[][] = Array.from({ length: pointCount }, () => []);
  polygons.forEach((p, i) =>
    p.forEach((c, k) => {
      const s = starts[i]! + k;
      corner[s] = c;
      polygon[s] = i;
      before[s] = starts[i]! + ((k + p.length - 1) % p.length);
      behind[s] = starts[i]! + ((k + 1) % p.length);
      uses[pointOf[c]!]!.push(s);
    }),
  );
  const size = Uint32Array.from(slots);
  const isGone = new Uint8Array(total);
  const at = (s: number) => cornerPoint(mesh, corner[s]!);
  /** How far along the straight way between its neighbours a use lies; `null` beside it. */
  const share = (s: number): number | null => {
    const [a, p, b] = [at(before[s]!), at(s), at(behind[s]!)];
    const way = b.map((v, k) => v - a[k]!);
    const square = way.reduce((sum, v) => sum + v * v, 0);
    const along = way.reduce((sum, v, k) => sum + v * (p[k]! - a[k]!), 0) / square;
    if (!(along > 0 && along < 1)) return null;
    return Math.hypot(...way.map((v, k) => a[k]! + v * along - p[k]!)) <= Math.sqrt(square) * besideBy ? along : null;
  };
  for (const own of uses) {
    if (!own.length) continue;
    const ends = (s: number) => {
      const [p, q] = [pointOf[corner[before[s]!]!]!, pointOf[corner[behind[s]!]!]!];
      return p < q ? `${p} ${q}` : `${q} ${p}`;
    };
    const first = ends(own[0]!);
    const mayGo = own.every((s) => {
      if (ends(s) !== first || size[polygon[s]!]! <= 3 || isSeam.has(corner[s]!) !== isSeam.has(corner[before[s]!]!)) return false;
      const along = share(s);
      return along !== null && corners.isBetween(corner[s]!, corner[before[s]!]!, corner[behind[s]!]!, along);
    });
    // One polygon that has the point twice would lose both.
    if (!mayGo || new Set(own.map((s) => polygon[s]!)).size < own.length) continue;
    for (const s of own) {
      isGone[s] = 1;
      behind[before[s]!] = behind[s]!;
      before[behind[s]!] = before[s]!;
      size[polygon[s]!]!--;
    }
  }
  return polygons.map((p, i) => p.filter((_, k) => !isGone[starts[i]! + k]));
}
