import { byId } from '@/core/ground/byId';
import fc from 'fast-check';
import { expect, it } from 'vitest';
import { applyEdit, inverseOf } from '../../kit/edit/editKinds';
import type { Edit } from '../../kit/edit/edit';
import { emptySeats, findCell, type KitState, type Model } from '../../kit/kit';
import { seatColors } from '../seat/byMaterial';
import { adjacencyOf } from '../../shapes/mesh/adjacency';
import { meshFromLists } from '../../shapes/mesh/build';
import { newKit } from '../../sheet/starter';
import { box, boxFaces } from '@tests/meshes';
import { proposeRegions } from './propose';
import {
  colorRegion,
  facesOfRegion,
  joinRegion,
  leaveRegion,
  lockRegion,
  makeRegion,
  makeRegions,
  mergeRegion,
  removeRegion,
  reorderRegion,
  unlockedFaces,
} from './regions';

const n = 12;
const start = (): KitState => {
  const kit = newKit('Skerry');
  const model = { id: 'm', name: 'bell', faces: n, regions: [], slots: [], sheet: kit.sheets[0]!.id } as unknown as Model;
  return { kit: { ...kit, models: [model] }, seats: byId({ m: emptySeats(n) }) };
};
const some = fc.uniqueArray(fc.nat(n - 1), { minLength: 1 }).map((list) => Uint32Array.from(list));

it('stays a partition under anything that is done, with colors where they were promised, and is undone exactly', () => {
  const acts = fc.array(fc.tuple(fc.nat(6), some, fc.nat(9), fc.nat(9)), { minLength: 1, maxLength: 15 });
  fc.assert(
    fc.property(acts, (list) => {
      let state = start();
      for (const [what, faces, a, b] of list) {
        const { regions } = state.kit.models[0]!;
        const own = regions[a % Math.max(1, regions.length)]?.id ?? 0;
        const other = regions[b % Math.max(1, regions.length)]?.id ?? 0;
        const cell = 1 + b;
        const make = (): Edit | null => {
          if (!own || what === 0) return makeRegion(state, 'm', faces, `region ${a}`, cell).edit;
          if (own && what === 1) return joinRegion(state, 'm', own, faces);
          if (what === 2) return leaveRegion(state, 'm', own, faces);
          if (what === 3) return colorRegion(state, 'm', own, cell);
          if (what === 4) return own === other ? null : mergeRegion(state, 'm', own, other);
          if (what === 5) return removeRegion(state, 'm', own);
          return reorderRegion(state, 'm', own, b % 2 ? 1 : -1);
        };
        const edit = make();
        if (!edit) continue;
        const before = JSON.stringify(state);
        state = applyEdit(state, edit);
        const after = JSON.stringify(state);
        const undone = applyEdit(state, inverseOf(edit));
        expect(JSON.stringify(undone)).toBe(before);
        state = applyEdit(undone, edit);
        expect(JSON.stringify(state)).toBe(after);
        const ids = new Set(state.kit.models[0]!.regions.map((r) => r.id));
        expect(ids.size).toBe(state.kit.models[0]!.regions.length);
        expect([...state.seats.m!.region].every((r) => r === 0 || ids.has(r))).toBe(true);
        if (own && what === 1)
          for (const f of faces)
            expect([state.seats.m!.region[f], state.seats.m!.cell[f]]).toEqual([own, regions.find((r) => r.id === own)!.cell]);
        if (own && what === 3) for (const f of facesOfRegion(state.seats.m!, own)) expect(state.seats.m!.cell[f]).toBe(cell);
      }
    }),
    { seed: 12, numRuns: 60 },
  );
});

it('leaves the faces of locked regions as they are, whatever is done with those around them', () => {
  let state = start();
  const made = makeRegion(state, 'm', Uint32Array.of(2, 3), 'lantern', 4);
  state = applyEdit(state, made.edit);
  state = applyEdit(state, lockRegion(state, 'm', made.region, true));
  expect([...unlockedFaces(state.kit.models[0]!, state.seats.m!, Uint32Array.of(1, 2, 3, 4))]).toEqual([1, 4]);
  const some = Uint32Array.of(1, 2, 3, 4);
  const base = makeRegion(state, 'm', Uint32Array.of(0), 'base', 7);
  state = applyEdit(state, base.edit);
  const was = () => [2, 3].map((f) => [state.seats.m!.cell[f], state.seats.m!.region[f]]);
  for (const edit of [
    () => makeRegion(state, 'm', some, 'gallery', 5).edit,
    () => joinRegion(state, 'm', base.region, some),
    () => seatColors(state, 'm', [{ name: 'soot', color: '#010101', faces: some }]),
  ]) {
    state = applyEdit(state, edit()!);
    expect(was()).toEqual([
      [4, made.region],
      [4, made.region],
    ]);
  }
  expect(findCell(state.kit, state.seats.m!.cell[1]!)!.cell.fill).toMatchObject({ color: '#010101' });
  expect(() => makeRegion(state, 'm', Uint32Array.of(2), 'x', 0)).toThrow('locked');
  expect(() => mergeRegion(state, 'm', made.region, base.region)).toThrow('locked');
  expect(() => applyEdit(state, colorRegion(state, 'm', made.region, 5))).toThrow('locked region “lantern”');
  // What was done before the lock can be undone under it.
  expect([...applyEdit(state, inverseOf(made.edit), { ignoreLocks: true, isReplay: true }).seats.m!.cell.slice(2, 4)]).toEqual([0, 0]);
});

it('proposes regions by what the model has, each face in one, and makes them without touching those that are there', () => {
  const mesh = meshFromLists({
    positions: [...box().positions, ...box().positions.map((v, i) => (i % 3 === 1 ? v + 4 : v))],
    faces: [...boxFaces, ...boxFaces.map((f) => f.map((v) => v + 8))],
  });
  let state = start();
  state = applyEdit(state, makeRegion(state, 'm', Uint32Array.of(0), 'base', 3).edit);
  const proposals = proposeRegions(mesh, adjacencyOf(mesh), state.seats.m!, state.kit, 95, 30);
  expect(proposals.map((p) => [p.by, p.regions.length])).toEqual([
    ['parts', 2],
    ['creases', 2],
    ['flats', 12],
    ['colors', 1],
    ['height', 3],
  ]);
  const grouped = { ...mesh, faceGroup: Uint16Array.from({ length: 12 }, (_, f) => f % 3), groups: ['hull', 'deck', 'mast'] };
  const groups = proposeRegions(grouped, adjacencyOf(mesh), state.seats.m!, state.kit, 30).find((p) => p.by === 'groups')!;
  expect(groups.regions.map((r) => [r.name, r.faces.length])).toEqual([
    ['hull', 4],
    ['deck', 4],
    ['mast', 4],
  ]);
  for (const { regions } of proposals)
    expect(new Set(regions.flatMap((r) => [...r.faces])).size).toBe(regions.reduce((s, r) => s + r.faces.length, 0));
  state = applyEdit(state, makeRegions(state, 'm', proposals[0]!.regions));
  expect(state.kit.models[0]!.regions.map((r) => r.name)).toEqual(['base', 'part 1', 'part 2']);
  expect([...state.seats.m!.region]).toEqual([1, 2, 2, 2, 2, 2, 3, 3, 3, 3, 3, 3]);
});
