import { Vector3 } from 'three';
import type { LoadedMesh } from '@/workers/residents';

export const middleOfFace = ({ mesh }: LoadedMesh, face: number): Vector3 => {
  const out = new Vector3();
  const start = mesh.faceStart[face]!;
  const end = mesh.faceStart[face + 1]!;
  for (let c = start; c < end; c++) {
    const v = mesh.cornerVertex[c]! * 3;
    out.x += mesh.positions[v]!;
    out.y += mesh.positions[v + 1]!;
    out.z += mesh.positions[v + 2]!;
  }
  return out.divideScalar(end - start);
};
