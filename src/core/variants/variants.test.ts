import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { grid } from '@tests/meshes';
import { carryAll } from '../carry/carryModel';
import { applyEdit, inverseOf } from '../edit/editKinds';
import { group, type Edit } from '../edit/edit';
import { perform, redo, undo } from '../edit/history';
import { emptyHistory } from '../edit/history';
import {
  copySeats,
  emptySeats,
  findVariant,
  inherits,
  isTextured,
  type ColoringRule,
  type KitState,
  type Model,
  type Variant,
} from '../kit/kit';
import { copyPatches, patchesOfModel } from '../kit/patches';
import { placeFaces } from '../seat/placeFaces';
import { ruleEdit, seatFaces, spansOf } from '../seat/seatFaces';
import { editCell } from '../sheet/cells';
import { mergeColors, spareColors } from '../sheet/mergeColors';
import { newColor } from '../sheet/newColor';
import { planRelay, relaySheet } from '../sheet/relay';
import { newKit } from '../sheet/starter';
import { intoVariant } from './intoVariant';
import { stateOfVariant } from './shown';
import { addVariant, copyDifferences, facesSaid, moveIntoDefault, moveVariant, removeVariant, takeBack } from './variantEdits';

const faces = 16;
const faceStart = Uint32Array.from({ length: faces + 1 }, (_, f) => f * 4);
const starts = () => faceStart;
const gradient = (color: string) => ({
  kind: 'gradient' as const,
  axis: 'x' as const,
  mix: 'oklab' as const,
  stops: [
    { at: 0, color: '#102030' },
    { at: 1, color },
  ],
});
const gradientCell = 15;

/** Two models, two variants; cell 15 is a gradient. */
function start(): KitState {
  const kit = newKit('Skerry');
  const sheet = kit.sheets[0]!;
  sheet.cells[gradientCell - 1]!.fill = gradient('#e0d0c0');
  const model = (id: string): Model => ({
    ...{ id, name: id, mesh: 'x', faces, sheet: sheet.id, regions: [], slots: [], seams: [] },
    rules: [1, 2].map((n) => ({
      id: n,
      along: { rule: 'height', start: 0, end: 1, repeat: 1, offset: 0, tone: 'smooth', bands: 4, over: 'pick', screenUp: [0, 1, 0] },
    })),
    source: { format: 'made', name: id, files: [] },
  });
  const rules: ColoringRule[] = [
    { kind: 'exchange', cells: { 1: 4, 2: 5, 3: 6, 4: 1, 5: 2, 6: 3 } },
    { kind: 'shift', lightness: -0.05, strength: 0.8, hue: 10 },
  ];
  const variant = (id: string): Variant => ({ id, name: id, fills: {} });
  const seats = { tower: emptySeats(faces), buoy: emptySeats(faces) };
  seats.tower.cell.fill(1);
  seats.buoy.cell.fill(2);
  return { kit: { ...kit, models: [model('tower'), model('buoy')], variants: [variant('salt'), { ...variant('fresh'), rules }] }, seats };
}

/** What is seen of each face: its fill and, where that differs from place to place, where on it its corners lie. */
function looks({ kit, seats }: KitState): string {
  const fills = new Map(kit.sheets.flatMap((s) => s.cells.map((c) => [c.id, c.fill] as const)));
  return JSON.stringify(
    Object.entries(seats)
      .sort()
      .map(([id, { cell, at, rule }]) => [
        id,
        ...Array.from(cell, (c, f) => {
          const fill = fills.get(c);
          return fill && isTextured(fill)
            ? [fill, rule?.[f] ?? 0, ...Array.from({ length: 8 }, (_, i) => at?.[f * 8 + i] ?? 0.5)]
            : (fill ?? null);
        }),
      ]),
  );
}
const inAll = (state: KitState) => [null, ...state.kit.variants.map((v) => v.id)].map((v) => looks(stateOfVariant(state, v)));
const frozen = ({ kit, seats, patches = {} }: KitState) =>
  JSON.stringify([kit, seats, ['salt', 'fresh'].map((v) => [patches[v]?.tower, patches[v]?.buoy])], (_, v: unknown) =>
    ArrayBuffer.isView(v) ? Array.from(v as Float32Array, (n) => (Number.isNaN(n) ? 'none' : n)) : v,
  );
/** A state whose arrays nothing else writes. */
const apart = ({ kit, seats, patches }: KitState): KitState => ({
  kit,
  seats: Object.fromEntries(Object.entries(seats).map(([id, s]) => [id, copySeats(s)])),
  ...(patches && { patches: Object.fromEntries(Object.entries(patches).map(([id, p]) => [id, copyPatches(p)])) }),
});

/** Acts of coloring, made for a kit as it is shown. */
const acts: ((shown: KitState, n: number) => Edit | null)[] = [
  ({ seats }, n) => seatFaces('tower', seats.tower!.cell, Uint32Array.of(n % faces, (n + 1) % faces), [1, 2, 3, gradientCell][n % 4]!),
  ({ seats }, n) => seatFaces('buoy', seats.buoy!.cell, Uint32Array.of(n % faces), n % 2 ? 0 : gradientCell),
  ({ seats }, n) => placeFaces('tower', seats.tower!, faceStart, Uint32Array.of(n % faces), [(n % 8) / 8, 0.5]),
  ({ seats }, n) => ruleEdit('tower', seats.tower!, Uint32Array.of(n % faces), n % 3),
  ({ kit: { sheets } }, n) => editCell(sheets[0]!, 1 + (n % 3), { fill: { kind: 'solid', color: n % 2 ? '#445566' : '#cc8844' } }),
  ({ kit: { sheets } }, n) => editCell(sheets[0]!, gradientCell, { fill: gradient(n % 2 ? '#ffffff' : '#e0d0c0'), role: `sky ${n % 3}` }),
  (shown, n) => {
    const made = newColor(shown, { sheet: shown.kit.sheets[0]!.id, color: '#abcdef', role: 'new', beside: 1 });
    const seated = seatFaces('tower', shown.seats.tower!.cell, Uint32Array.of(n % faces), made.cell)!;
    return group('New color', [made.edit, seated]);
  },
  ({ kit, seats }, n) => {
    const [tower] = kit.models as [Model];
    const named = { ...tower, regions: [...tower.regions, { id: tower.regions.length + 1, name: `${n}`, cell: 2 }] };
    const face = Uint32Array.of(n % faces);
    return group('Color and name', [
      { kind: 'put', list: 'models', of: 'kit', index: 0, before: tower, after: named },
      { kind: 'region', model: 'tower', spans: spansOf(seats.tower!.region, face, named.regions.length) },
      ...[seatFaces('tower', seats.tower!.cell, face, 2)].filter((e) => e !== null),
    ]);
  },
];

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
  it('keeps its colors when the sheet is laid out anew', () => {
    const state = colored();
    const sheet = state.kit.sheets[0]!;
    const plan = planRelay(sheet, new Set(sheet.cells.map((c) => c.id)), { exactTo: 0, spares: 0, dropUnused: false, padding: 0 });
    const edit = relaySheet(state.kit, sheet, plan);
    const after = applyEdit(state, edit);
    expect(after.kit.sheets[0]!.width * after.kit.sheets[0]!.height).toBeLessThan(256);
    expect(inAll(after)).toEqual(inAll(state));
  });

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

  it('comes along to another mesh: cut, turned and with new faces', () => {
    const mesh = grid(4, () => 0);
    const state = colored();
    const patches = patchesOfModel(state, 'tower');
    const from = Int32Array.of(11, 3, 4, -1, 0, 5, 6, 7, 8, 9, 10, 1, 12, 15, 14, 4);
    const carried = carryAll({ seams: [], patches }, state.seats.tower!, mesh, mesh, { from, order: new Int8Array(faces).fill(1) });
    for (const [id, patch] of Object.entries(patches)) {
      const there = carried.patches![id]!;
      expect([...there.cell]).toEqual([...from].map((f) => (f < 0 ? inherits : patch.cell[f]!)));
      const at = (p: typeof patch, f: number) => [...(p.at?.subarray(f * 8, f * 8 + 8) ?? new Float32Array(8).fill(NaN))];
      from.forEach((f, g) => expect(at(there, g)).toEqual(f < 0 ? Array(8).fill(NaN) : at(patch, f)));
      expect([...(there.rule ?? [])]).toEqual(patch.rule ? [...from].map((f) => (f < 0 ? inherits : patch.rule![f]!)) : []);
    }
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
