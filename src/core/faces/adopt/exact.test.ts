import { expect, it } from 'vitest';
import { gradientOf, modelOf } from '@tests/parts';
import { byId } from '../../ground/byId';
import { rgbFromHex, type Hex } from '../../ground/color/hex';
import { labDistance, labFromRgb } from '../../ground/color/oklab';
import type { Raster } from '../../ground/pictures/raster';
import { applyEdit } from '../../kit/edit/editKinds';
import { emptySeats, type Cell, type KitState, type Sheet } from '../../kit/kit';
import { meshFromLists } from '../../shapes/mesh/build';
import type { PolyMesh } from '../../shapes/mesh/polyMesh';
import type { Block, Finding } from '../../sheet/picture/readBlocks';
import { gradientAt } from '../../sheet/raster';
import { newKit } from '../../sheet/starter';
import { apartSheet } from './apartSheet';
import { seatsByUvs } from './seatsByUvs';
import { noBlock, takeApart, type TakenApart } from './takeApart';

/** Quads, each over a rectangle of a picture's texels: left, top, right, bottom. */
function over(width: number, height: number, ...rects: [number, number, number, number][]): PolyMesh {
  const made = meshFromLists({
    positions: rects.flatMap((_, i) => [0, i, 0, 1, i, 0, 1, i, 1, 0, i, 1]),
    faces: rects.map((_, i) => [0, 1, 2, 3].map((k) => i * 4 + k)),
  });
  const uvs = rects.flatMap(([l, t, r, b]) => [l, t, r, t, r, b, l, b]).map((v, i) => v / (i % 2 ? height : width));
  return { ...made, uvSets: [Float32Array.from(uvs)] };
}
const all = (mesh: PolyMesh) => Uint32Array.from({ length: mesh.faceStart.length - 1 }, (_, f) => f);
const tones: Record<string, Hex> = { a: '#808080', b: '#858585', c: '#7b7b7b', d: '#a05030', e: '#8a8a8a' };
const picture = (...rows: string[]): Raster => ({
  width: rows[0]!.length,
  height: rows.length,
  data: Uint8Array.from(rows.flatMap((row) => [...row].flatMap((c) => [...rgbFromHex(tones[c]!), 255]))),
});
const finding = (blocks: Block[] = []): Finding => ({ blocks }) as unknown as Finding;
const off = (a: Hex, b: Hex) => labDistance(labFromRgb(rgbFromHex(a)), labFromRgb(rgbFromHex(b)));
const colorsOf = ({ blocks }: TakenApart) => blocks.flatMap((b) => (b.fill.kind === 'solid' ? [b.fill.color] : []));
const apartOf = (of: Raster, tolerance: number, ...rects: [number, number, number, number][]) => {
  const mesh = over(of.width, of.height, ...rects);
  return takeApart(of, finding(), [{ mesh, faces: all(mesh) }], tolerance);
};

it('takes the color that half of a face has, else the mean of all, and says how far that is', () => {
  const near = off(tones.a!, tones.b!) + 1e-6;
  // The texel under its middle counts twice: three of six.
  expect(colorsOf(apartOf(picture('bbabc'), 0.05, [0, 0, 5, 1]))).toEqual([tones.b]);
  expect(colorsOf(apartOf(picture('aaabb'), near, [0, 0, 5, 1]))).toEqual([tones.a]);
  // Of three that have a third each their mean.
  const noise = apartOf(picture('bcebc'), 0.05, [0, 0, 5, 1]);
  expect(colorsOf(noise)).toEqual(['#838383']);
  expect(noise.largest).toBeCloseTo(off('#838383', tones.c!), 9);
  // One that is farther from the color than may be, though each is near to the next.
  expect(apartOf(picture('aaaae'), off(tones.a!, tones.e!) - 1e-6, [0, 0, 5, 1]).faces).toMatchObject({ solid: 0, art: 1 });
  expect(apartOf(picture('aaaae'), off(tones.a!, tones.e!) + 1e-6, [0, 0, 5, 1]).faces).toMatchObject({ solid: 1, art: 0 });
  expect(apartOf(picture('aaaad'), 0.02, [0, 0, 5, 1]).faces).toMatchObject({ solid: 0, art: 1 });
});

it('has the colors of larger faces take others in, counting faces that lie alike together', () => {
  const near = off(tones.a!, tones.b!) + 1e-6;
  const of = picture('aaabb', 'aaabb');
  expect(colorsOf(apartOf(of, near, [3, 0, 5, 2], [0, 0, 3, 2]))).toEqual([tones.a]);
  // Two on the smaller one are more texels than one on the larger.
  const twice = apartOf(of, near, [3, 0, 5, 2], [0, 0, 3, 2], [3, 0, 5, 2]);
  expect([colorsOf(twice), [...twice.models[0]!.block]]).toEqual([[tones.b], [0, 0, 0]]);
  expect(colorsOf(apartOf(of, near - 2e-6, [3, 0, 5, 2], [0, 0, 3, 2]))).toEqual([tones.a, tones.b]);
});

it('keeps of the picture what faces on it need and one texel around, and lays them there; nothing that repeats', () => {
  const of = picture(...Array.from({ length: 8 }, (_, y) => (y % 2 ? 'adadadadad' : 'dadadadada')));
  const apart = apartOf(of, 0.02, [3, 2, 5, 4], [6, 3, 7.5, 5], [8, 0, 12, 2]);
  const art = apart.blocks.find((b) => b.fill.kind === 'art')!;
  expect(art.rect).toEqual({ x: 2, y: 1, w: 7, h: 5 });
  expect(apart.faces).toEqual({ solid: 0, gradient: 0, art: 2, repeating: 1 });
  expect([...apart.models[0]!.block]).toEqual([0, 0, noBlock]);
  expect([...apart.models[0]!.at.slice(0, 8)].map((v, i) => v * (i % 2 ? 5 : 7)).map((v) => Math.round(v * 1e3) / 1e3)).toEqual([1, 1, 3, 1, 3, 3, 1, 3]); // prettier-ignore
  // At the border of the picture there is nothing more around.
  const whole = apartOf(of, 0.02, [0, 0, 4, 2], [7, 6, 10, 8]).blocks.find((b) => b.fill.kind === 'art')!;
  expect(whole.rect).toEqual({ x: 0, y: 0, w: 10, h: 8 });
  expect(apartOf(of, -1, [3, 2, 5, 4]).blocks.map((b) => b.rect)).toEqual([{ x: 0, y: 0, w: 10, h: 8 }]);
});

it('lays faces along a gradient that was found, where their texels are those of it', () => {
  const fill = gradientOf('x', '#204060', '#e0c080');
  const size = 8;
  const data = new Uint8Array(size * 3 * 4).fill(255);
  for (let t = 0; t < size * 3; t++) data.set(gradientAt(fill, (t % size) / (size - 1)), t * 4);
  data.set(rgbFromHex('#000000'), (2 * size + 5) * 4);
  const of: Raster = { width: size, height: 3, data };
  const block = { rect: { x: 0, y: 0, w: size, h: 3 }, fill } as Block;
  const mesh = over(size, 3, [0.5, 0, 7.5, 2], [2.5, 0, 4.5, 1], [4, 1, 7, 3], [1, 0, 3, 3.5]);
  const apart = takeApart(of, finding([{ rect: block.rect, fill: { kind: 'solid', color: '#000000' } }, block]), [
    { mesh, faces: all(mesh) },
  ]);
  expect(apart.faces).toEqual({ solid: 0, gradient: 2, art: 1, repeating: 1 });
  const kinds = apart.blocks.map((b) => b.fill.kind);
  expect([...apart.models[0]!.block].map((b) => kinds[b] ?? 'none')).toEqual(['gradient', 'gradient', 'art', 'none']);
  expect([...apart.models[0]!.at.slice(0, 16)].map((v) => Math.round(v * 1000))).toEqual([0, 500, 1000, 500, 1000, 500, 0, 500, 286, 500, 571, 500, 571, 500, 286, 500]); // prettier-ignore
  expect(apart.largest).toBeLessThan(1e-9);
});

it('a face sits on a cell up to a fiftieth of a texel beyond its border, on any side; on art that repeats anywhere', () => {
  const kit = newKit('Skerry');
  const cells: Cell[] = [
    { id: 1, rect: { x: 2, y: 2, w: 4, h: 4 }, role: '', fill: { kind: 'art', picture: 'a' } },
    { id: 2, rect: { x: 8, y: 2, w: 4, h: 4 }, role: '', fill: { kind: 'art', picture: 'a', repeats: true } },
    { id: 3, rect: { x: 8, y: 7, w: 4, h: 1 }, role: '', fill: { kind: 'spare' } },
    { id: 4, rect: { x: 0, y: 7, w: 1, h: 1 }, role: '', fill: gradientOf('y') },
  ];
  const sheet: Sheet = { ...kit.sheets[0]!, width: 16, height: 8, cells, ramps: [] };
  const inside: [number, number, number, number] = [2, 2, 6, 6];
  const rects = [0, 1, 2, 3].flatMap((side) =>
    [0.015, 0.03].map((by) => inside.map((v, k) => (k === side ? v + (side < 2 ? -by : by) : v)) as [number, number, number, number]),
  );
  const mesh = over(16, 8, ...rects, [9, 3, 14, 4], [9, 7.2, 10, 7.8], [0.2, 7.2, 0.8, 7.9], [7, 7.2, 7.4, 7.8]);
  const seats = seatsByUvs(mesh, all(mesh), sheet);
  expect([...seats.cell]).toEqual([1, 0, 1, 0, 1, 0, 1, 0, 2, 0, 4, 0]);
  expect(seats.across).toBe(6);
  expect([...seats.at.slice(8 * 8, 9 * 8)].map((v) => Math.round(v * 100) / 100)).toEqual([0.25, 0.25, 1.5, 0.25, 1.5, 0.5, 0.25, 0.5]);
  // A single texel has no length: all lie in its middle.
  expect([...seats.at.slice(10 * 8, 11 * 8)]).toEqual(new Array(8).fill(0.5));
});

it('makes a sheet of what was taken apart, seats the models that are still there, and leaves what repeats', () => {
  const kit = newKit('Skerry');
  const models = [modelOf('boat', 3, kit.sheets[0]!.id), modelOf('oar', 1, kit.sheets[0]!.id)];
  const state: KitState = { kit: { ...kit, models }, seats: byId({ boat: emptySeats(3), oar: emptySeats(1) }) };
  const mesh = over(4, 4, [0, 0, 1, 1], [0, 0, 2, 2], [0, 0, 9, 9]);
  const at = new Float32Array(24).map((_, i) => i / 24);
  const apart: TakenApart = {
    blocks: [
      { rect: { x: 0, y: 0, w: 1, h: 1 }, fill: { kind: 'solid', color: '#aa3322' } },
      { rect: { x: 0, y: 0, w: 4, h: 4 }, fill: { kind: 'art' } },
    ],
    models: [
      { block: Uint16Array.of(1, 0, noBlock), at },
      { block: Uint16Array.of(0), at: new Float32Array(8) },
    ],
    faces: { solid: 1, gradient: 0, art: 1, repeating: 1 },
    largest: 0,
  };
  const named = { name: kit.sheets[0]!.name, width: 4, height: 4, art: 'texels of it' };
  const boat = { id: 'boat', faces: Uint32Array.of(2, 0, 1), faceStart: mesh.faceStart };
  const { edit, sheet } = apartSheet(state, named, apart, [boat, null]);
  expect([sheet.name, sheet.cells.find((c) => c.fill.kind === 'art')!.fill]).toEqual([
    `${named.name} 2`,
    { kind: 'art', picture: 'texels of it' },
  ]);
  const after = applyEdit(state, edit);
  const first = kit.nextCell;
  expect([...after.seats.boat!.cell]).toEqual([first, 0, first + 1]);
  expect([...after.seats.boat!.at!.slice(16, 24)]).toEqual([...at.slice(16, 24)]);
  expect(after.kit.models.map((m) => m.sheet)).toEqual([sheet.id, kit.sheets[0]!.id]);
  expect([...after.seats.oar!.cell]).toEqual([0]);
  expect(() => apartSheet(state, { ...named, art: '' }, apart, [])).toThrow('A piece of art of the picture is missing');
});
