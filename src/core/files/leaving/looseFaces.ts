import type { PolyMesh } from '../../shapes/mesh/polyMesh';
import { shadedItem, trianglesByFace, type ExportModel } from './exportModel';
import { framedMesh } from './leaveFrame';
import { leaveDefaults, type LeaveOptions } from '../../kit/leaveOptions';

/** A model in the frame and with the shading in which it leaves, for formats that know no nodes. */
export function dressedItem(item: ExportModel, options: Partial<LeaveOptions>): ExportModel {
  const shaded = shadedItem(item, options);
  return { ...shaded, mesh: framedMesh(shaded.mesh, { ...leaveDefaults, ...options }) };
}

/** Corners of a face in their order; of a face with more than `most`, and of all where that is 3, its triangles. */
export function cornersByFace(mesh: PolyMesh, most: number): (face: number) => number[][] {
  const isLong = (f: number) => mesh.faceStart[f + 1]! - mesh.faceStart[f]! > most;
  let cut: ReturnType<typeof trianglesByFace> | null = null;
  return (f) => {
    const from = mesh.faceStart[f]!;
    if (!isLong(f)) return [Array.from({ length: mesh.faceStart[f + 1]! - from }, (_, i) => from + i)];
    const { triangles, start } = (cut ??= trianglesByFace(mesh));
    return Array.from({ length: start[f + 1]! - start[f]! }, (_, i) => [
      ...triangles.corners.subarray((start[f]! + i) * 3, (start[f]! + i + 1) * 3),
    ]);
  };
}

/** The same of all faces that leave, one after the other. */
export function facesThatLeave({ mesh, leaveOut }: Pick<ExportModel, 'mesh' | 'leaveOut'>, most: number): number[][] {
  const cornersOf = cornersByFace(mesh, most);
  const out: number[][] = [];
  for (let f = 0; f + 1 < mesh.faceStart.length; f++) if (!leaveOut?.[f]) out.push(...cornersOf(f));
  return out;
}

/** The normal with which each corner leaves, 3 each: its own; where it has none, its face's. */
export function cornerNormalsOf(mesh: PolyMesh, faceNormals: Float32Array): Float32Array {
  const out = new Float32Array(mesh.cornerVertex.length * 3);
  const own = mesh.cornerNormals;
  for (let f = 0; f + 1 < mesh.faceStart.length; f++)
    for (let c = mesh.faceStart[f]!; c < mesh.faceStart[f + 1]!; c++) {
      const has = own && (own[c * 3] !== 0 || own[c * 3 + 1] !== 0 || own[c * 3 + 2] !== 0);
      out.set(has ? own.subarray(c * 3, c * 3 + 3) : faceNormals.subarray(f * 3, f * 3 + 3), c * 3);
    }
  return out;
}
