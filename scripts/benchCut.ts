// Cuts in a large mesh: called by `npm run bench`.
import { cutModel, planCut, type CutWish } from '@/core/shapes/cut/cutModel';
import { buildAdjacency, type Adjacency } from '@/core/shapes/mesh/adjacency';
import { boundsOf } from '@/core/shapes/mesh/measure';
import type { PolyMesh } from '@/core/shapes/mesh/polyMesh';

type Row = [what: string, ours: number, baseline: string, theirs: number, goal: string];
type Time = (runs: number, work: () => unknown) => number;

/** What a pointer waits for, and what is then made of it, beside finding all neighbours anew. */
export function benchCut(mesh: PolyMesh, adjacency: Adjacency, time: Time): Row[] {
  const { min, max } = boundsOf(mesh);
  const middle = Math.floor(mesh.faceStart.length / 2);
  const ring: CutWish = { kind: 'rings', cuts: [{ edge: mesh.faceStart[middle]!, places: { kind: 'even', count: 2 } }] };
  const plane: CutWish = { kind: 'planes', axis: 'x', bands: [{ from: min[0] * 0.45 + max[0] * 0.55, to: Infinity }] };
  const anew = time(2, () => buildAdjacency(mesh));
  const neighbours = 'welding and adjacency anew';
  return [
    ['a ring foreseen, two cuts', time(10, () => planCut(mesh, adjacency, ring)), neighbours, anew, ''],
    ['a plane foreseen', time(10, () => planCut(mesh, adjacency, plane)), neighbours, anew, ''],
    ['a mesh cut along a ring', time(3, () => cutModel(mesh, adjacency, ring)), neighbours, anew, ''],
    ['a mesh cut by a plane', time(3, () => cutModel(mesh, adjacency, plane)), neighbours, anew, ''],
  ];
}
