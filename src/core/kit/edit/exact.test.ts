import { modelOf } from '@tests/parts';
import { byId } from '@/core/ground/byId';
import { describe, expect, it } from 'vitest';
import { emptySeats, type KitState, type Model } from '../kit';
import { newKit } from '../../sheet/starter';
import { group, type Edit, type PlaceEdit } from './edit';
import { applyEdit, inverseOf, sizeOfEdit } from './editKinds';
import { canRedo, canUndo, perform, performWith, redo, undo, type Step } from './history';
import { areSame, checkSizes } from './refused';

const faces = 6;
function start(more: Partial<Model> = {}): Step {
  const kit = newKit('Skerry');
  const regions: Model['regions'] = [{ id: 1, name: 'rim', cell: 0 }, { id: 2, name: 'lid', cell: 0, locked: true }]; // prettier-ignore
  const bell = modelOf('bell', faces, kit.sheets[0]!.id, { name: 'Bell', regions, seams: [3], ...more });
  const seats = { ...emptySeats(faces), region: Uint16Array.of(0, 1, 2, 0, 0, 0) };
  return { state: { kit: { ...kit, models: [bell] }, seats: byId({ bell: seats }) }, history: { edits: [], cursor: 0 } };
}
const named = (state: KitState, name: string, index = 0): Edit => {
  const before = state.kit.models[index]!;
  return { kind: 'put', list: 'models', of: 'kit', index, before, after: { ...before, name } };
};
const seat = (...spans: number[]): Edit => ({ kind: 'seat', model: 'bell', spans: Uint32Array.from(spans) });
const labels = ({ history }: Step) => history.edits.map((e) => (e.kind === 'group' ? `${e.label} ×${e.edits.length}` : e.kind));

describe('history', () => {
  it('can be undone after something was done, and done again after it was undone', () => {
    const able = ({ history }: Step) => [canUndo(history), canRedo(history)];
    const none = start();
    const one = perform(none, seat(0, 1, 0, 1));
    const back = undo(one);
    expect([none, one, back, redo(back)].map(able)).toEqual([
      [false, false],
      [true, false],
      [false, true],
      [true, false],
    ]);
    expect([undo(none), redo(one)]).toEqual([none, one]);
  });

  it('brings back what was, whatever is locked since', () => {
    const one = perform(start(), seat(0, 1, 0, 1));
    const { regions, ...rest } = one.state.kit.models[0]!;
    const after = { ...rest, regions: [...regions, { id: 3, name: 'all', cell: 0, locked: true as const }] };
    one.state.seats.bell!.region.fill(3);
    const locked: Step = { ...one, state: { ...one.state, kit: { ...one.state.kit, models: [after] } } };
    expect(() => perform(locked, seat(0, 1, 1, 2))).toThrow('locked region “all”');
    const back = undo(locked);
    expect([...back.state.seats.bell!.cell]).toEqual([0, 0, 0, 0, 0, 0]);
    expect([...redo(back).state.seats.bell!.cell]).toEqual([1, 0, 0, 0, 0, 0]);
  });

  it('joins two changes of one entry into one, and anything else into a group', () => {
    const one = start();
    const first = perform(one, named(one.state, 'a'));
    const begun = perform(start(), seat(0, 1, 0, 1));
    const last = (step: Step) => step.history.edits.at(-1)!;
    const join = (step: Step, edit: Edit) => labels(performWith(step, edit, last(step)));
    const a = perform(one, named(one.state, 'a'));
    const b = performWith(a, named(a.state, 'b'), last(a));
    expect(b.history.edits).toEqual([
      { kind: 'put', list: 'models', of: 'kit', index: 0, before: one.state.kit.models[0], after: b.state.kit.models[0] },
    ]);
    expect(join(begun, seat(1, 1, 0, 1))).toEqual(['Color faces ×2']);
    expect(join(begun, named(begun.state, 'c'))).toEqual(['Change a model ×2']);
    expect(join(first, seat(0, 1, 0, 1))).toEqual(['Color faces ×2']);
    // The same list, but another entry; and one that was taken out and another put in its place.
    const ref = (id: string, index: number): Edit => {
      return { kind: 'put', list: 'references', of: 'kit', index, before: null, after: { id, name: id, picture: 'p' } };
    };
    const r = perform(one, ref('r', 0));
    expect(join(r, ref('s', 0))).toEqual(['Add a reference ×2']);
    const gone = perform(r, { ...ref('r', 0), before: r.state.kit.references[0]!, after: null } as Edit);
    expect(join(gone, ref('t', 0))).toEqual(['put', 'Add a reference ×2']);
  });
});

describe('an edit of places', () => {
  const corners = 24;
  const at = () => Float32Array.from({ length: corners * 2 }, (_, i) => i / 64);
  const placed = (change: Partial<PlaceEdit> = {}): PlaceEdit => ({
    kind: 'place',
    model: 'bell',
    corners,
    spans: Uint32Array.of(0, 1, 20, 4),
    faces: Uint32Array.of(0, 1, 5, 1),
    before: Float32Array.from([...at().slice(0, 2), ...at().slice(40, 48)]),
    after: new Float32Array(10).fill(0.75),
    ...change,
  });
  const from = () => {
    const { state } = start();
    return { ...state, seats: byId({ bell: { ...state.seats.bell!, at: at() } }) };
  };
  const tried = (change: Partial<PlaceEdit>, options = {}) => {
    try {
      return [...applyEdit(from(), placed(change), options).seats.bell!.at!].filter((v) => v === 0.75).length;
    } catch (error) {
      return (error as Error).message;
    }
  };

  it('changes just its corners, up to the very last', () => {
    const state = applyEdit(from(), placed());
    expect([...state.seats.bell!.at!]).toEqual([...at()].map((v, i) => (i < 2 || i >= 40 ? 0.75 : v)));
    expect([...applyEdit(state, inverseOf(placed())).seats.bell!.at!]).toEqual([...at()]);
    expect(sizeOfEdit(placed())).toBe(64 + 16 + 16 + 40 + 40);
    expect(sizeOfEdit({ ...placed({ before: null, after: null }), faces: undefined } as never)).toBe(64 + 16);
  });

  it('is refused where corners are not there, have moved, or do not fit', () => {
    expect(tried({ spans: Uint32Array.of(0, 1, 21, 4) })).toContain('corners that “Bell” does not have');
    expect(tried({ spans: Uint32Array.of(4, 4, 3, 1) }, { isReplay: true })).toContain('corners that “Bell” does not have');
    expect(tried({ corners: 25 })).toContain('another number of corners');
    expect(tried({ before: null })).toContain('placed meanwhile');
    for (const k of [0, 1, 2, 9]) {
      const before = placed().before!.slice();
      before[k] = 0.9;
      expect(tried({ before })).toContain('placed meanwhile');
      expect(tried({ before }, { isReplay: true })).toBe(10);
    }
    expect(tried({ after: new Float32Array(8).fill(0.75) })).toContain('do not fit its corners');
    expect(tried({ before: new Float32Array(12) }, { isReplay: true })).toContain('do not fit its corners');
    const { at: _, ...bare } = from().seats.bell!;
    expect(() => applyEdit({ ...from(), seats: byId({ bell: bare }) }, placed())).toThrow('placed meanwhile');
  });

  it('leaves faces of locked regions alone, but where that is not asked', () => {
    expect([0, 1, 3, 5].map((f) => tried({ faces: Uint32Array.of(f, 1) }))).toEqual([10, 10, 10, 10]);
    for (const list of [
      [2, 1],
      [0, 3],
      [1, 2],
      [0, 1, 2, 1],
    ])
      expect(tried({ faces: Uint32Array.from(list) })).toContain('region “lid”');
    expect(tried({ faces: Uint32Array.of(0, 2, 3, 3) })).toBe(10);
    expect(tried({ faces: Uint32Array.of(2, 1) }, { ignoreLocks: true })).toBe(10);
    const { faces: _, ...plain } = placed();
    expect([...applyEdit(from(), plain as PlaceEdit).seats.bell!.at!][0]).toBe(0.75);
  });
});

describe('an edit of spans', () => {
  it('is refused on locked faces only where it colors them, and takes cells that are there alone', () => {
    const attempt = (edit: Edit, options = {}) => {
      try {
        applyEdit(start().state, edit, options);
        return 'done';
      } catch (error) {
        return (error as Error).message;
      }
    };
    expect(attempt(seat(1, 3, 0, 1))).toContain('locked region “lid”');
    expect(attempt(seat(1, 3, 0, 1), { ignoreLocks: true })).toBe('done');
    expect(attempt({ kind: 'region', model: 'bell', spans: Uint32Array.of(2, 1, 2, 1) })).toBe('done');
    expect(attempt({ kind: 'rule', model: 'bell', spans: Uint32Array.of(2, 1, 0, 7) })).toBe('done');
    expect(attempt(seat(3, 1, 0, 999))).toContain('no cell 999');
    expect(attempt(seat(3, 1, 0, 1, 4, 1, 0, 999))).toContain('no cell 999');
    expect(attempt({ kind: 'region', model: 'bell', spans: Uint32Array.of(3, 1, 0, 999) })).toBe('done');
    expect(attempt(seat(3, 3, 0, 1))).toBe('done');
    expect(attempt(seat(3, 4, 0, 1))).toContain('does not have');
  });
});

describe('a mesh that is exchanged', () => {
  const remeshed = (after: object): Model => {
    const { state } = start({ placement: { upFromZ: true, scale: 2 }, picks: [{ id: 1, name: 'rim', spans: [0, 1] }] });
    const [bell] = state.kit.models as [Model];
    const before = { mesh: 'x', faces, seats: state.seats.bell!, placement: bell.placement! };
    return applyEdit(state, { kind: 'remesh', model: 'bell', before, after: { mesh: 'y', faces: 2, seats: emptySeats(2), ...after } }).kit
      .models[0]!;
  };

  it('takes what is told, keeps source, seams and picks that are not, and loses a placement that is not', () => {
    const plain = remeshed({});
    expect([plain.mesh, plain.faces, plain.seams, plain.picks?.length, 'placement' in plain, plain.source.name]).toEqual([
      'y',
      2,
      [3],
      1,
      false,
      'bell',
    ]);
    const source = { format: 'obj' as const, name: 'new.obj', files: [] };
    const told = remeshed({ placement: { upFromZ: false, scale: 1 }, source, seams: [], picks: [] });
    expect([told.placement, told.source, told.seams, 'picks' in told]).toEqual([{ upFromZ: false, scale: 1 }, source, [], false]);
  });

  it('counts its seams in its size, and compares all of its seats', () => {
    const size = (seams?: number[]) => {
      const part = { mesh: 'x', faces, seats: emptySeats(faces), ...(seams && { seams }) };
      return sizeOfEdit({ kind: 'remesh', model: 'bell', before: part, after: part });
    };
    expect(size([1, 2, 3]) - size()).toBe(48);
    const own = emptySeats(2);
    const rule = Uint16Array.of(1, 0);
    const at = new Float32Array(12);
    expect([
      areSame(own, emptySeats(2)),
      areSame({ ...own, rule }, own),
      areSame(own, { ...own, at }),
      areSame({ ...own, at }, { ...own, at: at.slice() }),
    ]).toEqual([true, false, false, true]);
    expect(areSame(own, { ...own, region: Uint16Array.of(0, 1) })).toBe(false);
    for (const short of [{ cell: new Uint16Array(1) }, { region: new Uint16Array(3) }, { rule: new Uint16Array(3) }])
      expect(() => checkSizes(2, { ...own, ...short }, 'Bell')).toThrow('do not fit the 2 faces of “Bell”');
    expect(() => checkSizes(2, { ...own, rule }, 'Bell')).not.toThrow();
  });
});

it('a group whose later part is refused leaves nothing of what was done before', () => {
  const { state } = start();
  expect(() => applyEdit(state, group('Both', [seat(0, 1, 0, 1), seat(3, 1, 0, 2), seat(2, 1, 0, 1)]))).toThrow('locked');
  expect([...state.seats.bell!.cell]).toEqual([0, 0, 0, 0, 0, 0]);
});
