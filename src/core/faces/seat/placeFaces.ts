import type { PlaceEdit } from '../../kit/edit/edit';
import type { Seats } from '../../kit/kit';

/**
 * The edit that places whole faces at one point of their cell (0..1 across and down). `faceStart`: first corner
 * of each face. `null` where nothing changes. Seats without coordinates count as the middle.
 */
export const placeFaces = (
  model: string,
  seats: Seats,
  faceStart: Uint32Array,
  faces: Uint32Array,
  point: readonly [number, number],
): PlaceEdit | null =>
  placeCorners(model, seats, faceStart, faces, (out, at) => {
    out[at] = point[0];
    out[at + 1] = point[1];
  });

/** The same with a point for each corner of these faces, which `write` puts into `out` at `at`. */
export function placeCorners(
  model: string,
  seats: Seats,
  faceStart: Uint32Array,
  faces: Uint32Array,
  write: (out: Float32Array, at: number, corner: number) => void,
): PlaceEdit | null {
  const corners = faceStart[faceStart.length - 1]!;
  const sorted = faces.slice().sort();
  const spans: number[] = [];
  const faceSpans: number[] = [];
  let total = 0;
  for (const f of sorted) total += faceStart[f + 1]! - faceStart[f]!;
  const after = new Float32Array(total * 2);
  const before = seats.at ? new Float32Array(total * 2) : null;
  let at = 0;
  let isSame = true;
  for (const f of sorted) {
    const [from, to] = [faceStart[f]!, faceStart[f + 1]!];
    if (spans.length && spans.at(-2)! + spans.at(-1)! === from) spans[spans.length - 1]! += to - from;
    else spans.push(from, to - from);
    if (faceSpans.length && faceSpans.at(-2)! + faceSpans.at(-1)! === f) faceSpans[faceSpans.length - 1]!++;
    else faceSpans.push(f, 1);
    for (let c = from; c < to; c++, at += 2) {
      write(after, at, c);
      const [x, y] = before ? [seats.at![c * 2]!, seats.at![c * 2 + 1]!] : [0.5, 0.5];
      if (before) {
        before[at] = x;
        before[at + 1] = y;
      }
      isSame &&= after[at] === x && after[at + 1] === y;
    }
  }
  if (isSame) return null;
  return { kind: 'place', model, corners, spans: Uint32Array.from(spans), faces: Uint32Array.from(faceSpans), before, after };
}
