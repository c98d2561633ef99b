import { gradientOf } from '@tests/parts';
import { byId } from '@/core/ground/byId';
import fc from 'fast-check';
import { expect, it } from 'vitest';
import { applyEdit, inverseOf } from '../kit/edit/editKinds';
import { copySeats, emptySeats, type Cell, type Fill, type KitState, type Model, type Seats, type Sheet } from '../kit/kit';
import { adjacencyOf } from '../shapes/mesh/adjacency';
import { meshFromLists } from '../shapes/mesh/build';
import { triangulate } from '../shapes/mesh/triangulate';
import { layoutUvs } from '../faces/seat/layout';
import { newKit } from '../sheet/starter';
import { box, grid } from '@tests/meshes';
import { clearanceFor, fitted, layAt, moved, noMove, tooNear } from './arrangeIslands';
import { flatAreas, layCharts, packIslands, shelves } from './charts';
import { boundsOf, islandsOf } from './islandsOf';
import { overlaps } from './overlaps';
import { facing, project } from './project';
import { seatAt, texelOf, texelsOf } from './texels';

const art: Fill = { kind: 'art', picture: 'a' };
const cells: Cell[] = [
  { id: 1, rect: { x: 0, y: 0, w: 8, h: 8 }, role: 'numerals', fill: art },
  { id: 2, rect: { x: 8, y: 0, w: 8, h: 2 }, role: 'sea', fill: gradientOf('x') },
  { id: 3, rect: { x: 8, y: 2, w: 3, h: 6 }, role: 'fade', fill: gradientOf('y') },
  { id: 4, rect: { x: 11, y: 2, w: 5, h: 6 }, role: 'tar', fill: { kind: 'solid', color: '#112233' } },
];
const sheet: Sheet = { id: 's', name: 'S', width: 16, height: 8, padding: 0, filter: 'nearest', cells, ramps: [] };
const mesh = grid(2);
const { faceStart } = mesh;
const adjacency = adjacencyOf(mesh);
/** Each face of the net on a square of its own of the art, or side by side as they are on the net. */
const seats = (cell: number[], apart: boolean): Seats => {
  const at = new Float32Array(32);
  mesh.cornerVertex.forEach((v, c) => {
    const gap = apart ? (c >> 2) * 0.1 : 0;
    at.set([mesh.positions[v * 3]! / 4 + gap, mesh.positions[v * 3 + 2]! / 4], c * 2);
  });
  return { ...emptySeats(4), cell: Uint16Array.from(cell), at };
};

it('islands are faces of one cell that lie together at their common edges', () => {
  const sizes = (own: Seats) => islandsOf(adjacency, own, sheet).islands.map((i) => [i.cell, [...i.faces]]);
  expect(sizes(seats([1, 1, 1, 1], false))).toEqual([[1, [0, 1, 2, 3]]]);
  expect(sizes(seats([1, 1, 1, 1], true))).toEqual([0, 1, 2, 3].map((f) => [1, [f]]));
  // Another cell, a solid one and none end an island; faces that meet in one point are no island.
  expect(sizes(seats([1, 2, 4, 1], false))).toEqual([
    [1, [0]],
    [2, [1]],
    [1, [3]],
  ]);
  const shifted = seats([1, 1, 1, 1], false);
  // One end of the edge between the upper two has moved.
  shifted.at![2 * 3]! += 0.2;
  expect(sizes(shifted)).toEqual([[1, [0, 1, 2, 3]]].map(() => [1, [0, 1, 2, 3]]));
  shifted.at!.set([0.9, 0.9, 0.9, 0.95, 0.95, 0.95], 8);
  expect(sizes(shifted).map(([, f]) => f)).toContainEqual([0, 2, 3]);
  expect(islandsOf(adjacency, seats([1, 1, 1, 1], false), sheet).islands[0]!.bounds).toEqual([0, 4, 0, 4]);
});

it('texels and coordinates are each other’s way back, and agree with the UVs that leave', () => {
  fc.assert(
    fc.property(
      fc.constantFrom(0, 1, 2),
      fc.double({ min: 0, max: 1, noNaN: true }),
      fc.double({ min: 0, max: 1, noNaN: true }),
      (k, x, y) => {
        const cell = cells[k]!;
        const [tx, ty] = texelOf(cell, x, y);
        const [sx, sy] = seatAt(cell, tx, ty);
        expect([sx, sy].map((v, i) => Math.abs(v - (k === 0 || k - 1 === i ? [x, y][i]! : 0.5)) < 1e-6)).toEqual([true, true]);
        const own = {
          ...emptySeats(4),
          cell: new Uint16Array(4).fill(cell.id),
          at: Float32Array.from({ length: 32 }, (_, i) => [x, y][i % 2]!),
        };
        const uvs = layoutUvs(mesh, own, sheet);
        // On the border of two texels what leaves lies a hair further.
        expect([Math.abs(uvs[0]! * 16 - tx), Math.abs(uvs[1]! * 8 - ty)].every((d) => d < 0.013)).toBe(true);
        expect(texelsOf(sheet, own, faceStart, [1])[8]).toBeCloseTo(tx, 4);
      },
    ),
    { seed: 4 },
  );
  expect(seatAt(cells[0]!, -3, 99)).toEqual([0, 1]);
});

it('moves, turns and sizes about the middle, and keeps clear of the border in its proportions', () => {
  const faces = Uint32Array.of(0);
  const texels = texelsOf(sheet, seats([1, 1, 1, 1], false), faceStart, faces);
  const square = (t: Float32Array) => boundsOf(faces, faceStart, t).map((v) => Math.round(v * 1e4) / 1e4);
  const go = (move: Partial<typeof noMove>, clearance = 0) =>
    square(moved(faces, faceStart, texels, { ...noMove, ...move }, cells[0]!, clearance));
  expect(square(texels)).toEqual([0, 2, 0, 2]);
  expect(go({ by: [3, 1.5] })).toEqual([3, 5, 1.5, 3.5]);
  expect(go({ by: [3, 3], size: [2, 0.5] })).toEqual([2, 6, 3.5, 4.5]);
  expect(go({ by: [3, 3], size: [2, 0.5], turn: 90 })).toEqual([3.5, 4.5, 2, 6]);
  // Back inside, at either end; smaller where there is no room.
  expect(go({ by: [-5, 90] })).toEqual([0, 2, 6, 8]);
  expect(go({ by: [-5, 90] }, 1)).toEqual([1, 3, 5, 7]);
  expect(go({ size: [10, 5] }, 1)).toEqual([1, 7, 1, 4]);
  // Clockwise: what was at the upper left comes to the upper right; turned over, left becomes right.
  const corner = (move: Partial<typeof noMove>) =>
    [...moved(faces, faceStart, texels, { ...noMove, by: [3, 3], ...move }, cells[0]!, 0).slice(0, 2)].map(Math.round);
  expect([corner({}), corner({ turn: 90 }), corner({ size: [-1, 1] }), corner({ size: [1, -1] })]).toEqual([
    [3, 3],
    [5, 3],
    [5, 3],
    [3, 5],
  ]);
  const fit = (stretched: boolean, clearance: number) =>
    square(
      fitted(
        faces,
        faceStart,
        moved(faces, faceStart, texels, { ...noMove, size: [1, 0.5] }, cells[0]!, 0),
        cells[0]!,
        clearance,
        stretched,
      ),
    );
  expect([fit(false, 0), fit(true, 0), fit(false, 1)]).toEqual([
    [0, 8, 2, 6],
    [0, 8, 0, 8],
    [1, 7, 2.5, 5.5],
  ]);
  expect([clearanceFor('nearest', 0), clearanceFor('linear', 0), clearanceFor('nearest', 1), clearanceFor('linear', 3)]).toEqual([
    0, 0.5, 1, 4,
  ]);
  const { islands } = islandsOf(adjacency, seats([1, 1, 1, 1], false), sheet);
  const own = new Map(cells.map((c) => [c.id, c]));
  expect([tooNear(islands, own, 0).length, tooNear(islands, own, 0.5).length]).toEqual([0, 1]);
});

it('whatever is done, corners lie inside their cell with its clearance, and one undo brings all back', () => {
  const number = (min: number, max: number) => fc.double({ min, max, noNaN: true });
  fc.assert(
    fc.property(
      fc.constantFrom(0, 1, 2),
      fc.record({ by: fc.tuple(number(-30, 30), number(-30, 30)), size: fc.tuple(number(-4, 4), number(-4, 4)), turn: number(-180, 180) }),
      fc.constantFrom(0, 0.5, 2),
      fc.uniqueArray(fc.nat(3), { minLength: 1 }),
      (k, move, clearance, list) => {
        const cell = cells[k]!;
        const kit = newKit('Skerry');
        const model = {
          id: 'm',
          name: 'Rock',
          faces: 4,
          sheet: 's',
          seams: [],
          slots: [],
          regions: [{ id: 1, name: 'lid', cell: 0, locked: true as const }],
        } as unknown as Model;
        const own = { ...seats([1, 1, 1, 1], false), region: Uint16Array.of(0, 0, 0, 1) };
        const state: KitState = { kit: { ...kit, sheets: [sheet], models: [model] }, seats: byId({ m: own }) };
        const was = JSON.stringify(copySeats(own));
        const faces = Uint32Array.from(list);
        const texels = texelsOf(sheet, own, faceStart, faces);
        const edit = layAt(state, 'm', faceStart, faces, cell.id, moved(faces, faceStart, texels, move, cell, clearance), 'Move');
        if (!edit) return;
        const after = applyEdit(state, edit);
        const now = texelsOf(sheet, after.seats.m!, faceStart, faces);
        const free = cell.fill.kind === 'art' ? clearance : 0.5;
        for (const f of list) {
          expect(after.seats.m!.cell[f]).toBe(f === 3 ? 1 : cell.id);
          if (f === 3) continue;
          const [x0, x1, y0, y1] = boundsOf([f], faceStart, now);
          const { x, y, w, h } = cell.rect;
          expect([x0 - x, y0 - y, x + w - x1, y + h - y1].every((d) => d >= free - 1e-3)).toBe(true);
        }
        expect(JSON.stringify(copySeats(applyEdit(after, inverseOf(edit)).seats.m!))).toBe(was);
      },
    ),
    { seed: 7, numRuns: 200 },
  );
});

it('finds islands that have a texel in common, on one cell alone', () => {
  const own = seats([1, 1, 1, 1], true);
  const put = (f: number, x: number, y: number, size: number) =>
    own.at!.set(
      [x, y, x + size, y, x + size, y + size, x, y + size].map((v) => v / 8),
      f * 8,
    );
  put(0, 0, 0, 2);
  put(1, 2, 0, 2);
  put(2, 1, 1, 2);
  put(3, 5, 5, 1);
  const { islands, texels } = islandsOf(adjacency, own, sheet);
  const pairs = overlaps(islands, faceStart, texels, sheet).map(([p, q]) => [islands[p]!.faces[0], islands[q]!.faces[0]]);
  expect(pairs.map((p) => p.join()).sort()).toEqual(['0,2', '1,2']);
  // Packed, they share none any more, and keep their proportions.
  const packed = packIslands(
    { mesh, adjacency, triangles: triangulate(mesh) },
    islands.map((i) => i.faces),
    texels,
    cells[0]!,
    { margin: 1, clearance: 0 },
  );
  expect(overlaps(islands, faceStart, packed.texels, sheet)).toEqual([]);
  const sides = islands.map(({ faces }) => boundsOf(faces, faceStart, packed.texels)).map(([x0, x1, y0, y1]) => [x1 - x0, y1 - y0]);
  islands.forEach(({ bounds: [x0, x1] }, i) =>
    expect(sides[i]!.map((v) => v / packed.factor)).toEqual([x1 - x0, x1 - x0].map((v) => expect.closeTo(v, 3) as number)),
  );
  // One texel of a hundred by a hundred is seen as well.
  const large = { width: 256, height: 256 };
  const far = Float32Array.from(texels, (_, i) => [0, 0, 100, 0, 100, 100, 0, 100][i % 8]! + (i >= 8 ? 110 : 0));
  expect(overlaps(islands.slice(0, 2), faceStart, far, large)).toEqual([]);
  expect(
    overlaps(
      islands.slice(0, 2),
      faceStart,
      Float32Array.from(far, (v, i) => (i >= 8 ? v - 10.6 : v)),
      large,
    ),
  ).toEqual([[0, 1]]);
  own.cell[2] = 2;
  const other = islandsOf(adjacency, own, sheet);
  expect(overlaps(other.islands, faceStart, other.texels, sheet)).toEqual([]);
});

it('flattens what is looked at straight on, right way up, at its true proportions', () => {
  const crate = box();
  const { normals, areas } = adjacencyOf(crate);
  // Back, front, bottom, top, left, right.
  const axes = [0, 1, 2, 3, 4, 5].map((f) => facing(normals, areas, Uint32Array.of(f)));
  const rounded = (p: readonly number[]) => p.map((v) => Math.round(v) + 0);
  expect(axes.map((a) => rounded(a.right))).toEqual([
    [-1, 0, 0],
    [1, 0, 0],
    [1, 0, 0],
    [1, 0, 0],
    [0, 0, 1],
    [0, 0, -1],
  ]);
  expect(axes.map((a) => rounded(a.up))).toEqual([
    [0, 1, 0],
    [0, 1, 0],
    [0, 0, 1],
    [0, 0, -1],
    [0, 1, 0],
    [0, 1, 0],
  ]);
  expect(rounded(facing(normals, areas, Uint32Array.of(0, 1)).up)).toEqual([0, 1, 0]);
  const flat = project(crate, Uint32Array.of(1), axes[1]!.right, axes[1]!.up);
  // Corners of the front: lower left, lower right, upper right, upper left; down is down.
  expect(rounded([...flat.slice(8, 16)])).toEqual([0, 0, 1, 0, 1, -1, 0, -1]);
});

it('divides into flat areas, from the largest face on', () => {
  const crate = adjacencyOf(box());
  const all = Uint32Array.of(0, 1, 2, 3, 4, 5);
  expect(flatAreas(crate, all, 20).map((a) => [...a])).toEqual([0, 1, 2, 3, 4, 5].map((f) => [f]));
  expect(flatAreas(crate, all, 90).map((a) => a.length)).toEqual([5, 1]);
  const net = adjacencyOf(grid(2));
  expect(flatAreas(net, Uint32Array.of(0, 1, 3), 1).map((a) => [...a].sort())).toEqual([[0, 1, 3]]);
  // Turned from the first of its area, not from its neighbour: a bend of 15 degrees at each edge ends after two.
  const bend = meshFromLists({
    positions: [0, 1, 2, 3, 4].flatMap((i) => {
      const x = [0, 1, 2, 3, 4].slice(0, i).reduce((sum, k) => sum + Math.cos((k * 15 * Math.PI) / 180), 0);
      const y = [0, 1, 2, 3, 4].slice(0, i).reduce((sum, k) => sum + Math.sin((k * 15 * Math.PI) / 180), 0);
      return [x, y, 0, x, y, 1];
    }),
    faces: [0, 1, 2, 3].map((i) => [i * 2, i * 2 + 1, i * 2 + 3, i * 2 + 2]),
  });
  const areas = flatAreas(adjacencyOf(bend), Uint32Array.of(0, 1, 2, 3), 20).map((a) => a.length);
  expect([areas.reduce((sum, n) => sum + n, 0), Math.max(...areas) < 4]).toEqual([4, true]);
});

it('lays areas side by side at one size, isometric, with their margin, inside the clearance', () => {
  expect(
    shelves(
      [
        [2, 1],
        [3, 2],
        [2, 1],
      ],
      5,
      4,
      1,
    ),
  ).toEqual([
    [0, 3],
    [0, 0],
    [3, 3],
  ]);
  expect(
    shelves(
      [
        [2, 1],
        [3, 2],
        [2, 1],
      ],
      5,
      3.9,
      1,
    ),
  ).toBeNull();
  expect(shelves([[6, 1]], 5, 9, 0)).toBeNull();
  fc.assert(
    fc.property(
      fc.array(fc.double({ min: 0.2, max: 3, noNaN: true }), { minLength: 3, maxLength: 3 }),
      fc.constantFrom(0, 0.5, 1),
      fc.constantFrom(0, 0.5),
      (sizes, margin, clearance) => {
        const crate = { ...box(), positions: box().positions.map((v, i) => v * sizes[i % 3]!) };
        const next = adjacencyOf(crate);
        const charts = flatAreas(next, Uint32Array.of(0, 1, 2, 3, 4, 5), 10);
        const { texels, factor: perMetre } = layCharts({ mesh: crate, adjacency: next, triangles: triangulate(crate) }, charts, cells[0]!, {
          margin,
          clearance,
        });
        expect(perMetre).toBeGreaterThan(0);
        for (let c = 0; c < 24; c++) {
          const d = c % 4 === 3 ? c - 3 : c + 1;
          const place = (k: number) => [...crate.positions.slice(crate.cornerVertex[k]! * 3, crate.cornerVertex[k]! * 3 + 3)];
          const long = Math.hypot(...place(c).map((v, i) => v - place(d)[i]!));
          expect(Math.hypot(texels[c * 2]! - texels[d * 2]!, texels[c * 2 + 1]! - texels[d * 2 + 1]!)).toBeCloseTo(long * perMetre, 3);
        }
        const boxes = charts.map((f) => boundsOf(f, crate.faceStart, texels));
        boxes.forEach(([x0, x1, y0, y1], i) => {
          expect(x0 >= clearance - 1e-3 && y0 >= clearance - 1e-3 && x1 <= 8 - clearance + 1e-3 && y1 <= 8 - clearance + 1e-3).toBe(true);
          boxes.slice(i + 1).forEach(([p0, p1, q0, q1]) => {
            const apart = Math.max(p0 - x1, x0 - p1, q0 - y1, y0 - q1);
            expect(apart).toBeGreaterThan(margin - 1e-3);
          });
        });
        // Without margins they take a good part of the cell, or the longest of them all of its length.
        const area = boxes.reduce((sum, [x0, x1, y0, y1]) => sum + (x1 - x0) * (y1 - y0), 0);
        const room = 8 - 2 * clearance;
        const longest = Math.max(...boxes.map(([x0, x1, y0, y1]) => Math.max(x1 - x0, y1 - y0)));
        if (!margin) expect(area / room ** 2 > 0.3 || longest > room - 1e-3).toBe(true);
      },
    ),
    { seed: 5, numRuns: 100 },
  );
});
