import { rgbFromHex } from '../../ground/color/hex';
import type { Sheet } from '../../kit/kit';
import { facesWhere } from '../../shapes/mesh/facesWhere';
import { rasterSheet } from '../../sheet/raster';
import { finding, type Finding, type ProofInput, type ProofModel } from './finding';

/** Faces still of the color are forgotten ones where they are at most this share of those that were colored anew. */
const forgotten = 1 / 8;

/** Faces that kept the color which nearly all others of it gave up. `cells`: the old one, and the one that the others took. */
export function leftoverFaces({ recoloring }: ProofInput, { model, seats }: ProofModel): Finding[] {
  return recoloring.faces.flatMap(({ model: id, from, to, count }) => {
    if (id !== model.id || !seats.cell.includes(to)) return [];
    const faces = facesWhere(seats.cell.length, (f) => seats.cell[f] === from);
    if (!faces.length || faces.length > count * forgotten) return [];
    return [finding('leftover', { model: id, faces, cells: [from, to], detail: String(count) })];
  });
}

/** Other cells of a sheet with texels of a color that a cell had before it was changed. `cells`: those that have them. */
export function leftoverTexels({ recoloring, pictures }: ProofInput, sheet: Sheet, isUsed: (cell: number) => boolean): Finding[] {
  const changed = recoloring.fills.filter(({ cell, from }) => sheet.cells.some((c) => c.id === cell) && !isSolidOf(sheet, cell, from));
  if (!changed.length) return [];
  const { data, width } = rasterSheet(sheet, pictures);
  return changed.flatMap(({ cell, from, to }) => {
    const [r, g, b] = rgbFromHex(from);
    let count = 0;
    const cells = sheet.cells.flatMap(({ id, rect }) => {
      if (id === cell || !isUsed(id)) return [];
      const before = count;
      for (let y = rect.y; y < rect.y + rect.h; y++)
        for (let x = rect.x; x < rect.x + rect.w; x++) {
          const at = (y * width + x) * 4;
          if (data[at] === r && data[at + 1] === g && data[at + 2] === b) count++;
        }
      return count > before ? [id] : [];
    });
    return count ? [finding('leftover', { sheet: sheet.id, count, cells, detail: `${from} ${to}` })] : [];
  });
}

const isSolidOf = (sheet: Sheet, cell: number, color: string): boolean =>
  sheet.cells.some((c) => c.id === cell && c.fill.kind === 'solid' && c.fill.color === color);
