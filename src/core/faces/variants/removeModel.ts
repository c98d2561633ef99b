import { groupForAll, type Edit } from '../../kit/edit/edit';
import { copySeats, findModel, type KitState } from '../../kit/kit';
import { patchesOfWholeKit } from '../../kit/patches';
import { cuesWithout } from '../../kit/edit/cueEdits';
import { removePlacements } from '../../kit/edit/placements';
import { removeVariant } from './variantEdits';

/**
 * A model leaves the kit: with it what stands of it on the stage and the variants of it alone. Cues that spoke of any
 * of these say that it is gone. Throws where the kit has no such model.
 */
export function removeModel(state: KitState, id: string): Edit {
  const { kit } = state;
  const model = findModel(kit, id);
  // From the last to the first, so that what goes does not move what is still to go.
  const own = kit.variants.filter((v) => v.model === id).reverse();
  const placements = (kit.placements ?? []).filter((p) => p.model === id).map((p) => p.id);
  const offStage = removePlacements({ ...kit, cues: [] }, placements);
  return groupForAll(`Remove ${model.name}`, [
    ...cuesWithout(kit, { models: [id], placements, variants: own.map((v) => v.id) }),
    ...(offStage ? [offStage] : []),
    ...own.map((v) => removeVariant({ ...state, kit: { ...kit, cues: [], placements: [] } }, v)),
    {
      kind: 'put',
      list: 'models',
      of: 'kit',
      index: kit.models.indexOf(model),
      before: model,
      after: null,
      seats: copySeats(state.seats[id]!),
      // What variants of it alone say goes with these.
      patches: patchesOfWholeKit(state, id),
    },
  ]);
}
