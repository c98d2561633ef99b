import earcut from 'earcut';
import { measureFaces } from './measure';
import { faceCount, type PolyMesh } from './polyMesh';

export interface Triangles {
  /** Corner indices of the mesh, 3 for each triangle, wound like the face. */
  corners: Uint32Array;
  /** 1 for each triangle. */
  face: Uint32Array;
}

/**
 * Every face cut into triangles, in face order. A mended quad is cut along its own source diagonal; other
 * quads along the diagonal that keeps both halves facing the face's way; larger faces by ear clipping in the
 * face's plane (earcut). A face that ear clipping cannot cover (it crosses itself) is cut as a fan, so that
 * no face is ever without triangles.
 */
export function triangulate(mesh: PolyMesh, normals: Float32Array = measureFaces(mesh).normals): Triangles {
  const faces = faceCount(mesh);
  const { faceStart, cornerVertex, positions } = mesh;
  const mendedFrom = mesh.source?.triangles;
  let count = 0;
  for (let f = 0; f < faces; f++) count += Math.max(0, faceStart[f + 1]! - faceStart[f]! - 2);
  const corners = new Uint32Array(count * 3);
  const face = new Uint32Array(count);
  let t = 0;
  const put = (f: number, a: number, b: number, c: number) => {
    corners[t * 3] = a;
    corners[t * 3 + 1] = b;
    corners[t * 3 + 2] = c;
    face[t++] = f;
  };
  for (let f = 0; f < faces; f++) {
    const start = faceStart[f]!;
    const size = faceStart[f + 1]! - start;
    if (size === 3) put(f, start, start + 1, start + 2);
    else if (size === 4) {
      const mended = mendedFrom !== undefined && mendedFrom[f * 2 + 1]! >= 0;
      if (mended || diagonalFromFirst(positions, cornerVertex, start, normals, f)) {
        put(f, start, start + 1, start + 2);
        put(f, start, start + 2, start + 3);
      } else {
        put(f, start, start + 1, start + 3);
        put(f, start + 1, start + 2, start + 3);
      }
    } else if (size > 4) {
      const cut = clipEars(mesh, f, normals);
      if (cut) for (let i = 0; i < cut.length; i += 3) put(f, start + cut[i]!, start + cut[i + 1]!, start + cut[i + 2]!);
      else for (let i = 1; i < size - 1; i++) put(f, start, start + i, start + i + 1);
    }
  }
  return { corners, face };
}

/** Signed area of corners a, b, c seen along the face's normal. */
function facing(p: Float32Array, v: Uint32Array, a: number, b: number, c: number, n: Float32Array, f: number): number {
  const i = v[a]! * 3;
  const j = v[b]! * 3;
  const k = v[c]! * 3;
  const ux = p[j]! - p[i]!;
  const uy = p[j + 1]! - p[i + 1]!;
  const uz = p[j + 2]! - p[i + 2]!;
  const wx = p[k]! - p[i]!;
  const wy = p[k + 1]! - p[i + 1]!;
  const wz = p[k + 2]! - p[i + 2]!;
  return (uy * wz - uz * wy) * n[f * 3]! + (uz * wx - ux * wz) * n[f * 3 + 1]! + (ux * wy - uy * wx) * n[f * 3 + 2]!;
}

function diagonalFromFirst(p: Float32Array, v: Uint32Array, s: number, n: Float32Array, f: number): boolean {
  const first = Math.min(facing(p, v, s, s + 1, s + 2, n, f), facing(p, v, s, s + 2, s + 3, n, f));
  if (first > 0) return true;
  return first >= Math.min(facing(p, v, s, s + 1, s + 3, n, f), facing(p, v, s + 1, s + 2, s + 3, n, f));
}

function clipEars(mesh: PolyMesh, f: number, normals: Float32Array): number[] | null {
  const start = mesh.faceStart[f]!;
  const end = mesh.faceStart[f + 1]!;
  const [nx, ny, nz] = [normals[f * 3]!, normals[f * 3 + 1]!, normals[f * 3 + 2]!];
  // Dropping the normal's largest axis keeps the outline; the order of the other two keeps the winding.
  const drop = Math.abs(nx) >= Math.abs(ny) && Math.abs(nx) >= Math.abs(nz) ? 0 : Math.abs(ny) >= Math.abs(nz) ? 1 : 2;
  const positive = [nx, ny, nz][drop]! >= 0;
  const axes = [
    [1, 2],
    [2, 0],
    [0, 1],
  ][drop]!;
  const [u, w] = positive ? axes : [axes[1]!, axes[0]!];
  const flat: number[] = [];
  for (let c = start; c < end; c++) {
    const v = mesh.cornerVertex[c]! * 3;
    flat.push(mesh.positions[v + u!]!, mesh.positions[v + w!]!);
  }
  const cut = earcut(flat);
  if (cut.length !== (end - start - 2) * 3) return null;
  // earcut is free to wind its triangles either way; ours follow the face.
  for (let i = 0; i < cut.length; i += 3) {
    const [a, b, c] = [cut[i]! * 2, cut[i + 1]! * 2, cut[i + 2]! * 2];
    const area = (flat[b]! - flat[a]!) * (flat[c + 1]! - flat[a + 1]!) - (flat[b + 1]! - flat[a + 1]!) * (flat[c]! - flat[a]!);
    if (area < 0) [cut[i + 1], cut[i + 2]] = [cut[i + 2]!, cut[i + 1]!];
  }
  return cut;
}
