import { byId } from '@/core/ground/byId';
import { expect, it } from 'vitest';
import { rgbFromHex } from '../../ground/color/hex';
import { linearFromByte } from '../../ground/color/oklab';
import { applyEdit, inverseOf } from '../../kit/edit/editKinds';
import { openGltf } from '../../files/gltf/openGltf';
import { writeGlb } from '../../files/gltf/writeGlb';
import { writeObj } from '../../files/formats/writeObj';
import { emptySeats, type KitState, type LeavingSlot, type Model } from '../../kit/kit';
import { newKit } from '../../sheet/starter';
import { box } from '@tests/meshes';
import { beginSlotsAt, keepSlots, leavingSlots, mergeSlots, recolorSlot, renumberSlot, slotsAfter } from './slots';

const start = (cells: number[]): KitState => ({
  kit: {
    ...newKit('Skerry'),
    models: [{ id: 'm', name: 'crate', faces: 6, slots: [], regions: [], source: { format: 'made', files: [] } } as unknown as Model],
  },
  seats: byId({ m: { ...emptySeats(6), cell: Uint16Array.from(cells) } }),
});
const slotsOf = ({ kit, seats }: KitState) => leavingSlots(kit, kit.models[0]!, seats.m!).map((s) => `${s.number} ${s.name}`);

it('numbers slots once and for all: cells that go and come keep theirs, new ones get numbers that were never given', () => {
  let state = start([5, 5, 2, 2, 1, 1]);
  expect(slotsOf(state)).toEqual(['0 rust, in shade', '1 rust', '2 straw']);
  const edit = keepSlots(state, 'm', leavingSlots(state.kit, state.kit.models[0]!, state.seats.m!))!;
  const kept = applyEdit(state, edit);
  expect(JSON.stringify(applyEdit(kept, inverseOf(edit)))).toBe(JSON.stringify(state));
  expect(keepSlots(kept, 'm', leavingSlots(kept.kit, kept.kit.models[0]!, kept.seats.m!))).toBeNull();
  state = { ...kept, seats: byId({ m: { ...kept.seats.m!, cell: Uint16Array.from([8, 8, 2, 2, 2, 2]) } }) };
  expect(slotsOf(state)).toEqual(['1 rust', '3 moss']);
  const again = applyEdit(state, keepSlots(state, 'm', leavingSlots(state.kit, state.kit.models[0]!, state.seats.m!))!);
  const back = { ...again, seats: byId({ m: { ...again.seats.m!, cell: Uint16Array.from([8, 5, 2, 1, 1, 1]) } }) };
  expect(slotsOf(back)).toEqual(['0 rust, in shade', '1 rust', '2 straw', '3 moss']);
});

it('leaves as flat materials in that order, merged where asked, without a texture', async () => {
  const state = start([5, 5, 2, 2, 1, 1]);
  let slots = leavingSlots(state.kit, state.kit.models[0]!, state.seats.m!);
  slots = renumberSlot(slots, 5, 0);
  expect(slots.map((s) => [s.cell, s.number])).toEqual([
    [1, 2],
    [2, 1],
    [5, 0],
  ]);
  slots = mergeSlots(slots, 1, 2);
  const kept = applyEdit(state, keepSlots(state, 'm', slots)!);
  const item = { model: kept.kit.models[0]!, mesh: box(), seats: kept.seats.m!, files: [] };
  const { document } = await openGltf('a.glb', await writeGlb(kept.kit, [item], { as: 'slots' }));
  const primitives = document.getRoot().listMeshes()[0]!.listPrimitives();
  expect(primitives.map((p) => [p.getMaterial()!.getName(), p.getIndices()!.getCount() / 3])).toEqual([
    ['straw', 4],
    ['rust', 8],
  ]);
  expect(document.getRoot().listTextures()).toEqual([]);
  const straw = kept.kit.sheets[0]!.cells.find((c) => c.id === 5)!.fill as { color: string };
  rgbFromHex(straw.color).forEach((v, k) =>
    expect(primitives[0]!.getMaterial()!.getBaseColorFactor()[k]).toBeCloseTo(linearFromByte(v), 4),
  );
  const files = writeObj(kept.kit, [item], 'crate', { as: 'slots' });
  expect(files.map((f) => f.name)).toEqual(['crate.obj', 'crate.mtl']);
  expect(new TextDecoder().decode(files[0]!.bytes).match(/usemtl \S+/g)).toEqual(['usemtl straw', 'usemtl rust']);
});

it('numbers slots in the order of coloring; a color that gives way as a whole to another leaves it its number', () => {
  const { kit } = start([0, 0, 0, 0, 0, 0]);
  const model = { slots: [] as LeavingSlot[] };
  const say = (slots: LeavingSlot[] | null) => slots?.map((s) => `${s.number} ${s.cell} ${s.name}`) ?? null;
  const go = (before: number[], after: number[]) => {
    const next = slotsAfter(kit, model, new Set(before), new Set(after));
    if (next) model.slots = next;
    return say(next);
  };
  expect(go([0], [0, 8])).toEqual(['0 8 moss']);
  expect(go([0, 8], [0, 8, 1])).toEqual(['0 8 moss', '1 1 rust, in shade']);
  expect(go([0, 8, 1], [8, 1, 5])).toEqual(['0 8 moss', '1 1 rust, in shade', '2 5 straw']);
  // All of slot 0 goes to another color: nothing else moves.
  expect(go([8, 1, 5], [1, 2, 5])).toEqual(['0 2 rust', '1 1 rust, in shade', '2 5 straw']);
  model.slots[0] = { ...model.slots[0]!, name: 'hull', named: true };
  expect(go([1, 2, 5], [1, 3, 5])![0]).toBe('0 3 hull');
  // Back to a color that has a slot, and gone: no number is given twice.
  expect(go([1, 3, 5], [1, 5])).toBeNull();
  expect(go([1, 5], [1, 3, 5])).toBeNull();
  expect(go([1, 3, 5], [1, 3, 5, 6])!.at(-1)).toBe('3 6 straw, lit');
  expect(say(slotsAfter({ ...kit, slotsFrom: 1 }, { slots: [] }, new Set([0]), new Set([8])))).toEqual(['1 8 moss']);
});

it('gives a slot another color without moving any other, in the list and in the file', async () => {
  let state = start([5, 5, 2, 2, 1, 1]);
  state = applyEdit(state, keepSlots(state, 'm', leavingSlots(state.kit, state.kit.models[0]!, state.seats.m!))!);
  const edit = recolorSlot(state, 'm', 2, 8)!;
  const before = JSON.stringify(state);
  state = applyEdit(state, edit);
  expect(slotsOf(state)).toEqual(['0 rust, in shade', '1 moss', '2 straw']);
  expect(() => recolorSlot(state, 'm', 8, 5)).toThrow('“straw” is slot 2');
  const undone = applyEdit(state, inverseOf(edit));
  expect(JSON.stringify(undone)).toBe(before);
  state = applyEdit(undone, edit);
  state = applyEdit(state, beginSlotsAt(state, 1)!);
  const item = { model: state.kit.models[0]!, mesh: box(), seats: state.seats.m!, files: [] };
  const { document } = await openGltf('a.glb', await writeGlb(state.kit, [item], { as: 'slots', numbered: true }));
  const materials = document.getRoot().listMaterials();
  expect(materials.map((m) => [m.getName(), m.getExtras().slot])).toEqual([
    ['1-rust, in shade', 1],
    ['2-moss', 2],
    ['3-straw', 3],
  ]);
  expect(
    new TextDecoder().decode(writeObj(state.kit, [item], 'c', { as: 'slots', numbered: true })[0]!.bytes).match(/usemtl \S+/g),
  ).toEqual(['usemtl 1-rust,_in_shade', 'usemtl 2-moss', 'usemtl 3-straw']);
});
