import { mostIn } from '@/core/ground/limits';
import type { Cue, Kit } from '@/core/kit/kit';
import { problemOfCueName } from '@/core/kit/cues';
import { addCue, changeCue, cuesAbout, moveCue, newCue, removeCue, type Leaves } from '@/core/kit/edit/cueEdits';
import { group } from '@/core/kit/edit/edit';
import { count } from '@/core/ground/words';
import { dispatch, undoEdit } from '../kit/edits';
import { baseState } from '../kit/editor';
import { announce } from '../told/announce';
import { notify } from '../told/notices';

const kitNow = (): Kit => baseState().kit;

/** One more cue, about a placement (the first where none is told). Returns its id. */
export function makeCue(about?: string): string | null {
  const { cues = [] } = kitNow();
  if (cues.length >= mostIn.cues) {
    notify(`A stage has at most ${mostIn.cues} cues.`, { isError: true });
    return null;
  }
  const cue = newCue(kitNow(), about);
  return dispatch(group('Add a cue', [addCue(kitNow(), cue)])) ? cue.id : null;
}

export const setCue = (cue: Cue): unknown => dispatch(changeCue(kitNow(), cue));
export const problemOfCueNameNow = (id: string, name: string): string | null => problemOfCueName(kitNow(), name, id);

export function nameCue(cue: Cue, name: string): void {
  if (!problemOfCueNameNow(cue.id, name)) dispatch(changeCue(kitNow(), { ...cue, name: name.trim() }, 'Rename a cue'));
}

export function deleteCue(cue: Cue): void {
  const tell = cuesThatLose({ cues: [cue.id] });
  if (dispatch(removeCue(kitNow(), cue.id)))
    notify([`“${cue.name}” is deleted.`, tell].filter(Boolean).join(' '), { action: { label: 'Undo', run: undoEdit } });
}

export function shiftCue(cue: Cue, by: -1 | 1): void {
  const { cues = [] } = kitNow();
  const to = cues.findIndex((c) => c.id === cue.id) + by;
  if (dispatch(moveCue(kitNow(), cue.id, to))) announce(`${cue.name} is now cue ${to + 1}`);
}

/** Names that a notice lists. */
const mostNamed = 3;

/** Which cues used what leaves, and what to do; empty where none did. Asked before it leaves. */
export function cuesThatLose(leaves: Leaves): string {
  const own = cuesAbout(kitNow(), leaves);
  if (!own.length) return '';
  const named = own.slice(0, mostNamed).map((c) => `“${c.name}”`);
  const more = own.length - named.length;
  const names = [...named, ...(more ? [`${more} more`] : [])].join(', ');
  return `${count(own.length, 'cue')} used it: ${names}. Under Cues on the stage it is said what to choose instead.`;
}
