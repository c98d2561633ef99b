import { beforeAll, expect, it } from 'vitest';
import { rgbFromHex } from '../color/hex';
import { labDistance, labFromRgb } from '../color/oklab';
import { applyEdit, inverseOf } from '../edit/editKinds';
import { decodePicture } from '../io/decodePicture';
import { probePicture } from '../io/picture';
import { encodePng } from '../io/png';
import { solid, type Fill, type KitState } from '../kit/kit';
import { encodeSheet } from '../sheet/encode';
import { newColor } from '../sheet/newColor';
import { rasterSheet } from '../sheet/raster';
import { newKit } from '../sheet/starter';
import { distinctColors, drawBlocks, startDecoder, toJpeg, toWebp } from '@tests/palettePictures';
import { adoptPicture, describeFinding } from './adopt';
import { countColors, drawColors, drawSeries } from './drawColors';
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
  const counts = countColors(picture);
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
  expect(drawColors(countColors({ width: 1, height: 1, data: new Uint8Array(4) }), 4).colors).toEqual([]);
});

it('takes the mean under a circle in linear light', () => {
  const halves = drawBlocks(10, 10, [0, 0, 0, 255], [{ rect: { x: 5, y: 0, w: 5, h: 10 }, fill: solid('#ffffff') }]);
  expect(meanInCircle(halves, 5, 5, 4)).toEqual([188, 188, 188]);
  expect(meanInCircle(halves, 7.2, 3.9, 0)).toEqual([255, 255, 255]);
  expect(meanInCircle(halves, 99, -3, 0)).toEqual([255, 255, 255]);
});

const state = (): KitState => ({ kit: newKit('Skerry'), seats: {} });

it('adopts a picture at the smallest size that keeps its colors and gradients, in the place of a sheet or beside it', () => {
  const dusk: Fill = {
    kind: 'gradient',
    axis: 'y',
    mix: 'oklab',
    stops: [
      { at: 0, color: '#1d2b53' },
      { at: 1, color: '#e8d7a0' },
    ],
  };
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
  const made = adoptPicture(start.kit, {
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
  const beside = adoptPicture(start.kit, { finding, name: 'harbour', picture: 'p', art: new Map(), frozen: false });
  const ids = applyEdit(start, beside.edit).kit.sheets.flatMap((s) => s.cells.map((c) => c.id));
  expect(new Set(ids).size).toBe(ids.length);
});

it('keeps a frozen sheet byte for byte until a color is appended where that is allowed', () => {
  const bytes = toJpeg(blocks, 95);
  const raster = decodePicture('a.jpg', bytes);
  const start = state();
  const made = adoptPicture(start.kit, { finding: recognise(raster), name: 'harbour', picture: 'p', art: new Map(), frozen: true });
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
