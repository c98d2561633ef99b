import { inherits, maxSheetSize } from '../../../ground/limits';
import type { Kit, KitState } from '../../kit';
import { areSamePixels, copyPixels, paintedIn, withPixels, type Pixels } from '../../pixels';
import { swapped, type CanvasEdit, type EditKind, type PixelEdit } from '../edit';
import type { TexelSpans, TexelStretch } from '../../texelChange';
import { EditRefused } from '../refused';
import { spansOf } from '../seatFaces';
import { swappedSpans } from './spans';

const common = { contents: () => [], recolors: () => [], ofAll: () => true };

/** Texels show other cells. They are patched in place. */
export const pixels: EditKind<PixelEdit> = {
  ...common,
  apply: (state, edit, { isReplay }) => {
    const own = state.pixels?.[edit.art];
    if (!own) throw new EditRefused('the art that it paints is not there any more');
    const known = isReplay ? null : cellsOf(state.kit, edit.art);
    if ('spans' in edit) patchSpans(own, edit, known);
    else patchStretch(own, edit, known);
    return withPixels(state, edit.art, { ...own });
  },
  inverse: (edit) => ('spans' in edit ? { ...edit, spans: swappedSpans(edit.spans) } : swapped(edit)),
  label: () => 'Paint',
  size: (edit) => 64 + ('spans' in edit ? edit.spans.byteLength : edit.before.byteLength + edit.after.byteLength),
};

/** `known`: the cells that texels can show, by number; `null` where only that the change fits is checked. */
function patchSpans({ cells }: Pixels, { spans }: TexelSpans, known: Uint8Array | null): void {
  let end = 0;
  for (let i = 0; i < spans.length; i += 4) {
    const [start, before] = [spans[i]!, spans[i + 2]!];
    if (start < end || start + spans[i + 1]! > cells.length) throw new EditRefused(strangeTexels);
    end = start + spans[i + 1]!;
    if (!known) continue;
    if (!known[spans[i + 3]!]) throw strangeCell(spans[i + 3]!);
    for (let t = start; t < end; t++) if (cells[t] !== before) throw otherTexel(t);
  }
  for (let i = 0; i < spans.length; i += 4) cells.fill(spans[i + 3]!, spans[i]!, spans[i]! + spans[i + 1]!);
}

function patchStretch({ cells }: Pixels, { first, before, after }: TexelStretch, known: Uint8Array | null): void {
  const fits = first >= 0 && before.length === after.length && first + after.length <= cells.length;
  if (!fits) throw new EditRefused(strangeTexels);
  for (let i = 0; known && i < after.length; i++) {
    if (cells[first + i] !== before[i]) throw otherTexel(first + i);
    if (after[i] !== before[i] && !known[after[i]!]) throw strangeCell(after[i]!);
  }
  cells.set(after, first);
}

const strangeTexels = 'it concerns texels that the art does not have';
const strangeCell = (cell: number) => new EditRefused(`there is no cell ${cell}`);
const otherTexel = (texel: number) => new EditRefused(`texel ${texel + 1} of the art has changed meanwhile`);

/** The same change told in spans. */
function inSpans(edit: PixelEdit): Uint32Array {
  if ('spans' in edit) return edit.spans;
  const { first, before, after } = edit;
  const all = Uint32Array.from({ length: after.length }, (_, i) => i);
  const spans = spansOf(before, all, (_, i) => after[i]!);
  for (let i = 0; i < spans.length; i += 4) spans[i]! += first;
  return spans;
}

/** Two changes of one art, one after the other, as one. Run by run, so that a long stroke takes no longer for each of its places. */
export function joinedPixels(first: PixelEdit, then: PixelEdit): PixelEdit & TexelSpans {
  const [early, late] = [inSpans(first), inSpans(then)];
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
  return { kind: 'pixels', art: then.art, spans: out.slice(0, length) };
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
  if (stranger !== undefined) throw strangeCell(stranger);
}

/** By number whether a texel of an art can show it: cells of the kit, nothing, and what the default shows where it is a variant's. */
function cellsOf(kit: Kit, art: string): Uint8Array {
  const known = new Uint8Array(inherits + 1);
  known[0] = 1;
  known[inherits] = paintedIn(kit).includes(art) ? 0 : 1;
  for (const sheet of kit.sheets) for (const { id } of sheet.cells) known[id] = 1;
  return known;
}
