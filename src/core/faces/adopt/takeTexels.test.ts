import fc from 'fast-check';
import { expect, it } from 'vitest';
import { byId } from '../../ground/byId';
import { rgbFromHex } from '../../ground/color/hex';
import type { Raster } from '../../ground/pictures/raster';
import { applyEdit } from '../../kit/edit/editKinds';
import type { KitState } from '../../kit/kit';
import { newKit } from '../../sheet/starter';
import { rasterOfPixels } from '../../sheet/painted';
import { takeTexels } from './takeTexels';

function stateOf(cells: number[]): KitState {
  const kit = newKit('Skerry');
  const [sheet] = kit.sheets;
  const art = { id: kit.nextCell, rect: { x: sheet!.width, y: 0, w: 4, h: 2 }, role: 'seal', fill: { kind: 'art' as const, picture: 'a', painted: true as const } };
  const sheets = [{ ...sheet!, width: sheet!.width + 4, cells: [...sheet!.cells, art] }];
  return { kit: { ...kit, sheets, nextCell: art.id + 1 }, seats: byId(), pixels: byId({ a: { width: 4, height: 2, cells: Uint16Array.from(cells) } }) };
} // prettier-ignore
const artOf = ({ kit }: KitState) => kit.sheets[0]!.cells.find((c) => c.role === 'seal')!.id;
const enlarged = ({ width, height, data }: Raster, times: number): Raster => {
  const out = new Uint8Array(width * height * times * times * 4);
  for (let y = 0; y < height * times; y++)
    for (let x = 0; x < width * times; x++) {
      const from = (Math.floor(y / times) * width + Math.floor(x / times)) * 4;
      out.set(data.subarray(from, from + 4), (y * width * times + x) * 4);
    }
  return { width: width * times, height: height * times, data: out };
};

it('takes a picture to the texel, at its size or enlarged, with the cells that are there; what leaves comes back as it was', () => {
  const cells = fc.array(fc.integer({ min: 0, max: 9 }), { minLength: 8, maxLength: 8 });
  fc.assert(
    fc.property(cells, cells, fc.integer({ min: 1, max: 5 }), (before, after, times) => {
      const state = stateOf(before);
      const other = stateOf(after);
      const picture = enlarged(rasterOfPixels(other.pixels!.a!, other.kit), times);
      const taken = takeTexels(state, artOf(state), picture);
      expect([taken.texels, taken.colors]).toEqual([after.filter((c, t) => c !== before[t]).length, 0]);
      const now = taken.edit ? applyEdit(state, taken.edit) : state;
      expect([...now.pixels!.a!.cells]).toEqual(after);
      expect(takeTexels(now, artOf(now), picture).edit).toBeNull();
    }),
    { seed: 2, numRuns: 60 },
  );
});

it('other colors become cells beside; another size, too many colors and art that is gone are refused in words', () => {
  const state = stateOf([1, 2, 3, 1, 2, 3, 0, 0]);
  const picture = rasterOfPixels(state.pixels!.a!, state.kit);
  picture.data.set([1, 2, 3, 255, 250, 1, 9, 127], 0);
  const { edit, texels, colors } = takeTexels(state, artOf(state), picture);
  const next = applyEdit(state, edit!);
  const made = next.kit.sheets[0]!.cells.find((c) => c.fill.kind === 'solid' && c.fill.color === '#010203')!;
  expect([texels, colors, [...next.pixels!.a!.cells]]).toEqual([2, 1, [made.id, 0, 3, 1, 2, 3, 0, 0]]);
  expect(rgbFromHex('#010203')).toEqual([1, 2, 3]);
  const sized = (width: number, height: number): Raster => ({ width, height, data: new Uint8Array(width * height * 4) });
  for (const [w, h] of [[4, 3], [6, 3], [2, 1], [8, 2]] as const) expect(() => takeTexels(state, artOf(state), sized(w, h))).toThrow(`has ${w} × ${h} texels; this art has 4 × 2`); // prettier-ignore
  expect(() => takeTexels(state, 1, picture)).toThrow('not there any more');
});
