import { usableCells, type Sheet } from '../../kit/kit';
import { colorsInOrder } from '../order';
import { count } from '../../ground/words';
import type { PaletteColor, PaletteFormat } from '../../ground/palettes/palette';

/** The colors of a sheet as they are written, in the order of the tray. */
export const colorsOfSheet = (sheet: Sheet): PaletteColor[] =>
  colorsInOrder(sheet).flatMap(({ fill, role }) =>
    fill.kind === 'solid'
      ? [{ color: fill.color, ...(role && { name: role }), ...(fill.alpha !== undefined && { alpha: fill.alpha }) }]
      : [],
  );

/** What of a sheet does not fit into a palette file, in words; none where all of it does. */
export function leftOutOfPalette({ isOpaque }: Pick<PaletteFormat, 'isOpaque'>, sheet: Sheet): string[] {
  const of = (kinds: string[]) => usableCells(sheet).filter((c) => kinds.includes(c.fill.kind)).length;
  const [gradients, art] = [of(['gradient', 'corners']), of(['art'])];
  const clear = colorsOfSheet(sheet).filter((c) => (c.alpha ?? 1) < 1).length;
  return [
    ...(gradients ? [`${count(gradients, 'gradient')}: a palette file holds single colors.`] : []),
    ...(art ? [`${count(art, 'piece')} of art: a palette file holds single colors.`] : []),
    ...(clear && isOpaque ? [`The opacity of ${count(clear, 'color')}: this format has none.`] : []),
  ];
}
