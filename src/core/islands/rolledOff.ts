import type { Adjacency } from '../shapes/mesh/adjacency';
import { boundsOf } from '../shapes/mesh/measure';
import type { PolyMesh } from '../shapes/mesh/polyMesh';

/**
 * Rolls faces off around an axis: metres around it at their mean distance, to the right as seen from outside, and
 * down along it, 2 for each corner, at the corner's number. The axis runs through the middle of their box, along the
 * direction that their normals keep away from most. A face that reaches across the back lies at that end at which its
 * middle does.
 */
export function rolledOff(mesh: PolyMesh, { normals, areas }: Adjacency, faces: Uint32Array): { axis: 0 | 1 | 2; places: Float32Array } {
  const { positions, cornerVertex, faceStart } = mesh;
  const along = [0, 0, 0];
  for (const f of faces) for (let k = 0; k < 3; k++) along[k]! += areas[f]! * normals[f * 3 + k]! ** 2;
  // Height first: an upright axis is the likeliest.
  const axis = ([1, 0, 2] as const).reduce((best, k) => (along[k]! < along[best]! * (1 - 1e-3) ? k : best), 1 as 0 | 1 | 2);
  // Seen from outside, with the axis up, the angle grows to the right.
  const [u, v] = ([[1, 2], [2, 0], [0, 1]] as const)[axis]!; // prettier-ignore
  const { min, max } = boundsOf(mesh, faces);
  const middle = [0, 1, 2].map((k) => (min[k]! + max[k]!) / 2);
  const at = (c: number) => [0, 1, 2].map((k) => positions[cornerVertex[c]! * 3 + k]! - middle[k]!);
  let [radius, count] = [0, 0];
  for (const f of faces)
    for (let c = faceStart[f]!; c < faceStart[f + 1]!; c++) {
      const p = at(c);
      radius += Math.hypot(p[u]!, p[v]!);
      count++;
    }
  radius /= count || 1;
  const places = new Float32Array(cornerVertex.length * 2);
  for (const f of faces) {
    const centre = [0, 0, 0];
    for (let c = faceStart[f]!; c < faceStart[f + 1]!; c++) at(c).forEach((x, k) => (centre[k]! += x));
    const around = angle(centre[u]!, centre[v]!, axis);
    for (let c = faceStart[f]!; c < faceStart[f + 1]!; c++) {
      const p = at(c);
      // On the axis itself there is no angle: that of the face.
      const own = Math.hypot(p[u]!, p[v]!) > radius * 1e-6 ? angle(p[u]!, p[v]!, axis) : around;
      const turn = 2 * Math.PI * Math.round((around - own) / (2 * Math.PI));
      places[c * 2] = (own + turn) * radius;
      places[c * 2 + 1] = -p[axis]!;
    }
  }
  return { axis, places };
}

/** -π..π. Around the height 0 lies in front, so that it opens at the back; around the others above: it opens below. */
const angle = (pu: number, pv: number, axis: 0 | 1 | 2): number => (axis === 2 ? Math.atan2(-pu, pv) : Math.atan2(pv, pu));
