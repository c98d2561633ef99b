import fc from 'fast-check';
import { expect, it } from 'vitest';
import { rgbFromHex } from '../color/hex';
import { applyEdit, inverseOf } from '../edit/edit';
import { spareCells, usableCells, type Cell, type Sheet } from '../kit/kit';
import { colorsSeen, expectDisjoint, kits } from '@tests/sheets';
import { planRelay, relaySheet } from './relay';
import { newKit } from './starter';

it('keeps every face’s color at every promised mip level, on the smallest sheet, and is undone exactly', () => {
  const options = fc.record({ exactTo: fc.constantFrom(0 as const, 1 as const, 2 as const), spares: fc.nat(5), dropUnused: fc.boolean() });
  fc.assert(
    fc.property(kits, options, ({ state, cell }, o) => {
      const sheet = state.kit.sheets[0]!;
      const plan = planRelay(sheet, new Set(cell), o);
      const edit = relaySheet(state.kit, sheet, plan);
      const after = applyEdit(state, edit);
      const now = after.kit.sheets[0]!;
      const wanted = Array.from(cell, (id) => rgbFromHex((sheet.cells.find((c) => c.id === id)!.fill as { color: string }).color).join());
      for (let level = 0; level <= o.exactTo; level++) expect(colorsSeen(now, cell, level)).toEqual(wanted);
      const side = 2 ** o.exactTo;
      const needed = (usableCells(now).length + o.spares) * side * side;
      expect(now.width * now.height).toBe(plan.width * plan.height);
      expect(now.width * now.height >= needed && (now.width * now.height) / 2 < Math.max(needed, side * side * 2)).toBe(true);
      expect(spareCells(now).length).toBeGreaterThanOrEqual(o.spares);
      expectDisjoint(now);
      expect(now.ramps.every((r) => r.cells.length > 0 && r.cells.every((id) => now.cells.some((c) => c.id === id)))).toBe(true);
      expect(JSON.stringify(applyEdit(after, inverseOf(edit)))).toBe(JSON.stringify(state));
    }),
    { seed: 15, numRuns: 50 },
  );
});

it('keeps gradients and art at their size, and a frozen sheet as it is', () => {
  const { kit } = { kit: newKit('Skerry') };
  const sheet = kit.sheets[0]!;
  const gradient: Cell = {
    ...sheet.cells[15]!,
    fill: {
      kind: 'gradient',
      axis: 'x',
      mix: 'oklab',
      stops: [
        { at: 0, color: '#000000' },
        { at: 1, color: '#ffffff' },
      ],
    },
  };
  const withGradient: Sheet = { ...sheet, cells: [...sheet.cells.slice(0, 15), gradient] };
  const plan = planRelay(withGradient, new Set(), { exactTo: 0, spares: 0, dropUnused: false });
  expect(plan.places.find((p) => p.cell.id === gradient.id)!.rect).toMatchObject({ w: 4, h: 4 });
  expect([plan.width, plan.height]).toEqual([8, 4]);
  expect(() => planRelay({ ...sheet, frozen: { picture: 'x' } }, new Set(), { exactTo: 0, spares: 0, dropUnused: false })).toThrow(
    'frozen',
  );
});
