import { group, type Edit } from '../edit/edit';
import { findModel, usableCells, type Kit, type KitState, type LeavingSlot, type Model, type Seats } from '../kit/kit';
import { rampOf } from '../sheet/cells';

/**
 * The material slots by which a model leaves without a texture, by number: those that were given stay as they are, as long as a face sits on their cell;
 * cells without one get the next free numbers, ramps first, in the order of the kit. Cells with one number leave as one slot, named after the first.
 */
export function leavingSlots(kit: Kit, { slots }: Pick<Model, 'slots'>, { cell }: Pick<Seats, 'cell'>): LeavingSlot[] {
  const used = new Set(cell);
  const given = slots.filter((s) => used.has(s.cell));
  const has = new Set(given.map((s) => s.cell));
  // A number that was given once is not given to another cell, so that what a game swapped stays swapped.
  let next = slots.reduce((most, s) => Math.max(most, s.number + 1), 0);
  const added = kit.sheets.flatMap((sheet) => {
    const inRamps = sheet.ramps.flatMap((r) => r.cells);
    const order = [...inRamps, ...usableCells(sheet).flatMap((c) => (rampOf(sheet, c.id) ? [] : [c.id]))];
    return order
      .filter((id) => used.has(id) && !has.has(id))
      .map((id): LeavingSlot => ({ number: next++, name: sheet.cells.find((c) => c.id === id)!.role || `slot ${next}`, cell: id }));
  });
  return [...given, ...added].sort((a, b) => a.number - b.number);
}

/** Keeps a model's slots, so that later exports number and name them the same; `null` where nothing changes. */
export function keepSlots(state: KitState, modelId: string, slots: readonly LeavingSlot[]): Edit | null {
  const model = findModel(state.kit, modelId);
  // Slots of cells that no face uses at the moment keep their numbers, too.
  const named = new Set(slots.map((s) => s.cell));
  const after = [...slots, ...model.slots.filter((s) => !named.has(s.cell))];
  if (JSON.stringify(after) === JSON.stringify(model.slots)) return null;
  const index = state.kit.models.indexOf(model);
  return group('Change material slots', [
    { kind: 'put', list: 'models', of: 'kit', index, before: model, after: { ...model, slots: after } },
  ]);
}

/** A slot gets another number. Where that is taken, the two change places. */
export function renumberSlot(slots: readonly LeavingSlot[], cell: number, number: number): LeavingSlot[] {
  const from = slots.find((s) => s.cell === cell)?.number;
  if (from === undefined) return [...slots];
  return slots.map((s) => (s.number === from ? { ...s, number } : s.number === number ? { ...s, number: from } : s));
}

/** A cell leaves by the slot of another one from now on. */
export function mergeSlots(slots: readonly LeavingSlot[], cell: number, into: number): LeavingSlot[] {
  const target = slots.find((s) => s.cell === into);
  return slots.map((s) => (target && s.cell === cell ? { ...s, number: target.number, name: target.name } : s));
}
