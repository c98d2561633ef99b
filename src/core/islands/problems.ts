import type { Sheet } from '../kit/kit';
import { clearanceFor, tooNear } from './arrangeIslands';
import type { Island } from './islandsOf';
import { overlaps } from './overlaps';

/** Faces of islands on art that lie too near to the border of their cell for so many mip levels, or share texels; ascending. */
export function problemsOf(
  islands: readonly Island[],
  faceStart: Uint32Array,
  texels: Float32Array,
  sheet: Sheet,
  mipLevels: number,
): { near: Uint32Array; overlapping: Uint32Array; art: Uint32Array } {
  const cells = new Map(sheet.cells.map((c) => [c.id, c]));
  const art = islands.filter((i) => cells.get(i.cell)!.fill.kind === 'art');
  const sharing = new Set(overlaps(art, faceStart, texels, sheet).flat());
  const facesOf = (list: readonly Island[]) => Uint32Array.from(list.flatMap((i) => [...i.faces])).sort();
  return {
    near: facesOf(tooNear(islands, cells, clearanceFor(sheet.filter, mipLevels))),
    overlapping: facesOf(art.filter((_, i) => sharing.has(i))),
    art: facesOf(art),
  };
}
