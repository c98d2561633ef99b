import type { Edit } from '../kit/edit/edit';
import { kitAfter } from '../kit/edit/kitAfter';
import type { Kit, KitState } from '../kit/kit';
import { followed } from '../kit/references';
import { moveFaces } from './moveFaces';
import { moveTexels } from './moveTexels';
import { keepingLooks } from '../kit/colorings/keepingLooks';

/** For each cell that goes the one that takes its place; 0: none does. */
export type Successors = ReadonlyMap<number, number>;

export const goingTo = (gone: Iterable<number>, to = 0): Successors =>
  new Map([...gone].flatMap((id) => (id === to ? [] : [[id, to] as const])));

/**
 * What refers to cells that go, in any coloring, refers to their successors: faces, regions, slots; or no more: ramps, what
 * was appended, what variants say, without a change of what they show. The cells themselves are left to the caller, with
 * the kit as it is by then (faces apart).
 */
export function retireCells(state: KitState, successors: Successors): { edits: Edit[]; kit: Kit } {
  const { edits, kit } = retireInDocument(state.kit, successors);
  return { edits: [...moveFaces(state, successors), ...moveTexels(state, successors), ...edits], kit };
}

/** The same for cells on which no face sits. */
export function retireInDocument(kit: Kit, successors: Successors): { edits: Edit[]; kit: Kit } {
  const fate = { cell: (id: number) => successors.get(id) ?? id };
  const after = keepingLooks(kit, followed(kit, fate), new Set(successors.keys()));
  const edits = editsBetween(kit, after);
  return { edits, kit: kitAfter(kit, edits) };
}

/** Models, variants, ramps and frozen pictures that differ; entries that are the same object do not. */
function editsBetween(before: Kit, after: Kit): Edit[] {
  const edits: Edit[] = [];
  before.models.forEach((from, index) => {
    const to = after.models[index]!;
    if (to !== from) edits.push({ kind: 'put', list: 'models', of: 'kit', index, before: from, after: to });
  });
  before.variants.forEach((from, index) => {
    const to = after.variants[index]!;
    if (to !== from) edits.push({ kind: 'put', list: 'variants', of: 'kit', index, before: from, after: to });
  });
  before.sheets.forEach(({ id, ramps, frozen }, s) => {
    const to = after.sheets[s]!;
    // From the last to the first, so that what goes does not move what is still to come.
    for (let index = ramps.length - 1; index >= 0; index--) {
      const from = ramps[index]!;
      const ramp = to.ramps.find((r) => r.id === from.id) ?? null;
      if (ramp !== from) edits.push({ kind: 'put', list: 'ramps', of: id, index, before: from, after: ramp });
    }
    if (to.frozen !== frozen) edits.push({ kind: 'set', of: id, before: { frozen }, after: { frozen: to.frozen } });
  });
  return edits;
}
