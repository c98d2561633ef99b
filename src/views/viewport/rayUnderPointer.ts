import { Raycaster, Vector2, type Camera } from 'three';
import type { PointerRay } from '@/state/pick/pointing';

/** Gives the ray from the eye through a place of the page, for a surface that a camera is drawn on. */
export function rayUnderPointer(surface: HTMLElement, camera: () => Camera): (clientX: number, clientY: number) => PointerRay {
  const caster = new Raycaster();
  return (clientX, clientY) => {
    const own = camera();
    const box = surface.getBoundingClientRect();
    own.updateMatrixWorld();
    caster.setFromCamera(new Vector2(((clientX - box.left) / box.width) * 2 - 1, 1 - ((clientY - box.top) / box.height) * 2), own);
    const { origin, direction } = caster.ray;
    return { origin: origin.toArray(), direction: direction.toArray() };
  };
}
