import { Vector3, type Camera } from 'three';
import type { LoadedMesh } from '@/workers/residents';
import { middleOfFace } from './middleOfFace';

/**
 * The face to which the face cursor steps: the neighbour over an edge in that direction of the screen if it
 * faces the camera, else the nearest facing face in that direction; -1 where there is none. `from` null: the
 * facing face nearest to the middle of the screen.
 */
export function faceTowards(loaded: LoadedMesh, camera: Camera, from: number | null, [dx, dy]: [number, number]): number {
  const { adjacency } = loaded;
  const eye = camera.getWorldPosition(new Vector3());
  const ahead = camera.getWorldDirection(new Vector3());
  const isFlat = 'isOrthographicCamera' in camera;
  const facesCamera = (f: number, middle: Vector3) => {
    const view = isFlat ? ahead : middle.clone().sub(eye);
    const n = adjacency.normals;
    return n[f * 3]! * view.x + n[f * 3 + 1]! * view.y + n[f * 3 + 2]! * view.z < 0;
  };
  const onScreen = (middle: Vector3) => middle.clone().project(camera);
  const start = from === null ? new Vector3(0, 0, 0) : onScreen(middleOfFace(loaded, from));
  /** Small is near and straight ahead; Infinity is behind or far to the side. */
  const cost = (f: number): number => {
    const middle = middleOfFace(loaded, f);
    if (!facesCamera(f, middle)) return Infinity;
    const p = onScreen(middle);
    if (Math.abs(p.x) > 1 || Math.abs(p.y) > 1) return Infinity;
    const [x, y] = [p.x - start.x, p.y - start.y];
    const distance = Math.hypot(x, y);
    if (from === null) return distance;
    const along = (x * dx + y * dy) / (distance || 1);
    return distance > 1e-5 && along > 0.5 ? distance / along ** 3 : Infinity;
  };
  const best = (faces: Iterable<number>): number => {
    let found = -1;
    let least = Infinity;
    for (const f of faces) {
      const c = f === from ? Infinity : cost(f);
      if (c < least) [found, least] = [f, c];
    }
    return found;
  };
  if (from !== null) {
    const near: number[] = [];
    for (let c = adjacency.faceStart[from]!; c < adjacency.faceStart[from + 1]!; c++) {
      const d = adjacency.neighbour[c]!;
      if (d >= 0) near.push(adjacency.cornerFace[d]!);
    }
    const neighbour = best(near);
    if (neighbour >= 0) return neighbour;
  }
  return best(adjacency.areas.keys());
}
