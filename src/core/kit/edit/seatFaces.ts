import type { Edit } from './edit';
import type { Seats } from '../kit';

/**
 * The edit that seats faces on cells: `after` is one cell for all, or a function of each face's present cell
 * (`null`: leave it). Faces that are there already are left out; `null` where nothing changes. `faces` need
 * not be sorted.
 */
export function seatFaces(
  model: string,
  cells: Uint16Array,
  faces: Uint32Array,
  after: number | ((before: number, face: number) => number | null),
): Edit | null {
  const spans = spansOf(cells, faces, after);
  return spans.length ? { kind: 'seat', model, spans } : null;
}

/** The edit by which faces remember a rule, 0 none; `null` where they do so already. */
export function ruleEdit(model: string, { cell, rule }: Seats, faces: Uint32Array, id: number): Edit | null {
  if (!rule && !id) return null;
  const spans = spansOf(rule ?? new Uint16Array(cell.length), faces, id);
  return spans.length ? { kind: 'rule', model, spans } : null;
}

/** The spans of what changes; the function is also told which of the faces it is, in ascending order. */
export function spansOf(
  values: Uint16Array,
  faces: Uint32Array,
  after: number | ((before: number, face: number, index: number) => number | null),
): Uint32Array {
  const sorted = ascending(faces);
  let spans = new Uint32Array(64);
  let length = 0;
  let end = -1;
  for (let i = 0; i < sorted.length; i++) {
    const face = sorted[i]!;
    if (i > 0 && face === sorted[i - 1]) continue;
    const before = values[face]!;
    const next = typeof after === 'number' ? after : after(before, face, i);
    if (next === null || next === before) continue;
    if (face === end && spans[length - 2] === before && spans[length - 1] === next) spans[length - 3]!++;
    else {
      if (length + 4 > spans.length) {
        const larger = new Uint32Array(spans.length * 2);
        larger.set(spans);
        spans = larger;
      }
      spans[length] = face;
      spans[length + 1] = 1;
      spans[length + 2] = before;
      spans[length + 3] = next;
      length += 4;
    }
    end = face + 1;
  }
  return spans.slice(0, length);
}

/** The same numbers in ascending order. */
export function ascending(list: Uint32Array): Uint32Array {
  for (let i = 1; i < list.length; i++) if (list[i]! <= list[i - 1]!) return list.slice().sort();
  return list;
}
