import { modelOf } from '@tests/parts';
import { inherits, mostCellIds, mostIn } from '../../ground/limits';
import { byId } from '@/core/ground/byId';
import { expect, it } from 'vitest';
import {
  emptySeats,
  solid,
  type Cue,
  type KitState,
  type Model,
  type Placement,
  type Reference,
  type SeatPatch,
  type Variant,
} from '../kit';
import { newKit } from '../../sheet/starter';
import type { Edit, PatchEdit, PutEdit, RemeshEdit } from './edit';
import { applyEdit, contentsOfEdit, inverseOf, labelOf, recoloredModels, sizeOfEdit } from './editKinds';

const model = (id: string, faces: number, more: object = {}): Model => modelOf(id, faces, '', { mesh: id, ...more });
const fog: Variant = { id: 'fog', name: 'Fog', fills: {} };
const salt: Variant = { id: 'salt', name: 'Salt', model: 'mast', fills: {} };
const stands = (id: string, more: Partial<Placement> = {}): Placement => ({
  id,
  name: id,
  model: 'bell',
  at: [0, 0, 0],
  turn: 0,
  scale: 1,
  ...more,
});
const cue = (id: string, more: Partial<Cue> = {}): Cue =>
  ({ id, name: id, when: { kind: 'start' }, who: {}, does: { kind: 'show', coloring: null }, ...more }) as Cue;
const numbers = (...list: number[]) => Uint32Array.from(list);

const small = newKit('Skerry');
/** With an empty column on its sheet. */
const kit = { ...small, nextCell: mostCellIds + 1, sheets: small.sheets.map((s) => ({ ...s, width: s.width + 1 })) };
/** A bell of six faces, of which the third is locked, and a mast of two; in the fog two faces of the bell sit otherwise. */
function start(patches: KitState['patches'] = byId({ fog: byId({ bell: fogOnBell() }) })): KitState {
  const sheet = kit.sheets[0]!.id;
  const bell = model('bell', 6, {
    sheet,
    regions: [
      { id: 1, name: 'rim', cell: 0 },
      { id: 2, name: 'lid', cell: 0, locked: true },
    ],
    rules: [{ id: 3 }],
  });
  const seats = byId({ bell: { ...emptySeats(6), region: Uint16Array.of(0, 1, 2, 0, 0, 0) }, mast: emptySeats(2) });
  return {
    kit: { ...kit, models: [bell, model('mast', 2, { sheet })], variants: [fog, salt], placements: [stands('p')], cues: [cue('c')] },
    seats,
    patches,
  };
}
const fogOnBell = (): SeatPatch => ({ cell: Uint16Array.of(inherits, 2, inherits, 1, inherits, inherits) });
/** What was done, or why it was not; what is refused leaves all as it was. */
function attempt(edit: Edit, options = {}, from = start()): KitState | string {
  const before = structuredClone(from);
  try {
    return applyEdit(from, edit, options);
  } catch (error) {
    expect(from).toEqual(before);
    expect((error as Error).name).toBe('EditRefused');
    return (error as Error).message.replace('This cannot be done: ', '');
  }
}
const stateAfter = (edit: Edit, options = {}, from = start()) => {
  const done = attempt(edit, options, from);
  expect(done).toBeTypeOf('object');
  return done as KitState;
};

const patched = (change: Partial<PatchEdit> = {}): PatchEdit => ({
  kind: 'patch',
  variant: 'fog',
  model: 'bell',
  cornerCount: 24,
  cells: numbers(),
  rules: numbers(),
  corners: numbers(),
  before: new Float32Array(),
  after: new Float32Array(),
  ...change,
});

it('a variant takes cells, rules and coordinates of faces, and gives them back, the last with all of its patch', () => {
  const edit = patched({
    cells: numbers(0, 1, inherits, 0, 1, 1, 2, inherits, 3, 1, 1, 2),
    rules: numbers(4, 2, inherits, 3),
    corners: numbers(0, 2, 22, 2),
    before: new Float32Array(8).fill(NaN),
    after: Float32Array.of(0, 0.25, 0.5, 0.75, 1, 0.125, NaN, 0.375),
  });
  const after = stateAfter(edit);
  const own = after.patches!.fog!.bell!;
  expect([[...own.cell], [...own.rule!]]).toEqual([
    [0, inherits, inherits, 2, inherits, inherits],
    [inherits, inherits, inherits, inherits, 3, 3],
  ]);
  expect([...own.at!]).toEqual([0, 0.25, 0.5, 0.75, ...Array<number>(40).fill(NaN), 1, 0.125, NaN, 0.375]);
  const back = stateAfter(inverseOf(edit), {}, after);
  expect(back.patches).toEqual({ fog: { bell: fogOnBell() } });
  expect(stateAfter(patched({ cells: numbers(1, 1, 2, inherits, 3, 1, 1, inherits) })).patches).toBeUndefined();
  // Onto faces of which nothing was said, beside what another variant says.
  const first = stateAfter(patched({ variant: 'salt', model: 'mast', cornerCount: 8, cells: numbers(1, 1, inherits, 4) }));
  expect(first.patches).toEqual({ fog: { bell: fogOnBell() }, salt: { mast: { cell: Uint16Array.of(inherits, 4) } } });
  // What has coordinates keeps those that are not spoken of.
  const more = stateAfter(
    patched({ corners: numbers(1, 1), before: Float32Array.of(0.5, 0.75), after: Float32Array.of(NaN, 0.5) }),
    {},
    stateAfter(edit),
  );
  expect([...more.patches!.fog!.bell!.at!.subarray(0, 5)]).toEqual([0, 0.25, NaN, 0.5, NaN]);
  expect([labelOf(edit), sizeOfEdit(edit), contentsOfEdit(edit), recoloredModels(edit)]).toEqual([
    'Color faces',
    96 + 48 + 16 + 16 + 32 + 32,
    [],
    [],
  ]);
});

it('a variant’s faces are refused where they are not there, have changed, are locked, or lead to what is not there', () => {
  const cells = (...list: number[]) => attempt(patched({ cells: numbers(...list) }));
  expect(attempt(patched({ variant: 'rain' }))).toContain('variant that it changes is not there');
  expect(attempt(patched({ model: 'raft' }))).toContain('no model “raft”');
  expect(attempt(patched({ variant: 'salt' }))).toContain('“Salt” says nothing of “bell”');
  expect([cells(5, 2, inherits, 1), cells(3, 1, 1, 2, 1, 1, 2, 1)].map(String)).toEqual(
    Array(2).fill('it concerns faces that “bell” does not have.'),
  );
  expect(cells(5, 1, inherits, 1)).toBeTypeOf('object');
  expect([cells(1, 1, 1, 3), cells(3, 2, 1, 2), cells(0, 1, 0, 1)].map((s) => String(s).slice(0, 6))).toEqual([
    'face 2',
    'face 5',
    'face 1',
  ]);
  expect(cells(0, 1, inherits, 999)).toContain('no cell 999');
  expect([0, inherits, 2].map((to) => typeof cells(3, 1, 1, to))).toEqual(['object', 'object', 'object']);
  expect(cells(2, 1, inherits, 1)).toContain('locked region “lid”');
  expect(attempt(patched({ cells: numbers(2, 1, inherits, 1) }), { ignoreLocks: true })).toBeTypeOf('object');
  expect([3, 0, inherits, 4].map((r) => typeof attempt(patched({ rules: numbers(0, 1, inherits, r) })))).toEqual([
    'object',
    'object',
    'object',
    'string',
  ]);
  expect(attempt(patched({ rules: numbers(0, 1, inherits, 4) }))).toContain('no rule 4');
  expect(attempt(patched({ variant: 'salt', model: 'mast', cornerCount: 8, rules: numbers(0, 1, inherits, 3) }))).toContain('no rule 3');
  // Done again, only that it fits is checked.
  expect(attempt(patched({ cells: numbers(1, 1, 7, 999), rules: numbers(0, 1, 9, 9) }), { isReplay: true })).toBeTypeOf('object');
  expect(attempt(patched({ cells: numbers(6, 1, 7, 9) }), { isReplay: true })).toContain('does not have');
  const placed = (change: Partial<PatchEdit>, at?: Float32Array, options = {}) => {
    const edit = patched({
      corners: numbers(2, 1, 23, 1),
      before: new Float32Array(4).fill(NaN),
      after: new Float32Array(4).fill(0.5),
      ...change,
    });
    return attempt(edit, options, start(byId({ fog: byId({ bell: { ...fogOnBell(), ...(at && { at }) } }) })));
  };
  expect(placed({})).toBeTypeOf('object');
  expect([placed({ corners: numbers(2, 1, 23, 2) }), placed({ corners: numbers(3, 1, 2, 1) })].map(String)).toEqual(
    Array(2).fill('it concerns corners that “bell” does not have.'),
  );
  expect(placed({}, new Float32Array(46))).toContain('another number of corners');
  expect(placed({}, new Float32Array(48))).toContain('placed meanwhile');
  for (const k of [4, 5, 46, 47]) expect(placed({}, new Float32Array(48).fill(NaN).fill(0.25, k, k + 1))).toContain('placed meanwhile');
  expect(placed({}, new Float32Array(48).fill(NaN).fill(0.25, 6, 46))).toBeTypeOf('object');
  expect(placed({}, new Float32Array(48), { isReplay: true })).toBeTypeOf('object');
  for (const wrong of [{ after: new Float32Array(5) }, { before: new Float32Array(5).fill(NaN) }])
    expect(placed(wrong)).toContain('do not fit its corners');
  expect(placed({ before: new Float32Array(3).fill(NaN) }, undefined, { isReplay: true })).toContain('do not fit its corners');
});

const put = <L extends PutEdit['list']>(list: L, index: number, before: unknown, after: unknown, more: object = {}): PutEdit =>
  ({ kind: 'put', list, of: 'kit', index, before, after, ...more }) as PutEdit;

it('an entry comes into its place, is changed where it is as expected, and goes with all that was said of it', () => {
  const { kit, seats } = start();
  const [bell, mast] = kit.models as [Model, Model];
  const added = stateAfter(
    put('models', 1, null, model('raft', 3, { sheet: mast.sheet }), {
      seats: emptySeats(3),
      patches: byId({ fog: { cell: Uint16Array.of(1, 2, 3) } }),
    }),
  );
  expect(added.kit.models.map((m) => m.id)).toEqual(['bell', 'raft', 'mast']);
  expect([Object.keys(added.seats), added.patches!.fog!.raft!.cell]).toEqual([['bell', 'mast', 'raft'], Uint16Array.of(1, 2, 3)]);
  const patches = { fog: fogOnBell() };
  const gone = stateAfter(put('models', 0, bell, null, { seats: seats.bell, patches }));
  expect([gone.kit.models.length, Object.keys(gone.seats), gone.patches]).toEqual([1, ['mast'], undefined]);
  const lost = stateAfter(put('variants', 0, fog, null, { patches: byId({ bell: fogOnBell() }) }));
  expect([lost.kit.variants, lost.patches]).toEqual([[salt], undefined]);
  const again = stateAfter(put('variants', 0, null, fog, { patches: byId({ bell: fogOnBell() }) }), {}, lost);
  expect([again.kit.variants, again.patches]).toEqual([[fog, salt], { fog: { bell: fogOnBell() } }]);
  // Changed as itself it keeps what is said of it.
  expect(stateAfter(put('variants', 0, fog, { ...fog, name: 'Mist' })).patches).toEqual({ fog: { bell: fogOnBell() } });
  expect(stateAfter(put('models', 0, bell, { ...bell, name: 'Gong' })).patches).toEqual({ fog: { bell: fogOnBell() } });
  expect(stateAfter(put('cues', 0, cue('c'), null)).kit).not.toHaveProperty('cues');
  const picture: Reference = { id: 'r', name: 'r', picture: 'a' };
  const withReference = stateAfter(put('references', 0, null, picture));
  expect(stateAfter(put('references', 0, picture, null), {}, withReference).kit.references).toEqual([]);

  const place = (index: number, before: unknown, after: unknown, options = {}) => attempt(put('variants', index, before, after), options);
  const rain = { ...fog, id: 'rain', name: 'Rain' };
  expect([0, 2].map((i) => (place(i, null, rain) as KitState).kit.variants.findIndex((v) => v.id === 'rain'))).toEqual([0, 2]);
  expect([-1, 3].map((i) => place(i, null, rain))).toEqual(['there is no place -1.', 'there is no place 3.']);
  expect([place(1, fog, { ...fog, name: 'Mist' }), place(0, { ...fog, name: 'Haze' }, { ...fog, name: 'Mist' })].map(String)).toEqual([1, 0].map((i) => `it expects entry ${i} to be “fog”, but the list has changed.`)); // prettier-ignore
  expect(place(0, { ...fog, name: 'Haze' }, { ...fog, name: 'Mist' }, { isReplay: true })).toBeTypeOf('object');
  expect(place(7, fog, { ...fog, name: 'Mist' })).toContain('expects entry 7');
  const words = [put('cells', 0, null, {}), put('sheets', 0, {}, {}), put('references', 0, {}, null), put('handOffs', 0, null, {})].map(
    labelOf,
  );
  expect(words).toEqual(['Add a cell', 'Change a sheet', 'Remove a reference', 'Add a hand-off']);
  const size = (more: object) => sizeOfEdit(put('models', 0, bell, null, more));
  expect([size({}), size({ seats: emptySeats(3) }), size({ patches })]).toEqual([256, 256 + 12, 256 + 12]);
  expect(contentsOfEdit(put('references', 0, { ...picture, picture: 'b' }, picture))).toEqual(['b', 'a']);
});

it('an entry is refused whose number or name is taken, or that speaks of what is not there', () => {
  const { kit, seats } = start();
  const [bell] = kit.models as [Model];
  const [sheet] = kit.sheets;
  const cell = (id: number) => ({ id, rect: { x: sheet!.width - 1, y: 0, w: 1, h: 1 }, role: '', fill: solid('#112233') });
  const inSheet = (list: 'cells' | 'ramps', after: unknown, of = sheet!.id) => attempt(put(list, 0, null, after, { of }));
  expect(inSheet('cells', cell(900), 'other')).toContain('no such sheet');
  expect(inSheet('cells', cell(1))).toContain('“1” is taken');
  expect(inSheet('ramps', sheet!.ramps[0])).toContain('is taken');
  expect([mostCellIds, mostCellIds + 1, 0].map((id) => typeof inSheet('cells', cell(id)))).toEqual(['object', 'string', 'string']);
  expect(inSheet('cells', cell(0))).toContain(`${mostCellIds} cells in all`);
  expect((inSheet('cells', cell(900)) as KitState).kit.sheets[0]!.cells[0]!.id).toBe(900);

  const variant = (before: Variant | null, after: Variant | null, patches?: object) =>
    attempt(put('variants', before ? 0 : 2, before, after, patches && { patches }));
  expect(variant(null, { ...fog, id: 'salt', name: 'New' })).toContain('“salt” is taken');
  expect(variant(null, { ...fog, id: 'rain', name: 'Rain', model: 'raft' })).toContain('“Rain” names a model that is not there');
  expect(variant(null, { ...fog, id: 'rain', name: ' sALT' })).toContain('another variant is called');
  expect(variant(null, { ...fog, id: 'rain', name: 'Rain', model: 'mast' })).toBeTypeOf('object');
  expect(variant(fog, { ...fog, name: 'FOG' })).toBeTypeOf('object');
  expect(variant(fog, { ...fog, name: 'Salt' })).toContain('another variant is called');
  expect(variant(fog, null)).toContain('what “Fog” says of faces would be lost');

  const cues = (before: Cue | null, after: Cue, from = start()) => attempt(put('cues', before ? 0 : 1, before, after), {}, from);
  expect(cues(null, cue('d', { name: 'C' }))).toBe('Another cue is called “C”.');
  expect(cues(cue('c'), cue('c', { name: 'C' }))).toBeTypeOf('object');
  expect(cues(null, cue('d', { who: { model: 'raft' } }))).toBe('the cue “d” speaks of a model that is not there.');
  expect(cues(null, cue('d', { name: 'a.b', who: { model: 'raft' } }))).toBe('the cue “a.b” speaks of a model that is not there.');
  const full = (n: number) => ({ ...start(), kit: { ...start().kit, cues: Array.from({ length: n }, (_, i) => cue(i ? `c${i}` : 'c')) } });
  expect([mostIn.cues - 1, mostIn.cues].map((n) => typeof cues(null, cue('d'), full(n)))).toEqual(['object', 'string']);
  expect(cues(cue('c'), cue('c', { name: 'Dawn' }), full(mostIn.cues))).toBeTypeOf('object');
  const { cues: _, ...none } = start().kit;
  expect(attempt(put('cues', 0, null, cue('d')), {}, { ...start(), kit: none })).toBeTypeOf('object');

  const models = (before: Model | null, after: Model | null, more = {}) => attempt(put('models', before ? 0 : 2, before, after, more));
  const raft = model('raft', 3, { sheet: bell.sheet });
  const own = { seats: seats.bell, patches: byId({ fog: fogOnBell() }) };
  expect(models(null, { ...raft, id: 'mast' }, { seats: emptySeats(3) })).toContain('“mast” is taken');
  expect(models(null, raft)).toContain('would come without seats');
  expect(models(null, raft, { seats: emptySeats(2) })).toContain('do not fit the 3 faces');
  expect(models(null, { ...raft, sheet: 'x' }, { seats: emptySeats(3) })).toContain('“raft” names a sheet that is not there');
  expect(models(bell, { ...bell, sheet: 'x' })).toContain('“bell” names a sheet that is not there');
  expect(models(bell, { ...bell, faces: 5 })).toContain('would change its faces without a mesh');
  expect(models(bell, null, { ...own, patches: byId({}) })).toContain('what variants say of “bell” would be lost');
  expect(models(bell, null, { ...own, seats: undefined })).toContain('“bell” would go without its seats');
  expect(models(bell, null, { ...own, seats: emptySeats(6) })).toContain('the colors of “bell” have changed');
  expect(models(bell, null, own)).toBeTypeOf('object');
});

it('placements come and go one after the other, by numbers and names of their own, and no more than a stage holds', () => {
  const many = (...puts: [index: number, before: Placement | null, after: Placement | null][]): Edit => ({
    kind: 'stand',
    label: 'Stand',
    puts: puts.map(([index, before, after]) => ({ index, before, after })),
  });
  const [p, q, r] = [stands('p'), stands('q'), stands('r')];
  const edit = many([1, null, q], [0, p, r], [1, q, null], [1, null, stands('s', { name: 'q' })]);
  const after = stateAfter(edit);
  expect(after.kit.placements!.map((s) => [s.id, s.name])).toEqual([
    ['r', 'r'],
    ['s', 'q'],
  ]);
  expect(stateAfter(inverseOf(edit), {}, after).kit.placements).toEqual([p]);
  expect(stateAfter(many([0, p, null])).kit).not.toHaveProperty('placements');
  const fails = (...puts: Parameters<typeof many>) => attempt(many(...puts));
  expect(fails([0, null, stands('p', { name: 'z' })])).toContain('“p” is taken');
  expect(fails([0, null, stands('z', { name: 'p' })])).toContain('another placement is called “p”');
  expect(fails([0, p, stands('p', { turn: 90 })])).toBeTypeOf('object');
  expect(fails([1, null, q], [1, null, stands('z', { name: 'q' })])).toContain('another placement is called “q”');
  expect(fails([1, null, q], [0, p, stands('q', { name: 'z' })])).toContain('“q” is taken');
  expect(fails([0, null, stands('z', { turn: 360 })])).toContain('stands nowhere');
  expect([fails([2, null, q]), fails([-1, null, q]), fails([1, p, q])]).toEqual(['there is no place 2.', 'there is no place -1.', 'it expects “p” to be placement 1, but the stage has changed.']); // prettier-ignore
  expect([sizeOfEdit(edit), labelOf(edit), contentsOfEdit(edit), recoloredModels(edit)]).toEqual([64 + 4 * 256, 'Stand', [], []]);
  const crowd = Array.from({ length: mostIn.placements - 1 }, (_, i) => stands(`n${i}`));
  const from = { ...start(), kit: { ...start().kit, placements: crowd } };
  const end = crowd.length;
  expect([
    stateAfter(many([end, null, q]), {}, from).kit.placements!.length,
    attempt(many([end, null, q], [end, null, r]), {}, from),
  ]).toEqual([mostIn.placements, `a stage holds ${mostIn.placements} placements.`]);
});

it('a mesh is exchanged with all that variants say of it, and refused where that does not fit or has changed', () => {
  const { seats } = start();
  const two = byId({ fog: { cell: Uint16Array.of(1, 2) }, rain: { cell: Uint16Array.of(3, inherits) } });
  const remesh = (before: object = {}, after: object = {}): RemeshEdit => ({
    kind: 'remesh',
    model: 'bell',
    before: { mesh: 'bell', faces: 6, seats: seats.bell!, patches: byId({ fog: fogOnBell() }), ...before },
    after: { mesh: 'new', faces: 2, seats: emptySeats(2), patches: two, ...after },
  });
  const after = stateAfter(remesh());
  expect(after.patches).toEqual({ fog: { bell: two.fog }, rain: { bell: two.rain } });
  expect(after.patches!.fog!.bell!.cell).not.toBe(two.fog.cell);
  expect(stateAfter(inverseOf(remesh()), {}, after).patches).toEqual({ fog: { bell: fogOnBell() } });
  expect(stateAfter(remesh({}, { patches: undefined })).patches).toBeUndefined();
  expect(attempt(remesh({}, { patches: byId({ fog: { cell: new Uint16Array(3) } }) }))).toContain('does not fit the faces of “bell”');
  expect(attempt(remesh({ patches: undefined }))).toContain('a variant of “bell” has changed meanwhile');
  for (const change of [{ mesh: 'x' }, { faces: 5 }, { placement: { upFromZ: true, scale: 1 } }, { seats: emptySeats(6) }]) {
    expect(attempt(remesh(change))).toContain('“bell” has changed meanwhile');
    expect(attempt(remesh(change), { isReplay: true })).toBeTypeOf('object');
  }
  const edit = remesh();
  expect(sizeOfEdit(edit)).toBe(128 + 6 * 4 + 2 * 4 + 6 * 2 + 2 * 4);
  expect(recoloredModels(edit)).toEqual(['bell']);
});
