import fc from 'fast-check';
import { expect, it } from 'vitest';
import { grid } from '@tests/meshes';
import { triangulate } from '../../shapes/mesh/triangulate';
import { mirroredTexel, mirroredTexels, sideOfTexel } from './mirroredTexels';
import { ownersOfTexels } from './texelsOnFaces';

// Four quads in a row of two by two on the floor, a metre each, mirrored across x at 1: faces 0 and 1, 2 and 3 are twins.
const mesh = grid(2);
const triangles = triangulate(mesh);
const plane = { axis: 'x' as const, offset: 1, twin: Int32Array.of(1, 0, 3, 2), tolerance: 0.01, matched: 4, unmatched: 0 };
/** The right half of the art may have more texels across than the left one. */
const artOf = (width: number, height: number, split: number) => {
  const at = Float32Array.from([...mesh.cornerVertex].flatMap((v) => {
    const x = mesh.positions[v * 3]!;
    return [x < 1 ? x * split : split + (x - 1) * (1 - split), mesh.positions[v * 3 + 2]! / 2];
  })); // prettier-ignore
  const seats = { cell: new Uint16Array(4).fill(7), at };
  const size = { width, height };
  return { mesh, triangles, seats, size, faceOf: ownersOfTexels(mesh, seats, { id: 7 }, size).face };
};

it('finds the texel across the plane, and says where it is not quite there', () => {
  const even = artOf(8, 4, 0.5);
  expect([0, 3, 9, 31].map((t) => mirroredTexel(even, t, plane))).toEqual([7, 4, 14, 24].map((texel) => ({ texel, isExact: true })));
  const uneven = artOf(8, 4, 3 / 8);
  expect([0, 1].map((t) => mirroredTexel(uneven, t, plane))).toEqual([
    { texel: 7, isExact: false },
    { texel: 5, isExact: true },
  ]);
  expect(mirroredTexel(even, 0, { ...plane, twin: Int32Array.of(-1, 0, 3, 2) })).toBeNull();
  expect(mirroredTexel({ ...even, faceOf: new Int32Array(32).fill(-1) }, 0, plane)).toBeNull();
  expect(mirroredTexel(even, 1, { ...plane, axis: 'z', twin: Int32Array.of(2, 3, 0, 1) })).toEqual({ texel: 25, isExact: true });
});

it('mirrors any texels: there and back they are the same, and what is denser across has no gaps', () => {
  const even = artOf(8, 4, 0.5);
  const across = (art: ReturnType<typeof artOf>, texels: number[]) =>
    [...mirroredTexels(art, Uint32Array.from(texels), plane)].sort((a, b) => a - b);
  fc.assert(
    fc.property(fc.uniqueArray(fc.nat(31)), (texels) => {
      const found = across(even, texels);
      expect(found).toEqual(texels.map((t) => t - (t % 8) + 7 - (t % 8)).sort((a, b) => a - b));
      expect(across(even, found)).toEqual([...texels].sort((a, b) => a - b));
    }),
    { seed: 6, numRuns: 60 },
  );
  // Two texels for a metre on the left, six on the right: each has the three that show it.
  expect(across(artOf(8, 4, 0.25), [0, 8])).toEqual([5, 6, 7, 13, 14, 15]);
  expect(across(artOf(8, 4, 0.25), [2, 3])).toEqual([1]);
  expect([0, 3, 4, 30].map((t) => sideOfTexel(even, t, plane))).toEqual([-1, -1, 1, 1]);
  expect([sideOfTexel(artOf(7, 4, 0.5), 3, plane), sideOfTexel({ ...even, faceOf: new Int32Array(32).fill(-1) }, 0, plane)]).toEqual([
    0, 0,
  ]);
  // Up to the borders of the art, and no farther than one texel from where it lies.
  expect(across(even, [0, 7, 24, 31])).toEqual([0, 7, 24, 31]);
  const lone = { ...even, faceOf: even.faceOf.map((f, t) => (t === 7 ? f : t % 8 > 3 ? -1 : f)) };
  expect(across(lone, [0, 1])).toEqual([6, 7]);
  const aside = (offset: number) => mirroredTexel(even, 1, { ...plane, offset });
  expect([aside(0.8), aside(0.9)]).toEqual([
    { texel: 4, isExact: false },
    { texel: 5, isExact: true },
  ]);
  // A twin without an extent shows nothing.
  const flat = { ...even, seats: { at: even.seats.at.map((v, i) => (i >= 8 && i < 16 ? 0.5 : v)) }, mesh: { ...mesh, positions: mesh.positions.map((v, i) => (i % 3 === 0 && v > 1 ? 1 : v)) } }; // prettier-ignore
  expect(mirroredTexel(flat, 0, plane)).toBeNull();
});
