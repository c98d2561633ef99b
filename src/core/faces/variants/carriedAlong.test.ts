import { inherits } from '../../ground/limits';
import { byId } from '@/core/ground/byId';
import fc from 'fast-check';
import { expect, it } from 'vitest';
import { acts, apart, faces, gradient, inAll, start, starts, texelsInAll } from '@tests/coloredVariants';
import { grid } from '@tests/meshes';
import { carryAll, remeshedFrom } from '../carry/carryModel';
import { reread } from '../carry/carryColors';
import { completeHalf } from '../../shapes/check/completeHalf';
import { applyEdit, inverseOf } from '../../kit/edit/editKinds';
import { findCell, type Cell, type Fill, type KitState, type Seats, type Sheet } from '../../kit/kit';
import { patchesOfModel, withPatch } from '../../kit/patches';
import { cornerRun, type FaceOrigins } from '../../shapes/mesh/faceOrigins';
import { insertBand, moveCells, pinchSheet, sortCells } from '../../sheet/arrange';
import { mergeColors } from '../../sheet/mergeColors';
import { planRelay, relaySheet } from '../../sheet/relay';
import { intoVariant } from './intoVariant';
import { sheetInColorings, stateOfVariant } from '../../kit/colorings/shown';

/** A kit of which the default and both variants were colored at random. */
const colored = fc
  .array(fc.tuple(fc.constantFrom(null, 'salt', 'fresh'), fc.nat(6), fc.nat(999)), { minLength: 4, maxLength: 24 })
  .map((list): KitState => {
    let state = start();
    for (const [variant, kind, n] of list) {
      const edit = acts[kind]!(apart(stateOfVariant(state, variant)), n);
      if (edit) state = applyEdit(state, variant ? intoVariant(state, variant, edit, starts) : edit);
    }
    // Each corner stands at a place of its own, in the default and, on some faces, in a variant.
    const at = Float32Array.from({ length: faces * 8 }, (_, i) => ((i * 7) % 128) / 128);
    const cell = new Uint16Array(faces).fill(inherits);
    const salt = { ...(state.patches?.salt?.tower ?? { cell }), at: at.map((v, i) => (Math.floor(i / 8) % 3 ? NaN : 1 - v)) };
    return withPatch({ ...state, seats: byId({ ...state.seats, tower: { ...state.seats.tower!, at } }) }, 'salt', 'tower', salt);
  });
const colorings = [null, 'salt', 'fresh'];

it('in every variant no face changes its color when the sheet is laid out anew, moved about in or sorted', () => {
  const act = fc.tuple(fc.nat(4), fc.nat(99), fc.nat(99));
  fc.assert(
    fc.property(colored, act, (state, [what, a, b]) => {
      const sheet = state.kit.sheets[0]!;
      const used = new Set(colorings.flatMap((v) => Object.values(stateOfVariant(state, v).seats).flatMap((s) => [...s.cell])));
      const edit = [
        () => moveCells(state.kit, sheet, [sheet.cells[a % 12]!.id], 0, 4),
        () => insertBand(state.kit, sheet, { axis: a % 2 ? 'x' : 'y', at: 4 * (b % 5), texels: 4 }),
        () => sortCells(state.kit, sheet, (['hue', 'lightness', 'use'] as const)[a % 3]!, (id) => (id * 7) % 5),
        () => pinchSheet(state.kit, sheet, 2 * sheet.width, sheet.height),
        () => {
          const options = { exactTo: (a % 3) as 0 | 1 | 2, spares: b % 4, dropUnused: b % 2 === 0, padding: 0 };
          return relaySheet(state.kit, sheet, planRelay(sheetInColorings(state.kit, sheet), used, options));
        },
      ][what]!();
      const before = inAll(state);
      const texels = texelsInAll(state);
      const after = applyEdit(state, edit);
      expect(inAll(after)).toEqual(before);
      // Where gradients keep their texels, each corner shows the same one.
      if (what === 0 || what === 2 || what === 4) expect(texelsInAll(after)).toEqual(texels);
      expect(inAll(applyEdit(after, inverseOf(edit)))).toEqual(before);
    }),
    { numRuns: 150 },
  );
});

it('what is a gradient, corners or art in a variant alone keeps its texels when the sheet is laid out anew', () => {
  const corners: Fill = { kind: 'corners', colors: ['#101010', '#f0f0f0', '#204060', '#806040'], mix: 'oklab' };
  for (const [fill, size] of [
    [gradient('#ffffff'), [8, 1]],
    [{ ...gradient('#ffffff'), axis: 'y' }, [1, 8]],
    [corners, [4, 4]],
  ] as [Fill, [number, number]][]) {
    const state = start();
    const [sheet] = state.kit.sheets as [Sheet];
    const cells = [
      { ...sheet.cells[0]!, rect: { x: 0, y: 0, w: size[0], h: size[1] } },
      { ...sheet.cells[1]!, rect: { x: 8, y: 8, w: 4, h: 4 } },
    ];
    state.kit.sheets = [{ ...sheet, cells, ramps: [] }];
    state.kit.variants = [{ id: 'salt', name: 'Salt', fills: { 1: fill } }];
    const at = Float32Array.from({ length: faces * 8 }, (_, i) => ((i * 7) % 128) / 128);
    const colored = { ...state, seats: byId({ ...state.seats, tower: { ...state.seats.tower!, at } }) };
    const texels = texelsInAll(colored);
    expect(new Set(JSON.parse(texels[1]!).flat().map(String)).size).toBeGreaterThan(4);
    const used = new Set([1, 2]);
    const plan = planRelay(sheetInColorings(colored.kit, colored.kit.sheets[0]!), used, { exactTo: 0, spares: 0, dropUnused: true });
    expect([plan.width * plan.height]).toEqual([size[0] * size[1] === 16 ? 32 : 16]);
    expect(texelsInAll(applyEdit(colored, relaySheet(colored.kit, colored.kit.sheets[0]!, plan)))).toEqual(texels);
  }
});

it('when colors are merged, in every variant what sat on them shows the one that stays, and all else what it showed', () => {
  fc.assert(
    fc.property(colored, fc.integer({ min: 1, max: 6 }), fc.integer({ min: 1, max: 6 }), (state, keep, gone) => {
      fc.pre(keep !== gone);
      const seen = (s: KitState) =>
        colorings.map((v) => {
          const shown = stateOfVariant(s, v);
          const fillOf = (id: number) => findCell(shown.kit, id)?.cell.fill ?? null;
          return { of: (id: string, f: number) => shown.seats[id]!.cell[f]!, fillOf };
        });
      const was = seen(state).map(({ of, fillOf }) =>
        ['tower', 'buoy'].map((id) => Array.from({ length: faces }, (_, f) => fillOf(of(id, f) === gone ? keep : of(id, f)))),
      );
      const edit = mergeColors(state, keep, [gone]);
      const before = inAll(state);
      const after = applyEdit(state, edit);
      const is = seen(after).map(({ of, fillOf }) =>
        ['tower', 'buoy'].map((id) => Array.from({ length: faces }, (_, f) => fillOf(of(id, f)))),
      );
      expect(is).toEqual(was);
      expect(inAll(applyEdit(after, inverseOf(edit)))).toEqual(before);
    }),
    { numRuns: 150 },
  );
});

const mesh = grid(4);

/** Of a face with four corners: the same one, or counted the other way from the first. */
const cornerWas = ({ order }: FaceOrigins, face: number, k: number): number => (order![face] === cornerRun.turned ? [0, 3, 2, 1][k]! : k);

/** In every variant each face that was known is as it was, corner by corner; one that is new is bare. */
function expectCarried(before: KitState, after: KitState, origins: FaceOrigins): void {
  for (const v of colorings) {
    const [was, is] = [before, after].map((s) => stateOfVariant(s, v)) as [KitState, KitState];
    const [old, now] = [was.seats.tower!, is.seats.tower!];
    const at = (s: Seats, corner: number) => [s.at?.[corner * 2] ?? 0.5, s.at?.[corner * 2 + 1] ?? 0.5];
    const fill = (s: KitState, id: number): Cell['fill'] | null => findCell(s.kit, id)?.cell.fill ?? null;
    origins.from.forEach((f, g) => {
      expect(fill(is, now.cell[g]!)).toEqual(f < 0 ? null : fill(was, old.cell[f]!));
      expect(now.rule?.[g] ?? 0).toBe(f < 0 ? 0 : (old.rule?.[f] ?? 0));
      for (let k = 0; f >= 0 && k < 4; k++) expect(at(now, g * 4 + k)).toEqual(at(old, f * 4 + cornerWas(origins, g, k)));
    });
  }
}

it('a file that is read again keeps every variant on the faces that are known, whatever their order and corners', () => {
  const became = fc.array(fc.tuple(fc.integer({ min: -1, max: faces - 1 }), fc.constantFrom(cornerRun.same, cornerRun.turned)), {
    minLength: faces,
    maxLength: faces,
  });
  fc.assert(
    fc.property(colored, became, (state, list) => {
      const origins = { from: Int32Array.from(list, ([f]) => f), order: Int8Array.from(list, ([, run]) => run) };
      const before = apart(state);
      const patches = patchesOfModel(state, 'tower');
      const carried = carryAll({ seams: [], patches }, state.seats.tower!, mesh, mesh, origins);
      for (const patch of Object.values(carried.patches ?? {}))
        expect(origins.from.every((f, g) => f >= 0 || patch.cell[g] === inherits)).toBe(true);
      const { source } = state.kit.models[0]!;
      const edit = reread(state, 'tower', carried, { address: 'new', source });
      const after = applyEdit(state, edit);
      expectCarried(before, after, origins);
      expect(inAll(applyEdit(after, inverseOf(edit)))).toEqual(inAll(before));
    }),
    { numRuns: 100 },
  );
});

it('a half that is completed shows on its new half, in every variant, what the old one shows', () => {
  const { mesh: whole, origins } = completeHalf(mesh, { axis: 'x', offset: 0 });
  expect(whole.faceStart.length - 1).toBe(2 * faces);
  expect([...origins.from].sort((a, b) => a - b)).toEqual(Array.from({ length: 2 * faces }, (_, f) => f >> 1));
  // Each corner lies where its old one lay, or opposite.
  const place = ({ positions, cornerVertex }: typeof mesh, corner: number) => [
    ...positions.subarray(cornerVertex[corner]! * 3).subarray(0, 3),
  ];
  origins.from.forEach((f, g) => {
    for (let k = 0; k < 4; k++) {
      const [x, ...rest] = place(whole, g * 4 + k);
      expect([Math.abs(x!), ...rest]).toEqual(place(mesh, f * 4 + cornerWas(origins, g, k)));
    }
  });
  fc.assert(
    fc.property(colored, (state) => {
      const before = apart(state);
      const tower = state.kit.models[0]!;
      const carried = carryAll({ seams: [], patches: patchesOfModel(state, 'tower') }, state.seats.tower!, mesh, whole, origins);
      const edit = {
        kind: 'remesh',
        model: 'tower',
        before: remeshedFrom(state, tower),
        after: { mesh: 'whole', faces: 2 * faces, ...carried },
      } as const;
      const after = applyEdit(state, edit);
      expectCarried(before, after, origins);
      expect(inAll(applyEdit(after, inverseOf(edit)))).toEqual(inAll(before));
    }),
    { numRuns: 60 },
  );
});
