import { tallyOf, type Tally } from '@/core/files/budget/tally';
import { useHandOff } from '../chosen/handOff';
import { useEditor } from '../kit/editor';
import { usePictures } from '../chosen/pictures';

/** Whether meshes are still to come that draw calls are counted from. */
export const isCounting = ({ preparing, state, meshes }: ReturnType<typeof useEditor.getState>): boolean =>
  preparing > 0 && state.kit.models.some((m) => !meshes[m.mesh]);

/** What the open kit costs as it stands, left in the way that is chosen in Hand-off. */
export function tallyNow({ state, meshes } = useEditor.getState()): Tally {
  const { as, meshes: way, nodes } = useHandOff.getState();
  const { rasters: pictures } = usePictures.getState();
  return tallyOf(state, state.kit.models, (m) => meshes[m.mesh]?.mesh, { as, meshes: way, nodes, pictures });
}
