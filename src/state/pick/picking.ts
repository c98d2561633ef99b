import { type ById, byId, withId } from '@/core/ground/byId';
import { facesWhere } from '@/core/shapes/mesh/facesWhere';
import type { Edit } from '@/core/kit/edit/edit';
import { findCell, type KitState, type Model } from '@/core/kit/kit';
import { likeliestEdge } from '@/core/shapes/pick/ring';
import { aboutScope, facesOf, widerScope, type Scope, type ScopeAngle } from '@/core/shapes/pick/scopes';
import { sharedTexels } from '@/core/faces/seat/sharedTexels';
import { pickingWorker } from '@/workers/client';
import { announce } from '../told/announce';
import { current, moment, showModel, useEditor } from '../kit/editor';
import { colorFaces } from '../color/coloring';
import { useColoring } from '../chosen/coloringState';
import { countWords, keepForStepBack, pickedFaces, shownOnly, usePick, type Spot } from '../chosen/pickState';
import { mirroredByPhrase } from './symmetries';
import { likeOptions, usePhrase, type PhraseState } from '../chosen/phrase';
import { hintUsed } from '../chosen/hints';
import { frame } from '../chosen/viewState';
import { count } from '@/core/ground/words';

/** Floods of more faces than this go to the worker, so that the page stays free. */
export const pageLimit = 60_000;

/** Degrees: as set, else as proposed for the model in view. */
export const angleFor = (angle: ScopeAngle, phrase: Pick<PhraseState, ScopeAngle> = usePhrase.getState()): number =>
  phrase[angle] ?? (angle === 'flat' || angle === 'smooth' ? current()?.loaded?.angles[angle] : undefined) ?? 20;

/** The faces that a click on `face` takes; large floods come from the worker. */
async function facesFor(face: number, scope: Scope): Promise<Uint32Array> {
  const { model, loaded, cells, regions } = current() ?? {};
  const { patchEnds, act } = usePhrase.getState();
  // A cut takes no faces.
  if (!model || !loaded || !cells || act === 'cut') return new Uint32Array(0);
  const { angle, isSlow } = aboutScope(scope);
  const request = {
    scope,
    face,
    angle: angle ? angleFor(angle) : 0,
    creases: patchEnds === 'creases',
    like: likeOptions(),
    ...usePick.getState().spot,
  };
  const { mesh, adjacency } = loaded;
  const { seams } = model;
  const onPage = isSlow ? null : facesOf({ mesh, adjacency, cells, seams, ...(regions && { regions }) }, { ...request, limit: pageLimit });
  const faces = onPage ?? (await pickingWorker().pick(loaded.id, cells, seams, request));
  return shownOnly(await mirroredByPhrase(faces));
}

/** Shows what a click on the face would take. -1: nothing. */
export async function pointAtFace(face: number, spot?: Spot): Promise<void> {
  const before = usePick.getState();
  const { act, scope } = usePhrase.getState();
  const goesBy = aboutScope(scope).spot;
  const isHeld = before.isSpotHeld && before.face === face;
  const next = isHeld ? before.spot : spot && meantSpot(face, spot);
  // A cut goes where the pointer is, also along one edge.
  const isSameSpot = act === 'cut' ? next === before.spot : !next || !goesBy || next[goesBy] === before.spot[goesBy];
  if (before.face === face && isSameSpot) return;
  usePick.setState({ face, isSpotHeld: isHeld, sharing: sharingWith(face), ...(next && { spot: next }) });
  await refreshWouldTake();
}

/** The edge that is meant for a ring: the one that the pointer is near, else that of the likeliest ring. */
function meantSpot(face: number, spot: Spot): Spot {
  const adjacency = current()?.loaded?.adjacency;
  if (face < 0 || !adjacency || spot.isNearEdge !== false || !goesByRing()) return spot;
  return { ...spot, edge: likeliestEdge(adjacency, face) };
}

function goesByRing(): boolean {
  const { act, scope } = usePhrase.getState();
  return act === 'cut' || Boolean(aboutScope(scope).ofRing);
}

/** A click takes what was lit: the spot on the face under the pointer stays as it was shown. */
export function spotOfClick(face: number, spot: Spot): void {
  if (usePick.getState().face !== face) usePick.setState({ spot: meantSpot(face, spot) });
}

function sharingWith(face: number): Uint32Array {
  const { state, modelId } = useEditor.getState();
  const loaded = current()?.loaded;
  return face < 0 || !loaded || !modelId ? new Uint32Array(0) : sharedTexels(state.kit, loaded.mesh, state.seats[modelId]!, face);
}

export async function refreshWouldTake(): Promise<void> {
  const { face } = usePick.getState();
  const isNow = moment();
  const { scope } = usePhrase.getState();
  const id = current()?.loaded?.id;
  const [wouldTake, likeness] = await Promise.all([
    face < 0 ? new Uint32Array(0) : facesFor(face, scope),
    scope === 'like' && face >= 0 && id ? pickingWorker().likeness(id, face, likeOptions()) : null,
  ]);
  if (isNow() && usePick.getState().face === face) usePick.setState({ wouldTake, likeness });
}

/** A ring through the next edge, the fan around the next corner. */
export function turnSpot(): void {
  const { act, scope } = usePhrase.getState();
  // A cut along a ring goes by an edge, whatever a click would take.
  if (act !== 'cut' && !aboutScope(scope).spot) return;
  const { spot, face } = usePick.getState();
  const start = current()?.loaded?.mesh.faceStart;
  if (!start || face < 0) return;
  const next = (n: number) => (n + 1) % (start[face + 1]! - start[face]!);
  usePick.setState({ spot: { edge: next(spot.edge), corner: next(spot.corner) }, isSpotHeld: true });
  void refreshWouldTake();
}

export interface ClickKeys {
  /** Shift held: add. */
  add: boolean;
  /** Alt or Control held: take away. */
  take: boolean;
}

let lastClick: { face: number; scope: Scope; before: Uint32Array; colored: Edit | null; time: number; taken: number } | null = null;
/** Milliseconds within which a second click on the same place widens the first. */
const doubleClick = 400;

/** A click by the phrase. A second one at the same place widens what the first took to the next larger scope. */
export async function clickFace(face: number, keys: ClickKeys, time: number): Promise<void> {
  const { act, scope } = usePhrase.getState();
  const isSecond = lastClick !== null && lastClick.face === face && time - lastClick.time < doubleClick;
  if (isSecond) hintUsed('widen');
  if (keys.add || keys.take) hintUsed('add');
  const less = isSecond ? lastClick!.taken : 0;
  let taken = isSecond ? widerScope(lastClick!.scope) : scope;
  const before = isSecond ? lastClick!.before : pickedFaces();
  const joins = isSecond ? lastClick!.colored : null;
  lastClick = { face, scope: taken, before, colored: null, time, taken: less };
  const click = lastClick;
  // What the click means is settled now; it may take a while until its faces are known.
  const { cell } = useColoring.getState();
  const isNow = moment();
  let faces = await facesFor(face, taken);
  // A wider scope that takes no more here would be a click for nothing.
  while (isNow() && isSecond && faces.length <= less && widerScope(taken) !== taken)
    faces = await facesFor(face, (taken = widerScope(taken)));
  click.scope = taken;
  click.taken = faces.length;
  if (!isNow()) {
    announce('Another model came into view before the click’s faces were found; nothing was done.');
    return;
  }
  const others = taken === 'kit color' ? sameColorElsewhere(face) : byId<never>();
  if (act === 'color' && cell && !keys.add && !keys.take) {
    usePick.setState({ missed: null });
    click.colored = colorFaces(faces, cell, { joins, elsewhere: others });
    return;
  }
  if (!isSecond) keepForStepBack(before);
  const elsewhere = usePick.getState().elsewhere;
  const how = keys.take ? 'take' : keys.add ? 'add' : act === 'add' || act === 'take' ? act : 'pick';
  usePick.getState().set((picked) => {
    picked.fill(0);
    if (how !== 'pick') for (const f of before) picked[f] = 1;
    const value = how === 'take' ? 0 : 1;
    for (const f of faces) picked[f] = value;
  });
  usePick.setState({ elsewhere: joinElsewhere(how === 'pick' ? byId<never>() : elsewhere, others, how === 'take') });
  announce(countWords());
}

/** Faces of the other models on the same cell as a face of the model in view. */
function sameColorElsewhere(face: number): ById<Uint32Array> {
  const { state, modelId } = useEditor.getState();
  const cell = modelId ? state.seats[modelId]!.cell[face]! : 0;
  if (!cell) return byId();
  const found = state.kit.models
    .filter((m) => m.id !== modelId)
    .map((m): [string, Uint32Array] => [m.id, facesWhere(m.faces, (f) => state.seats[m.id]!.cell[f] === cell)]);
  return byId(found.filter(([, faces]) => faces.length));
}

function joinElsewhere(before: ById<Uint32Array>, change: ById<Uint32Array>, isTaking: boolean): ById<Uint32Array> {
  let out = before;
  for (const [model, faces] of Object.entries(change)) {
    const taken = new Set(faces);
    const next = isTaking
      ? (out[model] ?? new Uint32Array(0)).filter((f) => !taken.has(f))
      : Uint32Array.from(new Set([...(out[model] ?? []), ...faces])).sort();
    out = withId(out, model, next.length ? next : undefined);
  }
  return out;
}

export function pickEverything(): void {
  usePick.getState().set((picked) => picked.fill(1));
  announce(countWords());
}

export function bringBackPick(): void {
  const { last } = usePick.getState();
  if (!last) return;
  usePick.getState().set((picked) => {
    picked.fill(0);
    for (const f of last) picked[f] = 1;
  });
  announce(countWords());
}

export function invertPick(): void {
  keepForStepBack();
  usePick.getState().set((picked) => {
    for (let f = 0; f < picked.length; f++) picked[f] = picked[f] ? 0 : 1;
  });
  announce(countWords());
}

export function pickFaces(faces: ArrayLike<number>): void {
  keepForStepBack();
  usePick.getState().set((picked) => {
    picked.fill(0);
    for (let i = 0; i < faces.length; i++) picked[faces[i]!] = 1;
  });
}

/**
 * Picks the uncolored faces of the next part that has any, going round, and frames them. Goes on to the next
 * model where this one is done.
 */
export function pickNextUncolored(): void {
  const { loaded, cells } = current() ?? {};
  if (!loaded || !cells) return;
  const { part, partStart, partFaces } = loaded.adjacency;
  const parts = partStart.length - 1;
  const from = usePick.getState().picked.indexOf(1);
  const startPart = from >= 0 ? part[from]! + 1 : 0;
  for (let i = 0; i < parts; i++) {
    const p = (startPart + i) % parts;
    const faces = partFaces.subarray(partStart[p]!, partStart[p + 1]!).filter((f) => cells[f] === 0);
    if (!faces.length) continue;
    pickFaces(faces);
    frame(faces);
    announce(`${count(faces.length, 'uncolored face')} picked`);
    return;
  }
  const { state, modelId } = useEditor.getState();
  const next = nextBareModel(state, modelId);
  if (!next) {
    announce('Every face of every model is colored.');
    return;
  }
  showModel(next.id);
  announce(`Every face of this model is colored; here is ${next.name}.`);
}

/** The first model after the one in view, going round, that has faces without a color. */
export function nextBareModel({ kit: { models }, seats }: KitState, modelId: string | null): Model | undefined {
  const here = models.findIndex((m) => m.id === modelId);
  return models.map((_, i) => models[(here + 1 + i) % models.length]!).find((m) => seats[m.id]!.cell.includes(0));
}

const roleOfCell = (id: number): string => findCell(useEditor.getState().state.kit, id)?.cell.role ?? '';

/** What the face under the pointer is, in words. */
export function faceName(face: number): string {
  const c = current();
  if (!c?.loaded || face < 0) return '';
  const { adjacency, mesh } = c.loaded;
  const cell = c.cells[face]!;
  const parts = adjacency.partStart.length - 1;
  const role = roleOfCell(cell) || (cell ? 'a color without a role' : 'not yet colored');
  const region = c.model.regions.find((r) => r.id === c.regions[face])?.name;
  const object = mesh.objects.length > 1 ? `${mesh.objects[mesh.faceObject[face]!]}, ` : '';
  const shared = sharingWith(face).length;
  const texels = shared ? `, shares its texels with ${count(shared, 'other face')}` : '';
  return `${object}part ${adjacency.part[face]! + 1} of ${parts}, face ${face + 1}, ${region ? `${region}, ` : ''}${role}${texels}`;
}

/** The eyedropper: the phrase takes the cell of the face under the pointer. */
export function takeCellUnderPointer(): void {
  const { face } = usePick.getState();
  const c = current();
  if (!c || face < 0) return;
  const cell = c.cells[face]!;
  if (!cell) {
    announce('This face is not yet colored.');
    return;
  }
  useColoring.setState({ cell });
  announce(`${roleOfCell(cell) || 'color'} taken`);
}

useEditor.subscribe((now, before) => {
  if (now.modelId !== before.modelId) lastClick = null;
});
// What a click would take follows the phrase and the colors.
// A click under another phrase is a first one.
usePhrase.subscribe(() => {
  lastClick = null;
  void refreshWouldTake();
});
useEditor.subscribe((now, before) => {
  if (now.state.seats !== before.state.seats && aboutScope(usePhrase.getState().scope).isByColor) void refreshWouldTake();
});
