import { fillHoles, grow, growToCreases, invertInParts, missedFaces, shrink, type Flags } from '@/core/pick/change';
import type { Adjacency } from '@/core/mesh/adjacency';
import { announce } from './announce';
import { current } from './editor';
import { coreWorker } from '@/workers/client';
import { notify } from './notices';
import { angleFor, countWords, pageLimit, pickFaces } from './picking';
import { usePick } from './pickState';
import { mirrored, showFacesWithoutTwin, symmetryInView } from './symmetries';

function change(make: (adjacency: Adjacency, picked: Flags) => Flags): void {
  const adjacency = current()?.loaded?.adjacency;
  const { picked, count } = usePick.getState();
  if (!adjacency || !count) {
    announce('Nothing is picked yet.');
    return;
  }
  const next = make(adjacency, picked);
  usePick.getState().set((flags) => flags.set(next));
  announce(countWords());
}

export const growPick = (): void => change(grow);
export const shrinkPick = (): void => change(shrink);
export const growPickToCreases = (): void => change((a, p) => growToCreases(a, p, angleFor('smooth')));
export const invertPickInParts = (): void => change(invertInParts);
export const fillPickHoles = (): void => change(fillHoles);

/** The twins of picked faces join; those without one are counted. */
export async function mirrorPick(): Promise<void> {
  const symmetry = await symmetryInView();
  const { picked, count } = usePick.getState();
  if (!symmetry || !count) return;
  const faces = Uint32Array.from(picked.keys()).filter((f) => picked[f]);
  const alone = faces.filter((f) => symmetry.twin[f]! < 0).length;
  const all = mirrored(faces, symmetry, 'across');
  usePick.getState().set((flags) => {
    for (const f of all) flags[f] = 1;
  });
  if (!alone) return announce(countWords());
  notify(`${alone} of the picked faces ${alone === 1 ? 'has' : 'have'} no twin across ${symmetry.axis}.`, {
    action: { label: 'Show all without one', run: () => void showFacesWithoutTwin() },
  });
}

/** Picks the faces that cannot be seen from any side. */
export async function pickHidden(): Promise<void> {
  const id = current()?.loaded?.id;
  if (!id) return;
  const faces = await coreWorker().hiddenFaces(id);
  if (!faces.length) {
    notify('Every face of this model can be seen from some side.');
    return;
  }
  pickFaces(faces);
  announce(`${countWords()} that cannot be seen from any side`);
}

/** Looks for what a box, lasso or brush may have left out or taken by accident. `seen`: what is not seen was left out on purpose. */
export async function lookForMissed(seen: Uint8Array | null): Promise<void> {
  const { loaded } = current() ?? {};
  if (!loaded) return;
  const { picked, version } = usePick.getState();
  const isSmall = picked.length <= pageLimit;
  const { left, lone } = isSmall ? missedFaces(loaded.adjacency, picked) : await coreWorker().missedFaces(loaded.id, picked);
  if (usePick.getState().version !== version) return;
  const missed = { left: seen ? left.filter((f) => seen[f]) : left, lone };
  if (missed.left.length || missed.lone.length) usePick.setState({ missed });
}

/** Small faces that were left out join the pick. */
export function takeMissed(): void {
  const { missed } = usePick.getState();
  if (!missed?.left.length) return;
  usePick.getState().set((flags) => {
    for (const f of missed.left) flags[f] = 1;
  });
  announce(countWords());
}

/** Lone faces that were taken by accident go. */
export function dropLone(): void {
  const { missed } = usePick.getState();
  if (!missed?.lone.length) return;
  usePick.getState().set((flags) => {
    for (const f of missed.lone) flags[f] = 0;
  });
  announce(countWords());
}
