import { modelOf } from '@tests/parts';
import { byId } from '@/core/ground/byId';
import fc from 'fast-check';
import { expect, it } from 'vitest';
import { box, boxFaces, grid } from '@tests/meshes';
import { emptySeats, type KitState, type Model, type Seats } from '../../kit/kit';
import { meshFromLists } from '../../shapes/mesh/build';
import { distanceToTriangle } from '../../shapes/mesh/distance';
import { cornerRun } from '../../shapes/mesh/faceOrigins';
import type { PolyMesh } from '../../shapes/mesh/polyMesh';
import { triangulate } from '../../shapes/mesh/triangulate';
import { adjacencyOf } from '../../shapes/mesh/adjacency';
import { newKit } from '../../sheet/starter';
import { applyEdit } from '../../kit/edit/editKinds';
import { carryColors, looksOf } from './carryColors';
import { carryAll, remeshedFrom } from './carryModel';
import { carryPatch, carrySeats } from './carrySeats';
import { faceLookup } from './faceLookup';
import { matchFaces } from './matchFaces';

const apart = (): boolean => false;

it('finds exactly the faces that come within reach of a point, inside, beside edges and past corners', () => {
  const positions = [0, 0, 0, 3, 0, 0, 0, 0, 2, 4, 1, 4, 6, 1, 4, 5, 3, 4];
  const mesh = meshFromLists({
    positions,
    faces: [
      [0, 1, 2],
      [3, 4, 5],
    ],
  });
  const lookup = faceLookup(mesh, triangulate(mesh, adjacencyOf(mesh).normals));
  /** Least distance to a fine net of points of the triangle. */
  const net = 60;
  const far = (p: readonly number[], face: number) => {
    const [a, b, c] = [0, 1, 2].map((k) => positions.slice((face * 3 + k) * 3, (face * 3 + k) * 3 + 3)) as [number[], number[], number[]];
    let least = Infinity;
    for (let i = 0; i <= net; i++)
      for (let j = 0; i + j <= net; j++) {
        const at = [0, 1, 2].map((k) => a[k]! + ((b[k]! - a[k]!) * i + (c[k]! - a[k]!) * j) / net);
        least = Math.min(least, Math.hypot(at[0]! - p[0]!, at[1]! - p[1]!, at[2]! - p[2]!));
      }
    return least;
  };
  const number = fc.double({ min: -3, max: 8, noNaN: true });
  fc.assert(
    fc.property(fc.tuple(number, number, number), fc.double({ min: 0.05, max: 4, noNaN: true }), (p, reach) => {
      const found = lookup(p, reach);
      for (const face of [0, 1]) {
        const d = far(p, face);
        if (d < reach - 1e-6) expect(found).toContain(face);
        // The net is at most so coarse.
        if (d > reach + 0.06) expect(found).not.toContain(face);
      }
    }),
    { seed: 5, numRuns: 200 },
  );
  expect(lookup([1, 0.25, 0.5], 0.25)).toEqual([0]);
  expect(lookup([1, 0.25, 0.5], 0.2499)).toEqual([]);
  expect(lookup([-0.3, 0, -0.4], 0.5)).toEqual([0]);
  expect(lookup([3.3, 0, -0.4], 0.5)).toEqual([0]);
  expect(lookup([0, 0, 2.5], 0.4999)).toEqual([]);
  expect(lookup([1.5, 0, -0.5], 0.5)).toEqual([0]);
});

it('finds the same in its cubes as when all faces are looked at, each once, outside of the mesh and on its ends, too', () => {
  const number = fc.integer({ min: -8, max: 8 });
  const point = fc.tuple(number, number, number);
  fc.assert(
    fc.property(
      fc.array(fc.tuple(point, point, point), { minLength: 1, maxLength: 40 }),
      point,
      fc.integer({ min: 0, max: 5 }),
      (list, p, reach) => {
        // Quads of two triangles each, bent over their diagonal.
        const mesh = meshFromLists({
          positions: list.flatMap((t) => [...t, [0, 0, 0]].flat()),
          faces: list.map((_, f) => [0, 1, 2, 3].map((k) => f * 4 + k)),
        });
        const triangles = triangulate(mesh, adjacencyOf(mesh).normals);
        const at = (t: number, k: number) => [
          ...mesh.positions.subarray(mesh.cornerVertex[triangles.corners[t * 3 + k]!]! * 3).subarray(0, 3),
        ];
        const wanted = new Set([...triangles.face].filter((_, t) => distanceToTriangle(p, at(t, 0), at(t, 1), at(t, 2)) <= reach));
        expect(faceLookup(mesh, triangles)(p, reach).sort((a, b) => a - b)).toEqual([...wanted].sort((a, b) => a - b));
      },
    ),
    { seed: 7, numRuns: 100 },
  );
});

/** A square of one metre whose corners lie at the places in their cell that they have in the world. */
const square = meshFromLists({ positions: [0, 0, 0, 0, 0, 1, 1, 0, 1, 1, 0, 0], faces: [[0, 1, 2, 3]] });
const onSquare: Seats = {
  ...emptySeats(1),
  cell: Uint16Array.of(7),
  region: Uint16Array.of(3),
  at: Float32Array.of(0, 0, 0, 1, 1, 1, 1, 0),
};

it('gives pieces of a cut face the places in their cell that they had, and a corner that slid away the nearest', () => {
  const positions = [0, 0, 0, 0, 0, 1, 1, 0, 1, 1, 0, 0, 0.25, 0, 0, 0.25, 0, 1, 0.25, 0, 0.75, 2, 0, 0.5];
  const cut = meshFromLists({
    positions,
    faces: [
      [0, 1, 5, 4],
      [4, 5, 2, 3],
      [4, 6, 3],
      [3, 2, 7],
    ],
  });
  const origins = { from: Int32Array.of(0, 0, 0, -1) };
  const carried = carrySeats(onSquare, square, cut, origins);
  expect([...carried.cell]).toEqual([7, 7, 7, 0]);
  expect([...carried.region]).toEqual([3, 3, 3, 0]);
  const at = [...carried.at!].map((v) => Math.round(v * 1000) / 1000);
  const own = (...corners: number[]) => corners.flatMap((v) => [positions[v * 3]!, positions[v * 3 + 2]!]);
  expect(at.slice(0, 22)).toEqual(own(0, 1, 5, 4, 4, 5, 2, 3, 4, 6, 3));
  expect(at.slice(22)).toEqual([0.5, 0.5, 0.5, 0.5, 0.5, 0.5]);

  // Where the order is told, places say nothing; a frame says where the old corners are to be looked for.
  const told = carrySeats(onSquare, square, square, { from: Int32Array.of(0), order: Int8Array.of(cornerRun.turned) });
  expect([...told.at!]).toEqual([0, 0, 1, 0, 1, 1, 0, 1]);
  const moved: PolyMesh = { ...square, positions: square.positions.map((v) => v * 10 + 5) };
  const framed = carrySeats(onSquare, square, moved, { from: Int32Array.of(0), frame: moved.positions });
  expect([...framed.at!]).toEqual([...onSquare.at!]);

  const patch = { cell: Uint16Array.of(4), at: onSquare.at! };
  const piece = carryPatch(patch, square, cut, origins)!;
  expect([...piece.cell]).toEqual([4, 4, 4, 65535]);
  expect([...piece.at!].slice(0, 8)).toEqual(own(0, 1, 5, 4));
  expect([...piece.at!].slice(22).every((v) => Number.isNaN(v))).toBe(true);
  expect(carryPatch(patch, square, cut, { from: Int32Array.of(-1, -1, -1, -1) })).toBeUndefined();
});

it('takes faces for alike by cell, region and, on what differs from place to place, the one point where they sit', () => {
  const kit = newKit('Skerry');
  kit.sheets[0]!.cells[0]!.fill = { kind: 'corners', colors: ['#000000', '#ff0000', '#00ff00', '#0000ff'], mix: 'srgb' };
  const starts = Uint32Array.from({ length: 9 }, (_, f) => f * 3);
  const cell = Uint16Array.of(2, 2, 2, 1, 1, 1, 1, 1);
  const region = Uint16Array.of(0, 1, 0, 0, 0, 0, 0, 0);
  const at = new Float32Array(48).fill(0.5);
  // Face 5 sits at another point, 6 and 7 are laid out alike, but each is a look of its own.
  at.fill(0.25, 30, 36);
  for (const f of [6, 7]) at.set([0, 0, 1, 0, 1, 1], f * 6);
  const looks = [...looksOf(kit, { cell, region, at }, starts)];
  const alike = (f: number) => looks.flatMap((l, g) => (l === looks[f] ? [g] : []));
  expect([0, 1, 3, 5, 6, 7].map(alike)).toEqual([[0, 2], [1], [3, 4], [5], [6], [7]]);
  // A point differs by one of its two numbers, too.
  at[31] = at[33] = at[35] = 0.5;
  expect([...looksOf(kit, { cell, region, at }, starts)].slice(3, 6).map((l, _, all) => all.indexOf(l))).toEqual([0, 0, 2]);
  expect(new Set(looksOf(kit, { cell, region }, starts)).size).toBe(3);
});

const hull = { id: 4, name: 'hull', cell: 3 };
function twoModels(): KitState {
  const kit = newKit('Skerry');
  const model = (id: string, regions: Model['regions']) => modelOf(id, 3, kit.sheets[0]!.id, { mesh: id, regions });
  const given: Seats = { ...emptySeats(3), cell: Uint16Array.of(5, 0, 6), region: Uint16Array.of(4, 4, 0) };
  const own: Seats = { ...emptySeats(3), cell: Uint16Array.of(1, 1, 1), region: Uint16Array.of(0, 0, 2), rule: Uint16Array.of(1, 1, 1) };
  return {
    kit: {
      ...kit,
      models: [
        model('buoy', [hull, { id: 5, name: 'mast', cell: 2 }]),
        model('copy', [
          { id: 2, name: 'hull', cell: 9 },
          { id: 7, name: 'rope', cell: 1 },
        ]),
      ],
    },
    seats: byId({ buoy: given, copy: own }),
  };
}

it('brings colors and regions over by name, leaves what has no color there, and forgets the rules of what it colors', () => {
  const starts = Uint32Array.of(0, 3, 6, 9);
  const state = twoModels();
  // The first face came from the last, the second from one without a color, the third from none.
  const origins = { from: Int32Array.of(2, 1, -1) };
  const brought: Seats = { ...emptySeats(3), cell: Uint16Array.of(6, 0, 0), region: Uint16Array.of(4, 4, 0) };
  const { edit, carried } = carryColors(state, 'buoy', 'copy', origins, brought, starts);
  const after = applyEdit(state, edit);
  expect(carried).toBe(1);
  expect([...after.seats.copy!.cell]).toEqual([6, 1, 1]);
  // The hull there is the hull here, under its own number; what no face needs does not come.
  expect([...after.seats.copy!.region]).toEqual([2, 0, 2]);
  expect(after.kit.models[1]!.regions.map((r) => r.name)).toEqual(['hull', 'rope']);
  expect([...after.seats.copy!.rule!]).toEqual([0, 1, 1]);
  expect(after.seats.copy!.at).toBeUndefined();

  // With coordinates, those that are not brought stand in the middle; a region that is needed comes under a free number.
  const again = twoModels();
  again.kit.models[0]!.regions = [{ ...hull, name: 'keel' }];
  const at = Float32Array.from({ length: 18 }, (_, i) => i / 20);
  const placed = applyEdit(
    again,
    carryColors(again, 'buoy', 'copy', { from: Int32Array.of(-1, 0, 2) }, { ...brought, cell: Uint16Array.of(0, 5, 6), at }, starts).edit,
  );
  expect([...placed.seats.copy!.at!].map((v) => Math.round(v * 20) / 20)).toEqual([
    ...Array<number>(6).fill(0.5),
    ...Array.from({ length: 12 }, (_, i) => (i + 6) / 20),
  ]);
  expect(placed.kit.models[1]!.regions).toEqual([
    { id: 2, name: 'hull', cell: 9 },
    { id: 7, name: 'rope', cell: 1 },
    { id: 8, name: 'keel', cell: 3 },
  ]);
  expect([...placed.seats.copy!.region]).toEqual([0, 8, 2]);
});

it('remembers all that a model had before it takes another mesh', () => {
  const state = twoModels();
  const model: Model = { ...state.kit.models[0]!, placement: { upFromZ: true, scale: 2 }, picks: [{ id: 1, name: 'lid', spans: [0, 1] }] };
  const kept = remeshedFrom(state, model);
  expect(kept).toEqual({
    mesh: 'buoy',
    faces: 3,
    seats: state.seats.buoy,
    source: model.source,
    seams: [],
    picks: model.picks,
    placement: model.placement,
  });
  // Of its own: what is colored later changes nothing of it.
  expect(kept.seats.cell).not.toBe(state.seats.buoy!.cell);
  expect('placement' in remeshedFrom(state, state.kit.models[0]!)).toBe(false);
  expect(remeshedFrom(state, state.kit.models[0]!).picks).toEqual([]);
});

it('says how it knew each face, in which frame and in which order of corners', () => {
  const still = grid(3);
  const same = matchFaces(still, still, apart);
  expect(same.counts).toEqual({ place: 9, within: 0, moved: 0, order: 0 });
  expect([[...same.by], [...same.origins.order]]).toEqual([Array(9).fill(1), Array(9).fill(cornerRun.byPlace)]);
  expect(same.origins.frame).toBe(still.positions);

  // Every vertex went its own way: only the build is left, and corners go by their order.
  const bent = { ...still, positions: still.positions.map((v, i) => v + Math.sin(i * 12.9) * 0.4) };
  const built = matchFaces(still, bent, apart);
  expect(built.counts.order).toBe(9);
  expect([...built.origins.order]).toEqual(Array(9).fill(cornerRun.same));
  // With one face fewer it is another build.
  const fewer = matchFaces(still, meshFromLists({ positions: bent.positions, faces: boxFaces.slice(0, 3) }), apart);
  expect([fewer.counts.order, fewer.unmatched.length]).toEqual([0, 3]);
});

it('looks in the frame of the same bounds only where the proportions are the same', () => {
  const crate = box();
  const sized = (x: number, y: number, z: number) => ({ ...crate, positions: crate.positions.map((v, i) => v * [x, y, z][i % 3]! + 3) });
  expect(matchFaces(crate, sized(4, 4, 4), apart).counts.place).toBe(6);
  expect(matchFaces(crate, sized(4, 4, 4.01), apart).counts.place).toBe(0);
  // Turned from Z up to Y up, and scaled as well.
  const lying = {
    ...crate,
    positions: Float32Array.from(crate.positions, (_, i) => {
      const [x, y, z] = [0, 1, 2].map((k) => crate.positions[i - (i % 3) + k]! * [1, 2, 3][k]!) as [number, number, number];
      return [x, z, -y][i % 3]! * 5;
    }),
  };
  const tall = { ...crate, positions: crate.positions.map((v, i) => v * [1, 2, 3][i % 3]!) };
  expect(matchFaces(tall, lying, apart).counts.place).toBe(6);
});

it('takes of two faces in one place the one that faces the same way, and a part that was turned for what it was', () => {
  const skins = meshFromLists({ positions: [0, 0, 0, 1, 0, 0, 1, 1, 0, 0, 1, 0], faces: [[0, 1, 2, 3], [3, 2, 1, 0]] }); // prettier-ignore
  const back = meshFromLists({ positions: skins.positions, faces: [[2, 1, 0, 3]] });
  expect([...matchFaces(skins, back, apart).origins.from]).toEqual([1]);

  // A part of unequal sides, turned by a quarter and moved, beside one that stayed.
  const wedge = [0, 0, 0, 3, 0, 0, 3, 0, 1, 0, 0, 2, 0, 1, 0];
  const faces = [[0, 1, 2, 3], [0, 4, 1], [1, 4, 2], [2, 4, 3], [3, 4, 0]]; // prettier-ignore
  const two = (second: number[]) =>
    meshFromLists({ positions: [...wedge.map((v) => v + 20), ...second], faces: [...faces, ...faces.map((f) => f.map((v) => v + 5))] });
  const turned = wedge.flatMap((_, i) => (i % 3 ? [] : [wedge[i + 2]! + 9, wedge[i + 1]! - 4, -wedge[i]!]));
  const found = matchFaces(two(wedge), two(turned), apart);
  expect(found.counts).toMatchObject({ place: 5, moved: 5 });
  expect([...found.origins.from]).toEqual([0, 1, 2, 3, 4, 5, 6, 7, 8, 9]);
});

it('carries seams on edges whichever way a face runs now, and named picks on the faces that are known', () => {
  const before = grid(3);
  const order = Array.from({ length: 9 }, (_, f) => Array.from(before.cornerVertex.slice(f * 4, f * 4 + 4)));
  const after = meshFromLists({ positions: before.positions, faces: order.map(([a, b, c, d]) => [a!, d!, c!, b!]) });
  const origins = { from: Int32Array.from({ length: 9 }, (_, f) => (f === 8 ? -1 : f)), order: new Int8Array(9).fill(cornerRun.turned) };
  const seam = adjacencyOf(before).neighbour.findIndex((n, c) => n > c);
  const other = adjacencyOf(before).neighbour[seam]!;
  const model = { seams: [seam], picks: [{ id: 2, name: 'edge', spans: [0, 2, 7, 2] }] };
  const carried = carryAll(model, emptySeats(9), before, after, origins);
  const ends = (mesh: PolyMesh, c: number) => {
    const f = Math.floor(c / 4) * 4;
    return [mesh.cornerVertex[c]!, mesh.cornerVertex[f + ((c - f + 1) % 4)]!].sort((p, q) => p - q);
  };
  expect(ends(before, seam)).toEqual(ends(before, other));
  expect(carried.seams.map((c) => ends(after, c))).toEqual([ends(before, seam)]);
  expect(carried.picks).toEqual([{ id: 2, name: 'edge', spans: [0, 2, 7, 1] }]);
  expect(carried.patches).toBeUndefined();
});

it('counts corners and rules of the old mesh from where its face begins, and mixes over the triangle in which a piece lies', () => {
  // A triangle comes first; the square behind it is not laid out evenly: its last corner lies at 0.4 instead of 0.
  const before = meshFromLists({
    positions: [9, 0, 9, 9, 0, 8, 8, 0, 9, 0, 0, 0, 0, 0, 1, 1, 0, 1, 1, 0, 0],
    faces: [
      [0, 1, 2],
      [3, 4, 5, 6],
    ],
  });
  const seats: Seats = {
    ...emptySeats(2),
    cell: Uint16Array.of(2, 7),
    rule: Uint16Array.of(4, 6),
    at: Float32Array.of(0.1, 0.1, 0.2, 0.2, 0.3, 0.3, 0, 0, 0, 1, 1, 1, 1, 0.4),
  };
  const after = meshFromLists({ positions: [0, 0, 0, 0, 0, 1, 1, 0, 0.5, 0.2, 0, 0.7, 0.7, 0, 0.1], faces: [[0, 1, 2], [3, 4, 2], [2, 1, 0]] }); // prettier-ignore
  const carried = carrySeats(seats, before, after, { from: Int32Array.of(1, 1, -1) });
  expect([[...carried.cell], [...carried.rule!]]).toEqual([
    [7, 7, 0],
    [6, 6, 0],
  ]);
  // Of the two triangles one holds 0.2, 0.7 and the other 0.7, 0.1; on the edge between both it is the same.
  const [first, second] = triangulate(before, adjacencyOf(before).normals).corners.slice(3, 6).includes(6) ? [0.78, 0.38] : [0.7, 0.34];
  const at = [...carried.at!].map((v) => Math.round(v * 1000) / 1000);
  expect(at).toEqual([0, 0, 0, 1, 1, 0.7, 0.2, first, 0.7, second, 1, 0.7, 0.5, 0.5, 0.5, 0.5, 0.5, 0.5]);

  const told = carrySeats(seats, before, before, { from: Int32Array.of(0, 1), order: Int8Array.of(cornerRun.turned, cornerRun.turned) });
  expect([...told.at!].map((v) => Math.round(v * 10) / 10)).toEqual([0.1, 0.1, 0.3, 0.3, 0.2, 0.2, 0, 0, 1, 0.4, 1, 1, 0, 1]);
  expect(carrySeats({ ...emptySeats(2), rule: new Uint16Array(2) }, before, before, { from: Int32Array.of(0, 1) }).rule).toBeUndefined();

  const patch = { cell: Uint16Array.of(65535, 3), rule: Uint16Array.of(65535, 9) };
  expect(carryPatch(patch, before, after, { from: Int32Array.of(1, 0, -1) })).toEqual({
    cell: Uint16Array.of(3, 65535, 65535),
    rule: Uint16Array.of(9, 65535, 65535),
  });
});

it('carries what variants say, leaves out those that say nothing any more, and keeps copies for the way back', () => {
  const before = grid(2);
  const patches = byId({ salt: { cell: Uint16Array.of(65535, 4, 5, 65535) }, fog: { cell: Uint16Array.of(6, 65535, 65535, 65535) } });
  const origins = { from: Int32Array.of(1, -1, 2, 1), order: new Int8Array(4).fill(cornerRun.same) };
  const carried = carryAll({ seams: [], picks: [], patches }, emptySeats(4), before, before, origins);
  expect(carried.patches).toEqual({ salt: { cell: Uint16Array.of(4, 65535, 5, 4) } });
  expect([carried.seams, carried.picks]).toEqual([[], []]);
  const state = {
    ...twoModels(),
    patches: byId({ salt: byId({ buoy: { cell: Uint16Array.of(1, 2, 3) } }), fog: byId({ copy: { cell: Uint16Array.of(1, 1, 1) } }) }),
  };
  const kept = remeshedFrom(state, state.kit.models[0]!);
  expect(kept.patches).toEqual({ salt: { cell: Uint16Array.of(1, 2, 3) } });
  expect(kept.patches!.salt!.cell).not.toBe(state.patches.salt.buoy.cell);
});

it('finds seams by the places of corners, ascending, on faces of as many corners alone', () => {
  const before = grid(3);
  const lists = Array.from({ length: 9 }, (_, f) => Array.from(before.cornerVertex.slice(f * 4, f * 4 + 4)));
  // The seam goes around the middle face; the new file begins its faces elsewhere, in another order, and one is cut.
  const { neighbour } = adjacencyOf(before);
  const seams = [16, 17, 18, 19].map((c) => Math.min(c, neighbour[c]!)).sort((p, q) => p - q);
  const turned = (f: number) => [...lists[f]!.slice(2), ...lists[f]!.slice(0, 2)];
  const order = [4, 8, 7, 5, 3, 2, 1, 0, 6];
  const after = meshFromLists({ positions: before.positions, faces: order.map((f) => (f === 8 ? turned(f).slice(0, 3) : turned(f))) });
  const ends = (mesh: PolyMesh, c: number) => {
    const f = mesh.faceStart.findLastIndex((start) => start <= c);
    const next = c + 1 < mesh.faceStart[f + 1]! ? c + 1 : mesh.faceStart[f]!;
    return [mesh.cornerVertex[c]!, mesh.cornerVertex[next]!].sort((p, q) => p - q).join('-');
  };
  const wanted = seams.map((c) => ends(before, c)).sort();
  for (const from of [order, order.map((f) => (f === 4 ? -1 : f)), order.map((f) => (f === 8 ? 4 : f))]) {
    const carried = carryAll({ seams }, emptySeats(9), before, after, { from: Int32Array.from(from) }).seams;
    // Known from either of its two faces.
    expect(carried.map((c) => ends(after, c)).sort()).toEqual(wanted);
    expect([...carried].sort((p, q) => p - q)).toEqual(carried);
  }
  // With neither of them known there is none.
  expect(
    carryAll({ seams }, emptySeats(9), before, after, { from: Int32Array.from(order, (f) => ([4, 1, 3, 5, 7].includes(f) ? -1 : f)) })
      .seams,
  ).toEqual([]);
});

it('tells how far it is, every 4,096 faces of each way of matching', () => {
  const told = (before: PolyMesh, after: PolyMesh) => {
    const shares: number[] = [];
    matchFaces(
      before,
      after,
      () => false,
      (share) => shares.push(share),
    );
    return shares;
  };
  const wide = grid(65);
  expect(told(wide, wide)).toEqual([0, 4096 / 4225 / 4]);
  // What is found nowhere is looked for in place, within, and on parts that moved.
  expect(told(grid(2), box(0.3))).toEqual([0, 0.25, 0.5]);
});
