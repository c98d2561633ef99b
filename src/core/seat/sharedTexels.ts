import { findCell, type Kit, type Seats } from '../kit/kit';
import type { PolyMesh } from '../mesh/polyMesh';

/** Seats that lie nearer than this, as a share of the cell, count as one place. */
const near = 1e-4;

/**
 * Other faces whose seats on a piece of art have texels in common with a face's, so that a change there would show on both; none where the face sits on something else. Faces
 * are taken for convex.
 *
 * Method: separating axes; a seat that is only a point shares where it lies in or on the other.
 */
export function sharedTexels(kit: Kit, { faceStart }: PolyMesh, { cell, at }: Seats, face: number): Uint32Array {
  const id = cell[face]!;
  if (!id || findCell(kit, id)?.cell.fill.kind !== 'art') return new Uint32Array(0);
  const seatOf = (f: number): Float32Array =>
    at ? at.subarray(faceStart[f]! * 2, faceStart[f + 1]! * 2) : new Float32Array((faceStart[f + 1]! - faceStart[f]!) * 2).fill(0.5);
  const own = seatOf(face);
  const shared: number[] = [];
  for (let f = 0; f < cell.length; f++) if (f !== face && cell[f] === id && overlap(own, seatOf(f))) shared.push(f);
  return Uint32Array.from(shared);
}

function overlap(p: Float32Array, q: Float32Array): boolean {
  const [[pw, pn], [qw, qn]] = [extent(p), extent(q)];
  const areSmall = Math.max(pw, pn) < near || Math.max(qw, qn) < near;
  // Seats that only touch share nothing, unless one of them is no more than a point.
  const slack = areSmall ? -near : near;
  for (const [x, y] of axesOf(p, q)) {
    const [a, b] = [span(p, x, y), span(q, x, y)];
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

function extent(p: Float32Array): [number, number] {
  const [x, y] = [span(p, 1, 0), span(p, 0, 1)];
  return [x[1] - x[0], y[1] - y[0]];
}
