import type { Edit } from '@/core/kit/edit/edit';
import { fillHoles, grow, growToCreases, invertInParts, missedFaces, ringsFrom, shrink, type Flags } from '@/core/shapes/pick/change';
import { borderOf } from '@/core/shapes/pick/edges';
import type { Adjacency } from '@/core/shapes/mesh/adjacency';
import { announce } from '../told/announce';
import { colorFaces } from '../color/coloring';
import { current, moment } from '../kit/editor';
import { pickingWorker } from '@/workers/client';
import { notify } from '../told/notices';
import { angleFor, pageLimit, pickFaces } from './picking';
import { countWords, keepForStepBack, pickedFaces, usePick } from '../chosen/pickState';
import { likeOptions } from '../chosen/phrase';
import { presentView } from '../chosen/viewState';
import { mirrored, showFacesWithoutTwin, symmetryInView } from './symmetries';
import { count as counted } from '@/core/ground/words';

function change(make: (adjacency: Adjacency, picked: Flags) => Flags): void {
  const adjacency = current()?.loaded?.adjacency;
  const { picked, count } = usePick.getState();
  if (!adjacency || !count) {
    announce('Nothing is picked yet.');
    return;
  }
  const next = make(adjacency, picked);
  keepForStepBack();
  usePick.getState().set((flags) => flags.set(next));
  announce(countWords());
}

export const growPick = (): void => change(grow);
export const shrinkPick = (): void => change(shrink);
export const growPickToCreases = (): void => change((a, p) => growToCreases(a, p, angleFor('smooth')));
export const invertPickInParts = (): void => change(invertInParts);
export const fillPickHoles = (): void => change(fillHoles);

/** How far a pick that is being grown by hand has come. */
export interface Growth {
  rings: Float32Array;
  before: Uint32Array;
  /** The pick as it was last grown to; another one means that it was changed meanwhile. */
  version: number;
}

/** Counts rings from the present pick on; in the worker, where the mesh is too large for the page. */
export async function beginGrowth(): Promise<Growth | null> {
  const { loaded } = current() ?? {};
  const { picked, count, version } = usePick.getState();
  if (!loaded || !count) return null;
  const before = pickedFaces();
  const rings = picked.length <= pageLimit ? ringsFrom(loaded.adjacency, picked) : await pickingWorker().ringsFrom(loaded.id, picked);
  return { rings, before, version };
}

export const isGrowing = ({ version }: Growth): boolean => version === usePick.getState().version;

/** The pick that was begun with, grown by so many rings, or shrunk. At least one face stays. */
export function growTo(growth: Growth, n: number): void {
  const { rings } = growth;
  if (!rings.some((r) => r <= n)) return;
  usePick.getState().set((picked) => {
    for (let f = 0; f < rings.length; f++) picked[f] = rings[f]! <= n ? 1 : 0;
  });
  growth.version = usePick.getState().version;
}

export function endGrowth({ before }: Growth): void {
  keepForStepBack(before);
  announce(countWords());
}

/** The picked faces on every part that is like theirs. */
export async function pickOnLikeParts(): Promise<void> {
  const id = current()?.loaded?.id;
  const { count, version } = usePick.getState();
  if (!id || !count) return;
  const faces = await pickingWorker().likeFaces(id, pickedFaces(), likeOptions());
  if (usePick.getState().version !== version) return;
  if (faces.length === count) notify('No other part is like this one.');
  else {
    pickFaces(faces);
    announce(countWords());
  }
}

/** Only what is truly seen at this moment stays picked. */
export async function keepSeen(): Promise<void> {
  const id = current()?.loaded?.id;
  const view = presentView();
  const { count, version } = usePick.getState();
  if (!id || !view || !count) return;
  const seen = await pickingWorker().seenFaces(id, view, pickedFaces());
  if (usePick.getState().version !== version) return;
  if (!seen.length) notify('None of the picked faces is seen from here.');
  else pickFaces(seen);
  announce(countWords());
}

/** The border of the pick as edges, which can be made seams. */
export function showBorder(): void {
  const { loaded } = current() ?? {};
  const { picked, count } = usePick.getState();
  if (!loaded || !count) return;
  const edges = borderOf(loaded.adjacency, picked);
  if (!edges.length) {
    notify('The pick has no border: it goes all around.');
    return;
  }
  usePick.setState({ edges });
  announce(`${counted(edges.length, 'edge')} around the pick`);
}

/** The twins of picked faces join; those without one are counted. */
export async function mirrorPick(): Promise<void> {
  const isNow = moment();
  const symmetry = await symmetryInView();
  if (!isNow()) return;
  const { count } = usePick.getState();
  if (!symmetry || !count) return;
  const faces = pickedFaces();
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

/**
 * Looks for what a box, lasso or brush may have left out or taken by accident. `seen`: what is not seen was
 * left out on purpose. `isNear`: whether a face lies in the outline or close to it. `colored`: the faces that
 * the drag colored with a cell, where it did not pick them, and the edit that did it.
 */
export async function lookForMissed(
  seen: Uint8Array | null,
  isNear: (face: number) => boolean,
  colored?: { faces: Uint32Array; cell: number; joins: Edit | null },
): Promise<void> {
  const { loaded, cells } = current() ?? {};
  if (!loaded || !cells) return;
  const { picked, version } = usePick.getState();
  const taken = colored ? flagsOf(colored.faces, picked.length) : picked;
  const isSmall = picked.length <= pageLimit;
  const found = isSmall ? missedFaces(loaded.mesh, loaded.adjacency, taken) : await pickingWorker().missedFaces(loaded.id, taken);
  if (usePick.getState().version !== version) return;
  const { lone } = found;
  // What lies clear of the outline was left out on purpose.
  const left = found.left.filter((gap) => gap.every(isNear)).flatMap((gap) => [...gap]);
  const wanted = Uint32Array.from(left.filter((f) => (!seen || seen[f]) && (!colored || cells[f] !== colored.cell))).sort();
  if (colored) {
    if (wanted.length) usePick.setState({ missed: { left: wanted, lone: new Uint32Array(0), cell: colored.cell, joins: colored.joins } });
  } else if (wanted.length || lone.length) usePick.setState({ missed: { left: wanted, lone } });
}

function flagsOf(faces: Uint32Array, count: number): Uint8Array {
  const flags = new Uint8Array(count);
  for (const f of faces) flags[f] = 1;
  return flags;
}

/** Small faces that were left out join the pick, or take the color that the others took. */
export function takeMissed(): void {
  const { missed } = usePick.getState();
  if (!missed?.left.length) return;
  if (missed.cell) {
    colorFaces(missed.left, missed.cell, { joins: missed.joins ?? null });
    usePick.setState({ missed: null });
    announce(`${counted(missed.left.length, 'small face')} colored, too`);
    return;
  }
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
