import { box, grid } from '@tests/meshes';
import fc from 'fast-check';
import { expect, it } from 'vitest';
import { adjacencyOf } from '../../shapes/mesh/adjacency';
import { meshFromLists } from '../../shapes/mesh/build';
import type { PolyMesh } from '../../shapes/mesh/polyMesh';
import { triangulate } from '../../shapes/mesh/triangulate';
import { findSymmetry } from '../../shapes/pick/symmetry';
import { trianglesOfFaces, type Surface } from './chart';
import { onItself } from './onItself';
import { pathBetween } from './edgePath';
import { creases, edgesBetween, edgesOfUvs, mirroredEdges } from './seams';
import { dissect, factorise, solve } from './sparse';
import { stretchOn, timesOff, worstFaces } from './stretch';
import { unwrap, usualSteps, type Unwrapped } from './unwrap';

const surfaceOf = (mesh: PolyMesh): Surface => {
  const adjacency = adjacencyOf(mesh);
  return { mesh, adjacency, triangles: triangulate(mesh, adjacency.normals) };
};
const allOf = ({ adjacency }: Surface) => Uint32Array.from(adjacency.areas.keys());
const lay = (surface: Surface, seams: Iterable<number> = [], steps = usualSteps): Unwrapped => {
  const own = new Set(seams);
  const { neighbour } = surface.adjacency;
  const isSeam = (c: number) => own.has(c) || own.has(neighbour[c]!);
  return unwrap(surface, allOf(surface), isSeam, { steps, mayCut: true }) as Unwrapped;
};

/** Rings of so many vertices around the height, by radius and height; `bump` swells them; closed by two caps. */
function lathe(profile: [radius: number, height: number][], around: number, isClosed: boolean, bump = 0): PolyMesh {
  const positions = profile.flatMap(([r, y]) =>
    Array.from({ length: around }, (_, i) => {
      const a = (i / around) * 2 * Math.PI;
      const k = r * (1 + bump * Math.sin(3 * a) * Math.sin(2 * y + 1));
      return [k * Math.cos(a), y, k * Math.sin(a)];
    }).flat(),
  );
  const faces = profile
    .slice(1)
    .flatMap((_, j) =>
      Array.from({ length: around }, (__, i) => [
        j * around + i,
        (j + 1) * around + i,
        (j + 1) * around + ((i + 1) % around),
        j * around + ((i + 1) % around),
      ]),
    );
  const last = (profile.length - 1) * around;
  const caps = [Array.from({ length: around }, (_, i) => i), Array.from({ length: around }, (_, i) => last + around - 1 - i)];
  return meshFromLists({ positions, faces: isClosed ? [...faces, ...caps] : faces });
}

/** The greatest change of any edge's length, as a share of it, and the least of the triangles' signed areas by the mesh's. */
function measured({ mesh, triangles: { corners } }: Surface, places: Float32Array): { bent: number; least: number } {
  let [bent, least] = [0, Infinity];
  for (let t = 0; t < corners.length; t += 3) {
    const three = [0, 1, 2].map((k) => corners[t + k]!);
    const p = three.map((c) => [...mesh.positions.subarray(mesh.cornerVertex[c]! * 3, mesh.cornerVertex[c]! * 3 + 3)]);
    const q = three.map((c) => [places[c * 2]!, -places[c * 2 + 1]!]);
    for (const [i, j] of [
      [0, 1],
      [1, 2],
      [2, 0],
    ] as const) {
      const was = Math.hypot(...p[i]!.map((v, k) => v - p[j]![k]!));
      bent = Math.max(bent, Math.abs(Math.hypot(q[i]![0]! - q[j]![0]!, q[i]![1]! - q[j]![1]!) / was - 1));
    }
    const [u, v] = [1, 2].map((k) => p[k]!.map((x, a) => x - p[0]![a]!));
    const area = Math.hypot(u![1]! * v![2]! - u![2]! * v![1]!, u![2]! * v![0]! - u![0]! * v![2]!, u![0]! * v![1]! - u![1]! * v![0]!);
    const flat = (q[1]![0]! - q[0]![0]!) * (q[2]![1]! - q[0]![1]!) - (q[1]![1]! - q[0]![1]!) * (q[2]![0]! - q[0]![0]!);
    if (area > 1e-9) least = Math.min(least, flat / area);
  }
  return { bent, least };
}

it('lays what is bent but not curved at its true lengths: tubes, cones, folded strips, closed cans and boxes', () => {
  fc.assert(
    fc.property(
      fc.constantFrom('tube', 'cone', 'can', 'strip', 'box'),
      fc.integer({ min: 5, max: 30 }),
      fc.double({ min: 0.2, max: 4, noNaN: true }),
      fc.double({ min: 0.05, max: 0.9, noNaN: true }),
      fc.constantFrom(0, usualSteps),
      (kind, n, high, top, steps) => {
        const strip = () => {
          const angles = Array.from({ length: n }, (_, i) => ((i * 37) % 90) * (Math.PI / 180));
          const ends = angles.reduce<[number, number][]>(
            (l, a) => [...l, [l.at(-1)![0] + Math.cos(a), l.at(-1)![1] + Math.sin(a)]],
            [[0, 0]],
          );
          return meshFromLists({
            positions: ends.flatMap(([x, y]) => [x, y, 0, x, y, high]),
            faces: angles.map((_, i) => [i * 2, i * 2 + 1, i * 2 + 3, i * 2 + 2]),
          });
        };
        const sized = () => ({ ...box(), positions: box().positions.map((v, i) => v * [1, high, top][i % 3]!) });
        const mesh = {
          tube: () => lathe([[1, 0], [1, high]], n, false), // prettier-ignore
          cone: () => lathe([[1, 0], [top, 1 + high]], n, false), // prettier-ignore
          can: () => lathe([[1, 0], [1, high]], n, true), // prettier-ignore
          strip,
          box: sized,
        }[kind]();
        const surface = surfaceOf(mesh);
        const { places, flipped, overlapping, islands } = lay(surface, [], steps);
        const { bent, least } = measured(surface, places);
        expect(bent).toBeLessThan(1e-4);
        expect(least).toBeGreaterThan(0.99);
        expect([flipped, overlapping]).toEqual([0, 0]);
        if (kind !== 'cone' && kind !== 'can') expect(islands.length).toBe(1);
      },
    ),
    { seed: 3, numRuns: 120 },
  );
});

it('flips no triangle and lays no island on itself, whatever is curved; true lengths come nearer than by angles alone', () => {
  fc.assert(
    fc.property(
      fc.array(fc.double({ min: 0.2, max: 2, noNaN: true }), { minLength: 3, maxLength: 8 }),
      fc.integer({ min: 4, max: 14 }),
      fc.double({ min: 0, max: 0.6, noNaN: true }),
      fc.boolean(),
      (radii, around, bump, isClosed) => {
        const surface = surfaceOf(lathe(radii.map((r, i) => [r, i * 0.7]), around, isClosed, bump)); // prettier-ignore
        const { places, flipped, overlapping, islands } = lay(surface);
        expect([flipped, overlapping]).toEqual([0, 0]);
        expect(measured(surface, places).least).toBeGreaterThan(0);
        expect([...islands.flatMap((i) => [...i])].sort((a, b) => a - b)).toEqual([...allOf(surface)]);
      },
    ),
    { seed: 5, numRuns: 60, endOnFailure: true },
  );
  const hill = grid(16, (x, z) => 3 * Math.sin(x / 3) * Math.cos(z / 4));
  const surface = surfaceOf(hill);
  const [angles, lengths] = [0, usualSteps].map((steps) => {
    const { places } = lay(surface, [], steps);
    return stretchOn(hill, surface.triangles, allOf(surface), places, trianglesOfFaces(surface.triangles, 256));
  });
  expect(lengths!.areaStretch).toBeLessThan(angles!.areaStretch);
  expect(angles!.angleStretch).toBeLessThan(lengths!.angleStretch);
  expect(angles!.angleStretch).toBeLessThan(1.04);
});

it('parts faces along seams, and asks before it cuts what is closed or a tube', () => {
  const crate = surfaceOf(box());
  const all = allOf(crate);
  const options = { steps: 0, mayCut: false };
  const refused = unwrap(crate, all, () => false, options);
  expect('closed' in refused && refused.closed.map((f) => [...f])).toEqual([[0, 1, 2, 3, 4, 5]]);
  expect('closed' in unwrap(surfaceOf(lathe([[1, 0], [1, 2]], 9, false)), Uint32Array.from(Array(9).keys()), () => false, options)).toBe(true); // prettier-ignore
  // A plate with a hole needs none.
  const plate = surfaceOf(lathe([[1, 0], [2, 0]], 9, false)); // prettier-ignore
  expect('places' in unwrap(plate, allOf(plate), () => false, options)).toBe(true);
  const cut = lay(crate);
  // An unfolded box hangs together at five edges of twelve.
  expect([cut.islands.length, cut.cuts.length]).toEqual([1, 7]);
  const apart = lay(crate, creases(crate.adjacency, all, 60));
  expect([apart.islands.length, apart.cuts.length]).toEqual([6, 0]);
  // Upright: what is up on the model is up on the sheet.
  const height = (c: number) => crate.mesh.positions[crate.mesh.cornerVertex[c]! * 3 + 1]!;
  for (let c = 4; c < 8; c++)
    expect(apart.places[c * 2 + 1]! < apart.places[(c === 7 ? 4 : 5) * 2 + 1]! + 1e-6 || height(c) < 0.5).toBe(true);
  const front = [4, 5, 6, 7].map((c) => [height(c), Math.round(apart.places[c * 2 + 1]! * 100)]);
  const down = (h: number) => front.filter(([y]) => y === h).map(([, v]) => v!);
  const [low, high] = [Math.min(...front.map(([y]) => y!)), Math.max(...front.map(([y]) => y!))];
  expect(Math.min(...down(low))).toBeGreaterThan(Math.max(...down(high)));
});

it('makes something of one face, faces without area, a fold on itself and an edge of three faces', () => {
  const one = surfaceOf(meshFromLists({ positions: [0, 0, 0, 1, 0, 0, 0, 1, 0], faces: [[0, 1, 2]] }));
  expect(measured(one, lay(one).places).bent).toBeLessThan(1e-6);
  const nothing = surfaceOf(meshFromLists({ positions: [0, 0, 0, 1, 0, 0, 2, 0, 0, 3, 0, 0], faces: [[0, 1, 2], [1, 2, 3]] })); // prettier-ignore
  expect(lay(nothing).places.every(Number.isFinite)).toBe(true);
  const three = surfaceOf(meshFromLists({ positions: [0, 0, 0, 0, 1, 0, 1, 0, 0, -1, 0, 0, 0, 0, 1], faces: [[0, 1, 2], [1, 0, 3], [0, 1, 4]] })); // prettier-ignore
  const laid = lay(three);
  expect([laid.flipped, measured(three, laid.places).bent < 1e-5]).toEqual([0, true]);
  const flipped = surfaceOf(meshFromLists({ positions: [0, 0, 0, 1, 0, 0, 1, 1, 0, 0, 1, 0], faces: [[0, 1, 2], [0, 3, 2]] })); // prettier-ignore
  expect(lay(flipped).islands.length).toBe(2);
});

it('finds seams by crease, by kind of face, by UVs, by the shortest way and across a mirror', () => {
  const crate = surfaceOf(box());
  const all = allOf(crate);
  expect(creases(crate.adjacency, all, 89).length).toBe(12);
  expect(creases(crate.adjacency, all, 91).length).toBe(0);
  expect(creases(crate.adjacency, Uint32Array.of(0, 1), 10).length).toBe(0);
  expect(edgesBetween(crate.adjacency, all, [0, 1, 0, 0, 0, 0]).length).toBe(4);
  const uvs = [...crate.mesh.cornerVertex].flatMap((v) => [v, v * v]);
  expect(edgesOfUvs(crate.adjacency, all, Float32Array.from(uvs)).length).toBe(0);
  uvs[8] = 77;
  expect(edgesOfUvs(crate.adjacency, all, Float32Array.from(uvs)).length).toBe(2);
  const net = surfaceOf(grid(4));
  const { cornerPoint } = net.adjacency;
  const cornerAt = (x: number, z: number) =>
    net.mesh.cornerVertex.findIndex((v) => net.mesh.positions[v * 3] === x && net.mesh.positions[v * 3 + 2] === z);
  const path = pathBetween(net.mesh, net.adjacency, [cornerAt(0, 0)], [cornerAt(0, 3)])!;
  expect(path.length).toBe(3);
  expect(pathBetween(net.mesh, net.adjacency, [cornerAt(0, 0)], [cornerAt(0, 0)])!.length).toBe(0);
  expect(cornerPoint[path[0]!]).toBeDefined();
  // A detour along a sharp edge is shorter than a straight way over a flat one, up to the preference.
  const ridge = { ...grid(4), positions: grid(4).positions.map((v, i, p) => (i % 3 === 1 && p[i - 1] === 1 ? 3 : v)) };
  const steep = surfaceOf(ridge);
  const way = pathBetween(ridge, steep.adjacency, [cornerAt(2, 0)], [cornerAt(2, 4)])!;
  expect(way.length).toBe(4);
  // Of several ends the nearest one is taken.
  expect(pathBetween(net.mesh, net.adjacency, [cornerAt(0, 0), cornerAt(3, 3)], [cornerAt(4, 3), cornerAt(0, 3)])!.length).toBe(1);
  const symmetry = findSymmetry(net.mesh, net.adjacency);
  const twins = mirroredEdges(net.mesh, net.adjacency, path, symmetry);
  const along = (edges: Iterable<number>, k: number) => [...edges].map((c) => net.mesh.positions[net.mesh.cornerVertex[c]! * 3 + k]!);
  const across = 'xyz'.indexOf(symmetry.axis);
  const wanted = along(path, across).map((v) => 2 * symmetry.offset - v);
  expect(twins.length).toBe(3);
  if (across === 0) expect(along(twins, 0).every((v) => Math.abs(v - wanted[0]!) <= 1e-6)).toBe(true);
});

it('solves Hermitian and real equations as dense elimination would', () => {
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 60 }), fc.integer(), fc.boolean(), (n, seed, isReal) => {
      let s = seed;
      const random = () => (s = (Math.imul(s, 1103515245) + 12345) & 0x7fffffff) / 0x7fffffff - 0.5;
      const pairs = Array.from({ length: n * 2 }, () => [Math.floor((random() + 0.5) * n) % n, Math.floor((random() + 0.5) * n) % n]);
      const edges = pairs.filter(([i, j]) => i !== j).map(([i, j]) => ({ i: i!, j: j!, re: random(), im: isReal ? 0 : random() }));
      const entries = [...edges, ...Array.from({ length: n }, (_, i) => ({ i, j: i, re: 4 * n, im: 0 }))];
      const places = Float64Array.from({ length: n * 3 }, random);
      const around = Array.from({ length: n }, (_, v) => edges.flatMap((e) => (e.i === v ? [e.j] : e.j === v ? [e.i] : [])));
      const start = Uint32Array.from([
        0,
        ...around.map(
          (
            (sum) => (l: number[]) =>
              (sum += l.length)
          )(0),
        ),
      ]);
      const order = dissect(places, { start, next: Uint32Array.from(around.flat()) });
      expect([...order].sort((a, b) => a - b)).toEqual([...Array(n).keys()]);
      const factor = factorise(
        {
          n,
          row: Uint32Array.from(entries, (e) => e.i),
          column: Uint32Array.from(entries, (e) => e.j),
          re: Float64Array.from(entries, (e) => e.re),
          ...(!isReal && { im: Float64Array.from(entries, (e) => e.im) }),
        },
        order,
      )!;
      const [x, y] = [Float64Array.from({ length: n }, random), Float64Array.from({ length: n }, random)];
      const [bx, by] = [x.slice(), y.slice()];
      solve(factor, x, y);
      const [ax, ay] = [new Float64Array(n), new Float64Array(n)];
      for (const { i, j, re, im } of entries) {
        ax[i]! += re * x[j]! - im * y[j]!;
        ay[i]! += re * y[j]! + im * x[j]!;
        if (i === j) continue;
        ax[j]! += re * x[i]! + im * y[i]!;
        ay[j]! += re * y[i]! - im * x[i]!;
      }
      for (let i = 0; i < n; i++) expect([ax[i], ay[i]]).toEqual([expect.closeTo(bx[i]!, 8), expect.closeTo(by[i]!, 8)]);
    }),
    { seed: 2, numRuns: 100 },
  );
  expect(factorise({ n: 1, row: Uint32Array.of(0), column: Uint32Array.of(0), re: Float64Array.of(-1) }, Uint32Array.of(0))).toBeNull();
});

it('measures stretch against the mean, and ranks what can be seen of it', () => {
  // Two squares of 1 m: one on 4 × 4 texels, one on 2 × 8.
  const two = surfaceOf(meshFromLists({ positions: [0, 0, 0, 1, 0, 0, 1, 0, 1, 0, 0, 1, 2, 0, 0, 2, 0, 1], faces: [[0, 3, 2, 1], [1, 2, 5, 4]] })); // prettier-ignore
  const start = trianglesOfFaces(two.triangles, 2);
  const texels = Float32Array.of(0, 0, 0, 4, 4, 4, 4, 0, 4, 0, 4, 8, 6, 8, 6, 0);
  const same = stretchOn(two.mesh, two.triangles, Uint32Array.of(0, 1), texels, start);
  expect([...same.density, ...same.angle, same.mean]).toEqual([4, 4, 1, 4, 4].map((v) => expect.closeTo(v, 4) as number));
  expect([same.areaStretch, same.angleStretch]).toEqual([expect.closeTo(1, 4), expect.closeTo(2.5, 4)]);
  // The second at half the size: a fourth of the texels.
  const half = stretchOn(
    two.mesh,
    two.triangles,
    Uint32Array.of(0, 1),
    Float32Array.of(...texels.slice(0, 8), 4, 0, 4, 4, 5, 4, 5, 0),
    start,
  );
  expect([half.density[1], half.mean ** 2]).toEqual([expect.closeTo(2, 4), expect.closeTo(10, 3)]);
  expect([timesOff(half, 0), timesOff(half, 1)]).toEqual([expect.closeTo(1.6, 3), expect.closeTo(2.5, 3)]);
  expect(half.areaStretch).toBeCloseTo(2.05, 3);
  expect([...worstFaces(half, two.adjacency.areas)]).toEqual([1, 0]);
  expect([...worstFaces(half, two.adjacency.areas, [1, 0])]).toEqual([0]);
  const point = stretchOn(two.mesh, two.triangles, Uint32Array.of(0), new Float32Array(16), start);
  expect([point.density[0], point.mean, point.areaStretch]).toEqual([0, 0, 1]);
});

it('tells triangles that lie over each other, also where no border crosses another, and none that touch', () => {
  const of = (points: readonly number[], triangles: readonly number[]) =>
    onItself(
      { x: Float64Array.from(points.filter((_, i) => i % 2 === 0)), y: Float64Array.from(points.filter((_, i) => i % 2)) },
      Uint32Array.from(triangles),
    );
  const square = [0, 0, 1, 0, 1, 1, 0, 1];
  expect(of(square, [0, 1, 2, 0, 2, 3])).toBeNull();
  expect(of(square, [0, 1, 2, 0, 1, 3])).toEqual([0, 1]);
  // One folded back over its neighbour, and one within another.
  expect(of([0, 0, 2, 0, 2, 2, 1.5, 0.5], [0, 1, 2, 2, 0, 3])).toEqual([0, 1]);
  expect(of([0, 0, 8, 0, 0, 8, 1, 1, 2, 1, 1, 2], [0, 1, 2, 3, 4, 5])).toEqual([0, 1]);
  expect(of([0, 0, 8, 0, 0, 8, 5, 5, 6, 5, 5, 6], [0, 1, 2, 3, 4, 5])).toBeNull();
  // By a thousandth, not by less than a millionth of all.
  expect(of([0, 0, 1, 0, 1, 1, 0.999, 0, 2, 0, 0.999, 1], [0, 1, 2, 3, 4, 5])).toEqual([0, 1]);
  expect(of([0, 0, 1, 0, 1, 1, 0.9999999, 0, 2, 0, 0.9999999, 1], [0, 1, 2, 3, 4, 5])).toBeNull();
});

it('agrees with the area that two triangles have in common', () => {
  const place = fc.integer({ min: -8, max: 8 });
  fc.assert(
    fc.property(fc.array(place, { minLength: 12, maxLength: 12 }), (p) => {
      const at = (v: number) => [p[v * 2]!, p[v * 2 + 1]!] as const;
      const twice = ([ax, ay]: readonly [number, number], [bx, by]: readonly [number, number], [cx, cy]: readonly [number, number]) =>
        (bx - ax) * (cy - ay) - (by - ay) * (cx - ax);
      fc.pre(twice(at(0), at(1), at(2)) !== 0 && twice(at(3), at(4), at(5)) !== 0);
      // Clipped by each side in turn.
      let common = [at(0), at(1), at(2)].map((q) => q as readonly [number, number]);
      const turn = Math.sign(twice(at(3), at(4), at(5)));
      for (const [a, b] of [
        [3, 4],
        [4, 5],
        [5, 3],
      ] as const)
        common = common.flatMap((q, i) => {
          const next = common[(i + 1) % common.length]!;
          const [s, t] = [twice(at(a), at(b), q) * turn, twice(at(a), at(b), next) * turn];
          const cut = s * t < 0 ? [[q[0] + ((next[0] - q[0]) * s) / (s - t), q[1] + ((next[1] - q[1]) * s) / (s - t)] as const] : [];
          return [...(s >= 0 ? [q] : []), ...cut];
        });
      const area = common.reduce(
        (sum, q, i) => sum + q[0] * common[(i + 1) % common.length]![1] - q[1] * common[(i + 1) % common.length]![0],
        0,
      );
      const flat = { x: Float64Array.from([0, 1, 2, 3, 4, 5], (v) => at(v)[0]), y: Float64Array.from([0, 1, 2, 3, 4, 5], (v) => at(v)[1]) };
      expect(onItself(flat, Uint32Array.of(0, 1, 2, 3, 4, 5)) !== null).toBe(Math.abs(area) > 1e-9);
    }),
    { numRuns: 500 },
  );
});
