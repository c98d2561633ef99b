import { rgbFromHex } from '../../ground/color/hex';
import { labDistance, labFromRgb } from '../../ground/color/oklab';
import type { Fill, Kit, Variant } from '../../kit/kit';
import { kitOfVariant } from '../../kit/colorings/shown';
import { judgeDefaults } from './judgePalette';

/** Whether two fills hardly differ: plain colors nearer than twins may be (OKLab), or the same. */
function areAlike(a: Fill, b: Fill): boolean {
  if (a.kind !== 'solid' || b.kind !== 'solid') return JSON.stringify(a) === JSON.stringify(b);
  return labDistance(...([a, b].map((f) => labFromRgb(rgbFromHex(f.color))) as [never, never])) < judgeDefaults.twins;
}

/** The variants in which cells that are twins by default are told apart: made one, those would look otherwise. */
export const variantsApartIn = (kit: Kit, cells: readonly number[]): Variant[] =>
  kit.variants.filter((variant) => {
    const shown = kitOfVariant(kit, variant);
    const fills = shown.sheets.flatMap((s) => s.cells.flatMap((c) => (cells.includes(c.id) ? [c.fill] : [])));
    return fills.some((a, i) => fills.some((b, k) => k > i && !areAlike(a, b)));
  });
