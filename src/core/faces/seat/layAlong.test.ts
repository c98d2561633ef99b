import { gradientOf, modelOf } from '@tests/parts';
import { byId } from '@/core/ground/byId';
import fc from 'fast-check';
import { expect, it } from 'vitest';
import { applyEdit, inverseOf } from '../../kit/edit/editKinds';
import { copySeats, emptySeats, type Fill, type KitState, type Model } from '../../kit/kit';
import { adjacencyOf } from '../../shapes/mesh/adjacency';
import { meshFromLists } from '../../shapes/mesh/build';
import { faceCount, type PolyMesh } from '../../shapes/mesh/polyMesh';
import { newKit } from '../../sheet/starter';
import { box, boxFaces, grid } from '@tests/meshes';
import { ruleNames } from '../../kit/laying/gradientRules';
import { gradientCells, isLaid, layAlong, runOf, seatsAfter, turnedRuns, type Runs } from './layAlong';
import { layoutUvs } from './layout';
import { mirroredLaying, movedLaying, plainLaying, type Laying } from '../../kit/laying/seatRule';

const all = (mesh: PolyMesh) => Uint32Array.from({ length: faceCount(mesh) }, (_, f) => f);
const run = (mesh: PolyMesh, laying: Partial<Laying>, faces = all(mesh)) =>
  runOf(mesh, adjacencyOf(mesh), faces, { ...plainLaying, ...laying });
/** Values of a run at the corners where a vertex is, which are the same for all of them. */
const atVertices = (mesh: PolyMesh, values: Float32Array) =>
  Array.from({ length: mesh.positions.length / 3 }, (_, v) => {
    const found = new Set([...mesh.cornerVertex].flatMap((w, c) => (w === v ? [Math.round(values[c]! * 1e5) / 1e5] : [])));
    expect(found.size).toBe(1);
    return [...found][0]!;
  });

function stateOf(mesh: PolyMesh, axis: 'x' | 'y' = 'x'): KitState {
  const kit = newKit('Skerry');
  kit.sheets[0]!.cells[0] = { ...kit.sheets[0]!.cells[0]!, fill: gradientOf(axis) };
  const regions: Model['regions'] = [{ id: 1, name: 'lamp', cell: 0, locked: true }];
  const model = modelOf('tower', faceCount(mesh), kit.sheets[0]!.id, { name: 'Tower', regions });
  return { kit: { ...kit, models: [model] }, seats: byId({ tower: emptySeats(model.faces) }) };
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
  // The tip of a cone stands on the axis: on each side it lies where that side does.
  const sides = 8;
  const ring = Array.from({ length: sides }, (_, i) => [Math.sin((i * Math.PI) / 4), 0, Math.cos((i * Math.PI) / 4)]);
  const cone = meshFromLists({ positions: [...ring.flat(), 0, 2, 0], faces: ring.map((_, i) => [i, (i + 1) % sides, sides]) });
  const tips = [...run(cone, { rule: 'around' })].filter((_, c) => c % 3 === 2);
  expect(tips.map((v) => Math.round(v * 16))).toEqual([1, 3, 5, 7, 9, 11, 13, 15]);
});

it('lays faces on their cell and nowhere else, by one edit that can be undone, and leaves locked regions alone', () => {
  fc.assert(
    fc.property(
      fc.constantFrom(...ruleNames),
      fc.constantFrom('x' as const, 'y' as const),
      fc.tuple(fc.double({ min: 0, max: 1, noNaN: true }), fc.double({ min: 0, max: 1, noNaN: true })),
      fc.constantFrom('smooth' as const, 'face' as const, 'bands' as const),
      fc.constantFrom('pick' as const, 'part' as const),
      fc.uniqueArray(fc.nat(15), { minLength: 1 }),
      fc.array(fc.double({ min: -2, max: 2, noNaN: true }), { minLength: 25, maxLength: 25 }),
      fc.record({
        repeat: fc.integer({ min: 1, max: 5 }),
        offset: fc.double({ min: 0, max: 1, noNaN: true }),
        bands: fc.integer({ min: 2, max: 6 }),
      }),
      (rule, axis, [start, end], tone, over, picked, heights, more) => {
        const mesh = grid(4, (x, z) => heights[z * 5 + x]!);
        const state = stateOf(mesh, axis);
        state.seats.tower!.region[3] = 1;
        const was = JSON.stringify(copySeats(state.seats.tower!));
        const [gradient] = state.kit.sheets[0]!.cells;
        const faces = Uint32Array.from(picked);
        const laying: Laying = { ...plainLaying, rule, start, end, tone, over, ...more };
        const runs = { along: runOf(mesh, adjacencyOf(mesh), faces, laying) };
        const edit = layAlong(state, 'tower', mesh.faceStart, faces, gradient!.id, { id: 0, along: laying }, runs);
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
          expect(seats.rule![f]).toBe(seats.cell[f] ? 1 : 0);
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
        expect(next.kit.models[0]!.rules).toEqual([{ id: 1, along: laying }]);
        const back = applyEdit(next, inverseOf(edit));
        expect([JSON.stringify(copySeats(back.seats.tower!)), back.kit]).toEqual([was, state.kit]);
      },
    ),
    { seed: 12, numRuns: 100 },
  );
});

it('begins where it is told to, also the other way, and refuses what is no gradient', () => {
  const mesh = box();
  const state = stateOf(mesh);
  const ids = state.kit.sheets[0]!.cells.map((c) => c.id);
  const lay = (start: number, end: number, cell = ids[0]!) => {
    const along = { ...plainLaying, start, end };
    return layAlong(state, 'tower', mesh.faceStart, all(mesh), cell, { id: 0, along }, { along: run(mesh, along) });
  };
  const seats = seatsAfter(state, 'tower', lay(0.75, 0.25)!);
  const values = Float32Array.from({ length: 24 }, (_, c) => seats.at![c * 2]!);
  expect(atVertices(mesh, values)).toEqual([0.75, 0.75, 0.25, 0.25, 0.75, 0.75, 0.25, 0.25]);
  expect(() => lay(0, 1, ids[1]!)).toThrow('along a gradient');
});

it('runs along a line, away from a point, and in steps from where the pick ends', () => {
  const mesh = box();
  const line = [
    [-1, 0, 5],
    [3, 0, 5],
  ] as const;
  const [least, most] = [Math.min(...mesh.positions), Math.max(...mesh.positions)];
  const along = (x: number) => (x + 1) / 4;
  expect(atVertices(mesh, run(mesh, { rule: 'line', line }))).toEqual([0, 1, 0, 1, 0, 1, 0, 1].map((k) => along(k ? most : least)));
  // What lies before the beginning, or beyond the end, stays there.
  const short = [
    [least + 0.1, 0, 0],
    [least + 0.2, 0, 0],
  ] as const;
  expect(atVertices(mesh, run(mesh, { rule: 'line', line: short }))).toEqual([0, 1, 0, 1, 0, 1, 0, 1]);
  const corner = [...mesh.positions.slice(0, 3)] as [number, number, number];
  const side = most - least;
  const reach = [corner, [corner[0] + 2 * side, corner[1], corner[2]]] as const;
  const far = [0, 1, 1, Math.SQRT2, 1, Math.SQRT2, Math.SQRT2, Math.sqrt(3)].map((d) => Math.round((d / 2) * 1e5) / 1e5);
  expect(atVertices(mesh, run(mesh, { rule: 'point', line: reach }))).toEqual(far);
  // A net of 4 by 4 faces: its middle lies two steps inside; of the left half only the open sides count as well.
  const net = grid(4);
  expect(atVertices(net, run(net, { rule: 'rings' })).map((t) => t * 2)).toEqual([
    ...[0, 0, 0, 0, 0],
    ...[0, 1, 1, 1, 0],
    ...[0, 1, 2, 1, 0],
    ...[0, 1, 1, 1, 0],
    ...[0, 0, 0, 0, 0],
  ]);
  const left = all(net).filter((f) => f % 4 < 2);
  const steps = run(net, { rule: 'rings' }, left);
  expect([0, 1, 2].map((x) => steps[[...net.cornerVertex].indexOf(2 * 5 + x)])).toEqual([0, 1, 0]);
});

it('repeats, shifts, and lays in bands', () => {
  // Four faces in a row: corners at 0, a quarter, a half, ...
  const strip = grid(4);
  const row = Uint32Array.of(0, 1, 2, 3);
  const ends = (laying: Partial<Laying>) => {
    const t = run(strip, { rule: 'width', ...laying }, row);
    return [...row].map((f) => [0, 1, 2, 3].map((k) => t[f * 4 + k]!)).map((c) => [Math.min(...c), Math.max(...c)]);
  };
  const quarters = [0, 0.25, 0.5, 0.75].map((t) => [t, t + 0.25]);
  expect(ends({})).toEqual(quarters);
  expect(ends({ repeat: 2 })).toEqual([0, 0.5, 0, 0.5].map((t) => [t, t + 0.5]));
  expect(ends({ repeat: 4, start: 1, end: 0.5 })).toEqual([1, 1, 1, 1].map(() => [0.5, 1]));
  expect(ends({ offset: 0.5 })).toEqual([quarters[2], quarters[3], quarters[0], quarters[1]]);
  // Across the place where it begins again a face stays on the side of its middle.
  expect(ends({ offset: 0.0625 }).at(-1)).toEqual([0.8125, 1]);
  expect(ends({ offset: 0.1875 }).at(-1)).toEqual([0, 0.1875]);
  expect(ends({ tone: 'face' }).map(([a]) => a)).toEqual([0.125, 0.375, 0.625, 0.875]);
  expect(ends({ tone: 'bands', bands: 2 })).toEqual([0, 0, 1, 1].map((t) => [t, t]));
  expect(ends({ tone: 'bands', bands: 3, end: 0.5 }).map(([a]) => a)).toEqual([0, 0.25, 0.25, 0.5]);
});

it('remembers a rule for as long as a face was laid by it, and lies on another gradient as it did', () => {
  const mesh = grid(2);
  let state = stateOf(mesh, 'x');
  const [first, second] = state.kit.sheets[0]!.cells;
  const down = { ...first!.fill, axis: 'y' as const } as Fill;
  state.kit.sheets[0]!.cells[1] = { ...second!, fill: down };
  const lay = (faces: number[], cell: number, laying: Partial<Laying>, id = 0, cross?: Laying) => {
    const along = { ...plainLaying, ...laying };
    const list = Uint32Array.from(faces);
    const runs: Runs = { along: run(mesh, along, list), cross: cross && run(mesh, cross, list) };
    const edit = layAlong(state, 'tower', mesh.faceStart, list, cell, { id, along, ...(cross && { cross }) }, runs);
    if (edit) state = applyEdit(state, edit);
    return edit;
  };
  const rules = () => [state.kit.models[0]!.rules!.map((r) => `${r.id} ${r.along.rule}`), [...state.seats.tower!.rule!]];
  const told = lay([0, 1, 2, 3], first!.id, { rule: 'width' });
  expect(told).toMatchObject({ kind: 'group', label: `Lay faces along ${first!.role}` });
  lay([2, 3], first!.id, { rule: 'depth' });
  expect(rules()).toEqual([
    ['1 width', '2 depth'],
    [1, 1, 2, 2],
  ]);
  lay([0, 1], first!.id, { rule: 'facing' });
  expect(rules()).toEqual([
    ['2 depth', '3 facing'],
    [3, 3, 2, 2],
  ]);
  lay([2, 3], first!.id, { rule: 'width' }, 2);
  expect(rules()).toEqual([
    ['2 width', '3 facing'],
    [3, 3, 2, 2],
  ]);
  expect(lay([2, 3], first!.id, { rule: 'width' }, 2)).toBeNull();
  // On a gradient that runs down the sheet what lay across lies down.
  const seats = state.seats.tower!;
  const turned = turnedRuns(state, 'tower', seats, mesh.faceStart, Uint32Array.of(2, 3), second!.id)!;
  const after = seatsAfter(state, 'tower', turned).at!;
  for (let c = 8; c < 16; c++) expect([after[c * 2], after[c * 2 + 1]]).toEqual([0.5, seats.at![c * 2]]);
  expect(turnedRuns(state, 'tower', seats, mesh.faceStart, Uint32Array.of(2, 3), first!.id)).toBeNull();
  const { at: _, ...bare } = seats;
  expect(turnedRuns(state, 'tower', bare, mesh.faceStart, Uint32Array.of(2, 3), second!.id)).toBeNull();
  const gradients = gradientCells(state.kit);
  expect([...gradients]).toEqual([first!.id, second!.id]);
  const third = state.kit.sheets[0]!.cells[2]!.id;
  const mixed = { ...seats, cell: Uint16Array.of(first!.id, third, first!.id, 0), rule: Uint16Array.of(0, 3, 2, 2) };
  expect([0, 1, 2, 3].map((f) => isLaid(mixed, gradients, f))).toEqual([false, false, true, false]);
  const { rule: __, ...byHand } = mixed;
  expect(isLaid(byHand, gradients, 2)).toBe(false);
  // A copy of what would be, nothing of what is.
  const would = seatsAfter(state, 'tower', turned);
  expect([would.rule, would.rule === seats.rule]).toEqual([seats.rule, false]);
  // A cell of two directions takes both.
  const four: Fill = { kind: 'corners', colors: ['#000000', '#ffffff', '#ff0000', '#0000ff'], mix: 'oklab' };
  state.kit.sheets[0]!.cells[2] = { ...state.kit.sheets[0]!.cells[2]!, fill: four };
  lay([0, 1, 2, 3], state.kit.sheets[0]!.cells[2]!.id, { rule: 'width' }, 0, { ...plainLaying, rule: 'depth', start: 1, end: 0 });
  const at = state.seats.tower!.at!;
  const places = [...mesh.cornerVertex].map((v) => [mesh.positions[v * 3]!, mesh.positions[v * 3 + 2]!]);
  const [wide, deep] = [0, 1].map((k) => Math.max(...places.map((p) => p[k]!)));
  const [left, back] = [0, 1].map((k) => Math.min(...places.map((p) => p[k]!)));
  places.forEach(([x, z], c) => {
    expect(at[c * 2]).toBeCloseTo((x! - left!) / (wide! - left!), 5);
    expect(at[c * 2 + 1]).toBeCloseTo(1 - (z! - back!) / (deep! - back!), 5);
  });
});

it('lies on mirrored faces as their mirror image, and on moved ones as before', () => {
  const mesh = grid(3, (x, z) => [0, 0.3, 0.1, 0.9][(x * 3 + z * 5) % 4]!);
  const line = [
    [0.2, 0, 0.1],
    [2, 0.7, 1],
  ] as const;
  const screenUp = [0.6, 0, -0.8] as const;
  const { faceStart } = mesh;
  for (const axis of ['x', 'y', 'z'] as const) {
    const k = ['x', 'y', 'z'].indexOf(axis);
    const offset = 0.25;
    const faces = Array.from({ length: faceCount(mesh) }, (_, f) => [...mesh.cornerVertex.slice(faceStart[f], faceStart[f + 1])].reverse());
    const image = meshFromLists({ positions: [...mesh.positions].map((v, i) => (i % 3 === k ? 2 * offset - v : v)), faces });
    for (const rule of ruleNames) {
      // The longest way has no side of its own that a mirror could keep.
      if (rule === 'long') continue;
      const laying: Laying = { ...plainLaying, rule, line, screenUp, tone: 'face', repeat: 3, offset: 0.3 };
      const [one, other] = [run(mesh, laying), run(image, mirroredLaying(laying, { axis, offset }))];
      for (let f = 0; f < 9; f++) {
        // A face across the place where the way around begins goes to one side of it.
        if (rule === 'around' && f % 3 === 1) continue;
        expect(other[f * 4], `${rule} across ${axis}, face ${f}`).toBeCloseTo(one[f * 4]!, 4);
      }
    }
  }
  const moved = { ...mesh, positions: mesh.positions.map((v, i) => v + [5, -1, 2][i % 3]!) };
  for (const rule of ['line', 'point', 'height'] as const) {
    const laying: Laying = { ...plainLaying, rule, line };
    run(moved, movedLaying(laying, [5, -1, 2])).forEach((v, c) => expect(v).toBeCloseTo(run(mesh, laying)[c]!, 5));
  }
});
