import fc from 'fast-check';
import { expect, it } from 'vitest';
import { applyEdit, inverseOf } from '../edit/editKinds';
import { copySeats, emptySeats, type Fill, type KitState, type Model } from '../kit/kit';
import { adjacencyOf } from '../mesh/adjacency';
import { meshFromLists } from '../mesh/build';
import { faceCount, type PolyMesh } from '../mesh/polyMesh';
import { newKit } from '../sheet/starter';
import { box, boxFaces, grid } from '@tests/meshes';
import { ruleNames } from './gradientRules';
import { layAlong, runOf, seatsAfter, type Laying } from './layAlong';
import { layoutUvs } from './layout';

const plain: Laying = { rule: 'height', start: 0, end: 1, tone: 'smooth', over: 'pick', screenUp: [0, 1, 0] };
const all = (mesh: PolyMesh) => Uint32Array.from({ length: faceCount(mesh) }, (_, f) => f);
const run = (mesh: PolyMesh, laying: Partial<Laying>, faces = all(mesh)) => runOf(mesh, adjacencyOf(mesh), faces, { ...plain, ...laying });
/** Values of a run at the corners where a vertex is, which are the same for all of them. */
const atVertices = (mesh: PolyMesh, values: Float32Array) =>
  Array.from({ length: mesh.positions.length / 3 }, (_, v) => {
    const found = new Set([...mesh.cornerVertex].flatMap((w, c) => (w === v ? [Math.round(values[c]! * 1e5) / 1e5] : [])));
    expect(found.size).toBe(1);
    return [...found][0]!;
  });

function stateOf(mesh: PolyMesh, axis: 'x' | 'y' = 'x'): KitState {
  const kit = newKit('Skerry');
  const fill: Fill = {
    kind: 'gradient',
    axis,
    mix: 'oklab',
    stops: [
      { at: 0, color: '#000000' },
      { at: 1, color: '#ffffff' },
    ],
  };
  kit.sheets[0]!.cells[0] = { ...kit.sheets[0]!.cells[0]!, fill };
  const model: Model = {
    id: 'tower',
    name: 'Tower',
    mesh: 'm',
    faces: faceCount(mesh),
    sheet: kit.sheets[0]!.id,
    regions: [{ id: 1, name: 'lamp', cell: 0, locked: true }],
    slots: [],
    seams: [],
    source: { format: 'made', name: '', files: [] },
  };
  return { kit: { ...kit, models: [model] }, seats: { tower: emptySeats(model.faces) } };
}

it('runs from the lowest corner to the highest, along any axis, and up the screen', () => {
  const mesh = box();
  expect(atVertices(mesh, run(mesh, {}))).toEqual([0, 0, 1, 1, 0, 0, 1, 1]);
  expect(atVertices(mesh, run(mesh, { rule: 'width' }))).toEqual([0, 1, 0, 1, 0, 1, 0, 1]);
  expect(atVertices(mesh, run(mesh, { rule: 'depth' }))).toEqual([0, 0, 0, 0, 1, 1, 1, 1]);
  expect(atVertices(mesh, run(mesh, { rule: 'view', screenUp: [-1, 0, 0] }))).toEqual([1, 0, 1, 0, 1, 0, 1, 0]);
  const half = Math.SQRT1_2;
  expect(atVertices(mesh, run(mesh, { rule: 'view', screenUp: [half, half, 0] }))).toEqual([0, 0.5, 0.5, 1, 0, 0.5, 0.5, 1]);
});

it('runs over the pick as one or over each part by itself, smoothly or a tone for each face', () => {
  const low = box().positions;
  const mesh = meshFromLists({
    positions: [...low, ...low.map((v, i) => (i % 3 === 1 ? v * 2 + 2 : v + 5))],
    faces: [...boxFaces, ...boxFaces.map((f) => f.map((v) => v + 8))],
  });
  expect(atVertices(mesh, run(mesh, {})).filter((_, v) => [0, 2, 8, 10].includes(v))).toEqual([0, 0.25, 0.5, 1]);
  expect(atVertices(mesh, run(mesh, { over: 'part' })).filter((_, v) => [0, 2, 8, 10].includes(v))).toEqual([0, 1, 0, 1]);
  const tones = run(mesh, { tone: 'face', over: 'part' });
  // Back, front, bottom, top, left, right.
  expect(
    all(mesh)
      .slice(0, 6)
      .reduce<number[]>((list, f) => [...list, ...tones.slice(f * 4, f * 4 + 4)], []),
  ).toEqual([0.5, 0.5, 0, 1, 0.5, 0.5].flatMap((v) => [v, v, v, v]));
  // A flat pick has no height.
  expect([...run(mesh, {}, Uint32Array.of(3)).slice(12, 16)]).toEqual([0, 0, 0, 0]);
});

it('knows the long axis wherever it points, the way around, what looks up, and what is far from the middle', () => {
  const turn = Math.PI / 5;
  const post = { ...box(), positions: box().positions.map((v, i) => (i % 3 === 0 ? v * 6 : v)) };
  const leaning = {
    ...post,
    positions: Float32Array.from(post.positions, (_, i) => {
      const [x, y] = [post.positions[i - (i % 3)]!, post.positions[i - (i % 3) + 1]!];
      return i % 3 === 0
        ? x * Math.cos(turn) - y * Math.sin(turn)
        : i % 3 === 1
          ? x * Math.sin(turn) + y * Math.cos(turn)
          : post.positions[i]!;
    }),
  };
  const ends = atVertices(leaning, run(leaning, { rule: 'long' }));
  // The axis is not quite the edge, but each end stays together, and it runs upward.
  expect([Math.max(...ends.filter((_, v) => !(v & 1))) < 0.05, Math.min(...ends.filter((_, v) => v & 1)) > 0.95]).toEqual([true, true]);
  const mesh = box();
  expect([...run(mesh, { rule: 'facing' })].filter((_, c) => c % 4 === 0)).toEqual([0.5, 0.5, 0, 1, 0.5, 0.5]);
  expect(new Set(atVertices(mesh, run(mesh, { rule: 'middle' })))).toEqual(new Set([0]));
  const tent = grid(2, (x, z) => (x === 1 && z === 1 ? 4 : 0));
  // The peak is as high over the middle as the rim is below it, and nearer to the axis.
  const rim = Math.round(((Math.sqrt(5) - 2) / (Math.sqrt(6) - 2)) * 1e5) / 1e5;
  expect(atVertices(tent, run(tent, { rule: 'middle' }))).toEqual([1, rim, 1, rim, 0, rim, 1, rim, 1]);
  // Front, right, back, left of the upright axis: an eighth, then a quarter more each.
  const around = run(mesh, { rule: 'around' });
  const corner = (vertex: number) => around[[...mesh.cornerVertex].lastIndexOf(vertex)]!;
  expect([corner(5), corner(1), corner(0)].map((v) => Math.round(v * 8))).toEqual([1, 3, 5]);
});

it('lays faces on their cell and nowhere else, by one edit that can be undone, and leaves locked regions alone', () => {
  fc.assert(
    fc.property(
      fc.constantFrom(...ruleNames),
      fc.constantFrom('x' as const, 'y' as const),
      fc.tuple(fc.double({ min: 0, max: 1, noNaN: true }), fc.double({ min: 0, max: 1, noNaN: true })),
      fc.constantFrom('smooth' as const, 'face' as const),
      fc.constantFrom('pick' as const, 'part' as const),
      fc.uniqueArray(fc.nat(15), { minLength: 1 }),
      fc.array(fc.double({ min: -2, max: 2, noNaN: true }), { minLength: 25, maxLength: 25 }),
      (rule, axis, [start, end], tone, over, picked, heights) => {
        const mesh = grid(4, (x, z) => heights[z * 5 + x]!);
        const state = stateOf(mesh, axis);
        state.seats.tower!.region[3] = 1;
        const was = JSON.stringify(copySeats(state.seats.tower!));
        const [gradient] = state.kit.sheets[0]!.cells;
        const faces = Uint32Array.from(picked);
        const laying = { ...plain, rule, start, end, tone, over };
        const run = runOf(mesh, adjacencyOf(mesh), faces, laying);
        const edit = layAlong(state, 'tower', mesh.faceStart, faces, gradient!.id, run, laying);
        if (!edit) {
          expect(picked).toEqual([3]);
          return;
        }
        const seats = seatsAfter(state, 'tower', edit);
        expect(JSON.stringify(copySeats(state.seats.tower!))).toBe(was);
        const uvs = layoutUvs(mesh, seats, state.kit.sheets[0]!);
        const { x, y, w, h } = gradient!.rect;
        const { width, height } = state.kit.sheets[0]!;
        for (let f = 0; f < 16; f++) {
          expect(seats.cell[f]).toBe(picked.includes(f) && f !== 3 ? gradient!.id : 0);
          if (!seats.cell[f]) continue;
          for (let c = f * 4; c < f * 4 + 4; c++) {
            // Half a texel of clearance on all sides, and between what was asked for along it.
            const [u, v] = [uvs[c * 2]! * width - x, uvs[c * 2 + 1]! * height - y];
            expect(u >= 0.5 - 1e-4 && u <= w - 0.5 + 1e-2 && v >= 0.5 - 1e-4 && v <= h - 0.5 + 1e-2).toBe(true);
            const t = seats.at?.[c * 2 + (axis === 'x' ? 0 : 1)] ?? 0.5;
            expect(t >= Math.min(start, end) - 1e-6 && t <= Math.max(start, end) + 1e-6).toBe(true);
            expect(seats.at?.[c * 2 + (axis === 'x' ? 1 : 0)] ?? 0.5).toBe(0.5);
          }
        }
        const next = applyEdit(state, edit);
        expect(next.seats.tower).toEqual(seats);
        expect(JSON.stringify(copySeats(applyEdit(next, inverseOf(edit)).seats.tower!))).toBe(was);
      },
    ),
    { seed: 12, numRuns: 100 },
  );
});

it('begins where it is told to, also the other way, and refuses what is no gradient', () => {
  const mesh = box();
  const state = stateOf(mesh);
  const ids = state.kit.sheets[0]!.cells.map((c) => c.id);
  const lay = (start: number, end: number, cell = ids[0]!) =>
    layAlong(state, 'tower', mesh.faceStart, all(mesh), cell, run(mesh, {}), { start, end });
  const seats = seatsAfter(state, 'tower', lay(0.75, 0.25)!);
  const values = Float32Array.from({ length: 24 }, (_, c) => seats.at![c * 2]!);
  expect(atVertices(mesh, values)).toEqual([0.75, 0.75, 0.25, 0.25, 0.75, 0.75, 0.25, 0.25]);
  expect(() => lay(0, 1, ids[1]!)).toThrow('along a gradient');
});
