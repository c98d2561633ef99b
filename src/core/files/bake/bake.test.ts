import { grid } from '@tests/meshes';
import { expect, it } from 'vitest';
import { emptySeats, type Cell, type Kit } from '../../kit/kit';
import { triangulate } from '../../shapes/mesh/triangulate';
import { newKit } from '../../sheet/starter';
import { colorsOnFaces } from './colorsOnFaces';
import { fillLayout, type ColorAt } from './fillLayout';

/** Two faces of a net, each on a square of the picture. */
function twoFaces(a: [x: number, y: number, size: number], b: [x: number, y: number, size: number]) {
  const mesh = { ...grid(2), faceStart: Uint32Array.of(0, 4, 8) };
  const square = ([x, y, s]: typeof a) => [x, y, x, y + s, x + s, y + s, x + s, y];
  mesh.cornerVertex = mesh.cornerVertex.slice(0, 8);
  mesh.uvSets = [Float32Array.from([...square(a), ...square(b)])];
  return { mesh, triangles: triangulate(mesh) };
}
const red = [200, 0, 0, 255];
const blue = [0, 0, 200, 255];
const byFace =
  (faces: ArrayLike<number>): ColorAt =>
  (t) =>
    faces[t] === 0 ? red : blue;
const at = (data: Uint8Array, width: number, x: number, y: number) => [...data.subarray((y * width + x) * 4, (y * width + x) * 4 + 4)];

it('fills each face where its UVs lie, with padding from the nearest, and leaves the rest empty', () => {
  const { mesh, triangles } = twoFaces([0, 0, 0.25], [0.5, 0.5, 0.25]);
  const { raster, owner, clashes } = fillLayout(mesh, triangles, { width: 16, height: 16, padding: 1 }, byFace(triangles.face));
  expect(clashes.size).toBe(0);
  const seen = Array.from({ length: 256 }, (_, i) => at(raster.data, 16, i % 16, Math.floor(i / 16)).join());
  for (let y = 0; y < 16; y++)
    for (let x = 0; x < 16; x++) {
      const isRed = x < 5 && y < 5;
      const isBlue = x >= 7 && x < 13 && y >= 7 && y < 13;
      expect([x, y, seen[y * 16 + x], owner[y * 16 + x]]).toEqual([
        x,
        y,
        (isRed ? red : isBlue ? blue : [0, 0, 0, 0]).join(),
        isRed ? 0 : isBlue ? 1 : -1,
      ]);
    }
});

it('tells texels that faces of two colors share, and no others: not those of one color, nor a common side', () => {
  const over = twoFaces([0, 0, 0.5], [0.25, 0.25, 0.5]);
  const size = { width: 8, height: 8, padding: 0 };
  const told = fillLayout(over.mesh, over.triangles, size, byFace(over.triangles.face));
  expect([...told.clashes.keys()].sort((a, b) => a - b)).toEqual([18, 19, 26, 27]);
  expect([...told.clashes.get(18)!]).toEqual([0, 1]);
  // The first is shown.
  expect(at(told.raster.data, 8, 2, 2)).toEqual(red);
  expect(fillLayout(over.mesh, over.triangles, size, () => red).clashes.size).toBe(0);
  // Side by side, with texels' middles on the common side.
  const beside = twoFaces([0, 0, 0.5625], [0.5625, 0, 0.25]);
  expect(fillLayout(beside.mesh, beside.triangles, size, byFace(beside.triangles.face)).clashes.size).toBe(0);
  // What lies beyond the picture repeats it.
  const repeated = twoFaces([-1, 2, 0.5], [0.25, 0.25, 0.5]);
  expect(fillLayout(repeated.mesh, repeated.triangles, size, byFace(repeated.triangles.face)).clashes.size).toBe(4);
  // A face thinner than texels are apart has one all the same; one that does not leave has none.
  const thin = twoFaces([0.3, 0.3, 0.001], [0.5, 0.5, 0.25]);
  const slim = fillLayout(thin.mesh, thin.triangles, size, byFace(thin.triangles.face));
  expect([slim.thin, at(slim.raster.data, 8, 2, 2)]).toEqual([1, red]);
  expect(fillLayout(thin.mesh, thin.triangles, size, byFace(thin.triangles.face), Uint8Array.of(0, 1)).owner.includes(0)).toBe(false);
  expect(() => fillLayout({ ...thin.mesh, uvSets: [] }, thin.triangles, size, () => red)).toThrow('without UVs');
  expect(() => fillLayout(thin.mesh, thin.triangles, { ...size, width: 5000 }, () => red)).toThrow('from 1 to 4096 texels');
});

it('colors by cell, by the texel under a place of a gradient, by vertex colors, and by material', () => {
  const kit = newKit('K');
  const [sheet] = kit.sheets as [Kit['sheets'][0]];
  const [solid, ramp] = [sheet.cells[0]!, sheet.cells[1]!];
  const fade: Cell = { ...ramp, fill: { kind: 'gradient', axis: 'x', mix: 'srgb', stops: [{ at: 0, color: '#000000' }, { at: 1, color: '#ffffff' }] } }; // prettier-ignore
  const cells = sheet.cells.map((c) => (c.id === ramp.id ? fade : c));
  const own: Kit = { ...kit, sheets: [{ ...sheet, cells }] };
  const { mesh, triangles } = twoFaces([0, 0, 0.5], [0.5, 0.5, 0.5]);
  // From left to right over the fade.
  const seats = {
    ...emptySeats(2),
    cell: Uint16Array.of(solid.id, fade.id),
    at: Float32Array.from([0, 0, 0, 0, 0, 0, 0, 0, 0, 0.5, 0, 0.5, 1, 0.5, 1, 0.5]),
  };
  const colors = colorsOnFaces(own, mesh, seats, triangles, new Map());
  const hex = (c: ArrayLike<number>) => `#${[0, 1, 2].map((k) => Math.round(c[k]!).toString(16).padStart(2, '0')).join('')}`;
  expect(hex(colors(0, 1, 0, 0))).toBe(solid.fill.kind === 'solid' ? solid.fill.color : '');
  const greys = [colors(2, 1, 0, 0), colors(2, 0.5, 0, 0.5), colors(2, 0, 0, 1)].map((c) => c[0]!);
  expect([greys[0], greys[2]]).toEqual([0, 255]);
  expect(greys[1]! > 50 && greys[1]! < 205).toBe(true);
  const bare = { ...seats, cell: new Uint16Array(2) };
  expect(Array.from(colorsOnFaces(own, mesh, bare, triangles, new Map())(0, 1, 0, 0))).toEqual([0xc8, 0xc8, 0xc8, 255]);
  // Bare faces show the picture that they came with, repeated.
  const pictured = { ...mesh, slots: [{ ...mesh.slots[0]!, picture: 'Deck.png' }] };
  pictured.uvSets = [mesh.uvSets[0]!.map((v) => v + 2)];
  const deck = { width: 2, height: 1, data: Uint8Array.from([...red, ...blue]) };
  const came = colorsOnFaces(own, pictured, bare, triangles, new Map(), new Map([['deck.png', deck]]));
  expect([Array.from(came(0, 0.4, 0.3, 0.3)), Array.from(came(2, 0.4, 0.3, 0.3))]).toEqual([red, blue]);
  const painted = { ...mesh, cornerColors: Uint8Array.from({ length: 32 }, (_, i) => (i % 4 === 3 ? 255 : Math.floor(i / 4) * 20)) };
  expect(Array.from(colorsOnFaces(own, painted, bare, triangles, new Map())(0, 0.5, 0.5, 0))).toEqual([10, 10, 10, 255]);
});
