import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { emptySeats, type KitState, type Model, copySeats } from '../kit/kit';
import { editCell, growSheet } from '../sheet/cells';
import { newColor } from '../sheet/newColor';
import { newKit } from '../sheet/starter';
import { EditRefused } from './refused';
import { applyEdit, sizeOfEdit } from './editKinds';
import { group, type Edit } from './edit';
import { canUndo, emptyHistory, perform, performWith, redo, undo, type Step } from './history';
import { seatFaces, spansOf } from '../seat/seatFaces';

const faces = 40;
const model = (id: string, sheet: string): Model => ({
  id,
  name: id,
  mesh: 'x',
  faces,
  sheet,
  regions: [],
  slots: [],
  seams: [],
  source: { format: 'made', name: id, files: [] },
});

function start(): Step {
  const kit = newKit('Skerry');
  return {
    state: { kit: { ...kit, models: [model('bell', kit.sheets[0]!.id)] }, seats: { bell: emptySeats(faces) } },
    history: emptyHistory,
  };
}

/** A copy that later changes in place cannot reach. */
const frozen = ({ kit, seats }: KitState) =>
  JSON.stringify({
    kit,
    seats: Object.entries(seats)
      .map(([id, s]) => [id, [...s.cell], [...s.region]])
      .sort(),
  });

/** One random edit that fits the present state. */
function someEdit({ kit, seats }: KitState, kind: number, n: number): Edit | null {
  const sheet = kit.sheets[0]!;
  const target = kit.models[n % Math.max(1, kit.models.length)];
  const cell = sheet.cells[n % sheet.cells.length]!;
  switch (kind) {
    case 0:
      return target
        ? seatFaces(
            target.id,
            seats[target.id]!.cell,
            Uint32Array.from({ length: 9 }, (_, i) => (n * (i + 1)) % faces),
            cell.id,
          )
        : null;
    case 1:
      return target
        ? seatFaces(
            target.id,
            seats[target.id]!.cell,
            Uint32Array.from({ length: faces }, (_, f) => f),
            (before, f) => (f % 3 === n % 3 ? (before % 12) + 1 : null),
          )
        : null;
    case 2:
      return editCell(sheet, cell.id, { role: `role ${n}`, fill: n % 2 ? { kind: 'spare' } : { kind: 'solid', color: '#123456' } });
    case 3:
      return newColor({ kit, seats }, { sheet: sheet.id, color: '#abcdef', role: 'new', beside: cell.id }).edit;
    case 4:
      return sheet.width * sheet.height < 4096 ? group('Grow', growSheet(kit, sheet)) : null;
    case 5: {
      const added = model(`m${kit.models.length}-${n}`, sheet.id);
      return kit.models.some((m) => m.id === added.id)
        ? null
        : {
            kind: 'put',
            list: 'models',
            of: 'kit',
            index: n % (kit.models.length + 1),
            before: null,
            after: added,
            seats: emptySeats(faces),
          };
    }
    case 6:
      return target
        ? {
            kind: 'put',
            list: 'models',
            of: 'kit',
            index: kit.models.indexOf(target),
            before: target,
            after: null,
            seats: copySeats(seats[target.id]!),
          }
        : null;
    case 7:
      return { kind: 'set', of: 'kit', before: { name: kit.name }, after: { name: `Skerry ${n}` } };
    case 8:
      return target ? { kind: 'region', model: target.id, spans: spansOf(seats[target.id]!.region, Uint32Array.of(n % faces), 3) } : null;
    default:
      return target
        ? {
            kind: 'remesh',
            model: target.id,
            before: {
              mesh: target.mesh,
              faces,
              seats: copySeats(seats[target.id]!),
              ...(target.placement && { placement: target.placement }),
            },
            after: { mesh: `y${n}`, faces, seats: emptySeats(faces), placement: { upFromZ: true, scale: 2 } },
          }
        : null;
  }
}

const lastOf = ({ history }: Step): Edit => history.edits[history.cursor - 1]!;

describe('edits', () => {
  it('undone in any number return to the identical kit, and done again to the same one', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.nat(9), fc.nat(500), fc.nat(9)), { maxLength: 30 }), (plan) => {
        let step = start();
        const states = [frozen(step.state)];
        for (const [kind, n, chance] of plan) {
          const edit = someEdit(step.state, kind, n);
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
      { seed: 7, numRuns: 80 },
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
      [place({ before: new Float32Array(2) }), 'placed meanwhile'],
      [place({ spans: Uint32Array.of(160, 1) }), 'corners that'],
      [place({ after: new Float32Array(4) }), 'do not fit its corners'],
      [remesh({ model: 'tower' }), 'no model “tower”'],
      [remesh({ before: { mesh: 'z', faces, seats: emptySeats(faces) } }), 'has changed meanwhile'],
      [remesh({ before: { mesh: 'x', faces, seats: { ...emptySeats(faces), region: new Uint16Array(faces).fill(2) } } }), 'has changed'],
      [remesh({ after: { mesh: 'y', faces: 3, seats: emptySeats(faces) } }), 'do not fit the 3 faces'],
    ];
    const before = frozen(state);
    for (const [edit, why] of wrong) {
      expect(() => applyEdit(state, edit), why).toThrow(why);
      // Also where something else of the same group was done before.
      expect(() => applyEdit(state, group('', [seat(3, 4, 0, 2), edit]))).toThrow(EditRefused);
      expect(frozen(state)).toBe(before);
    }
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
