import { isSame } from '../../kit/edit/refused';
import { group, type Edit } from '../../kit/edit/edit';
import { findCell, findModel, usableCells, type Kit, type KitState, type LeavingSlot, type Model, type Seats } from '../../kit/kit';
import { seatFaces } from '../../kit/edit/seatFaces';
import { facesWhere } from '../../shapes/mesh/facesWhere';
import { rampOf } from '../../sheet/cells';

/** The name of a slot that the artist did not name: that of its color. */
const nameOf = (kit: Kit, { number, name, cell, named }: LeavingSlot): string =>
  named ? name : findCell(kit, cell)?.cell.role || name || `slot ${number}`;

/**
 * The number after all that were given: one that was given once is not given to another cell, so that what a
 * game swapped stays swapped.
 */
const nextNumber = ({ slotsFrom = 0 }: Kit, slots: readonly LeavingSlot[]): number =>
  slots.reduce<number>((most, s) => Math.max(most, s.number + 1), slotsFrom);

/**
 * The material slots by which a model leaves without a texture, by number: those that it has, as long as a
 * face sits on their cell; cells without one get the next numbers, ramps first, in the order of the kit.
 * Cells with one number leave as one slot. Gaps stay gaps. A slot is called as its color is until the artist
 * names it.
 */
export function leavingSlots(kit: Kit, { slots }: Pick<Model, 'slots'>, { cell }: Pick<Seats, 'cell'>): LeavingSlot[] {
  const used = new Set(cell);
  const given = slots.filter((s) => used.has(s.cell)).map((s) => ({ ...s, name: nameOf(kit, s) }));
  const has = new Set(given.map((s) => s.cell));
  let next = nextNumber(kit, slots);
  const added = kit.sheets.flatMap((sheet) => {
    const inRamps = sheet.ramps.flatMap((r) => r.cells);
    const order = [...inRamps, ...usableCells(sheet).flatMap((c) => (rampOf(sheet, c.id) ? [] : [c.id]))];
    return order
      .filter((id) => used.has(id) && !has.has(id))
      .map((id): LeavingSlot => {
        const slot = { number: next++, name: '', cell: id };
        return { ...slot, name: nameOf(kit, slot) };
      });
  });
  return withOneName([...given, ...added].sort((a, b) => a.number - b.number));
}

/** Cells with one number leave as one slot, so that they have one name: that of the first. */
export function withOneName(slots: readonly LeavingSlot[]): LeavingSlot[] {
  const first = new Map<number, LeavingSlot>();
  return slots.map((slot) => {
    const known = first.get(slot.number);
    if (!known) first.set(slot.number, slot);
    if (!known || (known.name === slot.name && known.named === slot.named)) return slot;
    const { named: _, ...rest } = slot;
    return { ...rest, name: known.name, ...(known.named && { named: known.named }) };
  });
}

/**
 * What a model's slots become when its faces change from sitting on some cells to sitting on others; `null`
 * where they stay. A cell that comes gets the next number, so that numbers follow the order of coloring;
 * where one color as a whole gave way to another one, the slot takes that and keeps its number.
 */
export function slotsAfter(
  kit: Kit,
  { slots }: Pick<Model, 'slots'>,
  before: ReadonlySet<number>,
  after: ReadonlySet<number>,
): LeavingSlot[] | null {
  const has = new Set(slots.map((s) => s.cell));
  const come = [...after].filter((id) => id !== 0 && !has.has(id) && findCell(kit, id));
  if (!come.length) return null;
  const gone = slots.filter((s) => before.has(s.cell) && !after.has(s.cell));
  const [swapped] = gone;
  if (gone.length === 1 && come.length === 1 && !before.has(come[0]!))
    return slots.map((s) => (s === swapped ? { ...s, cell: come[0]!, name: nameOf(kit, { ...s, cell: come[0]! }) } : s));
  let next = nextNumber(kit, slots);
  const added = come.map((cell): LeavingSlot => {
    const slot = { number: next++, name: '', cell };
    return { ...slot, name: nameOf(kit, slot) };
  });
  return [...slots, ...added];
}

/** A model takes these slots. */
export function putSlots(state: KitState, modelId: string, slots: LeavingSlot[]): Edit {
  const model = findModel(state.kit, modelId);
  return { kind: 'put', list: 'models', of: 'kit', index: state.kit.models.indexOf(model), before: model, after: { ...model, slots } };
}

/** Slots of cells that no face uses at the moment keep their numbers, too. */
function withUnused(model: Model, slots: readonly LeavingSlot[]): LeavingSlot[] {
  const has = new Set(slots.map((s) => s.cell));
  return [...slots, ...model.slots.filter((s) => !has.has(s.cell))];
}

/** Keeps a model's slots, so that later exports number and name them the same; `null` where nothing changes. */
export function keepSlots(state: KitState, modelId: string, slots: readonly LeavingSlot[]): Edit | null {
  const model = findModel(state.kit, modelId);
  const after = withUnused(model, slots);
  if (isSame(after, model.slots)) return null;
  return group('Change material slots', [putSlots(state, modelId, after)]);
}

/** A slot gets another number. Where that is taken, the two change places. */
export function renumberSlot(slots: readonly LeavingSlot[], cell: number, number: number): LeavingSlot[] {
  const from = slots.find((s) => s.cell === cell)?.number;
  if (from === undefined) return [...slots];
  return slots.map((s) => (s.number === from ? { ...s, number } : s.number === number ? { ...s, number: from } : s));
}

/**
 * A cell leaves by the slot of another one from now on, and stands behind it, so that the slot is called as
 * before.
 */
export function mergeSlots(slots: readonly LeavingSlot[], cell: number, into: number): LeavingSlot[] {
  const [moved, target] = [cell, into].map((c) => slots.find((s) => s.cell === c));
  if (!moved || !target || moved === target) return [...slots];
  const { number, name, named } = target;
  return slots.filter((s) => s !== moved).flatMap((s) => (s === target ? [s, { cell, number, name, ...(named && { named }) }] : [s]));
}

/**
 * All faces of a slot take another color; its number stays, and so does a name that it was given. Throws
 * where that color has a slot already.
 */
export function recolorSlot(state: KitState, modelId: string, cell: number, to: number): Edit | null {
  const model = findModel(state.kit, modelId);
  const seats = state.seats[modelId]!;
  if (cell === to) return null;
  const slots = leavingSlots(state.kit, model, seats);
  const other = slots.find((s) => s.cell === to);
  if (other) throw new Error(`“${other.name}” is slot ${other.number} of this model already. Merge the two instead.`);
  const faces = facesWhere(seats.cell.length, (f) => seats.cell[f] === cell);
  const after = withUnused(model, slots)
    .filter((s) => s.cell !== to)
    .map((s) => (s.cell === cell ? { ...s, cell: to, name: nameOf(state.kit, { ...s, cell: to }) } : s));
  const seated = seatFaces(modelId, seats.cell, faces, to);
  return group('Another color for a slot', [putSlots(state, modelId, after), ...(seated ? [seated] : [])]);
}

/** Numbers of all models begin at 0 or at 1 from now on; those that were given move along. */
export function beginSlotsAt(state: KitState, from: 0 | 1): Edit | null {
  const { slotsFrom = 0 } = state.kit;
  if (slotsFrom === from) return null;
  const by = from - slotsFrom;
  const moved = state.kit.models.flatMap((m) =>
    m.slots.length
      ? [
          putSlots(
            state,
            m.id,
            m.slots.map((s) => ({ ...s, number: Math.max(0, s.number + by) })),
          ),
        ]
      : [],
  );
  return group(`Number slots from ${from}`, [
    { kind: 'set', of: 'kit', before: 'slotsFrom' in state.kit ? { slotsFrom } : {}, after: { slotsFrom: from } },
    ...moved,
  ]);
}
