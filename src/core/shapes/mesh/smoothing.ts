import { nextCorner, type Adjacency } from './adjacency';
import type { PolyMesh } from './polyMesh';

/**
 * Corners that share one normal: those at a point whose faces meet there, one after the other, at edges of less
 * than `degrees`. A number for each corner. `isOne`: whether two faces may be smooth with each other at all.
 */
export function smoothSets(
  { cornerVertex }: PolyMesh,
  adjacency: Adjacency,
  degrees: number,
  isOne: (faceA: number, faceB: number) => boolean = () => true,
): Uint32Array {
  const { neighbour, cosine, against, cornerFace } = adjacency;
  const parent = Uint32Array.from(cornerVertex, (_, c) => c);
  const rootOf = (c: number): number => {
    while (parent[c] !== c) c = parent[c] = parent[parent[c]!]!;
    return c;
  };
  const join = (a: number, b: number) => (parent[Math.max(rootOf(a), rootOf(b))] = Math.min(rootOf(a), rootOf(b)));
  const least = Math.cos((degrees * Math.PI) / 180);
  for (let c = 0; c < neighbour.length; c++) {
    const n = neighbour[c]!;
    // A face that is flipped against its neighbour has its normal on the other side.
    if (n < c || cosine[c]! < least || against[c] || !isOne(cornerFace[c]!, cornerFace[n]!)) continue;
    join(c, nextCorner(adjacency, n));
    join(n, nextCorner(adjacency, c));
  }
  return parent.map((_, c) => rootOf(c));
}

/**
 * A unit normal for each corner: the sum over its set of the faces' normals, each weighed by the angle that
 * the face has there (Thürmer and Wüthrich, 1998). `normals`: 3 for each face.
 */
export function smoothNormals(
  mesh: PolyMesh,
  sets: Uint32Array,
  { cornerFace, faceStart }: Adjacency,
  normals: Float32Array,
): Float32Array {
  const sums = new Float64Array(sets.length * 3);
  for (let c = 0; c < sets.length; c++) {
    const f = cornerFace[c]!;
    const angle = angleAt(mesh, c, faceStart[f]!, faceStart[f + 1]!);
    for (let k = 0; k < 3; k++) sums[sets[c]! * 3 + k]! += angle * normals[f * 3 + k]!;
  }
  const out = new Float32Array(sets.length * 3);
  for (let c = 0; c < sets.length; c++) {
    const sum = sums.subarray(sets[c]! * 3, sets[c]! * 3 + 3);
    const length = Math.hypot(...sum);
    // Where all cancels out, or has no area, the face's own.
    for (let k = 0; k < 3; k++) out[c * 3 + k] = length > 1e-9 ? sum[k]! / length : normals[cornerFace[c]! * 3 + k]!;
  }
  return out;
}

/**
 * Smoothing groups, as OBJ has them: a number from 1 for each face, the same for faces that meet in edges along which
 * their corners have one normal; 0 where no corner of a group is turned from its own face. `cornerNormals`: 3 for
 * each corner.
 */
export function smoothingGroups({ faceStart }: PolyMesh, adjacency: Adjacency, cornerNormals: Float32Array): Uint32Array {
  const { neighbour, cornerFace, against, normals } = adjacency;
  const isSame = (a: Float32Array, i: number, b: Float32Array, j: number) =>
    [0, 1, 2].every((k) => Math.abs(a[i * 3 + k]! - b[j * 3 + k]!) < 1e-4);
  const out = new Uint32Array(faceStart.length - 1);
  const seen = new Uint8Array(out.length);
  let number = 0;
  for (let first = 0; first < out.length; first++) {
    if (seen[first]) continue;
    seen[first] = 1;
    const group = [first];
    let isTurned = false;
    for (let i = 0; i < group.length; i++) {
      const f = group[i]!;
      for (let c = faceStart[f]!; c < faceStart[f + 1]!; c++) {
        isTurned ||= !isSame(cornerNormals, c, normals, f);
        const n = neighbour[c]!;
        if (n < 0 || against[c] || seen[cornerFace[n]!]) continue;
        const [after, before] = [nextCorner(adjacency, n), nextCorner(adjacency, c)];
        if (!isSame(cornerNormals, c, cornerNormals, after) || !isSame(cornerNormals, before, cornerNormals, n)) continue;
        seen[cornerFace[n]!] = 1;
        group.push(cornerFace[n]!);
      }
    }
    if (!isTurned) continue;
    number++;
    for (const f of group) out[f] = number;
  }
  return out;
}

/** The angle of a face at one of its corners, in radians. */
function angleAt({ positions, cornerVertex }: PolyMesh, corner: number, from: number, to: number): number {
  const at = (c: number) => cornerVertex[c]! * 3;
  const [p, a, b] = [at(corner), at(corner > from ? corner - 1 : to - 1), at(corner + 1 < to ? corner + 1 : from)];
  let [dot, aa, bb] = [0, 0, 0];
  for (let k = 0; k < 3; k++) {
    const [u, v] = [positions[a + k]! - positions[p + k]!, positions[b + k]! - positions[p + k]!];
    dot += u * v;
    aa += u * u;
    bb += v * v;
  }
  const lengths = Math.sqrt(aa * bb);
  return lengths > 0 ? Math.acos(Math.max(-1, Math.min(1, dot / lengths))) : 0;
}
