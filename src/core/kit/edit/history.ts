import type { KitState } from '../kit';
import { applyEdit, inverseOf, labelOf } from './editKinds';
import { group, type Edit } from './edit';
import { joinedPixels } from './kinds/pixels';

/** Edits done and undone. `cursor` edits are in force; those after it can be done again. */
export interface History {
  edits: readonly Edit[];
  cursor: number;
}

export const emptyHistory: History = { edits: [], cursor: 0 };

export interface Step {
  state: KitState;
  history: History;
}

/** Applies a new edit; what had been undone is forgotten. */
export function perform({ state, history }: Step, edit: Edit): Step {
  const edits = [...history.edits.slice(0, history.cursor), edit];
  return { state: applyEdit(state, edit), history: { edits, cursor: edits.length } };
}

/**
 * Applies a new edit as the continuation of the one it names, if that is still the last one: both are one
 * undo. Else it is one of its own.
 */
export function performWith(step: Step, edit: Edit, joins: Edit | null): Step {
  const { state, history } = step;
  const last = history.edits[history.cursor - 1];
  if (!last || last !== joins) return perform(step, edit);
  const edits = [...history.edits.slice(0, history.cursor - 1), joined(last, edit)];
  return { state: applyEdit(state, edit), history: { edits, cursor: edits.length } };
}

/** Two changes of the same entry, or of one art, are one change; other edits become a group. */
function joined(last: Edit, edit: Edit): Edit {
  if (last.kind === 'put' && edit.kind === 'put' && last.after && last.after === edit.before && last.index === edit.index)
    return { ...edit, before: last.before } as Edit;
  if (last.kind === 'pixels' && edit.kind === 'pixels' && last.art === edit.art) return joinedPixels(last, edit);
  // A stroke that began with more than texels goes on at its end.
  const tail = last.kind === 'group' ? last.edits.at(-1) : undefined;
  if (last.kind === 'group' && tail?.kind === 'pixels' && edit.kind === 'pixels' && tail.art === edit.art)
    return { ...last, edits: [...last.edits.slice(0, -1), joinedPixels(tail, edit)] };
  return group(labelOf(edit), [last, edit]);
}

export const canUndo = (history: History): boolean => history.cursor > 0;
export const canRedo = (history: History): boolean => history.cursor < history.edits.length;

export function undo({ state, history }: Step): Step {
  const edit = history.edits[history.cursor - 1];
  if (!edit) return { state, history };
  return { state: applyEdit(state, inverseOf(edit), { ignoreLocks: true }), history: { ...history, cursor: history.cursor - 1 } };
}

export function redo({ state, history }: Step): Step {
  const edit = history.edits[history.cursor];
  if (!edit) return { state, history };
  return { state: applyEdit(state, edit, { ignoreLocks: true }), history: { ...history, cursor: history.cursor + 1 } };
}
