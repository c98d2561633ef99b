import { expect, it } from 'vitest';
import { box, grid } from '@tests/meshes';
import { emptySeats } from '../../kit/kit';
import { triangulate } from '../../shapes/mesh/triangulate';
import { outlineOnModel, ownersOfTexels, pointOfTexel, rimOf, texelAtPoint, texelsUnder } from './texelsOnFaces';

// Two by two quads on the floor, each a metre; on art of 4 × 4 texels as they lie, so that a texel is half a metre.
const mesh = grid(2);
const triangles = triangulate(mesh);
const size = { width: 4, height: 4 };
const art = { id: 7 };
const at = Float32Array.from([...mesh.cornerVertex].flatMap((v) => [mesh.positions[v * 3]! / 2, mesh.positions[v * 3 + 2]! / 2]));
const seats = { ...emptySeats(4), cell: Uint16Array.of(7, 7, 7, 3), at };
const rows = (list: ArrayLike<number>) =>
  Array.from({ length: 4 }, (_, y) => Array.from({ length: 4 }, (_, x) => list[y * 4 + x]).join('')).join(' ');

it('tells which texels lie under faces, whose they are, and how many faces show them', () => {
  expect(rows(texelsUnder(mesh, seats, art, size, [0]))).toBe('1100 1100 0000 0000');
  expect(rows(texelsUnder(mesh, seats, art, size, [1, 2, 3]))).toBe('0011 0011 1100 1100');
  expect(rows(texelsUnder(mesh, { cell: seats.cell }, art, size, [0]))).toBe('0000 0000 0000 0000');
  const owners = ownersOfTexels(mesh, seats, art, size);
  expect([rows(owners.face), rows(owners.count)]).toEqual(['0011 0011 22-1-1 22-1-1', '1111 1111 1100 1100']);
  const stacked = { cell: new Uint16Array(4).fill(7), at: Float32Array.from({ length: 32 }, (_, i) => at[i % 8]!) };
  const shared = ownersOfTexels(mesh, stacked, art, size);
  expect([rows(shared.face), rows(shared.count)]).toEqual(['00-1-1 00-1-1 -1-1-1-1 -1-1-1-1', '4400 4400 0000 0000']);
});

it('knows the texel at a point of a face and the point of a texel, and each is the other’s way back', () => {
  for (let f = 0; f < 3; f++)
    for (let t = 0; t < 16; t++) {
      const texel = [t % 4, t >> 2] as const;
      const point = pointOfTexel(mesh, triangles, seats, size, f, texel)!;
      expect(point.map((v) => Math.round(v * 1e6) / 1e6)).toEqual([texel[0] / 2 + 0.25, 0, texel[1] / 2 + 0.25]);
      if (ownersOfTexels(mesh, seats, art, size).face[t] === f) expect(texelAtPoint(mesh, triangles, seats, size, f, point)).toEqual(texel);
    }
  // Of a point beside the art the last texel; without coordinates none.
  expect(texelAtPoint(mesh, triangles, seats, size, 1, [2, 0, 0])).toEqual([3, 0]);
  expect(texelAtPoint(mesh, triangles, seats, size, 0, [-1, 0, -1])).toEqual([0, 0]);
  expect([texelAtPoint(mesh, triangles, {}, size, 0, [0, 0, 0]), pointOfTexel(mesh, triangles, {}, size, 0, [0, 0])]).toEqual([null, null]);
  const point = { ...mesh, positions: new Float32Array(27) };
  expect(texelAtPoint(point, triangles, seats, size, 0, [0, 0, 0])).toBeNull();
});

it('outlines texels on the model, on every face that shows them', () => {
  const outline = (own: typeof seats, ...list: number[]) => {
    const texels = Uint32Array.from(list);
    const owners = ownersOfTexels(mesh, own, art, size);
    const lines = (rim: Uint32Array) => [...outlineOnModel(mesh, triangles, own, art, size, owners, texels, rim)];
    const all = lines(texels);
    // Along the rim alone goes the same outline.
    expect(lines(rimOf(size, owners, texels, 16)!)).toEqual(all);
    return all;
  };
  const one = outline(seats, 5);
  expect([one.length, [0, 2].map((k) => [Math.min, Math.max].map((f) => f(...one.filter((_, i) => i % 3 === k))))]).toEqual([24, [[0.5, 1], [0.5, 1]]]); // prettier-ignore
  expect(outline(seats, 4, 5).length).toBe(36);
  // Beyond the border of a face another begins: there it is outlined, too.
  expect(outline(seats, 1, 2).length).toBe(48);
  expect(outline(seats, 15).length).toBe(0);
  const stacked = { ...seats, cell: Uint16Array.of(7, 7, 3, 3), at: Float32Array.from({ length: 32 }, (_, i) => at[i % 8]!) };
  const both = outline(stacked, 0);
  expect([both.length, Math.max(...both.filter((_, i) => i % 3 === 0))]).toEqual([48, 1.5]);
  const crate = box();
  expect(outlineOnModel(crate, triangulate(crate), { cell: new Uint16Array(6).fill(7) }, art, size, { face: new Int32Array(16).fill(-1), count: new Uint8Array(16) }, Uint32Array.of(3), Uint32Array.of(3))).toHaveLength(0); // prettier-ignore
});

it('the rim of many texels is where the outline goes, unless it is too long', () => {
  const wide = { width: 7, height: 6 };
  const all = Uint32Array.from({ length: 42 }, (_, t) => t);
  const owners = { face: new Int32Array(42).map((_, t) => (t % 7 < 4 ? 0 : 1)), count: new Uint8Array(42).fill(1) };
  const rim = (most = 42, texels = all) => rimOf(wide, owners, texels, most);
  const picture = (list: Uint32Array | null) => Array.from({ length: 6 }, (_, y) => Array.from({ length: 7 }, (_, x) => (list?.includes(y * 7 + x) ? '#' : '.')).join('')); // prettier-ignore
  expect(picture(rim())).toEqual(['#######', '#..##.#', '#..##.#', '#..##.#', '#..##.#', '#######']);
  expect([rim(30)?.length, rim(29)]).toEqual([30, null]);
  expect(
    picture(
      rim(
        42,
        all.filter((t) => t !== 15),
      ),
    ),
  ).toEqual(['#######', '##.##.#', '#.###.#', '##.##.#', '#..##.#', '#######']);
  owners.count[16] = 2;
  expect(picture(rim())[2]).toBe('#.###.#');
  const many = { width: 1024, height: 512 };
  const none = { face: new Int32Array(2 ** 19), count: new Uint8Array(2 ** 19) };
  expect([2 ** 18, 2 ** 18 + 1].map((n) => rimOf(many, none, Uint32Array.from({ length: n }, (_, t) => t), 1e6)?.length)).toEqual([2 * 1024 + 2 * 254, undefined]); // prettier-ignore
});
