import type { PlaceEdit } from '../edit/edit';
import type { Seats } from '../kit/kit';

/**
 * The edit that places whole faces at one point of their cell (0..1 across and down). `faceStart`: first
 * corner of each face. `null` where nothing changes. Seats without coordinates count as the middle.
 */
export function placeFaces(
  model: string,
  seats: Seats,
  faceStart: Uint32Array,
  faces: Uint32Array,
  [x, y]: readonly [number, number],
): PlaceEdit | null {
  const corners = faceStart[faceStart.length - 1]!;
  const sorted = faces.slice().sort();
  const spans: number[] = [];
  const faceSpans: number[] = [];
  let total = 0;
  for (const f of sorted) {
    const [from, to] = [faceStart[f]!, faceStart[f + 1]!];
    if (spans.length && spans.at(-2)! + spans.at(-1)! === from) spans[spans.length - 1]! += to - from;
    else spans.push(from, to - from);
    if (faceSpans.length && faceSpans.at(-2)! + faceSpans.at(-1)! === f) faceSpans[faceSpans.length - 1]!++;
    else faceSpans.push(f, 1);
    total += to - from;
  }
  const after = new Float32Array(total * 2);
  for (let i = 0; i < total; i++) after.set([x, y], i * 2);
  const before = seats.at ? new Float32Array(total * 2) : null;
  let at = 0;
  let isSame = true;
  for (let i = 0; i < spans.length; i += 2) {
    const values = seats.at?.subarray(spans[i]! * 2, (spans[i]! + spans[i + 1]!) * 2);
    if (before && values) before.set(values, at);
    for (let k = 0; k < spans[i + 1]! * 2; k++) isSame &&= (values ? values[k]! : 0.5) === after[at + k];
    at += spans[i + 1]! * 2;
  }
  return isSame
    ? null
    : { kind: 'place', model, corners, spans: Uint32Array.from(spans), faces: Uint32Array.from(faceSpans), before, after };
}
