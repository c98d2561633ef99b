import { group, type Edit } from '@/core/kit/edit/edit';
import type { LeavingSlot, Model } from '@/core/kit/kit';
import { beginSlotsAt, keepSlots, leavingSlots, mergeSlots, recolorSlot, renumberSlot } from '@/core/faces/regions/slots';
import { attempt } from './board';
import { dispatch } from '../kit/edits';
import { useEditor } from '../kit/editor';

const slotsOf = (model: Model): LeavingSlot[] => {
  const { kit, seats } = useEditor.getState().state;
  return leavingSlots(kit, model, seats[model.id]!);
};

/** What leaves once keeps its numbers and names. */
export function keepSlotsOf(models: readonly Model[]): void {
  const { state, readOnly } = useEditor.getState();
  if (readOnly) return;
  const edits = models.flatMap((m): Edit[] => {
    const edit = keepSlots(state, m.id, slotsOf(m));
    return edit ? [edit] : [];
  });
  if (edits.length) dispatch(group('Number the material slots', edits));
}

function change(model: Model, make: (slots: LeavingSlot[]) => LeavingSlot[]): void {
  dispatch(keepSlots(useEditor.getState().state, model.id, make(slotsOf(model))));
}

export const renameSlot = (model: Model, number: number, name: string): void =>
  change(model, (slots) => slots.map((s) => (s.number === number ? { ...s, name, named: true as const } : s)));
export const setSlotNumber = (model: Model, cell: number, number: number): void =>
  change(model, (slots) => renumberSlot(slots, cell, number));
export const joinSlots = (model: Model, cell: number, into: number): void => change(model, (slots) => mergeSlots(slots, cell, into));

/** All faces of a slot take another color, and the slot keeps its number. */
export const setSlotColor = (model: Model, cell: number, to: number): boolean =>
  attempt(() => recolorSlot(useEditor.getState().state, model.id, cell, to), 'The slot has another color');
export const setSlotsFrom = (from: 0 | 1): boolean =>
  attempt(() => beginSlotsAt(useEditor.getState().state, from), `Slots begin at ${from}`);
