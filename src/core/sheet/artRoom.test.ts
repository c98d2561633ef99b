import { byId } from '@/core/ground/byId';
import { expect, it } from 'vitest';
import { applyEdit, inverseOf } from '../kit/edit/editKinds';
import { usableCells, type KitState, type Rect } from '../kit/kit';
import { artRoomEdit, growForArtEdit, planArtRoom, type ArtRoomOptions } from './artRoom';
import { newKit } from './starter';

const kit = newKit('K');
const sheet = kit.sheets[0]!;
const state: KitState = { kit, seats: byId() };

it('makes most of a sheet art, with every color on a narrow strip at the chosen side, in one step that is undone exactly', () => {
  const sides: [ArtRoomOptions['side'], (r: Rect) => boolean][] = [
    ['left', (r) => r.x + r.w <= 8],
    ['right', (r) => r.x >= 128 - 8],
    ['top', (r) => r.y + r.h <= 8],
    ['bottom', (r) => r.y >= 64 - 8],
  ];
  for (const [side, isOnStrip] of sides) {
    const plan = planArtRoom([sheet], { width: 128, height: 64, side });
    const { edit, cell } = artRoomEdit(kit, sheet, plan, 'numerals', 'gauge');
    const after = applyEdit(state, edit);
    const now = after.kit.sheets[0]!;
    expect([now.width, now.height, after.kit.nextCell]).toEqual([128, 64, cell + 1]);
    const art = now.cells.find((c) => c.id === cell)!;
    expect([art.role, art.fill]).toEqual(['gauge', { kind: 'art', picture: 'numerals' }]);
    expect(art.rect.w * art.rect.h).toBeGreaterThan(0.85 * 128 * 64);
    for (const was of usableCells(sheet)) {
      const own = now.cells.find((c) => c.id === was.id)!;
      expect([own.fill, own.role, isOnStrip(own.rect)]).toEqual([was.fill, was.role, true]);
    }
    // Every texel is on one cell.
    const owner = new Uint16Array(128 * 64);
    for (const { rect: r, id } of now.cells)
      for (let y = r.y; y < r.y + r.h; y++)
        for (let x = r.x; x < r.x + r.w; x++) {
          expect(owner[y * 128 + x]).toBe(0);
          owner[y * 128 + x] = id;
        }
    expect(owner.every((id) => id > 0)).toBe(true);
    expect(applyEdit(after, inverseOf(edit))).toEqual(state);
  }
});

it('keeps a picture at its size beside the colors, and says where there is no room', () => {
  const of = (options: Partial<ArtRoomOptions>) => planArtRoom([sheet], { width: 64, height: 64, side: 'right', ...options });
  expect(of({ art: { width: 40, height: 50 } }).art).toEqual({ x: 0, y: 0, w: 40, h: 50 });
  expect(() => of({ art: { width: 64, height: 64 } })).toThrow('The picture has 64 × 64 texels; beside the colors there are');
  expect(() => planArtRoom([sheet], { width: 2, height: 2, side: 'left' })).toThrow('The colors do not fit beside art on 2 × 2 texels.');
  expect(() => planArtRoom([sheet], { width: 8192, height: 2, side: 'left' })).toThrow('from 1 to 4096 texels');
  expect(() => planArtRoom([{ ...sheet, frozen: { picture: 'p' } }], { width: 64, height: 64, side: 'left' })).toThrow('is frozen');
});

it('grows by a further piece of art where nothing that is there moves, up to the largest sheet', () => {
  const { edit, cell } = growForArtEdit(kit, sheet, 'p', 'more');
  const after = applyEdit(state, edit);
  const now = after.kit.sheets[0]!;
  expect([now.width, now.height, cell.rect]).toEqual([16, 32, { x: 0, y: 16, w: 16, h: 16 }]);
  expect(now.cells).toEqual([...sheet.cells, cell]);
  expect(growForArtEdit(after.kit, now, 'p', '').cell.rect).toEqual({ x: 16, y: 0, w: 16, h: 32 });
  expect(applyEdit(after, inverseOf(edit))).toEqual(state);
  expect(() => growForArtEdit(kit, { ...sheet, width: 4096, height: 4096 }, 'p', '')).toThrow('cannot grow past 4096');
});
