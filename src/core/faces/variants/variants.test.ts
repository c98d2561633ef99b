import { byId } from '@/core/ground/byId';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { acts, apart, faces, faceStart, gradientCell, inAll, looks, start, starts } from '@tests/coloredVariants';
import { applyEdit, inverseOf, isOfAll } from '../../kit/edit/editKinds';
import { group } from '../../kit/edit/edit';
import { perform, redo, undo } from '../../kit/edit/history';
import { emptyHistory } from '../../kit/edit/history';
import { findVariant, type KitState, type Model } from '../../kit/kit';
import { placeFaces } from '../seat/placeFaces';
import { seatFaces } from '../../kit/edit/seatFaces';
import { editCell } from '../../sheet/cells';
import { mergeColors, spareColors } from '../../sheet/mergeColors';
import { variantsApartIn } from '../../judging/judge/twins';
import { inherits } from '../../ground/limits';
import { layAlong } from '../seat/layAlong';
import { rasterSheet } from '../../sheet/raster';
import { intoVariant } from './intoVariant';
import { stateOfVariant } from '../../kit/colorings/shown';
import { addVariant, copyDifferences, facesSaid, moveIntoDefault, moveVariant, removeVariant, takeBack } from './variantEdits';

const frozen = ({ kit, seats, patches = byId<never>() }: KitState) =>
  JSON.stringify([kit, seats, ['salt', 'fresh'].map((v) => [patches[v]?.tower, patches[v]?.buoy])], (_, v: unknown) =>
    ArrayBuffer.isView(v) ? Array.from(v as Float32Array, (n) => (Number.isNaN(n) ? 'none' : n)) : v,
  );
describe('a variant', () => {
  it('shows what was asked for, changes no other coloring, and is undone and done again to the byte', () => {
    const plan = fc.array(fc.tuple(fc.nat(acts.length - 1), fc.nat(40), fc.constantFrom(null, 'salt', 'fresh')), { maxLength: 25 });
    fc.assert(
      fc.property(plan, (list) => {
        let step = { state: start(), history: emptyHistory };
        const states = [frozen(step.state)];
        for (const [kind, n, id] of list) {
          const before = step.state;
          const shown = apart(stateOfVariant(before, id));
          const edit = acts[kind]!(shown, n);
          if (!edit) continue;
          const others = ['salt', 'fresh'].filter((v) => v !== id);
          const unmoved = id === null ? [] : [null, ...others].map((v) => looks(stateOfVariant(before, v)));
          const own = id === null ? edit : intoVariant(before, id, edit, starts);
          step = perform(step, own);
          states.push(frozen(step.state));
          const wanted = applyEdit(shown, edit);
          expect(looks(stateOfVariant(step.state, id))).toBe(looks(wanted));
          expect([...step.state.seats.tower!.region]).toEqual([...wanted.seats.tower!.region]);
          if (id !== null) expect([null, ...others].map((v) => looks(stateOfVariant(step.state, v)))).toEqual(unmoved);
        }
        for (let k = states.length - 1; k >= 0; k--) {
          expect(frozen(step.state)).toBe(states[k]);
          if (k) step = undo(step);
        }
        while (step.history.cursor < step.history.edits.length) step = redo(step);
        expect(frozen(step.state)).toBe(states.at(-1));
      }),
      { seed: 3, numRuns: 150 },
    );
  });

  it('inherits what it does not mention, and mentions no more than differs', () => {
    const color = (state: KitState, id: string | null, list: number[], cell: number) => {
      const { seats } = stateOfVariant(state, id);
      const edit = seatFaces('tower', seats.tower!.cell, Uint32Array.from(list), cell)!;
      return applyEdit(state, id ? intoVariant(state, id, edit, starts) : edit);
    };
    const cellsIn = (state: KitState, id: string | null) => [...stateOfVariant(state, id).seats.tower!.cell.slice(0, 4)];
    let state = color(start(), 'salt', [0, 1], 3);
    expect([...facesSaid(state.patches!.salt!.tower, faceStart)]).toEqual([0, 1]);
    state = color(state, null, [1, 2], 2);
    expect([cellsIn(state, null), cellsIn(state, 'salt')]).toEqual([
      [1, 2, 2, 1],
      [3, 3, 2, 1],
    ]);
    // Colored as the default is: no difference any more.
    state = color(state, 'salt', [0], 1);
    state = color(state, 'salt', [1], 2);
    expect(state.patches).toBeUndefined();
    // A fill as the default's, too.
    const fill = (s: KitState, hex: string) =>
      applyEdit(
        s,
        intoVariant(s, 'salt', editCell(stateOfVariant(s, 'salt').kit.sheets[0]!, 1, { fill: { kind: 'solid', color: hex } }), starts),
      );
    const own = (state.kit.sheets[0]!.cells[0]!.fill as { color: string }).color;
    const other = fill(state, '#112233');
    expect(findVariant(other.kit, 'salt').fills).toEqual({ 1: { kind: 'solid', color: '#112233' } });
    expect(other.kit.sheets).toBe(state.kit.sheets);
    expect(findVariant(fill(other, own).kit, 'salt').fills).toEqual({});
  });

  it('keeps what is laid along a gradient in it when the default is laid otherwise later', () => {
    const seated = (s: KitState) => seatFaces('tower', stateOfVariant(s, 'salt').seats.tower!.cell, Uint32Array.of(4), gradientCell)!;
    let state = start();
    state = applyEdit(state, intoVariant(state, 'salt', seated(state), starts));
    const before = looks(stateOfVariant(state, 'salt'));
    state = applyEdit(state, placeFaces('tower', state.seats.tower!, faceStart, Uint32Array.of(4), [0.9, 0.5])!);
    expect(looks(stateOfVariant(state, 'salt'))).toBe(before);
  });

  it('shows the same sheets again, also where another coloring of the kit was shown in between', () => {
    const state = colored();
    const sheets = () => stateOfVariant(state, 'salt').kit.sheets;
    const first = sheets();
    // Figures of a coloring look at all variants on top of it.
    stateOfVariant({ ...state, kit: stateOfVariant(state, 'fresh').kit }, 'salt');
    expect(sheets()).toBe(first);
    expect(stateOfVariant(state, 'salt').seats.tower).toBe(stateOfVariant(state, 'salt').seats.tower);
    expect(stateOfVariant(state, 'salt').seats.buoy).toBe(state.seats.buoy);
  });

  it('leaves the color that a region is to have to the default', () => {
    const state = start();
    const [tower] = state.kit.models as [Model];
    const regions = [{ id: 1, name: 'bands', cell: 1 }];
    state.kit.models[0] = { ...tower, regions };
    const shown = stateOfVariant(state, 'salt');
    const recolored = group('Color a region', [
      {
        kind: 'put',
        list: 'models',
        of: 'kit',
        index: 0,
        before: state.kit.models[0],
        after: { ...tower, regions: [{ ...regions[0]!, cell: 3 }] },
      },
      seatFaces('tower', shown.seats.tower!.cell, Uint32Array.of(2), 3)!,
    ]);
    const own = intoVariant(state, 'salt', recolored, starts);
    expect(own.kind).toBe('patch');
    const after = applyEdit(state, own);
    expect([after.kit.models[0]!.regions, stateOfVariant(after, 'salt').seats.tower!.cell[2]]).toEqual([regions, 3]);
  });

  it('refuses what would move the faces of all colorings, and what is of another model', () => {
    const state = start();
    const gone = spareColors(stateOfVariant(state, 'salt'), state.kit.sheets[0]!, new Set([1]), 2);
    expect(() => intoVariant(state, 'salt', gone, starts)).toThrow('all colorings');
    const own = { ...findVariant(state.kit, 'salt'), model: 'buoy' };
    const of = { ...state, kit: { ...state.kit, variants: [own] } };
    expect(() => intoVariant(of, 'salt', seatFaces('tower', state.seats.tower!.cell, Uint32Array.of(1), 3)!, starts)).toThrow(
      'another model',
    );
  });
});

/** Two variants with differences of every kind. */
function colored(): KitState {
  let state = start();
  const ask = (id: string, kind: number, n: number) => {
    const edit = acts[kind]!(apart(stateOfVariant(state, id)), n);
    if (edit) state = applyEdit(state, intoVariant(state, id, edit, starts));
  };
  for (const [id, kind, n] of [
    ['salt', 0, 3],
    ['salt', 2, 3],
    ['salt', 3, 4],
    ['salt', 4, 0],
    ['salt', 5, 1],
    ['fresh', 0, 6],
    ['fresh', 1, 5],
    ['fresh', 1, 2],
    ['fresh', 4, 1],
  ] as const)
    ask(id, kind, n);
  return state;
}

describe('every variant', () => {
  it('follows colors that are merged, and says nothing of those that are gone', () => {
    const state = colored();
    const was = inAll(state);
    const on = (s: KitState, v: string | null, cell: number) =>
      Object.values(stateOfVariant(s, v).seats).flatMap((own) => [...own.cell].filter((c) => c === cell));
    const counts = (s: KitState, cell: number) => [null, 'salt', 'fresh'].map((v) => on(s, v, cell).length);
    const [ones, threes] = [counts(state, 1), counts(state, 3)];
    const step = perform({ state, history: emptyHistory }, mergeColors(state, 1, [3]));
    expect(counts(step.state, 3)).toEqual([0, 0, 0]);
    expect(counts(step.state, 1)).toEqual(ones.map((n, i) => n + threes[i]!));
    expect(threes.some((n) => n > 0)).toBe(true);
    expect(step.state.kit.variants.some((v) => 3 in v.fills)).toBe(false);
    expect(inAll(undo(step).state)).toEqual(was);
  });

  it('can be copied, moved and removed with all that it says, and brought back', () => {
    const state = colored();
    const salt = findVariant(state.kit, 'salt');
    const { edit, id } = addVariant(state, { name: ' Gale ', copyOf: 'salt' });
    const copied = applyEdit(state, edit);
    expect(copied.kit.variants.map((v) => v.name)).toEqual(['salt', 'Gale', 'fresh']);
    expect(looks(stateOfVariant(copied, id))).toBe(looks(stateOfVariant(state, 'salt')));
    const moved = applyEdit(copied, moveVariant(copied, findVariant(copied.kit, id), 2));
    expect(moved.kit.variants.map((v) => v.name)).toEqual(['salt', 'fresh', 'Gale']);
    expect(looks(stateOfVariant(moved, id))).toBe(looks(stateOfVariant(state, 'salt')));
    const started = { ...state, kit: { ...state.kit, startsWith: 'salt' } };
    const gone = removeVariant(started, salt);
    const after = applyEdit(started, gone);
    expect([after.kit.startsWith, after.patches?.salt, after.kit.variants.length]).toEqual([undefined, undefined, 1]);
    expect(frozen(applyEdit(after, inverseOf(gone)))).toBe(frozen(started));
    expect(() => applyEdit(state, { kind: 'put', list: 'variants', of: 'kit', index: 0, before: salt, after: null })).toThrow(
      'would be lost',
    );
    expect(() => applyEdit(state, addVariant(state, { name: 'SALT' }).edit)).toThrow('another variant is called');
  });

  it('gives differences back, away and to the default: for a cell, for faces, for all', () => {
    const state = colored();
    const salt = findVariant(state.kit, 'salt');
    const seen = (s: KitState, v: string | null) => looks(stateOfVariant(s, v));
    const back = applyEdit(apart(state), takeBack(state, salt, 'all', starts)!);
    expect(seen(back, 'salt')).toBe(seen(state, null));
    expect(back.patches?.salt).toBeUndefined();
    const cell = Number(Object.keys(salt.fills)[0]);
    const oneCell = applyEdit(apart(state), takeBack(state, salt, { cells: [cell] }, starts)!);
    expect(Object.keys(findVariant(oneCell.kit, 'salt').fills)).toEqual(Object.keys(salt.fills).filter((id) => Number(id) !== cell));
    // What a rule makes of a cell is left alone from then on.
    const byRule = applyEdit(apart(state), takeBack(state, findVariant(state.kit, 'fresh'), { cells: [4] }, starts)!);
    expect(findVariant(byRule.kit, 'fresh').rules!.map((r) => r.except)).toEqual([[4], [4]]);
    const fillOf = (s: KitState, v: string | null, id: number) => stateOfVariant(s, v).kit.sheets[0]!.cells[id - 1]!.fill;
    expect(fillOf(byRule, 'fresh', 4)).toEqual(fillOf(state, null, 4));
    expect(fillOf(byRule, 'fresh', 5)).toEqual(fillOf(state, 'fresh', 5));
    const [first, ...rest] = facesSaid(state.patches!.salt!.tower, faceStart);
    const oneFace = applyEdit(apart(state), takeBack(state, salt, { model: 'tower', faces: Uint32Array.of(first!) }, starts)!);
    expect([...facesSaid(oneFace.patches!.salt!.tower, faceStart)]).toEqual(rest);
    expect(takeBack(back, findVariant(back.kit, 'salt'), 'all', starts)).toBeNull();

    const fresh = findVariant(state.kit, 'fresh');
    const cleared = applyEdit(apart(state), takeBack(state, fresh, 'all', starts)!);
    const given = applyEdit(cleared, copyDifferences(cleared, salt, findVariant(cleared.kit, 'fresh'), 'all', starts)!);
    expect(seen(given, 'fresh')).toBe(seen(state, 'salt'));
    expect(seen(given, 'salt')).toBe(seen(state, 'salt'));

    const kept = applyEdit(apart(state), moveIntoDefault(state, salt, 'all', starts)!);
    expect([seen(kept, null), seen(kept, 'salt')]).toEqual([seen(state, 'salt'), seen(state, 'salt')]);
    expect([findVariant(kept.kit, 'salt').fills, kept.patches?.salt]).toEqual([{}, undefined]);
  });
});

describe('what stands beside a variant', () => {
  const along = {
    rule: 'height',
    start: 0,
    end: 1,
    repeat: 1,
    offset: 0,
    tone: 'smooth',
    bands: 4,
    over: 'pick',
    screenUp: [0, 1, 0],
  } as const;
  const at = (n: number) => new Float32Array(faces * 8).fill(n);
  /** The tower lies along the gradient by rule 1, in every coloring. */
  const laid = (): KitState => {
    const state = start();
    const own = {
      ...state.seats.tower!,
      cell: new Uint16Array(faces).fill(gradientCell),
      rule: new Uint16Array(faces).fill(1),
      at: at(0.25),
    };
    return { ...state, seats: byId({ ...state.seats, tower: own }) };
  };
  const lay = (state: KitState, id: string | null, list: number[], end: number) => {
    const shown = apart(stateOfVariant(state, id));
    const runs = { along: new Float32Array(faces * 4).fill(end) };
    const edit = layAlong(shown, 'tower', faceStart, Uint32Array.from(list), gradientCell, { id: 1, along: { ...along, end } }, runs)!;
    return applyEdit(state, id ? intoVariant(state, id, edit, starts) : edit);
  };
  const wordsOf = (state: KitState, id: string | null, face: number) => {
    const { kit, seats } = stateOfVariant(state, id);
    return kit.models[0]!.rules!.find((r) => r.id === seats.tower!.rule?.[face])?.along.end;
  };

  it('faces that it lays anew remember new words, and those of other colorings theirs', () => {
    let state = laid();
    const before = looks(stateOfVariant(state, null));
    state = lay(state, 'salt', [0, 1, 2], 0.5);
    expect([wordsOf(state, 'salt', 0), wordsOf(state, 'salt', 3), wordsOf(state, null, 0), wordsOf(state, 'fresh', 0)]).toEqual([
      0.5, 1, 1, 1,
    ]);
    expect(looks(stateOfVariant(state, null))).toBe(before);
    // Tuned on, the rule that no others remember takes the words: none is left over.
    const rules = state.kit.models[0]!.rules!.length;
    const own = stateOfVariant(state, 'salt').seats.tower!.rule![0]!;
    const shown = apart(stateOfVariant(state, 'salt'));
    const again = layAlong(
      shown,
      'tower',
      faceStart,
      Uint32Array.of(0, 1, 2),
      gradientCell,
      { id: own, along: { ...along, end: 0.75 } },
      { along: new Float32Array(faces * 4).fill(0.75) },
    )!;
    state = applyEdit(state, intoVariant(state, 'salt', again, starts));
    expect([wordsOf(state, 'salt', 0), state.kit.models[0]!.rules!.length]).toEqual([0.75, rules]);
    // In the default, too, all faces of the rule are laid by its words.
    expect(wordsOf(lay(laid(), null, [0], 0.5), 'salt', 0)).toBe(0.5);
  });

  it('what does not change makes no edit', () => {
    const { patches } = lay(laid(), 'salt', [0], 0.5);
    const state = {
      ...laid(),
      patches: byId({ salt: byId({ tower: { ...patches!.salt!.tower!, rule: new Uint16Array(faces).fill(inherits) } }) }),
    };
    const shown = apart(stateOfVariant(state, 'salt'));
    const same = placeFaces('tower', { ...shown.seats.tower!, at: at(0.1) }, faceStart, Uint32Array.of(0), [0.5, 0.5])!;
    const unchanged = { ...same, before: (same as { after: Float32Array }).after } as typeof same;
    expect(
      intoVariant(
        state,
        'salt',
        { ...unchanged, before: shown.seats.tower!.at!.slice(0, 8), after: shown.seats.tower!.at!.slice(0, 8) } as never,
        starts,
      ),
    ).toMatchObject({ edits: [] });
  });

  it('cells of it that become the default change nothing else that it shows', () => {
    fc.assert(
      fc.property(fc.subarray([1, 2, 3, 4, 5, 6], { minLength: 1 }), (cells) => {
        const state = start();
        const fresh = findVariant(state.kit, 'fresh');
        const edit = moveIntoDefault(state, fresh, { cells }, starts)!;
        // It is made for the kit itself, whichever variant is in hand.
        expect(isOfAll(edit)).toBe(true);
        const after = applyEdit(state, edit);
        const texels = (s: KitState) => rasterSheet(stateOfVariant(s, 'fresh').kit.sheets[0]!).data;
        expect(texels(after)).toEqual(texels(state));
        expect(JSON.stringify(applyEdit(after, inverseOf(edit)).kit)).toBe(JSON.stringify(state.kit));
      }),
      { numRuns: 40 },
    );
  });

  it('cells that are twins by default are told apart where any two of them are in a variant', () => {
    const { kit } = start();
    kit.sheets[0]!.cells.slice(0, 3).forEach((c, i) => (c.fill = { kind: 'solid', color: ['#808080', '#828282', '#808082'][i]! }));
    kit.variants = [
      {
        id: 'salt',
        name: 'Salt',
        fills: { 1: { kind: 'solid', color: '#c01010' }, 2: { kind: 'solid', color: '#1010c0' }, 3: { kind: 'solid', color: '#c01010' } },
      },
      { id: 'fresh', name: 'Fresh', fills: { 1: { kind: 'solid', color: '#c01010' }, 2: { kind: 'solid', color: '#c01210' } } },
    ];
    expect(variantsApartIn(kit, [1, 2]).map((v) => v.id)).toEqual(['salt']);
    expect(variantsApartIn(kit, [1, 3]).map((v) => v.id)).toEqual(['fresh']);
  });
});
