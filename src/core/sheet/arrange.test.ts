import { byId } from '@/core/ground/byId';
import fc from 'fast-check';
import { expect, it } from 'vitest';
import { applyEdit, inverseOf } from '../kit/edit/editKinds';
import type { Edit } from '../kit/edit/edit';
import { emptySeats, usableCells, type KitState, type Sheet } from '../kit/kit';
import { colorsSeen, expectDisjoint, kits } from '@tests/sheets';
import { arrangeSheet, cellsInBand, deleteBand, insertBand, moveCells, pinchSheet, resizeCell, sortCells, splitCell } from './arrange';
import { mergeCells, mergeColors } from './mergeColors';
import { newKit } from './starter';

const sheetOf = (state: KitState): Sheet => state.kit.sheets[0]!;

/** What an artist may do to a sheet, by numbers. */
function anyEdit(state: KitState, [what, a, b, c]: readonly number[]): Edit {
  const { kit } = state;
  const sheet = sheetOf(state);
  const cell = sheet.cells[a! % sheet.cells.length]!;
  const axis = b! % 2 ? 'x' : 'y';
  const side = axis === 'x' ? sheet.width : sheet.height;
  switch (what! % 7) {
    case 0:
      return moveCells(kit, sheet, [cell.id], ((b! % 9) - 4) * 2, ((c! % 9) - 4) * 2);
    case 1:
      return resizeCell(kit, sheet, cell.id, { ...cell.rect, w: 1 + (b! % 6), h: 1 + (c! % 6) });
    case 2:
      return splitCell(kit, sheet, cell.id, 1 + (b! % 3), 1 + (c! % 3));
    case 3:
      return insertBand(kit, sheet, { axis, at: a! % (side + 1), texels: 1 + (c! % 5) });
    case 4: {
      const band = { axis, at: a! % side, texels: 1 + (c! % Math.max(1, side - 1 - (a! % side))) } as const;
      if (cellsInBand(sheet, band).length || band.texels >= side) throw new Error('colors inside');
      return deleteBand(kit, sheet, band);
    }
    case 5:
      return pinchSheet(kit, sheet, sheet.width * (1 + (b! % 2)), sheet.height * (1 + (c! % 2)));
    default:
      return sortCells(kit, sheet, (['ramp', 'hue', 'lightness', 'use'] as const)[b! % 4]!, (id) => (id * 37) % 11);
  }
}

it('changes no face’s color, whatever is done to the sheet, leaves no gap, and is undone exactly', () => {
  const acts = fc.array(fc.tuple(fc.nat(6), fc.nat(999), fc.nat(999), fc.nat(999)), { minLength: 1, maxLength: 12 });
  let done = 0;
  fc.assert(
    fc.property(kits, acts, ({ state: start, cell }, list) => {
      const wanted = colorsSeen(sheetOf(start), cell);
      let state = start;
      for (const act of list) {
        let edit: Edit;
        try {
          edit = anyEdit(state, act);
        } catch {
          continue;
        }
        const after = applyEdit(state, edit);
        expect(JSON.stringify(applyEdit(after, inverseOf(edit)))).toBe(JSON.stringify(state));
        expectDisjoint(sheetOf(after));
        expect(colorsSeen(sheetOf(after), cell)).toEqual(wanted);
        state = after;
        done++;
      }
    }),
    { seed: 3, numRuns: 60 },
  );
  expect(done).toBeGreaterThan(150);
});

const start = (): KitState => ({ kit: newKit('Skerry'), seats: byId() });
const at = (sheet: Sheet, id: number) => sheet.cells.find((c) => c.id === id)!.rect;

it('swaps places with what lies under a moved cell, and lets a run pass what it pushes out', () => {
  const state = start();
  const moved = sheetOf(applyEdit(state, moveCells(state.kit, sheetOf(state), [1], 8, 4)));
  expect([at(moved, 1), at(moved, 7)]).toEqual([
    { x: 8, y: 4, w: 4, h: 4 },
    { x: 0, y: 0, w: 4, h: 4 },
  ]);
  const run = sheetOf(applyEdit(state, moveCells(state.kit, sheetOf(state), [1, 2, 3], 4, 0)));
  expect([1, 2, 3, 4].map((id) => at(run, id).x)).toEqual([4, 8, 12, 0]);
});

it('says what forbids an arrangement', () => {
  const { kit } = start();
  const sheet = kit.sheets[0]!;
  expect(() => moveCells(kit, sheet, [1], -4, 0)).toThrow('“rust, in shade” would lie outside of the sheet');
  expect(() => resizeCell(kit, sheet, 1, { x: 0, y: 0, w: 5, h: 4 })).toThrow('“rust” would lie over “rust, in shade”');
  expect(() => splitCell(kit, sheet, 1, 5, 1)).toThrow('4 × 4 texels');
  expect(() => pinchSheet(kit, sheet, 2, 2)).toThrow('would have none');
  expect(() => pinchSheet(kit, sheet, 4097, 16)).toThrow('1 to 4096 texels');
  expect(() =>
    arrangeSheet(kit, sheet, { width: 64, height: 64, cells: [{ ...sheet.cells[0]!, rect: { x: 0, y: 0, w: 1, h: 1 } }] }, ''),
  ).toThrow('it can have 2000');
  expect(() => moveCells(kit, { ...sheet, frozen: { picture: 'x' } }, [1], 4, 0)).toThrow('frozen');
});

it('merges colors with all their faces, and neighbours into one cell', () => {
  const cell = Uint16Array.from([1, 2, 3, 2]);
  const { kit } = start();
  const model = {
    id: 'm',
    name: 'buoy',
    regions: [{ id: 1, name: 'hull', cell: 0 }],
    slots: [],
  } as unknown as KitState['kit']['models'][number];
  const state: KitState = { kit: { ...kit, models: [model] }, seats: byId({ m: { ...emptySeats(4), cell } }) };
  const before = JSON.stringify(state);
  const edit = mergeColors(state, 2, [1, 3]);
  const after = applyEdit(state, edit);
  expect([...after.seats.m!.cell]).toEqual([2, 2, 2, 2]);
  expect(sheetOf(after).ramps[0]!.cells).toEqual([2]);
  expect(usableCells(sheetOf(after)).map((c) => c.id)).not.toContain(1);
  expect(JSON.stringify(applyEdit(after, inverseOf(edit)))).toBe(before);

  const wide = mergeCells(state, 2, [1, 2]);
  const merged = applyEdit(state, wide);
  expect(at(sheetOf(merged), 2)).toEqual({ x: 0, y: 0, w: 8, h: 4 });
  expect([...merged.seats.m!.cell]).toEqual([2, 2, 3, 2]);
  expectDisjoint(sheetOf(merged));
  applyEdit(merged, inverseOf(wide));
  // A locked region's faces are not merged away.
  const locked = { ...state, kit: { ...state.kit, models: [{ ...model, regions: [{ id: 1, name: 'hull', cell: 0, locked: true }] }] } };
  locked.seats.m!.region[2] = 1;
  expect(() => applyEdit(locked, mergeColors(locked, 2, [1, 3]))).toThrow(
    'faces of “buoy” lie in the locked region “hull”. Unlock it first',
  );
  expect([...locked.seats.m!.cell]).toEqual([1, 2, 3, 2]);
  expect(() => mergeCells(state, 1, [1, 6])).toThrow('would lie over');
});
