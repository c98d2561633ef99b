import { announce } from '../told/announce';
import { current } from '../kit/editor';
import { notify } from '../told/notices';
import { countWords, letPickGo, pickedFaces, usePick } from '../chosen/pickState';
import { partOf } from '@/core/shapes/pick/scopes';
import { usePaint } from '../chosen/paint';
import { lookAlong, useView } from '../chosen/viewState';

const number = (hidden: Uint8Array) => hidden.reduce((n, h) => n + h, 0);

function hide(make: (hidden: Uint8Array) => void): void {
  const { hidden, picked } = usePick.getState();
  const next = hidden?.slice() ?? new Uint8Array(picked.length);
  make(next);
  const count = number(next);
  if (count === next.length) {
    notify('That would hide the whole model.');
    return;
  }
  letPickGo();
  usePick.setState({ hidden: count ? next : null });
  announce(count === 1 ? '1 face is hidden' : `${count} faces are hidden`);
}

/**
 * Hides the pick or, where nothing is picked, what a click under the pointer would take: a face, a part, a
 * region; where texels are painted, the part under the pointer.
 */
export function hidePicked(): void {
  const { count, wouldTake } = usePick.getState();
  const { isOpen, lit } = usePaint.getState();
  const adjacency = current()?.loaded?.adjacency;
  // Where a press sets texels, what hangs together under the pointer is meant.
  if (isOpen && lit && lit.face >= 0 && adjacency && !count) hideFaces(partOf(adjacency, lit.face));
  else if (!count && !wouldTake.length) notify('Pick the faces to hide, or point at what a click would take.');
  else hideFaces(count ? pickedFaces() : wouldTake);
}

export function hideTheRest(): void {
  const { picked, count } = usePick.getState();
  if (!count) notify('Pick the faces that should stay in view.');
  else hide((hidden) => picked.forEach((p, f) => !p && (hidden[f] = 1)));
}

export const hideFaces = (faces: Iterable<number>): void =>
  hide((hidden) => {
    for (const f of faces) hidden[f] = 1;
  });

/** Everything comes back: hidden faces, and what is cut away. */
export function showAll(): void {
  usePick.setState({ hidden: null });
  useView.setState({ cut: null, behind: false });
  announce('Everything is shown');
}

/** Faces turned to the eye are left out, so that those behind them are seen and can be taken; or shown again. */
export function toggleBehind(): void {
  const behind = !useView.getState().behind;
  useView.setState({ behind });
  announce(behind ? 'Only the faces behind are shown' : 'All faces are shown');
}

/** Turns the view to where the picked faces are seen from the front. */
export function turnToPick(): void {
  const adjacency = current()?.loaded?.adjacency;
  if (!adjacency || !usePick.getState().count) return;
  const sum: [number, number, number] = [0, 0, 0];
  for (const f of pickedFaces()) for (let k = 0; k < 3; k++) sum[k]! += adjacency.normals[f * 3 + k]! * adjacency.areas[f]!;
  const length = Math.hypot(...sum);
  // Faces all around have no front.
  if (length > 1e-9) lookAlong(sum.map((v) => v / length) as [number, number, number]);
  else notify('The picked faces look to all sides; there is no one front to turn to.');
}

/** Steps back through the picks that were let go. */
export function stepBackThroughPicks(): void {
  const { past } = usePick.getState();
  const faces = past.at(-1);
  if (!faces) return;
  usePick.setState({ past: past.slice(0, -1) });
  usePick.getState().set((picked) => {
    picked.fill(0);
    for (const f of faces) picked[f] = 1;
  });
  announce(countWords());
}
