import { gradientOf } from '@tests/parts';
import { byId } from '@/core/ground/byId';
import fc from 'fast-check';
import { expect, it } from 'vitest';
import { rgbFromHex } from '../ground/color/hex';
import { applyEdit, inverseOf } from '../kit/edit/editKinds';
import { labDistance, labFromRgb } from '../ground/color/oklab';
import { colorsOfFaces } from '../faces/seat/colorsOfFaces';
import { emptySeats, spareCells, usableCells, type Cell, type Sheet } from '../kit/kit';
import { colorsSeen, expectDisjoint, kits } from '@tests/sheets';
import { gradientAt } from './raster';
import { gradientError } from './gradientError';
import { grid } from '@tests/meshes';
import { planRelay, relaySheet } from './relay';
import { newKit } from './starter';

it('keeps every face’s color at every promised mip level, on the smallest sheet, and is undone exactly', () => {
  const options = fc.record({ exactTo: fc.constantFrom(0 as const, 1 as const, 2 as const), spares: fc.nat(5), dropUnused: fc.boolean() });
  fc.assert(
    fc.property(kits, options, ({ state, cell }, o) => {
      const sheet = state.kit.sheets[0]!;
      const plan = planRelay([sheet], new Set(cell), o);
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

it('keeps gradients within the error that their texels cause, at any length, padding and size', () => {
  const color = fc.integer({ min: 0, max: 0xffffff }).map((n) => `#${n.toString(16).padStart(6, '0')}`);
  const fill = fc.record({
    kind: fc.constant('gradient' as const),
    axis: fc.constantFrom('x' as const, 'y' as const),
    mix: fc.constantFrom('oklab' as const, 'srgb' as const),
    stops: fc
      .array(color, { minLength: 2, maxLength: 8 })
      .map((colors) => colors.map((c, i) => ({ at: i / (colors.length - 1), color: c }))),
  });
  const options = fc.record({
    gradientTexels: fc.integer({ min: 2, max: 40 }),
    padding: fc.nat(3),
    exactTo: fc.constantFrom(0 as const, 1 as const, 2 as const),
  });
  fc.assert(
    fc.property(
      fc.array(fill, { minLength: 1, maxLength: 4 }),
      options,
      fc.array(fc.double({ min: 0, max: 1, noNaN: true }), { minLength: 16, maxLength: 16 }),
      (fills, o, at) => {
        const kit = newKit('Skerry');
        const cells = [
          ...kit.sheets[0]!.cells.slice(0, 16 - fills.length),
          ...fills.map((f, i): Cell => ({ ...kit.sheets[0]!.cells[15 - i]!, fill: f, role: 'strip' })),
        ];
        const sheet = { ...kit.sheets[0]!, cells, ramps: [] };
        const state = { kit: { ...kit, sheets: [sheet] }, seats: byId({}) };
        const plan = planRelay([sheet], new Set(), { ...o, spares: 1, dropUnused: false });
        const after = applyEdit(state, relaySheet(state.kit, sheet, plan)).kit.sheets[0]!;
        expectDisjoint(after);
        const mesh = grid(4);
        fills.forEach((f, i) => {
          const id = kit.sheets[0]!.cells[15 - i]!.id;
          const seats = { ...emptySeats(16), cell: new Uint16Array(16).fill(id), at: new Float32Array(128) };
          at.forEach((t, face) => seats.at.fill(t, face * 8, face * 8 + 8));
          const seen = colorsOfFaces({ ...kit, sheets: [after] }, mesh, seats, new Map());
          const most = gradientError(f, o.gradientTexels) + 0.004;
          at.forEach((t, face) => {
            const rgb = [seen[face * 4]!, seen[face * 4 + 1]!, seen[face * 4 + 2]!] as const;
            expect(labDistance(labFromRgb(rgb), labFromRgb(gradientAt(f, Math.fround(t))))).toBeLessThanOrEqual(most);
          });
        });
      },
    ),
    { seed: 6, numRuns: 40 },
  );
  const sheet = newKit('Skerry').sheets[0]!;
  // As many spares as asked, also where the handy size of spare cells would leave fewer.
  for (const spares of [16, 49, 60]) {
    const wide = planRelay([sheet], new Set(), { exactTo: 0, spares, dropUnused: false, size: { width: 12, height: 9 } });
    expect(wide.free.length).toBeGreaterThanOrEqual(spares);
  }
  const chosen = planRelay([sheet], new Set(), { exactTo: 0, spares: 0, dropUnused: false, size: { width: 5, height: 3 } });
  expect([chosen.width, chosen.height, chosen.free.length]).toEqual([5, 3, 1]);
  expect(() => planRelay([sheet], new Set(), { exactTo: 0, spares: 0, dropUnused: false, size: { width: 3, height: 3 } })).toThrow(
    'do not fit on 3 × 3',
  );
});

it('keeps gradients and art at their size, and a frozen sheet as it is', () => {
  const { kit } = { kit: newKit('Skerry') };
  const sheet = kit.sheets[0]!;
  const gradient: Cell = { ...sheet.cells[15]!, fill: gradientOf('x') };
  const withGradient: Sheet = { ...sheet, cells: [...sheet.cells.slice(0, 15), gradient] };
  const plan = planRelay([withGradient], new Set(), { exactTo: 0, spares: 0, dropUnused: false });
  expect(plan.places.find((p) => p.cell.id === gradient.id)!.rect).toMatchObject({ w: 4, h: 4 });
  expect([plan.width, plan.height]).toEqual([8, 4]);
  expect(() => planRelay([{ ...sheet, frozen: { picture: 'x' } }], new Set(), { exactTo: 0, spares: 0, dropUnused: false })).toThrow(
    'frozen',
  );
});
