import { describe, expect, it } from 'vitest';
import { adjacencyOf } from '../mesh/adjacency';
import { meshFromLists, takeFaces } from '../mesh/build';
import { cornerRun } from '../mesh/faceOrigins';
import { boundsOf, measureFaces } from '../mesh/measure';
import { faceCount, type PolyMesh } from '../mesh/polyMesh';
import { box, boxFaces, grid } from '@tests/meshes';
import { findSymmetry } from '../pick/symmetry';
import { completeHalf, halfPlane } from './completeHalf';
import { inspectMesh } from './inspectMesh';
import { orientFaces } from './orient';
import { proposedScale, repairMesh } from './repair';

const turn = (mesh: PolyMesh, faces: number[]) =>
  takeFaces(
    mesh,
    Uint32Array.from({ length: faceCount(mesh) }, (_, f) => f),
    Uint8Array.from({ length: faceCount(mesh) }, (_, f) => (faces.includes(f) ? 1 : 0)),
  );
const problems = (mesh: PolyMesh) => Object.fromEntries(inspectMesh(mesh).map((p) => [p.kind, [p.count, [...p.faces]]]));
const outward = (mesh: PolyMesh) => {
  const { normals } = measureFaces(mesh);
  const middle = 0.5;
  return Array.from({ length: faceCount(mesh) }, (_, f) => {
    let dot = 0;
    for (let k = 0; k < 3; k++) {
      let mean = 0;
      for (let c = mesh.faceStart[f]!; c < mesh.faceStart[f + 1]!; c++)
        mean += mesh.positions[mesh.cornerVertex[c]! * 3 + k]! / (mesh.faceStart[f + 1]! - mesh.faceStart[f]!);
      dot += normals[f * 3 + k]! * (mean - middle);
    }
    return dot > 0;
  });
};

describe('checking and repairing', () => {
  it('finds nothing wrong with a box', () => {
    expect(problems(box())).toEqual({});
  });

  it('finds flipped faces and inside-out parts, and turns both outward', () => {
    expect(problems(turn(box(), [2, 3]))).toEqual({ flipped: [2, [2, 3]] });
    expect(problems(turn(box(), [0, 1, 2, 3, 4, 5]))).toEqual({ 'inside-out': [6, [0, 1, 2, 3, 4, 5]] });
    for (const faces of [[2], [0, 1, 2, 3, 4, 5], [0, 1, 2, 3]]) {
      const { mesh, origins, changed } = repairMesh(turn(box(), faces), 'turn-outward');
      expect(outward(mesh)).toEqual(Array(6).fill(true));
      expect([...origins.from]).toEqual([0, 1, 2, 3, 4, 5]);
      expect([...origins.order!]).toEqual([0, 1, 2, 3, 4, 5].map((f) => (faces.includes(f) ? cornerRun.turned : cornerRun.same)));
      expect(changed).toBe(faces.length);
    }
    // A flag has no outside: the few follow the many.
    const flag = turn(grid(3), [4]);
    expect(problems(flag).flipped).toEqual([1, [4]]);
    expect(problems(repairMesh(flag, 'turn-outward').mesh).flipped).toBeUndefined();
  });

  it('finds duplicates, faces without area, open and crowded edges', () => {
    const messy = meshFromLists({ positions: [...box().positions, 0.5, 0, 0], faces: [...boxFaces, [1, 3, 2, 0], [0, 8, 1]] });
    const found = problems(messy);
    expect(found.duplicate).toEqual([1, [6]]);
    expect(found.degenerate).toEqual([1, [7]]);
    expect(found['non-manifold']![0]).toBe(4);
    expect(found['open-border']![0]).toBe(2);
    const once = repairMesh(messy, 'drop-duplicate');
    const twice = repairMesh(once.mesh, 'drop-degenerate');
    expect([...once.origins.from]).toEqual([0, 1, 2, 3, 4, 5, 7]);
    expect(problems(twice.mesh)).toEqual({});
    expect(problems(grid(2))).toEqual({ 'open-border': [8, [0, 1, 2, 3]] });
  });

  it('welds what lies within the tolerance, and nothing else', () => {
    const split = meshFromLists({
      positions: [0, 0, 0, 1, 0, 0, 1, 1, 0, 0, 1, 0, 1.00004, 0, 0, 2, 0, 0, 2, 1, 0, 1, 1.00003, 0],
      faces: [
        [0, 1, 2, 3],
        [4, 5, 6, 7],
      ],
    });
    expect(adjacencyOf(split).partStart).toHaveLength(3);
    const { mesh, changed } = repairMesh(split, 'weld');
    expect([adjacencyOf(mesh).partStart.length, changed]).toEqual([2, 2]);
    expect(repairMesh(split, 'weld', { tolerance: 1e-6 }).changed).toBe(0);
  });

  it('suspects Z up and odd sizes, and puts them right', () => {
    const standing = meshFromLists({
      positions: box().positions.map((v, i) => v * [2, 2, 5][i % 3]! - [1, 1, 0][i % 3]!),
      faces: boxFaces,
    });
    expect(problems(standing)).toHaveProperty('z-up');
    // A car in centimetres, on its back: four wheels reach below the body along Z, a bumper ends it along Y, and it does not stand on z = 0.
    const part = (x: number, y: number, z: number, w: number, d: number, h: number) =>
      [0, 1, 2, 3, 4, 5, 6, 7].flatMap((k) => [x + (k & 1) * w, y + ((k >> 1) & 1) * d, z + (k >> 2) * h]);
    const blocks = [
      part(0, 8, 20, 171, 367, 92),
      part(40, 0, 40, 90, 8, 12),
      ...[0, 151].flatMap((x) => [60, 280].map((y) => part(x, y, 0, 20, 60, 60))),
    ];
    const car = meshFromLists({
      positions: blocks.flat().map((v, i) => (i % 3 === 0 ? v - 85 : i % 3 === 1 ? v - 200 : v - 40)),
      faces: blocks.flatMap((_, b) => boxFaces.map((f) => f.map((v) => v + b * 8))),
    });
    expect(problems(car)).toHaveProperty('z-up');
    expect(problems(car)).toHaveProperty('huge');
    expect(proposedScale(car)).toBe(0.01);
    expect(problems(repairMesh(car, 'turn-up').mesh)).not.toHaveProperty('z-up');
    const upright = repairMesh(standing, 'turn-up').mesh;
    expect(problems(upright)).toEqual({});
    expect(boundsOf(upright)).toEqual({ min: [-1, 0, -1], max: [1, 5, 1] });
    const huge = box(2000);
    expect(problems(huge)).toHaveProperty('huge');
    expect(proposedScale(huge)).toBe(0.001);
    expect(problems(repairMesh(huge, 'scale', { factor: 0.001 }).mesh)).toEqual({});
    expect(problems(box(0.001))).toHaveProperty('tiny');
    expect(() => repairMesh(huge, 'scale', { factor: 0 })).toThrow('above zero');
  });

  it('finds normals of no length', () => {
    const mesh = { ...box(), cornerNormals: new Float32Array(24 * 3).fill(0.5, 12) };
    expect(problems(mesh)['zero-normal']).toEqual([1, [0]]);
    expect(repairMesh(mesh, 'flat-normals').mesh.cornerNormals).toBeUndefined();
  });
});

describe('half a mirrored body', () => {
  /** A box with a bump, open where it was cut at x = 0; with a wall in the plane where asked. */
  const half = (withWall = false): PolyMesh => {
    const { positions } = box();
    const faces = boxFaces.filter((f) => withWall || !f.every((v) => positions[v * 3] === 0));
    return meshFromLists({
      positions: [...positions, 1.5, 0.5, 0.5],
      faces: [...faces.filter((f) => !f.every((v) => v & 1)), [1, 3, 8], [3, 7, 8], [7, 5, 8], [5, 1, 8]],
    });
  };

  it('is found, and completed into a whole that is welded, closed and mirrored in itself', () => {
    expect(halfPlane(half())).toEqual({ axis: 'x', offset: 0, edges: 4 });
    expect(halfPlane(box())).toBeNull();
    // A flat plate has only open edges in a plane, and stands for itself.
    const plate = grid(3);
    expect(halfPlane({ ...plate, positions: plate.positions.map((_, i) => plate.positions[i - (i % 3) + [1, 0, 2][i % 3]!]!) })).toBeNull();
    const { mesh, origins, changed } = completeHalf(half(), { axis: 'x', offset: 0 });
    const { from, order } = origins;
    const adjacency = adjacencyOf(mesh);
    expect([faceCount(mesh), changed, adjacency.openEdges, adjacency.pointCount, adjacency.partStart.length]).toEqual([16, 8, 0, 14, 2]);
    expect(orientFaces(mesh).flipped).toHaveLength(0);
    const { axis, offset, matched, twin } = findSymmetry(mesh, adjacency);
    expect([axis, offset, matched]).toEqual(['x', 0, 16]);
    expect([...from]).toEqual([0, 1, 2, 3, 4, 5, 6, 7, 0, 1, 2, 3, 4, 5, 6, 7]);
    twin.forEach((g, f) => expect(from[g]).toBe(from[f]));
    expect([...order!]).toEqual([...Array(8).fill(cornerRun.same), ...Array(8).fill(cornerRun.turned)]);
  });

  it('loses faces that would lie inside, and is refused where it reaches beyond the plane', () => {
    const { mesh } = completeHalf(half(true), { axis: 'x', offset: 0 });
    expect([faceCount(mesh), adjacencyOf(mesh).openEdges]).toEqual([16, 0]);
    expect(() => completeHalf(half(), { axis: 'x', offset: 0.5 })).toThrow('reaches beyond x = 0.5 on both sides');
  });
});
