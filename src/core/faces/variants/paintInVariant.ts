import { inherits } from '../../ground/limits';
import { groupForAll, type Edit, type PixelEdit } from '../../kit/edit/edit';
import { findCell, findVariant, type Fill, type KitState } from '../../kit/kit';
import { copyPixels, emptyPixels, isPainted, newPixelsId, paintedByVariant, type Pixels } from '../../kit/pixels';
import { eachRun, type TexelSpans, type TexelStretch } from '../../kit/texelChange';
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
  const said = (t: number, to: number) => (over.cells[t] === to ? inherits : to);
  const change = 'spans' in shown ? saidOfSpans(pixels, shown, said) : saidOfStretch(pixels, shown, said);
  if (!change) return null;
  const edit: PixelEdit = { kind: 'pixels', art, ...change };
  return edits.length ? groupForAll('Paint', [...edits, edit]) : edit;
}

/** What a variant says of a texel that comes to show a cell. */
type Said = (texel: number, to: number) => number;

function saidOfSpans({ cells }: Pixels, shown: TexelSpans, said: Said): TexelSpans | null {
  const spans: number[] = [];
  eachRun(shown, (from, count, _, to) => {
    for (let t = from; t < from + count; t++) {
      const [before, after] = [cells[t]!, said(t, to)];
      if (before === after) continue;
      const n = spans.length;
      if (n && spans[n - 4]! + spans[n - 3]! === t && spans[n - 2] === before && spans[n - 1] === after) spans[n - 3]!++;
      else spans.push(t, 1, before, after);
    }
  });
  return spans.length ? { spans: Uint32Array.from(spans) } : null;
}

function saidOfStretch({ cells }: Pixels, { first, before, after }: TexelStretch, said: Said): TexelStretch | null {
  const own = cells.slice(first, first + after.length);
  let isOther = false;
  const next = own.map((now, i) => {
    const to = before[i] === after[i] ? now : said(first + i, after[i]!);
    isOther ||= to !== now;
    return to;
  });
  return isOther ? { first, before: own, after: next } : null;
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
