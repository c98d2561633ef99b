import { create } from 'zustand';
import type { Edit } from '@/core/kit/edit/edit';
import { findCell, type Model, type Seats } from '@/core/kit/kit';
import { facesByPart } from '@/core/shapes/mesh/facesByPart';
import { aboutRule, lineLike, middleOf, type Point3 } from '@/core/kit/laying/gradientRules';
import { isGradientFill, layAlong, runOf, seatsAfter, type Runs } from '@/core/faces/seat/layAlong';
import { mirroredLaying, movedLaying, plainLaying, type Laying, type SeatRule } from '@/core/kit/laying/seatRule';
import { count } from '@/core/ground/words';
import { pickingWorker } from '@/workers/client';
import type { LoadedMesh } from '@/workers/residents';
import { dispatch, refusedAsReadOnly } from '../kit/edits';
import { current, moment, useEditor } from '../kit/editor';
import { perKit } from '../chosen/session';
import { likeOptions } from '../chosen/phrase';
import { elsewhereCount, letPickGo, pickedFaces, usePick } from '../chosen/pickState';
import { mirrored, symmetryInView } from '../pick/symmetries';
import { announce } from '../told/announce';
import { notify, notifyError } from '../told/notices';
import { presentView, useView } from '../chosen/viewState';
import { openFaces } from '../color/coloring';
import { useColoring } from '../chosen/coloringState';

/** Faces that are laid along a gradient together, and how. */
export interface LaidFaces {
  model: string;
  mesh: string;
  faces: Uint32Array;
  cell: number;
  rule: SeatRule;
}

export interface LayingState {
  /** The words of the last one, for the next. */
  words: Pick<Laying, 'rule' | 'tone' | 'bands' | 'over' | 'repeat' | 'offset'>;
  /** What is shown while it is decided. */
  preview: { model: string; seats: Seats } | null;
  /** A line that is being drawn. */
  line: Laying['line'] | null;
  /** What was laid last, as long as nothing else is done: its words change it in the same undo. */
  laid: (LaidFaces & { edit: Edit }) | null;
}

const { rule, tone, bands, over, repeat, offset } = plainLaying;
export const useLaying = perKit(
  create<LayingState>(() => ({ words: { rule, tone, bands, over, repeat, offset }, preview: null, line: null, laid: null })),
  ['words'],
);

/** Of more faces than this nothing is shown while it is decided, and the worker measures. */
export const mostOnPage = 20_000;

/** Up on the screen, in the world. */
function screenUp(): Laying['screenUp'] {
  const m = presentView()?.matrix;
  const up = m ? ([m[1]!, m[5]!, m[9]!] as const) : ([0, 1, 0] as const);
  const length = Math.hypot(...up) || 1;
  return [up[0] / length, up[1] / length, up[2] / length];
}

/** Whether a cell is a gradient that faces can be laid along. */
export function isGradient(cell: number): boolean {
  const found = findCell(useEditor.getState().state.kit, cell);
  return found !== null && isGradientFill(found.cell.fill);
}

/** Where a line is needed there is one. */
function withLine(laying: Laying, { mesh, adjacency }: LoadedMesh, faces: Uint32Array, like: Laying['rule'] = 'height'): Laying {
  if (!aboutRule(laying.rule).needsLine || laying.line) return laying;
  return { ...laying, line: lineLike(like, { mesh, adjacency, faces, screenUp: laying.screenUp }) };
}

/** A new rule by the words of the last one. On a gradient of two directions the top of the model takes its top. */
function newRule(cell: number, change: Partial<Laying>): SeatRule {
  const along: Laying = { ...plainLaying, ...useLaying.getState().words, screenUp: screenUp(), ...change };
  const fill = findCell(useEditor.getState().state.kit, cell)?.cell.fill;
  if (fill?.kind !== 'corners') return { id: 0, along };
  const isUpright = !aboutRule(along.rule).direction || along.rule === 'height';
  return { id: 0, along: isUpright ? { ...along, rule: 'width' } : along, cross: { ...along, rule: 'height', start: 1, end: 0 } };
}

/** The edit that lays faces of the model in view; `null` where nothing would change. */
const editOf = (modelId: string, loaded: LoadedMesh, faces: Uint32Array, cell: number, rule: SeatRule, runs: Runs): Edit | null =>
  layAlong(useEditor.getState().state, modelId, loaded.mesh.faceStart, faces, cell, rule, runs);

const runsOnPage = ({ mesh, adjacency }: LoadedMesh, faces: Uint32Array, { along, cross }: SeatRule): Runs => ({
  along: runOf(mesh, adjacency, faces, along),
  ...(cross && { cross: runOf(mesh, adjacency, faces, cross) }),
});

/** The same once it is measured; `null` also where another model, mesh or kit is there by then. */
async function edit(faces: Uint32Array, cell: number, rule: SeatRule): Promise<Edit | null> {
  const c = current();
  if (!c?.loaded) return null;
  const { loaded, model } = c;
  const isNow = moment();
  const inWorker = (laying: Laying) => pickingWorker().runAlong(loaded.id, faces, laying);
  const runs =
    faces.length > mostOnPage
      ? { along: await inWorker(rule.along), ...(rule.cross && { cross: await inWorker(rule.cross) }) }
      : runsOnPage(loaded, faces, rule);
  return isNow() ? editOf(model.id, loaded, faces, cell, rule, runs) : null;
}

/** Shows some faces as they would lie. */
function preview(faces: Uint32Array, cell: number, rule: SeatRule): void {
  const c = current();
  if (!c?.loaded || !faces.length || c.model.faces > mostOnPage || useEditor.getState().readOnly) return;
  const would = editOf(c.model.id, c.loaded, faces, cell, rule, runsOnPage(c.loaded, faces, rule));
  useView.setState({ hatchHidden: true });
  useLaying.setState({ preview: would && { model: c.model.id, seats: seatsAfter(useEditor.getState().state, c.model.id, would) } });
}

/** Shows the picked faces as they would be, from one place of a gradient to another, or along a line. */
export function previewLaying(cell: number, change: Partial<Laying>): void {
  const c = current();
  if (!c?.loaded || !isGradient(cell)) return;
  const faces = pickedFaces();
  useLaying.setState({ line: change.line ?? null });
  const made = newRule(cell, change);
  preview(faces, cell, { ...made, along: withLine(made.along, c.loaded, faces) });
}

export function endPreview(): void {
  useView.setState({ hatchHidden: false });
  useLaying.setState({ preview: null, line: null });
}

/** Lays the picked faces along a gradient, and lets them go. */
export async function layPick(cell: number, change: Partial<Laying> = {}): Promise<void> {
  endPreview();
  const c = current();
  if (!c?.loaded || refusedAsReadOnly()) return;
  if (!isGradient(cell)) return notify('Choose a gradient in the tray, or drag along one: the pick is laid along it.');
  const faces = openFaces(c, pickedFaces());
  if (!faces.length) return notify('Pick the faces first, then drag along the gradient.');
  try {
    const made = newRule(cell, change);
    const rule = { ...made, along: withLine(made.along, c.loaded, faces) };
    const isNow = moment();
    const { version, elsewhere } = usePick.getState();
    const done = dispatch(await edit(faces, cell, rule));
    if (!isNow()) return;
    useColoring.setState({ cell });
    // What was picked while it was measured is another pick, and stays.
    if (usePick.getState().version === version) letPickGo();
    const others = elsewhereCount(elsewhere).faces;
    if (others) notify(`Laid on ${c.model.name} only: ${count(others, 'picked face')} on other models kept their color.`);
    if (done) remember(c.model, faces, cell, done);
    announce(`${count(faces.length, 'face')} laid along ${roleOf(cell)}`);
  } catch (error) {
    notifyError(error);
  }
}

const roleOf = (cell: number): string => findCell(useEditor.getState().state.kit, cell)?.cell.role || 'the gradient';

/** What was done can be changed by words from now on. */
function remember({ id, mesh }: Model, faces: Uint32Array, cell: number, done: Edit): void {
  const { state } = useEditor.getState();
  const number = state.seats[id]!.rule![faces[0]!]!;
  const rule = state.kit.models.find((m) => m.id === id)!.rules!.find((r) => r.id === number)!;
  const { rule: along, tone, bands, over, repeat, offset } = rule.along;
  const words = { rule: aboutRule(along).needsLine ? useLaying.getState().words.rule : along, tone, bands, over, repeat, offset };
  useLaying.setState({ words, laid: { model: id, mesh, faces, cell, rule, edit: done } });
}

/** What was laid last, where it is still the last thing that was done to the model in view. */
function lastLaid(): LayingState['laid'] {
  const { laid } = useLaying.getState();
  const { history, state, modelId } = useEditor.getState();
  const isLast = laid && history.edits[history.cursor - 1] === laid.edit && laid.model === modelId;
  return isLast && state.kit.models.some((m) => m.id === laid.model && m.mesh === laid.mesh) ? laid : null;
}

let found: { seats: Seats; version: number; answer: LaidFaces | null } | null = null;

/** All faces that are laid together with those that are picked, where they all are. */
function laidWithPick(): LaidFaces | null {
  const c = current();
  if (!c) return null;
  const seats = useEditor.getState().state.seats[c.model.id]!;
  const { version } = usePick.getState();
  if (found?.seats === seats && found.version === version) return found.answer;
  found = { seats, version, answer: null };
  const picked = pickedFaces();
  const [cell, id] = [seats.cell[picked[0]!] ?? 0, seats.rule?.[picked[0]!] ?? 0];
  const rule = c.model.rules?.find((r) => r.id === id);
  const isOfIt = (f: number) => seats.rule![f] === id && seats.cell[f] === cell;
  if (!rule || !isGradient(cell) || !picked.every(isOfIt)) return null;
  const faces = Uint32Array.from(seats.cell.keys()).filter(isOfIt);
  found.answer = { model: c.model.id, mesh: c.model.mesh, faces, cell, rule };
  return found.answer;
}

/** What the words are about: what was just laid, or the faces with which the picked ones were laid. */
export const laidInHand = (): LaidFaces | null => (usePick.getState().count ? laidWithPick() : lastLaid());

/** The rule with other words; what needs a line, or the view, has it from this moment. */
function changed(inHand: LaidFaces, change: Partial<Laying>, which: 'along' | 'cross'): SeatRule {
  const was = inHand.rule[which] ?? plainLaying;
  const next: Laying = { ...was, ...change, ...(change.rule === 'view' && { screenUp: screenUp() }) };
  const loaded = current()?.loaded;
  const settled = loaded ? withLine(next, loaded, inHand.faces, was.rule) : next;
  return { ...inHand.rule, [which]: settled };
}

/** Shows what other words would do to what is in hand. */
export function previewAgain(change: Partial<Laying>, which: 'along' | 'cross' = 'along'): void {
  const inHand = laidInHand();
  if (!inHand) return;
  useLaying.setState({ line: change.line ?? null });
  preview(inHand.faces, inHand.cell, changed(inHand, change, which));
}

let asked = 0;
/**
 * Other words for what is in hand: it is laid anew, in the same undo where it was the last thing done. Without
 * other words, as the mesh is now.
 */
export async function layAgain(change: Partial<Laying> = {}, which: 'along' | 'cross' = 'along'): Promise<void> {
  endPreview();
  const inHand = laidInHand();
  const c = current();
  if (!inHand || !c || refusedAsReadOnly()) return;
  const { version } = usePick.getState();
  const rule = changed(inHand, change, which);
  // Words that come while it is measured change what was asked, not what was there before.
  if (useLaying.getState().laid === inHand) useLaying.setState({ laid: { ...(inHand as NonNullable<LayingState['laid']>), rule } });
  const mine = ++asked;
  try {
    const again = await edit(inHand.faces, inHand.cell, rule);
    // Something else may have been done meanwhile, or other words chosen, which then count.
    const now = laidInHand();
    if (!again || !now || mine !== asked || usePick.getState().version !== version) return;
    const last = lastLaid();
    const joins = last && last.rule.id === rule.id ? last.edit : null;
    const done = dispatch(again, { joins });
    if (done) remember(c.model, inHand.faces, inHand.cell, done);
  } catch (error) {
    notifyError(error);
  }
}

/** Where what is in hand is laid the same once more. */
export type CopyTo = 'twin' | 'like';

/** Lays the mirrored twins of what is in hand, or the same faces of like parts, in the same way; one undo. */
export async function copyLaid(to: CopyTo): Promise<void> {
  const inHand = laidInHand();
  const c = current();
  if (!inHand || !c?.loaded || refusedAsReadOnly()) return;
  const isNow = moment();
  const { loaded } = c;
  try {
    const targets = await (to === 'twin' ? twinsOf(inHand) : likesOf(inHand, loaded));
    if (!isNow()) return;
    if (!targets.length) return notify(to === 'twin' ? 'These faces have no mirrored twins.' : 'No other part is like theirs.');
    let last: Edit | null = null;
    for (const { faces, rule } of targets) {
      const next = await edit(openFaces(c, faces), inHand.cell, { ...rule, id: 0 });
      if (!isNow()) return;
      last = dispatch(next, { joins: last }) ?? last;
    }
    const all = targets.reduce((sum, t) => sum + t.faces.length, 0);
    announce(`${count(all, 'more face')} laid along ${roleOf(inHand.cell)}`);
  } catch (error) {
    notifyError(error);
  }
}

type Target = Pick<LaidFaces, 'faces' | 'rule'>;

async function twinsOf({ faces, rule }: LaidFaces): Promise<Target[]> {
  const symmetry = await symmetryInView();
  if (!symmetry) return [];
  const own = new Set(faces);
  const twins = mirrored(faces, symmetry, 'instead').filter((f) => !own.has(f));
  const { along, cross } = rule;
  return twins.length
    ? [
        {
          faces: twins,
          rule: { ...rule, along: mirroredLaying(along, symmetry), ...(cross && { cross: mirroredLaying(cross, symmetry) }) },
        },
      ]
    : [];
}

async function likesOf({ faces, rule }: LaidFaces, { id, mesh, adjacency }: LoadedMesh): Promise<Target[]> {
  const own = new Set(faces);
  const likes = (await pickingWorker().likeFaces(id, faces, likeOptions())).filter((f) => !own.has(f));
  const from = middleOf(mesh, faces);
  return facesByPart(adjacency, likes).map((part) => {
    const to = middleOf(mesh, part.faces);
    const by: Point3 = [to[0] - from[0], to[1] - from[1], to[2] - from[2]];
    const { along, cross } = rule;
    return { faces: part.faces, rule: { ...rule, along: movedLaying(along, by), ...(cross && { cross: movedLaying(cross, by) }) } };
  });
}
