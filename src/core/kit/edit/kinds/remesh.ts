import { withId } from '../../../ground/byId';
import { ofModel } from '../../contents';
import { copySeats, sizeOfSeats, type KitState } from '../../kit';
import { areSamePatches, copyPatch, patchesOfModel, sizeOfPatches, withPatch } from '../../patches';
import { swapped, type ApplyOptions, type EditKind, type RemeshEdit } from '../edit';
import { areSame, checkSizes, EditRefused, isSame, modelOf } from '../refused';

export const remesh: EditKind<RemeshEdit> = {
  apply: (state, edit, options) => {
    checkRemesh(state, edit, options);
    return applyRemesh(state, edit);
  },
  inverse: swapped,
  label: () => 'Repair the mesh',
  size: ({ before, after }) =>
    [before, after].reduce((sum, r) => sum + sizeOfSeats(r.seats) + sizeOfPatches(r.patches) + 8 * (r.seams?.length ?? 0), 128),
  contents: ({ before, after }) => [before, after].flatMap(ofModel),
  recolors: ({ model }) => [model],
  ofAll: ({ before, after }) => before.mesh !== after.mesh,
};

function checkRemesh(state: KitState, { model: id, before, after }: RemeshEdit, { isReplay }: ApplyOptions): void {
  const { kit, seats } = state;
  const model = modelOf(kit, id);
  checkSizes(after.faces, after.seats, model.name);
  for (const { cell } of Object.values(after.patches ?? {}))
    if (cell.length !== after.faces) throw new EditRefused(`what a variant says does not fit the faces of “${model.name}”`);
  if (isReplay) return;
  if (!areSamePatches(patchesOfModel(state, id), before.patches))
    throw new EditRefused(`a variant of “${model.name}” has changed meanwhile`);
  const had = { mesh: model.mesh, faces: model.faces, placement: model.placement };
  if (!isSame(had, { mesh: before.mesh, faces: before.faces, placement: before.placement }) || !areSame(seats[id]!, before.seats))
    throw new EditRefused(`“${model.name}” has changed meanwhile`);
}

function applyRemesh(before: KitState, edit: RemeshEdit): KitState {
  let state = before;
  for (const variant of new Set([edit.before, edit.after].flatMap((m) => Object.keys(m.patches ?? {})))) {
    const patch = edit.after.patches?.[variant];
    state = withPatch(state, variant, edit.model, patch && copyPatch(patch));
  }
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
  return { ...state, kit: { ...state.kit, models }, seats: withId(state.seats, edit.model, copySeats(seats)) };
}
