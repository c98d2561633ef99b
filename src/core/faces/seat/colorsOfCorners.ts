import { rgbFromHex } from '../../ground/color/hex';
import { isTextured, type Cell, type Kit, type Seats, type Sheet } from '../../kit/kit';
import type { PolyMesh } from '../../shapes/mesh/polyMesh';
import { remembered } from '../../ground/remembered';
import { opacityOf } from '../../sheet/opacity';
import { meanColor, rasterSheet, texelAt } from '../../sheet/raster';
import type { Pictures } from '../../ground/pictures/raster';
import { layoutUvs } from './layout';

/**
 * sRGB and alpha of each corner, 4 bytes: what the sheet shows where the corner sits. A face not yet colored
 * has the color that it came in with: of its vertices, else of its material.
 */
export function colorsOfCorners(kit: Kit, mesh: PolyMesh, seats: Seats, pictures: Pictures): Uint8Array {
  const out = new Uint8Array(mesh.cornerVertex.length * 4);
  const cells = new Map<number, { cell: Cell; sheet: Sheet; color: number[] }>();
  for (const sheet of kit.sheets)
    for (const cell of sheet.cells) {
      const color = [...meanColor(cell.fill, pictures), Math.round(opacityOf(cell.fill, pictures) * 255)];
      cells.set(cell.id, { cell, sheet, color });
    }
  const drawn = remembered((sheet: Sheet) => ({ raster: rasterSheet(sheet, pictures), uvs: layoutUvs(mesh, seats, sheet) }));
  const texelOf = (corner: number, { rect }: Cell, sheet: Sheet) => {
    const { raster, uvs } = drawn(sheet);
    const at = texelAt(raster, rect, uvs[corner * 2]!, uvs[corner * 2 + 1]!);
    return raster.data.subarray(at, at + 4);
  };
  const slots = mesh.slots.map(({ color, alpha }) => [...rgbFromHex(color), Math.round((alpha ?? 1) * 255)]);
  for (let f = 0; f < seats.cell.length; f++) {
    const seat = cells.get(seats.cell[f]!);
    for (let c = mesh.faceStart[f]!; c < mesh.faceStart[f + 1]!; c++) {
      const own = seat && isTextured(seat.cell.fill) ? texelOf(c, seat.cell, seat.sheet) : seat?.color;
      out.set(own ?? mesh.cornerColors?.subarray(c * 4, c * 4 + 4) ?? slots[mesh.faceSlot[f]!]!, c * 4);
    }
  }
  return out;
}
