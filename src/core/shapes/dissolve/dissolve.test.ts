import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { box, grid, triangulated } from '@tests/meshes';
import { cutModel, type CutWish } from '../cut/cutModel';
import { stampOutlines } from '../cut/stampOutlines';
import { adjacencyOf, nextCorner } from '../mesh/adjacency';
import { meshFromLists } from '../mesh/build';
import { checkMesh } from '../mesh/checkMesh';
import { areaOf, volumeOf } from '../mesh/measure';
import { cornerCount, faceCount, firstMade, triangleCount, type PolyMesh } from '../mesh/polyMesh';
import { triangulate } from '../mesh/triangulate';
import { dissolve } from './dissolve';
import type { OnFaces } from './partingEdges';

const plain = (mesh: PolyMesh, looks: ArrayLike<number> = new Uint32Array(faceCount(mesh))): OnFaces => ({
  looks: Uint32Array.from(looks),
  at: [],
  seams: [],
});
const taken = (mesh: PolyMesh, on: OnFaces = plain(mesh), angle = 0.5) => dissolve(mesh, adjacencyOf(mesh), on, angle);
const sizes = (mesh: PolyMesh) => Array.from({ length: faceCount(mesh) }, (_, f) => mesh.faceStart[f + 1]! - mesh.faceStart[f]!).sort();
/** Of each look its area, and where that lies: its first and second moments. */
function spread(mesh: PolyMesh, looks: ArrayLike<number>): Record<number, number[]> {
  const { corners, face } = triangulate(mesh);
  const out: Record<number, number[]> = {};
  const p = (c: number) => [0, 1, 2].map((k) => mesh.positions[mesh.cornerVertex[c]! * 3 + k]!);
  face.forEach((f, t) => {
    const [a, b, c] = [0, 1, 2].map((k) => p(corners[t * 3 + k]!)) as [number[], number[], number[]];
    const [u, v] = [b.map((x, k) => x - a[k]!), c.map((x, k) => x - a[k]!)] as [number[], number[]];
    const area = Math.hypot(u[1]! * v[2]! - u[2]! * v[1]!, u[2]! * v[0]! - u[0]! * v[2]!, u[0]! * v[1]! - u[1]! * v[0]!) / 2;
    const own = (out[looks[f]!] ??= Array<number>(7).fill(0));
    own[0]! += area;
    for (let k = 0; k < 3; k++) {
      own[1 + k]! += (area * (a[k]! + b[k]! + c[k]!)) / 3;
      // Exact over a triangle by the middles of its sides.
      own[4 + k]! += (area * (((a[k]! + b[k]!) / 2) ** 2 + ((b[k]! + c[k]!) / 2) ** 2 + ((a[k]! + c[k]!) / 2) ** 2)) / 3;
    }
  });
  return out;
}
const wish = fc.oneof(
  fc.record({
    kind: fc.constant('rings' as const),
    cuts: fc.tuple(fc.record({ edge: fc.nat(23), places: fc.record({ kind: fc.constant('even' as const), count: fc.integer({ min: 1, max: 2 }) }) })), // prettier-ignore
  }),
  fc.record({ kind: fc.constant('planes' as const), axis: fc.constantFrom('x' as const, 'y' as const, 'z' as const), bands: fc.tuple(fc.record({ from: fc.constantFrom(0.5, 0.9), to: fc.constantFrom(1.25, 1.5) })) }), // prettier-ignore
  fc.record({ kind: fc.constant('border' as const), takes: fc.constant('inside' as const), picked: fc.uint16Array({ minLength: 6, maxLength: 6, max: 2 }), width: fc.record({ kind: fc.constant('metres' as const), metres: fc.constantFrom(0.1, 0.3) }), times: fc.integer({ min: 1, max: 2 }) }), // prettier-ignore
  fc.record({ kind: fc.constant('stamps' as const), stamps: fc.tuple(fc.record({
    face: fc.constant(0), frame: fc.constant({ origin: [1, 1, 0] as const, u: [-1, 0, 0] as const, v: [0, 1, 0] as const }),
    outlines: fc.constantFrom(1, 3).map((columns) => stampOutlines({ kind: 'round', width: 0.5, height: 0.8, sides: 5 }, { columns, rows: 1, gap: 0.1 }, 10)),
  })) }), // prettier-ignore
);

describe('edges that part nothing', () => {
  it('go, all of them, so that a box that was cut is a box again; where colors lie on it each keeps its place, and nothing opens', () => {
    fc.assert(
      fc.property(
        fc.array(wish, { minLength: 1, maxLength: 3 }),
        fc.array(fc.nat(2), { minLength: 40, maxLength: 40 }),
        (wishes, colors) => {
          let mesh = box(2);
          for (const w of wishes)
            try {
              const faces = faceCount(mesh);
              const fitted: CutWish =
                w.kind === 'border' ? { ...w, picked: Uint16Array.from({ length: faces }, (_, f) => w.picked[f % 6]!) } : w;
              mesh = cutModel(mesh, adjacencyOf(mesh), fitted).mesh;
            } catch {
              // A ring needs a quad, lines an outline with room, a stamp a face that is still there.
            }
          const bare = taken(mesh);
          expect([sizes(bare.mesh), cornerCount(bare.mesh), bare.mesh.positions.length / 3]).toEqual([Array(6).fill(4), 24, 8]);
          const looks = Uint32Array.from({ length: faceCount(mesh) }, (_, f) => colors[f % 40]!);
          const { mesh: after, origins } = taken(mesh, plain(mesh, looks));
          checkMesh(after);
          const { openEdges, nonManifoldEdges, against, areas } = adjacencyOf(after);
          expect([openEdges, nonManifoldEdges, against.includes(1), areas.some((a) => !(a > 0))]).toEqual([0, 0, false, false]);
          expect(volumeOf(after)).toBeCloseTo(8, 4);
          const [was, is] = [
            spread(mesh, looks),
            spread(
              after,
              [...origins.from].map((f) => looks[f]!),
            ),
          ];
          expect(Object.keys(is)).toEqual(Object.keys(was));
          for (const look of Object.keys(was)) is[Number(look)]!.forEach((v, k) => expect(v).toBeCloseTo(was[Number(look)]![k]!, 3));
          expect(triangleCount(after)).toBeLessThanOrEqual(triangleCount(mesh));
        },
      ),
      { numRuns: 40, endOnFailure: true },
    );
  });

  it('are told, those that lie within the stated angle alone, measured from the largest face of an area', () => {
    const { mesh, edges, changed } = taken(grid(3));
    expect([faceCount(mesh), cornerCount(mesh), edges.length, changed]).toEqual([1, 4, 12, 9]);
    // Strips that each lean 4 degrees further: with 5 two go together, not all of them.
    const bent = meshFromLists({
      positions: Array.from({ length: 5 }, (_, i) => {
        const a = (i * 4 * Math.PI) / 180;
        return [0, Math.sin(a) * 3, Math.cos(a) * 3, 1, Math.sin(a) * 3, Math.cos(a) * 3];
      }).flat(),
      faces: [0, 1, 2, 3].map((i) => [2 * i, 2 * i + 1, 2 * i + 3, 2 * i + 2]),
    });
    expect([taken(bent, plain(bent), 3.9), taken(bent, plain(bent), 5), taken(bent, plain(bent), 13)].map((d) => faceCount(d.mesh))).toEqual([4, 2, 1]); // prettier-ignore
    expect(() => taken(bent, plain(bent), 21)).toThrow('0 to 20 degrees');
    // Points between edges that bend stay.
    expect(cornerCount(taken(bent, plain(bent), 13).mesh)).toBe(10);
  });

  it('stay where anything runs along them: looks, seams, objects, slots, groups, normals, coordinates, colors, and places along gradients', () => {
    const mesh = grid(2);
    const half = (f: number) => Number(f % 2 === 1);
    const perCorner = (of: (f: number) => number[]) => Array.from({ length: 16 }, (_, c) => of(c >> 2)).flat();
    const two = { openEdges: 8, faces: 2 };
    const told = (m: PolyMesh, on: OnFaces) => {
      const { mesh: after } = taken(m, on);
      return { openEdges: adjacencyOf(after).openEdges, faces: faceCount(after) };
    };
    const seams = [...adjacencyOf(mesh).cornerPoint.keys()].filter((c) => {
      const d = adjacencyOf(mesh).neighbour[c]!;
      return d > c && half(c >> 2) !== half(d >> 2);
    });
    const kept: [PolyMesh, OnFaces][] = [
      [mesh, plain(mesh, [0, 1, 0, 1])],
      [mesh, { ...plain(mesh), seams }],
      [{ ...mesh, faceObject: Uint16Array.of(0, 1, 0, 1), objects: ['a', 'b'] }, plain(mesh)],
      [{ ...mesh, faceSlot: Uint16Array.of(0, 1, 0, 1), slots: [mesh.slots[0]!, mesh.slots[0]!] }, plain(mesh)],
      [{ ...mesh, faceGroup: Uint16Array.of(0, 1, 0, 1), groups: ['a', 'b'] }, plain(mesh)],
      [{ ...mesh, cornerNormals: Float32Array.from(perCorner((f) => (half(f) ? [0, 1, 0] : [0, 0.6, 0.8]))) }, plain(mesh)],
      [{ ...mesh, uvSets: [Float32Array.from(perCorner((f) => [half(f), 0]))] }, plain(mesh)],
      [{ ...mesh, cornerColors: Uint8Array.from(perCorner((f) => [half(f) * 9, 0, 0, 255])) }, plain(mesh)],
      [mesh, { ...plain(mesh), at: [Float32Array.from(perCorner((f) => [half(f) / 4, 0]))] }],
      [mesh, { ...plain(mesh), at: [Float32Array.from(perCorner((f) => [0, half(f) / 4]))] }],
      [mesh, { ...plain(mesh), at: [Float32Array.from(perCorner((f) => (half(f) ? [NaN, NaN] : [0, 0])))] }],
      [{ ...mesh, cornerColors: Uint8Array.from(perCorner((f) => [0, 0, 0, 255 - half(f) * 2])) }, plain(mesh)],
    ];
    // Two strips of a metre by two: their long sides lose the point in the middle.
    // Objects share no points, so that each has an outline of its own.
    kept.forEach(([m, on], i) => expect([i, told(m, on)]).toEqual([i, { ...two, openEdges: m.objects.length > 1 ? 8 : 6 }]));
    // As little as nobody sees, or where nothing is told, parts nothing.
    const idle: [PolyMesh, OnFaces][] = [
      [mesh, plain(mesh)],
      [{ ...mesh, cornerColors: Uint8Array.from(perCorner((f) => [half(f), 0, 0, 255])) }, plain(mesh)],
      [mesh, { ...plain(mesh), at: [Float32Array.from(perCorner(() => [NaN, NaN]))] }],
      [{ ...mesh, cornerNormals: Float32Array.from(perCorner((f) => [0, half(f), 0])) }, plain(mesh)],
    ];
    for (const [m, on] of idle) expect(faceCount(taken(m, on).mesh)).toBe(1);
    // A wall and a fence that meets it: the edge of three faces stays.
    const fence = meshFromLists({
      positions: [0, 0, 0, 1, 0, 0, 2, 0, 0, 0, 1, 0, 1, 1, 0, 2, 1, 0, 1, 0, 1, 1, 1, 1],
      faces: [
        [0, 1, 4, 3],
        [1, 2, 5, 4],
        [1, 6, 7, 4],
      ],
    });
    expect(faceCount(taken(fence).mesh)).toBe(3);
  });

  it('around a hole leave few convex faces; corners keep what they have, and a vertex that has more than is mixed of its neighbours stays', () => {
    const cells = triangulated(grid(4));
    const looks = Uint32Array.from({ length: 32 }, (_, f) => Number([5, 6, 9, 10].includes(f >> 1)));
    const { mesh, origins } = taken(cells, plain(cells, looks));
    expect([faceCount(mesh), areaOf(mesh), sizes(mesh).every((n) => n <= 6)]).toEqual([5, 16, true]);
    expect([...origins.from].filter((f) => looks[f])).toHaveLength(1);
    const uv = (wave: number) => {
      const m = grid(2);
      const at = (c: number) => [m.positions[m.cornerVertex[c]! * 3]!, m.positions[m.cornerVertex[c]! * 3 + 2]!] as const;
      const bent = (x: number) => x / 2 + (x === 1 ? wave : 0);
      return { ...m, uvSets: [Float32Array.from({ length: 32 }, (_, i) => (i % 2 ? at(i >> 1)[1] / 2 : bent(at(i >> 1)[0])))] };
    };
    expect(sizes(taken(uv(0)).mesh)).toEqual([4]);
    expect(sizes(taken(uv(0.1)).mesh)).toEqual([6]);
    const bare = grid(2);
    const bent = (wave: number) => taken(bare, { ...plain(bare), at: [uv(wave).uvSets[0]!] }).mesh;
    expect([sizes(bent(0)), sizes(bent(0.1))]).toEqual([[4], [6]]);
    const colored = (middle: number) => {
      const colors = Uint8Array.from({ length: 64 }, (_, i) =>
        i % 4 === 0 ? [0, middle, 40][bare.positions[bare.cornerVertex[i >> 2]! * 3]!]! : 255,
      );
      return sizes(taken({ ...bare, cornerColors: colors }).mesh);
    };
    expect([colored(20), colored(22), colored(23)]).toEqual([[4], [4], [6]]);
    const leaning = (y: number) => {
      const normals = Float32Array.from(
        { length: 48 },
        (_, i) => [0, 1, bare.positions[bare.cornerVertex[Math.floor(i / 3)]! * 3] === 1 ? y : 0][i % 3]!,
      );
      return sizes(taken({ ...bare, cornerNormals: normals }).mesh);
    };
    expect([leaning(0), leaning(0.01)]).toEqual([[4], [6]]);
    const after = taken(uv(0)).mesh;
    after.cornerVertex.forEach((v, c) => {
      expect(after.uvSets[0]![c * 2]).toBeCloseTo(after.positions[v * 3]! / 2, 6);
      expect(after.uvSets[0]![c * 2 + 1]).toBeCloseTo(after.positions[v * 3 + 2]! / 2, 6);
    });
    expect(nextCorner(adjacencyOf(after), 3)).toBe(0);
  });

  it('at an edge of three faces, beside one that faces the other way, where normals part at one end, and along half a seam, stay alone', () => {
    // Three quads in a row and a fence at the first edge between them: the second one goes.
    const row = (extra: number[][] = []) =>
      meshFromLists({
        positions: [...[0, 1, 2, 3].flatMap((x) => [x, 0, 0, x, 1, 0]), 1, 0, 1, 1, 1, 1],
        faces: [[0, 2, 3, 1], [2, 4, 5, 3], [4, 6, 7, 5], ...extra], // prettier-ignore
      });
    expect(sizes(taken(row([[2, 8, 9, 3]])).mesh)).toEqual([4, 4, 4]);
    expect(sizes(taken(row()).mesh)).toEqual([4]);
    const flipped = meshFromLists({ positions: row().positions, faces: [[0, 2, 3, 1], [2, 3, 5, 4]] }); // prettier-ignore
    expect(faceCount(taken(flipped).mesh)).toBe(2);
    const first = row();
    const up = Array.from({ length: 12 }, () => [0, 0, 1]);
    // At one end of the first edge between faces the file says that it is hard; at the second the two sides lean by a little.
    up[1] = [0, 0.6, 0.8];
    up[8] = up[11] = [0, Math.sin(0.01), Math.cos(0.01)];
    const hard = { ...first, cornerNormals: Float32Array.from(up.flat()) };
    expect([taken(hard, plain(hard), 0.4), taken(hard, plain(hard), 0.7)].map((d) => faceCount(d.mesh))).toEqual([3, 2]);
    // None that the file gives says nothing.
    expect(faceCount(taken({ ...first, cornerNormals: new Float32Array(36) }).mesh)).toBe(1);
    const mesh = grid(2);
    const middle = [...adjacencyOf(mesh).neighbour.keys()].filter((c) => adjacencyOf(mesh).neighbour[c]! > c && [0, 1].includes(c >> 2) && [0, 1].includes(adjacencyOf(mesh).neighbour[c]! >> 2)); // prettier-ignore
    const halves = plain(mesh, [0, 1, 0, 1]);
    expect([middle.length, sizes(taken(mesh, halves).mesh), sizes(taken(mesh, { ...halves, seams: middle }).mesh)]).toEqual([1, [4, 4], [5, 5]]); // prettier-ignore
    // A needle's point lies on the line of its neighbours, but not between them.
    const needle = meshFromLists({ positions: [0, 0, 0, 4, 0, 0, 2, 0, 0, 2, 2, 0, 0, 2, 0], faces: [[0, 1, 2, 3, 4]] });
    expect(sizes(taken(needle).mesh)).toEqual([5]);
    // What ran along the old edges is told of the new ones: of all that are longer now, too.
    const along = taken(mesh, plain(mesh)).origins.corners!.onEdge!;
    expect([...along]).toEqual([1, 1, 1, 1]);
  });

  it('of a glTF source that moves stay where its vertices differ, and its own vertices do; those that cuts made go', () => {
    const source = (moves: boolean | undefined, cornerVertex: (c: number) => number): PolyMesh => {
      const mesh = grid(2);
      const still = { node: 0, mesh: 0, primitive: 0, moves: false };
      const primitives = [still, { node: 0, mesh: 0, primitive: 1, ...(moves !== undefined && { moves }) }];
      const cornerVertices = Uint32Array.from(mesh.cornerVertex, (_, c) => cornerVertex(c));
      return { ...mesh, source: { primitives, facePrimitive: Uint16Array.of(1, 1, 1, 1), cornerVertex: cornerVertices } };
    };
    const own = (c: number) => grid(2).cornerVertex[c]!;
    const faces = (m: PolyMesh) => sizes(taken(m).mesh);
    // One vertex in each place: faces join, the middle of a straight side stays where it may move.
    expect([faces(source(false, own)), faces(source(true, own)), faces(source(undefined, own))]).toEqual([[4], [8], [8]]);
    expect(faces(source(true, (c) => (own(c) % 2 ? firstMade + own(c) : own(c))))).toEqual([4]);
    // Another vertex for each face: nothing is known of how they move together.
    expect([faces(source(true, (c) => c)), faces(source(false, (c) => c))]).toEqual([[4, 4, 4, 4], [4]]);
    const parted = source(false, own);
    expect(faces({ ...parted, source: { ...parted.source!, facePrimitive: Uint16Array.of(0, 1, 0, 1) } })).toEqual([4, 4]);
    const turned = source(false, own);
    expect(faces({ ...turned, source: { ...turned.source!, reversed: Uint8Array.of(0, 1, 0, 1) } })).toEqual([4, 4]);
  });

  it('tell which faces stayed what they were, which edges run along old ones, and join beside the largest face first', () => {
    const mesh = { ...grid(2), source: { triangles: Int32Array.from({ length: 8 }, (_, i) => i + 10) } };
    const { mesh: after, origins, changed } = taken(mesh, plain(mesh, [0, 0, 1, 2]));
    expect([[...origins.from], [...origins.order!], changed]).toEqual([[0, 2, 3], [0, 1, 1], 2]);
    expect([...after.source!.triangles!]).toEqual([10, -1, 14, 15, 16, 17]);
    // An L becomes two convex faces; where another edge ends, the point stays.
    const corner = taken(mesh, plain(mesh, [0, 0, 0, 1]));
    expect([[...corner.origins.from].sort(), sizes(corner.mesh)]).toEqual([
      [0, 0, 3],
      [4, 4, 5],
    ]);
    // Around a hole: edges of both outlines run along old ones, those between its faces do not.
    const cells = triangulated(grid(4));
    const hole = taken(
      cells,
      plain(
        cells,
        Uint32Array.from({ length: 32 }, (_, f) => Number([5, 6, 9, 10].includes(f >> 1))),
      ),
    );
    const at = (c: number) => [0, 2].map((k) => hole.mesh.positions[hole.mesh.cornerVertex[c]! * 3 + k]!) as [number, number];
    const adjacency = adjacencyOf(hole.mesh);
    for (let c = 0; c < cornerCount(hole.mesh); c++) {
      const [p, q] = [at(c), at(nextCorner(adjacency, c))];
      const isOn = [0, 1].some((k) => p[k] === q[k] && ([0, 4].includes(p[k]!) || ([1, 3].includes(p[k]!) && [p, q].every((e) => e[1 - k]! >= 1 && e[1 - k]! <= 3)))); // prettier-ignore
      expect([c, hole.origins.corners!.onEdge![c]]).toEqual([c, Number(isOn)]);
    }
    // All 32 that part nothing, but those that are edges of the new faces still.
    const point = (m: PolyMesh, c: number) => [0, 2].map((k) => m.positions[m.cornerVertex[c]! * 3 + k]!).join();
    const ends = (m: PolyMesh, c: number) => [point(m, c), point(m, nextCorner(adjacencyOf(m), c))].sort().join(' ');
    const now = new Set(Array.from({ length: cornerCount(hole.mesh) }, (_, c) => ends(hole.mesh, c)));
    const gone = [...hole.edges].map((c) => ends(cells, c));
    expect([gone.filter((e) => now.has(e)).length, new Set(gone).size === gone.length, gone.length > 26, gone.length <= 32]).toEqual([0, true, true, true]); // prettier-ignore
    // Strips that lean 4 degrees each, of which the third is the widest: both its neighbours come to it, and not to each other.
    const far = [0, 1, 2, 7, 8];
    let [y, z] = [0, 0];
    const positions = far.flatMap((x, i) => {
      const a = (i * 4 * Math.PI) / 180;
      if (i) [y, z] = [y + Math.sin(a) * (x - far[i - 1]!), z + Math.cos(a) * (x - far[i - 1]!)];
      return [0, y, z, 1, y, z];
    });
    const strips = meshFromLists({ positions, faces: [0, 1, 2, 3].map((i) => [2 * i, 2 * i + 1, 2 * i + 3, 2 * i + 2]) });
    const wide = taken(strips, plain(strips), 5);
    expect([sizes(wide.mesh), [...wide.origins.from], wide.edges.length]).toEqual([[4, 8], [0, 1], 2]);
  });
});
