import { nextCorner, type Adjacency } from '../../shapes/mesh/adjacency';
import type { PolyMesh } from '../../shapes/mesh/polyMesh';
import { edgeCorner } from '../../shapes/pick/edges';
import type { Symmetry } from '../../shapes/pick/symmetry';

/** Edges between two of the faces for which this holds, as `edgeCorner` gives them, ascending. */
function edgesWhere(adjacency: Adjacency, faces: Uint32Array, is: (c: number, d: number) => boolean): Uint32Array {
  const { faceStart, neighbour, cornerFace } = adjacency;
  const own = new Uint8Array(faceStart.length - 1);
  for (const f of faces) own[f] = 1;
  const out: number[] = [];
  for (const f of faces)
    for (let c = faceStart[f]!; c < faceStart[f + 1]!; c++) {
      const d = neighbour[c]!;
      if (d > c && own[cornerFace[d]!] && is(c, d)) out.push(edgeCorner(adjacency, c));
    }
  return Uint32Array.from(out).sort();
}

/** Edges at which two of the faces meet at more than `angle` degrees. */
export function creases(adjacency: Adjacency, faces: Uint32Array, angle: number): Uint32Array {
  const least = Math.cos((angle * Math.PI) / 180) - 1e-6;
  return edgesWhere(adjacency, faces, (c) => adjacency.cosine[c]! < least);
}

/** Edges between faces that differ: in their region, their material slot, their cell. */
export const edgesBetween = (adjacency: Adjacency, faces: Uint32Array, kindOf: ArrayLike<number>): Uint32Array =>
  edgesWhere(adjacency, faces, (c, d) => kindOf[adjacency.cornerFace[c]!] !== kindOf[adjacency.cornerFace[d]!]);

/** Edges at which the UVs of the file part. */
export function edgesOfUvs(adjacency: Adjacency, faces: Uint32Array, uvs: Float32Array): Uint32Array {
  const isNear = (p: number, q: number) => Math.abs(uvs[p * 2]! - uvs[q * 2]!) < 1e-5 && Math.abs(uvs[p * 2 + 1]! - uvs[q * 2 + 1]!) < 1e-5;
  return edgesWhere(adjacency, faces, (c, d) => {
    const [p, q] = adjacency.against[c] ? [d, nextCorner(adjacency, d)] : [nextCorner(adjacency, d), d];
    return !isNear(c, p) || !isNear(nextCorner(adjacency, c), q);
  });
}

/**
 * The twins of edges across a mirror plane; those of faces without a twin are left out. The twin of an edge is that
 * of its face's twin whose middle lies nearest to the image of its own.
 */
export function mirroredEdges(
  { positions, cornerVertex }: PolyMesh,
  adjacency: Adjacency,
  edges: Iterable<number>,
  { twin, axis, offset }: Symmetry,
): Uint32Array {
  const { faceStart, cornerFace } = adjacency;
  const middle = (c: number) => {
    const [v, w] = [cornerVertex[c]! * 3, cornerVertex[nextCorner(adjacency, c)]! * 3];
    return [0, 1, 2].map((k) => (positions[v + k]! + positions[w + k]!) / 2);
  };
  const out = new Set<number>();
  for (const c of edges) {
    const f = twin[cornerFace[c]!]!;
    if (f === undefined || f < 0) continue;
    const wanted = middle(c).map((v, k) => ('xyz'[k] === axis ? 2 * offset - v : v));
    let [best, least] = [-1, Infinity];
    for (let d = faceStart[f]!; d < faceStart[f + 1]!; d++) {
      const away = Math.hypot(...middle(d).map((v, k) => v - wanted[k]!));
      if (away < least) [best, least] = [d, away];
    }
    if (best >= 0) out.add(edgeCorner(adjacency, best));
  }
  return Uint32Array.from(out).sort();
}
