import { mostIn } from '@/core/ground/limits';
import { group, type Edit } from '@/core/kit/edit/edit';
import type { Model, NamedPick } from '@/core/kit/kit';
import { freeName } from '@/core/kit/freeName';
import { facesOfSpans, spansOfFaces } from '@/core/shapes/pick/namedPicks';
import { announce } from '../told/announce';
import { current, useEditor } from '../kit/editor';
import { dispatch } from '../kit/edits';
import { notify } from '../told/notices';
import { countWords, keepForStepBack, pickedFaces, usePick } from '../chosen/pickState';

/** The edit by which the model in view remembers other picks. */
export function putPicks(make: (picks: readonly NamedPick[]) => NamedPick[]): Edit[] {
  const model = current()?.model;
  if (!model) return [];
  const { kit } = useEditor.getState().state;
  const { picks = [], ...rest } = model;
  const next = make(picks);
  const after: Model = { ...rest, ...(next.length && { picks: next }) };
  return [{ kind: 'put', list: 'models', of: 'kit', index: kit.models.indexOf(model), before: model, after }];
}

const change = (label: string, make: (picks: readonly NamedPick[]) => NamedPick[]): boolean =>
  dispatch(group(label, putPicks(make))) !== null;

/** Keeps the pick under a name of its own, which can be changed. */
export function rememberPick(): void {
  const { count } = usePick.getState();
  const picks = current()?.model.picks ?? [];
  if (!count) notify('Pick the faces to remember.');
  else if (picks.length >= mostIn.picks) notify(`The model remembers ${mostIn.picks} picks already; forget one first.`);
  else {
    const name = freeName(
      'pick',
      picks.map((p) => p.name),
    );
    const spans = spansOfFaces(pickedFaces());
    if (change('Remember the pick', (list) => [...list, { id: 1 + Math.max(0, ...list.map((p) => p.id)), name, spans }]))
      announce(`Remembered as ${name}`);
  }
}

/** Brings a remembered pick back; `add`: beside what is picked. */
export function recallPick({ spans, name }: NamedPick, add: boolean): void {
  keepForStepBack();
  usePick.getState().set((picked) => {
    if (!add) picked.fill(0);
    for (const f of facesOfSpans(spans)) picked[f] = 1;
  });
  announce(`${name}: ${countWords()}`);
}

export const renamePick = (id: number, name: string): boolean =>
  change('Rename a pick', (list) => list.map((p) => (p.id === id ? { ...p, name } : p)));
export const forgetPick = (id: number): boolean => change('Forget a pick', (list) => list.filter((p) => p.id !== id));
