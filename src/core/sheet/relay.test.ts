import fc from 'fast-check';
import { expect, it } from 'vitest';
import { rgbFromHex } from '../color/hex';
import { applyEdit, inverseOf } from '../edit/edit';
import { emptySeats, spareCells, usableCells, type Cell, type KitState, type Sheet } from '../kit/kit';
import { faceCount } from '../mesh/polyMesh';
import { layoutUvs } from '../seat/layout';
import { grid } from '@tests/meshes';
import { newColor } from './newColor';
import { rasterSheet, type Raster } from './raster';
import { planRelay, relaySheet } from './relay';
import { newKit } from './starter';

const mesh = grid(5);
const faces = faceCount(mesh);

/** The next smaller mip level: each texel the mean of four, as graphics cards make it. */
function half({ width, height, data }: Raster): Raster {
  const [w, h] = [Math.max(1, width >> 1), Math.max(1, height >> 1)];
  const out = new Uint8Array(w * h * 4);
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++)
      for (let k = 0; k < 4; k++) {
        const at = (dx: number, dy: number) => data[(Math.min(height - 1, y * 2 + dy) * width + Math.min(width - 1, x * 2 + dx)) * 4 + k]!;
        out[(y * w + x) * 4 + k] = Math.round((at(0, 0) + at(1, 0) + at(0, 1) + at(1, 1)) / 4);
      }
  return { width: w, height: h, data: out };
}

function colorsSeen(sheet: Sheet, cell: Uint16Array, level: number): string[] {
  const uvs = layoutUvs(mesh, { ...emptySeats(faces), cell }, sheet);
  let raster = rasterSheet(sheet);
  for (let n = 0; n < level; n++) raster = half(raster);
  return Array.from({ length: faces }, (_, f) => {
    const at = (Math.floor(uvs[f * 8 + 1]! * raster.height) * raster.width + Math.floor(uvs[f * 8]! * raster.width)) * 4;
    return raster.data.slice(at, at + 3).join();
  });
}

/** A kit with a number of colors more, some of them used by faces. */
const kits = fc.tuple(fc.nat(60), fc.array(fc.nat(1000), { minLength: faces, maxLength: faces })).map(([more, choice]) => {
  let state: KitState = { kit: newKit('Skerry'), seats: {} };
  const sheetId = state.kit.sheets[0]!.id;
  for (let i = 0; i < more; i++)
    state = applyEdit(
      state,
      newColor(state, { sheet: sheetId, color: `#${(i * 7919 + 99).toString(16).padStart(6, '0').slice(-6)}`, role: `c${i}`, beside: 2 })
        .edit,
    );
  const usable = usableCells(state.kit.sheets[0]!);
  return { state, cell: Uint16Array.from(choice, (n) => usable[n % usable.length]!.id) };
});

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

function expectDisjoint({ cells, width, height }: Sheet): void {
  const taken = new Uint8Array(width * height);
  for (const { rect } of cells)
    for (let y = rect.y; y < rect.y + rect.h; y++) for (let x = rect.x; x < rect.x + rect.w; x++) taken[y * width + x]!++;
  expect(taken.every((t) => t === 1)).toBe(true);
}

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
