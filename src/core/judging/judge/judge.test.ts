import { byId } from '@/core/ground/byId';
import { expect, it } from 'vitest';
import { rgbFromHex } from '../../ground/color/hex';
import { contrast, seenAs } from '../../ground/color/vision';
import { applyEdit } from '../../kit/edit/editKinds';
import { solid, type KitState, type Sheet } from '../../kit/kit';
import { colorsOffList, moveToList } from '../../sheet/allowedColors';
import { newColor } from '../../sheet/newColor';
import { newKit } from '../../sheet/starter';
import { contrastsWith, judgePalette } from './judgePalette';

const sheetWith = (colors: string[], ramp: number[] = []): Sheet => ({
  ...newKit('Skerry').sheets[0]!,
  cells: colors.map((color, i) => ({ id: i + 1, role: `c${i + 1}`, rect: { x: i, y: 0, w: 1, h: 1 }, fill: solid(color) })),
  ramps: ramp.length ? [{ id: 'r', name: 'rope', cells: ramp }] : [],
});

it('remarks twins, the extremes, steps out of order or off the middle, colors unused or hardly used, and nothing on a sound palette', () => {
  const faces: Record<number, number> = { 1: 50, 2: 3, 3: 9, 5: 20, 6: 8, 7: 11 };
  const sheet = sheetWith(['#803020', '#813121', '#000000', '#ffffff', '#404040', '#a0a0a0', '#a6a6a6'], [5, 6, 7]);
  const remarks = judgePalette(sheet, (id) => faces[id] ?? 0).map((r) => [r.kind, ...r.cells.map((c) => c.id)]);
  expect(remarks).toEqual([
    ['twins', 1, 2],
    ['twins', 6, 7],
    ['extreme', 3],
    ['extreme', 4],
    ['out of step', 6],
    ['unused', 4],
    ['rare', 2],
  ]);
  const turned = judgePalette(sheetWith(['#606060', '#303030', '#c0c0c0'], [1, 2, 3]), () => 9);
  expect(turned.map((r) => r.kind)).toEqual(['out of step']);
  expect(judgePalette(newKit('Skerry').sheets[0]!, () => 9)).toEqual([]);
});

it('shows colors as they read by lightness, and to eyes that lack a kind of cone', () => {
  for (const vision of ['grey', 'protan', 'deutan', 'tritan'] as const) {
    expect(seenAs(vision, [255, 255, 255])).toEqual([255, 255, 255]);
    expect(seenAs(vision, [0, 0, 0])).toEqual([0, 0, 0]);
  }
  const apart = (vision: 'protan' | 'deutan' | 'tritan') => {
    const [p, q] = [seenAs(vision, [190, 60, 50]), seenAs(vision, [95, 110, 40])];
    return Math.hypot(...p.map((v, k) => v - q[k]!));
  };
  // A red and a green that most eyes tell apart well.
  expect(apart('deutan')).toBeLessThan(apart('tritan') / 2);
  expect(contrast([0, 0, 0], [255, 255, 255])).toBeCloseTo(21);
  expect(contrastsWith(sheetWith(['#ffffff', '#777777', '#000000']), '#808080').map((c) => c.cell.id)).toEqual([2, 1, 3]);
});

it('names what is off a list with the nearest allowed colors, moves it there, and has new colors keep to it', () => {
  const list = ['#112233', '#b5463a', '#f7f0e0'];
  const sheet = sheetWith(['#b5463a', '#b04030', '#102030']);
  expect(colorsOffList(sheet, list).map((o) => [o.cell.id, o.nearest[0]!.color])).toEqual([
    [2, '#b5463a'],
    [3, '#112233'],
  ]);
  const kit = { ...newKit('Skerry'), sheets: [sheet] };
  const moved = applyEdit({ kit, seats: byId() }, moveToList(sheet, list)!);
  expect(moveToList(moved.kit.sheets[0]!, list)).toBeNull();
  const keeping: KitState = { kit: { ...newKit('Skerry'), allowed: { name: 'few', colors: list } }, seats: byId() };
  const made = newColor(keeping, { sheet: keeping.kit.sheets[0]!.id, color: '#f0f0e8', role: 'foam' });
  const cell = applyEdit(keeping, made.edit).kit.sheets[0]!.cells.find((c) => c.id === made.cell)!;
  expect(cell.fill).toEqual(solid('#f7f0e0'));
  expect(rgbFromHex('#f7f0e0')).toEqual([247, 240, 224]);
});
