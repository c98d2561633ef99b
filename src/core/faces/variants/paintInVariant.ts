import { inherits } from '../../ground/limits';
import { groupForAll, type Edit, type PixelEdit } from '../../kit/edit/edit';
import { findCell, findVariant, type Fill, type KitState } from '../../kit/kit';
import { copyPixels, emptyPixels, isPainted, newPixelsId, paintedByVariant, type Pixels } from '../../kit/pixels';
import { putVariant } from './intoVariant';

/**
 * The edit by which texels of a cell's painted art are others in one variant alone. `shown`: what is to change, of the art
 * as the variant shows it; texels that come to show what the default does are the default's again. `null` where nothing
 * changes or the cell has no painted art.
 */
export function paintInVariant(base: KitState, variantId: string, cell: number, shown: PixelEdit): Edit | null {
  const fill = findCell(base.kit, cell)?.cell.fill;
  const over = isPainted(fill) ? base.pixels?.[fill.picture] : undefined;
  if (!over || !isPainted(fill)) return null;
  const { art, pixels, edits } = ownPixels(base, variantId, cell, fill, over);
  const spans: number[] = [];
  for (let i = 0; i < shown.spans.length; i += 4) {
    const [from, count, , to] = shown.spans.subarray(i, i + 4) as unknown as [number, number, number, number];
    for (let t = from; t < from + count; t++) {
      const [before, after] = [pixels.cells[t]!, over.cells[t] === to ? inherits : to];
      if (before === after) continue;
      const n = spans.length;
      if (n && spans[n - 4]! + spans[n - 3]! === t && spans[n - 2] === before && spans[n - 1] === after) spans[n - 3]!++;
      else spans.push(t, 1, before, after);
    }
  }
  if (!spans.length) return null;
  const edit: PixelEdit = { kind: 'pixels', art, spans: Uint32Array.from(spans) };
  return edits.length ? groupForAll('Paint', [...edits, edit]) : edit;
}

/** The texels that a variant has of its own on a cell, and the edits by which it has them, where it has none, or another variant has the same. */
function ownPixels(
  base: KitState,
  variantId: string,
  cell: number,
  fill: Extract<Fill, { kind: 'art' }>,
  over: Pixels,
): { art: string; pixels: Pixels; edits: Edit[] } {
  const variant = findVariant(base.kit, variantId);
  const said = paintedByVariant(variant).find(([own]) => own === cell)?.[1];
  const own = said === undefined || said === fill.picture ? undefined : base.pixels?.[said];
  const fits = own && own.width === over.width && own.height === over.height;
  const isShared = base.kit.variants.some((v) => v !== variant && paintedByVariant(v).some(([, art]) => art === said));
  if (said !== undefined && fits && !isShared) return { art: said, pixels: own, edits: [] };
  const art = newPixelsId();
  const pixels = fits ? copyPixels(own) : emptyPixels(over.width, over.height, inherits);
  const after = { ...variant, fills: { ...variant.fills, [cell]: { ...fill, picture: art } } };
  return { art, pixels, edits: [{ kind: 'canvas', art, before: null, after: pixels }, putVariant(base, after)] };
}
