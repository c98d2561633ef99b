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

/** Two changes of one art, one after the other, as one. Run by run, so that a long stroke takes no longer for each of its places. */
export function joinedPixels(first: PixelEdit, then: PixelEdit): PixelEdit {
  const [early, late] = [first.spans, then.spans];
  let out = new Uint32Array(early.length + late.length + 64);
  let length = 0;
  const add = (from: number, to: number, before: number, after: number) => {
    if (from >= to || before === after) return;
    const last = length - 4;
    if (last >= 0 && out[last]! + out[last + 1]! === from && out[last + 2] === before && out[last + 3] === after)
      return void (out[last + 1]! += to - from);
    if (length === out.length) {
      const larger = new Uint32Array(length * 2);
      larger.set(out);
      out = larger;
    }
    out.set([from, to - from, before, after], length);
    length += 4;
  };
  let [i, j] = [0, 0];
  // Up to where all has been told.
  let at = 0;
  while (i < early.length || j < late.length) {
    const [e0, l0] = [Math.max(at, early[i] ?? Infinity), Math.max(at, late[j] ?? Infinity)];
    const e1 = i < early.length ? early[i]! + early[i + 1]! : Infinity;
    const l1 = j < late.length ? late[j]! + late[j + 1]! : Infinity;
    if (e0 < l0) {
      at = Math.min(e1, l0);
      add(e0, at, early[i + 2]!, early[i + 3]!);
    } else if (l0 < e0) {
      at = Math.min(l1, e0);
      add(l0, at, late[j + 2]!, late[j + 3]!);
    } else {
      at = Math.min(e1, l1);
      add(e0, at, early[i + 2]!, late[j + 3]!);
    }
    if (at >= e1) i += 4;
    if (at >= l1) j += 4;
  }
  return { ...then, spans: out.slice(0, length) };
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
