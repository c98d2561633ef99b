import { rgbFromHex, type Hex } from '../ground/color/hex';
import { labDistance, labFromRgb } from '../ground/color/oklab';
import { group, type Edit } from '../kit/edit/edit';
import { solid, type Cell, type Kit, type Sheet } from '../kit/kit';
import { editCell, isKept } from './cells';

export interface OffList {
  cell: Cell;
  color: Hex;
  /** The nearest allowed colors and how far off they are (OKLab), the nearest first. */
  nearest: { color: Hex; distance: number }[];
}

const lab = (hex: Hex) => labFromRgb(rgbFromHex(hex));

/** The color itself, or the nearest one on the kit's list of allowed colors. */
export const snapToAllowed = ({ allowed }: Kit, color: Hex): Hex =>
  allowed?.colors.length ? nearestAllowed(color, allowed.colors, 1)[0]!.color : color;

/** The nearest allowed colors of a color. */
export function nearestAllowed(color: Hex, list: readonly Hex[], count = 3): OffList['nearest'] {
  const own = lab(color);
  return [...new Set(list)]
    .map((allowed) => ({ color: allowed, distance: labDistance(own, lab(allowed)) }))
    .sort((p, q) => p.distance - q.distance)
    .slice(0, count);
}

/** Plain colors of a sheet that are not on the list. */
export function colorsOffList(sheet: Sheet, list: readonly Hex[]): OffList[] {
  const known = new Set(list);
  return sheet.cells.flatMap((cell) => {
    if (cell.fill.kind !== 'solid' || known.has(cell.fill.color)) return [];
    return [{ cell, color: cell.fill.color, nearest: nearestAllowed(cell.fill.color, list) }];
  });
}

/**
 * Every color that is off the list takes the nearest allowed one; `null` where none is. Cells of a frozen
 * picture stay.
 */
export function moveToList(sheet: Sheet, list: readonly Hex[]): Edit | null {
  const edits = colorsOffList(sheet, list)
    .filter(({ cell }) => !isKept(sheet, cell.id))
    .map(({ cell, nearest }) => editCell(sheet, cell.id, { fill: { ...cell.fill, ...solid(nearest[0]!.color) } }));
  return edits.length ? group('Keep to the list', edits) : null;
}
