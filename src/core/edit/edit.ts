import { checkPlace, checkPut, checkRemesh, checkSpans, EditRefused, isSame } from './checkEdit';
import type { Cell, Kit, KitState, Model, Ramp, Seats, Sheet, Variant, Reference, HandOff } from '../kit/kit';

/** A change of a kit as a small value. Applying its inverse restores the state exactly. */
export type Edit = PutEdit | SetEdit | SeatEdit | PlaceEdit | RegionEdit | RemeshEdit | GroupEdit;

/** Adds, replaces or removes one entry of a list: of the kit, or of a sheet (`of`: its id). */
export type PutEdit = { kind: 'put'; index: number } & (
  | { list: 'cells'; of: string; before: Cell | null; after: Cell | null }
  | { list: 'ramps'; of: string; before: Ramp | null; after: Ramp | null }
  | { list: 'sheets'; of: 'kit'; before: Sheet | null; after: Sheet | null }
  | { list: 'models'; of: 'kit'; before: Model | null; after: Model | null; seats?: Seats }
  | { list: 'variants'; of: 'kit'; before: Variant | null; after: Variant | null }
  | { list: 'references'; of: 'kit'; before: Reference | null; after: Reference | null }
  | { list: 'handOffs'; of: 'kit'; before: HandOff | null; after: HandOff | null }
);

/** Sets plain fields of the kit, or of a sheet (`of`: its id). */
export type SetEdit =
  | { kind: 'set'; of: 'kit'; before: Partial<KitFields>; after: Partial<KitFields> }
  | { kind: 'set'; of: string; before: Partial<SheetFields>; after: Partial<SheetFields> };
type KitFields = Pick<Kit, 'name' | 'nextCell' | 'allowed' | 'slotsFrom'>;
type SheetFields = Omit<Sheet, 'id' | 'cells' | 'ramps'>;

/** Faces move to other cells: spans of 4 numbers (first face, count, cell before, cell after), ascending and disjoint. */
export interface SeatEdit {
  kind: 'seat';
  model: string;
  spans: Uint32Array;
}

/**
 * Corners move inside their cells: spans of 2 numbers (first corner, count), ascending and disjoint; 2 coordinates for each corner in them. `null`: the model
 * has no coordinates there at all (all corners stand in the middle); `corners` is their number in the model.
 */
export interface PlaceEdit {
  kind: 'place';
  model: string;
  corners: number;
  spans: Uint32Array;
  /** Pairs of first face and count: the faces whose corners these are. */
  faces?: Uint32Array;
  before: Float32Array | null;
  after: Float32Array | null;
}

/** Faces move to other regions; spans as in `SeatEdit`. */
export interface RegionEdit {
  kind: 'region';
  model: string;
  spans: Uint32Array;
}

/** A model takes another mesh, with seats carried over. */
export interface RemeshEdit {
  kind: 'remesh';
  model: string;
  before: Remeshed;
  after: Remeshed;
}
export interface Remeshed {
  mesh: string;
  faces: number;
  seats: Seats;
  /** Absent: the model has none. */
  placement?: Model['placement'];
  /** Absent: they stay as they are. */
  source?: Model['source'];
  seams?: Model['seams'];
  picks?: Model['picks'];
}

export interface GroupEdit {
  kind: 'group';
  label: string;
  edits: Edit[];
}

export function group(label: string, edits: Edit[]): Edit {
  return { kind: 'group', label, edits };
}

export interface ApplyOptions {
  /** Undo and redo bring back what was, whatever has been locked since. */
  ignoreLocks?: boolean;
  /** Stored edits are done again on the state that they were made for: only that they fit into it is checked. */
  isReplay?: boolean;
}

/**
 * The state after an edit. The document is copied along the changed path; seats are patched in place in their arrays, under a new wrapper, so
 * that coloring a large model copies nothing.
 *
 * This is the one door for changes. It throws `EditRefused`, and leaves the state as it was, where what was before is not what the edit expects (undo is never a guess), where
 * ids or sizes do not fit, and where faces of a locked region would change their color.
 */
export function applyEdit(state: KitState, edit: Edit, options: ApplyOptions = {}): KitState {
  switch (edit.kind) {
    case 'group':
      return applyGroup(state, edit, options);
    case 'put':
      return applyPut(state, edit, options);
    case 'set':
      return { ...state, kit: applySet(state.kit, edit, options) };
    case 'seat':
      checkSpans(state, edit, options);
      return patchSeats(state, edit.model, 'cell', edit.spans);
    case 'region':
      checkSpans(state, edit, options);
      return patchSeats(state, edit.model, 'region', edit.spans);
    case 'place':
      checkPlace(state, edit, options);
      return applyPlace(state, edit);
    case 'remesh':
      checkRemesh(state, edit, options);
      return applyRemesh(state, edit);
  }
}

/** All edits of a group, or none: seats are patched in place, so what was done before one that is refused is taken back. */
function applyGroup(state: KitState, { edits }: GroupEdit, options: ApplyOptions): KitState {
  let next = state;
  let done = 0;
  try {
    for (; done < edits.length; done++) next = applyEdit(next, edits[done]!, options);
    return next;
  } catch (error) {
    while (done-- > 0) next = applyEdit(next, inverseOf(edits[done]!), { isReplay: true, ignoreLocks: true });
    throw error;
  }
}

function applyRemesh(state: KitState, edit: RemeshEdit): KitState {
  const { mesh, faces, seats, placement, source, seams, picks } = edit.after;
  const models = state.kit.models.map((m) => {
    if (m.id !== edit.model) return m;
    const { placement: _, picks: had, ...rest } = m;
    const kept = picks ?? had;
    return {
      ...rest,
      mesh,
      faces,
      ...(placement && { placement }),
      ...(source && { source }),
      ...(seams && { seams }),
      ...(kept?.length && { picks: kept }),
    };
  });
  return { kit: { ...state.kit, models }, seats: { ...state.seats, [edit.model]: copySeats(seats) } };
}

export function inverseOf(edit: Edit): Edit {
  switch (edit.kind) {
    case 'group':
      return { ...edit, edits: edit.edits.map(inverseOf).reverse() };
    case 'seat':
    case 'region': {
      const spans = edit.spans.slice();
      for (let i = 0; i < spans.length; i += 4) [spans[i + 2], spans[i + 3]] = [spans[i + 3]!, spans[i + 2]!];
      return { ...edit, spans };
    }
    default:
      return { ...edit, before: edit.after, after: edit.before } as Edit;
  }
}

function applyPut(state: KitState, edit: PutEdit, options: ApplyOptions): KitState {
  const { kit } = state;
  checkPut(state, edit);
  if (edit.of !== 'kit') {
    const sheets = kit.sheets.map((s) =>
      s.id === edit.of ? { ...s, [edit.list]: putInto(s[edit.list as 'cells'], edit as never, options) } : s,
    );
    return { ...state, kit: { ...kit, sheets } };
  }
  const next = { ...kit, [edit.list]: putInto(kit[edit.list as 'models'], edit as never, options) };
  if (edit.list !== 'models') return { ...state, kit: next };
  const seats = { ...state.seats };
  if (edit.before && edit.before.id !== edit.after?.id) delete seats[edit.before.id];
  if (edit.after && edit.after.id !== edit.before?.id) seats[edit.after.id] = copySeats(edit.seats!);
  return { kit: next, seats };
}

function putInto<T extends { id: unknown }>(
  list: T[],
  { index, before, after }: { index: number; before: T | null; after: T | null },
  { isReplay }: ApplyOptions,
): T[] {
  const fits = before ? list[index]?.id === before.id && (isReplay || isSame(list[index], before)) : index >= 0 && index <= list.length;
  if (!fits)
    throw new EditRefused(
      before ? `it expects entry ${index} to be “${String(before.id)}”, but the list has changed` : `there is no place ${index}`,
    );
  const next = [...list];
  next.splice(index, before ? 1 : 0, ...(after ? [after] : []));
  return next;
}

function applySet(kit: Kit, edit: SetEdit, { isReplay }: ApplyOptions): Kit {
  const assign = <T extends object>(target: T): T => {
    const present = target as Record<string, unknown>;
    const before = edit.before as Record<string, unknown>;
    for (const key of new Set([...Object.keys(before), ...Object.keys(edit.after)]))
      if (!isReplay && !isSame(present[key], before[key]))
        throw new EditRefused(`the ${key} of ${edit.of === 'kit' ? 'the kit' : 'the sheet'} has changed`);
    const next: Record<string, unknown> = { ...target, ...edit.after };
    // A field that was absent is absent again.
    for (const key of Object.keys(edit.before)) if (!(key in edit.after)) delete next[key];
    return next as T;
  };
  if (edit.of === 'kit') return assign(kit);
  if (!kit.sheets.some((s) => s.id === edit.of)) throw new EditRefused('the kit has no such sheet any more');
  return { ...kit, sheets: kit.sheets.map((s) => (s.id === edit.of ? assign(s) : s)) };
}

function patchSeats(state: KitState, model: string, field: 'cell' | 'region', spans: Uint32Array): KitState {
  const seats = state.seats[model]!;
  const values = seats[field];
  for (let i = 0; i < spans.length; i += 4) {
    const start = spans[i]!;
    const count = spans[i + 1]!;
    // Most spans of scattered faces are one face long, for which filling has its price.
    if (count === 1) values[start] = spans[i + 3]!;
    else values.fill(spans[i + 3]!, start, start + count);
  }
  return { ...state, seats: { ...state.seats, [model]: { ...seats } } };
}

function applyPlace(state: KitState, { model, corners, spans, after }: PlaceEdit): KitState {
  const { at: present, ...rest } = state.seats[model]!;
  if (!after) return { ...state, seats: { ...state.seats, [model]: rest } };
  const at = present ?? new Float32Array(corners * 2).fill(0.5);
  let from = 0;
  for (let i = 0; i < spans.length; i += 2) {
    const length = spans[i + 1]! * 2;
    at.set(after.subarray(from, from + length), spans[i]! * 2);
    from += length;
  }
  return { ...state, seats: { ...state.seats, [model]: { ...rest, at } } };
}

/** Edits keep their own arrays: those in the state are patched in place. */
export function copySeats(seats: Seats): Seats {
  return {
    cell: seats.cell.slice(),
    region: seats.region.slice(),
    ...(seats.rule && { rule: seats.rule.slice() }),
    ...(seats.at && { at: seats.at.slice() }),
  };
}

/** Bytes that an edit takes to keep, about. */
export function sizeOfEdit(edit: Edit): number {
  switch (edit.kind) {
    case 'group':
      return edit.edits.reduce((sum, e) => sum + sizeOfEdit(e), 64);
    case 'seat':
    case 'region':
      return 64 + edit.spans.byteLength;
    case 'place':
      return 64 + edit.spans.byteLength + (edit.faces?.byteLength ?? 0) + (edit.before?.byteLength ?? 0) + (edit.after?.byteLength ?? 0);
    case 'remesh':
      return [edit.before, edit.after].reduce((sum, r) => sum + sizeOfSeats(r.seats) + 8 * (r.seams?.length ?? 0), 128);
    case 'put':
      return 256 + ('seats' in edit && edit.seats ? sizeOfSeats(edit.seats) : 0);
    case 'set':
      return 128;
  }
}

const sizeOfSeats = ({ cell, region, rule, at }: Seats): number =>
  cell.byteLength + region.byteLength + (rule?.byteLength ?? 0) + (at?.byteLength ?? 0);
