import { inherits } from '../../../ground/limits';
import { type KitState, type SeatPatch } from '../../kit';
import { emptyPatch, patchOf, withoutIdle, withPatch } from '../../patches';
import { swapped, type ApplyOptions, type EditKind, type PatchEdit } from '../edit';
import { EditRefused, lockedError, lockedRegions, modelOf } from '../refused';
import { swappedSpans } from './spans';

export const patch: EditKind<PatchEdit> = {
  apply: (state, edit, options) => {
    checkPatch(state, edit, options);
    return applyPatch(state, edit);
  },
  inverse: (edit) => ({ ...swapped(edit), cells: swappedSpans(edit.cells), rules: swappedSpans(edit.rules) }),
  label: () => 'Color faces',
  size: ({ cells, rules, corners, before, after }) =>
    96 + cells.byteLength + rules.byteLength + corners.byteLength + before.byteLength + after.byteLength,
  contents: () => [],
  recolors: () => [],
  ofAll: () => true,
};

/** That spans lie within the model, find what they expect, lead to cells that exist, and recolor no locked face. */
function checkPatch(state: KitState, edit: PatchEdit, { ignoreLocks, isReplay }: ApplyOptions): void {
  const { kit } = state;
  const model = modelOf(kit, edit.model);
  const variant = kit.variants.find((v) => v.id === edit.variant);
  if (!variant) throw new EditRefused('the variant that it changes is not there any more');
  if (variant.model !== undefined && variant.model !== edit.model)
    throw new EditRefused(`the variant “${variant.name}” says nothing of “${model.name}”`);
  const own = patchOf(state, edit.variant, edit.model) ?? emptyPatch(model.faces);
  const locked = ignoreLocks ? null : lockedRegions(model);
  const { region } = state.seats[edit.model]!;
  const cells = isReplay ? null : new Set(kit.sheets.flatMap((s) => s.cells.map((c) => c.id)));
  const check = (spans: Uint32Array, values: Uint16Array | undefined, isKnown: (value: number) => boolean, what: string) => {
    let end = 0;
    for (let i = 0; i < spans.length; i += 4) {
      const [start, count, before, after] = spans.subarray(i, i + 4) as unknown as [number, number, number, number];
      if (start < end || start + count > model.faces) throw new EditRefused(`it concerns faces that “${model.name}” does not have`);
      end = start + count;
      if (isReplay) continue;
      if (!isKnown(after)) throw new EditRefused(`there is no ${what} ${after}`);
      for (let f = start; f < end; f++) {
        if ((values?.[f] ?? inherits) !== before) throw new EditRefused(`face ${f + 1} of “${model.name}” has changed meanwhile`);
        if (locked?.has(region[f]!)) throw lockedError(model, region[f]!);
      }
    }
  };
  check(edit.cells, own.cell, (c) => c === inherits || c === 0 || cells!.has(c), 'cell');
  check(edit.rules, own.rule, (r) => r === inherits || r === 0 || (model.rules ?? []).some((known) => known.id === r), 'rule');
  checkCorners(own, edit, model.name, isReplay);
}

function checkCorners({ at }: SeatPatch, edit: PatchEdit, name: string, isReplay: boolean | undefined): void {
  const { corners, before, after, cornerCount } = edit;
  if (at && at.length !== cornerCount * 2) throw new EditRefused(`“${name}” has another number of corners now`);
  let [end, from] = [0, 0];
  for (let i = 0; i < corners.length; i += 2) {
    const [start, count] = [corners[i]!, corners[i + 1]!];
    if (start < end || start + count > cornerCount) throw new EditRefused(`it concerns corners that “${name}” does not have`);
    end = start + count;
    for (let k = 0; !isReplay && k < count * 2; k++)
      if (!Object.is(at?.[start * 2 + k] ?? NaN, before[from + k])) throw new EditRefused(`faces of “${name}” have been placed meanwhile`);
    from += count * 2;
  }
  if (before.length !== from || after.length !== from) throw new EditRefused('its coordinates do not fit its corners');
}

function applyPatch(state: KitState, edit: PatchEdit): KitState {
  const { faces } = modelOf(state.kit, edit.model);
  const own = patchOf(state, edit.variant, edit.model) ?? emptyPatch(faces);
  const fill = (values: Uint16Array, spans: Uint32Array) => {
    for (let i = 0; i < spans.length; i += 4) values.fill(spans[i + 3]!, spans[i]!, spans[i]! + spans[i + 1]!);
    return values;
  };
  const cell = fill(own.cell, edit.cells);
  const rule = edit.rules.length ? fill(own.rule ?? new Uint16Array(faces).fill(inherits), edit.rules) : own.rule;
  const at = edit.corners.length ? (own.at ?? new Float32Array(edit.cornerCount * 2).fill(NaN)) : own.at;
  let from = 0;
  for (let i = 0; i < edit.corners.length; i += 2) {
    const length = edit.corners[i + 1]! * 2;
    at!.set(edit.after.subarray(from, from + length), edit.corners[i]! * 2);
    from += length;
  }
  return withPatch(state, edit.variant, edit.model, withoutIdle({ cell, ...(rule && { rule }), ...(at && { at }) }));
}
