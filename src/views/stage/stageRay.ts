import { Plane, Raycaster, Vector2, Vector3, type Camera, type Object3D } from 'three';
import type { Placement } from '@/core/kit/kit';
import { placementsIn } from './StageCrowd';

/** What a pointer meets: a place on the ground, or on what stands there. */
export interface Met {
  point: Vector3;
  placement: Placement | null;
}

const floor = new Plane(new Vector3(0, 1, 0), 0);

/** Follows the pointer into the stage; `without`: placements that it looks through. */
export function stageRay(camera: Camera, surface: HTMLElement, objects: readonly Object3D[]) {
  const caster = new Raycaster();
  return (e: { clientX: number; clientY: number }, without: readonly string[] = []): Met | null => {
    const box = surface.getBoundingClientRect();
    camera.updateMatrixWorld();
    caster.setFromCamera(new Vector2(((e.clientX - box.left) / box.width) * 2 - 1, 1 - ((e.clientY - box.top) / box.height) * 2), camera);
    const hit = caster
      .intersectObjects([...objects], false)
      .map((h) => ({ ...h, placement: placementsIn(h.object)[h.instanceId ?? 0]! }))
      .find((h) => !without.includes(h.placement.id));
    const onFloor = caster.ray.intersectPlane(floor, new Vector3());
    const isNearer = hit && (!onFloor || hit.distance <= onFloor.distanceTo(caster.ray.origin));
    if (hit && isNearer) return { point: hit.point, placement: hit.placement };
    return onFloor ? { point: onFloor, placement: null } : null;
  };
}

/** Pixels that a press may move and still be a click. */
export const still = 4;
