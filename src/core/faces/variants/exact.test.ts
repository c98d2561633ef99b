import { describe, expect, it } from 'vitest';
import { apart, faces, faceStart, gradientCell, start, starts } from '@tests/coloredVariants';
import { byId } from '../../ground/byId';
import { inherits } from '../../ground/limits';
import { applyEdit, labelOf } from '../../kit/edit/editKinds';
import { group, leavesOf, type Edit, type PatchEdit } from '../../kit/edit/edit';
import { seatFaces } from '../../kit/edit/seatFaces';
import { findVariant, type KitState, type Model, type SeatPatch, type Seats, type Variant } from '../../kit/kit';
import { stateOfVariant } from '../../kit/colorings/shown';
import { fillsByHand, intoVariant } from './intoVariant';
import { patchEdit } from './patchEdit';
import {
  addVariant,
  copyDifferences,
  facesSaid,
  freeVariantName,
  moveIntoDefault,
  removeVariant,
  renameVariant,
  saysOf,
  startWith,
  takeBack,
  withRules,
} from './variantEdits';

const no = inherits;
const solid = (color: string) => ({ kind: 'solid' as const, color });
/** Arrays of one value, but for some places. */
const cellsOf = (usual: number, other: Record<number, number> = {}) => Uint16Array.from({ length: faces }, (_, f) => other[f] ?? usual);
const atOf = (usual: number, other: Record<number, number> = {}) => Float32Array.from({ length: faces * 8 }, (_, i) => other[i] ?? usual);
const withTower = (own: Partial<Seats>, patch?: SeatPatch): KitState => {
  const state = start();
  return {
    kit: state.kit,
    seats: byId({ ...state.seats, tower: { ...state.seats.tower!, ...own } }),
    ...(patch && { patches: byId({ salt: byId({ tower: patch }) }) }),
  };
};
const numbers = (list: ArrayLike<number>): (number | 'none')[] => Array.from(list, (v) => (Number.isNaN(v) ? 'none' : v));

describe('the patch after which faces sit as wanted', () => {
  const asked = (base: KitState, wanted: Partial<Seats>, only?: number[]) => {
    const seats = { ...base.seats.tower!, ...wanted };
    const edit = patchEdit(base, 'salt', 'tower', seats, faceStart, base.kit, only && Uint32Array.from(only));
    if (!edit) return null;
    expect([edit.kind, edit.variant, edit.model, edit.cornerCount]).toEqual(['patch', 'salt', 'tower', faces * 4]);
    return [edit.cells, edit.rules, edit.corners, edit.before, edit.after].map(numbers);
  };
  const eight = (v: number | 'none') => Array.from({ length: 8 }, () => v);
  const onGradient = (own: Partial<Seats> = {}) => withTower({ cell: cellsOf(gradientCell), ...own });

  it.each<[string, KitState, Partial<Seats>, ReturnType<typeof asked>, number[]?]>([
    ['nothing where nothing differs', withTower({}), {}, null],
    ['spans of like faces', withTower({}), { cell: cellsOf(1, { 2: 3, 3: 3, 5: 3, 6: 4 }) }, [[2, 2, no, 3, 5, 1, no, 3, 6, 1, no, 4], [], [], [], []]],
    ['only the faces that it is about', withTower({}), { cell: cellsOf(1, { 2: 3, 5: 3 }) }, [[5, 1, no, 3], [], [], [], []], [1, 5]],
    ['the default’s again', withTower({}, { cell: cellsOf(no, { 2: 3, 3: 4 }) }), {}, [[2, 1, 3, no, 3, 1, 4, no], [], [], [], []]],
    ['nothing of where a plain color lies', withTower({}), { at: atOf(0.25), rule: cellsOf(1) }, null],
    [
      'rule and place of what comes to lie along a gradient',
      withTower({}),
      { cell: cellsOf(1, { 5: gradientCell, 6: gradientCell, 8: gradientCell }), at: atOf(0.25), rule: cellsOf(0, { 5: 2 }) },
      [
        [5, 2, no, gradientCell, 8, 1, no, gradientCell],
        [5, 1, no, 2, 6, 1, no, 0, 8, 1, no, 0],
        [20, 8, 32, 4],
        [...eight('none'), ...eight('none'), ...eight('none')],
        [...eight(0.25), ...eight(0.25), ...eight(0.25)],
      ],
    ],
    ['the middle where it is not told', withTower({}), { cell: cellsOf(1, { 0: gradientCell }) }, [[0, 1, no, gradientCell], [0, 1, no, 0], [0, 4], eight('none'), eight(0.5)]],
    ['nothing where the middle is told or not', onGradient(), { at: atOf(0.5) }, null],
    ['nothing where it lies as it does', onGradient({ at: atOf(0.25) }), { at: atOf(0.25) }, null],
    ['another last place of a face', onGradient({ at: atOf(0.25) }), { at: atOf(0.25, { 15: 0.5 }) }, [[], [1, 1, no, 0], [4, 4], eight('none'), [...eight(0.25).slice(1), 0.5]]],
    ['another first place of a face', onGradient(), { at: atOf(0.5, { 8: 0.75 }) }, [[], [1, 1, no, 0], [4, 4], eight('none'), [0.75, ...eight(0.5).slice(1)]]],
    ['another rule at the same place', onGradient({ at: atOf(0.25) }), { at: atOf(0.25), rule: cellsOf(0, { 3: 1 }) }, [[], [3, 1, no, 1], [12, 4], eight('none'), eight(0.25)]],
    ['no rule where the default has one', onGradient({ rule: cellsOf(2) }), { rule: cellsOf(2, { 3: 0 }) }, [[], [3, 1, no, 0], [12, 4], eight('none'), eight(0.5)]],
    [
      'nothing that it says already',
      withTower({}, { cell: cellsOf(no, { 1: gradientCell }), rule: cellsOf(no, { 1: 0 }), at: atOf(NaN, Object.fromEntries([8, 9, 10, 11, 12, 13, 14, 15].map((i) => [i, 0.25]))) }),
      { cell: cellsOf(1, { 1: gradientCell }), at: atOf(0.25) },
      null,
    ],
    [
      'what is laid nowhere any more',
      withTower({}, { cell: cellsOf(no), at: atOf(NaN, { 8: 0.25 }) }),
      {},
      [[], [], [4, 4], [0.25, ...eight('none').slice(1)], eight('none')],
    ],
  ])('says %s', (_, base, wanted, said, only) => expect(asked(base, wanted, only)).toEqual(said)); // prettier-ignore
});

describe('what is asked for of a kit as a variant shows it', () => {
  const asked = (state: KitState, edit: Edit, id = 'salt') => leavesOf(intoVariant(state, id, edit, starts));
  const modelPut = (before: Model, after: Model): Edit => ({ kind: 'put', list: 'models', of: 'kit', index: 0, before, after });

  it('seats taken over from another model are differences; regions that come with them are of all', () => {
    const state = withTower({});
    const was = state.seats.tower!;
    const region = cellsOf(0, { 4: 1, 6: 1 });
    const taken: Edit = { kind: 'remesh', model: 'tower', before: { mesh: 'x', faces, seats: was }, after: { mesh: 'x', faces, seats: { cell: cellsOf(1, { 2: 3 }), region } } }; // prettier-ignore
    const [patch, regions, ...more] = asked(state, taken) as [PatchEdit, Extract<Edit, { kind: 'region' }>];
    expect([[...patch.cells], regions.model, [...regions.spans], more]).toEqual([[2, 1, no, 3], 'tower', [4, 1, 0, 1, 6, 1, 0, 1], []]);
    const onlyRegions = { ...taken, after: { mesh: 'x', faces, seats: { cell: was.cell, region } } };
    expect(asked(state, onlyRegions).map((e) => e.kind)).toEqual(['region']);
    expect(asked(state, { ...taken, after: { mesh: 'x', faces, seats: was } })).toEqual([]);
    // The arrays of the kit itself are not touched by what is tried.
    expect([...state.seats.tower!.cell]).toEqual([...cellsOf(1)]);
    const other = { ...taken, after: { ...taken.after, mesh: 'y' } };
    const seated = seatFaces('buoy', state.seats.buoy!.cell, Uint32Array.of(0), 3)!;
    expect(() => intoVariant(state, 'salt', group('', [other, seated]), starts)).toThrow('Choose the default coloring first');
  });

  it('rules of laying that a variant forgets are kept in order for others; new words of one that others remember are its own', () => {
    const state = withTower({ cell: cellsOf(gradientCell), rule: cellsOf(2), at: atOf(0.5) });
    const [tower] = state.kit.models as [Model];
    const [one, two] = tower.rules!;
    const [kept] = asked(state, modelPut(tower, { ...tower, name: 'Tower', rules: [two!] })) as [Extract<Edit, { list: 'models' }>];
    expect([kept.after!.name, kept.after!.rules!.map((r) => r.id)]).toEqual(['Tower', [1, 2]]);
    expect(asked(state, modelPut(tower, { ...tower, rules: [two!] }))).toEqual([]);
    const bare = { ...tower, rules: undefined } as Model;
    const named = { ...state, kit: { ...state.kit, models: [bare, state.kit.models[1]!] } };
    expect(asked(named, modelPut(bare, { ...bare, name: 'Tower' }))).toEqual([modelPut(bare, { ...bare, name: 'Tower' })]);
    const worded = { ...two!, along: { ...two!.along, end: 0.5 } };
    const tuned = modelPut(tower, { ...tower, rules: [one!, worded] });
    const ruleAgain: Edit = { kind: 'rule', model: 'tower', spans: Uint32Array.of(3, 1, 2, 1) };
    const after = (s: KitState, edits: Edit[]) => (asked(s, group('', edits)).find((e) => e.kind === 'put') as Extract<Edit, { list: 'models' }>)?.after?.rules; // prettier-ignore
    // The default remembers it: what is worded anew gets the first free number.
    expect(after(state, [tuned, ruleAgain])).toEqual([one, two, { ...worded, id: 3 }]);
    // Nobody remembers rule 1: its words change.
    const first = { ...one!, along: { ...one!.along, end: 0.5 } };
    expect(after(state, [modelPut(tower, { ...tower, rules: [first, two!] }), ruleAgain])).toEqual([first, two]);
    // Only another variant does.
    const inFresh = { ...state, patches: byId({ fresh: byId({ tower: { cell: cellsOf(no), rule: cellsOf(no, { 7: 1 }) } }) }) };
    expect(after(inFresh, [modelPut(tower, { ...tower, rules: [first, two!] }), ruleAgain])).toEqual([one, two, { ...first, id: 3 }]);
    // Of its own faces one that the edit does not touch; the one that it touches is laid by the new words.
    const inSalt = { ...state, patches: byId({ salt: byId({ tower: { cell: cellsOf(no), rule: cellsOf(no, { 7: 1, 8: 1 }) } }) }) };
    const touching = (f: number): Edit => ({ kind: 'rule', model: 'tower', spans: Uint32Array.of(f, 1, 2, 1) });
    expect(after(inSalt, [modelPut(tower, { ...tower, rules: [first, two!] }), touching(3)])).toEqual([one, two, { ...first, id: 3 }]);
    const said = asked(inSalt, group('', [modelPut(tower, { ...tower, rules: [first, two!] }), touching(3)])).find(
      (e) => e.kind === 'patch',
    );
    expect([...(said as PatchEdit).rules]).toEqual([3, 1, no, 3]);
  });

  it('a cell keeps the default’s fill and takes all else; one that comes, goes or was spare does so for all', () => {
    const state = withTower({});
    const sheet = state.kit.sheets[0]!;
    const [first] = sheet.cells;
    const put = (s: KitState, id: string, more: object): Edit => {
      const before = stateOfVariant(s, id).kit.sheets[0]!.cells[0]!;
      return { kind: 'put', list: 'cells', of: sheet.id, index: 0, before, after: { ...before, ...more } };
    };
    const [cell, variant] = asked(state, put(state, 'salt', { role: 'tar', fill: solid('#112233') }));
    expect(cell).toMatchObject({ list: 'cells', before: first, after: { ...first, role: 'tar' } });
    expect(variant).toMatchObject({ list: 'variants', index: 0, after: { fills: { 1: solid('#112233') } } });
    expect(asked(state, put(state, 'salt', { role: 'tar' }))).toHaveLength(1);
    expect(asked(state, put(state, 'salt', { fill: { kind: 'spare' } }))).toMatchObject([
      { list: 'cells', after: { fill: { kind: 'spare' } } },
    ]);
    const at = sheet.cells.findIndex((c) => c.fill.kind === 'spare');
    const taken: Edit = { kind: 'put', list: 'cells', of: sheet.id, index: at, before: sheet.cells[at]!, after: { ...sheet.cells[at]!, fill: solid('#112233') } }; // prettier-ignore
    expect(asked(state, taken)).toEqual([taken]);
    const gone: Edit = { ...taken, after: null };
    expect(asked(state, gone)).toEqual([gone]);
    // Together with colors of faces what is spare may go, what is a color may not.
    const seated = seatFaces('tower', state.seats.tower!.cell, Uint32Array.of(0), 3)!;
    expect(asked(state, group('', [gone, seated])).map((e) => e.kind)).toEqual(['put', 'patch']);
    for (const after of [null, { ...sheet.cells[4]!, fill: { kind: 'spare' as const } }])
      expect(() => intoVariant(state, 'salt', group('', [{ ...taken, index: 4, before: sheet.cells[4]!, after }, seated]), starts)).toThrow('all colorings'); // prettier-ignore
    const another: Edit = {
      kind: 'put',
      list: 'sheets',
      of: 'kit',
      index: 1,
      before: null,
      after: { ...sheet, id: 'z', name: 'Z', cells: [], ramps: [] },
    };
    expect(asked(state, group('', [another, seated])).map((e) => e.kind)).toEqual(['put', 'patch']);
    expect(labelOf(intoVariant(state, 'salt', group('Try', [another, seated]), starts))).toBe('Try');
    expect(fillsByHand(state.kit, { id: 'v', name: 'V', fills: {} }, state.kit)).toEqual({});
  });
});

describe('acts on variants', () => {
  const patch = (): SeatPatch => ({ cell: cellsOf(no, { 2: 3, 5: gradientCell }), rule: cellsOf(no, { 5: 2 }), at: atOf(NaN, Object.fromEntries([40, 41, 42, 43, 44, 45, 46, 47].map((i) => [i, 0.25]))) }); // prettier-ignore
  const state = (): KitState => {
    const s = withTower({}, patch());
    s.kit.variants[0] = { ...s.kit.variants[0]!, fills: { 1: solid('#112233'), 7: solid('#445566') } };
    return s;
  };
  const salt = (s: KitState) => findVariant(s.kit, 'salt');
  const puts = (edit: Edit) => leavesOf(edit).flatMap((e) => (e.kind === 'put' && e.list === 'variants' ? [e] : []));

  it('adds at the end or behind what it copies, of its model and with its rules, and names what it does', () => {
    const s = state();
    s.kit.variants[1]!.model = 'buoy';
    const made = (wish: Parameters<typeof addVariant>[1]) => {
      const { edit, id } = addVariant(s, wish);
      const [put] = puts(edit);
      expect(put!.after!.id).toBe(id);
      const { id: _, ...after } = put!.after!;
      return [labelOf(edit), put!.index, after, put!.patches && Object.keys(put!.patches)];
    };
    expect(made({ name: ' Gale ' })).toEqual(['New variant Gale', 2, { name: 'Gale', fills: {} }, undefined]);
    expect(made({ name: 'Gale', model: 'tower' })).toEqual(['New variant Gale', 2, { name: 'Gale', model: 'tower', fills: {} }, undefined]);
    const { rules, fills } = s.kit.variants[1]!;
    expect(made({ name: 'Gale', model: 'tower', copyOf: 'fresh' })).toEqual([
      'New variant Gale',
      2,
      { name: 'Gale', model: 'buoy', rules, fills },
      undefined,
    ]);
    expect(made({ name: 'Gale', copyOf: 'salt' })).toEqual(['New variant Gale', 1, { name: 'Gale', fills: salt(s).fills }, ['tower']]);
    expect([freeVariantName(s.kit, 'salt'), freeVariantName(s.kit, 'gale')]).toEqual(['salt 2', 'gale']);
    const renamed = renameVariant(s, salt(s), ' Brine ');
    expect([labelOf(renamed), puts(renamed)[0]!.after]).toEqual(['Rename salt', { ...salt(s), name: 'Brine' }]);
    expect(leavesOf(removeVariant(s, salt(s))).map((e) => e.kind)).toEqual(['put']);
    expect([startWith(s.kit, 'salt'), startWith({ ...s.kit, startsWith: 'salt' }, null)]).toMatchObject([
      { before: {}, after: { startsWith: 'salt' } },
      { before: { startsWith: 'salt' }, after: {} },
    ]);
    expect(withRules({ ...salt(s), rules }, [])).toEqual(salt(s));
    expect(withRules(salt(s), rules!)).toEqual({ ...salt(s), rules });
  });

  it('tells of which faces a patch says anything: their cell, their rule or their place', () => {
    const said = (own: SeatPatch | undefined) => [...facesSaid(own, faceStart)];
    expect([
      said(undefined),
      said(patch()),
      said({ cell: cellsOf(no), rule: cellsOf(no, { 4: 1 }) }),
      said({ cell: cellsOf(no), at: atOf(NaN, { 24: 0.5, 33: 0.5 }) }),
    ]).toEqual([[], [2, 5], [4], [3]]);
    expect(saysOf({ cell: cellsOf(no), rule: cellsOf(no) }, faceStart, 0)).toBe(false);
  });

  it('takes back, copies and gives to the default just what is meant', () => {
    const s = state();
    const v = salt(s);
    const other = (): Variant => findVariant(s.kit, 'fresh');
    const only = (...list: number[]) => ({ model: 'tower', faces: Uint32Array.from(list) });
    const kinds = (edit: Edit | null) => edit && leavesOf(edit).map((e) => e.kind);
    expect([
      takeBack(s, v, { cells: [2] }, starts),
      takeBack(s, v, only(1), starts),
      takeBack(s, v, { model: 'buoy', faces: Uint32Array.of(2) }, starts),
    ]).toEqual([null, null, null]);
    expect(kinds(takeBack(s, v, only(2), starts))).toEqual(['patch']);
    // One that says something by its rules alone.
    const ruled = takeBack(s, other(), 'all', starts)!;
    expect([puts(ruled)[0]!.after, labelOf(ruled)]).toEqual([{ id: 'fresh', name: 'fresh', fills: {} }, 'Take back what differs in fresh']);
    const copied = copyDifferences(s, v, other(), { cells: [7, 9] }, starts)!;
    expect([puts(copied)[0]!.after!.fills, kinds(copied), labelOf(copied)]).toEqual([
      { 7: solid('#445566') },
      ['put'],
      'Copy differences to fresh',
    ]);
    expect(copyDifferences(s, v, other(), { cells: [9] }, starts)).toBeNull();
    const one = copyDifferences(s, v, other(), only(5), starts)!;
    const [patched] = leavesOf(one) as [PatchEdit];
    expect([kinds(one), patched.variant, [...patched.cells], [...patched.rules], [...patched.corners], [...patched.after]]).toEqual([['patch'], 'fresh', [5, 1, no, gradientCell], [5, 1, no, 2], [20, 4], Array.from({ length: 8 }, () => 0.25)]); // prettier-ignore
    // What the other says of faces that are not meant stays.
    const both = { ...s, patches: byId({ ...s.patches, fresh: byId({ tower: { cell: cellsOf(no, { 8: 4 }) } }) }) };
    const after = applyEdit(apart(both), copyDifferences(both, v, other(), 'all', starts)!);
    expect([...facesSaid(after.patches!.fresh!.tower, faceStart)]).toEqual([2, 5, 8]);
    expect(moveIntoDefault(s, v, { cells: [2] }, starts)).toBeNull();
    const given = moveIntoDefault(s, v, only(5), starts)!;
    const [seat, place, rule, back] = leavesOf(given) as [Extract<Edit, { kind: 'seat' }>, Extract<Edit, { kind: 'place' }>, Extract<Edit, { kind: 'rule' }>, PatchEdit]; // prettier-ignore
    expect([[...seat.spans], [...place.spans], [...place.faces!], place.corners, place.before, [...place.after!], [...rule.spans], [...back.cells]]).toEqual([[5, 1, 1, gradientCell], [20, 4], [5, 1], faces * 4, null, Array.from({ length: 8 }, () => 0.25), [5, 1, 0, 2], [5, 1, gradientCell, no]]); // prettier-ignore
    expect(kinds(moveIntoDefault(s, v, only(2), starts))).toEqual(['seat', 'patch']);
    const cell = moveIntoDefault(s, v, { cells: [7] }, starts)!;
    expect([leavesOf(cell)[0], labelOf(cell)]).toMatchObject([
      { list: 'cells', index: 6, after: { id: 7, fill: solid('#445566') } },
      'Make what differs in salt the default',
    ]);
    // It seats nothing that sits and lies so already.
    const laid = withTower({ cell: cellsOf(gradientCell), at: atOf(0.5) }, { cell: cellsOf(no, { 3: gradientCell }) });
    expect(moveIntoDefault(laid, salt(laid), 'all', starts)).toBeNull();
  });
});
