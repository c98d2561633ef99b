import { modelOf } from '@tests/parts';
import { mostIn } from '../ground/limits';
import { byId } from '@/core/ground/byId';
import fc from 'fast-check';
import { expect, it } from 'vitest';
import { kitAround } from '@tests/kitAround';
import { grid } from '@tests/meshes';
import { costOfGltf } from '../files/budget/costOfGltf';
import { textureMemory } from '../files/budget/textureMemory';
import { openGltf } from '../files/gltf/openGltf';
import { writeGlb } from '../files/gltf/writeGlb';
import { triangleCount } from '../shapes/mesh/polyMesh';
import { ballOf, placementsInView, stageCounter } from './stageCosts';
import { applyEdit, inverseOf } from '../kit/edit/editKinds';
import { emptySeats, type Kit, type KitState, type Model, type Placement } from '../kit/kit';
import { problemOfPlacementName } from '../kit/placementNames';
import { removeVariant } from '../faces/variants/variantEdits';
import { removeModel } from '../faces/variants/removeModel';
import { newKit } from '../sheet/starter';
import { changePlacements, placeModels, removePlacements, scattered, snapped, wholeTurn, type Standing } from '../kit/edit/placements';

function islet(): KitState {
  const kit = newKit('Skerry');
  const model = (id: string, name: string): Model => modelOf(id, 6, kit.sheets[0]!.id, { name });
  const variants = [
    { id: 'salt', name: 'Salt-worn', fills: {} },
    { id: 'bells', name: 'Bell in duty', model: 'bell', fills: {} },
  ];
  return {
    kit: { ...kit, models: [model('bell', 'Fog bell'), model('pot', 'Crab pot')], variants },
    seats: byId({ bell: emptySeats(6), pot: emptySeats(6) }),
  };
}
const at = (x: number, z: number): Standing => ({ model: 'pot', at: [x, 0, z], turn: 0, scale: 1 });
const names = ({ kit }: KitState) => kit.placements?.map((p) => p.name);

it('gives each placement a name of its own, after its model, and takes it back exactly', () => {
  const state = islet();
  const one = applyEdit(state, placeModels(state.kit, [at(0, 0), at(1, 0), { ...at(2, 0), model: 'bell', variant: 'bells' }]).edit);
  expect(names(one)).toEqual(['Crab pot', 'Crab pot 2', 'Fog bell']);
  const { edit, ids } = placeModels(one.kit, [at(5, 5)]);
  const two = applyEdit(one, edit);
  expect([names(two)!.at(-1), two.kit.placements!.at(-1)!.id]).toEqual(['Crab pot 3', ids[0]]);
  const gone = removePlacements(two.kit, [two.kit.placements![0]!.id, two.kit.placements![2]!.id])!;
  const left = applyEdit(two, gone);
  expect(names(left)).toEqual(['Crab pot 2', 'Crab pot 3']);
  // A free number is taken again.
  expect(names(applyEdit(left, placeModels(left.kit, [at(0, 0)]).edit))).toEqual(['Crab pot 2', 'Crab pot 3', 'Crab pot']);
  expect(JSON.stringify(applyEdit(left, inverseOf(gone)))).toBe(JSON.stringify(two));
  const all = removePlacements(
    one.kit,
    one.kit.placements!.map((p) => p.id),
  )!;
  expect('placements' in applyEdit(one, all).kit).toBe(false);
  expect(removePlacements(one.kit, ['nobody'])).toBeNull();
  expect(problemOfPlacementName(one.kit, 'CRAB pot ')).toBe('“CRAB pot” stands there already.');
  expect(problemOfPlacementName(one.kit, 'Crab pot', one.kit.placements![0]!.id)).toBeNull();
});

it('refuses what cannot stand', () => {
  const state = applyEdit(islet(), placeModels(islet().kit, [at(0, 0)]).edit);
  const [pot] = state.kit.placements as [Placement];
  const put =
    (change: Partial<Placement>, before: Placement | null = pot) =>
    () =>
      applyEdit(state, { kind: 'put', list: 'placements', of: 'kit', index: 0, before, after: { ...pot, ...change } });
  expect(put({ model: 'gone' })).toThrow('a model that is not there');
  expect(put({ variant: 'gone' })).toThrow('a variant that is not there');
  expect(put({ variant: 'bells' })).toThrow('a variant of another model');
  expect(put({ at: [0, NaN, 0] })).toThrow('stands nowhere');
  expect(put({ at: [0, 0, 10_001] })).toThrow('stands nowhere');
  expect(put({ turn: 360 })).toThrow('stands nowhere');
  expect(put({ scale: 0.001 })).toThrow('stands nowhere');
  expect(put({ id: 'o2' }, null)).toThrow('another placement is called');
  expect(put({ id: pot.id, name: 'x' }, null)).toThrow('is taken');
  expect(() =>
    placeModels(
      state.kit,
      Array.from({ length: mostIn.placements }, () => at(0, 0)),
    ),
  ).toThrow('10,000 placements; there would be 10,001');
});

it('snaps to the grid and turns whole, whatever it is given', () => {
  const number = fc.double({ min: -9_000, max: 9_000, noNaN: true });
  fc.assert(
    fc.property(number, number, number, fc.constantFrom(0.25, 0.5, 1, 2), (x, y, z, step) => {
      const [sx, sy, sz] = snapped([x, y, z], step);
      for (const [v, s] of [
        [x, sx],
        [z, sz],
      ] as const) {
        expect(Math.abs(v - s)).toBeLessThanOrEqual(step / 2 + 1e-3);
        expect(Math.abs(s / step - Math.round(s / step))).toBeLessThan(1e-6);
      }
      expect(Math.abs(sy - y)).toBeLessThanOrEqual(5.01e-4);
    }),
  );
  expect([wholeTurn(-90), wholeTurn(359.999), wholeTurn(725)]).toEqual([270, 0, 5]);
  const state = islet();
  const placed = applyEdit(state, placeModels(state.kit, [at(0.3, 0)]).edit);
  const moved = changePlacements(placed.kit, [placed.kit.placements![0]!.id], 'Move', (p) => ({
    at: [p.at[0] + 1, 0, 2],
    turn: -15,
    scale: 1000,
  }))!;
  expect(applyEdit(placed, moved).kit.placements![0]).toMatchObject({ at: [1.3, 0, 2], turn: 345, scale: 100, name: 'Crab pot' });
  expect(changePlacements(placed.kit, [placed.kit.placements![0]!.id], 'Move', () => ({}))).toBeNull();
});

it('scatters evenly over its area, the same each time for a seed', () => {
  const scatter = {
    model: 'pot',
    variants: [undefined, 'salt'],
    count: 4000,
    at: [10, 1, -5] as [number, number, number],
    reach: 20,
    seed: 7,
  };
  const list = scattered(scatter);
  expect(list).toEqual(scattered(scatter));
  expect(list).not.toEqual(scattered({ ...scatter, seed: 8 }));
  const far = list.map((p) => Math.hypot(p.at[0] - 10, p.at[2] + 5));
  expect(Math.max(...far)).toBeLessThanOrEqual(20);
  // Half of the area lies within 0.707 of the reach; an uneven one would have 71 % there.
  expect(far.filter((d) => d < 20 * Math.SQRT1_2).length / 4000).toBeCloseTo(0.5, 1);
  expect(list.filter((p) => p.variant === 'salt').length / 4000).toBeCloseTo(0.5, 1);
  expect(list.every((p) => p.at[1] === 1 && p.turn >= 0 && p.turn < 360)).toBe(true);
});

it('follows models and variants that go', () => {
  const state = islet();
  const kit = applyEdit(
    state,
    placeModels(state.kit, [
      { ...at(0, 0), variant: 'salt' },
      { ...at(1, 1), model: 'bell' },
    ]).edit,
  );
  const without = applyEdit(kit, removeVariant(kit, kit.kit.variants[0]!));
  expect(without.kit.placements!.map((p: Kit['placements'] extends (infer P)[] | undefined ? P : never) => p.variant)).toEqual([
    undefined,
    undefined,
  ]);
  const left = applyEdit(kit, removeModel(kit, 'pot'));
  expect([names(left), left.kit.models.map((m) => m.id), Object.keys(left.seats)]).toEqual([['Fog bell'], ['bell'], ['bell']]);
});

it('counts what an engine draws: the figures of the files in which the models leave, each coloring once', async () => {
  const mesh = grid(3, (x, z) => Math.sin(x + z));
  const { kit: bare, item } = kitAround(mesh, null, (f) => [1, 2, 0][f % 3]!);
  const kit: Kit = { ...bare, variants: [{ id: 'salt', name: 'Salt-worn', fills: { 1: { kind: 'solid', color: '#99aabb' } } }] };
  const state = { kit, seats: byId({ m: item.seats }) };
  const count = stageCounter(state, (id) => (id === 'm' ? mesh : undefined), new Map());
  const left = costOfGltf((await openGltf('a.glb', await writeGlb(kit, [item], { variants: 'none' }))).document);
  const of = (...variants: (string | undefined)[]) => count(variants.map((variant) => ({ model: 'm', ...(variant && { variant }) })));
  const one = of(undefined);
  expect([one.drawCalls, one.instanced, one.materials, one.vertices]).toEqual([
    left.drawCalls,
    left.drawCalls,
    left.materials,
    left.gpuVertices,
  ]);
  expect([one.placements, one.triangles, one.textureBytes]).toEqual([1, triangleCount(mesh), textureMemory(16, 16).withMips]);
  // Copies cost draw calls and triangles; another coloring one more picture and material, and no vertex.
  const many = of(undefined, undefined, 'salt', 'salt', 'salt');
  expect(many).toEqual({
    placements: 5,
    drawCalls: left.drawCalls * 5,
    instanced: left.drawCalls * 2,
    triangles: one.triangles * 5,
    vertices: one.vertices,
    materials: left.materials + 1,
    textureBytes: one.textureBytes * 2,
  });
  expect(count([{ model: 'gone' }])).toMatchObject({ placements: 0, drawCalls: 0 });
});

it('tells what a camera may see: what lies within its view, and what reaches into it', () => {
  // 60° each way from [0, 0, 10], ahead along -Z, from 0.1 to 100 m.
  const [f, near, far] = [1 / Math.tan(Math.PI / 6), 0.1, 100];
  const [a, b] = [(far + near) / (near - far), (2 * far * near) / (near - far)];
  const matrix = [f, 0, 0, 0, 0, f, 0, 0, 0, 0, a, -1, 0, 0, b - 10 * a, 10];
  const bounds = { min: [-1, -1, -1], max: [1, 1, 1] } as { min: [number, number, number]; max: [number, number, number] };
  const placed = (x: number, y: number, z: number, scale = 1): Placement => ({
    id: `${x} ${y} ${z} ${scale}`,
    name: '',
    model: 'm',
    at: [x, y, z],
    turn: 0,
    scale,
  });
  const seen = (...list: Placement[]) => placementsInView(list, matrix, (id) => (id === 'm' ? bounds : undefined)).length;
  // Half of the view is 5.77 m wide at ten metres; a ball around the box reaches 1.73 m.
  expect([seen(placed(0, 0, 0)), seen(placed(7, 0, 0)), seen(placed(8.2, 0, 0)), seen(placed(0, -8.2, 0)), seen(placed(0, 7, 0))]).toEqual([
    1, 1, 0, 0, 1,
  ]);
  expect([seen(placed(0, 0, 13)), seen(placed(0, 0, 11)), seen(placed(0, 0, -95)), seen(placed(8.2, 0, 0, 2))]).toEqual([0, 1, 0, 1]);
  expect(seen({ ...placed(0, 0, 0), model: 'gone' })).toBe(0);
  // The ball turns with its model.
  const aside = { min: [3, 0, 0], max: [5, 0, 0] } as typeof bounds;
  const { center, radius } = ballOf({ at: [1, 2, 3], turn: 90, scale: 2 }, aside);
  expect([...center.map((v) => Math.round(v * 1e6) / 1e6), radius]).toEqual([1, 2, -5, 2]);
});
