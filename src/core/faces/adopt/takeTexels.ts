import { byId } from '../../ground/byId';
import { hexFromRgb, type Hex } from '../../ground/color/hex';
import type { Raster } from '../../ground/pictures/raster';
import { groupForAll, type Edit } from '../../kit/edit/edit';
import { spansOf } from '../../kit/edit/seatFaces';
import { findCell, type Cell, type KitState } from '../../kit/kit';
import { isPainted } from '../../kit/pixels';
import { colorsOnSheet } from '../../sheet/reduce/colorsOf';
import { reductionLimits } from '../../sheet/reduce/reduce';

/** What a picture changes of painted art. */
export interface TakenTexels {
  /** `null` where it shows what is there. */
  edit: Edit | null;
  texels: number;
  /** Colors that the sheet did not have. */
  colors: number;
}

/**
 * The edit by which painted art shows a picture of its size, or one in which each texel is a block of so many a side (the
 * middle of it counts). Texels keep their cell where that has the picture's color; other colors are those of the sheet, or
 * become new ones. What is less than half opaque is nothing. Throws where the size is another one, where there are too many
 * colors, and where the sheet can take no more.
 */
export function takeTexels(state: KitState, cellId: number, { width, height, data }: Raster): TakenTexels {
  const found = findCell(state.kit, cellId);
  const fill = found?.cell.fill;
  const own = isPainted(fill) ? state.pixels?.[fill.picture] : undefined;
  if (!found || !own || !isPainted(fill)) throw new Error('The art is not there any more.');
  const times = width / own.width;
  if (!Number.isInteger(times) || times < 1 || height !== own.height * times)
    throw new Error(
      `The picture has ${width} × ${height} texels; this art has ${own.width} × ${own.height}. Save it in this size or a whole number of times as large, or bring it in by “From a picture”.`,
    );
  const middle = times >> 1;
  const placeOf = (t: number) => ((Math.floor(t / own.width) * times + middle) * width + (t % own.width) * times + middle) * 4;
  const shown = new Map(state.kit.sheets.flatMap((sheet) => sheet.cells.map((c) => [c.id, lookOf(c)] as const)));
  const wanted: (Hex | null | undefined)[] = Array.from(own.cells, (before, t) => {
    const i = placeOf(t);
    const [color, alpha] = [hexFromRgb([data[i]!, data[i + 1]!, data[i + 2]!]), data[i + 3]!];
    const look = shown.get(before);
    if (look ? look === `${color} ${alpha}` : alpha === 0) return undefined;
    return alpha < 128 ? null : color;
  });
  const colors = [...new Set(wanted.filter((c) => c !== undefined && c !== null))];
  if (colors.length > reductionLimits.colors)
    throw new Error(
      `The picture brings ${colors.length} other colors; it can bring ${reductionLimits.colors}. Bring it to few colors first: “From a picture”.`,
    );
  const { edits, next, cells } = colorsOnSheet(
    { kit: state.kit, seats: byId(), pixels: state.pixels! },
    found.sheet.id,
    colors,
    found.cell.role || 'art',
  );
  const cellOf = new Map(colors.map((c, i) => [c, cells[i]!]));
  const texels = Uint32Array.from(wanted.keys()).filter((t) => wanted[t] !== undefined);
  const spans = spansOf(own.cells, texels, (_, t) => (wanted[t] === null ? 0 : cellOf.get(wanted[t]!)!));
  if (!spans.length) return { edit: null, texels: 0, colors: 0 };
  return {
    edit: groupForAll('Take the picture', [...edits, { kind: 'pixels', art: fill.picture, spans }]),
    texels: texels.length,
    colors: plainColors(next) - plainColors(state),
  };
}

/** What a texel of a plain cell leaves as. */
const lookOf = ({ fill }: Cell): string | undefined =>
  fill.kind === 'solid' ? `${fill.color} ${Math.round((fill.alpha ?? 1) * 255)}` : undefined;

const plainColors = ({ kit }: Pick<KitState, 'kit'>): number =>
  kit.sheets.reduce((n, s) => n + s.cells.filter((c) => c.fill.kind === 'solid').length, 0);
