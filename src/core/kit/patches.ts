import { inherits } from '../ground/limits';
import { type ById, byId, withId } from '../ground/byId';
import { equalArrays } from '../ground/equalArrays';
import { type KitState, type Patches, type SeatPatch, type Seats } from './kit';

/** A patch that says nothing of any face. */
export const emptyPatch = (faces: number): SeatPatch => ({ cell: new Uint16Array(faces).fill(inherits) });

export const patchOf = ({ patches }: KitState, variant: string, model: string): SeatPatch | undefined => patches?.[variant]?.[model];

/** A copy with arrays of its own: those of a kit that is open are patched in place. */
export const copyPatch = ({ cell, rule, at }: SeatPatch): SeatPatch => ({
  cell: cell.slice(),
  ...(rule && { rule: rule.slice() }),
  ...(at && { at: at.slice() }),
});

export const copyPatches = (of: ById<SeatPatch>): ById<SeatPatch> => byId(Object.entries(of).map(([id, patch]) => [id, copyPatch(patch)]));

/** What variants say of a model's faces, by variant. */
export const patchesOfModel = ({ patches = byId<never>() }: KitState, model: string): ById<SeatPatch> =>
  byId(Object.entries(patches).flatMap(([variant, own]) => (own[model] ? [[variant, own[model]]] : [])));

/** The same of several models, by variant and then by model. */
export function patchesByVariant(items: readonly { model: { id: string }; patches?: ById<SeatPatch> }[]): Patches {
  const variants = [...new Set(items.flatMap((i) => Object.keys(i.patches ?? {})))];
  return byId(
    variants.map((v) => [v, byId(items.flatMap(({ model, patches }) => (patches?.[v] ? [[model.id, patches[v]] as const] : [])))]),
  );
}

/** Without what says nothing, so that equal patches look equal; `undefined` where nothing is left. */
export function withoutIdle({ cell, rule, at }: SeatPatch): SeatPatch | undefined {
  const hasRule = rule?.some((r) => r !== inherits);
  const hasAt = at?.some((v) => !Number.isNaN(v));
  if (!hasRule && !hasAt && cell.every((c) => c === inherits)) return undefined;
  return { cell, ...(hasRule && { rule: rule! }), ...(hasAt && { at: at! }) };
}

/** The kit's patches with that of one variant and model replaced; `undefined` takes it away. */
export function withPatch(
  { patches = byId(), ...state }: KitState,
  variant: string,
  model: string,
  patch: SeatPatch | undefined,
): KitState {
  const own = withId<SeatPatch>(patches[variant] ?? byId(), model, patch);
  return withPatches(state, withId<ById<SeatPatch>>(patches, variant, Object.keys(own).length ? own : undefined));
}

/** A state with these patches; the field is absent where there are none. */
export const withPatches = ({ patches: _, ...state }: KitState, patches: Patches | undefined): KitState => ({
  ...state,
  ...(patches && Object.keys(patches).length && { patches }),
});

export const sizeOfPatches = (patches: ById<SeatPatch> = byId()): number =>
  Object.values(patches).reduce((sum, { cell, rule, at }) => sum + cell.byteLength + (rule?.byteLength ?? 0) + (at?.byteLength ?? 0), 0);

/** Whether patches hold the same; NaN is the same as NaN. */
export function areSamePatches(a: ById<SeatPatch> = byId(), b: ById<SeatPatch> = byId()): boolean {
  const keys = Object.keys(a);
  if (keys.length !== Object.keys(b).length) return false;
  const bits = (at: Float32Array | undefined) => at && new Uint32Array(at.buffer, at.byteOffset, at.length);
  const equal = (p: ArrayLike<number> | undefined, q: ArrayLike<number> | undefined) => (p && q ? equalArrays(p, q) : p === q);
  return keys.every((id) => {
    const [p, q] = [a[id]!, b[id]];
    return q !== undefined && equal(p.cell, q.cell) && equal(p.rule, q.rule) && equal(bits(p.at), bits(q.at));
  });
}

/** Whether faces sit alike: rules that are not told are none, coordinates that are not told are the middle. */
export function areSameSeats(a: Seats, b: Seats): boolean {
  const equal = (p: ArrayLike<number> | undefined, q: ArrayLike<number> | undefined, usual: number) => {
    if (p && q) return p === q || equalArrays(p, q);
    const told = p ?? q;
    for (let i = 0; i < (told?.length ?? 0); i++) if (told![i] !== usual) return false;
    return true;
  };
  return equal(a.cell, b.cell, 0) && equal(a.rule, b.rule, 0) && equal(a.at, b.at, 0.5);
}

const latest = new WeakMap<SeatPatch, { of: Seats; patched: Seats }>();

/** Where faces sit in a variant. Arrays in which nothing differs are the default's own, and are not to be written. */
export function patchedSeats(seats: Seats, patch: SeatPatch | undefined): Seats {
  if (!patch) return seats;
  const known = latest.get(patch);
  if (known?.of === seats) return known.patched;
  const cell = seats.cell.slice();
  for (let f = 0; f < cell.length; f++) if (patch.cell[f] !== inherits) cell[f] = patch.cell[f]!;
  let { rule, at } = seats;
  if (patch.rule) {
    rule = rule?.slice() ?? new Uint16Array(cell.length);
    for (let f = 0; f < cell.length; f++) if (patch.rule[f] !== inherits) rule[f] = patch.rule[f]!;
  }
  if (patch.at) {
    at = at?.slice() ?? new Float32Array(patch.at.length).fill(0.5);
    for (let i = 0; i < at.length; i++) if (!Number.isNaN(patch.at[i])) at[i] = patch.at[i]!;
  }
  const patched: Seats = { cell, region: seats.region, ...(rule && { rule }), ...(at && { at }) };
  latest.set(patch, { of: seats, patched });
  return patched;
}

/** What variants of the whole kit say of a model's faces, copied; those of the model alone are no other's. */
export function patchesOfWholeKit(state: KitState, model: string): ById<SeatPatch> {
  const whole = new Set(state.kit.variants.filter((v) => v.model === undefined).map((v) => v.id));
  return copyPatches(byId(Object.entries(patchesOfModel(state, model)).filter(([v]) => whole.has(v))));
}
