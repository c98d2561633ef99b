import { gradientOf } from '@tests/parts';
import { byId } from '@/core/ground/byId';
import fc from 'fast-check';
import { beforeAll, expect, it } from 'vitest';
import { hexFromRgb, rgbFromHex } from '../../ground/color/hex';
import { labDistance, labFromRgb } from '../../ground/color/oklab';
import { applyEdit, inverseOf } from '../../kit/edit/editKinds';
import { decodePicture } from '../../ground/pictures/decodePicture';
import { probePicture } from '../../ground/pictures/picture';
import { encodePng } from '../../ground/pictures/png';
import { emptySeats, solid, type Fill, type KitState, type LeavingSlot, type Model, type Sheet } from '../../kit/kit';
import { encodeSheet } from '../encode';
import { newColor } from '../newColor';
import { rasterSheet } from '../raster';
import { newKit } from '../starter';
import { distinctColors, drawBlocks, startDecoder, toJpeg, toWebp } from '@tests/palettePictures';
import { proposeGoing } from '../palette/whereColorsGo';
import { colorsSeen, expectDisjoint, kits } from '@tests/sheets';
import { adoptPicture, describeFinding } from './adopt';
import { blockNames } from './blockNames';
import { sampleColors, drawColors, drawSeries } from './drawColors';
import { meanInCircle } from './meanColor';
import { recognise } from './readBlocks';

beforeAll(startDecoder);

const colors = distinctColors(8, 20);
const blocks = drawBlocks(
  64,
  32,
  [0, 0, 0, 255],
  colors.map((c, i) => ({ rect: { x: (i % 4) * 16, y: Math.floor(i / 4) * 16, w: 16, h: 16 }, fill: solid(c) })),
);

it('decodes PNG, JPEG and WebP, and refuses what is none of them or too large before it is decoded', () => {
  for (const bytes of [encodePng(blocks), toWebp(blocks)]) expect(decodePicture('a', bytes)).toEqual(blocks);
  expect(probePicture(toJpeg(blocks, 90))).toEqual({ kind: 'jpeg', width: 64, height: 32 });
  expect(() => decodePicture('notes.png', new TextEncoder().encode('lime wash '.repeat(9)))).toThrow(
    'notes.png: it is no PNG, JPEG or WebP',
  );
  const huge = encodePng(blocks).slice();
  new DataView(huge.buffer).setUint32(16, 50_000);
  expect(() => decodePicture('huge.png', huge)).toThrow('50000 × 32 pixels');
  expect(() => decodePicture('cut.png', encodePng(blocks).slice(0, 60))).toThrow('cut.png: it cannot be read');
});

it('draws the colors of a picture with their shares, fewer with more error, and keeps locked ones', () => {
  const picture = drawBlocks(
    100,
    100,
    [157, 184, 200, 255],
    [
      { rect: { x: 0, y: 60, w: 100, h: 40 }, fill: solid('#2f5d62') },
      { rect: { x: 40, y: 20, w: 20, h: 20 }, fill: solid('#b5463a') },
    ],
  );
  const counts = sampleColors(picture);
  const three = drawColors(counts, 3);
  const near = (a: string, b: string) => labDistance(labFromRgb(rgbFromHex(a)), labFromRgb(rgbFromHex(b)));
  expect(three.colors.map((c) => Math.round(c.share * 100))).toEqual([56, 40, 4]);
  ['#9db8c8', '#2f5d62', '#b5463a'].forEach((c, i) => expect(near(three.colors[i]!.color, c)).toBeLessThan(0.005));
  const series = drawSeries(counts, 6);
  // No more colors than the picture has.
  expect(series.map((p) => p.colors.length)).toEqual([1, 2, 3]);
  expect(series.map((p) => p.error)).toEqual([...series.map((p) => p.error)].sort((a, b) => b - a));
  const locked = drawColors(counts, 3, ['#ffee00']);
  expect(locked.colors[0]).toMatchObject({ color: '#ffee00', locked: true });
  expect(locked.colors).toHaveLength(3);
  expect(drawColors(sampleColors({ width: 1, height: 1, data: new Uint8Array(4) }), 4).colors).toEqual([]);
});

it('takes the mean under a circle in linear light', () => {
  const halves = drawBlocks(10, 10, [0, 0, 0, 255], [{ rect: { x: 5, y: 0, w: 5, h: 10 }, fill: solid('#ffffff') }]);
  expect(meanInCircle(halves, 5, 5, 4)).toEqual([188, 188, 188]);
  expect(meanInCircle(halves, 7.2, 3.9, 0)).toEqual([255, 255, 255]);
  expect(meanInCircle(halves, 99, -3, 0)).toEqual([255, 255, 255]);
});

const state = (): KitState => ({ kit: newKit('Skerry'), seats: byId() });

it('adopts a picture at the smallest size that keeps its colors and gradients, in the place of a sheet or beside it', () => {
  const dusk = gradientOf('y', '#1d2b53', '#e8d7a0');
  const picture = drawBlocks(
    80,
    32,
    [0, 0, 0, 255],
    [
      ...colors.map((c, i) => ({ rect: { x: (i % 4) * 16, y: Math.floor(i / 4) * 16, w: 16, h: 16 }, fill: solid(c) })),
      { rect: { x: 64, y: 0, w: 16, h: 32 }, fill: dusk },
    ],
  );
  const finding = recognise(picture);
  expect(describeFinding(finding)).toBe('8 colors; 1 gradient.');
  const start = state();
  const made = adoptPicture(start, {
    finding,
    name: 'harbour',
    picture: 'p',
    art: new Map(),
    frozen: false,
    replaces: start.kit.sheets[0]!.id,
  });
  const after = applyEdit(start, made.edit);
  expect(after.kit.sheets).toHaveLength(1);
  expect(made.sheet.width * made.sheet.height).toBeLessThanOrEqual(128);
  const raster = rasterSheet(made.sheet);
  for (const c of colors) {
    const cell = made.sheet.cells.find((x) => x.fill.kind === 'solid' && x.fill.color === c)!;
    const at = (cell.rect.y * raster.width + cell.rect.x) * 4;
    expect([...raster.data.slice(at, at + 3)]).toEqual([...rgbFromHex(c)]);
  }
  expect(JSON.stringify(applyEdit(after, inverseOf(made.edit)))).toBe(JSON.stringify(start));
  const beside = adoptPicture(start, { finding, name: 'harbour', picture: 'p', art: new Map(), frozen: false });
  const ids = applyEdit(start, beside.edit).kit.sheets.flatMap((s) => s.cells.map((c) => c.id));
  expect(new Set(ids).size).toBe(ids.length);
});

it('takes the place of a sheet in use: every face shows the color that its own went to, roles stay, and all is undone exactly', () => {
  const options = fc.record({
    picture: fc.array(fc.constantFrom('#202020', '#c03020', '#f0f0f0', '#3060a0', '#60a030'), { minLength: 1, maxLength: 40 }),
    frozen: fc.boolean(),
    by: fc.constantFrom('nearest' as const, 'lightness' as const),
  });
  fc.assert(
    fc.property(kits, options, ({ state: before, cell }, { picture, frozen, by }) => {
      const sheet = before.kit.sheets[0]!;
      const named = new Set(cell).values().next().value!;
      const regions = [{ id: 1, name: 'quay', cell: named }];
      const model = { id: 'm', name: 'quay', sheet: sheet.id, faces: cell.length, regions, slots: [] as LeavingSlot[] } as Model;
      const start: KitState = {
        kit: { ...before.kit, models: [model] },
        seats: byId({ m: { ...emptySeats(cell.length), cell: cell.slice() } }),
      };
      const blocks = picture.map((color, i) => ({ rect: { x: i, y: 0, w: 1, h: 1 }, fill: solid(color) }));
      const finding = recognise(drawBlocks(picture.length, 1, [0, 0, 0, 255], blocks));
      const inUse = sheet.cells.filter((c) => cell.includes(c.id));
      const going = proposeGoing(inUse, finding.blocks.map((b) => b.fill), by); // prettier-ignore
      const text = JSON.stringify(start);
      const made = adoptPicture(start, { finding, name: 'quay', picture: 'p', art: new Map(), frozen, replaces: sheet.id, going });
      const wanted = Array.from(cell, (id) => rgbFromHex(picture[going.get(id)!]!).join());
      const roles = new Map(inUse.map((c) => [going.get(c.id)!, c.role]));
      const after = applyEdit(start, made.edit);
      const [now] = after.kit.sheets as [Sheet];
      expect(colorsSeen(frozen ? { ...now, frozen: undefined } : now, after.seats[model.id]!.cell)).toEqual(wanted);
      expectDisjoint(now);
      const colors = now.cells.filter((c) => c.fill.kind === 'solid');
      // Laid out anew a color is there once, or as often as something went to one of its pixels.
      const taken = new Set(going.values());
      const others = new Set(picture.filter((c) => ![...taken].some((i) => picture[i] === c)));
      expect(colors).toHaveLength(frozen ? picture.length : taken.size + others.size);
      const kept = colors.filter((c) => c.id < start.kit.nextCell);
      expect(kept).toHaveLength(taken.size);
      expect(kept.every((c) => [...roles.values(), ...inUse.map((u) => u.role)].includes(c.role))).toBe(true);
      expect(now.cells.some((c) => c.id === after.kit.models[0]!.regions[0]!.cell)).toBe(true);
      expect(now.ramps.every((r) => r.cells.every((id) => kept.some((c) => c.id === id)))).toBe(true);
      expect(JSON.stringify(applyEdit(after, inverseOf(made.edit)))).toBe(text);
      expect(() =>
        adoptPicture(start, { finding, name: 'quay', picture: 'p', art: new Map(), frozen, replaces: sheet.id, going: new Map() }),
      ).toThrow('goes to none of its colors');
    }),
    { seed: 16, numRuns: 60 },
  );
});

it('names blocks by color, then row, then place; bars by their ends; and freezes more pixels than there are cells as runs', () => {
  const bar: Fill = { kind: 'gradient', axis: 'y', mix: 'oklab', stops: [{ at: 0, color: '#101820' }, { at: 1, color: '#f4f4f4' }] }; // prettier-ignore
  const at = (x: number, y: number, fill: Fill) => ({ rect: { x: x * 8, y: y * 8, w: 8, h: 8 }, fill });
  const [red, teal, sand] = [solid('#d8342a'), solid('#1f8a8f'), solid('#e0c9a0')];
  const laid = [at(0, 0, red), at(1, 0, teal), at(0, 1, red), at(1, 1, bar), at(0, 2, sand), at(1, 2, red), at(2, 2, red)];
  expect(blockNames(laid)).toEqual([
    'scarlet, row 1',
    'teal',
    'scarlet, row 2',
    'black to white',
    'beige',
    'scarlet, row 3, place 2',
    'scarlet, row 3, place 3',
  ]);
  expect(blockNames([at(0, 0, red), at(1, 0, teal), at(2, 0, red), at(3, 0, { kind: 'spare' })])).toEqual([
    'scarlet, place 1',
    'teal',
    'scarlet, place 3',
    '',
  ]);

  const start = state();
  const data = new Uint8Array(64 * 64 * 4).map((_, i) => (i % 4 === 3 ? 255 : Math.floor((i >> 2) / 4) % 251));
  const found = recognise({ width: 64, height: 64, data });
  const frozen = adoptPicture(start, { finding: { ...found, kind: 'pixels', blocks: onePixelBlocks(data) }, name: 'runs', picture: 'p', art: new Map(), frozen: true }); // prettier-ignore
  expect(frozen.sheet.cells).toHaveLength(1024);
  expectDisjoint(frozen.sheet);
  expect(frozen.sheet.cells.every((c) => c.rect.w === 4 && c.rect.h === 1)).toBe(true);
  const small = adoptPicture(start, { finding: { ...found, kind: 'pixels', blocks: onePixelBlocks(data) }, name: 'runs', picture: 'p', art: new Map(), frozen: false }); // prettier-ignore
  expect([small.sheet.width * small.sheet.height, small.sheet.cells.filter((c) => c.fill.kind === 'solid').length]).toEqual([256, 251]);
});

const onePixelBlocks = (data: Uint8Array) =>
  Array.from({ length: data.length / 4 }, (_, i) => ({
    rect: { x: i % 64, y: Math.floor(i / 64), w: 1, h: 1 },
    fill: solid(hexFromRgb([data[i * 4]!, data[i * 4 + 1]!, data[i * 4 + 2]!])),
  }));

it('keeps a frozen sheet byte for byte until a color is appended where that is allowed', () => {
  const bytes = toJpeg(blocks, 95);
  const raster = decodePicture('a.jpg', bytes);
  const start = state();
  const made = adoptPicture(start, { finding: recognise(raster), name: 'harbour', picture: 'p', art: new Map(), frozen: true });
  const kept = applyEdit(start, made.edit);
  const pictures = new Map([['p', { bytes, raster }]]);
  expect(encodeSheet(made.sheet, pictures)).toEqual({ bytes, mime: 'image/jpeg' });
  expect(() => newColor(kept, { sheet: made.sheet.id, color: '#123456', role: 'x' })).toThrow('is frozen');
  const spare = { ...made.sheet.cells[7]!, fill: { kind: 'spare' as const } };
  const open = { ...made.sheet, frozen: { picture: 'p', appended: [] }, cells: [...made.sheet.cells.slice(0, 7), spare] };
  const allowing: KitState = { ...kept, kit: { ...kept.kit, sheets: [kept.kit.sheets[0]!, open] } };
  const added = newColor(allowing, { sheet: open.id, color: '#123456', role: 'x' });
  const sheet = applyEdit(allowing, added.edit).kit.sheets[1]!;
  expect(sheet.frozen!.appended).toEqual([added.cell]);
  const encoded = encodeSheet(sheet, pictures);
  expect(encoded.mime).toBe('image/png');
  const out = decodePicture('b.png', encoded.bytes);
  const texel = (x: number, y: number) => [...out.data.slice((y * 64 + x) * 4, (y * 64 + x) * 4 + 3)];
  expect(texel(60, 24)).toEqual([0x12, 0x34, 0x56]);
  expect(texel(3, 3)).toEqual([...raster.data.slice((3 * 64 + 3) * 4, (3 * 64 + 3) * 4 + 3)]);
  expect(() => newColor(applyEdit(allowing, added.edit), { sheet: open.id, color: '#000001', role: 'y' })).toThrow('no empty place');
});
