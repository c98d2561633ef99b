import { unlockedFaces } from '../../faces/regions/regions';
import { rgbFromHex } from '../../ground/color/hex';
import { count } from '../../ground/words';
import { usesInAll } from '../../kit/colorings/usesOfCells';
import { group, type Edit } from '../../kit/edit/edit';
import { seatFaces } from '../../kit/edit/seatFaces';
import type { KitState, Sheet } from '../../kit/kit';
import { facesWhere } from '../../shapes/mesh/facesWhere';
import { rasterSheet } from '../../sheet/raster';
import type { Check, Finding, Found, ProofInput, ProofModel, ProofSettings } from './finding';

/** Faces still of the color are forgotten ones where they are at most this share of those that were colored anew. */
const forgotten = 1 / 8;

/** What a recoloring left behind: faces, and texels of other cells. */
export const leftoverChecks = {
  leftover: {
    inModel: leftoverFaces,
    inSheet: leftoverTexels,
    say: (f) =>
      f.faces.length
        ? `${count(f.count, 'face')} still of a color that ${f.detail} others gave up`
        : `${count(f.count, 'texel')} still of ${f.detail?.split(' ')[0]}, which became ${f.detail?.split(' ')[1]}`,
    why: 'Something was colored anew, and this was left behind.',
    good: 'nothing left behind',
    // Texels of other cells are the artist's to see to.
    repair: { word: 'color them alike', can: (f) => f.faces.length > 0, edit: follow },
  },
} satisfies Record<string, Check>;

/** Faces that kept the color which nearly all others of it gave up. `cells`: the old one, and the one that the others took. */
function leftoverFaces({ recoloring }: ProofInput, { model, seats }: ProofModel): Found[] {
  return recoloring.faces.flatMap(({ model: id, from, to, count }) => {
    if (id !== model.id || !seats.cell.includes(to)) return [];
    const faces = facesWhere(seats.cell.length, (f) => seats.cell[f] === from);
    if (!faces.length || faces.length > count * forgotten) return [];
    return [{ faces, cells: [from, to], detail: String(count) }];
  });
}

/** Other cells of a sheet with texels of a color that a cell had before it was changed. `cells`: those that have them. */
function leftoverTexels(input: ProofInput, sheet: Sheet): Found[] {
  const { recoloring, pictures } = input;
  const changed = recoloring.fills.filter(({ cell, from }) => sheet.cells.some((c) => c.id === cell) && !isSolidOf(sheet, cell, from));
  if (!changed.length) return [];
  const uses = usesInAll(input);
  const { data, width } = rasterSheet(sheet, pictures);
  return changed.flatMap(({ cell, from, to }) => {
    const [r, g, b] = rgbFromHex(from);
    let count = 0;
    const cells = sheet.cells.flatMap(({ id, rect }) => {
      if (id === cell || !uses.get(id)?.faces) return [];
      const before = count;
      for (let y = rect.y; y < rect.y + rect.h; y++)
        for (let x = rect.x; x < rect.x + rect.w; x++) {
          const at = (y * width + x) * 4;
          if (data[at] === r && data[at + 1] === g && data[at + 2] === b) count++;
        }
      return count > before ? [id] : [];
    });
    return [{ count, cells, detail: `${from} ${to}` }];
  });
}

const isSolidOf = (sheet: Sheet, cell: number, color: string): boolean =>
  sheet.cells.some((c) => c.id === cell && c.fill.kind === 'solid' && c.fill.color === color);

/** Faces left behind take the color that the others took. */
function follow(state: KitState, { faces, cells }: Finding, _: ProofSettings, own?: ProofModel): Edit | null {
  if (!own) return null;
  const { model } = own;
  const seats = state.seats[model.id]!;
  const edit = seatFaces(model.id, seats.cell, unlockedFaces(model, seats, faces), cells[1]!);
  return edit && group('Color what was left behind', [edit]);
}
