import { inherits } from '../../ground/limits';
import { withoutIdleRules, type SeatPatch, type Seats } from '../../kit/kit';
import { withoutIdle } from '../../kit/patches';
import { faceCount, type PolyMesh } from '../../shapes/mesh/polyMesh';
import { triangulate } from '../../shapes/mesh/triangulate';
import { adjacencyOf } from '../../shapes/mesh/adjacency';
import { mixedAt, oldCorner, type CornersOnOutlines, type FaceOrigins } from '../../shapes/mesh/faceOrigins';

/**
 * Seats for a changed mesh. Faces that are new stay uncolored. Where seats have coordinates, a corner takes
 * those of its old corner where that is told (on a part that moved, places say nothing), else those of the
 * place in the old face where it lies, so that pieces of a cut face keep their piece.
 */
export function carrySeats(seats: Seats, before: PolyMesh, after: PolyMesh, origins: FaceOrigins): Seats {
  const { from } = origins;
  const carried = withoutIdleRules({
    cell: Uint16Array.from(from, (f) => (f < 0 ? 0 : seats.cell[f]!)),
    region: Uint16Array.from(from, (f) => (f < 0 ? 0 : seats.region[f]!)),
    ...(seats.rule && { rule: Uint16Array.from(from, (f) => (f < 0 ? 0 : seats.rule![f]!)) }),
  });
  if (!seats.at) return carried;
  if (origins.corners) return { ...carried, at: atOnOutlines(seats.at, before, origins.corners) };
  const at = new Float32Array(after.cornerVertex.length * 2).fill(0.5);
  const placeOf = placer({ ...before, positions: origins.frame ?? before.positions }, seats.at);
  for (let f = 0; f < faceCount(after); f++) {
    const old = from[f]!;
    if (old < 0) continue;
    const [start, was] = [after.faceStart[f]!, before.faceStart[old]!];
    const size = before.faceStart[old + 1]! - was;
    for (let c = start; c < after.faceStart[f + 1]!; c++) {
      const k = oldCorner(origins, f, c - start, size);
      if (k >= 0) at.set(seats.at.subarray((was + k) * 2, (was + k) * 2 + 2), c * 2);
      else {
        const v = after.cornerVertex[c]! * 3;
        at.set(placeOf(old, after.positions.subarray(v, v + 3)), c * 2);
      }
    }
  }
  return { ...carried, at };
}

/** Coordinates of corners that are told by where they lie on old faces. */
function atOnOutlines(at: Float32Array, { faceStart }: PolyMesh, corners: CornersOnOutlines): Float32Array {
  const isFirst = new Uint8Array(at.length / 2 + 1);
  for (const c of faceStart) isFirst[c] = 1;
  // The last corner's edge goes back to the first.
  const next = (c: number) => {
    if (!isFirst[c + 1]) return c + 1;
    while (!isFirst[c]) c--;
    return c;
  };
  return Float32Array.from({ length: corners.corner.length * 2 }, (_, i) => mixedAt(corners, i >> 1, (c) => at[c * 2 + (i & 1)]!, next));
}

/** What a variant says of faces, for a changed mesh; nothing of faces that are new. `undefined` where nothing is left. */
export function carryPatch(patch: SeatPatch, before: PolyMesh, after: PolyMesh, origins: FaceOrigins): SeatPatch | undefined {
  const { from } = origins;
  const said = (values: Uint16Array) => Uint16Array.from(from, (f) => (f < 0 ? inherits : values[f]!));
  const { cell: was, rule: ruleWas, at: placed } = patch;
  const { at } = carrySeats({ cell: was, region: was, ...(placed && { at: placed }) }, before, after, origins);
  const [cell, rule] = [said(was), ruleWas && said(ruleWas)];
  for (let f = 0; f < from.length; f++) {
    if (from[f]! >= 0) continue;
    at?.fill(NaN, after.faceStart[f]! * 2, after.faceStart[f + 1]! * 2);
  }
  return withoutIdle({ cell, ...(rule && { rule }), ...(at && { at }) });
}

/**
 * Coordinates at a point of a face: those of the corner that lies there, else mixed over the triangle of the
 * face around it (by areas), or the nearest one.
 */
function placer(mesh: PolyMesh, at: Float32Array): (face: number, point: ArrayLike<number>) => [number, number] {
  const triangles = triangulate(mesh, adjacencyOf(mesh).normals);
  const first = new Int32Array(faceCount(mesh)).fill(-1);
  for (let t = triangles.face.length - 1; t >= 0; t--) first[triangles.face[t]!] = t;
  const point = (c: number) => mesh.positions.subarray(mesh.cornerVertex[c]! * 3, mesh.cornerVertex[c]! * 3 + 3);
  return (face, p) => {
    for (let c = mesh.faceStart[face]!; c < mesh.faceStart[face + 1]!; c++) {
      const q = point(c);
      if (q[0] === p[0] && q[1] === p[1] && q[2] === p[2]) return [at[c * 2]!, at[c * 2 + 1]!];
    }
    let best: [number, number] = [0.5, 0.5];
    let least = Infinity;
    for (let t = first[face]!; t >= 0 && triangles.face[t] === face; t++) {
      const [a, b, c] = [0, 1, 2].map((k) => triangles.corners[t * 3 + k]!) as [number, number, number];
      const parts = [area(p, point(b), point(c)), area(point(a), p, point(c)), area(point(a), point(b), p)];
      const sum = parts[0]! + parts[1]! + parts[2]! || 1;
      // The three areas exceed the triangle's own where the point lies beside it.
      const excess = sum - area(point(a), point(b), point(c));
      if (excess >= least) continue;
      least = excess;
      const mix = (k: number) => [a, b, c].reduce((total, corner, i) => total + (at[corner * 2 + k]! * parts[i]!) / sum, 0);
      best = [mix(0), mix(1)];
    }
    return best;
  };
}

function area(p: ArrayLike<number>, q: ArrayLike<number>, r: ArrayLike<number>): number {
  const u = [q[0]! - p[0]!, q[1]! - p[1]!, q[2]! - p[2]!];
  const v = [r[0]! - p[0]!, r[1]! - p[1]!, r[2]! - p[2]!];
  return Math.hypot(u[1]! * v[2]! - u[2]! * v[1]!, u[2]! * v[0]! - u[0]! * v[2]!, u[0]! * v[1]! - u[1]! * v[0]!) / 2;
}
