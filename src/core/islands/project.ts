import type { PolyMesh } from '../shapes/mesh/polyMesh';
import type { Point3 } from '../kit/laying/gradientRules';

/**
 * Flattens faces as they are seen from a direction: metres to the right and down for each corner, 2 each, at the
 * corner's number. `right` and `up`: unit vectors in the mesh's space, across and up what is looked at.
 */
export function project({ positions, cornerVertex, faceStart }: PolyMesh, faces: Uint32Array, right: Point3, up: Point3): Float32Array {
  const out = new Float32Array(cornerVertex.length * 2);
  for (const f of faces)
    for (let c = faceStart[f]!; c < faceStart[f + 1]!; c++) {
      const v = cornerVertex[c]! * 3;
      const along = (axis: Point3) => positions[v]! * axis[0] + positions[v + 1]! * axis[1] + positions[v + 2]! * axis[2];
      out[c * 2] = along(right);
      out[c * 2 + 1] = -along(up);
    }
  return out;
}

/**
 * Right and up for looking straight at some faces: against their mean normal, with up as near to the world's up
 * as it can be; on faces that lie level, to the back.
 */
export function facing(normals: Float32Array, areas: Float32Array, faces: Uint32Array): { right: Point3; up: Point3 } {
  const sum = [0, 0, 0];
  for (const f of faces) for (let k = 0; k < 3; k++) sum[k]! += normals[f * 3 + k]! * areas[f]!;
  const length = Math.hypot(...sum);
  const [nx, ny, nz] = length > 1e-12 ? sum.map((v) => v / length) : [0, 0, 1];
  const isLevel = Math.abs(ny!) > 0.999;
  // What of up, or of back, lies in the plane.
  const from = isLevel ? [0, 0, -Math.sign(ny!)] : [0, 1, 0];
  const dot = from[0]! * nx! + from[1]! * ny! + from[2]! * nz!;
  const flat = from.map((v, k) => v - dot * [nx!, ny!, nz!][k]!);
  const size = Math.hypot(...flat) || 1;
  const up = flat.map((v) => v / size) as unknown as Point3;
  return { up, right: [up[1] * nz! - up[2] * ny!, up[2] * nx! - up[0] * nz!, up[0] * ny! - up[1] * nx!] };
}
