import type { KitState } from '../../kit/kit';
import type { ApplyOptions, EditKind, RegionEdit, SeatEdit } from '../edit';
import { EditRefused, lockedError, lockedRegions, modelOf } from '../refused';

type SpanEdit = SeatEdit | RegionEdit;

/**
 * Edits of one number for each face, as spans of (first face, count, before, after): what cells and regions
 * have in common.
 */
const ofSpans = <E extends SpanEdit>(label: string): EditKind<E> => ({
  apply: (state, edit, options) => {
    checkSpans(state, edit, options);
    return patchSeats(state, edit.model, edit.kind === 'seat' ? 'cell' : 'region', edit.spans);
  },
  inverse: (edit) => {
    const spans = edit.spans.slice();
    for (let i = 0; i < spans.length; i += 4) [spans[i + 2], spans[i + 3]] = [spans[i + 3]!, spans[i + 2]!];
    return { ...edit, spans };
  },
  label: () => label,
  size: (edit) => 64 + edit.spans.byteLength,
  contents: () => [],
  recolors: (edit) => (edit.kind === 'seat' ? [edit.model] : []),
});

export const seat = ofSpans<SeatEdit>('Color faces');
export const region = ofSpans<RegionEdit>('Change regions');

/** That spans lie within the model, find what they expect, lead to cells that exist, and recolor no locked face. */
function checkSpans({ kit, seats }: KitState, edit: SpanEdit, { ignoreLocks, isReplay }: ApplyOptions): void {
  const model = modelOf(kit, edit.model);
  const own = seats[edit.model]!;
  const values = edit.kind === 'seat' ? own.cell : own.region;
  const { spans } = edit;
  const cells = edit.kind === 'seat' && !isReplay ? new Set(kit.sheets.flatMap((s) => s.cells.map((c) => c.id))) : null;
  const locked = ignoreLocks || edit.kind === 'region' ? null : lockedRegions(model);
  let end = 0;
  let known = 0;
  for (let i = 0; i < spans.length; i += 4) {
    const start = spans[i]!;
    const before = spans[i + 2]!;
    const after = spans[i + 3]!;
    if (start < end || start + spans[i + 1]! > values.length) throw new EditRefused(`it concerns faces that “${model.name}” does not have`);
    end = start + spans[i + 1]!;
    if (isReplay) continue;
    for (let f = start; f < end; f++) {
      if (values[f] !== before) throw new EditRefused(`face ${f + 1} of “${model.name}” has changed meanwhile`);
      if (locked?.has(own.region[f]!)) throw lockedError(model, own.region[f]!);
    }
    if (!cells || after === 0 || after === known) continue;
    if (!cells.has(after)) throw new EditRefused(`there is no cell ${after}`);
    known = after;
  }
}

function patchSeats(state: KitState, model: string, field: 'cell' | 'region', spans: Uint32Array): KitState {
  const seats = state.seats[model]!;
  const values = seats[field];
  for (let i = 0; i < spans.length; i += 4) {
    const start = spans[i]!;
    const count = spans[i + 1]!;
    // Most spans of scattered faces are one face long, for which filling has its price.
    if (count === 1) values[start] = spans[i + 3]!;
    else values.fill(spans[i + 3]!, start, start + count);
  }
  return { ...state, seats: { ...state.seats, [model]: { ...seats } } };
}
