import { usePaint } from '../chosen/paint';
import { type ById, byId } from '@/core/ground/byId';
import { hexFromLch, lchFromHex, type Hex } from '@/core/ground/color/hex';
import { applyEdit } from '@/core/kit/edit/editKinds';
import { group, groupForAll, type Edit } from '@/core/kit/edit/edit';
import { gradientCells, isLaid, turnedRuns } from '@/core/faces/seat/layAlong';
import { ruleEdit, seatFaces } from '@/core/kit/edit/seatFaces';
import { findCell, findSheet, isTextured, type Cell, type Fill, type Finish, type Sheet } from '@/core/kit/kit';
import { addStep } from '@/core/sheet/ramp/rampEdits';
import { editCell, isKept, rampOf, singleColors, stepOf } from '@/core/sheet/cells';
import { finishOf, isUsualFinish } from '@/core/sheet/finish';
import { spareColors } from '@/core/sheet/mergeColors';
import { editRamp, newColor } from '@/core/sheet/newColor';

import { unlockedFaces } from '@/core/faces/regions/regions';
import { placeFaces } from '@/core/faces/seat/placeFaces';
import { allowed } from './allowed';
import { announce } from '../told/announce';
import { sheetInHand } from './board';
import { baseState, current, currentOf, useEditor, type CurrentModel } from '../kit/editor';
import { dispatch } from '../kit/edits';
import { middle, noDrafts, useColoring, type Point } from '../chosen/coloringState';
import { countWords, letPickGo, pickedFaces, usePick } from '../chosen/pickState';
import { notify, notifyError } from '../told/notices';

/** Seats faces of the model in view. Returns the edit, for what joins it. */
export function colorFaces(
  faces: Uint32Array,
  cell: number,
  { joins = null, elsewhere = byId() }: { joins?: Edit | null; elsewhere?: ById<Uint32Array> } = {},
): Edit | null {
  const c = current();
  if (!c) return null;
  const edits = takenInKit(c, faces, elsewhere).flatMap((t) => colorEdit(t.of, openFaces(t.of, t.faces), cell) ?? []);
  return dispatch(edits.length > 1 ? group('Color faces', edits) : (edits[0] ?? null), { joins });
}

interface TakenFaces {
  of: CurrentModel;
  faces: Uint32Array;
}

/** Faces of the model in view and those of others. */
function takenInKit(c: CurrentModel, faces: Uint32Array, elsewhere: ById<Uint32Array>): TakenFaces[] {
  const others = Object.entries(elsewhere).flatMap(([modelId, list]) => {
    const of = currentOf({ ...useEditor.getState(), modelId });
    // A model may have taken another mesh meanwhile.
    return of ? [{ of, faces: list.filter((f) => f < of.cells.length) }] : [];
  });
  return [{ of: c, faces }, ...others];
}

/** All picked faces, model by model. */
const pickedInKit = (c: CurrentModel): TakenFaces[] => takenInKit(c, pickedFaces(), usePick.getState().elsewhere);

/** Without the faces of locked regions; says so where there were any. */
export function openFaces({ model, regions }: CurrentModel, faces: Uint32Array): Uint32Array {
  const open = unlockedFaces(model, { region: regions }, faces);
  const locked = faces.length - open.length;
  if (locked)
    notify(`${locked === 1 ? '1 face lies' : `${locked} faces lie`} in a locked region and kept ${locked === 1 ? 'its' : 'their'} color.`);
  return open;
}

/**
 * Faces go to a cell; on a gradient or art, to the point of it that was pointed at. Those that are laid along a
 * gradient lie along the new one in the same way.
 */
function colorEdit({ model, cells, loaded }: CurrentModel, faces: Uint32Array, cell: number): Edit | null {
  const { state } = useEditor.getState();
  const seated = seatFaces(model.id, cells, faces, cell);
  const fill = findCell(state.kit, cell)?.cell.fill;
  if (!fill || !isTextured(fill) || !loaded) return seated;
  const seats = state.seats[model.id]!;
  const { faceStart } = loaded.mesh;
  const gradients = gradientCells(state.kit);
  const follows = (f: number) => gradients.has(cell) && isLaid(seats, gradients, f);
  const others = faces.filter((f) => !follows(f));
  const edits = [
    seated,
    turnedRuns(state, model.id, seats, faceStart, faces.filter(follows), cell),
    placeFaces(model.id, seats, faceStart, others, useColoring.getState().point),
    ruleEdit(model.id, seats, others, 0),
  ].filter((e) => e !== null);
  return edits.length > 1 ? group('Color faces', edits) : (edits[0] ?? null);
}

/** Choosing a cell: picked faces take it and are let go; the phrase names it from now on. */
export function chooseCell(cell: number, point: Point = middle): void {
  const c = current();
  const chosen = findCell(useEditor.getState().state.kit, cell)?.cell;
  if (!c || !chosen) return;
  if (chosen.fill.kind === 'spare') {
    openNewColor(useColoring.getState().cell || firstColor(c.sheet), false);
    return;
  }
  useColoring.setState({ cell, point });
  if (usePaint.getState().isOpen) {
    // What needs no color gives way to it; a pattern goes on around it.
    usePaint.setState(({ sets, around }) => {
      const isAround = sets === 'noise' || sets === 'checker' || (sets === 'motif' && around === 'color');
      return { sets: isAround ? sets : 'color' };
    });
    return;
  }
  const { count } = usePick.getState();
  if (!count) return;
  const words = countWords();
  colorFaces(pickedFaces(), cell, { elsewhere: usePick.getState().elsewhere });
  letPickGo();
  announce(`${words.replace('picked', 'colored')} ${chosen.role}`);
}

const firstColor = (sheet: Sheet): number => sheet.cells.find((c) => c.fill.kind !== 'spare')?.id ?? 0;

/** The ramp that number keys choose from: that of the phrase's cell, or the single colors, where it is one; else the first. */
export function currentRamp(sheet: Sheet, cell: number): readonly number[] {
  const single = singleColors(sheet);
  return rampOf(sheet, cell)?.cells ?? (single.includes(cell) ? single : (sheet.ramps[0]?.cells ?? single));
}

export function chooseOfRamp(index: number): void {
  const c = current();
  const cell = c && currentRamp(c.sheet, useColoring.getState().cell)[index];
  if (cell) chooseCell(cell);
}

/**
 * Picked faces, or else those under the pointer, walk one step along their own ramps. The pick stays, so that
 * steps can be repeated. `create`: where a ramp ends, it gets a further step first. While texels are painted the brush does.
 */
export function stepFaces(direction: -1 | 1, { create = false } = {}): void {
  const c = current();
  if (!c) return;
  if (usePaint.getState().isOpen) {
    const next = stepOf(c.sheet, useColoring.getState().cell, direction);
    if (next) chooseCell(next);
    return;
  }
  const { count, wouldTake } = usePick.getState();
  const taken = count ? pickedInKit(c) : [{ of: c, faces: wouldTake }];
  const word = direction < 0 ? 'darker' : 'lighter';
  const edits: Edit[] = [];
  const steps = new Map<number, number | null>();
  let next = useEditor.getState().state;
  const stepFrom = (cell: number): number | null => {
    const found = findCell(next.kit, cell);
    if (!found) return null;
    const { sheet } = found;
    const ramp = rampOf(sheet, cell);
    const there = stepOf(sheet, cell, direction);
    if (there !== null || !create || !ramp) return there;
    const made = addStep(next, sheet.id, ramp.id, direction < 0 ? 0 : ramp.cells.length);
    if (!made) return null;
    edits.push(made.edit);
    next = applyEdit(next, made.edit);
    return made.cell;
  };
  let stuck = 0;
  try {
    for (const { of, faces } of taken) {
      const seated = seatFaces(of.model.id, of.cells, openFaces(of, faces), (before) => {
        if (!before) return null;
        if (!steps.has(before)) steps.set(before, stepFrom(before));
        const after = steps.get(before)!;
        if (after === null) stuck++;
        return after;
      });
      if (seated) edits.push(seated);
    }
  } catch (error) {
    notifyError(error);
    return;
  }
  if (edits.length) dispatch(group(`One step ${word}`, edits));
  if (!stuck) {
    if (edits.length) announce(`One step ${word}`);
    return;
  }
  const where = `${stuck === 1 ? '1 face is' : `${stuck} faces are`} at the ${direction < 0 ? 'dark' : 'light'} end of their ramp.`;
  announce(where);
  if (create) notify(`${where} There is no ${word} color left.`);
  else
    notify(where, {
      action: { label: `Make a ${word} step (Shift ${direction < 0 ? 'D' : 'E'})`, run: () => stepFaces(direction, { create: true }) },
    });
}

export function openNewColor(from: number, onlyHere: boolean): void {
  if (onlyHere && !usePick.getState().count) {
    notify('Pick the faces that should get a color of their own.');
    return;
  }
  const source = from || firstColor(sheetInHand());
  useColoring.setState({ panel: { kind: 'new', from: source, onlyHere } });
}

/**
 * The cell to start a new color from: the one under the pointer, that of the picked faces, of the face under
 * the pointer, or of the phrase.
 */
export function sourceCell(): number {
  const c = current();
  if (!c) return 0;
  const { picked, face } = usePick.getState();
  const { pointedCell } = useColoring.getState();
  const first = picked.indexOf(1);
  return (
    pointedCell || (first >= 0 && c.cells[first]) || (face >= 0 && c.cells[face]) || useColoring.getState().cell || firstColor(c.sheet)
  );
}

/** Lands a color on a spare cell; picked faces take it in the same act. */
export function addColor(wanted: Hex, role: string, from: number): void {
  const color = allowed(wanted);
  const c = current();
  const { state } = useEditor.getState();
  const before = sheetInHand();
  try {
    const source = findCell(state.kit, from)?.cell;
    const made = newColor(state, {
      sheet: before.id,
      color,
      role,
      ...(from && { beside: from }),
      ...(source?.finish && { finish: source.finish }),
    });
    const edits: Edit[] = [made.edit];
    const { count } = usePick.getState();
    if (c && count)
      for (const { of, faces } of pickedInKit(c)) {
        const seated = seatFaces(of.model.id, of.cells, openFaces(of, faces), made.cell);
        if (seated) edits.push(seated);
      }
    if (!dispatch(group('New color', edits))) return;
    if (count) letPickGo();
    remember(color);
    useColoring.setState({ cell: made.cell, panel: null, drafts: noDrafts });
    const after = findSheet(useEditor.getState().state.kit, before.id);
    if (after.width !== before.width || after.height !== before.height)
      notify(`No cell was spare, so the sheet grew to ${after.width} × ${after.height} texels. Nothing moved.`);
    announce(`New color ${role}`);
  } catch (error) {
    notifyError(error);
  }
}

/** The color and role that "a new color from this one" starts with: a nudge that is seen but keeps the family. */
export function proposeColor(cell: Cell | undefined): { color: Hex; role: string } {
  if (cell?.fill.kind !== 'solid') return { color: '#8a7f72', role: 'new color' };
  const lch = lchFromHex(cell.fill.color);
  const l = lch.l > 0.6 ? lch.l - 0.08 : lch.l + 0.08;
  return { color: hexFromLch({ ...lch, l }), role: cell.role ? `${cell.role}, varied` : '' };
}

/** The last change of a cell, which a slider that goes on joins. */
let lastChange: Edit | null = null;

/** `join`: one undo together with the last change of a cell, as when a slider goes on. */
export function setCellColor(cell: number, wanted: Hex, { join = false } = {}): void {
  const color = allowed(wanted);
  const found = findCell(useEditor.getState().state.kit, cell);
  useColoring.setState({ drafts: noDrafts });
  if (!found || found.cell.fill.kind !== 'solid' || found.cell.fill.color === color) return;
  const fill = { ...found.cell.fill, color };
  if (isKept(found.sheet, cell)) notify(`“${found.sheet.name}” is frozen: its colors stay as they are.`, { isError: true });
  else {
    lastChange = dispatch(editCell(found.sheet, cell, { fill }), { joins: join ? lastChange : null });
    if (lastChange) remember(color, join);
  }
}

/** Another fill for a cell; a cell that is no plain color any more leaves its ramp. */
export function setCellFill(id: number, fill: Fill, { join = false } = {}): void {
  const found = findCell(useEditor.getState().state.kit, id);
  useColoring.setState({ drafts: noDrafts });
  if (!found || JSON.stringify(found.cell.fill) === JSON.stringify(fill)) return;
  const ramp = fill.kind === 'solid' ? null : rampOf(found.sheet, id);
  if (ramp && useEditor.getState().variant) {
    notify(
      `“${found.cell.role}” is a step of ${ramp.name}, and so a plain color in every variant. Change its kind in the default coloring.`,
      { isError: true },
    );
    return;
  }
  const untied =
    ramp &&
    editRamp(
      found.sheet,
      ramp.id,
      ramp.cells.filter((c) => c !== id),
    );
  const edit = editCell(found.sheet, id, { fill });
  lastChange = dispatch(untied ? group('Change a cell', [untied, edit]) : edit, { joins: join ? lastChange : null });
}

/** How a cell's surface answers light; one that is as usual is not kept. */
export function setCellFinish(id: number, finish: Finish): void {
  const found = findCell(useEditor.getState().state.kit, id);
  if (!found || JSON.stringify(finishOf(found.cell)) === JSON.stringify(finish)) return;
  const { finish: _, ...plain } = found.cell;
  const after = isUsualFinish(finish) ? plain : { ...plain, finish };
  const index = found.sheet.cells.indexOf(found.cell);
  const edit: Edit = { kind: 'put', list: 'cells', of: found.sheet.id, index, before: found.cell, after };
  const joins = lastFinish?.cell === id && Date.now() - lastFinish.at < oneChange ? lastFinish.edit : null;
  const done = dispatch(edit, { joins });
  lastFinish = done && { cell: id, edit: done, at: Date.now() };
}
let lastFinish: { cell: number; edit: Edit; at: number } | null = null;
/** Milliseconds within which further changes of one finish are one undo. */
const oneChange = 1500;

export function setCellRole(cell: number, role: string): void {
  const found = findCell(useEditor.getState().state.kit, cell);
  if (found && found.cell.role !== role) dispatch(group('Rename a color', [editCell(found.sheet, cell, { role })]));
}

/** Turns a color into a spare cell, in every coloring. Its faces go to `moveTo` (0: they become uncolored). */
export function makeSpare(cell: number, moveTo: number): void {
  const state = baseState();
  const found = findCell(state.kit, cell);
  if (!found) return;
  if (dispatch(spareColors(state, found.sheet, new Set([cell]), moveTo)))
    useColoring.setState((s) => ({ panel: null, cell: s.cell === cell ? moveTo : s.cell }));
}

/** `instead`: the newest recent color was only a step on the way to this one. */
function remember(color: Hex, instead = false): void {
  useColoring.setState(({ recent }) => ({ recent: [color, ...recent.slice(instead ? 1 : 0).filter((c) => c !== color)].slice(0, 8) }));
}

/** Whether brushes leave texels of a color alone; in every coloring. */
export function lockColor(id: number, isLocked: boolean): void {
  const found = findCell(baseState().kit, id);
  if (!found) return;
  const { sheet, cell: before } = found;
  const { locked: _, ...bare } = before;
  const after: Cell = isLocked ? { ...bare, locked: true } : bare;
  const put: Edit = { kind: 'put', list: 'cells', of: sheet.id, index: sheet.cells.indexOf(before), before, after };
  dispatch(groupForAll(isLocked ? 'Lock a color' : 'Unlock a color', [put]));
}
