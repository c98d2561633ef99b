import type { KitState } from '../kit';
import type { ApplyOptions, Edit, EditKind, GroupEdit } from './edit';
import { checkArt, checkBounds, checkLayouts } from './bounds';
import { patch } from './kinds/patch';
import { canvas, pixels } from './kinds/pixels';
import { place } from './kinds/place';
import { put } from './kinds/put';
import { remesh } from './kinds/remesh';
import { set } from './kinds/set';
import { stand } from './kinds/stand';
import { region, rule, seat } from './kinds/spans';

/** Several edits that are one for the artist: all of them, or none. */
const group: EditKind<GroupEdit> = {
  apply: applyGroup,
  inverse: (edit) => ({ ...edit, edits: edit.edits.map(inverseOf).reverse() }),
  label: (edit) => edit.label,
  size: ({ edits }) => edits.reduce((sum, e) => sum + sizeOfEdit(e), 64),
  contents: ({ edits }) => edits.flatMap(contentsOfEdit),
  recolors: ({ edits }) => edits.flatMap(recoloredModels),
  ofAll: ({ edits, forAll }) => forAll ?? edits.every(isOfAll),
};

/** All kinds of edit: a new one is an entry here, a file in `kinds` and its type in `edit.ts`. */
const kinds: { [K in Edit['kind']]: EditKind<Extract<Edit, { kind: K }>> } = {
  put,
  set,
  stand,
  seat,
  region,
  rule,
  place,
  patch,
  pixels,
  canvas,
  remesh,
  group,
};
const kindOf = (edit: Edit): EditKind<Edit> => kinds[edit.kind] as unknown as EditKind<Edit>;

/**
 * The state after an edit. The document is copied along the changed path; seats are patched in place in their
 * arrays, under a new wrapper, so that coloring a large model copies nothing.
 *
 * This is the one door for changes. It throws `EditRefused`, and leaves the state as it was, where what was
 * before is not what the edit expects (undo is never a guess), where ids or sizes do not fit, where a bound of what is
 * kept is passed, where cells of a sheet would lie over each other or art would have no texels in the end, and where faces
 * of a locked region would change their color.
 */
export function applyEdit(state: KitState, edit: Edit, options: ApplyOptions = {}): KitState {
  const isNew = !options.isReplay && !options.ignoreLocks;
  const next = applied(state, edit, options);
  if (!isNew) return next;
  try {
    checkLayouts(next, edit);
    checkArt(next, edit);
    return next;
  } catch (error) {
    applied(next, inverseOf(edit), { isReplay: true, ignoreLocks: true });
    throw error;
  }
}

function applied(state: KitState, edit: Edit, options: ApplyOptions): KitState {
  const next = kindOf(edit).apply(state, edit, options);
  // What was, comes back, within the bounds of its day. What is bounded is copied: nothing is to be taken back.
  if (!options.isReplay && !options.ignoreLocks) checkBounds(state, edit);
  return next;
}
export const inverseOf = (edit: Edit): Edit => kindOf(edit).inverse(edit);
export const labelOf = (edit: Edit): string => kindOf(edit).label(edit);
export const sizeOfEdit = (edit: Edit): number => kindOf(edit).size(edit);
export const contentsOfEdit = (edit: Edit): string[] => kindOf(edit).contents(edit);
/** Models whose faces may sit on other cells after it, each as often as it is concerned. */
export const recoloredModels = (edit: Edit): string[] => kindOf(edit).recolors(edit);

/** Whether an edit is of every coloring, made for the kit itself, also while a variant is in hand. */
export const isOfAll = (edit: Edit): boolean => kindOf(edit).ofAll(edit);

/**
 * All edits of a group, or none: seats are patched in place, so what was done before one that is refused is
 * taken back.
 */
function applyGroup(state: KitState, { edits }: GroupEdit, options: ApplyOptions): KitState {
  let next = state;
  let done = 0;
  try {
    for (; done < edits.length; done++) next = applied(next, edits[done]!, options);
    return next;
  } catch (error) {
    while (done-- > 0) next = applied(next, inverseOf(edits[done]!), { isReplay: true, ignoreLocks: true });
    throw error;
  }
}
