import type { Kit, Seats } from '@/core/kit/kit';
import type { PolyMesh } from '@/core/shapes/mesh/polyMesh';
import { layoutUvs } from '@/core/faces/seat/layout';

/** UVs of all corners on layers of the given size, in whose top left corners the sheets lie. */
export function sheetUvs(kit: Kit, mesh: PolyMesh, seats: Seats, width: number, height: number): Float32Array {
  let uvs: Float32Array | undefined;
  for (const sheet of kit.sheets) uvs = layoutUvs(mesh, seats, { ...sheet, width, height }, uvs);
  return uvs ?? new Float32Array(mesh.cornerVertex.length * 2);
}
