import fc from 'fast-check';
import { expect, it } from 'vitest';
import { byId } from '@/core/ground/byId';
import { inherits } from '@/core/ground/limits';
import { grid } from '@tests/meshes';
import { cutModel, type CutWish } from '../../shapes/cut/cutModel';
import { stampOutlines } from '../../shapes/cut/stampOutlines';
import { adjacencyOf, nextCorner } from '../../shapes/mesh/adjacency';
import { faceCount, type PolyMesh } from '../../shapes/mesh/polyMesh';
import { facesOfSpans, spansOfFaces } from '../../shapes/pick/namedPicks';
import { edgeCorner } from '../../shapes/pick/edges';
import { carryAll } from './carryModel';

const side = 3;
const mesh = grid(side);
const faces = side * side;
const corners = Array.from({ length: faces * 4 }, (_, c) => c);
const placeOf = (m: PolyMesh, c: number) => [m.positions[m.cornerVertex[c]! * 3]!, m.positions[m.cornerVertex[c]! * 3 + 2]!] as const;
/** Each face has its own way to lay itself out, so that a corner tells of which face it is. */
const laid = (face: number, [x, z]: readonly [number, number], turn: number) => [x / 8 + face / 16, turn * z - x / 4];
const middle = (m: PolyMesh, c: number) => {
  const [a, b] = [placeOf(m, c), placeOf(m, nextCorner(adjacencyOf(m), c))];
  return [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2] as const;
};

it('cuts carry seats, variants, regions, rules, picks and seams, each to where it was, and no cut becomes a seam', () => {
  const ring = fc.record({
    edge: fc.nat(faces * 4 - 1),
    places: fc.oneof(
      fc.record({ kind: fc.constant('even' as const), count: fc.integer({ min: 1, max: 3 }) }),
      fc.record({ kind: fc.constant('share' as const), share: fc.constantFrom(0.125, 0.25, 0.5, 0.75) }),
    ),
  });
  const place = fc.double({ min: 0.5, max: 2.5, noNaN: true });
  const wish: fc.Arbitrary<CutWish> = fc.oneof(
    ring.map((r): CutWish => ({ kind: 'rings', cuts: [r] })),
    // Points inside of faces: lines inside outlines, and stamps across edges and within a face.
    fc.uint16Array({ minLength: faces, maxLength: faces, max: 1 }).map((picked): CutWish => {
      picked[4] = 1;
      return { kind: 'border', picked, width: { kind: 'metres', metres: 0.2 }, times: 2, takes: 'inside' };
    }),
    fc.tuple(place, place, fc.constantFrom(0.2, 0.8)).map(([x, z, width]): CutWish => {
      const outlines = stampOutlines({ kind: 'rectangle', width, height: 0.3 }, { columns: 1, rows: 1, gap: 0 }, 25);
      return { kind: 'stamps', stamps: [{ face: 4, frame: { origin: [x, 0, z], u: [1, 0, 0], v: [0, 0, -1] }, outlines }] };
    }),
  );
  fc.assert(
    fc.property(fc.uniqueArray(fc.nat(faces * 4 - 1), { maxLength: 12 }), wish, fc.nat(faces - 1), ([...marked], wished, apart) => {
      const adjacency = adjacencyOf(mesh);
      const face = (c: number) => adjacency.cornerFace[c]!;
      const own = Uint16Array.from({ length: faces }, (_, f) => f + 1);
      const at = Float32Array.from(corners.flatMap((c) => laid(face(c), placeOf(mesh, c), 1)));
      const otherAt = Float32Array.from(corners.flatMap((c) => (face(c) === apart ? laid(face(c), placeOf(mesh, c), -1) : [NaN, NaN])));
      const patch = { cell: own.map((v, f) => (f === apart ? v + 20 : inherits)), at: otherAt };
      const seams = [...new Set(marked.map((c) => edgeCorner(adjacency, c)))].sort((a, b) => a - b);
      const picks = [{ id: 1, name: 'half', spans: spansOfFaces(Uint32Array.from([0, 1, 4, 8])) }];
      const { mesh: after, origins } = cutModel(mesh, adjacency, wished);
      const carried = carryAll(
        { seams, picks, patches: byId({ worn: patch }) },
        { cell: own, region: own, rule: own, at },
        mesh,
        after,
        origins,
      );

      const now = adjacencyOf(after);
      expect(faceCount(after)).toBeGreaterThan(faces);
      // Of every new face by where it lies which one it was.
      const was = Array.from({ length: faceCount(after) }, (_, f) => {
        const [a, b] = [after.faceStart[f]!, after.faceStart[f + 1]!];
        const sum = [0, 1].map(
          (k) => Array.from({ length: b - a }, (_, i) => placeOf(after, a + i)[k]!).reduce((s, v) => s + v, 0) / (b - a),
        );
        return (
          corners.find(
            (c) =>
              c % 4 === 0 && Math.abs(placeOf(mesh, c)[0] + 0.5 - sum[0]!) < 0.5 && Math.abs(placeOf(mesh, c)[1] + 0.5 - sum[1]!) < 0.5,
          )! / 4
        );
      });
      for (const said of [carried.seats.cell, carried.seats.region, carried.seats.rule!]) expect([...said]).toEqual(was.map((f) => f + 1));
      expect([...carried.patches!.worn!.cell]).toEqual(was.map((f) => (f === apart ? f + 21 : inherits)));
      expect([...facesOfSpans(carried.picks[0]!.spans)]).toEqual(was.flatMap((f, i) => ([0, 1, 4, 8].includes(f) ? [i] : [])));
      for (let c = 0; c < after.cornerVertex.length; c++) {
        const f = was[now.cornerFace[c]!]!;
        [carried.seats.at!, carried.patches!.worn!.at!].forEach((list, k) => {
          if (k && f !== apart) expect([list[c * 2], list[c * 2 + 1]]).toEqual([NaN, NaN]);
          else laid(f, placeOf(after, c), k ? -1 : 1).forEach((v, i) => expect(list[c * 2 + i]).toBeCloseTo(v, 5));
        });
      }
      // An edge is a seam where its middle lies on one.
      const isOn = ([x, z]: readonly [number, number]) =>
        seams.some((c) => {
          const [a, b] = [placeOf(mesh, c), placeOf(mesh, nextCorner(adjacency, c))];
          return Math.abs(Math.hypot(x - a[0], z - a[1]) + Math.hypot(x - b[0], z - b[1]) - 1) < 1e-6;
        });
      const wanted = new Set<number>();
      for (let c = 0; c < after.cornerVertex.length; c++) if (isOn(middle(after, c))) wanted.add(edgeCorner(now, c));
      expect(carried.seams).toEqual([...wanted].sort((a, b) => a - b));
    }),
  );
});
