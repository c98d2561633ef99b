import { group } from '../kit/edit/edit';
import { mostIn } from '../ground/limits';
import { byId } from '@/core/ground/byId';
import { describe, expect, it } from 'vitest';
import { applyEdit, inverseOf } from '../kit/edit/editKinds';
import { decodePng } from '../ground/pictures/png';
import type { KitPictures } from '../ground/pictures/picture';
import { solid, type Cell, type Fill, type Kit, type KitState, type Rect, type Sheet } from '../kit/kit';
import { commonCellSize, editCell, growSheet, isKept, newHalf, rampOf, singleColors, stepOf, swatchOf } from './cells';
import { encodeScaled, encodeSheet, extensionOfMime } from './encode';
import { finishOfSheet, isUsualFinish } from './finish';
import { gradientError, texelsFor } from './gradientError';
import { newColor } from './newColor';
import { opacityOf, seeThroughCells } from './opacity';
import { colorsInOrder } from './order';
import { gradientAt, meanColor, rasterSheet } from './raster';
import type { Raster } from '../ground/pictures/raster';
import { newKit } from './starter';

const rect = (x: number, y: number, w: number, h: number): Rect => ({ x, y, w, h });
const cellOf = (id: number, at: Rect, fill: Fill, role = ''): Cell => ({ id, rect: at, role, fill });
const sheetOf = (width: number, height: number, cells: Cell[], more: Partial<Sheet> = {}): Sheet => ({
  id: 's',
  name: 'Deck',
  width,
  height,
  padding: 0,
  filter: 'nearest',
  ramps: [],
  cells,
  ...more,
});
const spare: Fill = { kind: 'spare' };
const alongX = (colors: [number, string][], more: Partial<Extract<Fill, { kind: 'gradient' }>> = {}) => ({
  kind: 'gradient' as const,
  axis: 'x' as const,
  mix: 'srgb' as const,
  stops: colors.map(([at, color]) => ({ at, color })),
  ...more,
});
const blackToWhite: [number, string][] = [
  [1, '#ffffff'],
  [0, '#000000'],
];

const hex = (v: number) => v.toString(16).padStart(2, '0');
/** Texels of each row from the top as hex; with alpha where it is not full, and of a grey only one byte. */
const rowsOf = ({ width, height, data }: Raster): string[] =>
  Array.from({ length: height }, (_, y) =>
    Array.from({ length: width }, (_, x) => {
      const [r, g, b, a] = data.subarray((y * width + x) * 4, (y * width + x) * 4 + 4) as unknown as [number, number, number, number];
      return (r === g && g === b ? hex(r) : hex(r) + hex(g) + hex(b)) + (a === 255 ? '' : `/${hex(a)}`);
    }).join(' '),
  );
const picture = (width: number, height: number, greys: number[], alpha = 255): Raster => ({
  width,
  height,
  data: Uint8Array.from(greys.flatMap((v) => [v, v, v, alpha])),
});

describe('texels of a sheet', () => {
  const shown = (w: number, h: number, fill: Fill, pictures?: Map<string, Raster>) =>
    rowsOf(rasterSheet(sheetOf(w, h, [cellOf(1, rect(0, 0, w, h), fill)]), pictures));

  it('has rows from the top, plain colors with their opacity, and a mid grey where nothing is', () => {
    const cells = [
      cellOf(1, rect(0, 0, 2, 1), solid('#102030')),
      cellOf(2, rect(2, 0, 1, 2), { ...solid('#405060'), alpha: 0.5 } as Fill),
      cellOf(3, rect(0, 1, 1, 2), spare),
    ];
    expect(rowsOf(rasterSheet(sheetOf(4, 3, cells)))).toEqual(['102030 102030 405060/80 80', '80 80 405060/80 80', '80 80 80 80']);
  });

  it('runs a gradient from end to end along its axis, sorted by its stops, and holds the outer ones', () => {
    expect(shown(5, 2, alongX(blackToWhite))).toEqual(['00 40 80 bf ff', '00 40 80 bf ff']);
    expect(shown(2, 3, alongX(blackToWhite, { axis: 'y' }))).toEqual(['00 00', '80 80', 'ff ff']);
    expect(shown(1, 1, alongX(blackToWhite))).toEqual(['80']);
    const middle: [number, string][] = [
      [0.25, '#202020'],
      [0.75, '#e0e0e0'],
      [0.5, '#602020'],
    ];
    expect(shown(9, 1, alongX(middle))).toEqual(['20 20 20 402020 602020 a08080 e0 e0 e0']);
    expect(shown(3, 1, alongX(blackToWhite, { mix: 'oklab' }))).toEqual(['00 63 ff']);
  });

  it('gives each band one color, the ends among them', () => {
    expect(shown(6, 1, alongX(blackToWhite, { bands: 3 }))).toEqual(['00 00 80 80 ff ff']);
    expect(shown(4, 1, alongX(blackToWhite, { bands: 2 }))).toEqual(['00 00 ff ff']);
    expect(shown(3, 1, alongX(blackToWhite, { bands: 1 }))).toEqual(['00 00 00']);
    expect(gradientAt(alongX(blackToWhite, { bands: 4 }), 0.25)).toEqual([85, 85, 85]);
  });

  it('mixes four corners: top left, top right, bottom left, bottom right', () => {
    const fill: Fill = { kind: 'corners', mix: 'srgb', colors: ['#000000', '#400000', '#004000', '#0000ff'] };
    expect(shown(3, 2, fill)).toEqual(['00 200000 400000', '004000 002080 0000ff']);
    expect(shown(1, 1, fill)).toEqual(['101040']);
    expect(shown(1, 3, { ...fill, mix: 'oklab', colors: ['#000000', '#000000', '#ffffff', '#ffffff'] })).toEqual(['00', '63', 'ff']);
  });

  it('copies art pixel for pixel, or the nearest pixel, from wherever its bytes lie; without it stays grey', () => {
    const art = picture(2, 2, [1, 2, 3, 4], 9);
    const of = (w: number, h: number, raster = art) => shown(w, h, { kind: 'art', picture: 'a' }, new Map([['a', raster]]));
    expect(of(2, 2)).toEqual(['01/09 02/09', '03/09 04/09']);
    expect(of(3, 4)).toEqual(['01/09 01/09 02/09', '01/09 01/09 02/09', '03/09 03/09 04/09', '03/09 03/09 04/09']);
    expect(of(1, 1)).toEqual(['01/09']);
    const odd = new Uint8Array(18);
    odd.set(art.data, 1);
    expect(of(2, 2, { ...art, data: odd.subarray(1, 17) })).toEqual(['01/09 02/09', '03/09 04/09']);
    const later = new Uint8Array(20);
    later.set(art.data, 4);
    expect(of(2, 2, { ...art, data: later.subarray(4) })).toEqual(['01/09 02/09', '03/09 04/09']);
    expect(shown(2, 1, { kind: 'art', picture: 'gone' })).toEqual(['80 80']);
  });

  it('lets art go on past its border, under whatever lies there and inside of the sheet', () => {
    const art = new Map([['a', picture(2, 2, [1, 2, 3, 4])]]);
    const cells = [cellOf(1, rect(3, 1, 1, 1), solid('#aa0000')), cellOf(2, rect(1, 1, 2, 2), { kind: 'art', picture: 'a' })];
    expect(rowsOf(rasterSheet(sheetOf(5, 5, cells, { padding: 1 }), art))).toEqual([
      '01 01 02 02 80',
      '01 01 02 aa0000 80',
      '03 03 04 04 80',
      '03 03 04 04 80',
      '80 80 80 80 80',
    ]);
    const corner = [cellOf(2, rect(0, 0, 2, 2), { kind: 'art' as const, picture: 'a' }), cellOf(3, rect(4, 0, 1, 3), spare)];
    expect(rowsOf(rasterSheet(sheetOf(5, 3, corner, { padding: 2 }), art))).toEqual(['01 02 02 02 80', '03 04 04 04 80', '03 04 04 04 80']);
    const last = [cellOf(2, rect(2, 1, 2, 2), { kind: 'art' as const, picture: 'a' })];
    expect(rowsOf(rasterSheet(sheetOf(4, 3, last, { padding: 1 }), art))).toEqual(['80 01 01 02', '80 01 01 02', '80 03 03 04']);
    expect(rowsOf(rasterSheet(sheetOf(4, 3, last), art))).toEqual(['80 80 80 80', '80 80 01 02', '80 80 03 04']);
  });

  it('shows a frozen picture as it is, and on it only what was appended', () => {
    const cells = [cellOf(1, rect(0, 0, 1, 1), solid('#aa0000')), cellOf(2, rect(1, 0, 1, 1), solid('#00aa00'))];
    const frozen = { picture: 'p', appended: [2] };
    const show = (raster?: Raster) => rowsOf(rasterSheet(sheetOf(2, 1, cells, { frozen }), new Map(raster && [['p', raster]])));
    expect(show(picture(2, 1, [7, 8]))).toEqual(['07 00aa00']);
    expect(show(picture(1, 1, [7]))).toEqual(['aa0000 00aa00']);
    expect(show(picture(2, 2, [7, 8, 9, 10]))).toEqual(['aa0000 00aa00']);
    expect(show()).toEqual(['aa0000 00aa00']);
    const kept = sheetOf(2, 1, cells, { frozen: { picture: 'p' } });
    expect(rowsOf(rasterSheet(kept, new Map([['p', picture(2, 1, [7, 8])]])))).toEqual(['07 08']);
    expect([isKept(kept, 2), isKept({ ...kept, frozen }, 1), isKept({ ...kept, frozen }, 2), isKept(sheetOf(1, 1, []), 2)]).toEqual([
      true,
      true,
      false,
      false,
    ]);
  });

  it('stands for a cell by its color, or by the mean of its light', () => {
    expect(meanColor(solid('#123456'))).toEqual([18, 52, 86]);
    expect(meanColor(spare)).toEqual([128, 128, 128]);
    const stripes = new Map([['a', picture(2, 1, [0, 255])]]);
    // Half of all light is not the middle of the bytes.
    expect(meanColor({ kind: 'art', picture: 'a' }, stripes)).toEqual([188, 188, 188]);
    expect(meanColor({ kind: 'art', picture: 'b' }, stripes)).toEqual([128, 128, 128]);
    const red = new Map([['a', { width: 1, height: 2, data: Uint8Array.of(255, 0, 10, 255, 0, 0, 10, 255) }]]);
    expect(meanColor({ kind: 'art', picture: 'a' }, red)).toEqual([188, 0, 10]);
    expect(swatchOf(cellOf(1, rect(0, 0, 1, 1), { kind: 'art', picture: 'a' }), red)).toBe('#bc000a');
  });
});

describe('what a gradient of few texels costs', () => {
  const ramp = alongX(blackToWhite, { mix: 'oklab' });

  it('is half the way from one texel to the next', () => {
    for (const texels of [2, 3, 5, 9]) expect(gradientError(ramp, texels)).toBeCloseTo(0.5 / (texels - 1), 2);
    expect(gradientError(ramp, 1)).toBeCloseTo(0.5, 2);
    // The same from the other end, so that the last texel is as near as the first.
    const back = alongX([
      [0, '#ffffff'],
      [1, '#000000'],
    ]);
    expect(gradientError({ ...back, mix: 'oklab' }, 5)).toBeCloseTo(0.125, 2);
    expect([texelsFor(ramp, 0.13), texelsFor(ramp, 0.26), texelsFor(ramp, 0.6), texelsFor(ramp, 0.01, 12)]).toEqual([5, 3, 2, 12]);
  });

  it('is nothing where each band has a texel', () => {
    const bands = { ...ramp, bands: 4 };
    expect([gradientError(bands, 4), gradientError(bands, 9), texelsFor(bands, 0.5)]).toEqual([0, 0, 4]);
    expect(gradientError(bands, 3)).toBeCloseTo(0.25, 5);
  });
});

describe('cells of a sheet', () => {
  const ramps = [{ id: 'r', name: 'Rust', cells: [3, 1, 2] }];
  const cells = [
    cellOf(1, rect(0, 0, 2, 2), solid('#808080'), 'hull'),
    cellOf(2, rect(2, 0, 2, 2), solid('#c0c0c0')),
    cellOf(3, rect(0, 2, 2, 2), solid('#404040')),
    cellOf(4, rect(2, 2, 1, 2), solid('#ff0000')),
    cellOf(5, rect(3, 2, 1, 2), spare),
    cellOf(6, rect(0, 4, 4, 1), alongX(blackToWhite)),
  ];
  const sheet = sheetOf(4, 8, cells, { ramps });
  const kit: Kit = { ...newKit('Skerry'), sheets: [sheet], nextCell: 7 };
  const state: KitState = { kit, seats: byId() };

  it('are told by ramp, step and order', () => {
    expect([rampOf(sheet, 1)?.id, rampOf(sheet, 4), singleColors(sheet)]).toEqual(['r', null, [4]]);
    expect([stepOf(sheet, 1, -1), stepOf(sheet, 1, 1), stepOf(sheet, 3, -1), stepOf(sheet, 2, 1), stepOf(sheet, 4, 1)]).toEqual([
      3,
      2,
      null,
      null,
      null,
    ]);
    expect(colorsInOrder(sheet).map((c) => c.id)).toEqual([3, 1, 2, 4]);
    expect(colorsInOrder({ ...sheet, ramps: [{ ...ramps[0]!, cells: [6, 2] }] }).map((c) => c.id)).toEqual([2, 1, 3, 4]);
  });

  it('are changed in their place, with a role of bounded length', () => {
    const edit = editCell(sheet, 2, { fill: solid('#010203') });
    expect(edit).toMatchObject({
      kind: 'put',
      list: 'cells',
      of: 's',
      index: 1,
      before: cells[1],
      after: { ...cells[1], fill: solid('#010203') },
    });
    expect((editCell(sheet, 1, { rect: rect(0, 0, 1, 1) }) as { after: Cell }).after).toEqual({ ...cells[0], rect: rect(0, 0, 1, 1) });
    expect((editCell(sheet, 1, { role: 'x'.repeat(201) }) as { after: Cell }).after.role).toHaveLength(200);
    expect((editCell(sheet, 1, { role: '' }) as { after: Cell }).after.role).toBe('');
    expect(() => editCell(sheet, 99, {})).toThrow('Cell 99 is not on this sheet.');
    const frozen = { ...sheet, frozen: { picture: 'p' } };
    expect(() => editCell(frozen, 1, { fill: solid('#010203') })).toThrow('“Deck” is frozen: its colors stay as they are.');
    expect((editCell(frozen, 1, { role: 'rail' }) as { after: Cell }).after.role).toBe('rail');
  });

  it('have most often one size, bounded by the sheet', () => {
    expect(commonCellSize(sheet)).toEqual({ w: 2, h: 2 });
    expect(commonCellSize({ width: 4, height: 3, cells: [cellOf(1, rect(0, 0, 9, 5), spare)] })).toEqual({ w: 4, h: 3 });
    expect(commonCellSize({ width: 4, height: 4, cells: [] })).toEqual({ w: 1, h: 1 });
    expect(commonCellSize({ width: 9, height: 9, cells: [cells[0]!, cells[3]!, cells[4]!] })).toEqual({ w: 1, h: 2 });
  });

  it('come as spare ones on the new half of a sheet that grows, row by row', () => {
    const after = applyEdit(state, group('Grow', growSheet(kit, sheet)));
    const now = after.kit.sheets[0]!;
    expect([now.width, now.height, after.kit.nextCell]).toEqual([8, 8, 15]);
    expect(now.cells.slice(0, 6)).toEqual(cells);
    expect(now.cells.slice(6)).toEqual(
      [0, 2, 4, 6].flatMap((y, row) => [4, 6].map((x, column) => cellOf(7 + row * 2 + column, rect(x, y, 2, 2), spare))),
    );
    expect(newHalf({ width: 8, height: 8 })).toEqual(rect(0, 8, 8, 8));
    expect(newHalf({ width: 8, height: 4 })).toEqual(rect(0, 4, 8, 4));
    expect(newHalf({ width: 4, height: 2048 })).toEqual(rect(4, 0, 4, 2048));
    expect(newHalf({ width: 2048, height: 4096 })).toEqual(rect(2048, 0, 2048, 4096));
    expect(() => newHalf({ width: 2049, height: 4096 })).toThrow('already 2049 × 4096 texels; it cannot grow past 4096');
    // What is left of a row or a column stays without a cell.
    const odd = sheetOf(3, 5, [cells[0]!]);
    expect(
      growSheet({ ...kit, sheets: [odd] }, odd).flatMap((e) => (e.kind === 'put' && e.list === 'cells' ? [e.after!.rect] : [])),
    ).toEqual([rect(3, 0, 2, 2), rect(3, 2, 2, 2)]);
  });

  it('are bounded in number, of a sheet and of the kit', () => {
    const added = (kitNow: Kit, s: Sheet) => growSheet(kitNow, s).filter((e) => e.kind === 'put').length;
    expect(added({ ...kit, nextCell: 65_533 }, sheet)).toBe(2);
    expect(added({ ...kit, nextCell: 65_535 }, sheet)).toBe(0);
    const many = { ...sheet, cells: Array.from({ length: mostIn.cells - 3 }, (_, i) => cellOf(i + 1, rect(0, 0, 2, 2), spare)) };
    expect(added(kit, many)).toBe(3);
  });

  it('become a new color: the first spare one, beside its like by lightness', () => {
    const added = newColor(state, { sheet: 's', color: '#606060', role: 'mast', beside: 1 });
    expect(added.cell).toBe(5);
    const after = applyEdit(state, added.edit);
    expect(after.kit.sheets[0]!.cells[4]).toEqual(cellOf(5, rect(3, 2, 1, 2), solid('#606060'), 'mast'));
    expect(after.kit.sheets[0]!.ramps[0]!.cells).toEqual([3, 5, 1, 2]);
    const placed = (color: string, beside: number) =>
      applyEdit(state, newColor(state, { sheet: 's', color, role: '', beside }).edit).kit.sheets[0]!.ramps[0]!.cells;
    expect([placed('#a0a0a0', 1), placed('#808080', 1), placed('#ffffff', 2), placed('#000000', 3)]).toEqual([
      [3, 1, 5, 2],
      [3, 1, 5, 2],
      [3, 1, 2, 5],
      [5, 3, 1, 2],
    ]);
    expect(placed('#a0a0a0', 4)).toEqual([3, 1, 2]);
    expect(JSON.stringify(applyEdit(after, inverseOf(added.edit)))).toBe(JSON.stringify(state));
    const finish = { roughness: 0.5, metalness: 1 };
    const shiny = applyEdit(state, newColor(state, { sheet: 's', color: '#606060', role: '', finish }).edit).kit.sheets[0]!;
    expect([shiny.cells[4]!.finish, shiny.ramps]).toEqual([finish, ramps]);
    // Where the kit keeps to a list, the nearest of it.
    const bound = { ...state, kit: { ...kit, allowed: { name: 'Harbour', colors: ['#5f5f5f', '#ff0000'] } } as Kit };
    expect(applyEdit(bound, newColor(bound, { sheet: 's', color: '#606060', role: '' }).edit).kit.sheets[0]!.cells[4]!.fill).toEqual(
      bound.kit.allowed ? solid('#5f5f5f') : solid('#606060'),
    );
  });

  it('become a new color after the sheet has grown where none is spare', () => {
    const full = { ...state, kit: { ...kit, sheets: [{ ...sheet, cells: cells.filter((c) => c.id !== 5) }] } };
    const { edit, cell } = newColor(full, { sheet: 's', color: '#606060', role: '' });
    expect([cell, applyEdit(full, edit).kit.sheets[0]!.width]).toEqual([7, 8]);
  });

  it('become a color of a frozen picture only in empty places, where that is allowed', () => {
    const on = (frozen: Sheet['frozen'], list = cells): KitState => ({
      ...state,
      kit: { ...kit, sheets: [{ ...sheet, frozen, cells: list }] },
    });
    const color = { sheet: 's', color: '#606060', role: '' };
    expect(() => newColor(on({ picture: 'p' }), color)).toThrow(
      '“Deck” is frozen: it keeps its picture as it is. In Palette you can allow',
    );
    const open = on({ picture: 'p', appended: [4] });
    expect(applyEdit(open, newColor(open, color).edit).kit.sheets[0]!.frozen).toEqual({ picture: 'p', appended: [4, 5] });
    expect(() =>
      newColor(
        on(
          { picture: 'p', appended: [] },
          cells.filter((c) => c.id !== 5),
        ),
        color,
      ),
    ).toThrow('“Deck” is frozen and has no empty place left.');
  });

  it('tell why no further color can come', () => {
    const full = cells.filter((c) => c.id !== 5);
    const used = { ...state, kit: { ...kit, nextCell: 65_535, sheets: [{ ...sheet, cells: full }] } };
    expect(() => newColor(used, { sheet: 's', color: '#606060', role: '' })).toThrow('used up its 65,534 cell numbers');
    const many = Array.from({ length: mostIn.cells }, (_, i) => cellOf(i + 1, rect(i % 64, i >> 6, 1, 1), solid('#101010')));
    const crowded = { ...state, kit: { ...kit, nextCell: 3000, sheets: [sheetOf(64, 64, many)] } };
    expect(() => newColor(crowded, { sheet: 's', color: '#606060', role: '' })).toThrow('“Deck” holds 2000 cells');
  });
});

describe('how light passes and is thrown back', () => {
  const at = (id: number, x: number, fill: Fill, finish?: Cell['finish']): Cell => ({
    ...cellOf(id, rect(x, 0, 1, 2), fill),
    ...(finish && { finish }),
  });

  it('leaves as numbers where all cells agree, else as pictures with the sheet’s layout', () => {
    const same = { roughness: 0.4, metalness: 0.2 };
    const plain = finishOfSheet(sheetOf(2, 2, [at(1, 0, solid('#000000'), same), at(2, 1, solid('#111111'), { ...same })]));
    expect(plain).toEqual(same);
    expect(finishOfSheet(sheetOf(2, 2, [at(1, 0, spare)]))).toEqual({ roughness: 1, metalness: 0 });
    const mixed = sheetOf(4, 3, [
      at(1, 0, solid('#000000'), { roughness: 0.4, metalness: 0.2, glow: '#0a141e' }),
      at(2, 1, solid('#111111')),
      at(3, 2, spare, { roughness: 0, metalness: 1, glow: '#ffffff' }),
    ]);
    const { surface, glow, ...numbers } = finishOfSheet(mixed);
    expect(numbers).toEqual({ roughness: 1, metalness: 1 });
    expect(rowsOf(surface!)).toEqual(['ff6633 ffff00 ffff00 ffff00', 'ff6633 ffff00 ffff00 ffff00', 'ffff00 ffff00 ffff00 ffff00']);
    expect(rowsOf(glow!)).toEqual(['0a141e 00 00 00', '0a141e 00 00 00', '00 00 00 00']);
    const oneDiffers = (finish: Cell['finish']) =>
      'surface' in finishOfSheet(sheetOf(2, 2, [at(1, 0, solid('#000000'), same), at(2, 1, solid('#111111'), finish)]));
    expect([oneDiffers({ ...same, roughness: 0.5 }), oneDiffers({ ...same, metalness: 0 }), oneDiffers(same)]).toEqual([true, true, false]);
    expect(
      [
        { roughness: 1, metalness: 0 },
        { roughness: 0.9, metalness: 0 },
        { roughness: 1, metalness: 0.1 },
        { roughness: 1, metalness: 0, glow: '#ffffff' },
      ].map(isUsualFinish),
    ).toEqual([true, false, false, false]);
  });

  it('is the mean of the picture’s alpha; what is not there counts as opaque', () => {
    const art = { width: 2, height: 1, data: Uint8Array.of(9, 9, 9, 255, 9, 9, 9, 0) };
    const pictures = new Map([
      ['a', art],
      ['b', picture(1, 2, [3, 4])],
    ]);
    const fills: Fill[] = [
      solid('#000000'),
      { ...solid('#000000'), alpha: 0.25 } as Fill,
      { kind: 'art', picture: 'a' },
      { kind: 'art', picture: 'b' },
      { kind: 'art', picture: 'c' },
      alongX(blackToWhite),
    ];
    expect(fills.map((f) => opacityOf(f, pictures))).toEqual([1, 0.25, 0.5, 1, 1, 1]);
    // Once more, out of what is remembered.
    expect(opacityOf(fills[2]!, pictures)).toBe(0.5);
    expect(opacityOf(fills[2]!)).toBe(1);
    const sheet = sheetOf(
      6,
      1,
      fills.map((f, i) => cellOf(i + 1, rect(i, 0, 1, 1), f)),
    );
    expect([...seeThroughCells({ ...newKit('Skerry'), sheets: [sheet] }, pictures)]).toEqual([2, 3]);
  });
});

describe('a sheet as a picture file', () => {
  const cells = [cellOf(1, rect(0, 0, 1, 1), solid('#ff0000')), cellOf(2, rect(1, 0, 1, 2), solid('#0000ff'))];
  const texels = ['ff0000 0000ff', '80 0000ff'];
  const kept = (bytes: Uint8Array): KitPictures =>
    new Map([['p', { bytes, raster: picture(2, 2, [1, 2, 3, 4]) }]]) as unknown as KitPictures;

  it('leaves drawn as PNG, or frozen as the very bytes that came', () => {
    const drawn = encodeSheet(sheetOf(2, 2, cells), new Map());
    expect([drawn.mime, rowsOf(decodePng(drawn.bytes))]).toEqual(['image/png', texels]);
    const bytes = encodeSheet(sheetOf(2, 2, cells), new Map()).bytes;
    const jpeg = new Uint8Array(32);
    jpeg.set([0xff, 0xd8, 0xff, 0xc0, 0, 17, 8, 0, 2, 0, 2]);
    const frozen = sheetOf(2, 2, cells, { frozen: { picture: 'p' } });
    expect(encodeSheet(frozen, kept(bytes)).bytes).toBe(bytes);
    expect(encodeSheet({ ...frozen, frozen: { picture: 'p', appended: [] } }, kept(bytes)).bytes).toBe(bytes);
    const appended = encodeSheet({ ...frozen, frozen: { picture: 'p', appended: [2] } }, kept(bytes));
    expect(rowsOf(decodePng(appended.bytes))).toEqual(['01 0000ff', '03 0000ff']);
    expect(encodeSheet(frozen, kept(jpeg)).mime).toBe('image/jpeg');
    expect(encodeSheet(frozen, kept(Uint8Array.of(1, 2))).mime).toBe('image/png');
    expect((['image/png', 'image/jpeg', 'image/webp'] as const).map(extensionOfMime)).toEqual(['png', 'jpg', 'webp']);
  });

  it('is enlarged by whole texels, up to 8,192 a side', () => {
    const large = decodePng(encodeScaled(sheetOf(2, 2, cells), new Map(), 3));
    expect(rowsOf(large)).toEqual(
      [0, 0, 0, 1, 1, 1].map((row) =>
        texels[row]!.split(' ')
          .flatMap((t) => [t, t, t])
          .join(' '),
      ),
    );
    const line = sheetOf(4096, 1, []);
    expect(decodePng(encodeScaled(line, new Map(), 2)).width).toBe(8192);
    expect(() => encodeScaled(line, new Map(), 3)).toThrow('“Deck” at 3 times its size would have 12288 × 3 texels');
    expect(() => encodeScaled(sheetOf(1, 4096, []), new Map(), 3)).toThrow('3 × 12288 texels');
  });
});
