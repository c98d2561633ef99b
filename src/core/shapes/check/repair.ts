import type { MirrorPlane } from '../pick/symmetry';
import { completeHalf, halfPlane } from './completeHalf';
import { boundsOf, largestSide } from '../mesh/measure';
import { takeFaces } from '../mesh/build';
import { faceCount, type PolyMesh } from '../mesh/polyMesh';
import { sameCorners } from '../mesh/faceOrigins';
import { degenerateFaces, duplicateFaces } from './inspectMesh';
import { orientFaces } from './orient';
import type { Repaired } from './repaired';

export type Repair = 'turn-outward' | 'drop-degenerate' | 'drop-duplicate' | 'weld' | 'turn-up' | 'scale' | 'flat-normals' | 'complete';

export interface RepairOptions {
  /** Metres, for `weld`: vertices nearer than this become one. By default 1/10,000 of the model's size. */
  tolerance?: number;
  /** For `scale`. */
  factor?: number;
  /** For `complete`: the plane at which the half ends; by default the one that `halfPlane` finds. */
  plane?: MirrorPlane;
}

/**
 * A mesh with one fault mended, and what became of its faces. Throws where nothing would be left, and where
 * an option makes no sense for this mesh.
 */
export function repairMesh(mesh: PolyMesh, repair: Repair, options: RepairOptions = {}): Repaired {
  switch (repair) {
    case 'turn-outward': {
      const { turn } = orientFaces(mesh);
      const changed = turn.reduce((sum, t) => sum + t, 0);
      return { mesh: takeFaces(mesh, allFaces(mesh), turn), origins: sameCorners(identity(mesh), turn), changed };
    }
    case 'drop-degenerate':
      return dropFaces(mesh, degenerateFaces(mesh));
    case 'drop-duplicate':
      return dropFaces(mesh, duplicateFaces(mesh));
    case 'weld':
      return weldByTolerance(mesh, options.tolerance ?? defaultTolerance(mesh));
    case 'turn-up':
      return moved(mesh, ([x, y, z]) => [x, z, -y]);
    case 'scale': {
      const factor = options.factor ?? 1;
      if (!(factor > 0 && Number.isFinite(factor))) throw new Error('A model is scaled by a number above zero.');
      return moved(mesh, ([x, y, z]) => [x * factor, y * factor, z * factor]);
    }
    case 'complete': {
      const plane = options.plane ?? halfPlane(mesh);
      if (!plane) throw new Error('No plane was found at which this model is cut in half.');
      return completeHalf(mesh, plane);
    }
    case 'flat-normals': {
      const { cornerNormals: _, ...rest } = mesh;
      return { mesh: rest, origins: sameCorners(identity(mesh)), changed: faceCount(mesh) };
    }
  }
}

const allFaces = (mesh: PolyMesh) => Uint32Array.from({ length: faceCount(mesh) }, (_, f) => f);
const identity = (mesh: PolyMesh) => Int32Array.from({ length: faceCount(mesh) }, (_, f) => f);

export const defaultTolerance = (mesh: PolyMesh): number => largestSide(boundsOf(mesh)) * 1e-4;

/** The power of ten, from a thousandth to a thousand, that brings the model's size nearest to two metres. */
export function proposedScale(mesh: PolyMesh): number {
  const size = largestSide(boundsOf(mesh)) || 1;
  const factors = [0.001, 0.01, 0.1, 1, 10, 100, 1000];
  return factors.reduce(
    (best, f) => (Math.abs(Math.log(size * f) - Math.log(2)) < Math.abs(Math.log(size * best) - Math.log(2)) ? f : best),
    1,
  );
}

function dropFaces(mesh: PolyMesh, drop: Uint32Array): Repaired {
  const dropped = new Set(drop);
  const keep = allFaces(mesh).filter((f) => !dropped.has(f));
  if (!keep.length) throw new Error('No face would be left of this model.');
  return { mesh: takeFaces(mesh, keep), origins: sameCorners(Int32Array.from(keep)), changed: drop.length };
}

type Point = [number, number, number];
/** Positions and normals under a move that keeps angles. */
function moved(mesh: PolyMesh, move: (p: Point) => Point): Repaired {
  const each = (data: Float32Array, isDirection: boolean) => {
    const out = new Float32Array(data.length);
    for (let i = 0; i < data.length; i += 3) {
      const p = move([data[i]!, data[i + 1]!, data[i + 2]!]);
      const length = isDirection ? Math.hypot(...p) || 1 : 1;
      for (let k = 0; k < 3; k++) out[i + k] = p[k]! / length;
    }
    return out;
  };
  return {
    mesh: { ...mesh, positions: each(mesh.positions, false), ...(mesh.cornerNormals && { cornerNormals: each(mesh.cornerNormals, true) }) },
    origins: sameCorners(identity(mesh)),
    changed: 1,
  };
}

/**
 * Vertices of one object nearer than the tolerance take the position of the first of them; faces that lose
 * their area stay, to be dropped in a step of their own. Method: a grid of cells as wide as the tolerance; a
 * vertex looks in the 27 cells around it.
 */
function weldByTolerance(mesh: PolyMesh, tolerance: number): Repaired {
  const { positions, cornerVertex, faceObject, faceStart } = mesh;
  const vertices = positions.length / 3;
  const object = new Int32Array(vertices).fill(-1);
  for (let f = 0; f < faceCount(mesh); f++)
    for (let c = faceStart[f]!; c < faceStart[f + 1]!; c++) object[cornerVertex[c]!] = faceObject[f]!;
  const grid = new Map<string, number[]>();
  const out = positions.slice();
  const size = tolerance || 1e-9;
  let changed = 0;
  for (let v = 0; v < vertices; v++) {
    if (object[v]! < 0) continue;
    const p = [0, 1, 2].map((k) => positions[v * 3 + k]!);
    const at = p.map((x) => Math.floor(x / size));
    let found = -1;
    for (let i = 0; i < 27 && found < 0; i++) {
      const key = `${object[v]},${at[0]! + (i % 3) - 1},${at[1]! + (Math.floor(i / 3) % 3) - 1},${at[2]! + Math.floor(i / 9) - 1}`;
      found = (grid.get(key) ?? []).find((u) => Math.hypot(...p.map((x, k) => x - out[u * 3 + k]!)) <= tolerance) ?? -1;
    }
    if (found >= 0) {
      const isMoved = p.some((x, k) => x !== out[found * 3 + k]!);
      if (isMoved) changed++;
      out.copyWithin(v * 3, found * 3, found * 3 + 3);
    } else {
      const key = `${object[v]},${at.join(',')}`;
      const list = grid.get(key);
      if (list) list.push(v);
      else grid.set(key, [v]);
    }
  }
  return { mesh: { ...mesh, positions: out }, origins: sameCorners(identity(mesh)), changed };
}
