import { rgbFromHex } from '../color/hex';
import { isTextured, type Cell, type Kit, type Seats } from '../kit/kit';
import type { PolyMesh } from '../mesh/polyMesh';
import { opacityOf } from '../sheet/opacity';
import { meanColor, rasterSheet, type Pictures } from '../sheet/raster';
import { layoutUvs } from './layout';

/**
 * sRGB and alpha of each corner, 4 bytes: what the sheet shows where the corner sits. A face not yet colored
 * has the color that it came in with: of its vertices, else of its material.
 */
export function colorsOfCorners(kit: Kit, mesh: PolyMesh, seats: Seats, pictures: Pictures): Uint8Array {
  const out = new Uint8Array(mesh.cornerVertex.length * 4);
  const cells = new Map<number, { cell: Cell; sheet: number; color: number[] }>();
  kit.sheets.forEach((sheet, s) =>
    sheet.cells.forEach((cell) =>
      cells.set(cell.id, {
        cell,
        sheet: s,
        color: [...meanColor(cell.fill, pictures), Math.round(opacityOf(cell.fill, pictures) * 255)],
      }),
    ),
  );
  const slots = mesh.slots.map(({ color, alpha }) => [...rgbFromHex(color), Math.round((alpha ?? 1) * 255)]);
  const textured = new Map<number, (corner: number) => Uint8Array>();
  const texelOn = (s: number) => {
    let texel = textured.get(s);
    if (!texel) {
      const raster = rasterSheet(kit.sheets[s]!, pictures);
      const uvs = layoutUvs(mesh, seats, kit.sheets[s]!);
      const place = (t: number, size: number) => Math.max(0, Math.min(size - 1, Math.floor(t * size)));
      texel = (c) => {
        const at = (place(uvs[c * 2 + 1]!, raster.height) * raster.width + place(uvs[c * 2]!, raster.width)) * 4;
        return raster.data.subarray(at, at + 4);
      };
      textured.set(s, texel);
    }
    return texel;
  };
  for (let f = 0; f < seats.cell.length; f++) {
    const found = cells.get(seats.cell[f]!);
    const texel = found && isTextured(found.cell.fill) ? texelOn(found.sheet) : null;
    for (let c = mesh.faceStart[f]!; c < mesh.faceStart[f + 1]!; c++)
      out.set(texel?.(c) ?? found?.color ?? mesh.cornerColors?.subarray(c * 4, c * 4 + 4) ?? slots[mesh.faceSlot[f]!]!, c * 4);
  }
  return out;
}
