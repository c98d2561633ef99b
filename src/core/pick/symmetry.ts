import type { Adjacency } from '../mesh/adjacency';
import { boundsOf } from '../mesh/measure';
import { faceCount, type PolyMesh } from '../mesh/polyMesh';

export interface Symmetry {
  axis: 'x' | 'y' | 'z';
  /** Where the plane stands on its axis, metres. */
  offset: number;
  matched: number;
  unmatched: number;
  /** The twin of each face: another face, itself where it lies across the plane, -1 where there is none. Twins are mutual. */
  twin: Int32Array;
}

const axes = ['x', 'y', 'z'] as const;

/**
 * The plane across an axis over which most of the mesh is mirrored. `tolerance`: how far twins' middles may lie apart, as a share of the model's size.
 *
 * Method: for each axis the middle of the bounds, and the plane x = 0 where that differs, are tried; faces are matched by their middles in a grid of cells,
 * the nearest with the same number of corners, and kept where both choose each other.
 */
export function findSymmetry(mesh: PolyMesh, adjacency: Adjacency, tolerance = 0.002): Symmetry {
  const { min, max } = boundsOf(mesh);
  const size = Math.max(...axes.map((_, k) => max[k]! - min[k]!), 1e-9);
  const middles = middlesOfFaces(mesh);
  let best: Symmetry | null = null;
  for (const [k, axis] of axes.entries()) {
    const middle = (min[k]! + max[k]!) / 2;
    const offsets =
      Math.abs(middle) > size * tolerance && min[k]! < 0 && max[k]! > 0 ? [middle, 0] : [Math.abs(middle) <= size * tolerance ? 0 : middle];
    for (const offset of offsets) {
      const found = mirrorTwins(adjacency, middles, k, offset, size * tolerance);
      if (!best || found.matched > best.matched) best = { axis, offset, ...found };
    }
  }
  return best!;
}

/** Twins across a given plane; see `findSymmetry`. `slack`: metres. */
function mirrorTwins(
  adjacency: Adjacency,
  middles: Float32Array,
  axis: number,
  offset: number,
  slack: number,
): Omit<Symmetry, 'axis' | 'offset'> {
  const { faceStart, areas, normals } = adjacency;
  const faces = faceStart.length - 1;
  const side = Math.max(slack * 2, 1e-7);
  const cells = new Map<number, number[]>();
  const index = (v: number) => Math.floor(v / side);
  const key = (x: number, y: number, z: number) => (Math.imul(x, 73856093) ^ Math.imul(y, 19349663) ^ Math.imul(z, 83492791)) | 0;
  const at = (f: number, k: number) => middles[f * 3 + k]!;
  for (let f = 0; f < faces; f++) {
    const id = key(index(at(f, 0)), index(at(f, 1)), index(at(f, 2)));
    const list = cells.get(id);
    if (list) list.push(f);
    else cells.set(id, [f]);
  }
  const nearest = new Int32Array(faces).fill(-1);
  for (let f = 0; f < faces; f++) {
    const p = [at(f, 0), at(f, 1), at(f, 2)];
    p[axis] = 2 * offset - p[axis]!;
    let least = slack * slack;
    const [x, y, z] = p.map(index) as [number, number, number];
    for (let dx = -1; dx <= 1; dx++)
      for (let dy = -1; dy <= 1; dy++)
        for (let dz = -1; dz <= 1; dz++)
          for (const g of cells.get(key(x + dx, y + dy, z + dz)) ?? []) {
            if (faceStart[g + 1]! - faceStart[g]! !== faceStart[f + 1]! - faceStart[f]!) continue;
            if (Math.abs(areas[g]! - areas[f]!) > 0.05 * Math.max(areas[g]!, areas[f]!) + 1e-12) continue;
            const d = (at(g, 0) - p[0]!) ** 2 + (at(g, 1) - p[1]!) ** 2 + (at(g, 2) - p[2]!) ** 2 + normalGap(f, g) * slack * slack * 0.1;
            if (d < least) {
              least = d;
              nearest[f] = g;
            }
          }
  }
  const twin = new Int32Array(faces).fill(-1);
  let matched = 0;
  for (let f = 0; f < faces; f++) {
    const g = nearest[f]!;
    if (g < 0 || nearest[g] !== f) continue;
    twin[f] = g;
    matched++;
  }
  return { twin, matched, unmatched: faces - matched };

  /** 0 where the mirrored normals agree, 2 where they are opposed: tells the two sides of a thin wall apart. */
  function normalGap(f: number, g: number): number {
    let dot = 0;
    for (let k = 0; k < 3; k++) dot += normals[f * 3 + k]! * (k === axis ? -1 : 1) * normals[g * 3 + k]!;
    return 1 - dot;
  }
}

function middlesOfFaces(mesh: PolyMesh): Float32Array {
  const out = new Float32Array(faceCount(mesh) * 3);
  for (let f = 0; f < faceCount(mesh); f++) {
    const [start, end] = [mesh.faceStart[f]!, mesh.faceStart[f + 1]!];
    for (let c = start; c < end; c++) {
      const v = mesh.cornerVertex[c]! * 3;
      for (let k = 0; k < 3; k++) out[f * 3 + k]! += mesh.positions[v + k]! / (end - start);
    }
  }
  return out;
}
