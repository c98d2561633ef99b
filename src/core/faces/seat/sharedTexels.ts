import { findCell, type Kit, type Seats } from '../../kit/kit';
import type { PolyMesh } from '../../shapes/mesh/polyMesh';

/** Seats that lie nearer than this, as a share of the cell, count as one place. */
const near = 1e-4;

/**
 * Other faces whose seats on a piece of art have texels in common with a face's, so that a change there would
 * show on both; none where the face sits on something else. Faces are taken for convex.
 *
 * Method: separating axes; a seat that is only a point shares where it lies in or on the other.
 */
export function sharedTexels(kit: Kit, { faceStart }: PolyMesh, { cell, at }: Seats, face: number): Uint32Array {
  const id = cell[face]!;
  if (!id || findCell(kit, id)?.cell.fill.kind !== 'art') return new Uint32Array(0);
  const seatOf = (f: number): Float32Array =>
    at ? at.subarray(faceStart[f]! * 2, faceStart[f + 1]! * 2) : new Float32Array((faceStart[f + 1]! - faceStart[f]!) * 2).fill(0.5);
  const own = seatOf(face);
  const [ownX, ownY] = [span(own, 1, 0), span(own, 0, 1)];
  const shared: number[] = [];
  for (let f = 0; f < cell.length; f++) {
    if (f === face || cell[f] !== id) continue;
    // Most seats lie far away, which their bounds tell without making anything.
    let x0 = at ? Infinity : 0.5;
    let y0 = x0;
    let x1 = at ? -Infinity : 0.5;
    let y1 = x1;
    for (let c = faceStart[f]!; at && c < faceStart[f + 1]!; c++) {
      const x = at[c * 2]!;
      const y = at[c * 2 + 1]!;
      if (x < x0) x0 = x;
      if (x > x1) x1 = x;
      if (y < y0) y0 = y;
      if (y > y1) y1 = y;
    }
    if (x0 > ownX[1] + near || x1 < ownX[0] - near || y0 > ownY[1] + near || y1 < ownY[0] - near) continue;
    if (overlap(own, seatOf(f))) shared.push(f);
  }
  return Uint32Array.from(shared);
}

function overlap(p: Float32Array, q: Float32Array): boolean {
  for (const [x, y] of axesOf(p, q)) {
    const [a, b] = [span(p, x, y), span(q, x, y)];
    // Seats that only touch share nothing, unless one of them has no extent across: a point, or pressed to a line.
    const slack = Math.min(a[1] - a[0], b[1] - b[0]) < near ? -near : near;
    if (a[1] - b[0] <= slack || b[1] - a[0] <= slack) return false;
  }
  return true;
}

/** The axes of the plane, and the normals of all edges that have a length. */
function* axesOf(...polygons: Float32Array[]): Generator<[number, number]> {
  yield [1, 0];
  yield [0, 1];
  for (const p of polygons)
    for (let i = 0; i < p.length; i += 2) {
      const [x, y] = [p[(i + 2) % p.length]! - p[i]!, p[(i + 3) % p.length]! - p[i + 1]!];
      const length = Math.hypot(x, y);
      if (length > near) yield [y / length, -x / length];
    }
}

function span(p: Float32Array, x: number, y: number): [number, number] {
  let [least, most] = [Infinity, -Infinity];
  for (let i = 0; i < p.length; i += 2) {
    const v = p[i]! * x + p[i + 1]! * y;
    least = Math.min(least, v);
    most = Math.max(most, v);
  }
  return [least, most];
}
