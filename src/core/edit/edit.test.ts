import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { emptySeats, type KitState, type Model } from '../kit/kit';
import { editCell, growSheet } from '../sheet/cells';
import { newColor } from '../sheet/newColor';
import { newKit } from '../sheet/starter';
import { applyEdit, copySeats, group, inverseOf, type Edit } from './edit';
import { canUndo, emptyHistory, perform, performWithLast, redo, undo, type Step } from './history';
import { seatFaces, spansOf } from './seatFaces';

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
            (before, f) => (f % 3 === n % 3 ? before + 1 : null),
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
    const both = performWithLast(first, seatFaces('bell', first.state.seats.bell!.cell, Uint32Array.of(1, 2, 3), 2)!);
    expect(both.history.cursor).toBe(1);
    expect([...undo(both).state.seats.bell!.cell].every((c) => c === 0)).toBe(true);
  });

  it('join steps of one slider into one change', () => {
    const one = start();
    const recolor = (step: Step, color: string) => editCell(step.state.kit.sheets[0]!, 1, { fill: { kind: 'solid', color } });
    const first = perform(one, recolor(one, '#111111'));
    const second = performWithLast(first, recolor(first, '#222222'));
    expect(second.history.edits).toEqual([expect.objectContaining({ kind: 'put', before: one.state.kit.sheets[0]!.cells[0] })]);
    expect(frozen(undo(second).state)).toBe(frozen(one.state));
  });

  it('refuse to guess when the kit is not as they expect', () => {
    const { state } = start();
    const remove: Edit = { kind: 'put', list: 'models', of: 'kit', index: 0, before: model('tower', 's'), after: null };
    expect(() => applyEdit(state, remove)).toThrow('the list has changed');
    expect(() => applyEdit(state, { kind: 'seat', model: 'tower', spans: new Uint32Array(0) })).toThrow('tower');
    expect(inverseOf(inverseOf(remove))).toEqual(remove);
  });
});
