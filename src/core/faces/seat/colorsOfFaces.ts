import { isTextured, type Kit, type Rect, type Seats } from '../../kit/kit';
import type { PolyMesh } from '../../shapes/mesh/polyMesh';
import { rasterSheet, texelAt } from '../../sheet/raster';
import type { Pictures } from '../../ground/pictures/raster';
import { layoutUvs } from './layout';

/** For each cell id, 1 + the index of its sheet where the cell is textured, else 0. */
export function texturedCells(kit: Kit): Uint8Array {
  const table = new Uint8Array(kit.nextCell);
  kit.sheets.forEach((sheet, s) => {
    for (const { id, fill } of sheet.cells) if (isTextured(fill)) table[id] = s + 1;
  });
  return table;
}

export function hasTexturedFaces(table: Uint8Array, { cell }: Seats): boolean {
  for (let f = 0; f < cell.length; f++) if (table[cell[f]!]) return true;
  return false;
}

/**
 * sRGB of each face that sits on a textured cell, 4 bytes (alpha 0 for other faces): the texel under the
 * middle of its seat.
 */
export function colorsOfFaces(kit: Kit, mesh: PolyMesh, seats: Seats, pictures: Pictures): Uint8Array {
  const out = new Uint8Array(seats.cell.length * 4);
  for (const sheet of kit.sheets) {
    const rects: (Rect | undefined)[] = [];
    for (const { id, fill, rect } of sheet.cells) if (isTextured(fill)) rects[id] = rect;
    if (!rects.length) continue;
    const raster = rasterSheet(sheet, pictures);
    const uvs = layoutUvs(mesh, seats, sheet);
    for (let f = 0; f < seats.cell.length; f++) {
      const rect = rects[seats.cell[f]!];
      if (!rect) continue;
      const [from, to] = [mesh.faceStart[f]!, mesh.faceStart[f + 1]!];
      let [u, v] = [0, 0];
      for (let c = from; c < to; c++) {
        u += uvs[c * 2]! / (to - from);
        v += uvs[c * 2 + 1]! / (to - from);
      }
      const at = texelAt(raster, rect, u, v);
      out.set(raster.data.subarray(at, at + 3), f * 4);
      out[f * 4 + 3] = 255;
    }
  }
  return out;
}
