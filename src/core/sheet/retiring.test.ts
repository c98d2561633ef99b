import { describe, expect, it } from 'vitest';
import { applyEdit, inverseOf } from '../kit/edit/editKinds';
import type { Edit } from '../kit/edit/edit';
import { findCell, findSheet, solid, type Fill, type Kit, type KitState, type Sheet } from '../kit/kit';
import { strangerInKit } from '../kit/references';
import { adoptPicture } from './picture/adopt';
import { joinRegion } from '../faces/regions/regions';
import { fillsOfVariant, stateOfVariant } from '../kit/colorings/shown';
import { fullKit } from '@tests/savedKits';
import { mergeCells, mergeColors, spareColors } from './mergeColors';
import { planRelay, relaySheet } from './relay';
import { goingTo, retireCells } from './retireCells';
import { rasterSheet } from './raster';
import { deleteBand } from './arrange';

const rect = (x: number, y: number) => ({ x, y, w: 1, h: 1 });
const hexes = ['#a01010', '#10a010', '#1010a0', '#808000', '#008080', '#800080', '#404040', '#c0c0c0'];

/** Eight colors in two rows; what refers to the second, in every way that there is. */
function start(): KitState {
  const { kit, seats } = fullKit();
  const sheet: Sheet = {
    ...{ id: 's', name: 'Deck', width: 4, height: 2, padding: 0, filter: 'nearest' as const },
    cells: hexes.map((hex, i) => ({ id: i + 1, rect: rect(i % 4, i >> 2), role: `c${i + 1}`, fill: solid(hex) })),
    ramps: [
      { id: 'rOne', name: 'One', cells: [2] },
      { id: 'rTwo', name: 'Two', cells: [1, 2, 3] },
    ],
  };
  const [bell] = kit.models;
  const model = {
    ...bell!,
    sheet: 's',
    regions: [{ id: 1, name: 'lip', cell: 2 }],
    slots: [
      { number: 0, name: 'c2', cell: 2 },
      { number: 1, name: 'c1', cell: 1 },
    ],
  };
  const variants: Kit['variants'] = [
    {
      ...{ id: 'vSalt', name: 'Salt-worn', fills: { 2: solid('#222222'), 3: solid('#333333') } },
      rules: [
        { kind: 'exchange', cells: { 1: 2, 2: 1, 4: 2 }, except: [2, 5] },
        { kind: 'shift', lightness: 0.05, strength: 1, hue: 0, only: ['rOne'] },
        { kind: 'drawn', reference: 'pGone', colors: { 2: '#000000', 6: '#00ff00' } },
      ],
    },
  ];
  seats.mBell!.cell.set([1, 3, 4, 5, 6, 7]);
  return { kit: { ...kit, sheets: [sheet], models: [model], variants, placements: [], cues: [], startsWith: 'vSalt', nextCell: 9 }, seats };
}

/** What each cell shows in the variant. */
const shownBy = (kit: Kit): Map<number, Fill> => {
  const said = fillsOfVariant(kit, kit.variants[0]!);
  return new Map(kit.sheets.flatMap((s) => s.cells.map((c) => [c.id, said[c.id] ?? c.fill] as const)));
};
const deck = (kit: Kit) => findSheet(kit, 's');

const acts: [name: string, act: (state: KitState) => Edit, region: number, slots: number[]][] = [
  ['merging', (state) => mergeColors(state, 3, [2]), 3, [3, 1]],
  ['merging into one that has a number', (state) => mergeColors(state, 1, [2]), 1, [1]],
  ['making spare', (state) => spareColors(state, deck(state.kit), new Set([2]), 0), 0, [1]],
  ['merging neighbours', (state) => mergeCells(state, 3, [2, 3]), 3, [3, 1]],
  ['leaving out unused', (state) => relaySheet(state.kit, deck(state.kit), unused(state)), 0, [1]],
  ['deleting a column', (state) => deleted(state), 8, [8, 1]],
  ['replacing the sheet by a picture', (state) => replaced(state), 0, [1]],
];
const unused = (state: KitState) => planRelay([deck(state.kit)], new Set([1, 3, 4, 5, 6, 7]), { exactTo: 0, spares: 0, dropUnused: true });
function deleted(state: KitState): Edit {
  const { edits, kit } = retireCells(state, goingTo([2, 6], 8));
  return { kind: 'group', label: 'Delete', edits: [...edits, deleteBand(kit, deck(kit), { axis: 'x', at: 1, texels: 1 })] };
}
function replaced(state: KitState): Edit {
  const blocks = hexes.flatMap((hex, i) => (i === 1 ? [] : [{ rect: rect(i, 0), fill: solid(hex) }]));
  const finding = { kind: 'pixels' as const, width: 8, height: 1, lines: { xs: [], ys: [] }, blocks };
  const going = new Map([1, 3, 4, 5, 6, 7, 8].map((id, i) => [id, i]));
  return adoptPicture(state, { finding, name: 'Deck', picture: 'p', art: new Map(), frozen: false, replaces: 's', going }).edit;
}

describe('a color that goes', () => {
  it.each(acts)('by %s leaves nothing that speaks of it, and shows nothing else', (_, act, region, slots) => {
    const state = start();
    const before = structuredClone({ kit: state.kit, cells: [...state.seats.mBell!.cell] });
    const looked = shownBy(state.kit);
    const edit = act(state);
    const after = applyEdit(state, edit);
    const { kit } = after;
    const isThere = findCell(kit, 2)?.cell.fill.kind;
    expect(isThere === undefined || isThere === 'spare').toBe(true);
    expect(strangerInKit(kit)).toBeNull();
    expect(JSON.stringify(kit.variants)).not.toMatch(/"2":|:2[,}]|\[2[,\]]/);
    expect([kit.models[0]!.regions[0]!.cell, kit.models[0]!.slots.map((s) => s.cell)]).toEqual([region, slots]);
    expect(kit.sheets[0]!.ramps.flatMap((r) => r.cells)).not.toContain(2);
    // Every other color shows in the variant what it showed.
    const shows = shownBy(kit);
    for (const { id, fill } of deck(kit).cells) if (looked.has(id) && fill.kind !== 'spare') expect(shows.get(id)).toEqual(looked.get(id));
    // Joining the region colors faces with what took its place, or not at all.
    const joined = joinRegion(after, 'mBell', 1, Uint32Array.of(5))!;
    const had = after.seats.mBell!.cell[5]!;
    expect(applyEdit(after, joined).seats.mBell!.cell[5]).toBe(region || had);
    const back = applyEdit(applyEdit(after, inverseOf(joined)), inverseOf(edit));
    expect({ kit: back.kit, cells: [...back.seats.mBell!.cell] }).toEqual(before);
  });

  it('is on a frozen sheet one that was added, and its picture shows there again', () => {
    const state = start();
    const picture = { width: 4, height: 2, data: Uint8Array.from({ length: 32 }, (_, i) => i * 7) };
    const pictures = new Map([['p', picture]]);
    const sheet = { ...deck(state.kit), frozen: { picture: 'p', appended: [2] } };
    const frozen = { ...state, kit: { ...state.kit, sheets: [sheet] } };
    expect(rasterSheet(sheet, pictures).data).not.toEqual(picture.data);
    const edit = spareColors(frozen, sheet, new Set([2]), 0);
    const { kit } = applyEdit(frozen, edit);
    expect([deck(kit).frozen, rasterSheet(deck(kit), pictures).data]).toEqual([{ picture: 'p', appended: [] }, picture.data]);
    expect(applyEdit({ ...frozen, kit }, inverseOf(edit)).kit.sheets).toEqual([sheet]);
    expect(() => spareColors(frozen, sheet, new Set([3]), 0)).toThrow('is frozen: its colors stay as they are');
  });

  it('is passed over where a region of an older kit still names it', () => {
    const state = start();
    state.kit.sheets[0]!.cells[1]!.fill = { kind: 'spare' };
    const edit = joinRegion(state, 'mBell', 1, Uint32Array.of(0))!;
    expect(applyEdit(state, edit).seats.mBell!.cell[0]).toBe(1);
    state.kit.models[0]!.regions[0]!.cell = 99;
    expect(joinRegion(state, 'mBell', 1, Uint32Array.of(1))).not.toBeNull();
    expect(stateOfVariant(state, 'vSalt').seats.mBell!.cell[1]).toBe(3);
  });
});
