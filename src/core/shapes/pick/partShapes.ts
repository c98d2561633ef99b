import { edgeLength, type Adjacency } from '../mesh/adjacency';
import type { PolyMesh } from '../mesh/polyMesh';

/**
 * What tells parts apart by their shape, without regard to where they are; built when it is first asked for,
 * and kept as long as the adjacency is.
 */
export interface PartShapes {
  /** Length of the edge of each corner, metres. */
  edge: Float32Array;
  /** Distance of each corner from the middle of its part: the mean of the part's corners. */
  away: Float32Array;
  /** Square metres and number of corners of each part. */
  area: Float64Array;
  corners: Uint32Array;
  /** Shares of its faces in a part's area, ascending. */
  shares(part: number): Float64Array;
}

const cache = new WeakMap<Adjacency, PartShapes>();

export function partShapes(mesh: PolyMesh, adjacency: Adjacency): PartShapes {
  let found = cache.get(adjacency);
  if (!found) cache.set(adjacency, (found = build(mesh, adjacency)));
  return found;
}

function build(mesh: PolyMesh, adjacency: Adjacency): PartShapes {
  const { positions, cornerVertex } = mesh;
  const { cornerFace, areas, part, partStart, partFaces } = adjacency;
  const parts = partStart.length - 1;
  const middle = new Float64Array(parts * 3);
  const corners = new Uint32Array(parts);
  for (let c = 0; c < cornerFace.length; c++) {
    const p = part[cornerFace[c]!]!;
    corners[p]!++;
    for (let k = 0; k < 3; k++) middle[p * 3 + k]! += positions[cornerVertex[c]! * 3 + k]!;
  }
  for (let p = 0; p < parts; p++) for (let k = 0; k < 3; k++) middle[p * 3 + k]! /= corners[p] || 1;
  const edge = new Float32Array(cornerFace.length);
  const away = new Float32Array(cornerFace.length);
  for (let c = 0; c < cornerFace.length; c++) {
    const [a, m] = [cornerVertex[c]! * 3, part[cornerFace[c]!]! * 3];
    edge[c] = edgeLength(mesh, adjacency, c);
    away[c] = Math.hypot(positions[a]! - middle[m]!, positions[a + 1]! - middle[m + 1]!, positions[a + 2]! - middle[m + 2]!);
  }
  const area = new Float64Array(parts);
  for (let f = 0; f < areas.length; f++) area[part[f]!]! += areas[f]!;
  for (let p = 0; p < parts; p++) area[p] ||= 1e-12;
  const sorted = new Map<number, Float64Array>();
  return {
    edge,
    away,
    area,
    corners,
    shares(p) {
      let shares = sorted.get(p);
      if (!shares) {
        shares = Float64Array.from(partFaces.subarray(partStart[p]!, partStart[p + 1]!), (f) => areas[f]! / area[p]!).sort();
        sorted.set(p, shares);
      }
      return shares;
    },
  };
}
