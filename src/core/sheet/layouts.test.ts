import { gradientOf } from '@tests/parts';
import { mostIn } from '../ground/limits';
import { byId } from '@/core/ground/byId';
import { describe, expect, it } from 'vitest';
import { applyEdit, inverseOf } from '../kit/edit/editKinds';
import type { Edit } from '../kit/edit/edit';
import { emptySeats, solid, type Cell, type Fill, type Kit, type KitState, type Rect, type Sheet } from '../kit/kit';
import {
  arrangeSheet,
  cellsInBand,
  changeCells,
  deleteBand,
  freeRects,
  insertBand,
  moveCells,
  pinchSheet,
  resizeCell,
  sortCells,
  splitCell,
  type SortBy,
} from './arrange';
import { artRoomEdit, planArtRoom } from './artRoom';
import { mergeCells, mergeColors, spareColors } from './mergeColors';
import { exactnessOf, gaps, planRelay, relaySheet, type RelayOptions } from './relay';
import { newKit } from './starter';

const rect = (x: number, y: number, w: number, h: number): Rect => ({ x, y, w, h });
const spare: Fill = { kind: 'spare' };
const art: Fill = { kind: 'art', picture: 'p' };
const fillOf: Record<string, Fill> = { s: spare, a: art, x: gradientOf('x'), y: gradientOf('y') };
/** Cells as “id@x,y,w,h”, of a plain color of their own; a letter behind makes them spare, art or a gradient. */
const cellsOf = (places: string): Cell[] =>
  places.split(' ').map((place) => {
    const [, id, numbers, kind] = /^(\d+)@([\d,]+)([saxy]?)$/.exec(place)!;
    const [x, y, w, h] = numbers!.split(',').map(Number) as [number, number, number, number];
    const fill = kind ? fillOf[kind]! : solid(`#0000${(16 + Number(id)).toString(16)}`);
    return { id: Number(id), rect: rect(x, y, w, h), role: `c${id}`, fill };
  });
const kitOf = (width: number, height: number, places: string, more: Partial<Sheet> = {}): Kit => {
  const cells = cellsOf(places);
  const sheet: Sheet = { id: 's', name: 'Deck', width, height, padding: 0, filter: 'nearest', ramps: [], cells, ...more };
  return { ...newKit('Skerry'), sheets: [sheet], nextCell: 50 };
};
const sheetOf = (kit: Kit): Sheet => kit.sheets[0]!;
const after = (kit: Kit, edit: Edit, seats: KitState['seats'] = byId()): Sheet => sheetOf(applyEdit({ kit, seats }, edit).kit);
const text = ({ x, y, w, h }: Rect) => [x, y, w, h].join();
/** The colors of a sheet in their order, as they are told above. */
const colorsOf = ({ cells }: Sheet) =>
  cells.flatMap(({ id, fill, rect: r }) => (fill.kind === 'spare' ? [] : [`${id}@${text(r)}`])).join(' ');
/** What a sheet comes to: its size, its colors and its spare cells in their order. */
const shape = (sheet: Sheet) =>
  `${sheet.width}x${sheet.height} ${colorsOf(sheet)} | ${sheet.cells.flatMap(({ fill, rect: r }) => (fill.kind === 'spare' ? [text(r)] : [])).join(' ')}`;
const laid = (kit: Kit, act: (kit: Kit, sheet: Sheet) => Edit) => after(kit, act(kit, sheetOf(kit)));
const label = (edit: Edit) => (edit as { label?: string }).label;

/** Four columns and two rows: 1 and 2 above, 3 across below, and the rest free. */
const four = () => kitOf(4, 3, '1@0,0,2,1 2@2,0,2,1 3@0,1,3,1 9@3,1,1,2s 10@0,2,3,1s');

describe('bands', () => {
  const inserted = (axis: 'x' | 'y', at: number, texels: number) => shape(laid(four(), (k, s) => insertBand(k, s, { axis, at, texels })));
  it('stretch what they are put into and move what lies behind, of columns and of rows', () => {
    expect(inserted('x', 1, 2)).toBe('6x3 1@0,0,4,1 2@4,0,2,1 3@0,1,5,1 | 5,1,1,2 0,2,5,1');
    expect(inserted('y', 1, 1)).toBe('4x4 1@0,0,2,1 2@2,0,2,1 3@0,2,3,1 | 3,2,1,2 0,3,3,1 0,1,2,1 2,1,2,1');
    // At the border between two cells neither is stretched.
    expect(inserted('x', 2, 1)).toContain(' 1@0,0,2,1 2@3,0,2,1 3@0,1,4,1 ');
    expect(label(insertBand(four(), sheetOf(four()), { axis: 'x', at: 0, texels: 1 }))).toBe('Insert columns');
  });

  it('that are taken out shrink what lies across and move what lies behind', () => {
    const deleted = (axis: 'x' | 'y', at: number, texels: number) => shape(laid(four(), (k, s) => deleteBand(k, s, { axis, at, texels })));
    expect(deleted('x', 1, 2)).toBe('2x3 1@0,0,1,1 2@1,0,1,1 3@0,1,1,1 | 1,1,1,2 0,2,1,1');
    expect(deleted('y', 1, 1)).toBe('4x2 1@0,0,2,1 2@2,0,2,1 | 3,1,1,1 0,1,3,1');
    const within = (axis: 'x' | 'y', at: number, texels: number) => cellsInBand(sheetOf(four()), { axis, at, texels }).map((c) => c.id).join(); // prettier-ignore
    expect([within('x', 0, 2), within('x', 0, 3), within('x', 1, 3), within('y', 1, 2), within('y', 0, 1)]).toEqual(['1', '1,3', '2', '3', '1,2']); // prettier-ignore
  });
});

describe('an arrangement', () => {
  it('drops spare cells that are in the way or outside, and fills what is free with cells of the usual size', () => {
    expect(shape(laid(four(), (k, s) => resizeCell(k, s, 3, rect(0, 1, 4, 1))))).toBe(
      '4x3 1@0,0,2,1 2@2,0,2,1 3@0,1,4,1 | 0,2,3,1 3,2,1,1',
    );
    const kit = four();
    const { cells } = sheetOf(kit);
    const edit = arrangeSheet(kit, sheetOf(kit), { width: 3, height: 2, cells: [cells[0]!, cells[3]!, cells[4]!] }, 'Try');
    expect(shape(after(kit, edit))).toBe('3x2 1@0,0,2,1 | 2,0,1,1 0,1,2,1 2,1,1,1');
    expect(applyEdit(applyEdit({ kit, seats: byId() }, edit), inverseOf(edit)).kit).toEqual(kit);
    // Without a color the spare cells say what is usual.
    const none = arrangeSheet(kit, sheetOf(kit), { width: 4, height: 3, cells: [cells[4]!] }, 'Try');
    expect(shape(after(kit, none))).toBe('4x3  | 0,2,3,1 0,0,3,1 3,0,1,1 0,1,3,1 3,1,1,1 3,2,1,1');
  });

  it('stays within the sheet on all sides and within the largest sheet', () => {
    const kit = four();
    const tried = (r: Rect) => () => resizeCell(kit, sheetOf(kit), 2, r);
    for (const r of [rect(-1, 0, 1, 1), rect(2, -1, 1, 1), rect(2, 0, 0, 1), rect(2, 0, 1, 0), rect(2, 0, 3, 1), rect(3, 0, 1, 4)])
      expect(tried(r)).toThrow('“c2” would lie outside of the sheet.');
    expect(tried(rect(1, 0, 3, 1))).toThrow('“c2” would lie over “c1”.');
    expect(colorsOf(after(kit, tried(rect(3, 2, 1, 1))()))).toContain('2@3,2,1,1');
    const sized = (width: number, height: number) => arrangeSheet(kit, sheetOf(kit), { width, height, cells: [] }, '');
    for (const [w, h] of [
      [0, 4],
      [4, 0],
      [4097, 4],
      [4, 4097],
    ] as const)
      // prettier-ignore
      expect(() => sized(w, h)).toThrow(`A sheet has 1 to 4096 texels a side; ${w} × ${h} is outside of that.`);
    expect(shape(after(kit, sized(1, 1)))).toBe('1x1  | 0,0,1,1');
    const nameless = kitOf(2, 1, '1@0,0,1,1 2@1,0,1,1');
    for (const c of sheetOf(nameless).cells) c.role = '';
    expect(() => resizeCell(nameless, sheetOf(nameless), 1, rect(0, 0, 2, 1))).toThrow('“A color” would lie over “another color”.');
    expect(() => resizeCell(nameless, sheetOf(nameless), 1, rect(0, 0, 1, 2))).toThrow('“A color” would lie outside of the sheet.');
  });

  it('cuts what is free along the grid of the size', () => {
    const owner = (rows: string[]) => Int32Array.from(rows.join(''), (c) => (c === '.' ? -1 : 0));
    const cut = (rows: string[], w: number, h: number) => freeRects(owner(rows), rows[0]!.length, rows.length, { w, h }).map(text).join(' '); // prettier-ignore
    expect(cut(['.....', '.....', '.....'], 2, 2)).toBe('0,0,2,2 2,0,2,2 4,0,1,2 0,2,2,1 2,2,2,1 4,2,1,1');
    expect(cut(['#...', '..#.', '....'], 4, 4)).toBe('1,0,3,1 0,1,2,2 3,1,1,2 2,2,1,1');
    expect(cut(['.', '.', '#', '.'], 1, 4)).toBe('0,0,1,2 0,3,1,1');
    expect(cut(['##', '##'], 1, 1)).toBe('');
  });

  it('takes cells that are left out from their ramps, and ramps that are left without any', () => {
    const ramps = [
      { id: 'a', name: 'A', cells: [1] },
      { id: 'b', name: 'B', cells: [3, 2] },
      { id: 'c', name: 'C', cells: [1] },
    ];
    const kit = { ...four(), sheets: [{ ...sheetOf(four()), ramps }] };
    const sheet = sheetOf(kit);
    const now = after(kit, { kind: 'group', label: '', edits: changeCells(kit, sheet, { ...sheet, cells: sheet.cells.slice(1, 3) }, []) });
    expect([now.ramps, now.cells.map((c) => c.id)]).toEqual([[{ ...ramps[1], cells: [3, 2] }], [2, 3]]);
    expect(changeCells(kit, sheet, sheet, [])).toEqual([]);
    expect(changeCells(kit, sheet, { ...sheet, cells: sheet.cells.map((c) => ({ ...c })) }, [])).toEqual([]);
    for (const change of [{ role: 'x' }, { fill: solid('#ffffff') }, ...(['x', 'y', 'w', 'h'] as const).map((k) => ({ [k]: 7 }))]) {
      const first = sheet.cells[0]!;
      const other = 'role' in change || 'fill' in change ? { ...first, ...change } : { ...first, rect: { ...first.rect, ...change } };
      const edits = changeCells(kit, sheet, { ...sheet, cells: [other, ...sheet.cells.slice(1)] }, []);
      expect(edits).toMatchObject([{ kind: 'put', list: 'cells', index: 0, after: other }]);
    }
    for (const size of [
      { width: 5, height: 3 },
      { width: 4, height: 4 },
    ])
      // prettier-ignore
      expect(changeCells(kit, sheet, { ...sheet, ...size }, [])).toMatchObject([{ kind: 'set', before: { width: 4, height: 3 }, after: size }]);
  });

  it('is bounded in cells, of the sheet and of the kit', () => {
    const kit = four();
    const sheet = sheetOf(kit);
    const free = (n: number) => Array.from({ length: n }, () => rect(0, 0, 1, 1));
    const puts = (k: Kit, n: number) => changeCells(k, sheet, sheet, free(n)).filter((e) => e.kind === 'put').length;
    expect(puts(kit, mostIn.cells - 5)).toBe(mostIn.cells - 5);
    expect(() => puts(kit, mostIn.cells - 4)).toThrow('would have 2001 cells; it can have 2000');
    expect([puts({ ...kit, nextCell: 65_533 }, 5), puts({ ...kit, nextCell: 65_535 }, 5)]).toEqual([2, 0]);
    expect(changeCells({ ...kit, nextCell: 65_535 }, sheet, sheet, free(5))).toEqual([]);
  });
});

describe('single cells', () => {
  it('that move push what lies wholly under them to where they came from', () => {
    const row = () => kitOf(6, 2, '1@0,0,1,1 2@1,0,1,1 3@2,0,2,1 4@4,0,1,1 5@0,1,2,1');
    const moved = (ids: number[], dx: number, dy: number) => colorsOf(laid(row(), (k, s) => moveCells(k, s, ids, dx, dy)));
    expect(moved([1], 0, 0)).toBe('1@0,0,1,1 2@1,0,1,1 3@2,0,2,1 4@4,0,1,1 5@0,1,2,1');
    expect(moved([3], -2, 0)).toBe('1@2,0,1,1 2@3,0,1,1 3@0,0,2,1 4@4,0,1,1 5@0,1,2,1');
    // By less than its length: what is pushed out goes behind it.
    expect(moved([3], -1, 0)).toBe('1@0,0,1,1 2@3,0,1,1 3@1,0,2,1 4@4,0,1,1 5@0,1,2,1');
    expect(moved([3], 1, 0)).toBe('1@0,0,1,1 2@1,0,1,1 3@3,0,2,1 4@2,0,1,1 5@0,1,2,1');
    expect(moved([5], 0, -1)).toBe('1@0,1,1,1 2@1,1,1,1 3@2,0,2,1 4@4,0,1,1 5@0,0,2,1');
    expect(() => moved([1, 2], 0, 1)).toThrow('“c5” would lie over “c1”.');
    expect(() => moved([1], 2, 0)).toThrow('“c3” would lie over “c1”.');
    expect([[1], [1, 2]].map((ids) => label(moveCells(row(), sheetOf(row()), ids, 0, 0)))).toEqual(['Move a cell', 'Move 2 cells']);
  });

  it('are split in parts of which the first keeps the color; odd texels go where they round to', () => {
    const kit = kitOf(7, 5, '1@1,1,5,3 2@0,0,7,1');
    const parts = (columns: number, rows: number) => colorsOf(laid(kit, (k, s) => splitCell(k, s, 1, columns, rows)));
    expect(parts(2, 1)).toBe('1@1,1,3,3 2@0,0,7,1');
    const all = (columns: number, rows: number) => after(kit, splitCell(kit, sheetOf(kit), 1, columns, rows)).cells.map((c) => `${c.id}@${text(c.rect)}`); // prettier-ignore
    expect(all(2, 1)).toEqual(['1@1,1,3,3', '2@0,0,7,1', '50@4,1,2,3']);
    expect(all(1, 2)).toEqual(['1@1,1,5,2', '2@0,0,7,1', '50@1,3,5,1']);
    expect(all(5, 3).slice(2, 7)).toEqual(['50@2,1,1,1', '51@3,1,1,1', '52@4,1,1,1', '53@5,1,1,1', '54@1,2,1,1']);
    for (const [c, r] of [
      [6, 1],
      [1, 4],
    ] as const)
      // prettier-ignore
      expect(() => parts(c, r)).toThrow(`The cell has 5 × 3 texels; it cannot be split in ${c} × ${r}.`);
    expect(() => splitCell(kit, { ...sheetOf(kit), frozen: { picture: 'p' } }, 1, 2, 1)).toThrow('“Deck” is frozen');
  });
});

describe('the whole sheet', () => {
  it('pinched to another size takes every border to the nearest texel', () => {
    const kit = kitOf(6, 4, '1@0,0,2,4 2@2,0,1,2 3@3,0,3,2 9@2,2,1,2s');
    const pinched = (k: Kit, width: number, height: number) => shape(laid(k, (own, s) => pinchSheet(own, s, width, height)));
    expect(pinched(kit, 9, 2)).toBe('9x2 1@0,0,3,2 2@3,0,2,1 3@5,0,4,1 | 3,1,2,1 5,1,1,1 6,1,3,1');
    // A spare cell may vanish, a color may not.
    expect(pinched(kit, 6, 2)).toContain('1@0,0,2,2');
    expect(() => pinched(kit, 2, 4)).toThrow('At 2 × 4 texels “c2” would have none.');
    expect(() => pinched(kitOf(2, 3, '1@0,0,2,1 2@0,1,2,2'), 2, 1)).toThrow('At 2 × 1 texels “c1” would have none.');
  });

  it('sorts colors of one size among themselves', () => {
    const colors = ['#c00000', '#00c000', '#0000c0', '#303030', '#d0d0d0', '#400000', '#ff00ff', '', '#ffff00'];
    const kit = kitOf(4, 3, '1@0,0,1,1 2@1,0,1,1 3@2,0,1,1 4@0,1,1,1 5@1,1,1,1 6@2,1,1,1 7@0,2,2,1 8@3,0,1,1s 9@2,2,2,1 10@3,1,1,1s', {
      ramps: [{ id: 'r', name: 'R', cells: [6, 1] }],
    });
    for (const c of sheetOf(kit).cells) if (c.fill.kind === 'solid') c.fill = solid(colors[c.id - 1]!);
    const sorted = (by: SortBy, faces: Record<number, number> = {}) => laid(kit, (k, s) => sortCells(k, s, by, (id) => faces[id] ?? 0));
    const order = (by: SortBy, faces?: Record<number, number>) => {
      const cells = sorted(by, faces).cells.filter((c) => c.fill.kind !== 'spare');
      const rows = cells.sort((a, b) => a.rect.y - b.rect.y || a.rect.x - b.rect.x);
      return [1, 2].map((w) => rows.flatMap((c) => (c.rect.w === w ? [c.id] : [])).join(' ')).join(', ');
    };
    expect(order('ramp')).toBe('6 1 2 3 4 5, 7 9');
    expect(order('lightness')).toBe('6 4 3 1 2 5, 7 9');
    // Greys first, dark to light; then red (the darker first), yellow, green, blue, magenta.
    expect(order('hue')).toBe('4 5 6 1 2 3, 9 7');
    expect(order('use', { 3: 5, 5: 9, 9: 1 })).toBe('5 3 1 2 4 6, 9 7');
    expect(shape(sorted('ramp'))).toMatch(/ \| 2,1,1,1 3,1,1,1$/);
  });
});

describe('colors that become one', () => {
  const ramps = [
    { id: 'a', name: 'A', cells: [2] },
    { id: 'b', name: 'B', cells: [1, 2, 3] },
  ];
  const kit = (more: Partial<Sheet> = {}): Kit => ({
    ...kitOf(4, 2, '1@0,0,1,1 2@1,0,1,1 3@2,0,2,1 9@0,1,2,1s 10@2,1,2,1s', { ramps, ...more }),
    models: [{ id: 'm', name: 'buoy', regions: [], slots: [] }] as unknown as Kit['models'],
  });
  const seats = () => byId({ m: { ...emptySeats(4), cell: Uint16Array.of(1, 2, 3, 0) } });

  it('by merging take all faces along and leave spare cells behind, and no ramp empty', () => {
    const state = { kit: kit(), seats: seats() };
    const edit = mergeColors(state, 3, [2, 3]);
    const now = applyEdit(state, edit);
    expect([label(edit), [...now.seats.m!.cell]]).toEqual(['Merge into c3', [1, 3, 3, 0]]);
    expect(sheetOf(now.kit).ramps).toEqual([{ ...ramps[1], cells: [1, 3] }]);
    expect(sheetOf(now.kit).cells[1]).toEqual({ id: 2, rect: rect(1, 0, 1, 1), role: '', fill: spare });
    expect(sheetOf(now.kit).cells[2]).toEqual(sheetOf(kit()).cells[2]);
    const open = { kit: kit({ frozen: { picture: 'p', appended: [1, 2] } }), seats: seats() };
    expect(() => mergeColors(open, 1, [2, 3])).toThrow('“Deck” is frozen: its colors stay as they are.');
    expect([...applyEdit(open, mergeColors(open, 1, [2])).seats.m!.cell]).toEqual([1, 1, 3, 0]);
  });

  it('by sparing give their faces to another, or none', () => {
    const state = { kit: kit(), seats: seats() };
    const one = spareColors(state, sheetOf(state.kit), new Set([3]), 0);
    expect([label(one), [...applyEdit(state, one).seats.m!.cell]]).toEqual(['Make a cell spare', [1, 2, 0, 0]]);
    const again = { kit: kit(), seats: seats() };
    const two = spareColors(again, sheetOf(again.kit), new Set([1, 2, 9]), 3);
    const now = applyEdit(again, two);
    expect([label(two), [...now.seats.m!.cell]]).toEqual(['Make cells spare', [3, 3, 3, 0]]);
    expect(sheetOf(now.kit).ramps).toEqual([{ ...ramps[1], cells: [3] }]);
  });

  it('as neighbours lie over the rectangle that holds them', () => {
    const state = { kit: kit(), seats: seats() };
    const edit = mergeCells(state, 2, [1, 2, 9]);
    // What is tried does not touch the seats.
    expect([...state.seats.m!.cell]).toEqual([1, 2, 3, 0]);
    const now = applyEdit(state, edit);
    expect([label(edit), [...now.seats.m!.cell]]).toEqual(['Merge into c2', [2, 2, 3, 0]]);
    expect(shape(sheetOf(now.kit))).toBe('4x2 2@0,0,2,2 3@2,0,2,1 | 2,1,2,1');
    expect(() => mergeCells({ kit: kit(), seats: seats() }, 1, [1, 3])).toThrow('“c2” would lie over “c1”.');
  });
});

describe('laying out anew', () => {
  const usual: RelayOptions = { exactTo: 0, spares: 0, dropUnused: false };
  const planned = (k: Kit, options: Partial<RelayOptions> = {}, used: number[] = []) => planRelay([sheetOf(k)], new Set(used), { ...usual, ...options }); // prettier-ignore
  /** Size, places of colors, and what is free. */
  const plan = (...of: Parameters<typeof planned>) => {
    const { width, height, places, free } = planned(...of);
    return { size: `${width}x${height}`, places: places.map(({ cell, rect: r }) => `${cell.id}@${text(r)}`).join(' '), free: free.map(text).join(' ') }; // prettier-ignore
  };
  const size = (...of: Parameters<typeof planned>) => plan(...of).size;
  const plain = (n: number, more = '', sheet: Partial<Sheet> = {}) =>
    kitOf(16, 16, [...Array.from({ length: n }, (_, i) => `${i + 1}@${i},0,1,1`), ...(more ? [more] : [])].join(' '), sheet);

  it('takes the smallest size, squarer first and wider rather than higher', () => {
    expect([1, 2, 3, 5, 9, 17].map((n) => size(plain(n))).join(' ')).toBe('1x1 2x1 2x2 4x2 4x4 8x4');
    expect([1, 2, 3].map((n) => size(plain(n), { exactTo: 1 })).join(' ')).toBe('2x2 4x2 4x4');
    // What is long asks for a long sheet, up to 8 to 1, then for a larger one.
    expect(['8,1', '1,8', '16,1'].map((wh) => size(plain(0, `7@0,0,${wh}a`))).join(' ')).toBe('8x1 1x8 16x2');
    expect(() => plan(kitOf(16, 16, '7@0,0,4096,4097a'))).toThrow('do not fit on a sheet of 4096 × 4096 texels');
    expect(() => plan(plain(3), { size: { width: 2, height: 1 } })).toThrow('The colors do not fit on 2 × 1 texels.');
    expect(() => plan(plain(3), { size: { width: 3, height: 1 }, spares: 1 })).toThrow('do not fit on 3 × 1');
    expect(plan(plain(3), { size: { width: 3, height: 1 } }).free).toBe('');
  });

  it('lays art first, the highest first, then colors in the order of the tray, row by row', () => {
    const kit = plain(4, '7@0,1,2,1a 8@0,2,1,2a 9@0,4,3,1a', { ramps: [{ id: 'r', name: 'R', cells: [3, 1] }] });
    expect(plan(kit)).toEqual({
      size: '4x4',
      places: '8@0,0,1,2 9@1,0,3,1 7@1,1,2,1 3@3,1,1,1 1@0,2,1,1 2@1,2,1,1 4@2,2,1,1',
      free: '3,2,1,1 0,3,1,1 1,3,1,1 2,3,1,1 3,3,1,1',
    });
    expect([planned(kit).dropped, planned(kit).padding]).toEqual([[], 0]);
    expect(planned(kit, { dropUnused: true }, [4, 1]).dropped.map((c) => c.id)).toEqual([3, 2]);
    expect(plan(kit, { dropUnused: true }, [4, 1])).toMatchObject({
      size: '4x4',
      places: expect.stringMatching(/ 1@3,1,1,1 4@0,2,1,1$/) as string,
    });
  });

  it('keeps padding around art, and a gradient’s length, or gives it another', () => {
    const withArt = plain(1, '7@0,1,2,2a');
    expect(plan(withArt, { padding: 1 })).toMatchObject({ size: '8x4', places: '7@1,1,2,2 1@4,0,1,1' });
    expect(plan(withArt, { padding: 1, exactTo: 2 })).toMatchObject({ size: '8x4', places: '7@1,1,2,2 1@4,0,4,4' });
    expect(plan(withArt, { exactTo: 2 }).places).toBe('7@0,0,2,2 1@4,0,4,4');
    const runs: [wh: string, axis: 'x' | 'y', options: Partial<RelayOptions>, place: string][] = [
      ['6,3', 'x', {}, '6,3'],
      ['3,6', 'y', {}, '3,6'],
      ['6,3', 'x', { gradientTexels: 4 }, '4,1'],
      ['3,6', 'y', { gradientTexels: 4 }, '1,4'],
      ['6,3', 'x', { padding: 1 }, '6,3'],
      ['6,3', 'y', { padding: 2 }, '5,3'],
      ['6,3', 'x', { gradientTexels: 4, padding: 1, exactTo: 2 }, '4,4'],
    ];
    for (const [wh, axis, options, place] of runs) expect(plan(plain(0, `7@0,1,${wh}${axis}`), options).places).toBe(`7@0,0,${place}`);
    expect(plan(plain(2, '7@0,1,6,3x'), { gradientTexels: 6, exactTo: 2 }).places).toBe('7@0,0,6,4 1@0,4,4,4 2@4,4,4,4');
    const kept = plain(1, '', { padding: 3 });
    expect([planned(withArt, { padding: 1 }).padding, planned(kept).padding, planned(kept, { padding: 0 }).padding]).toEqual([1, 3, 0]);
    const changed = relaySheet(kept, sheetOf(kept), planned(kept, { padding: 1 }));
    expect([after(kept, changed).padding, label(changed)]).toEqual([1, 'Lay out the sheet anew']);
  });

  it('leaves as many spare cells as were asked for, of a handy size', () => {
    expect(plan(plain(3), { spares: 1 })).toMatchObject({ size: '2x2', free: '1,1,1,1' });
    expect(size(plain(3), { spares: 2 })).toBe('4x2');
    const free = (side: number, unit: number, spares: number) => gaps([rect(0, 0, 1, 1)], side, side, unit, spares);
    expect([free(7, 1, 0), free(8, 1, 0), free(8, 1, 49), free(16, 1, 0), free(8, 1, 63), free(8, 1, 60)].map((f) => f.length)).toEqual([48, 17, 63, 17, 63, 63]); // prettier-ignore
    expect(free(8, 2, 0)[0]).toEqual(rect(1, 0, 1, 2));
    // Spare cells are taken again for what is free, in their order; none are made where there are enough.
    const kit = kitOf(4, 1, '1@0,0,1,1 9@1,0,3,1s');
    const now = after(kit, relaySheet(kit, sheetOf(kit), planned(kit, { spares: 2 })));
    expect(now.cells.map((c) => `${c.id}@${text(c.rect)}`)).toEqual(['1@0,0,1,1', '9@1,0,1,1', '50@0,1,1,1', '51@1,1,1,1']);
  });

  it('drops unused colors from sheet and ramps', () => {
    const kit = plain(3, '', { ramps: [{ id: 'r', name: 'R', cells: [3, 1] }] });
    const now = after(kit, relaySheet(kit, sheetOf(kit), planned(kit, { dropUnused: true }, [1, 2])));
    expect([now.cells.map((c) => c.id), now.ramps[0]!.cells, now.width, now.height]).toEqual([[1, 2], [1], 2, 1]);
  });

  it('knows down to which mip level plain colors are exact', () => {
    const of = (cell: string) => exactnessOf([sheetOf(kitOf(16, 16, cell))]);
    const told = ['4,8,4,8', '2,4,4,4', '4,2,4,4', '4,4,3,4', '4,4,4,2', '1,4,4,4', '4,4,4,1'].map((r) => of(`1@${r}`));
    expect([told, of('1@1,1,3,3a')]).toEqual([[2, 1, 1, 1, 1, 0, 0], 2]);
  });
});

describe('room for art', () => {
  const kit = kitOf(8, 8, '1@0,0,1,1 2@1,0,1,1 3@2,0,1,1 9@3,0,1,1s');
  const room = (side: 'left' | 'right' | 'top' | 'bottom', own?: { width: number; height: number }) => {
    const { places, art: at, free } = planArtRoom([sheetOf(kit)], { width: 8, height: 4, side, ...(own && { art: own }) });
    return `${places.map((p) => text(p.rect)).join(' ')} | ${text(at)} | ${text(free[0]!)}`;
  };

  it('is all beside the narrowest strip of the colors, on its side', () => {
    expect(room('left')).toBe('0,0,1,1 0,1,1,1 0,2,1,1 | 1,0,7,4 | 0,3,1,1');
    expect(room('right')).toBe('7,0,1,1 7,1,1,1 7,2,1,1 | 0,0,7,4 | 7,3,1,1');
    expect(room('top')).toContain('0,0,1,1 1,0,1,1 2,0,1,1 | 0,1,8,3 |');
    expect(room('bottom')).toContain('0,3,1,1 1,3,1,1 2,3,1,1 | 0,0,8,3 |');
    expect(room('left', { width: 7, height: 4 })).toContain('| 1,0,7,4 |');
    expect(() => room('left', { width: 8, height: 4 })).toThrow('The picture has 8 × 4 texels; beside the colors there are 7 × 4.');
    expect(() => room('top', { width: 8, height: 4 })).toThrow('beside the colors there are 8 × 3.');
  });

  it('goes to a cell of its own behind all others; spare cells are taken for what is free', () => {
    const { edit, cell } = artRoomEdit(kit, sheetOf(kit), planArtRoom([sheetOf(kit)], { width: 8, height: 4, side: 'left' }), 'p', 'chart');
    const now = applyEdit({ kit, seats: byId() }, edit).kit;
    expect([cell, now.nextCell, sheetOf(now).cells.map((c) => c.id).join(), text(sheetOf(now).cells[3]!.rect)]).toEqual([50, 51, '1,2,3,9,50', '0,3,1,1']); // prettier-ignore
  });
});
