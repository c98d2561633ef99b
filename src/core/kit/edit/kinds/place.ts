import { withId } from '../../../ground/byId';
import type { KitState } from '../../kit';
import { swapped, type ApplyOptions, type EditKind, type PlaceEdit } from '../edit';
import { EditRefused, lockedError, lockedRegions, modelOf } from '../refused';

export const place: EditKind<PlaceEdit> = {
  apply: (state, edit, options) => {
    checkPlace(state, edit, options);
    return applyPlace(state, edit);
  },
  inverse: swapped,
  label: () => 'Place faces in their cell',
  size: ({ spans, faces, before, after }) =>
    64 + spans.byteLength + (faces?.byteLength ?? 0) + (before?.byteLength ?? 0) + (after?.byteLength ?? 0),
  contents: () => [],
  recolors: () => [],
  ofAll: () => false,
};

function checkPlace({ kit, seats }: KitState, edit: PlaceEdit, { ignoreLocks, isReplay }: ApplyOptions): void {
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

function applyPlace(state: KitState, { model, corners, spans, after }: PlaceEdit): KitState {
  const { at: present, ...rest } = state.seats[model]!;
  if (!after) return { ...state, seats: withId(state.seats, model, rest) };
  const at = present ?? new Float32Array(corners * 2).fill(0.5);
  let from = 0;
  for (let i = 0; i < spans.length; i += 2) {
    const length = spans[i + 1]! * 2;
    at.set(after.subarray(from, from + length), spans[i]! * 2);
    from += length;
  }
  return { ...state, seats: withId(state.seats, model, { ...rest, at }) };
}
