import { expect, it } from 'vitest';
import { grid } from '@tests/meshes';
import { modelOf } from '@tests/parts';
import { expectDisjoint } from '@tests/sheets';
import { byId } from '../../ground/byId';
import type { Hex } from '../../ground/color/hex';
import { applyEdit, inverseOf } from '../../kit/edit/editKinds';
import type { Edit } from '../../kit/edit/edit';
import { copySeats, emptySeats, findCell, type KitState } from '../../kit/kit';
import { copyAllPixels, isPainted } from '../../kit/pixels';
import { withPainted } from '../../sheet/painted';
import { rasterSheet } from '../../sheet/raster';
import { familiesOf } from '../../sheet/reduce/colorsOf';
import type { Reduced } from '../../sheet/reduce/reduce';
import { newKit } from '../../sheet/starter';
import { artWithFreeColors, reducedArt, reducedToArt } from './takeReduced';

const mesh = grid(2);
const kit = newKit('Skerry');
const [first] = kit.sheets;
const starter = first!.cells[0]!;
const starterColor = starter.fill.kind === 'solid' ? starter.fill.color : '';
const reduced: Reduced = {
  width: 4,
  height: 2,
  colors: ['#3355aa', starterColor, '#8899dd'],
  index: Uint16Array.of(1, 2, 3, 0, 3, 3, 2, 1),
  mean: 0,
  worst: 0,
};
const stateOf = (): KitState => ({
  kit: {
    ...kit,
    models: [modelOf('boat', 4, first!.id), modelOf('oar', 4, first!.id, { regions: [{ id: 1, name: 'grip', cell: 0, locked: true }] })],
    variants: [{ id: 'dusk', name: 'Dusk', fills: { [starter.id]: { kind: 'solid', color: '#000000' } } }],
  },
  seats: byId({ boat: emptySeats(4), oar: { ...emptySeats(4), region: Uint16Array.of(1, 0, 0, 0) } }),
});
const on = (id: string, faces: number[]) => ({
  id,
  faces: Uint32Array.from(faces),
  faceStart: mesh.faceStart,
  at: Float32Array.from(mesh.cornerVertex.length ? Array.from({ length: mesh.cornerVertex.length * 2 }, (_, i) => (i % 8) / 8) : []),
});
/** The texels of art as colors, row by row, and where it lies on its sheet. */
function look(state: KitState, cell: number): { rows: string[][]; rect: unknown; size: number[] } {
  const found = findCell(state.kit, cell)!;
  const { x, y, w, h } = found.cell.rect;
  const raster = rasterSheet(found.sheet, withPainted(new Map(), state));
  const hex = (i: number) =>
    raster.data[i + 3] ? `#${[0, 1, 2].map((k) => raster.data[i + k]!.toString(16).padStart(2, '0')).join('')}` : 'none';
  const rows = Array.from({ length: h }, (_, r) => Array.from({ length: w }, (_, c) => hex(((y + r) * raster.width + x + c) * 4)));
  return { rows, rect: found.cell.rect, size: [found.sheet.width, found.sheet.height] };
}
/** Texels of the reduced picture. */
const wanted = [0, 4].map((row) => [...reduced.index.slice(row, row + 4)].map((n) => (n ? reduced.colors[n - 1] : 'none')));

function done(state: KitState, edit: Edit): KitState {
  const seats = byId(Object.entries(state.seats).map(([id, own]) => [id, copySeats(own)]));
  const own = { ...state, seats, ...(state.pixels && { pixels: copyAllPixels(state.pixels) }) };
  const after = applyEdit(own, edit);
  const kept = { kit: after.kit, seats: byId(Object.entries(after.seats).map(([id, s]) => [id, copySeats(s)])), pixels: after.pixels };
  expect(JSON.stringify(applyEdit(after, inverseOf(edit)))).toBe(JSON.stringify(state));
  return { ...kept, ...(kept.pixels && { pixels: kept.pixels }) } as KitState;
}

it('lays faces on a reduced picture, beside all that is there, in colors of the sheet', () => {
  const state = stateOf();
  const { edit, cell } = reducedToArt(state, reduced, 'plank', [on('boat', [0, 2]), on('oar', [0, 1])]);
  const after = done(state, edit);
  const { rows } = look(after, cell);
  expect(rows).toEqual(wanted);
  const [sheet] = after.kit.sheets;
  expectDisjoint(sheet!);
  for (const before of first!.cells) expect(sheet!.cells.find((c) => c.id === before.id)!.rect).toEqual(before.rect);
  // The color that the sheet had is taken; the two blues are a ramp of their own, dark to light.
  const pixels = after.pixels![(findCell(after.kit, cell)!.cell.fill as { picture: string }).picture]!;
  expect(pixels.cells[1]).toBe(starter.id);
  const ramp = sheet!.ramps.at(-1)!;
  expect(ramp.cells.map((id) => (findCell(after.kit, id)!.cell.fill as { color: Hex }).color)).toEqual(['#3355aa', '#8899dd']);
  expect(ramp.name).toMatch(/^plank, .*blue/);
  expect(ramp.cells.map((id) => findCell(after.kit, id)!.cell.role)).toEqual([`${ramp.name} 1`, `${ramp.name} 2`]);
  // Only the faces that show it, and none of a locked region.
  expect([...after.seats.boat!.cell]).toEqual([cell, 0, cell, 0]);
  expect([...after.seats.oar!.cell]).toEqual([0, cell, 0, 0]);
  expect([...after.seats.boat!.at!.slice(0, 8)]).toEqual([0, 1, 2, 3, 4, 5, 6, 7].map((v) => v / 8));
});

it('enlarges each texel to a block, and says where nothing can move', () => {
  const state = stateOf();
  const { edit, cell } = reducedToArt(state, reduced, 'plank', [on('boat', [1])], 3);
  const { rows } = look(done(state, edit), cell);
  expect([rows.length, rows[0]!.length]).toEqual([6, 12]);
  rows.forEach((row, y) => row.forEach((color, x) => expect(color).toBe(wanted[Math.floor(y / 3)]![Math.floor(x / 3)])));
  expect(() => reducedToArt(state, reduced, 'plank', [on('oar', [0])])).toThrow('lie in locked regions');
  expect(() => reducedToArt(state, reduced, 'plank', [])).toThrow('No model shows this picture');
});

it('takes no color that is off the list to which the kit keeps', () => {
  const state = stateOf();
  const listed = { ...state, kit: { ...state.kit, allowed: { name: 'Storm', colors: ['#334499', '#000000'] as Hex[] } } };
  const { edit, cell } = reducedToArt(listed, reduced, 'plank', [on('boat', [0])]);
  const { rows } = look(done(listed, edit), cell);
  const own: string[] = rows[0]!;
  expect(own[0]).toBe('#334499');
  expect(rows.flat().every((c) => ['none', '#334499', '#000000', starterColor].includes(c))).toBe(true);
});

it('brings art of its own colors to few, where it lies, and its sheet is smaller for it; and the other way', () => {
  const state = stateOf();
  const first16 = reducedToArt(state, reduced, 'plank', [on('boat', [0])], 16);
  const painted = done(state, first16.edit);
  const free = done(painted, artWithFreeColors(painted, first16.cell, { own: 'picture of it', variants: new Map([['dusk', 'of dusk']]) }));
  const fill = findCell(free.kit, first16.cell)!.cell.fill;
  expect(fill).toEqual({ kind: 'art', picture: 'picture of it' });
  expect(free.kit.variants[0]!.fills[first16.cell]).toEqual({ kind: 'art', picture: 'of dusk' });
  expect(free.pixels).toBeUndefined();
  expect(() => artWithFreeColors(free, first16.cell, { own: 'x', variants: new Map() })).toThrow('not there any more');

  const { edit, cell } = reducedArt(free, first16.cell, reduced);
  expect(cell).toBe(first16.cell);
  const back = done(free, edit);
  const shown = look(back, cell);
  expect(shown.rows).toEqual(wanted);
  expect(isPainted(findCell(back.kit, cell)!.cell.fill)).toBe(true);
  expect(shown.size[0]! * shown.size[1]!).toBeLessThan(look(free, cell).size.reduce((a, b) => a * b));
  expectDisjoint(back.kit.sheets[0]!);
  // Larger than its place: it moves to where there is room, texel for texel, and nothing lies over anything.
  const larger = done(back, reducedArt(back, cell, reduced, 5).edit);
  const wide = look(larger, cell);
  expect([wide.rows.length, wide.rows[0]!.length]).toEqual([10, 20]);
  wide.rows.forEach((row, y) => row.forEach((color, x) => expect(color).toBe(wanted[Math.floor(y / 5)]![Math.floor(x / 5)])));
  expectDisjoint(larger.kit.sheets[0]!);
  // Painted art again, in fewer colors: the same pixels under the same number, no second ones.
  const again = reducedArt(back, cell, { ...reduced, colors: ['#112233'], index: Uint16Array.of(1, 1, 1, 1, 0, 1, 1, 1) });
  const twice = done(back, again.edit);
  expect(Object.keys(twice.pixels!)).toEqual(Object.keys(back.pixels!));
  expect(look(twice, cell).rows[1]).toEqual(['none', '#112233', '#112233', '#112233']);
});

it('refuses art that is gone, is none, or lies on a frozen sheet', () => {
  const state = stateOf();
  const { edit, cell } = reducedToArt(state, reduced, 'plank', [on('boat', [0])]);
  const painted = done(state, edit);
  for (const id of [9999, starter.id]) {
    expect(() => reducedArt(painted, id, reduced)).toThrow('The art is not there any more');
    expect(() => artWithFreeColors(painted, id, { own: 'x', variants: new Map() })).toThrow('The art is not there any more');
  }
  const frozen = { ...painted, kit: { ...painted.kit, sheets: painted.kit.sheets.map((s) => ({ ...s, frozen: { picture: 'p' } })) } };
  expect(() => reducedArt(frozen, cell, reduced)).toThrow('is frozen: its art stays as it is');
  expect(() => reducedToArt(frozen, reduced, 'plank', [on('boat', [1])])).toThrow('is frozen');
});

it('tells families of colors by their hue, around the circle, greys first', () => {
  const colors: Hex[] = ['#cc2233', '#dd5577', '#102030', '#808080', '#f0f0f0', '#22aa44', '#66dd88', '#ee4422'];
  const words = familiesOf(colors).map((f) => f.map((i) => colors[i]));
  expect(words).toContainEqual(['#808080', '#f0f0f0']);
  expect(words).toContainEqual(['#22aa44', '#66dd88']);
  expect(words).toContainEqual(['#cc2233', '#ee4422', '#dd5577']);
  expect(words.flat()).toHaveLength(colors.length);
  expect(familiesOf([])).toEqual([]);
  expect(familiesOf(['#cc2233'])).toEqual([[0]]);
});
