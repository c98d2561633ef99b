import { hexFromLch, lchFromHex, rgbFromHex, type Hex } from '../../ground/color/hex';
import { labDistance, labFromRgb } from '../../ground/color/oklab';
import type { Edit } from '../../kit/edit/edit';
import { findCell, type KitState } from '../../kit/kit';
import { snapToAllowed } from '../allowedColors';
import { newColor } from '../newColor';

/** A color a little to one side of another. */
export const nudges = ['darker', 'lighter', 'warmer', 'greyer'] as const;
export type Nudge = (typeof nudges)[number];

const step = { light: 0.045, hue: 14, chroma: 0.012, greyer: 0.7 };
/** The hue of warm light, degrees of OKLCH. */
const warm = 65;

/** OKLCH: lighter or darker by a small step, its hue toward that of warm light, or less chroma. */
export function nudged(color: Hex, to: Nudge): Hex {
  const { l, c, h } = lchFromHex(color);
  if (to === 'darker') return hexFromLch({ l: Math.max(0, l - step.light), c, h });
  if (to === 'lighter') return hexFromLch({ l: Math.min(1, l + step.light), c, h });
  if (to === 'greyer') return hexFromLch({ l, c: c * step.greyer, h });
  // The shorter way around the circle; what has hardly a hue gets some of this one.
  const way = ((warm - h + 540) % 360) - 180;
  const turned = c < step.chroma ? warm : h + Math.sign(way) * Math.min(Math.abs(way), step.hue);
  return hexFromLch({ l, c: c + step.chroma, h: (turned + 360) % 360 });
}

/** OKLab; a color as near as that to the one that is wanted is taken for it. */
const near = 0.012;

/**
 * The cell of a color a little to one side of a plain cell's: one of its sheet, where that has it, else a new step beside it.
 * `edit`: by which it comes to be. `null` where it is no other color; throws where the sheet can take none.
 */
export function nudgedCell(state: KitState, cellId: number, to: Nudge): { cell: number; edit: Edit | null } | null {
  const found = findCell(state.kit, cellId);
  if (found?.cell.fill.kind !== 'solid') return null;
  const own = found.cell.fill.color;
  const color = snapToAllowed(state.kit, nudged(own, to));
  if (color === own) return null;
  const lab = labFromRgb(rgbFromHex(color));
  const off = (hex: Hex) => labDistance(lab, labFromRgb(rgbFromHex(hex)));
  const alike = found.sheet.cells
    .flatMap(({ id, fill }) => (id !== cellId && fill.kind === 'solid' && fill.alpha === undefined ? [{ id, off: off(fill.color) }] : []))
    .filter((c) => c.off < near)
    .sort((a, b) => a.off - b.off)[0];
  if (alike) return { cell: alike.id, edit: null };
  const role = `${found.cell.role || 'color'}, ${to}`;
  return newColor(state, { sheet: found.sheet.id, color, role, beside: cellId });
}
