import { byId } from '@/core/ground/byId';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { box, boxFaces, grid, triangulated } from '@tests/meshes';
import { applyEdit, inverseOf } from '../../kit/edit/editKinds';
import { adjacencyOf } from '../../shapes/mesh/adjacency';
import { borderOf } from '../../shapes/pick/edges';
import { emptySeats, type KitState, type Model, type Seats } from '../../kit/kit';
import { meshFromLists } from '../../shapes/mesh/build';
import { faceCount, type PolyMesh } from '../../shapes/mesh/polyMesh';
import { newKit } from '../../sheet/starter';
import { carryColors, looksOf, reread } from './carryColors';
import { carryAll } from './carryModel';
import { carrySeats } from './carrySeats';
import { matchFaces } from './matchFaces';

const facesOf = (mesh: PolyMesh) =>
  Array.from({ length: faceCount(mesh) }, (_, f) => Array.from(mesh.cornerVertex.slice(mesh.faceStart[f]!, mesh.faceStart[f + 1]!)));

/** Boxes of different lengths side by side. */
function boards(list: readonly { at: [number, number, number]; length: number }[]): PolyMesh {
  const positions: number[] = [];
  const faces: number[][] = [];
  list.forEach(({ at, length }, n) => {
    const p = box().positions;
    for (let v = 0; v < 8; v++) positions.push(p[v * 3]! * length + at[0], p[v * 3 + 1]! + at[1], p[v * 3 + 2]! * 0.5 + at[2]);
    for (const f of boxFaces) faces.push(f.map((v) => v + n * 8));
  });
  return meshFromLists({ positions, faces });
}

const seatsFor = (mesh: PolyMesh, cellOf: (f: number) => number): Seats => {
  const seats = emptySeats(faceCount(mesh));
  seats.cell.forEach((_, f) => (seats.cell[f] = cellOf(f)));
  return seats;
};
/** Cell 1 of it is a gradient. */
const kitWithGradient = newKit('Skerry');
kitWithGradient.sheets[0]!.cells[0]!.fill = { kind: 'corners', colors: ['#000000', '#ff0000', '#00ff00', '#0000ff'], mix: 'srgb' };

const matched = (before: PolyMesh, after: PolyMesh, seats: Seats) => {
  const looks = looksOf(kitWithGradient, seats, before.faceStart);
  return matchFaces(before, after, (f, g) => looks[f] === looks[g]);
};

describe('faces after a change outside', () => {
  it('are known again whatever their order, where the corners begin, and how the model was moved and scaled', () => {
    const bumpy = grid(5, (x, z) => Math.sin(x * 3 + z * z) * 0.4);
    const lists = facesOf(bumpy);
    fc.assert(
      fc.property(
        fc.shuffledSubarray([...lists.keys()], { minLength: 25, maxLength: 25 }),
        fc.constantFrom(0.01, 1, 100),
        fc.double({ min: -9, max: 9, noNaN: true }),
        (order, scale, shift) => {
          const after = meshFromLists({
            positions: Array.from(bumpy.positions, (v) => v * scale + shift * scale),
            faces: order.map((f) => [...lists[f]!.slice(f % 4), ...lists[f]!.slice(0, f % 4)]),
          });
          const { origins, unmatched } = matched(
            bumpy,
            after,
            seatsFor(bumpy, (f) => f + 1),
          );
          expect([...origins.from]).toEqual(order);
          expect(unmatched).toHaveLength(0);
        },
      ),
      { seed: 3, numRuns: 30 },
    );
    const lying = meshFromLists({
      positions: Array.from({ length: bumpy.positions.length }, (_, i) => {
        const [x, y, z] = [0, 1, 2].map((k) => bumpy.positions[Math.floor(i / 3) * 3 + k]!) as [number, number, number];
        return [x, -z, y][i % 3]!;
      }),
      faces: lists,
    });
    expect([
      ...matched(
        lying,
        bumpy,
        seatsFor(lying, (f) => f + 1),
      ).origins.from,
    ]).toEqual([...lists.keys()]);
  });

  it('are known where they were cut or joined, as far as no color has to be guessed', () => {
    const before = grid(4);
    const halves = seatsFor(before, (f) => (f % 4 < 2 ? 1 : 2));
    const cut = matched(before, triangulated(before), halves);
    expect([cut.counts.within, cut.unmatched.length]).toEqual([32, 0]);
    expect([...carrySeats(halves, before, triangulated(before), cut.origins).cell]).toEqual(
      Array.from({ length: 32 }, (_, t) => ((t >> 1) % 4 < 2 ? 1 : 2)),
    );
    // Two joined into one: of one color they are known, of two they are not.
    const join = (row: number, column: number) => {
      const lists = facesOf(before);
      const [a, b] = [lists[row * 4 + column]!, lists[row * 4 + column + 1]!];
      lists.splice(row * 4 + column, 2, [a[0]!, a[1]!, b[1]!, b[2]!, b[3]!, a[3]!]);
      return matched(before, meshFromLists({ positions: before.positions, faces: lists }), halves);
    };
    expect(join(1, 0).unmatched).toHaveLength(0);
    expect([...join(1, 1).unmatched]).toEqual([5]);
  });

  it('are known on parts that moved; what is new, or could be either of two, is not', () => {
    const before = boards([
      { at: [0, 0, 0], length: 2 },
      { at: [0, 3, 0], length: 3 },
      { at: [0, 6, 0], length: 4 },
    ]);
    const seats = seatsFor(before, (f) => f + 1);
    const after = boards([
      { at: [0, 0, 0], length: 2 },
      { at: [7, 3, 5], length: 3 },
      { at: [0, 6, 0], length: 5.5 },
    ]);
    const found = matched(before, after, seats);
    // The last board was lengthened: the end that stayed and the faces along it that lie on the former ones
    // are not all of it.
    expect([...found.origins.from.slice(0, 12)]).toEqual([0, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11]);
    expect(found.counts).toMatchObject({ place: 7, moved: 6, order: 5 });

    // Two boards of one shape change their places to where none was: which is which?
    const twins = boards([
      { at: [0, 0, 0], length: 2 },
      { at: [0, 3, 0], length: 2 },
    ]);
    const elsewhere = meshFromLists({
      positions: boards([
        { at: [9, 1, 4], length: 2 },
        { at: [-7, 9, 0], length: 2 },
      ]).positions,
      faces: [...facesOf(twins)].reverse(),
    });
    const striped = matched(
      twins,
      elsewhere,
      seatsFor(twins, (f) => (f < 6 ? 1 : 2)),
    );
    expect(striped.unmatched).toHaveLength(12);
    const plain = matched(
      twins,
      elsewhere,
      seatsFor(twins, () => 1),
    );
    expect(plain.unmatched).toHaveLength(0);
  });
});

it('guesses nothing where two faces of other colors lay in one place, and neither faces as the new one does', () => {
  // A wall of two skins, back to back, and a third face across the new one's way.
  const skins = meshFromLists({
    positions: [0, 0, 0, 1, 0, 0, 1, 1, 0, 0, 1, 0],
    faces: [
      [0, 1, 2, 3],
      [3, 2, 1, 0],
    ],
  });
  const seats = seatsFor(skins, (f) => f + 2);
  const one = meshFromLists({ positions: skins.positions, faces: [[1, 2, 3, 0]] });
  expect([...matched(skins, one, seats).origins.from]).toEqual([0]);
  const folded = { ...one, cornerVertex: Uint32Array.of(0, 2, 1, 3) };
  expect([...matched(skins, folded, seats).origins.from]).toEqual([-1]);
});

const stateOf = (models: { id: string; seats: Seats; mesh: string; regions?: Model['regions'] }[]): KitState => ({
  kit: {
    ...newKit('Skerry'),
    models: models.map(
      ({ id, mesh, seats, regions = [] }) =>
        ({
          id,
          name: id,
          mesh,
          faces: seats.cell.length,
          regions,
          slots: [],
          seams: [],
          source: { format: 'obj', name: `${id}.obj`, files: [] },
        }) as unknown as Model,
    ),
  },
  seats: byId(models.map((m) => [m.id, m.seats])),
});

it('reading again keeps colors, regions, seams and named picks, leaves new faces bare, and is undone exactly', () => {
  const before = grid(3);
  const seats = seatsFor(before, (f) => 1 + (f % 2));
  seats.region.set([1, 1, 1]);
  const state = stateOf([{ id: 'jetty', seats, mesh: 'old', regions: [{ id: 1, name: 'deck', cell: 1 }] }]);
  state.kit.models[0] = { ...state.kit.models[0]!, seams: [1], picks: [{ id: 1, name: 'edge', spans: [0, 2, 5, 1] }] };
  // Two of the faces are gone, and a post stands beside.
  const post = boxFaces.map((f) => f.map((v) => v + 16));
  const after = meshFromLists({
    positions: [...before.positions, ...box().positions.map((v, i) => v + (i % 3 === 1 ? 5 : 0))],
    faces: [...facesOf(before).slice(2), ...post],
  });
  const match = matched(before, after, seats);
  const source = { format: 'obj' as const, name: 'jetty.obj', files: [{ name: 'jetty.obj', content: 'new' }] };
  const carried = carryAll(state.kit.models[0]!, seats, before, after, match.origins);
  const edit = reread(state, 'jetty', carried, { address: 'new', source });
  const was = JSON.stringify(state);
  const next = applyEdit(state, edit);
  expect([...next.seats.jetty!.cell]).toEqual([1, 2, 1, 2, 1, 2, 1, 0, 0, 0, 0, 0, 0]);
  expect([...next.seats.jetty!.region]).toEqual([1, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0]);
  expect(next.kit.models[0]).toMatchObject({ mesh: 'new', faces: 13, source, picks: [{ name: 'edge', spans: [3, 1] }] });
  expect([...match.unmatched]).toEqual([7, 8, 9, 10, 11, 12]);
  const back = applyEdit(next, inverseOf(edit));
  expect(JSON.parse(JSON.stringify(back))).toEqual(JSON.parse(was));
});

it('carries colors and regions to a like model, and leaves its locked regions alone', () => {
  const [from, to] = [boards([{ at: [0, 0, 0], length: 3 }]), boards([{ at: [5, 5, 5], length: 3 }])];
  const given = seatsFor(from, (f) => f + 1);
  given.region.fill(4);
  const own = emptySeats(6);
  own.region[2] = 1;
  const state = stateOf([
    { id: 'buoy', seats: given, mesh: 'a', regions: [{ id: 4, name: 'float', cell: 3 }] },
    { id: 'buoy copy', seats: own, mesh: 'b', regions: [{ id: 1, name: 'chain', cell: 0, locked: true }] },
  ]);
  const match = matched(from, to, given);
  const brought = carrySeats(given, from, to, match.origins);
  const { edit, carried } = carryColors(state, 'buoy', 'buoy copy', match.origins, brought, to.faceStart);
  const next = applyEdit(state, edit);
  expect(carried).toBe(5);
  expect([...next.seats['buoy copy']!.cell]).toEqual([1, 2, 0, 4, 5, 6]);
  expect([...next.seats['buoy copy']!.region]).toEqual([2, 2, 1, 2, 2, 2]);
  expect(next.kit.models[1]!.regions.map((r) => r.name)).toEqual(['chain', 'float']);
  expect(JSON.stringify(applyEdit(next, inverseOf(edit)))).toBe(JSON.stringify(state));
});

it('keeps coordinates and seams on their corners and edges, however the file was scaled, moved and turned; one face on a gradient makes no other strange', () => {
  const before = grid(4, (x, z) => (z < 3 ? Math.sin(x * 3 + z * z) * 0.4 : 0));
  const seats = seatsFor(before, (f) => (f < 4 ? 1 : 2));
  // Along the first row every corner has a place of its own; the rest is solid.
  seats.at = new Float32Array(before.cornerVertex.length * 2).fill(0.5);
  for (let c = 0; c < 16; c++) seats.at.set([c / 16, 1 - c / 16], c * 2);
  const adjacency = adjacencyOf(before);
  const seams = [
    ...borderOf(
      adjacency,
      Uint8Array.from({ length: 16 }, (_, f) => Number(f === 5 || f === 6)),
    ),
  ].sort((p, q) => p - q);
  const lists = facesOf(before).map((f) => [...f.slice(2), ...f.slice(0, 2)]);
  const places = (move: (p: number[]) => number[]) =>
    Array.from({ length: before.positions.length / 3 }, (_, v) => move([...before.positions.slice(v * 3, v * 3 + 3)])).flat();
  for (const positions of [places((p) => p.map((v) => v * 100 - 7)), places(([x, y, z]) => [x!, z!, -y!])]) {
    // Faces 12 and 13, both solid, are joined in the new file.
    const joined = [...lists.slice(0, 12), [15, 20, 21, 22, 17, 16], ...lists.slice(14)];
    const after = meshFromLists({ positions, faces: joined });
    const match = matched(before, after, seats);
    expect([match.unmatched.length, match.origins.from[12]! >= 12 && match.origins.from[12]! <= 13]).toEqual([0, true]);
    const carried = carryAll({ seams }, seats, before, after, match.origins);
    for (let f = 0; f < 4; f++)
      for (let k = 0; k < 4; k++)
        for (const i of [0, 1]) expect(carried.seats.at![(f * 4 + k) * 2 + i]).toBeCloseTo(seats.at[(f * 4 + ((k + 2) % 4)) * 2 + i]!, 4);
    const now = adjacencyOf(after);
    const ends = (mesh: PolyMesh, of: typeof now, list: readonly number[]) =>
      list
        .map((c) => {
          const f = of.cornerFace[c]!;
          const next = c + 1 < of.faceStart[f + 1]! ? c + 1 : of.faceStart[f]!;
          return [mesh.cornerVertex[c]!, mesh.cornerVertex[next]!].sort((p, q) => p - q).join('-');
        })
        .sort();
    expect(ends(after, now, carried.seams)).toEqual(ends(before, adjacency, seams));
  }
});
