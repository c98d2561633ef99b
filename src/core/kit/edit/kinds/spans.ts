import { withId } from '../../../ground/byId';
import { withoutIdleRules, type KitState, type Seats } from '../../kit';
import type { ApplyOptions, EditKind, RegionEdit, RuleEdit, SeatEdit } from '../edit';
import { EditRefused, lockedError, lockedRegions, modelOf } from '../refused';

type SpanEdit = SeatEdit | RegionEdit | RuleEdit;
const fields = { seat: 'cell', region: 'region', rule: 'rule' } as const;

/**
 * Edits of one number for each face, as spans of (first face, count, before, after): what cells, regions and
 * rules have in common.
 */
const ofSpans = <E extends SpanEdit>(label: string): EditKind<E> => ({
  apply: (state, edit, options) => {
    checkSpans(state, edit, options);
    return patchSeats(state, edit);
  },
  inverse: (edit) => ({ ...edit, spans: swappedSpans(edit.spans) }),
  label: () => label,
  size: (edit) => 64 + edit.spans.byteLength,
  contents: () => [],
  recolors: (edit) => (edit.kind === 'seat' ? [edit.model] : []),
  ofAll: () => false,
});

/** Before and after change places in spans of four numbers. */
export function swappedSpans(spans: Uint32Array): Uint32Array {
  const out = spans.slice();
  for (let i = 0; i < out.length; i += 4) [out[i + 2], out[i + 3]] = [out[i + 3]!, out[i + 2]!];
  return out;
}

export const seat = ofSpans<SeatEdit>('Color faces');
export const region = ofSpans<RegionEdit>('Change regions');
export const rule = ofSpans<RuleEdit>('Change how faces are laid');

/** That spans lie within the model, find what they expect, lead to cells that exist, and recolor no locked face. */
function checkSpans({ kit, seats }: KitState, edit: SpanEdit, { ignoreLocks, isReplay }: ApplyOptions): void {
  const model = modelOf(kit, edit.model);
  const own = seats[edit.model]!;
  const values = valuesOf(own, edit);
  const { spans } = edit;
  const cells = edit.kind === 'seat' && !isReplay ? new Set(kit.sheets.flatMap((s) => s.cells.map((c) => c.id))) : null;
  const locked = ignoreLocks || edit.kind !== 'seat' ? null : lockedRegions(model);
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

/** Where no face has a rule the numbers are not there. */
const valuesOf = (seats: Seats, { kind }: SpanEdit): Uint16Array => seats[fields[kind]] ?? new Uint16Array(seats.cell.length);

function patchSeats(state: KitState, edit: SpanEdit): KitState {
  const { model, spans } = edit;
  const seats = state.seats[model]!;
  const values = valuesOf(seats, edit);
  for (let i = 0; i < spans.length; i += 4) {
    const start = spans[i]!;
    const count = spans[i + 1]!;
    // Most spans of scattered faces are one face long, for which filling has its price.
    if (count === 1) values[start] = spans[i + 3]!;
    else values.fill(spans[i + 3]!, start, start + count);
  }
  const next = edit.kind === 'rule' ? withoutIdleRules({ ...seats, rule: values }) : { ...seats };
  return { ...state, seats: withId(state.seats, model, next) };
}
