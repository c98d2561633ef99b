import { gradientOf, modelOf } from '@tests/parts';
import { byId } from '@/core/ground/byId';
import fc from 'fast-check';
import { beforeAll, expect, it } from 'vitest';
import { nodeCodecs } from '../../../../scripts/nodePlatform';
import { applyEdit } from '../../kit/edit/editKinds';
import { writeGlb } from '../../files/gltf/writeGlb';
import { encodePng } from '../../ground/pictures/png';
import { readModel } from '../../files/formats/readModel';
import { readPictures } from '../../files/formats/readPictures';
import { emptySeats, type Cell, type Fill, type KitState, type Model, type Seats, type Sheet } from '../../kit/kit';
import { meshFromLists } from '../../shapes/mesh/build';
import type { PolyMesh } from '../../shapes/mesh/polyMesh';
import { rasterSheet } from '../../sheet/raster';
import type { Raster } from '../../ground/pictures/raster';
import { newKit } from '../../sheet/starter';
import { startDecoder } from '@tests/palettePictures';
import { grid } from '@tests/meshes';
import { seatByUvs, seatsByUvs } from './seatsByUvs';
import { sheetOfPicture } from './sheetOfPicture';
import { noBlock, takeApart } from './takeApart';
import { eachTexel, faceTexels } from './uvTexels';

beforeAll(startDecoder);

const art: Raster = { width: 6, height: 4, data: Uint8Array.from({ length: 96 }, (_, i) => (i % 4 === 3 ? 255 : (i * 37) % 256)) };
const artFile = { bytes: encodePng(art), raster: art };
const gradient = (axis: 'x' | 'y') => gradientOf(axis, '#2b3a67', '#f4d58d');
const fills: [Fill, Cell['rect']][] = [
  [
    { kind: 'solid', color: '#aa2222' },
    { x: 0, y: 0, w: 2, h: 2 },
  ],
  [
    { kind: 'solid', color: '#22aa22' },
    { x: 2, y: 0, w: 1, h: 1 },
  ],
  [{ kind: 'spare' }, { x: 3, y: 0, w: 1, h: 1 }],
  [gradient('x'), { x: 4, y: 0, w: 8, h: 2 }],
  [gradient('y'), { x: 12, y: 0, w: 2, h: 7 }],
  [
    { kind: 'corners', colors: ['#000000', '#ff0000', '#00ff00', '#0000ff'], mix: 'srgb' },
    { x: 0, y: 3, w: 5, h: 4 },
  ],
  [
    { kind: 'art', picture: 'art' },
    { x: 5, y: 3, w: 6, h: 4 },
  ],
];
const mesh = grid(4);
const faces = 16;

function kitOf(cell: number[], at: number[]): KitState {
  const kit = newKit('Skerry');
  const sheet: Sheet = {
    ...kit.sheets[0]!,
    width: 16,
    height: 8,
    cells: fills.map(([fill, rect], i) => ({ id: i + 1, rect, role: '', fill })),
    ramps: [],
  };
  const model = modelOf('m', faces, sheet.id);
  const seats: Seats = { ...emptySeats(faces), cell: Uint16Array.from(cell), at: Float32Array.from(at) };
  return { kit: { ...kit, sheets: [sheet], models: [model], nextCell: 8 }, seats: byId({ m: seats }) };
}

it('what was exported comes back on the very cells and places that it sat on', async () => {
  const usable = [1, 2, 4, 5, 6, 7];
  await fc.assert(
    fc.asyncProperty(
      fc.array(fc.constantFrom(...usable), { minLength: faces, maxLength: faces }),
      fc.array(fc.double({ min: 0, max: 1, noNaN: true }), { minLength: faces * 8, maxLength: faces * 8 }),
      async (cell, at) => {
        const state = kitOf(cell, at);
        const [model] = state.kit.models as [Model];
        const pictures = new Map([['art', artFile]]);
        const glb = await writeGlb(state.kit, [{ model, mesh, seats: state.seats.m!, files: [] }], { pictures });
        const back = await readModel({ name: 'rock.glb', bytes: glb }, [], { codecs: nodeCodecs, mendQuads: true });
        const [picture] = (await readPictures(back.keep, nodeCodecs, () => undefined)).values();
        const sheet = sheetOfPicture(state.kit, new Map([['art', art]]), picture!)!;
        expect(sheet.id).toBe(state.kit.sheets[0]!.id);
        const all = Uint32Array.from({ length: back.mesh.faceStart.length - 1 }, (_, f) => f);
        const seats = seatsByUvs(back.mesh, all, sheet);
        expect(seats.across).toBe(0);
        // Faces of one model may come back as triangles; each lies where its corners say.
        const at3 = (of: PolyMesh, c: number) => [...of.positions.slice(of.cornerVertex[c]! * 3, of.cornerVertex[c]! * 3 + 3)].join();
        for (const f of all) {
          const here = [...Array(back.mesh.faceStart[f + 1]! - back.mesh.faceStart[f]!).keys()].map((k) => back.mesh.faceStart[f]! + k);
          const places = here.map((c) => at3(back.mesh, c));
          const own = cell.findIndex((_, g) => places.every((p) => [0, 1, 2, 3].some((k) => at3(mesh, g * 4 + k) === p)));
          expect(seats.cell[f]).toBe(cell[own]!);
          const { fill } = state.kit.sheets[0]!.cells[cell[own]! - 1]!;
          here.forEach((c, i) => {
            const was = own * 4 + [0, 1, 2, 3].find((k) => at3(mesh, own * 4 + k) === places[i])!;
            const isOn = (k: number) =>
              fill.kind === 'art' || fill.kind === 'corners' || (fill.kind === 'gradient' && (fill.axis === 'x' ? 0 : 1) === k);
            // On the border of two texels places lie a hair further.
            for (const k of [0, 1])
              expect(Math.abs(seats.at[c * 2 + k]! - (isOn(k) ? state.seats.m!.at![was * 2 + k]! : 0.5))).toBeLessThan(0.005);
          });
        }
      },
    ),
    { seed: 9, numRuns: 20 },
  );
});

it('finds the sheet that a picture shows, also enlarged or a little off, and none where a texel differs', () => {
  const { kit } = kitOf([], []);
  const pictures = new Map([['art', art]]);
  const raster = rasterSheet(kit.sheets[0]!, pictures);
  const changed = (x: number, y: number, by: number) => {
    const data = raster.data.slice();
    data[(y * 16 + x) * 4 + 1]! += by;
    return { ...raster, data };
  };
  const finds = (picture: Raster) => sheetOfPicture(kit, pictures, picture) !== null;
  expect([finds(raster), finds(changed(1, 1, 2)), finds(changed(1, 1, 3)), finds(changed(10, 6, 9))]).toEqual([true, true, false, false]);
  // What lies under spare cells, or between cells, says nothing.
  expect([finds(changed(3, 0, 90)), finds(changed(15, 7, 90))]).toEqual([true, true]);
  const large: Raster = { width: 48, height: 24, data: new Uint8Array(48 * 24 * 4) };
  for (let y = 0; y < 24; y++)
    for (let x = 0; x < 48; x++) large.data.set(raster.data.slice(((y / 3) | 0) * 64 + ((x / 3) | 0) * 4).slice(0, 4), (y * 48 + x) * 4);
  expect([finds(large), finds({ ...large, width: 24, height: 48 }), finds({ ...raster, width: 8, height: 16 })]).toEqual([
    true,
    false,
    false,
  ]);
});

/** Quads, each with the texels of its four corners on a picture. */
function quads(width: number, height: number, ...list: number[][]): PolyMesh {
  const made = meshFromLists({
    positions: list.flatMap((_, i) => [0, i, 0, 1, i, 0, 1, i, 1, 0, i, 1]),
    faces: list.map((_, i) => [0, 1, 2, 3].map((k) => i * 4 + k)),
  });
  return { ...made, uvSets: [Float32Array.from(list.flat().map((v, i) => v / (i % 2 ? height : width)))] };
}
const rect = (x: number, y: number, w: number, h: number) => [x, y, x + w, y, x + w, y + h, x, y + h];
const allOf = (of: PolyMesh) => Uint32Array.from({ length: of.faceStart.length - 1 }, (_, f) => f);

it('leaves faces alone that lie over several cells or on an empty one, moves repeated ones, and spares locked regions', () => {
  const of = quads(
    16,
    8,
    rect(0, 0, 2, 2),
    rect(1, 0, 2, 1),
    rect(3.2, 0.2, 0.5, 0.5),
    rect(16.5, -7.5, 1, 1),
    rect(15.9, 7.9, 0.1, 0.1),
    rect(2, 0, 1.01, 1),
  );
  const state = kitOf([], []);
  const [sheet] = state.kit.sheets as [Sheet];
  const seats = seatsByUvs(of, allOf(of), sheet);
  expect([[...seats.cell], seats.across]).toEqual([[1, 0, 0, 1, 0, 2], 3]);
  expect(seatsByUvs(of, Uint32Array.of(5), sheet)).toMatchObject({ cell: Uint16Array.of(0, 0, 0, 0, 0, 2), across: 0 });
  const model = { ...state.kit.models[0]!, faces: 6, sheet: 'other', regions: [{ id: 1, name: 'lid', cell: 0, locked: true as const }] };
  const kit = { ...state.kit, models: [model], sheets: [sheet, { ...sheet, id: 'other', cells: [] }] };
  const own = { ...emptySeats(6), region: Uint16Array.of(1, 0, 0, 0, 0, 0) };
  const after = applyEdit(
    { kit, seats: byId({ m: own }) },
    seatByUvs({ kit, seats: byId({ m: own }) }, 'm', sheet.id, of.faceStart, seats)!,
  );
  expect([[...after.seats.m!.cell], after.kit.models[0]!.sheet, after.seats.m!.at]).toEqual([[0, 0, 0, 1, 0, 2], sheet.id, undefined]);
  expect(seatByUvs(after, 'm', sheet.id, of.faceStart, { ...seats, cell: new Uint16Array(6) })).toBeNull();
});

it('looks at the texels whose middle a face holds, once each, and at least at the one under its middle', () => {
  const texels = (points: number[]) => {
    const seen: string[] = [];
    eachTexel(faceTexels(quads(8, 8, points), 0, 8, 8), 8, 8, (x, y) => void seen.push(`${x} ${y}`));
    return seen.slice(1).sort();
  };
  expect(texels(rect(1, 2, 2, 3))).toEqual(['1 2', '1 3', '1 4', '2 2', '2 3', '2 4']);
  // Clockwise or not, a triangle's half, a point, beyond the edge.
  expect(texels([0, 0, 0, 3, 3, 3, 3, 0])).toHaveLength(9);
  expect(texels([0, 0, 0, 3.2, 3.1, 3.2, 3.1, 0])).toHaveLength(9);
  expect(texels([0, 0, 4, 0, 0, 4, 0, 0])).toEqual(['0 0', '0 1', '0 2', '1 0', '1 1', '2 0']);
  expect(texels(rect(3.5, 3.5, 0, 0))).toEqual([]);
  expect(texels(rect(7, 3, 2, 1))).toEqual(['0 3', '7 3']);
  let first = '';
  eachTexel(faceTexels(quads(8, 8, rect(3.6, 4.1, 0, 0)), 0, 8, 8), 8, 8, (x, y) => void (first ||= `${x} ${y}`));
  expect(first).toBe('3 4');
  // A middle on the far border belongs to the last texel.
  let last = '';
  eachTexel(faceTexels(quads(8, 8, rect(8, 8, 0, 0)), 0, 8, 8), 8, 8, (x, y) => void (last ||= `${x} ${y}`));
  expect(last).toBe('7 7');
});

it('sees each texel of a large face, also where a picture is tiled', () => {
  // A dot of 2 × 2 on 256 × 256.
  const size = 256;
  const raster: Raster = { width: size, height: size, data: new Uint8Array(size * size * 4).fill(255) };
  for (const at of [130 * size + 71, 130 * size + 72, 131 * size + 71, 131 * size + 72]) raster.data.set([200, 30, 30], at * 4);
  const of = quads(size, size, rect(0, 0, size, size), rect(0, 0, size, size), rect(0, 0, 64, 64), rect(80, 0, 900, 64));
  const { faces, largest, models } = takeApart(raster, { width: size, height: size, blocks: [], cells: null } as never, [
    { mesh: of, faces: allOf(of) },
  ]);
  expect([faces, largest]).toEqual([{ solid: 2, gradient: 0, art: 2, repeating: 0 }, 0]);
  expect(models[0]!.block[0]).toBe(models[0]!.block[1]);
  // A face that goes over many pictures has all of the picture, and takes no time without end.
  let seen = 0;
  eachTexel({ points: Float64Array.of(0, 0, 1e9, 0, 1e9, 1e9), middle: [0.5, 0.5] }, 8, 8, () => void seen++);
  expect(seen).toBe(65);
});

it('takes a picture apart into colors, gradients and what stays art, and tells the largest change', () => {
  // Left: two flat halves, a texel of which is a little off; middle: a gradient down; right: a pattern.
  const [width, height] = [48, 16];
  const data = new Uint8Array(width * height * 4).fill(255);
  const set = (x: number, y: number, rgb: number[]) => data.set(rgb, (y * width + x) * 4);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < 16; x++) set(x, y, y < 8 ? [200, 40, 40] : [40, 40, 200]);
    for (let x = 16; x < 32; x++) set(x, y, [y * 16, y * 16, y * 16]);
    for (let x = 32; x < 48; x++) set(x, y, (x * 7 + y * 13) % 3 ? [10, 200, 10] : [240, 230, 10]);
  }
  set(3, 3, [203, 40, 40]);
  const raster = { width, height, data };
  const made = {
    kind: 'mixed' as const,
    width,
    height,
    lines: { xs: [], ys: [] },
    blocks: [
      {
        rect: { x: 16, y: 0, w: 16, h: 16 },
        fill: gradientOf('y', '#000000', '#f0f0f0', 'srgb'),
      },
    ],
  };
  const of = quads(
    width,
    height,
    rect(0, 0, 8, 8),
    rect(8, 0, 8, 8),
    rect(0, 8, 8, 8),
    rect(16, 0, 16, 16),
    rect(33, 1, 9, 9),
    rect(40, 1, 12, 9),
    rect(0, 4, 8, 8),
  );
  const { blocks, models, faces: counts, largest } = takeApart(raster, made, [{ mesh: of, faces: allOf(of) }], 0.02);
  const named = [...models[0]!.block].map((b) => {
    const fill = blocks[b]?.fill;
    return b === noBlock ? 'stays' : fill?.kind === 'solid' ? fill.color : fill?.kind;
  });
  expect(named).toEqual(['#c82828', '#c82828', '#2828c8', 'gradient', 'art', 'stays', 'art']);
  expect(counts).toEqual({ solid: 3, gradient: 1, art: 2, repeating: 1 });
  expect([largest > 0.001, largest < 0.01]).toEqual([true, true]);
  const { at } = models[0]!;
  expect([...at.slice(24, 32)]).toEqual([0.5, 0, 0.5, 0, 0.5, 1, 0.5, 1]);
  expect([...at.slice(32, 36)].map((v) => Math.round(v * 1e4) / 1e4)).toEqual(
    [33 / 43, 1 / 13, 42 / 43, 1 / 13].map((v) => Math.round(v * 1e4) / 1e4),
  );
  // Of the picture stays what faces show of it, and a texel around that.
  expect(blocks.find((b) => b.fill.kind === 'art')!.rect).toEqual({ x: 0, y: 0, w: 43, h: 13 });
  // Without tolerance the texel that is off makes its face art; below 0 everything is.
  const strict = takeApart(raster, made, [{ mesh: of, faces: Uint32Array.of(0, 1) }], 0);
  expect([strict.faces, strict.largest]).toEqual([{ solid: 1, gradient: 0, art: 1, repeating: 0 }, 0]);
  expect(takeApart(raster, { ...made, blocks: [] }, [{ mesh: of, faces: Uint32Array.of(1, 3) }], -1)).toMatchObject({
    faces: { solid: 0, art: 2 },
    blocks: [{ rect: { x: 0, y: 0, w: 48, h: 16 } }],
  });
  // Colors nearer than the tolerance are one for all models: that of more texels.
  const wide = takeApart(
    raster,
    made,
    [
      { mesh: of, faces: Uint32Array.of(0) },
      { mesh: of, faces: Uint32Array.of(2) },
    ],
    0.9,
  );
  expect(wide.blocks.map((b) => (b.fill as { color?: string }).color)).toHaveLength(1);
});
