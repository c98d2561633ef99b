import { mostIn } from '../../../ground/limits';
import type { Kit, KitState, Placement } from '../../kit';
import { problemOfPlacement } from '../../placementNames';
import { swapped, type ApplyOptions, type EditKind, type StandEdit } from '../edit';
import { EditRefused, isSame } from '../refused';

export const stand: EditKind<StandEdit> = {
  apply: (state, { puts }, options) => standing(state, puts, options),
  inverse: ({ puts, ...edit }) => ({ ...edit, puts: puts.map(swapped).reverse() }),
  label: ({ label }) => label,
  size: ({ puts }) => 64 + puts.length * 256,
  contents: () => [],
  recolors: () => [],
  ofAll: () => true,
};

/**
 * One after the other, on one copy of the list: thousands come, move or go in the time of a few. Throws `EditRefused`
 * where one does not fit; the state is as it was then.
 */
export function standing(state: KitState, puts: StandEdit['puts'], { isReplay }: ApplyOptions): KitState {
  const { placements = [], ...others } = state.kit;
  const list = [...placements];
  const ids = new Set(list.map((p) => p.id));
  const names = new Set(list.map((p) => sameName(p.name)));
  for (const { index, before, after } of puts) {
    const fits = before ? list[index]?.id === before.id && (isReplay || isSame(list[index], before)) : index >= 0 && index <= list.length;
    if (!fits)
      throw new EditRefused(
        before ? `it expects “${before.name}” to be placement ${index}, but the stage has changed` : `there is no place ${index}`,
      );
    if (before) {
      ids.delete(before.id);
      names.delete(sameName(list[index]!.name));
    }
    if (after) {
      check(state.kit, after, ids, names);
      ids.add(after.id);
      names.add(sameName(after.name));
    }
    if (before && after) list[index] = after;
    else list.splice(index, before ? 1 : 0, ...(after ? [after] : []));
  }
  if (list.length > mostIn.placements) throw new EditRefused(`a stage holds ${mostIn.placements} placements`);
  // A list that may be absent is so again where it is empty.
  return { ...state, kit: list.length ? { ...others, placements: list } : others };
}

/** Names that differ in case alone are one. */
const sameName = (name: string): string => name.trim().toLowerCase();

function check(kit: Kit, after: Placement, ids: ReadonlySet<string>, names: ReadonlySet<string>): void {
  const problem = problemOfPlacement(kit, after);
  if (problem) throw new EditRefused(problem);
  if (ids.has(after.id)) throw new EditRefused(`the number “${after.id}” is taken`);
  if (names.has(sameName(after.name))) throw new EditRefused(`another placement is called “${after.name}”`);
}
