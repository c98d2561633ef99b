import { boundsOf } from '../../shapes/mesh/measure';
import type { PolyMesh } from '../../shapes/mesh/polyMesh';
import type { LeaveOptions } from '../../kit/leaveOptions';

type Vector = [number, number, number];

/**
 * The point of a model, in its own metres, that becomes the origin: of its bounds the middle, or the middle of
 * the lowest level.
 */
export function originOf(mesh: PolyMesh, origin: LeaveOptions['origin']): Vector {
  if (origin === 'came' || !mesh.positions.length) return [0, 0, 0];
  const { min, max } = boundsOf(mesh);
  const [x, y, z] = [0, 1, 2].map((k) => (min[k]! + max[k]!) / 2) as Vector;
  return [x, origin === 'ground' ? min[1] : y, z];
}

/** Whether models leave in another frame than they have. */
export const isMoved = ({ origin, scale }: Pick<LeaveOptions, 'origin' | 'scale'>): boolean => origin !== 'came' || scale !== 1;

/**
 * A mesh in the frame in which it leaves: moved to its origin, scaled, and with Z up where that is asked for
 * (a quarter turn about X: what was up is Z, what came toward the viewer is -Y).
 */
export function framedMesh(mesh: PolyMesh, { origin, scale, up }: Pick<LeaveOptions, 'origin' | 'scale' | 'up'>): PolyMesh {
  if (!isMoved({ origin, scale }) && up === 'y') return mesh;
  const o = originOf(mesh, origin);
  const positions = new Float32Array(mesh.positions.length);
  for (let i = 0; i < positions.length; i += 3) {
    const [x, y, z] = [0, 1, 2].map((k) => (mesh.positions[i + k]! - o[k]!) * scale) as Vector;
    positions.set(turned(x, y, z, up), i);
  }
  const normals = mesh.cornerNormals && up === 'z' ? new Float32Array(mesh.cornerNormals.length) : undefined;
  if (normals)
    for (let i = 0; i < normals.length; i += 3)
      normals.set(turned(...(mesh.cornerNormals!.subarray(i, i + 3) as unknown as Vector), up), i);
  return { ...mesh, positions, ...(normals && { cornerNormals: normals }) };
}

// 0 - z, since -z would write zeros as -0.
const turned = (x: number, y: number, z: number, up: LeaveOptions['up']): Vector => (up === 'z' ? [x, 0 - z, y] : [x, y, z]);
