import fc from 'fast-check';
import { expect, it } from 'vitest';
import { box } from '@tests/meshes';
import { modelOf } from '@tests/parts';
import { byId } from '../ground/byId';
import { inherits } from '../ground/limits';
import { leavesOf } from '../kit/edit/edit';
import { applyEdit, inverseOf } from '../kit/edit/editKinds';
import { emptySeats, findCell, type KitState, type Variant } from '../kit/kit';
import { pixelsOfVariant, type Pixels } from '../kit/pixels';
import { adjacencyOf } from '../shapes/mesh/adjacency';
import { problemOfKit } from '../kit/problems';
import { newKit } from '../sheet/starter';
import { islandsOf } from './islandsOf';
import { partShared, shareAlike, sharingIslands } from './sharing';

const mesh = box();
const adjacency = adjacencyOf(mesh);
/** A box whose six sides, 2 × 2 texels each, lie at these places of an art of 8 × 4 texels. */
function stateOf(places: readonly (readonly [number, number])[], variant?: Variant, filter: 'nearest' | 'linear' = 'nearest'): KitState {
  const kit = newKit('Skerry');
  const [sheet] = kit.sheets;
  const rect = { x: sheet!.width, y: 0, w: 8, h: 4 };
  const art = { id: kit.nextCell, rect, role: 'seal', fill: { kind: 'art' as const, picture: 'a', painted: true as const } };
  const at = new Float32Array(48);
  const square = [[0, 0], [2, 0], [2, 2], [0, 2]]; // prettier-ignore
  places.forEach(([x, y], f) => square.forEach(([dx, dy], k) => at.set([(x + dx!) / 8, (y + dy!) / 4], f * 8 + k * 2)));
  const own = { ...sheet!, filter, width: sheet!.width + 8, cells: [...sheet!.cells, art] };
  const model = modelOf('seal', 6, sheet!.id);
  return {
    kit: { ...kit, sheets: [own], models: [model], nextCell: art.id + 1, variants: variant ? [{ ...variant, fills: { [art.id]: { ...art.fill, picture: 'v' } } }] : [] }, // prettier-ignore
    seats: byId({ seal: { ...emptySeats(6), cell: new Uint16Array(6).fill(art.id), at } }),
    pixels: byId({
      a: { width: 8, height: 4, cells: Uint16Array.from({ length: 32 }, (_, t) => 1 + (t % 7)) },
      ...((variant
        ? { v: { width: 8, height: 4, cells: Uint16Array.from({ length: 32 }, (_, t) => (t % 3 ? inherits : 9)) } }
        : {}) as Record<string, Pixels>),
    }),
  };
}
const on = (state: KitState) => ({ model: 'seal', mesh, adjacency, cell: state.kit.nextCell - 1 });
/** The four texels that each side shows, in the order of its own corners. */
const colorsUnder = (state: KitState): number[][] =>
  [0, 1, 2, 3, 4, 5].map((f) => {
    const { cell, at } = state.seats.seal!;
    const own = state.pixels![(findCell(state.kit, cell[f]!)!.cell.fill as { picture: string }).picture]!;
    const corner = (k: number) => [at![f * 8 + k * 2]! * own.width, at![f * 8 + k * 2 + 1]! * own.height] as const;
    const [a, c] = [corner(0), corner(2)];
    return [[1, 1], [3, 1], [3, 3], [1, 3]].map(([x, y]) => {
      const [tx, ty] = [Math.floor(a[0] + ((c[0] - a[0]) * x!) / 4), Math.floor(a[1] + ((c[1] - a[1]) * y!) / 4)];
      return own.cells[ty * own.width + tx]!;
    });
  }); // prettier-ignore
const looks = (state: KitState) => [state, ...state.kit.variants.map((v) => ({ ...state, kit: { ...state.kit, sheets: state.kit.sheets.map((s) => ({ ...s, cells: s.cells.map((c) => ({ ...c, fill: v.fills[c.id] ?? c.fill })) })) }, pixels: pixelsOfVariant(state, v) }))].map(colorsUnder); // prettier-ignore
const fresh: Variant = { id: 'v', name: 'fresh paint', fills: {} };

it('after they are parted no island shares a texel, every face looks as before in every variant, and nothing else moved', () => {
  const place = fc.constantFrom<[number, number]>([0, 0], [2, 0], [4, 0], [6, 0], [0, 2], [2, 2]);
  fc.assert(
    fc.property(fc.array(place, { minLength: 6, maxLength: 6 }), fc.boolean(), fc.constantFrom('nearest', 'linear'), (places, inVariant, filter) => {
      const state = stateOf(places, inVariant ? fresh : undefined, filter as 'nearest');
      const distinct = new Set(places.map(String)).size;
      const shared = sharingIslands(state, on(state), null);
      const parted = partShared(state, on(state), null, filter === 'linear' ? 2 : 0);
      // Sides that come to lie beside each other are one island.
      expect([parted?.islands ?? 0, shared.length > 0, shared.length <= 6 - distinct]).toEqual([shared.length, distinct < 6, true]);
      if (!parted) return;
      const before = JSON.stringify([state.kit, [...state.seats.seal!.cell], [...state.seats.seal!.at!], [...state.pixels!.a!.cells]]);
      const was = looks(state);
      const stays = [0, 1, 2, 3, 4, 5].filter((f) => !shared.some((i) => i.includes(f)));
      const seatsOf = (s: KitState) => stays.map((f) => [s.seats.seal!.cell[f], ...s.seats.seal!.at!.slice(f * 8, f * 8 + 8)]);
      const [seated, rects] = [seatsOf(state), new Map(state.kit.sheets[0]!.cells.map((c) => [c.id, JSON.stringify(c.rect)]))];
      const after = applyEdit(state, parted.edit);
      expect(looks(after)).toEqual(was);
      expect(seatsOf(after)).toEqual(seated);
      for (const c of after.kit.sheets[0]!.cells) if (c.fill.kind !== 'spare' && rects.has(c.id)) expect(JSON.stringify(c.rect)).toBe(rects.get(c.id));
      expect(problemOfKit(after.kit)).toBeNull();
      for (const art of Object.values(after.pixels!)) expect(art.cells.includes(0)).toBe(false);
      for (const cell of new Set(after.seats.seal!.cell)) expect(sharingIslands(after, { ...on(state), cell }, null)).toEqual([]);
      const back = applyEdit(after, inverseOf(parted.edit));
      expect(JSON.stringify([back.kit, [...back.seats.seal!.cell], [...back.seats.seal!.at!], [...back.pixels!.a!.cells]])).toBe(before);
    }),
    { seed: 5, numRuns: 60 },
  ); // prettier-ignore
});

it('parts only what is picked, in spare room of the art first, and none of it where others may lie there', () => {
  const places = [[0, 0], [0, 0], [2, 0], [2, 0], [4, 0], [6, 0]] as const; // prettier-ignore
  const state = stateOf(places);
  expect(partShared(state, on(state), Uint32Array.of(4), 0)).toBeNull();
  const parted = partShared(state, on(state), Uint32Array.of(0), 0)!;
  const after = applyEdit(stateOf(places), parted.edit);
  expect([parted.islands, [...after.seats.seal!.at!.slice(0, 2)], new Set(after.seats.seal!.cell).size, after.kit.sheets[0]!.width]).toEqual([1, [0, 0.5], 1, state.kit.sheets[0]!.width]); // prettier-ignore
  const two = { ...stateOf(places), kit: { ...state.kit, models: [...state.kit.models, modelOf('pup', 6, state.kit.sheets[0]!.id)] } };
  two.seats = byId({ ...two.seats, pup: { ...two.seats.seal!, cell: two.seats.seal!.cell.slice() } });
  const apart = applyEdit(two, partShared(two, on(two), Uint32Array.of(0), 0)!.edit);
  expect([apart.seats.seal!.cell[0]! > apart.seats.seal!.cell[1]!, [...apart.pixels!.a!.cells]]).toEqual([
    true,
    [...state.pixels!.a!.cells],
  ]);
});

it('halves that are folded onto each other are parted', () => {
  const state = stateOf([[0, 0], [2, 0], [4, 0], [6, 0], [0, 2], [2, 2]]); // prettier-ignore
  // The third side lies over the first, its back up, along the edge that both have.
  state.seats.seal!.at!.set(
    [0, 0, 0, 2, 2, 2, 2, 0].map((v, i) => v / (i % 2 ? 4 : 8)),
    16,
  );
  expect(islandsOf(adjacency, state.seats.seal!, state.kit.sheets[0]!).islands.map((i) => i.faces.length)).toEqual([2, 1, 1, 1, 1]);
  const parted = partShared(state, on(state), null, 0)!;
  const was = looks(state);
  const after = applyEdit(state, parted.edit);
  expect([parted.islands, looks(after)]).toEqual([1, was]);
  expect(sharingIslands(after, on(state), null)).toEqual([]);
});

it('islands of one shape come to share the texels of the first; others stay and are counted', () => {
  const state = stateOf([[0, 0], [2, 0], [4, 0], [6, 0], [0, 2], [2, 2]]); // prettier-ignore
  const found = shareAlike(state, on(state), Uint32Array.of(1, 3, 4))!;
  const after = applyEdit(state, found.edit);
  const corner = (f: number) => [Math.min(...[0, 2, 4, 6].map((k) => after.seats.seal!.at![f * 8 + k]!)) * 8, Math.min(...[1, 3, 5, 7].map((k) => after.seats.seal!.at![f * 8 + k]!)) * 4]; // prettier-ignore
  expect([found.islands, found.unlike, [0, 1, 2, 3, 4, 5].map(corner)]).toEqual([2, 0, [[0, 0], [2, 0], [4, 0], [2, 0], [2, 0], [2, 2]]]); // prettier-ignore
  expect(shareAlike(state, on(state), Uint32Array.of(0))).toBeNull();
  // Of two shapes each keeps to its own; a lone one stays.
  const at = state.seats.seal!.at!;
  for (const f of [0, 1]) at[f * 8 + 2] = at[f * 8 + 4] = at[f * 8]! + 1 / 8;
  at[2 * 8 + 3] = at[2 * 8 + 1]! + 1 / 8;
  const both = shareAlike(state, on(state), Uint32Array.of(0, 1, 2, 3, 4))!;
  expect([both.islands, both.unlike]).toEqual([2, 1]);
});

it('takes no texel that a face covers in part, no room where a variant lays faces, and spare cells before the sheet grows', () => {
  const places = [[0, 0], [0, 0], [2, 0], [2, 0], [2, 0], [2, 0]] as const; // prettier-ignore
  const shifted = () => {
    const state = stateOf(places);
    // Four sides as one stack, over half of the texels at both of their ends.
    for (let f = 2; f < 6; f++) for (let k = 0; k < 4; k++) state.seats.seal!.at![f * 8 + k * 2]! += 0.4 / 8;
    return state;
  };
  const at = (s: KitState, f: number) => [s.seats.seal!.at![f * 8]!, s.seats.seal!.at![f * 8 + 1]!];
  const only = Uint32Array.of(0);
  const state = shifted();
  const after = applyEdit(state, partShared(state, on(state), only, 0)!.edit);
  expect(at(after, 0)).toEqual([5 / 8, 0]);
  // A gap is kept from all that is there.
  const apart = shifted();
  expect(at(applyEdit(apart, partShared(apart, on(apart), only, 1)!.edit), 0)).toEqual([6 / 8, 0]);
  // Below, where the rows beside are taken to their last part.
  const low = shifted();
  for (let f = 2; f < 6; f++)
    for (let k = 0; k < 4; k++) low.seats.seal!.at!.set([k === 1 || k === 2 ? 1 : 2 / 8, k > 1 ? 2.4 / 4 : 0], f * 8 + k * 2);
  const lower = partShared(low, on(low), only, 0)!;
  expect(at(applyEdit(low, lower.edit), 0)).toEqual([0, 2 / 4]);

  const { cell } = on(state);
  const patch = (own: object) => ({
    ...shifted(),
    patches: byId({ v: byId({ seal: { cell: new Uint16Array(6).fill(inherits), ...own } }) }),
  });
  for (const own of [{ cell: Uint16Array.of(inherits, cell, inherits, 0, 0, 0) }, { at: new Float32Array(48).fill(NaN) }]) {
    const patched = patch(own) as KitState;
    const edits = leavesOf(partShared({ ...patched, kit: { ...patched.kit, variants: [fresh] } }, on(patched), only, 0)!.edit);
    expect(edits.some((e) => e.kind === 'canvas')).toBe(true);
  }

  // With a spare cell of its size the sheet stays as large as it is; its role says whose it is.
  const full = stateOf(places.map(() => [0, 0] as const));
  const [sheet] = full.kit.sheets;
  const roomy = { ...full, kit: { ...full.kit, sheets: [{ ...sheet!, height: sheet!.height + 8, cells: [...sheet!.cells, { id: 900, rect: { x: 0, y: sheet!.height, w: sheet!.width, h: 8 }, role: '', fill: { kind: 'spare' as const } }] }], nextCell: 901 } }; // prettier-ignore
  const own = { ...on(full), cell: full.kit.nextCell - 1 };
  roomy.seats = byId({ seal: { ...roomy.seats.seal!, cell: roomy.seats.seal!.cell.slice() } });
  const taken = patchedAway(roomy);
  const grown = applyEdit(taken, partShared(taken, own, null, 0)!.edit);
  const made = grown.kit.sheets[0]!.cells.find((c) => c.role === 'seal, apart')!;
  expect([grown.kit.sheets[0]!.height, grown.kit.sheets[0]!.width, made.rect.x, made.rect.y]).toEqual([
    sheet!.height + 8,
    sheet!.width,
    16,
    4,
  ]);
  expect([made.rect.w, made.rect.h, new Set(grown.seats.seal!.cell)]).toEqual([2, 10, new Set([own.cell, made.id])]);
});

/** The same with another model on the art, so that nothing of it is known to be spare. */
function patchedAway(state: KitState): KitState {
  const models = [...state.kit.models, modelOf('pup', 6, state.kit.sheets[0]!.id)];
  return { ...state, kit: { ...state.kit, models }, seats: byId({ ...state.seats, pup: { ...state.seats.seal!, cell: state.seats.seal!.cell.slice() } }) }; // prettier-ignore
}

it('tells nothing of what is no painted art, or has no coordinates', () => {
  const state = stateOf([[0, 0], [0, 0], [2, 0], [4, 0], [6, 0], [0, 2]]); // prettier-ignore
  const bare = { ...state, seats: byId({ seal: { ...state.seats.seal!, at: undefined } }) } as never as KitState;
  for (const [of, cell] of [
    [bare, on(state).cell],
    [state, 1],
    [state, 999],
  ] as const) {
    const where = { ...on(state), cell };
    expect([sharingIslands(of, where, null), partShared(of, where, null, 0), shareAlike(of, where, Uint32Array.of(0, 1, 2))]).toEqual([[], null, null]); // prettier-ignore
  }
});

it('leaves what reaches beyond the art, and says so where nothing else shares texels', () => {
  const state = stateOf([[0, 0], [0, 0], [7, 0], [7, 0], [2, 0], [2, 0]]); // prettier-ignore
  const after = applyEdit(state, partShared(state, on(state), null, 0)!.edit);
  const corners = (s: KitState, f: number) => [...s.seats.seal!.at!.slice(f * 8, f * 8 + 8)];
  for (const f of [2, 3]) expect([f, corners(after, f), after.seats.seal!.cell[f]]).toEqual([f, corners(state, f), on(state).cell]);
  expect(sharingIslands(after, on(state), Uint32Array.of(0, 1, 4, 5))).toEqual([]);
  const high = stateOf([[0, -1], [0, -1], [2, 3], [2, 3], [-1, 0], [-1, 0]]); // prettier-ignore
  expect(() => partShared(high, on(high), null, 0)).toThrow('reach beyond their art');
});
