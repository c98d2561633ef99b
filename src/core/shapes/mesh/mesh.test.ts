import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { box, boxFaces, grid, triangulated } from '@tests/meshes';
import { adjacencyOf, buildAdjacency } from './adjacency';
import { meshFromLists } from './build';
import { boundsOf, measureFaces } from './measure';
import { mendQuads } from './mendQuads';
import { faceCount, triangleCount, type PolyMesh } from './polyMesh';
import { triangulate } from './triangulate';

const soup = fc
  .array(fc.uniqueArray(fc.integer({ min: 0, max: 9 }), { minLength: 3, maxLength: 5 }), { minLength: 1, maxLength: 12 })
  .map((faces) => meshFromLists({ positions: Array.from({ length: 30 }, (_, i) => ((i * 7919) % 97) / 10), faces }));

const endPoints = (mesh: PolyMesh, points: Uint32Array, c: number, face: number) => {
  const end = mesh.faceStart[face + 1]!;
  return [points[c]!, points[c + 1 < end ? c + 1 : mesh.faceStart[face]!]!];
};

describe('adjacency', () => {
  it('joins a box into one closed part', () => {
    const a = adjacencyOf(box());
    expect(a.partStart).toHaveLength(2);
    expect(a.openEdges + a.nonManifoldEdges).toBe(0);
    expect(a.cosine.every((c) => Math.abs(c) < 1e-6)).toBe(true);
    expect(adjacencyOf(box())).not.toBe(a);
    const mesh = box();
    expect(adjacencyOf(mesh)).toBe(adjacencyOf(mesh));
  });

  it('pairs corners symmetrically over the same two points, and parts are what points connect', () => {
    fc.assert(
      fc.property(soup, (mesh) => {
        const a = buildAdjacency(mesh);
        const uses = new Map<string, number[]>();
        a.cornerFace.forEach((f, c) => {
          const key = endPoints(mesh, a.cornerPoint, c, f)
            .sort((p, q) => p - q)
            .join();
          uses.set(key, [...(uses.get(key) ?? []), c]);
        });
        for (const corners of uses.values())
          for (const c of corners) {
            const d = a.neighbour[c]!;
            if (d < 0) {
              // Only where the other uses are taken is a corner left alone.
              expect(corners.filter((e) => e !== c && a.neighbour[e]! < 0 && a.cornerFace[e] !== a.cornerFace[c])).toEqual([]);
              continue;
            }
            expect(a.neighbour[d]).toBe(c);
            expect(corners).toContain(d);
            expect(a.against[c]).toBe(a.cornerPoint[c] === a.cornerPoint[d] ? 1 : 0);
          }
        expect(a.openEdges).toBe([...uses.values()].filter((u) => u.length === 1).length);
        expect(a.nonManifoldEdges).toBe([...uses.values()].filter((u) => u.length > 2).length);
        for (let f = 0; f < faceCount(mesh); f++)
          for (let g = 0; g < f; g++) {
            const pointsOf = (h: number) => [...a.cornerPoint.slice(mesh.faceStart[h]!, mesh.faceStart[h + 1]!)];
            if (pointsOf(f).some((p) => pointsOf(g).includes(p))) expect(a.part[f]).toBe(a.part[g]);
          }
        expect([...a.partFaces].sort((p, q) => p - q)).toEqual([...a.partFaces.keys()]);
      }),
      { seed: 3, numRuns: 60 },
    );
  });

  it('welds equal positions within an object and never across objects; minus zero is zero', () => {
    const positions = [0, 0, 0, 1, 0, 0, 0, 1, 0, 1, 0, 0, -0, 1, 0, 1, 1, 0];
    const faces = [
      [0, 1, 2],
      [3, 5, 4],
    ];
    expect(adjacencyOf(meshFromLists({ positions, faces })).pointCount).toBe(4);
    const apart = adjacencyOf(meshFromLists({ positions, faces, faceObject: [0, 1], objects: ['a', 'b'] }));
    expect([apart.pointCount, apart.partStart.length - 1]).toEqual([6, 2]);
  });

  it('lets a wall go on where a fence meets it', () => {
    const positions = [0, 0, 0, 1, 0, 0, 2, 0, 0, 0, 1, 0, 1, 1, 0, 2, 1, 0, 1, 0, 1, 1, 1, 1];
    const a = adjacencyOf(
      meshFromLists({
        positions,
        faces: [
          [0, 1, 4, 3],
          [1, 6, 7, 4],
          [1, 2, 5, 4],
        ],
      }),
    );
    expect(a.nonManifoldEdges).toBe(1);
    expect(a.cornerFace[a.neighbour[1]!]).toBe(2);
    expect(a.cosine[1]).toBeCloseTo(1);
  });

  it('handles the crowded middle of a fan', () => {
    const n = 120;
    const positions = [0, 0, 0];
    for (let i = 0; i < n; i++) positions.push(Math.cos((i / n) * 2 * Math.PI), 0, Math.sin((i / n) * 2 * Math.PI));
    const faces = Array.from({ length: n }, (_, i) => [0, 1 + ((i + 1) % n), 1 + i]);
    const a = adjacencyOf(meshFromLists({ positions, faces }));
    expect([a.openEdges, a.nonManifoldEdges]).toEqual([n, 0]);
  });
});

describe('triangulation', () => {
  it('covers simple polygons of any shape and orientation exactly', () => {
    const star = fc.array(fc.double({ min: 0.3, max: 2, noNaN: true }), { minLength: 5, maxLength: 14 });
    fc.assert(
      fc.property(star, fc.double({ min: 0, max: 6, noNaN: true }), fc.double({ min: 0, max: 6, noNaN: true }), (radii, turnX, turnY) => {
        const positions = radii.flatMap((r, i) => {
          const angle = (i / radii.length) * 2 * Math.PI;
          const [x, y] = [Math.cos(angle) * r, Math.sin(angle) * r];
          const [y2, z2] = [y * Math.cos(turnX), y * Math.sin(turnX)];
          return [x * Math.cos(turnY) + z2 * Math.sin(turnY), y2, -x * Math.sin(turnY) + z2 * Math.cos(turnY)];
        });
        const mesh = meshFromLists({ positions, faces: [radii.map((_, i) => i)] });
        const { areas, normals } = measureFaces(mesh);
        const { corners, face } = triangulate(mesh);
        expect(face).toHaveLength(triangleCount(mesh));
        const cut = meshFromLists({
          positions,
          faces: Array.from({ length: face.length }, (_, t) => [...corners.slice(t * 3, t * 3 + 3)]),
        });
        const parts = measureFaces(cut);
        expect(parts.areas.reduce((a, b) => a + b, 0)).toBeCloseTo(areas[0]!, 4);
        for (let t = 0; t < face.length; t++)
          if (parts.areas[t]! > 1e-6)
            expect(
              parts.normals[t * 3]! * normals[0]! + parts.normals[t * 3 + 1]! * normals[1]! + parts.normals[t * 3 + 2]! * normals[2]!,
            ).toBeGreaterThan(0.9);
      }),
      { seed: 4 },
    );
  });

  it('cuts a dented quad along the diagonal that stays inside', () => {
    const mesh = meshFromLists({ positions: [0, 0, 0, 2, 0, 0, 0.4, 0.4, 0, 0, 2, 0], faces: [[0, 1, 2, 3]] });
    expect([...triangulate(mesh).corners]).toEqual([0, 1, 2, 0, 2, 3]);
    const turned = meshFromLists({ positions: [2, 0, 0, 0.4, 0.4, 0, 0, 2, 0, 0, 0, 0], faces: [[0, 1, 2, 3]] });
    expect([...triangulate(turned).corners]).toEqual([0, 1, 3, 1, 2, 3]);
  });
});

describe('mending quads', () => {
  it('gives a cut-up grid its quads back, with the triangles they came from', () => {
    const whole = grid(4, (x) => Math.max(0, x - 2) * 2);
    const cut = triangulated(whole);
    const mended = mendQuads(cut);
    expect(faceCount(mended)).toBe(16);
    expect(boundsOf(mended)).toEqual(boundsOf(whole));
    const { corners, face } = triangulate(mended);
    const source = mended.source!.triangles!;
    const seen = [0, 0];
    face.forEach((f, t) => {
      const from = source[f * 2 + (t > 0 && face[t - 1] === f ? 1 : 0)]!;
      seen[0]!++;
      const ours = [...corners.slice(t * 3, t * 3 + 3)].map((c) => mended.cornerVertex[c]!).sort();
      expect(ours).toEqual([...cut.cornerVertex.slice(from * 3, from * 3 + 3)].sort());
    });
    expect(seen[0]).toBe(32);
  });

  it('leaves apart what folds, what differs, and what is no convex quad', () => {
    const pair = (positions: number[], more = {}) =>
      faceCount(
        mendQuads(
          meshFromLists({
            positions,
            faces: [
              [0, 1, 2],
              [0, 2, 3],
            ],
            ...more,
          }),
        ),
      );
    const square = [0, 0, 0, 1, 0, 0, 1, 1, 0, 0, 1, 0];
    expect(pair(square)).toBe(1);
    expect(pair([...square.slice(0, 11), 0.05])).toBe(2);
    const slot = (name: string) => ({ name, color: '#888888', given: true });
    expect(pair(square, { faceSlot: [0, 1], slots: [slot('a'), slot('b')] })).toBe(2);
    expect(pair([0, 0, 0, 2, 0, 0, 0.4, 0.4, 0, 0, 2, 0])).toBe(2);
    const seamed = {
      ...meshFromLists({
        positions: square,
        faces: [
          [0, 1, 2],
          [0, 2, 3],
        ],
      }),
      uvSets: [Float32Array.of(0, 0, 1, 0, 1, 1, 0.5, 0, 1, 1, 0, 1)],
    };
    expect(faceCount(mendQuads(seamed))).toBe(2);
    expect(faceCount(mendQuads(meshFromLists({ positions: box().positions, faces: boxFaces })))).toBe(6);
  });
});
