import { Plane, Raycaster, Vector2, Vector3, type Camera } from 'three';
import type { Point3 } from '@/core/kit/laying/gradientRules';
import type { PresentView } from '@/core/shapes/view/presentView';

/**
 * The point under a place of the screen that lies as far away as another point does: on the plane through that
 * one that the camera looks at straight. `x`, `y`: 0..1 from the top left.
 */
export function pointUnder(camera: Camera, x: number, y: number, through: Point3): Point3 {
  camera.updateMatrixWorld();
  const caster = new Raycaster();
  caster.setFromCamera(new Vector2(x * 2 - 1, 1 - y * 2), camera);
  const plane = new Plane().setFromNormalAndCoplanarPoint(camera.getWorldDirection(new Vector3()), new Vector3(...through));
  return caster.ray.intersectPlane(plane, new Vector3())?.toArray() ?? through;
}

/** Where a point lies on the screen, in pixels from the top left. */
export function onScreen({ matrix: m, width, height }: PresentView, [x, y, z]: Point3): [number, number] {
  const row = (k: number) => m[k]! * x + m[k + 4]! * y + m[k + 8]! * z + m[k + 12]!;
  const w = row(3) || 1;
  return [(0.5 + row(0) / w / 2) * width, (0.5 - row(1) / w / 2) * height];
}
