import type { PackingAsked } from '@/workers/unwrapping';
import { unlockedFaces } from '@/core/faces/regions/regions';
import { useEditor } from '../kit/editor';
import { clearanceOf, useIslands, type IslandsInView } from './islands';

/** Of some faces of the model in view those that may be laid anew: all but those of locked regions. */
export const openFaces = ({ of: { model } }: IslandsInView, faces: Uint32Array): Uint32Array =>
  unlockedFaces(model, useEditor.getState().state.seats[model.id]!, faces);

/** How islands of the model in view are packed, as it was chosen, beside all that stays on its sheet. `anew`: what is packed. */
export function packingFor({ of: { model, loaded }, sheet }: IslandsInView, anew: Uint32Array): PackingAsked {
  const { mayTurn, stacksLike, keepsDensity, margin, groupsBy, groupMargin } = useIslands.getState();
  const { kit, seats } = useEditor.getState().state;
  const clearance = clearanceOf(sheet);
  const groupOf = groupsBy === 'regions' ? seats[model.id]!.region : groupsBy === 'materials' ? loaded!.mesh.faceSlot : null;
  const beside = kit.models.flatMap(({ id, mesh }) => {
    const own = seats[id];
    return own ? [{ mesh, seats: { cell: own.cell, ...(own.at && { at: own.at }) }, ...(id === model.id && { except: anew }) }] : [];
  });
  return {
    sheet,
    beside,
    keepsDensity,
    stacksLike,
    mayTurn,
    clearance,
    margin: Math.max(margin, 2 * clearance),
    ...(groupOf && { groupOf, groupMargin: Math.max(groupMargin, 2 * clearance) }),
  };
}
