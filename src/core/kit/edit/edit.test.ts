import { modelOf } from '@tests/parts';
import { inherits } from '../../ground/limits';
import { byId } from '@/core/ground/byId';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { newHandOff, usualIcon } from '../handOffPlan';
import { copySeats, emptySeats, type Cell, type KitState, type Model } from '../kit';
import { copyPatches, patchesOfModel } from '../patches';
import { emptyPixels } from '../pixels';
import { editCell, growSheet } from '../../sheet/cells';
import { newColor } from '../../sheet/newColor';
import { newKit } from '../../sheet/starter';
import { EditRefused } from './refused';
import { applyEdit, contentsOfEdit, labelOf, recoloredModels, sizeOfEdit } from './editKinds';
import { group, type Edit } from './edit';
import { canUndo, emptyHistory, perform, performWith, redo, undo, type Step } from './history';
import { ruleEdit, seatFaces, spansOf } from './seatFaces';

const faces = 40;
const model = (id: string, sheet: string): Model => modelOf(id, faces, sheet);

function start(): Step {
  const kit = newKit('Skerry');
  return {
    state: { kit: { ...kit, models: [model('bell', kit.sheets[0]!.id)] }, seats: byId({ bell: emptySeats(faces) }) },
    history: emptyHistory,
  };
}

/** A copy that later changes in place cannot reach: everything, seats by what they hold. */
const frozen = ({ kit, seats, patches = byId<never>(), pixels = byId() }: KitState) =>
  JSON.stringify(
    [
      kit,
      Object.entries(pixels).sort(),
      ...Object.entries(patches)
        .sort()
        .map(([id, own]) => [id, ...Object.entries(own).sort()]),
      Object.entries(seats)
        .sort()
        .map(([id, { cell, region, rule, at }]) => [id, cell, region, rule, at]),
    ],
    (_, v: unknown) => (ArrayBuffer.isView(v) ? Array.from(v as Uint16Array) : v),
  );

type Maker = (state: KitState, target: Model, n: number) => Edit | null;
const entry = (edit: object): Edit => ({ kind: 'put', of: 'kit', ...edit }) as Edit;
/** Adds, changes or removes an entry of a list, by turns. */
const entries = (list: 'variants' | 'references' | 'handOffs', make: (n: number) => object): Maker => {
  return ({ kit, patches }, _, n) => {
    const present: readonly object[] = kit[list];
    const index = n % (present.length + 1);
    const before = present[index] ?? null;
    const id = before ? { ...before } : { id: `${list} ${n}` };
    if (!before && present.some((e) => (e as { id: string }).id === `${list} ${n}`)) return null;
    const own = patches?.[(before as { id: string } | null)?.id ?? ''];
    const kept = own && { patches: copyPatches(own) };
    if (before && n % 3 === 0) return entry({ list, index, before, after: null, ...(list === 'variants' && kept) });
    const name = list === 'variants' ? `${n} of ${(id as { id: string }).id}` : `${n}`;
    return entry({ list, index, before, after: { ...make(n), ...(id as { id: string }), name } });
  };
};

/** Random edits of every kind and every list, that fit the present state; `n` says which one. */
const makers: Maker[] = [
  ({ kit, seats }, target, n) => {
    const some = Uint32Array.from({ length: 9 }, (_, i) => (n * (i + 1)) % faces);
    return seatFaces(target.id, seats[target.id]!.cell, some, kit.sheets[0]!.cells[n % kit.sheets[0]!.cells.length]!.id);
  },
  ({ seats }, target, n) => {
    const all = Uint32Array.from({ length: faces }, (_, f) => f);
    return seatFaces(target.id, seats[target.id]!.cell, all, (before, f) => (f % 3 === n % 3 ? (before % 12) + 1 : null));
  },
  ({ kit }, _, n) => {
    const sheet = kit.sheets[0]!;
    const fill = n % 2 ? ({ kind: 'spare' } as const) : ({ kind: 'solid', color: '#123456' } as const);
    return editCell(sheet, sheet.cells[n % sheet.cells.length]!.id, { role: `role ${n}`, fill });
  },
  (state) => newColor(state, { sheet: state.kit.sheets[0]!.id, color: '#abcdef', role: 'new', beside: 1 }).edit,
  ({ kit }) => (kit.sheets[0]!.width * kit.sheets[0]!.height < 4096 ? group('Grow', growSheet(kit, kit.sheets[0]!)) : null),
  ({ kit }, target, n) => {
    const added = { ...target, id: `m${kit.models.length}-${n}` };
    const index = n % (kit.models.length + 1);
    return kit.models.some((m) => m.id === added.id)
      ? null
      : entry({ list: 'models', index, before: null, after: added, seats: emptySeats(faces) });
  },
  (state, target) =>
    // One stays, so that there is always a model to color.
    state.kit.models.length < 2
      ? null
      : entry({
          list: 'models',
          index: state.kit.models.indexOf(target),
          before: target,
          after: null,
          seats: copySeats(state.seats[target.id]!),
          patches: copyPatches(patchesOfModel(state, target.id)),
        }),
  ({ kit }, target, n) =>
    entry({ list: 'models', index: kit.models.indexOf(target), before: target, after: { ...target, name: `${n}`, seams: [n], slots: [] } }),
  ({ kit }, _, n) => ({ kind: 'set', of: 'kit', before: { name: kit.name }, after: { name: `Skerry ${n}` } }),
  // A field that comes and goes.
  ({ kit }, _, n) =>
    kit.allowed
      ? { kind: 'set', of: 'kit', before: { allowed: kit.allowed }, after: {} }
      : { kind: 'set', of: 'kit', before: {}, after: { allowed: { name: `${n}`, colors: ['#123456'] } } },
  ({ kit: { sheets } }, _, n) => ({ kind: 'set', of: sheets[0]!.id, before: { padding: sheets[0]!.padding }, after: { padding: n % 4 } }),
  ({ seats }, target, n) => ({
    kind: 'region',
    model: target.id,
    spans: spansOf(seats[target.id]!.region, Uint32Array.of(n % faces), (n % 3) + 1),
  }),
  ({ seats }, target, n) => ruleEdit(target.id, seats[target.id]!, Uint32Array.of(n % faces, (n + 2) % faces), n % 3),
  ({ seats }, target, n) => {
    const { at } = seats[target.id]!;
    const first = (n % faces) * 4;
    const spans = Uint32Array.of(first, 2, first + 3, 1);
    const before = at ? Float32Array.of(...at.slice(first * 2, first * 2 + 4), ...at.slice(first * 2 + 6, first * 2 + 8)) : null;
    return {
      kind: 'place',
      model: target.id,
      corners: faces * 4,
      spans,
      before,
      after: Float32Array.from({ length: 6 }, (_, i) => ((n + i) % 16) / 16),
    };
  },
  (state, target, n) => {
    const { mesh, placement, seams, source, picks = [] } = target;
    const rule = new Uint16Array(faces).fill(1 + (n % 3));
    const patches = copyPatches(patchesOfModel(state, target.id));
    const [variant] = state.kit.variants;
    const patch = { cell: new Uint16Array(faces).fill(n % 7) };
    return {
      kind: 'remesh',
      model: target.id,
      before: { mesh, faces, seams, source, picks, seats: copySeats(state.seats[target.id]!), patches, ...(placement && { placement }) },
      after: {
        mesh: `y${n}`,
        faces,
        seats: byId({ ...emptySeats(faces), rule }),
        ...(variant && n % 4 && { patches: byId({ [variant.id]: patch }) }),
        ...(n % 2 && { placement: { upFromZ: true, scale: n } }),
        ...(n % 5 && { seams: [n], picks: [{ id: 1, name: 'lid', spans: [n % faces, 1] }] }),
      },
    };
  },
  entries('variants', () => ({ fills: { 1: { kind: 'solid', color: '#808080' } } })),
  ({ kit, patches }, target, n) => {
    const variant = kit.variants[n % Math.max(1, kit.variants.length)];
    if (!variant) return null;
    const own = patches?.[variant.id]?.[target.id];
    const first = n % (faces - 1);
    const cell = (f: number) => own?.cell[f] ?? inherits;
    const at = (i: number) => own?.at?.[i] ?? NaN;
    return {
      kind: 'patch',
      variant: variant.id,
      model: target.id,
      cornerCount: faces * 4,
      cells: Uint32Array.of(first, 1, cell(first), n % 3 ? (n % 12) + 1 : inherits, first + 1, 1, cell(first + 1), n % 2 ? 0 : inherits),
      rules: n % 5 ? new Uint32Array() : Uint32Array.of(first, 1, own?.rule?.[first] ?? inherits, n % 2 ? 0 : inherits),
      corners: Uint32Array.of(first * 4, 1),
      before: Float32Array.of(at(first * 8), at(first * 8 + 1)),
      after: n % 4 ? Float32Array.of(n / 512, 0.5) : Float32Array.of(NaN, NaN),
    };
  },
  ({ kit: { cues = [], models } }, _, n) => {
    const before = cues[n % (cues.length + 1)] ?? null;
    const made = { id: `cue ${n}`, name: `Cue ${n}`, when: { kind: 'start' }, who: { model: models[0]!.id }, does: { kind: 'next' } };
    if (!before && cues.some((c) => c.id === made.id)) return null;
    const after = before && n % 3 === 0 ? null : before ? { ...before, after: n % 60 } : made;
    return entry({ list: 'cues', index: n % (cues.length + 1), before, after });
  },
  ({ kit: { placements = [], models } }, target, n) => {
    const [first] = placements;
    const made = { id: `o${n}`, name: `Stand ${n}`, model: target.id, at: [n % 7, 0, 1] as [number, number, number], turn: 5, scale: 1 };
    const isGone = first && n % 3 === 0;
    const isTurned = first && !isGone && models.some((m) => m.id === first.model);
    const comes = placements.some((p) => p.id === made.id)
      ? []
      : [{ index: placements.length - (isGone ? 1 : 0), before: null, after: made }];
    const moves = isGone
      ? [{ index: 0, before: first, after: null }]
      : isTurned
        ? [{ index: 0, before: first, after: { ...first, turn: n % 360 } }]
        : [];
    return comes.length + moves.length ? { kind: 'stand', label: 'Stand', puts: [...moves, ...comes] } : null;
  },
  // Painted art comes, and is painted on.
  ({ pixels }, _, n) =>
    pixels?.[`a${n % 3}`] ? null : { kind: 'canvas', art: `a${n % 3}`, before: null, after: emptyPixels(4, 3, n % 3) },
  ({ pixels = byId() }, _, n) => {
    const own = pixels[`a${n % 3}`];
    const texels = Uint32Array.of(n % 12, (n + 5) % 12);
    if (!own || n % 5) return own ? { kind: 'pixels', art: `a${n % 3}`, spans: spansOf(own.cells, texels, n % 4) } : null;
    const before = own.cells.slice(n % 4);
    return { kind: 'pixels', art: `a${n % 3}`, first: n % 4, before, after: before.map((c, i) => (i % 3 ? n % 4 : c)) };
  },
  entries('references', (n) => ({ picture: `p${n}` })),
  entries('handOffs', () => newHandOff('', '')),
  ({ kit: { sheets } }, _, n) => {
    const { id, ramps, cells } = sheets[0]!;
    const added = { id: `ramp ${n}`, name: `Ramp ${n}`, cells: [cells[0]!.id] };
    return n % 2 || !ramps.length
      ? ramps.some((r) => r.id === added.id)
        ? null
        : { kind: 'put', list: 'ramps', of: id, index: n % (ramps.length + 1), before: null, after: added }
      : { kind: 'put', list: 'ramps', of: id, index: 0, before: ramps[0]!, after: n % 4 ? { ...ramps[0]!, name: `${n}` } : null };
  },
  ({ kit: { sheets } }, _, n) => {
    const added = { ...newKit('x').sheets[0]!, id: `sheet ${n}`, cells: [], ramps: [] };
    if (sheets.length > 1) return entry({ list: 'sheets', index: sheets.length - 1, before: sheets.at(-1), after: null });
    return entry({ list: 'sheets', index: 1, before: null, after: added });
  },
];

const lastOf = ({ history }: Step): Edit => history.edits[history.cursor - 1]!;

describe('edits', () => {
  it('undone in any number return to the identical kit, and done again to the same one', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.nat(makers.length - 1), fc.nat(500), fc.nat(9)), { maxLength: 40 }), (plan) => {
        let step = start();
        const states = [frozen(step.state)];
        for (const [kind, n, chance] of plan) {
          const { models } = step.state.kit;
          const edit = makers[kind]!(step.state, models[n % models.length]!, n);
          if (edit) {
            step = perform(step, edit);
            states.splice(step.history.cursor, Infinity, frozen(step.state));
          }
          if (chance < 3) step = undo(step);
          if (chance === 9) step = redo(step);
          expect(frozen(step.state)).toBe(states[step.history.cursor]);
        }
        const end = step.history.cursor;
        while (canUndo(step.history)) {
          step = undo(step);
          expect(frozen(step.state)).toBe(states[step.history.cursor]);
        }
        while (step.history.cursor < end) step = redo(step);
        expect(frozen(step.state)).toBe(states[end]);
      }),
      { seed: 7, numRuns: 100 },
    );
  });

  it('keep runs of faces as one span and leave out what does not change', () => {
    const cells = Uint16Array.of(1, 1, 1, 2, 5, 5, 0);
    expect([...spansOf(cells, Uint32Array.of(6, 0, 2, 1, 3, 4, 4), 5)]).toEqual([0, 3, 1, 5, 3, 1, 2, 5, 6, 1, 0, 5]);
    expect(seatFaces('bell', cells, Uint32Array.of(4, 5), 5)).toBeNull();
  });

  it('join a second click to the first as one undo', () => {
    const one = start();
    const first = perform(one, seatFaces('bell', one.state.seats.bell!.cell, Uint32Array.of(1), 2)!);
    const both = performWith(first, seatFaces('bell', first.state.seats.bell!.cell, Uint32Array.of(1, 2, 3), 2)!, lastOf(first));
    expect(both.history.cursor).toBe(1);
    expect([...undo(both).state.seats.bell!.cell].every((c) => c === 0)).toBe(true);
  });

  it('join steps of one slider into one change', () => {
    const one = start();
    const recolor = (step: Step, color: string) => editCell(step.state.kit.sheets[0]!, 1, { fill: { kind: 'solid', color } });
    const first = perform(one, recolor(one, '#111111'));
    const second = performWith(first, recolor(first, '#222222'), lastOf(first));
    expect(second.history.edits).toEqual([expect.objectContaining({ kind: 'put', before: one.state.kit.sheets[0]!.cells[0] })]);
    expect(frozen(undo(second).state)).toBe(frozen(one.state));
  });

  it('join only the edit that they name, and only while it is the last', () => {
    const one = start();
    const color = (step: Step, face: number) => seatFaces('bell', step.state.seats.bell!.cell, Uint32Array.of(face), 2)!;
    const first = perform(one, color(one, 1));
    const other = perform(first, editCell(first.state.kit.sheets[0]!, 1, { role: 'sail' }));
    const late = performWith(other, color(other, 2), lastOf(first));
    expect(late.history.cursor).toBe(3);
    expect(undo(late).state.kit.sheets[0]!.cells[0]!.role).toBe('sail');
  });

  it('are refused, and leave everything as it is, where they do not fit', () => {
    const { state } = start();
    const bell = state.kit.models[0]!;
    const sheet = state.kit.sheets[0]!;
    const cell = sheet.cells[0]!;
    const other = model('tower', sheet.id);
    const seat = (...spans: number[]): Edit => ({ kind: 'seat', model: 'bell', spans: Uint32Array.from(spans) });
    const place = (change: Partial<Extract<Edit, { kind: 'place' }>>): Edit => ({
      kind: 'place',
      model: 'bell',
      corners: 160,
      spans: Uint32Array.of(0, 1),
      before: null,
      after: new Float32Array(2),
      ...change,
    });
    const remesh = (change: Partial<Extract<Edit, { kind: 'remesh' }>>): Edit => ({
      kind: 'remesh',
      model: 'bell',
      before: { mesh: 'x', faces, seats: emptySeats(faces) },
      after: { mesh: 'y', faces, seats: emptySeats(faces) },
      ...change,
    });
    const put = (change: object): Edit =>
      ({ kind: 'put', list: 'models', of: 'kit', index: 0, before: null, after: null, ...change }) as Edit;
    const wrong: [Edit, string][] = [
      [put({ before: other, seats: emptySeats(faces) }), 'the list has changed'],
      [put({ before: { ...bell, name: 'Bell' }, after: bell }), 'the list has changed'],
      [put({ after: bell, seats: emptySeats(faces) }), 'the number “bell” is taken'],
      [put({ after: other }), 'without seats'],
      [put({ after: other, seats: emptySeats(faces - 1) }), 'do not fit the 40 faces'],
      [put({ after: { ...other, sheet: 'none' }, seats: emptySeats(faces) }), 'names a sheet'],
      [put({ index: 9, after: other, seats: emptySeats(faces) }), 'no place 9'],
      [put({ before: bell }), 'without its seats'],
      [put({ before: bell, seats: { ...emptySeats(faces), cell: new Uint16Array(faces).fill(1) } }), 'colors of “bell” have changed'],
      [put({ list: 'cells', of: 'none', after: cell }), 'no such sheet'],
      [put({ list: 'cells', of: sheet.id, after: cell }), 'is taken'],
      [put({ list: 'cells', of: sheet.id, after: { ...cell, id: 65536 } }), 'used up'],
      [put({ list: 'cells', of: sheet.id, before: { ...cell, role: 'x' }, after: cell }), 'the list has changed'],
      [{ kind: 'set', of: 'none', before: { padding: 1 }, after: { padding: 2 } }, 'no such sheet'],
      [{ kind: 'set', of: sheet.id, before: { padding: 7 }, after: { padding: 2 } }, 'the padding of the sheet has changed'],
      [{ kind: 'set', of: 'kit', before: { name: 'x' }, after: { name: 'y' } }, 'the name of the kit has changed'],
      [seat(0, 1, 5, 6), 'face 1 of “bell” has changed'],
      [seat(39, 2, 0, 1), 'does not have'],
      [seat(5, 2, 0, 1, 6, 1, 0, 1), 'does not have'],
      [seat(0, 1, 0, 99), 'there is no cell 99'],
      [{ kind: 'seat', model: 'tower', spans: new Uint32Array(0) }, 'no model “tower”'],
      [{ kind: 'region', model: 'bell', spans: Uint32Array.of(0, 1, 4, 1) }, 'has changed'],
      [{ kind: 'rule', model: 'bell', spans: Uint32Array.of(0, 1, 4, 1) }, 'has changed'],
      [{ kind: 'rule', model: 'bell', spans: Uint32Array.of(39, 2, 0, 1) }, 'does not have'],
      [place({ before: new Float32Array(2) }), 'placed meanwhile'],
      [place({ spans: Uint32Array.of(160, 1) }), 'corners that'],
      [place({ after: new Float32Array(4) }), 'do not fit its corners'],
      [remesh({ model: 'tower' }), 'no model “tower”'],
      [remesh({ before: { mesh: 'z', faces, seats: emptySeats(faces) } }), 'has changed meanwhile'],
      [remesh({ before: { mesh: 'x', faces, seats: { ...emptySeats(faces), region: new Uint16Array(faces).fill(2) } } }), 'has changed'],
      [remesh({ after: { mesh: 'y', faces: 3, seats: emptySeats(faces) } }), 'do not fit the 3 faces'],
    ];
    const pot = { id: 'o', name: 'Pot', model: 'bell', at: [0, 0, 0] as [number, number, number], turn: 0, scale: 1 };
    const stand = (...puts: [number, typeof pot | null, typeof pot | null][]): Edit => ({
      kind: 'stand',
      label: '',
      puts: puts.map(([index, was, after]) => ({ index, before: was, after })),
    });
    wrong.push(
      [stand([1, null, pot]), 'no place 1'],
      [stand([0, pot, null]), 'the stage has changed'],
      [stand([0, null, pot], [0, { ...pot, turn: 1 }, null]), 'the stage has changed'],
      [stand([0, null, pot], [1, null, { ...pot, name: 'Other' }]), 'the number “o” is taken'],
      [stand([0, null, pot], [1, null, { ...pot, id: 'p' }]), 'another placement is called “Pot”'],
      [stand([0, null, { ...pot, model: 'none' }]), 'of a model that is not there'],
      [
        stand(...Array.from({ length: 10_001 }, (_, i) => [i, null, { ...pot, id: `${i}`, name: `${i}` }] as [number, null, typeof pot])),
        'holds 10000',
      ],
    );
    const before = frozen(state);
    for (const [edit, why] of wrong) {
      expect(() => applyEdit(state, edit), why).toThrow(why);
      // Also where something else of the same group was done before.
      expect(() => applyEdit(state, group('', [seat(3, 4, 0, 2), edit]))).toThrow(EditRefused);
      expect(frozen(state)).toBe(before);
    }
  });

  it('of a group are taken back although one of them has locked what another one colored', () => {
    const { state } = start();
    const bell = { ...state.kit.models[0]!, regions: [{ id: 1, name: 'lid', cell: 0 }] };
    state.kit.models[0] = bell;
    state.seats.bell!.region.fill(1);
    const lock: Edit = {
      kind: 'put',
      list: 'models',
      of: 'kit',
      index: 0,
      before: bell,
      after: { ...bell, regions: [{ ...bell.regions[0]!, locked: true }] },
    };
    const color: Edit = { kind: 'seat', model: 'bell', spans: Uint32Array.of(2, 3, 0, 1) };
    const before = frozen(state);
    expect(() => applyEdit(state, group('', [color, lock, color]))).toThrow(EditRefused);
    expect(frozen(state)).toBe(before);
  });

  it('tell what they did, which faces may have other colors, and which bytes they can bring back', () => {
    const { state } = start();
    const [sheet] = state.kit.sheets as [KitState['kit']['sheets'][0]];
    const bell = { ...state.kit.models[0]!, source: { ...state.kit.models[0]!.source, files: [{ name: 'a.glb', content: 'file' }] } };
    const art: Cell = { ...sheet.cells[0]!, fill: { kind: 'art', picture: 'numerals' } };
    const seats = emptySeats(faces);
    const put = (list: string, before: object | null, after: object | null, of = 'kit') =>
      ({ kind: 'put', list, of, index: 0, before, after, seats }) as unknown as Edit;
    const told: [Edit, string, string[], string[]][] = [
      [{ kind: 'seat', model: 'bell', spans: new Uint32Array(4) }, 'Color faces', ['bell'], []],
      [{ kind: 'region', model: 'bell', spans: new Uint32Array(4) }, 'Change regions', [], []],
      [
        { kind: 'place', model: 'bell', corners: 4, spans: new Uint32Array(2), before: null, after: null },
        'Place faces in their cell',
        [],
        [],
      ],
      [
        { kind: 'remesh', model: 'bell', before: { ...bell, seats }, after: { mesh: 'y', faces, seats } },
        'Repair the mesh',
        ['bell'],
        ['x', 'file', 'y'],
      ],
      [{ kind: 'set', of: 'kit', before: { name: 'a' }, after: { name: 'b' } }, 'Change the kit', [], []],
      [{ kind: 'set', of: sheet.id, before: {}, after: { frozen: { picture: 'old' } } }, 'Change the sheet', [], ['old']],
      [{ kind: 'set', of: sheet.id, before: { frozen: { picture: 'old' } }, after: {} }, 'Change the sheet', [], ['old']],
      [put('models', bell, null), 'Remove a model', [], ['x', 'file']],
      [put('cells', art, sheet.cells[0]!, sheet.id), 'Change a cell', [], ['numerals']],
      [put('ramps', null, sheet.ramps[0]!, sheet.id), 'Add a ramp', [], []],
      [put('sheets', null, { ...sheet, cells: [art], frozen: { picture: 'old' } }), 'Add a sheet', [], ['old', 'numerals']],
      [
        put('variants', null, { id: 'v', name: 'v', fills: { 1: art.fill, 2: { kind: 'spare' } }, seats: [] }),
        'Add a variant',
        [],
        ['numerals'],
      ],
      [put('references', { id: 'r', name: 'r', picture: 'photo' }, null), 'Remove a reference', [], ['photo']],
      [{ kind: 'rule', model: 'bell', spans: new Uint32Array(4) }, 'Change how faces are laid', [], []],
      [{ kind: 'stand', label: 'Scatter models', puts: [] }, 'Scatter models', [], []],
      [put('handOffs', null, { ...newHandOff('h', 'h'), icon: { ...usualIcon, picture: 'p' } }), 'Add a hand-off', [], ['p']],
    ];
    for (const [edit, label, recolors, contents] of told)
      expect([labelOf(edit), recoloredModels(edit), contentsOfEdit(edit)], label).toEqual([label, recolors, contents]);
    const both = group('Both', [told[0]![0], group('', [told[3]![0]])]);
    expect([labelOf(both), recoloredModels(both), contentsOfEdit(both)]).toEqual(['Both', ['bell', 'bell'], ['x', 'file', 'y']]);
    const size = (edit: Edit) => sizeOfEdit(edit);
    // A group costs a little itself; spans and coordinates cost their bytes.
    expect(size(both)).toBe(128 + size(told[0]![0]) + size(told[3]![0]));
    expect(size({ kind: 'region', model: 'bell', spans: new Uint32Array(400) })).toBe(64 + 1600);
    const place = {
      kind: 'place',
      model: 'bell',
      corners: 9,
      spans: new Uint32Array(2),
      before: null,
      after: new Float32Array(18),
    } as const;
    expect([size(place), size({ ...place, before: place.after, faces: new Uint32Array(2) })]).toEqual([64 + 8 + 72, 64 + 8 + 144 + 8]);
  });

  it('count all that they hold', () => {
    const seats = { ...emptySeats(faces), at: new Float32Array(160) };
    const removed: Edit = { kind: 'put', list: 'models', of: 'kit', index: 0, before: model('bell', ''), after: null, seats };
    expect(sizeOfEdit(removed)).toBeGreaterThanOrEqual(640 + 4 * faces);
    const before = { mesh: 'x', faces, seats };
    expect(sizeOfEdit({ kind: 'remesh', model: 'bell', before, after: { ...before, seats: emptySeats(faces) } })).toBeGreaterThanOrEqual(
      640 + 8 * faces,
    );
  });
});
