import type { Kit, Seats } from '@/core/kit/kit';
import type { PolyMesh } from '@/core/mesh/polyMesh';
import { layoutUvs } from '@/core/seat/layout';

/** UVs of all corners, each scaled to its sheet's share of a layer of the given size. */
export function sheetUvs(kit: Kit, mesh: PolyMesh, seats: Seats, width: number, height: number): Float32Array {
  let uvs: Float32Array | undefined;
  for (const sheet of kit.sheets) {
    const own = new Set(sheet.cells.map((c) => c.id));
    const laid = layoutUvs(mesh, seats, sheet, uvs);
    for (let f = 0; f < seats.cell.length; f++) {
      if (!own.has(seats.cell[f]!)) continue;
      for (let c = mesh.faceStart[f]!; c < mesh.faceStart[f + 1]!; c++) {
        laid[c * 2]! *= sheet.width / width;
        laid[c * 2 + 1]! *= sheet.height / height;
      }
    }
    uvs = laid;
  }
  return uvs ?? new Float32Array(mesh.cornerVertex.length * 2);
}
