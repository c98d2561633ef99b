import { Vector3 } from 'three';
import type { Bounds } from '@/core/shapes/mesh/measure';

/** From the middle of things toward the camera, for each side. */
export const sideDirection = {
  front: [0, 0, 1],
  back: [0, 0, -1],
  left: [-1, 0, 0],
  right: [1, 0, 0],
  top: [0, 1, 0],
  bottom: [0, -1, 0],
  free: [0.62, 0.42, 1],
} as const;

export interface Framing {
  center: Vector3;
  /** Distance of a perspective camera from the center. */
  distance: number;
  /** Height in metres of what an orthographic camera shows. */
  height: number;
}

/** Corners of the box. */
const cornersOf = ({ min, max }: Bounds): [number, number, number][] =>
  Array.from({ length: 8 }, (_, i) => [i & 1 ? max[0] : min[0], i & 2 ? max[1] : min[1], i & 4 ? max[2] : min[2]]);

/**
 * How far the camera must be, looking from `direction` at the middle of the box, so that all points are in
 * view with air around; by default the corners of the box, which mostly stand out farther than what is in it.
 */
export function frameBounds(
  bounds: Bounds,
  direction: Vector3,
  fovDegrees: number,
  aspect: number,
  air = 1.1,
  points: Iterable<readonly [number, number, number]> = cornersOf(bounds),
): Framing {
  const { min, max } = bounds;
  const center = new Vector3((min[0] + max[0]) / 2, (min[1] + max[1]) / 2, (min[2] + max[2]) / 2);
  const forward = direction.clone().normalize();
  const right = new Vector3(0, 1, 0).cross(forward);
  if (right.lengthSq() < 1e-6) right.set(1, 0, 0);
  right.normalize();
  const up = forward.clone().cross(right);
  const tanV = Math.tan((fovDegrees * Math.PI) / 360);
  const tanH = tanV * aspect;
  let distance = 1e-3;
  let half = 1e-3;
  const p = new Vector3();
  for (const at of points) {
    p.set(...at).sub(center);
    const [x, y, z] = [Math.abs(p.dot(right)) * air, Math.abs(p.dot(up)) * air, p.dot(forward)];
    distance = Math.max(distance, x / tanH + z, y / tanV + z);
    half = Math.max(half, y, x / aspect);
  }
  return { center, distance, height: half * 2 };
}
