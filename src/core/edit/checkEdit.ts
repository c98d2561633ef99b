import { equalArrays } from '../equalArrays';
import { findCell, type Kit, type KitState, type Model, type Seats } from '../kit/kit';
import type { ApplyOptions, PlaceEdit, PutEdit, RegionEdit, Remeshed, RemeshEdit, SeatEdit } from './edit';

/** Ids of cells are kept in 16 bits. */
export const mostCellIds = 65535;

/** A change that does not fit, and was not made. */
export class EditRefused extends Error {
  constructor(why: string) {
    super(`This cannot be done: ${why}.`);
    this.name = 'EditRefused';
  }
}

/** Plain values by what they hold. */
export const isSame = (a: unknown, b: unknown): boolean => a === b || JSON.stringify(a) === JSON.stringify(b);

/** That a list's entry can be there: its sheet exists, its id is its own, a model comes with seats that fit it. */
export function checkPut({ kit, seats }: KitState, edit: PutEdit): void {
  if (edit.of !== 'kit' && !kit.sheets.some((s) => s.id === edit.of)) throw new EditRefused('the kit has no such sheet any more');
  const { before, after } = edit;
  if (after && after.id !== before?.id && isTaken(kit, edit)) throw new EditRefused(`the number “${after.id}” is taken`);
  if (edit.list === 'cells' && after && !(Number(after.id) >= 1 && Number(after.id) <= mostCellIds))
    throw new EditRefused(`a kit can give out ${mostCellIds} cells in all, and these are used up`);
  if (edit.list !== 'models') return;
  if (edit.after && edit.after.sheet !== edit.before?.sheet && !kit.sheets.some((s) => s.id === edit.after!.sheet))
    throw new EditRefused(`“${edit.after.name}” names a sheet that is not there`);
  if (edit.after && edit.after.id !== edit.before?.id) {
    if (!edit.seats) throw new EditRefused(`the model “${edit.after.name}” would come without seats`);
    checkSizes(edit.after, edit.seats);
  } else if (edit.after && edit.after.faces !== edit.before!.faces) throw new EditRefused('a model would change its faces without a mesh');
  if (!edit.after && !edit.seats) throw new EditRefused(`the model “${edit.before?.name}” would go without its seats being kept`);
  // What is removed is kept in the edit as it was, or it could not come back.
  if (!edit.after && seats[edit.before!.id] && !areSame(seats[edit.before!.id]!, edit.seats!))
    throw new EditRefused(`the colors of “${edit.before!.name}” have changed`);
}

function isTaken(kit: Kit, { list, of, after }: PutEdit): boolean {
  if (list === 'cells') return findCell(kit, Number(after!.id)) !== null;
  const entries: readonly { id: unknown }[] = list === 'ramps' ? kit.sheets.find((s) => s.id === of)!.ramps : kit[list];
  return entries.some((e) => e.id === after!.id);
}

/** That spans lie within the model, find what they expect, lead to cells that exist, and recolor no locked face. */
export function checkSpans({ kit, seats }: KitState, edit: SeatEdit | RegionEdit, { ignoreLocks, isReplay }: ApplyOptions): void {
  const model = modelOf(kit, edit.model);
  const own = seats[edit.model]!;
  const values = edit.kind === 'seat' ? own.cell : own.region;
  const { spans } = edit;
  const cells = edit.kind === 'seat' && !isReplay ? new Set(kit.sheets.flatMap((s) => s.cells.map((c) => c.id))) : null;
  const locked = ignoreLocks || edit.kind === 'region' ? null : lockedRegions(model);
  let end = 0;
  let known = 0;
  for (let i = 0; i < spans.length; i += 4) {
    const start = spans[i]!;
    const before = spans[i + 2]!;
    const after = spans[i + 3]!;
    if (start < end || start + spans[i + 1]! > values.length) throw new EditRefused(`it concerns faces that “${model.name}” does not have`);
    end = start + spans[i + 1]!;
    if (isReplay) continue;
    for (let f = start; f < end; f++) {
      if (values[f] !== before) throw new EditRefused(`face ${f + 1} of “${model.name}” has changed meanwhile`);
      if (locked?.has(own.region[f]!)) throw lockedError(model, own.region[f]!);
    }
    if (!cells || after === 0 || after === known) continue;
    if (!cells.has(after)) throw new EditRefused(`there is no cell ${after}`);
    known = after;
  }
}

export function checkPlace({ kit, seats }: KitState, edit: PlaceEdit, { ignoreLocks, isReplay }: ApplyOptions): void {
  const model = modelOf(kit, edit.model);
  const { at, region } = seats[edit.model]!;
  const { spans, corners, before, after } = edit;
  if (at && at.length !== corners * 2) throw new EditRefused(`“${model.name}” has another number of corners now`);
  if (!isReplay && (before === null) !== (at === undefined)) throw new EditRefused(`faces of “${model.name}” have been placed meanwhile`);
  let [end, from] = [0, 0];
  for (let i = 0; i < spans.length; i += 2) {
    if (spans[i]! < end || spans[i]! + spans[i + 1]! > corners)
      throw new EditRefused(`it concerns corners that “${model.name}” does not have`);
    end = spans[i]! + spans[i + 1]!;
    for (let k = 0; !isReplay && before && at && k < spans[i + 1]! * 2; k++)
      if (at[spans[i]! * 2 + k] !== before[from + k]) throw new EditRefused(`faces of “${model.name}” have been placed meanwhile`);
    from += spans[i + 1]! * 2;
  }
  if ((before && before.length !== from) || (after && after.length !== from))
    throw new EditRefused('its coordinates do not fit its corners');
  const locked = ignoreLocks || !edit.faces ? null : lockedRegions(model);
  for (let i = 0; locked && i < edit.faces!.length; i += 2)
    for (let f = edit.faces![i]!; f < edit.faces![i]! + edit.faces![i + 1]!; f++)
      if (locked.has(region[f]!)) throw lockedError(model, region[f]!);
}

export function checkRemesh({ kit, seats }: KitState, { model: id, before, after }: RemeshEdit, { isReplay }: ApplyOptions): void {
  const model = modelOf(kit, id);
  checkSizes(after, after.seats, model.name);
  if (isReplay) return;
  const had = { mesh: model.mesh, faces: model.faces, placement: model.placement };
  if (!isSame(had, { mesh: before.mesh, faces: before.faces, placement: before.placement }) || !areSame(seats[id]!, before.seats))
    throw new EditRefused(`“${model.name}” has changed meanwhile`);
}

function checkSizes(
  { faces, name }: (Pick<Model, 'faces'> & { name?: string }) | (Remeshed & { name?: string }),
  { cell, region, rule }: Seats,
  of = name,
): void {
  if (cell.length !== faces || region.length !== faces || (rule && rule.length !== faces))
    throw new EditRefused(`the colors do not fit the ${faces} faces of “${of}”`);
}

function areSame(a: Seats, b: Seats): boolean {
  const equal = (p: ArrayLike<number> | undefined, q: ArrayLike<number> | undefined) => (p && q ? equalArrays(p, q) : p === q);
  return equal(a.cell, b.cell) && equal(a.region, b.region) && equal(a.rule, b.rule) && equal(a.at, b.at);
}

function modelOf(kit: Kit, id: string): Model {
  const model = kit.models.find((m) => m.id === id);
  if (!model) throw new EditRefused(`the kit has no model “${id}” any more`);
  return model;
}

const lockedRegions = ({ regions }: Model): Set<number> | null => {
  const locked = regions.filter((r) => r.locked).map((r) => r.id);
  return locked.length ? new Set(locked) : null;
};

const lockedError = (model: Model, region: number): EditRefused =>
  new EditRefused(
    `faces of “${model.name}” lie in the locked region “${model.regions.find((r) => r.id === region)?.name ?? ''}”. Unlock it first`,
  );
