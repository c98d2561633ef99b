import { byId } from '@/core/ground/byId';
import fc from 'fast-check';
import { expect, it } from 'vitest';
import { hexFromRgb } from '../../ground/color/hex';
import { applyEdit, inverseOf } from '../../kit/edit/editKinds';
import { repairMesh } from '../../shapes/check/repair';
import { emptySeats, type Cell, type Fill, type KitState, type Model, type Region, type Seats } from '../../kit/kit';
import { takeFaces } from '../../shapes/mesh/build';
import { faceCount } from '../../shapes/mesh/polyMesh';
import { gradientError, texelsFor } from '../../sheet/gradientError';
import { gradientAt } from '../../sheet/raster';
import { newKit } from '../../sheet/starter';
import { box, grid } from '@tests/meshes';
import { carrySeats } from '../carry/carrySeats';
import { colorsOfFaces } from './colorsOfFaces';
import { placeFaces } from './placeFaces';
import { sharedTexels } from './sharedTexels';

const sunset: Extract<Fill, { kind: 'gradient' }> = {
  kind: 'gradient',
  axis: 'y',
  mix: 'oklab',
  stops: [
    { at: 0, color: '#2b3a67' },
    { at: 0.6, color: '#c9705a' },
    { at: 1, color: '#f4d58d' },
  ],
};

const mesh = grid(4);
const faces = faceCount(mesh);

function kitWith(fill: Fill, rect: Cell['rect']): KitState {
  const kit = newKit('Skerry');
  const sheet = { ...kit.sheets[0]!, width: 16, height: 32, cells: [{ id: 1, role: 'sky', rect, fill }], ramps: [] };
  const model = { id: 'm', name: 'rock', faces, regions: [] as Region[] } as Model;
  return {
    kit: { ...kit, sheets: [sheet], models: [model] },
    seats: byId({ m: { ...emptySeats(faces), cell: new Uint16Array(faces).fill(1) } }),
  };
}

it('places faces at points of a gradient, where they show its texel, and takes every placing back exactly', () => {
  const acts = fc.array(fc.tuple(fc.uniqueArray(fc.nat(faces - 1), { minLength: 1 }), fc.double({ min: 0, max: 1, noNaN: true })), {
    minLength: 1,
    maxLength: 6,
  });
  fc.assert(
    fc.property(acts, fc.integer({ min: 2, max: 20 }), (list, texels) => {
      let state = kitWith(sunset, { x: 2, y: 3, w: 3, h: texels });
      const wanted = new Float64Array(faces).fill(0.5);
      for (const [which, t] of list) {
        const before: Seats = { ...state.seats.m!, ...(state.seats.m!.at && { at: state.seats.m!.at.slice() }) };
        const edit = placeFaces('m', state.seats.m!, mesh.faceStart, Uint32Array.from(which), [0.25, t]);
        which.forEach((f) => (wanted[f] = Math.fround(t)));
        if (!edit) continue;
        const after = applyEdit(state, edit);
        expect(applyEdit(after, inverseOf(edit)).seats.m).toEqual(before);
        state = applyEdit(state, edit);
      }
      const colors = colorsOfFaces(state.kit, mesh, state.seats.m!, new Map());
      for (let f = 0; f < faces; f++) {
        const exact = wanted[f]! * (texels - 1);
        // Between two texels either may show.
        const near = [Math.floor(exact + 0.5 - 0.01), Math.floor(exact + 0.5 + 0.01)].map((i) =>
          hexFromRgb(gradientAt(sunset, Math.max(0, Math.min(texels - 1, i)) / (texels - 1))),
        );
        expect(near).toContain(hexFromRgb([colors[f * 4]!, colors[f * 4 + 1]!, colors[f * 4 + 2]!]));
      }
    }),
    { seed: 5, numRuns: 40 },
  );
});

it('states how far a gradient of few texels is off, and how many texels keep it within an error', () => {
  const errors = [2, 4, 8, 16, 64].map((n) => gradientError(sunset, n));
  expect(errors).toEqual([...errors].sort((a, b) => b - a));
  const texels = texelsFor(sunset, 0.02);
  expect(gradientError(sunset, texels)).toBeLessThanOrEqual(0.02);
  expect(gradientError(sunset, texels - 1)).toBeGreaterThan(0.02);
  expect(texelsFor({ ...sunset, bands: 5 }, 0)).toBe(5);
});

it('carries seats to a repaired mesh, also where faces were turned', () => {
  const before = takeFaces(box(), Uint32Array.from([0, 1, 2, 3, 4, 5]), Uint8Array.from([0, 0, 1, 0, 0, 0]));
  const { mesh, origins } = repairMesh(before, 'turn-outward');
  const seats: Seats = {
    ...emptySeats(6),
    cell: Uint16Array.from([1, 2, 3, 4, 5, 6]),
    at: Float32Array.from({ length: 48 }, (_, i) => i / 48),
  };
  const repaired = carrySeats(seats, before, mesh, origins);
  const cornersOf = (at: Float32Array, f: number) => [0, 1, 2, 3].map((k) => at[(f * 4 + k) * 2]!);
  const [a, b, c, d] = cornersOf(seats.at!, 2) as [number, number, number, number];
  expect(cornersOf(repaired.at!, 2)).toEqual([a, d, c, b]);
  expect([0, 1, 3, 4, 5].map((f) => cornersOf(repaired.at!, f))).toEqual([0, 1, 3, 4, 5].map((f) => cornersOf(seats.at!, f)));
  expect(repaired.cell).toEqual(seats.cell);
  // Where nothing is told of the corners, they are known by their places.
  expect(carrySeats(seats, before, mesh, { from: origins.from })).toEqual(repaired);
  const reversed = {
    ...before,
    cornerVertex: Uint32Array.from(before.cornerVertex).map((_, c, all) => all[Math.floor(c / 4) * 4 + 3 - (c % 4)]!),
  };
  const carried = carrySeats(seats, before, reversed, { from: Int32Array.from([0, 1, 2, 3, 4, 5]) });
  expect([...carried.at!.subarray(0, 2)]).toEqual([...seats.at!.subarray(6, 8)]);
});

it('tells which faces share texels of a piece of art: those whose seats lie over each other, not those that only touch', () => {
  const state = kitWith({ kind: 'art', picture: 'a' }, { x: 0, y: 0, w: 8, h: 8 });
  const seats = { ...state.seats.m!, at: new Float32Array(mesh.cornerVertex.length * 2) };
  /** Each face gets a square of the art, from where and how wide. */
  const place = (f: number, x: number, y: number, w: number) => seats.at.set([x, y, x + w, y, x + w, y + w, x, y + w], f * 8);
  for (let f = 0; f < faces; f++) place(f, (f % 4) / 4, Math.floor(f / 4) / 4, 0.25);
  const shared = (f: number) => [...sharedTexels(state.kit, mesh, seats, f)];
  expect(shared(5)).toEqual([]);
  place(6, 0.3, 0.3, 0.1);
  expect(shared(6)).toEqual([5]);
  expect(shared(5)).toEqual([6]);
  // Points: in a square, at the same place, and beside.
  place(0, 0.6, 0.6, 0);
  place(1, 0.6, 0.6, 0);
  place(2, 0.61, 0.6, 0);
  expect([shared(0), shared(2)]).toEqual([[1, 10], [10]]);
  seats.cell[10] = 2;
  expect(shared(0)).toEqual([1]);
  expect([...sharedTexels(kitWith(sunset, { x: 0, y: 0, w: 4, h: 4 }).kit, mesh, seats, 0)]).toEqual([]);
});
