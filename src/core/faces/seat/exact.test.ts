import { gradientOf } from '@tests/parts';
import { byId } from '@/core/ground/byId';
import fc from 'fast-check';
import { expect, it } from 'vitest';
import { emptySeats, solid, type Cell, type Fill, type KitState, type Model, type Sheet } from '../../kit/kit';
import { adjacencyOf } from '../../shapes/mesh/adjacency';
import { meshFromLists } from '../../shapes/mesh/build';
import type { PolyMesh } from '../../shapes/mesh/polyMesh';
import { newKit } from '../../sheet/starter';
import { boxFaces, grid } from '@tests/meshes';
import { faceVertexColor, matchCells, materialColors, nearDistance, seatColors, vertexColorGroups } from './byMaterial';
import { colorsOfFaces, hasTexturedFaces, texturedCells } from './colorsOfFaces';
import { lineLike } from '../../kit/laying/gradientRules';
import { runOf } from './layAlong';
import { layoutUvs, placeOn } from './layout';
import { moveFaces } from '../../sheet/moveFaces';
import { placeCorners, placeFaces } from './placeFaces';
import { seatFaces, spansOf } from '../../kit/edit/seatFaces';
import { plainLaying } from '../../kit/laying/seatRule';
import { sharedTexels } from './sharedTexels';

const gradient = (axis: 'x' | 'y') => gradientOf(axis, '#000000', '#ff0000', 'srgb');
const art: Fill = { kind: 'art', picture: 'a' };
const corners: Fill = { kind: 'corners', colors: ['#000000', '#ff0000', '#00ff00', '#0000ff'], mix: 'srgb' };

it('spans are as few as can be, ascending, and lead from what was to what is to be', () => {
  const values = Uint16Array.of(1, 1, 2, 2, 2, 3, 1, 1);
  const spans = (faces: number[], after: Parameters<typeof spansOf>[2]) => [...spansOf(values, Uint32Array.from(faces), after)];
  expect(spans([0, 1, 2, 3, 5, 6, 7], 9)).toEqual([0, 2, 1, 9, 2, 2, 2, 9, 5, 1, 3, 9, 6, 2, 1, 9]);
  // In any order, twice, there already, left out.
  expect(spans([4, 2, 2, 3, 0], 2)).toEqual([0, 1, 1, 2]);
  expect(spans([0, 1, 2, 3, 4], (before, face) => (face === 3 ? null : before + 1))).toEqual([0, 2, 1, 2, 2, 1, 2, 3, 4, 1, 2, 3]);
  expect(spans([6, 7], (_, face) => face)).toEqual([6, 1, 1, 6, 7, 1, 1, 7]);
  const many = spansOf(
    new Uint16Array(200),
    Uint32Array.from({ length: 100 }, (_, i) => i * 2),
    5,
  );
  expect(many).toEqual(Uint32Array.from({ length: 400 }, (_, i) => [(i >> 2) * 2, 1, 0, 5][i % 4]!));
  expect(seatFaces('m', values, Uint32Array.of(0, 1), 1)).toBeNull();
  fc.assert(
    fc.property(
      fc.array(fc.nat(3), { minLength: 1, maxLength: 90 }),
      fc.array(fc.nat(89)),
      fc.array(fc.nat(3), { minLength: 90 }),
      (was, some, to) => {
        const list = Uint32Array.from(some.filter((f) => f < was.length));
        const got = spansOf(Uint16Array.from(was), list, (_, f) => (to[f] === 3 ? null : to[f]!));
        const now = [...was];
        let end = -1;
        for (let i = 0; i < got.length; i += 4) {
          const [first, count, before, after] = got.slice(i, i + 4) as unknown as [number, number, number, number];
          expect(first > end || (first === end && (before !== got[i - 2] || after !== got[i - 1]))).toBe(true);
          for (let f = first; f < first + count; f++) [now[f]] = [was[f] === before ? after : -1];
          end = first + count;
        }
        expect(now).toEqual(was.map((v, f) => (list.includes(f) && to[f] !== 3 ? to[f] : v)));
      },
    ),
    { seed: 3, numRuns: 200 },
  );
});

it('corners are placed in spans of corners and of faces, with what was there before', () => {
  const mesh = meshFromLists({
    positions: grid(3).positions,
    faces: [
      [0, 4, 5, 1],
      [1, 5, 6],
      [2, 6, 3],
      [4, 8, 9, 5],
    ],
  });
  const at = Float32Array.from({ length: 28 }, (_, i) => i / 32);
  const edit = placeFaces('m', { ...emptySeats(4), at }, mesh.faceStart, Uint32Array.of(3, 0, 1), [0.25, 0.75])!;
  expect([[...edit.spans], [...edit.faces!], edit.corners]).toEqual([[0, 7, 10, 4], [0, 2, 3, 1], 14]);
  expect([...edit.before!]).toEqual([...at.slice(0, 14), ...at.slice(20, 28)]);
  expect([...edit.after!]).toEqual(Array.from({ length: 22 }, (_, i) => (i % 2 ? 0.75 : 0.25)));
  // Without coordinates all are in the middle; nothing changes only where nothing differs, in either direction.
  expect(placeFaces('m', emptySeats(4), mesh.faceStart, Uint32Array.of(1), [0.5, 0.5])).toBeNull();
  expect(placeFaces('m', emptySeats(4), mesh.faceStart, Uint32Array.of(1), [0.5, 0.25])!.before).toBeNull();
  const halfway = placeCorners('m', emptySeats(4), mesh.faceStart, Uint32Array.of(1), (out, i, corner) =>
    out.set([corner === 4 ? 0.25 : 0.5, 0.5], i),
  );
  expect([...halfway!.after!]).toEqual([0.25, 0.5, 0.5, 0.5, 0.5, 0.5]);
});

it('a seat comes to lie on its texel: solid in the middle, gradients between texel centres, art from edge to edge', () => {
  const rect = { x: 2, y: 4, w: 5, h: 3 };
  const sheet = (fill: Fill): Sheet => {
    return { id: 's', name: '', width: 16, height: 8, padding: 0, filter: 'nearest', cells: [{ id: 1, rect, role: '', fill }], ramps: [] };
  };
  const texel = (fill: Fill, x: number, y: number) => {
    const out = new Float32Array(4).fill(9);
    placeOn(sheet(fill), sheet(fill).cells[0]!)(out, 1, x, y);
    expect([out[0], out[3]]).toEqual([9, 9]);
    return [out[1]! * 16, out[2]! * 8];
  };
  for (const fill of [solid('#112233'), { kind: 'spare' } as const]) expect(texel(fill, 0.9, 0.1)).toEqual([4.5, 5.5]);
  expect([0, 0.25, 1].map((t) => texel(gradient('x'), t, 0.9))).toEqual([2.5, 3.5, 6.5].map((u) => [u, 5.5]));
  expect([0, 0.5, 1].map((t) => texel(gradient('y'), 0.9, t))).toEqual([4.5, 5.5, 6.5].map((v) => [4.5, v]));
  expect(texel(corners, 0.25, 1)).toEqual([3.5, 6.5]);
  expect(texel(art, 0.2, 1 / 3).map((v) => Math.round(v * 1e4) / 1e4)).toEqual([3, 5]);
  // On the border of two texels it is the second one, and by a hair only.
  expect(texel(gradient('x'), 0.125, 0)[0]).toBeCloseTo(3 + 1 / 128, 6);
  expect(texel(gradient('x'), 0.125 + 1 / 2000, 0)[0]).toBeCloseTo(3 + 1 / 128, 6);
  expect(texel(gradient('x'), 0.125 + 1 / 1000, 0)[0]).toBeCloseTo(3.004, 6);
  expect(texel(gradient('x'), 0.13, 0)[0]).toBeCloseTo(3.02, 5);
  // Faces on no cell of the sheet keep what they have.
  const base = Float32Array.from({ length: 32 }, (_, i) => i);
  const cell = Uint16Array.of(0, 1, 7, 0);
  const uvs = layoutUvs(grid(2), { ...emptySeats(4), cell }, sheet(solid('#112233')), base);
  expect([...uvs]).toEqual([...base].map((v, i) => (i >= 8 && i < 16 ? [4.5 / 16, 5.5 / 8][i % 2] : v)));
  expect(base[8]).toBe(8);
});

const kitOf = (mesh: PolyMesh, fills: Fill[], cell: number[], at?: Float32Array): KitState => {
  const kit = newKit('Skerry');
  const sheet: Sheet = {
    ...kit.sheets[0]!,
    width: 16,
    height: 4,
    cells: fills.map((fill, i): Cell => ({ id: i + 1, rect: { x: i * 4, y: 0, w: 4, h: 4 }, role: `r${i + 1}`, fill })),
    ramps: [],
  };
  const model = { id: 'm', name: 'Rock', sheet: sheet.id, faces: cell.length, regions: [], slots: [], seams: [] } as unknown as Model;
  const seats = { ...emptySeats(cell.length), cell: Uint16Array.from(cell), ...(at && { at }) };
  return { kit: { ...kit, sheets: [sheet], models: [model], nextCell: fills.length + 1 }, seats: byId({ m: seats }) };
};

it('faces of some cells move to another, and those of others stay', () => {
  const { kit, seats } = kitOf(grid(2), [solid('#111111'), solid('#222222'), solid('#333333')], [1, 2, 3, 2]);
  expect(moveFaces({ kit, seats }, new Map([[2, 3]]))).toEqual([
    { kind: 'seat', model: 'm', spans: Uint32Array.of(1, 1, 2, 3, 3, 1, 2, 3) },
  ]);
  expect(moveFaces({ kit, seats }, new Map([[9, 3]]))).toEqual([]);
});

it('faces on gradients show the texel under their middle; others none of them', () => {
  const mesh = grid(2);
  const at = new Float32Array(32).fill(0.5);
  // The mean of its corners: a third of the way over four texels.
  at.set([0, 0, 0, 0, 2 / 3, 0, 2 / 3, 0], 0);
  at.set([1, 0, 1, 0, 1, 0, 1, 0], 8);
  const { kit, seats } = kitOf(mesh, [gradient('x'), solid('#00ff00')], [1, 1, 2, 0], at);
  expect([...colorsOfFaces(kit, mesh, seats.m!, new Map())]).toEqual([
    ...[85, 0, 0, 255],
    ...[255, 0, 0, 255],
    ...[0, 0, 0, 0],
    ...[0, 0, 0, 0],
  ]);
  expect([...texturedCells(kit)]).toEqual([0, 1, 0]);
  expect(hasTexturedFaces(texturedCells(kit), seats.m!)).toBe(true);
  expect(hasTexturedFaces(texturedCells(kit), { ...emptySeats(2), cell: Uint16Array.of(2, 0) })).toBe(false);
});

it('seats on art share texels where they truly lie over each other, turned ones too', () => {
  const mesh = grid(2);
  /** A square on a corner: its middle, and how far its corners are from it. */
  const diamond = (x: number, y: number, r: number) => [x, y - r, x + r, y, x, y + r, x - r, y];
  const square = (x: number, y: number, r: number) => [x - r, y - r, x + r, y - r, x + r, y + r, x - r, y + r];
  const share = (...seats: number[][]) => {
    const at = Float32Array.from([...seats, ...Array.from({ length: 4 - seats.length }, () => square(9, 9, 0.1))].flat());
    const { kit, seats: own } = kitOf(mesh, [art], [1, 1, 1, 1], at);
    return [...sharedTexels(kit, mesh, own.m!, 0)];
  };
  // Bounds overlap at their corners, the diamonds do not, until they are near enough.
  const one = diamond(0.3, 0.3, 0.2);
  expect(share(one, diamond(0.55, 0.55, 0.2))).toEqual([]);
  expect(share(one, diamond(0.49, 0.49, 0.2))).toEqual([1]);
  for (const [x, y] of [
    [1, 1],
    [1, -1],
    [-1, 1],
    [-1, -1],
  ] as const) {
    expect(share(one, diamond(0.3 + 0.21 * x, 0.3 + 0.21 * y, 0.2))).toEqual([]);
    expect(share(one, square(0.3 + 0.17 * x, 0.3 + 0.17 * y, 0.05))).toEqual([]);
    expect(share(one, square(0.3 + 0.13 * x, 0.3 + 0.13 * y, 0.05))).toEqual([1]);
  }
  for (const [x, y] of [
    [1, 0],
    [-1, 0],
    [0, 1],
    [0, -1],
  ] as const) {
    // Side by side, then a little into each other, then clear of each other.
    expect(share(square(0.5, 0.5, 0.1), square(0.5 + 0.2 * x, 0.5 + 0.2 * y, 0.1))).toEqual([]);
    expect(share(square(0.5, 0.5, 0.1), square(0.5 + 0.19 * x, 0.5 + 0.19 * y, 0.1))).toEqual([1]);
    expect(share(square(0.5, 0.5, 0.1), square(0.5 + 0.3 * x, 0.5 + 0.3 * y, 0.1))).toEqual([]);
    // A seat that is only a point shares what it lies on, its border as well.
    expect(share(square(0.5, 0.5, 0.1), square(0.5 + 0.1 * x, 0.5 + 0.1 * y, 0))).toEqual([1]);
    expect(share(square(0.5, 0.5, 0.1), square(0.5 + 0.11 * x, 0.5 + 0.11 * y, 0))).toEqual([]);
  }
  expect(share(square(0.5, 0.5, 0.2), square(0.5, 0.5, 0.1), square(0.2, 0.2, 0.1), square(0.6, 0.6, 0.2))).toEqual([1, 3]);
  const bare = kitOf(mesh, [art, gradient('x')], [1, 1, 2, 0]);
  expect([0, 2, 3].map((f) => [...sharedTexels(bare.kit, mesh, bare.seats.m!, f)])).toEqual([[1], [], []]);
});

it('tells the colors that a file came with: flat materials that have faces, and means of vertex colors', () => {
  const slot = (name: string, more = {}) => ({ name, color: '#aa0000' as const, given: true, ...more });
  const mesh = {
    ...grid(2),
    faceSlot: Uint16Array.of(3, 0, 3, 1),
    slots: [slot('tar'), slot('board', { picture: 'a' }), slot('unused'), slot('rope'), slot('none', { given: false })],
  } as unknown as PolyMesh;
  expect(materialColors(mesh)).toEqual([
    { name: 'tar', color: '#aa0000', faces: Uint32Array.of(1) },
    { name: 'rope', color: '#aa0000', faces: Uint32Array.of(0, 2) },
  ]);
  const cornerColors = new Uint8Array(64).fill(255);
  const corner = (c: number, rgb: number[]) => cornerColors.set(rgb, c * 4);
  for (let k = 0; k < 4; k++) corner(k, [10 * k, 100 + k, 40]);
  for (let k = 4; k < 16; k++) corner(k, [200, 20, 20]);
  const colored = { ...grid(2), cornerColors };
  expect([faceVertexColor(colored, 0), faceVertexColor(colored, 1)]).toEqual([
    [15, 102, 40],
    [200, 20, 20],
  ]);
  const { colors, maxError, meanError } = vertexColorGroups(colored, 2);
  expect(colors.map((c) => c.name)).toEqual(['vertex color 1', 'vertex color 2']);
  expect(Object.fromEntries(colors.map((c) => [c.color, [...c.faces]]))).toEqual({ '#c81414': [1, 2, 3], '#0f6628': [0] });
  expect([maxError, meanError].map((e) => e < 1e-3)).toEqual([true, true]);
  expect(vertexColorGroups(grid(2), 2)).toEqual({ colors: [], maxError: 0, meanError: 0 });
});

it('finds the exact and the nearest cell, and leaves locked faces and what is far alone', () => {
  const mesh = grid(2);
  const state = kitOf(mesh, [solid('#202020'), solid('#303030'), gradient('x'), { kind: 'spare' }], [0, 0, 0, 0]);
  const [sheet] = state.kit.sheets as [Sheet];
  expect(matchCells(sheet, [{ color: '#303030' }, { color: '#212121' }]).map(({ exact, nearest }) => [exact, nearest])).toEqual([
    [2, 2],
    [null, 1],
  ]);
  expect(matchCells({ ...sheet, cells: [] }, [{ color: '#303030' }])).toEqual([{ exact: null, nearest: null, distance: Infinity }]);
  const ask = (color: `#${string}`, mergeNear: boolean) =>
    JSON.stringify(seatColors(state, 'm', [{ name: 'tar', color, faces: Uint32Array.of(1) }], { mergeNear }));
  expect(matchCells(sheet, [{ color: '#212121' }])[0]!.distance).toBeLessThan(nearDistance);
  expect(ask('#212121', true)).not.toContain('put');
  expect(ask('#212121', false)).toContain('put');
  expect(ask('#ff2121', true)).toContain('put');
  expect(ask('#202020', false)).not.toContain('put');
  state.kit.models[0]!.regions = [{ id: 1, name: 'lid', cell: 0, locked: true }];
  state.seats.m!.region[1] = 1;
  expect(seatColors(state, 'm', [{ name: 'tar', color: '#ff2121', faces: Uint32Array.of(1) }])).toBeNull();
  // A color without faces gets its cell all the same.
  expect(seatColors(state, 'm', [{ name: 'tar', color: '#ff2121', faces: new Uint32Array() }])).not.toBeNull();
});

it('the longest way is exactly that of a box, however it is turned, and runs up, else right, else to the front', () => {
  const sizes = [2, 7, 3];
  const turned = (m: number[][]) =>
    meshFromLists({
      positions: Array.from({ length: 8 }, (_, i) => sizes.map((s, k) => ((i >> k) & 1 ? s : 0) + 4)).flatMap((p) =>
        m.map((row) => row.reduce((sum, v, k) => sum + v * p[k]!, 0)),
      ),
      faces: boxFaces,
    });
  const line = (mesh: PolyMesh) => {
    const faces = Uint32Array.of(0, 1, 2, 3, 4, 5);
    const [from, to] = lineLike('long', { mesh, adjacency: adjacencyOf(mesh), faces, screenUp: [0, 1, 0] });
    return [0, 1, 2].map((k) => Math.round((to[k]! - from[k]!) * 1e4) / 1e4);
  };
  // The long side of the box along each axis, either way round.
  const unit = [
    [1, 0, 0],
    [0, 1, 0],
    [0, 0, 1],
  ];
  for (const sign of [1, -1])
    expect([0, 1, 2].map((k) => line(turned(unit.map((_, r) => unit[(r + 3 - k + 1) % 3]!.map((v) => v * sign)))).map(Math.abs))).toEqual(
      [0, 1, 2].map((k) => [0, 1, 2].map((r) => ((r + 3 - k + 1) % 3 === 1 ? 7 : 0))),
    );
  expect(
    line(
      turned([
        [0, -1, 0],
        [1, 0, 0],
        [0, 0, 1],
      ]),
    ),
  ).toEqual([7, 0, 0]);
  expect(
    line(
      turned([
        [1, 0, 0],
        [0, -1, 0],
        [0, 0, 1],
      ]),
    ),
  ).toEqual([0, 7, 0]);
  expect(
    line(
      turned([
        [1, 0, 0],
        [0, 0, 1],
        [0, -1, 0],
      ]),
    ),
  ).toEqual([0, 0, 7]);
  const [c, s] = [Math.cos(0.7), Math.sin(0.7)];
  const leaning = [
    [c, -s, 0],
    [s * c, c * c, -s],
    [s * s, s * c, c],
  ];
  const exact = leaning.map((row) => Math.round(row[1]! * 7 * 1e4) / 1e4);
  expect(line(turned(leaning)).map((v, k) => Math.abs(v - exact[k]!) < 2e-3)).toEqual([true, true, true]);
  const down = leaning.map((row) => row.map((v) => -v));
  expect(line(turned(down)).map((v, k) => Math.abs(v - exact[k]!) < 2e-3)).toEqual([true, true, true]);
  const mesh = turned(leaning);
  const run = runOf(mesh, adjacencyOf(mesh), Uint32Array.of(0, 1, 2, 3, 4, 5), { ...plainLaying, rule: 'long' });
  expect([...mesh.cornerVertex].every((v, corner) => Math.abs(run[corner]! - (v & 2 ? 1 : 0)) < 1e-3)).toBe(true);
});
