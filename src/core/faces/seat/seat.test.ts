import { modelOf } from '@tests/parts';
import { byId } from '@/core/ground/byId';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { rgbFromHex } from '../../ground/color/hex';
import { applyEdit } from '../../kit/edit/editKinds';
import { emptySeats, findCell, spareCells, usableCells, type Cell, type KitState, type Sheet } from '../../kit/kit';
import { faceCount } from '../../shapes/mesh/polyMesh';
import { growSheet, stepOf } from '../../sheet/cells';
import { newColor } from '../../sheet/newColor';
import { rasterSheet } from '../../sheet/raster';
import type { Raster } from '../../ground/pictures/raster';
import { newKit, starterSheet } from '../../sheet/starter';
import { grid } from '@tests/meshes';
import { seatColors } from './byMaterial';
import { layoutUvs } from './layout';

/** Splits a power-of-two sheet again and again, down to single texels, into disjoint solid cells. */
const sheets = fc
  .tuple(fc.integer({ min: 0, max: 6 }), fc.integer({ min: 0, max: 6 }), fc.infiniteStream(fc.nat((1 << 24) - 1)))
  .map(([wide, high, stream]): Sheet => {
    const rects = [{ x: 0, y: 0, w: 2 ** wide, h: 2 ** high }];
    const next = () => stream.next().value!;
    for (let k = 0; k < 14; k++) {
      const i = next() % rects.length;
      const r = rects[i]!;
      const alongX = r.w > 1 && (r.h === 1 || next() % 2 === 0);
      const length = alongX ? r.w : r.h;
      if (length === 1) continue;
      const cut = 1 + (next() % (length - 1));
      rects.splice(
        i,
        1,
        alongX ? { ...r, w: cut } : { ...r, h: cut },
        alongX ? { ...r, x: r.x + cut, w: r.w - cut } : { ...r, y: r.y + cut, h: r.h - cut },
      );
    }
    const cells: Cell[] = rects.map((rect, i) => ({
      id: i + 1,
      rect,
      role: '',
      fill: { kind: 'solid', color: '#' + next().toString(16).padStart(6, '0') },
    }));
    return { id: 's', name: 's', width: 2 ** wide, height: 2 ** high, padding: 0, filter: 'nearest', cells, ramps: [] };
  });

/** What a graphics card does at level 0 with clamped coordinates. */
function sample({ width, height, data }: Raster, u: number, v: number, bilinear: boolean): number[] {
  const texel = (x: number, y: number) => {
    const at = (Math.min(height - 1, Math.max(0, y)) * width + Math.min(width - 1, Math.max(0, x))) * 4;
    return [...data.slice(at, at + 3)];
  };
  if (!bilinear) return texel(Math.floor(u * width), Math.floor(v * height));
  const [x, y] = [Math.fround(u * width - 0.5), Math.fround(v * height - 0.5)];
  const [x0, y0] = [Math.floor(x), Math.floor(y)];
  const [fx, fy] = [x - x0, y - y0];
  const [a, b, c, d] = [texel(x0, y0), texel(x0 + 1, y0), texel(x0, y0 + 1), texel(x0 + 1, y0 + 1)];
  return a!.map((_, k) => Math.round((a![k]! * (1 - fx) + b![k]! * fx) * (1 - fy) + (c![k]! * (1 - fx) + d![k]! * fx) * fy));
}

const mesh = grid(4);
const faces = faceCount(mesh);
/** The color that every face has, by sampling the raster at its UVs, with both filters. */
function seen(sheet: Sheet, cell: Uint16Array): string[] {
  const uvs = layoutUvs(mesh, { ...emptySeats(faces), cell }, sheet);
  const raster = rasterSheet(sheet);
  return Array.from({ length: faces }, (_, f) => {
    const colors = new Set<string>();
    for (let c = f * 4; c < f * 4 + 4; c++)
      for (const bilinear of [false, true]) colors.add(sample(raster, uvs[c * 2]!, uvs[c * 2 + 1]!, bilinear).join());
    return [...colors].join(' or ');
  });
}

describe('seats', () => {
  it('show exactly their cell’s color on any power-of-two sheet, to the nearest texel and bilinear, from one texel a cell', () => {
    fc.assert(
      fc.property(sheets, fc.array(fc.nat(1000), { minLength: faces, maxLength: faces }), (sheet, choice) => {
        const cell = Uint16Array.from(choice, (n) => sheet.cells[n % sheet.cells.length]!.id);
        const wanted = Array.from(cell, (id) => rgbFromHex((sheet.cells[id - 1]!.fill as { color: string }).color).join());
        expect(seen(sheet, cell)).toEqual(wanted);
      }),
      { seed: 5, numRuns: 100 },
    );
  });

  it('keep their colors when cells move, change their size and their order', () => {
    fc.assert(
      fc.property(sheets, sheets, fc.array(fc.nat(1000), { minLength: faces, maxLength: faces }), (before, layout, choice) => {
        const count = Math.min(before.cells.length, layout.cells.length);
        const cell = Uint16Array.from(choice, (n) => (n % count) + 1);
        const moved: Sheet = { ...layout, cells: layout.cells.slice(0, count).map((c, i) => ({ ...before.cells[i]!, rect: c.rect })) };
        moved.cells.reverse();
        expect(seen(moved, cell)).toEqual(seen(before, cell));
      }),
      { seed: 6, numRuns: 60 },
    );
  });
});

describe('the starter sheet', () => {
  it('is four hues and neutrals in three steps from dark to light, without black, with a spare', () => {
    const sheet = starterSheet();
    expect([sheet.width, sheet.height, sheet.ramps.length, spareCells(sheet).length]).toEqual([16, 16, 5, 2]);
    const colors = usableCells(sheet).map((c) => (c.fill as { color: string }).color);
    expect(new Set(colors)).toHaveProperty('size', 14);
    for (const color of colors) expect(Math.max(...rgbFromHex(color))).toBeGreaterThan(30);
    const [dark, middle, light] = sheet.ramps[0]!.cells;
    expect([stepOf(sheet, middle!, -1), stepOf(sheet, middle!, 1), stepOf(sheet, light!, 1), stepOf(sheet, dark!, -1)]).toEqual([
      dark,
      light,
      null,
      null,
    ]);
  });

  it('doubles its shorter side when nothing is spare, and nothing moves', () => {
    const kit = newKit('Skerry');
    let state: KitState = { kit, seats: byId() };
    const before = kit.sheets[0]!.cells;
    for (let i = 0; i < 40; i++)
      state = applyEdit(state, newColor(state, { sheet: kit.sheets[0]!.id, color: `#0000${(16 + i).toString(16)}`, role: `r${i}` }).edit);
    const [sheet] = state.kit.sheets;
    expect([sheet!.width, sheet!.height]).toEqual([32, 32]);
    expect(sheet!.cells.slice(0, 14)).toEqual(before.slice(0, 14));
    expect(new Set(sheet!.cells.map((c) => c.id)).size).toBe(sheet!.cells.length);
    expect(usableCells(sheet!)).toHaveLength(54);
    expect(() => growSheet(state.kit, { ...sheet!, width: 4096, height: 4096 })).toThrow('cannot grow');
  });
});

it('seats materials on cells of exactly their color, equal ones on one cell, near ones on choice', () => {
  const kit = newKit('Skerry');
  const sheet = kit.sheets[0]!;
  const taken = (sheet.cells[4]!.fill as { color: string }).color;
  const model = modelOf('m', faces, sheet.id);
  const state: KitState = { kit: { ...kit, models: [model] }, seats: byId({ m: emptySeats(faces) }) };
  const near = taken.replace(/.$/, (d) => (d === 'f' ? 'e' : (Number.parseInt(d, 16) + 1).toString(16)));
  const colors = [
    { name: 'post', color: taken, faces: Uint32Array.of(0, 1) },
    { name: 'board', color: near, faces: Uint32Array.of(2, 3) },
    { name: 'board too', color: near, faces: Uint32Array.of(4) },
  ];
  const after = applyEdit(state, seatColors(state, 'm', colors)!);
  const cells = after.seats.m!.cell;
  expect(cells[0]).toBe(sheet.cells[4]!.id);
  expect(cells[2]).toBe(cells[4]);
  expect(findCell(after.kit, cells[2]!)!.cell).toMatchObject({ role: 'board', fill: { color: near } });
  const fresh = { ...state, seats: byId({ m: emptySeats(faces) }) };
  expect([...new Set(applyEdit(fresh, seatColors(fresh, 'm', colors, { mergeNear: true })!).seats.m!.cell)]).toEqual([
    sheet.cells[4]!.id,
    0,
  ]);
});
