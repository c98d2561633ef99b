import { inherits, maxSheetSize } from '../../../ground/limits';
import type { Kit, KitState } from '../../kit';
import { areSamePixels, copyPixels, paintedIn, withPixels, type Pixels } from '../../pixels';
import { swapped, type CanvasEdit, type EditKind, type PixelEdit } from '../edit';
import { EditRefused } from '../refused';
import { swappedSpans } from './spans';

const common = { contents: () => [], recolors: () => [], ofAll: () => true };

/** Texels show other cells. They are patched in place. */
export const pixels: EditKind<PixelEdit> = {
  ...common,
  apply: (state, { art, spans }, { isReplay }) => {
    const own = state.pixels?.[art];
    if (!own) throw new EditRefused('the art that it paints is not there any more');
    const known = isReplay ? null : cellsOf(state.kit, art);
    let end = 0;
    for (let i = 0; i < spans.length; i += 4) {
      const [start, count, before, after] = spans.subarray(i, i + 4) as unknown as [number, number, number, number];
      if (start < end || start + count > own.cells.length) throw new EditRefused('it concerns texels that the art does not have');
      end = start + count;
      if (!known) continue;
      if (!known[after]) throw new EditRefused(`there is no cell ${after}`);
      for (let t = start; t < end; t++)
        if (own.cells[t] !== before) throw new EditRefused(`texel ${t + 1} of the art has changed meanwhile`);
    }
    for (let i = 0; i < spans.length; i += 4) own.cells.fill(spans[i + 3]!, spans[i]!, spans[i]! + spans[i + 1]!);
    return withPixels(state, art, { ...own });
  },
  inverse: (edit) => ({ ...edit, spans: swappedSpans(edit.spans) }),
  label: () => 'Paint',
  size: ({ spans }) => 64 + spans.byteLength,
};

/** Two changes of one art, one after the other, as one. */
export function joinedPixels(first: PixelEdit, then: PixelEdit): PixelEdit {
  const texels = new Map<number, [before: number, after: number]>();
  for (const { spans } of [first, then])
    for (let i = 0; i < spans.length; i += 4)
      for (let t = spans[i]!; t < spans[i]! + spans[i + 1]!; t++) texels.set(t, [texels.get(t)?.[0] ?? spans[i + 2]!, spans[i + 3]!]);
  const out: number[] = [];
  for (const t of [...texels.keys()].sort((a, b) => a - b)) {
    const [before, after] = texels.get(t)!;
    if (before === after) continue;
    const last = out.length - 4;
    if (last >= 0 && out[last]! + out[last + 1]! === t && out[last + 2] === before && out[last + 3] === after) out[last + 1]!++;
    else out.push(t, 1, before, after);
  }
  return { ...then, spans: Uint32Array.from(out) };
}

/** All pixels of an art come, go or are exchanged. */
export const canvas: EditKind<CanvasEdit> = {
  ...common,
  apply: (state, { art, before, after }, { isReplay }) => {
    const own = state.pixels?.[art];
    if (!isReplay && (before ? !own || !areSamePixels(own, before) : own)) throw new EditRefused('the art has changed meanwhile');
    if (after && !isReplay) checkPixels(state, art, after);
    return withPixels(state, art, after ? copyPixels(after) : undefined);
  },
  inverse: swapped,
  label: ({ before, after }) => (before ? (after ? 'Change art' : 'Remove art') : 'Make art'),
  size: ({ before, after }) => 128 + (before?.cells.byteLength ?? 0) + (after?.cells.byteLength ?? 0),
};

function checkPixels({ kit }: KitState, art: string, { width, height, cells }: Pixels): void {
  const fits = [width, height].every((v) => Number.isInteger(v) && v >= 1 && v <= maxSheetSize) && cells.length === width * height;
  if (!fits) throw new EditRefused(`art has 1 to ${maxSheetSize} texels a side, and a cell for each; ${width} × ${height} is none`);
  const known = cellsOf(kit, art);
  const stranger = cells.find((c) => !known[c]);
  if (stranger !== undefined) throw new EditRefused(`there is no cell ${stranger}`);
}

/** By number whether a texel of an art can show it: cells of the kit, nothing, and what the default shows where it is a variant's. */
function cellsOf(kit: Kit, art: string): Uint8Array {
  const known = new Uint8Array(inherits + 1);
  known[0] = 1;
  known[inherits] = paintedIn(kit).includes(art) ? 0 : 1;
  for (const sheet of kit.sheets) for (const { id } of sheet.cells) known[id] = 1;
  return known;
}
