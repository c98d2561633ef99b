import type { Kit, Sheet } from '../../kit/kit';
import { rasterSheet } from '../../sheet/raster';
import type { Pictures, Raster } from '../../ground/pictures/raster';

/** Difference in any channel (0..255) up to which a texel is taken for the same. */
const usualTolerance = 2;

/**
 * The sheet of a kit that a picture shows: of its size, or larger by a whole factor, and the same in every texel
 * of every cell that holds something, within a tolerance. `null` where there is none.
 */
export function sheetOfPicture(kit: Kit, pictures: Pictures, picture: Raster, tolerance = usualTolerance): Sheet | null {
  return kit.sheets.find((sheet) => shows(picture, sheet, pictures, tolerance)) ?? null;
}

function shows({ width, height, data }: Raster, sheet: Sheet, pictures: Pictures, tolerance: number): boolean {
  const factor = width / sheet.width;
  if (!Number.isInteger(factor) || height !== sheet.height * factor) return false;
  const filled = sheet.cells.filter((c) => c.fill.kind !== 'spare');
  if (!filled.length) return false;
  const own = rasterSheet(sheet, pictures);
  // The texel in the middle of each block of the larger picture.
  const middle = factor >> 1;
  for (const { rect } of filled)
    for (let y = rect.y; y < rect.y + rect.h; y++)
      for (let x = rect.x; x < rect.x + rect.w; x++) {
        const at = ((y * factor + middle) * width + x * factor + middle) * 4;
        for (let k = 0; k < 4; k++) if (Math.abs(data[at + k]! - own.data[(y * sheet.width + x) * 4 + k]!) > tolerance) return false;
      }
  return true;
}
