import { describe, expect, it, vi } from 'vitest';
import { byId } from '@/core/ground/byId';
import { modelOf } from '@tests/parts';
import { box, grid } from '@tests/meshes';
import { applyEdit } from '../kit/edit/editKinds';
import { emptySeats, type Cell, type Fill, type KitState, type Sheet } from '../kit/kit';
import { adjacencyOf } from '../shapes/mesh/adjacency';
import { meshFromLists } from '../shapes/mesh/build';
import type { PolyMesh } from '../shapes/mesh/polyMesh';
import { triangulate } from '../shapes/mesh/triangulate';
import { newKit } from '../sheet/starter';
import { fitted, layAt, moved, noMove, tooNear } from './arrangeIslands';
import { islandsOf, sidesOf, type Island } from './islandsOf';
import { layOut } from './layOut';
import { seatAt, texelOf, texelsOf } from './texels';

const art: Fill = { kind: 'art', picture: 'a' };
const corners: Fill = { kind: 'corners', colors: ['#000000', '#ffffff', '#ff0000', '#0000ff'], mix: 'oklab' };
const cellOf = (id: number, fill: Fill, [x, y, w, h]: [number, number, number, number]): Cell => ({
  id,
  rect: { x, y, w, h },
  role: '',
  fill,
});
const sheetOf = (...cells: Cell[]): Sheet => ({
  id: 's',
  name: 'S',
  width: 32,
  height: 32,
  padding: 0,
  filter: 'nearest',
  cells,
  ramps: [],
});
const surfaceOf = (mesh: PolyMesh) => ({ mesh, adjacency: adjacencyOf(mesh), triangles: triangulate(mesh) });
const all = (mesh: PolyMesh) => Uint32Array.from({ length: mesh.faceStart.length - 1 }, (_, f) => f);
/** Each corner where it lies on the floor, in parts of 8 m. */
const flat = (mesh: PolyMesh) =>
  Float32Array.from([...mesh.cornerVertex].flatMap((v) => [mesh.positions[v * 3]! / 8, mesh.positions[v * 3 + 2]! / 8]));

describe('islands and their sides', () => {
  const mesh = grid(3);
  const sheet = sheetOf(cellOf(1, art, [0, 0, 8, 8]), cellOf(2, art, [8, 0, 8, 8]));
  it('come with the largest first; an edge is joined up to a thousandth of a texel at both ends', () => {
    const adjacency = adjacencyOf(mesh);
    // A column of its own, and the others.
    const cell = Uint16Array.from({ length: 9 }, (_, f) => (f % 3 === 0 ? 1 : 2));
    const at = flat(mesh);
    const { islands, texels } = islandsOf(adjacency, { ...emptySeats(9), cell, at }, sheet);
    expect(islands.map((i) => [i.cell, ...i.faces])).toEqual([
      [2, 1, 2, 4, 5, 7, 8],
      [1, 0, 3, 6],
    ]);
    expect(islands.map((i) => i.bounds)).toEqual([
      [9, 11, 0, 3],
      [0, 1, 0, 3],
    ]);
    // Three across and two down: all around, and between.
    const sides = islands.map((i) => sidesOf(adjacency, i, texels));
    expect(sides.map((s) => [s.outside.length, s.inside.length])).toEqual([
      [10, 7],
      [8, 2],
    ]);
    for (const { inside } of sides) for (const c of inside) expect(adjacency.neighbour[c]!).toBeGreaterThan(c);
    // The first corner's edge, and the last face's, are as good as others.
    const one = { ...emptySeats(9), cell: new Uint16Array(9).fill(1), at };
    expect(islandsOf(adjacency, one, sheet).islands.map((i) => i.faces.length)).toEqual([9]);
    for (const [k, off, count] of [
      [0, 0.0008, 1],
      [1, 0.0008, 1],
      [0, 0.0012, 2],
      [1, 0.0012, 2],
      [0, -0.0012, 2],
      [1, -0.0012, 2],
    ] as const) {
      // The face in the corner has moved as a whole, so that both its edges are apart.
      const apart = at.slice();
      for (let c = 0; c < 4; c++) apart[c * 2 + k]! += off / 8;
      const found = islandsOf(adjacency, { ...one, at: apart }, sheet);
      expect(found.islands).toHaveLength(count);
      expect(sidesOf(adjacency, found.islands[0]!, found.texels).outside).toHaveLength(12);
    }
    // One end of each of its edges alone has moved, and parts them.
    const open = at.slice();
    for (let c = 0; c < 4; c++)
      if (mesh.positions[mesh.cornerVertex[c]! * 3] === 1 && mesh.positions[mesh.cornerVertex[c]! * 3 + 2] === 1) open[c * 2]! -= 0.05;
    expect(islandsOf(adjacency, { ...one, at: open }, sheet).islands.map((i) => [...i.faces])).toEqual([[1, 2, 3, 4, 5, 6, 7, 8], [0]]);
  });

  it('are joined over a face that runs the other way', () => {
    const pair = meshFromLists({
      positions: [0, 0, 0, 0, 0, 1, 1, 0, 1, 1, 0, 0, 2, 0, 1, 2, 0, 0],
      faces: [[0, 1, 2, 3], [3, 2, 4, 5].reverse()],
    });
    const turned = { ...emptySeats(2), cell: Uint16Array.of(1, 1), at: flat(pair) };
    const adjacency = adjacencyOf(pair);
    expect(adjacency.against.includes(1)).toBe(true);
    expect(islandsOf(adjacency, turned, sheet).islands).toHaveLength(1);
    turned.at[14]! += 0.1;
    expect(islandsOf(adjacency, turned, sheet).islands).toHaveLength(2);
  });
});

it('coordinates lie where their kind of cell says, and come back from there', () => {
  const places: [Cell, [number, number], [number, number]][] = [
    [cellOf(1, corners, [4, 8, 5, 3]), [0.25, 1], [5.5, 10.5]],
    [cellOf(2, { ...art, repeats: true } as Fill, [4, 8, 8, 2]), [1.5, -0.5], [16, 7]],
    [cellOf(3, art, [4, 8, 8, 2]), [0.25, 0.5], [6, 9]],
    [cellOf(4, { kind: 'solid', color: '#112233' }, [4, 8, 8, 2]), [0.5, 0.5], [8, 9]],
  ];
  for (const [cell, seat, texel] of places) {
    expect(texelOf(cell, ...seat)).toEqual(texel);
    expect(seatAt(cell, ...texel)).toEqual(seat);
  }
  // What lies outside comes to the border, and of one texel there is the middle alone.
  expect(seatAt(places[2]![0], 3, 11)).toEqual([0, 1]);
  expect(seatAt(cellOf(5, corners, [4, 8, 1, 3]), 4.1, 8.5)).toEqual([0.5, 0]);
  const mesh = grid(1);
  const sheet = sheetOf(cellOf(1, art, [4, 8, 8, 2]));
  expect([...texelsOf(sheet, { cell: Uint16Array.of(1) }, mesh.faceStart, [0])]).toEqual([8, 9, 8, 9, 8, 9, 8, 9]);
  expect([...texelsOf(sheet, { cell: Uint16Array.of(9) }, mesh.faceStart, [0])]).toEqual(new Array(8).fill(0));
});

describe('laying out', () => {
  it('along seams tells how far it is, and cuts only at those', () => {
    const surface = surfaceOf(grid(2));
    const onStep = vi.fn();
    const whole = layOut(surface, all(surface.mesh), { kind: 'seams', seams: new Uint32Array(0), mayCut: false }, onStep);
    expect('islands' in whole && whole.islands.map((i) => i.length)).toEqual([4]);
    expect(onStep).toHaveBeenCalled();
    expect('closed' in layOut(surfaceOf(box()), all(box()), { kind: 'seams', seams: new Uint32Array(0), mayCut: false })).toBe(true);
  });

  it('from the sides of a box sees each face straight on from its own side, at its size and not mirrored', () => {
    const surface = surfaceOf(box(2));
    const out = layOut(surface, all(surface.mesh), { kind: 'box' });
    if (!('islands' in out)) throw new Error('refused');
    expect(out.islands.map((i) => [...i])).toEqual([[0], [1], [2], [3], [4], [5]]);
    for (let f = 0; f < 6; f++) {
      const p = [...out.places.subarray(f * 8, f * 8 + 8)];
      // Twice the area, by its sign the side from which it is seen; places run down.
      const twice = [0, 1, 2, 3].reduce((sum, k) => sum + p[k * 2]! * p[((k + 1) % 4) * 2 + 1]! - p[((k + 1) % 4) * 2]! * p[k * 2 + 1]!, 0);
      expect(twice).toBeCloseTo(-8, 4);
    }
  });

  it('around tells of faces that come to lie with their back up, and lays ends straight on', () => {
    // A tube of 8 quads, closed by two octagons; of the second tube the quads face inward.
    const ring = (y: number) => Array.from({ length: 8 }, (_, i) => [Math.cos((i * Math.PI) / 4), y, Math.sin((i * Math.PI) / 4)]).flat();
    const quads = Array.from({ length: 8 }, (_, i) => [i, i + 8, ((i + 1) % 8) + 8, (i + 1) % 8]);
    const ends = [
      [0, 1, 2, 3, 4, 5, 6, 7],
      [15, 14, 13, 12, 11, 10, 9, 8],
    ];
    const tube = (faces: number[][]) => surfaceOf(meshFromLists({ positions: [...ring(0), ...ring(4)], faces: [...faces, ...ends] }));
    const laid = (surface: ReturnType<typeof tube>) => {
      const out = layOut(surface, all(surface.mesh), { kind: 'around' });
      if (!('islands' in out)) throw new Error('refused');
      return out;
    };
    const out = laid(tube(quads));
    expect([out.flipped, out.islands.map((i) => i.length)]).toEqual([0, [8, 1, 1]]);
    const rolled = [...out.places.subarray(0, 64)];
    const [xs, ys] = [0, 1].map((k) => rolled.filter((_, i) => i % 2 === k)) as [number[], number[]];
    expect(Math.max(...ys) - Math.min(...ys)).toBeCloseTo(4, 4);
    expect(Math.max(...xs) - Math.min(...xs)).toBeGreaterThan(5.5);
    expect(laid(tube(quads.map((q) => [...q].reverse()))).flipped).toBe(16);
  });
});

describe('arranging', () => {
  const mesh = grid(1);
  const face = Uint32Array.of(0);
  const cell = cellOf(1, art, [8, 4, 16, 8]);
  /** Its corners at (10, 5), (10, 7), (14, 7), (14, 5). */
  const texels = Float32Array.of(10, 5, 10, 7, 14, 7, 14, 5);
  const rows = (t: Float32Array) => [...t].map((v) => Math.round(v * 1e4) / 1e4);

  it('fills a cell in proportion or stretched, about its middle; what has no extent keeps its size', () => {
    expect(rows(fitted(face, mesh.faceStart, texels, cell, 1))).toEqual([10, 5, 10, 11, 22, 11, 22, 5]);
    expect(rows(fitted(face, mesh.faceStart, texels, cell, 1, true))).toEqual([9, 5, 9, 11, 23, 11, 23, 5]);
    const line = Float32Array.of(10, 5, 10, 7, 10, 7, 10, 5);
    expect(rows(fitted(face, mesh.faceStart, line, cell, 0))).toEqual([16, 4, 16, 12, 16, 12, 16, 4]);
    expect(
      rows(
        fitted(
          face,
          mesh.faceStart,
          line.map((_, i) => (i % 2 ? 5 : 10)),
          cell,
          0,
          true,
        ),
      ),
    ).toEqual([16, 8, 16, 8, 16, 8, 16, 8]);
  });

  it('keeps what is moved inside, smaller where it must be', () => {
    const by = (x: number, y: number, size = 1) =>
      rows(moved(face, mesh.faceStart, texels, { ...noMove, by: [x, y], size: [size, size] }, cell, 1));
    expect(by(2, 1)).toEqual([12, 6, 12, 8, 16, 8, 16, 6]);
    expect(by(-9, 0)).toEqual([9, 5, 9, 7, 13, 7, 13, 5]);
    expect(by(0, 90)).toEqual([10, 9, 10, 11, 14, 11, 14, 9]);
    expect(by(0, 0, 8)).toEqual([9, 5, 9, 11, 21, 11, 21, 5]);
  });

  it('tells which islands come too near to a border, but of art that repeats', () => {
    const at = (bounds: Island['bounds']): Island => ({ cell: 1, faces: face, bounds });
    const inside: Island['bounds'] = [9, 23, 5, 11];
    const near = inside.map((v, k) => inside.map((w, i) => (i === k ? v + (k % 2 ? 0.01 : -0.01) : w)) as Island['bounds']);
    const found = (of: Cell) => tooNear([at(inside), ...near.map(at)], new Map([[1, of]]), 1).map((i) => near.indexOf(i.bounds));
    expect(found(cell)).toEqual([0, 1, 2, 3]);
    expect(found({ ...cell, fill: { ...art, repeats: true } as Fill })).toEqual([]);
    expect(found({ ...cell, fill: corners })).toEqual([]);
  });

  it('lays open faces alone, by hand from then on, and nothing where all is as it was', () => {
    const kit = newKit('Skerry');
    const two = grid(2);
    const own = { ...cellOf(90, art, [64, 0, 16, 8]) };
    const model = modelOf('m', 4, kit.sheets[0]!.id, { mesh: 'x', regions: [{ id: 1, name: 'kept', cell: 0, locked: true }] });
    const sheets = [{ ...kit.sheets[0]!, width: 128, cells: [...kit.sheets[0]!.cells, own] }];
    const seats = { cell: new Uint16Array(4).fill(1), region: Uint16Array.of(0, 1, 0, 0), rule: Uint16Array.of(0, 0, 5, 0) };
    const state: KitState = { kit: { ...kit, sheets, models: [{ ...model, rules: [] }] }, seats: byId({ m: seats }) };
    const place = Float32Array.from({ length: 32 }, (_, i) => (i % 2 ? 2 : 68));
    const lay = (of: KitState) => layAt(of, 'm', two.faceStart, Uint32Array.of(0, 1, 2), 90, place, 'Lay');
    const after = applyEdit(state, lay(state)!);
    expect([...after.seats.m!.cell]).toEqual([90, 1, 90, 1]);
    expect([...after.seats.m!.at!.subarray(0, 4)]).toEqual([0.25, 0.25, 0.25, 0.25]);
    expect(after.seats.m!.rule?.some((r) => r)).toBeFalsy();
    expect(lay(after)).toBeNull();
  });
});
