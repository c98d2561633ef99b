import { faceCount, type PolyMesh } from './polyMesh';

export interface FaceMeasures {
  /** Unit normals, 3 for each face; zero for a face without area. */
  normals: Float32Array;
  /** Square metres, 1 for each face. */
  areas: Float32Array;
}

/**
 * Normals and areas of possibly concave, slightly bent n-gons. Method: Newell's sum (Sutherland, Sproull,
 * Schumacker, 1974).
 */
export function measureFaces(mesh: Pick<PolyMesh, 'positions' | 'faceStart' | 'cornerVertex'>): FaceMeasures {
  const faces = faceCount(mesh);
  const normals = new Float32Array(faces * 3);
  const areas = new Float32Array(faces);
  const { positions, faceStart, cornerVertex } = mesh;
  for (let f = 0; f < faces; f++) {
    const start = faceStart[f]!;
    const end = faceStart[f + 1]!;
    // Taken relative to the first corner, so that far-away faces do not lose their normal to rounding.
    const o = cornerVertex[start]! * 3;
    const ox = positions[o]!;
    const oy = positions[o + 1]!;
    const oz = positions[o + 2]!;
    let x = 0;
    let y = 0;
    let z = 0;
    let px = 0;
    let py = 0;
    let pz = 0;
    for (let c = start + 1; c < end; c++) {
      const v = cornerVertex[c]! * 3;
      const qx = positions[v]! - ox;
      const qy = positions[v + 1]! - oy;
      const qz = positions[v + 2]! - oz;
      x += py * qz - pz * qy;
      y += pz * qx - px * qz;
      z += px * qy - py * qx;
      px = qx;
      py = qy;
      pz = qz;
    }
    const length = Math.sqrt(x * x + y * y + z * z);
    areas[f] = length / 2;
    if (length > 0) {
      normals[f * 3] = x / length;
      normals[f * 3 + 1] = y / length;
      normals[f * 3 + 2] = z / length;
    }
  }
  return { normals, areas };
}

export interface Bounds {
  min: [number, number, number];
  max: [number, number, number];
}

/** Box around the vertices that faces use; zeros for a mesh without faces. `only`: the faces to bound. */
export function boundsOf(mesh: PolyMesh, only?: Uint32Array): Bounds {
  const min: [number, number, number] = [Infinity, Infinity, Infinity];
  const max: [number, number, number] = [-Infinity, -Infinity, -Infinity];
  const { positions, cornerVertex, faceStart } = mesh;
  const take = (start: number, end: number) => {
    for (let c = start; c < end; c++) {
      const v = cornerVertex[c]! * 3;
      for (let k = 0; k < 3; k++) {
        const p = positions[v + k]!;
        if (p < min[k]!) min[k] = p;
        if (p > max[k]!) max[k] = p;
      }
    }
  };
  if (only) for (const f of only) take(faceStart[f]!, faceStart[f + 1]!);
  else take(0, cornerVertex.length);
  return min[0] === Infinity ? { min: [0, 0, 0], max: [0, 0, 0] } : { min, max };
}

/** The mean of each face's corners, 3 for each face. */
export function middlesOfFaces({ positions, cornerVertex, faceStart }: PolyMesh): Float32Array {
  const out = new Float32Array((faceStart.length - 1) * 3);
  for (let f = 0; f * 3 < out.length; f++) {
    const [start, end] = [faceStart[f]!, faceStart[f + 1]!];
    for (let c = start; c < end; c++) {
      const v = cornerVertex[c]! * 3;
      for (let k = 0; k < 3; k++) out[f * 3 + k]! += positions[v + k]! / (end - start);
    }
  }
  return out;
}

/** Length of the longest side of a box, metres. */
export const largestSide = ({ min, max }: Bounds): number => Math.max(max[0] - min[0], max[1] - min[1], max[2] - min[2]);

/** How nearly a face of one list of normals looks the way of a face of another: 1 the same, -1 the opposite. */
export const facingAlike = (normals: Float32Array, f: number, others: Float32Array, g: number): number =>
  normals[f * 3]! * others[g * 3]! + normals[f * 3 + 1]! * others[g * 3 + 1]! + normals[f * 3 + 2]! * others[g * 3 + 2]!;

/** Square metres of all faces. */
export const areaOf = (mesh: PolyMesh): number => measureFaces(mesh).areas.reduce((sum, a) => sum + a, 0);

/** Cubic metres inside a closed mesh; of an open one what its faces and the origin hold between them. Faces of many corners count as fans. */
export function volumeOf({ positions, faceStart, cornerVertex }: PolyMesh): number {
  const at = (c: number) => [0, 1, 2].map((k) => positions[cornerVertex[c]! * 3 + k]!) as [number, number, number];
  let six = 0;
  for (let f = 0; f + 1 < faceStart.length; f++) {
    const a = at(faceStart[f]!);
    for (let c = faceStart[f]! + 1; c + 1 < faceStart[f + 1]!; c++) {
      const [p, q] = [at(c), at(c + 1)];
      six += a[0] * (p[1] * q[2] - p[2] * q[1]) + a[1] * (p[2] * q[0] - p[0] * q[2]) + a[2] * (p[0] * q[1] - p[1] * q[0]);
    }
  }
  return six / 6;
}
