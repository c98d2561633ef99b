import { cornerCount, faceCount, type PolyMesh } from './polyMesh';

export interface Weld {
  /** The point of each corner: corners at exactly equal positions within one object share a point. */
  cornerPoint: Uint32Array;
  pointCount: number;
}

/**
 * Corners at exactly equal positions become one point, within an object and never across objects. Zero and
 * minus zero are equal.
 *
 * Method: an open-addressing hash of the three coordinates' bits and the object, at most half full. Vertices
 * that one object uses alone are hashed once, not once a corner (measured on 200,000 quads: a quarter of the
 * look-ups).
 */
export function weldCorners(mesh: PolyMesh): Weld {
  const { cornerVertex, faceObject, faceStart } = mesh;
  // Adding zero turns minus zero into zero.
  const positions = mesh.positions.map((p) => p + 0);
  const bits = new Uint32Array(positions.buffer);
  const vertices = positions.length / 3;
  const corners = cornerCount(mesh);
  const cornerPoint = new Uint32Array(corners);
  let size = 16;
  while (size < Math.max(vertices, 8) * 2) size *= 2;
  let table = new Int32Array(size).fill(-1);
  const pointVertex: number[] = [];
  const pointObject: number[] = [];

  const hash = (v: number, object: number) => {
    let h = Math.imul(bits[v * 3]! ^ Math.imul(object + 1, 0x27d4eb2f), 0x9e3779b1);
    h = Math.imul(h ^ (h >>> 15) ^ bits[v * 3 + 1]!, 0x85ebca77);
    h = Math.imul(h ^ (h >>> 13) ^ bits[v * 3 + 2]!, 0xc2b2ae3d);
    return (h ^ (h >>> 16)) & (size - 1);
  };
  const grow = () => {
    size *= 2;
    table = new Int32Array(size).fill(-1);
    for (let p = 0; p < pointVertex.length; p++) {
      let i = hash(pointVertex[p]!, pointObject[p]!);
      while (table[i]! >= 0) i = (i + 1) & (size - 1);
      table[i] = p;
    }
  };
  const pointOf = (v: number, object: number) => {
    const a = v * 3;
    let i = hash(v, object);
    for (;;) {
      const p = table[i]!;
      if (p < 0) break;
      const b = pointVertex[p]! * 3;
      if (pointObject[p] === object && bits[a] === bits[b] && bits[a + 1] === bits[b + 1] && bits[a + 2] === bits[b + 2]) return p;
      i = (i + 1) & (size - 1);
    }
    const p = pointVertex.length;
    table[i] = p;
    pointVertex.push(v);
    pointObject.push(object);
    if (pointVertex.length * 2 > size) grow();
    return p;
  };

  const vertexObject = new Int32Array(vertices).fill(-1);
  const vertexPoint = new Uint32Array(vertices);
  for (let f = 0; f < faceCount(mesh); f++) {
    const object = faceObject[f]!;
    for (let c = faceStart[f]!; c < faceStart[f + 1]!; c++) {
      const v = cornerVertex[c]!;
      if (vertexObject[v] !== object) {
        vertexObject[v] = object;
        vertexPoint[v] = pointOf(v, object);
      }
      cornerPoint[c] = vertexPoint[v]!;
    }
  }
  return { cornerPoint, pointCount: pointVertex.length };
}

/** The mesh with one vertex for each point, for files that repeat a vertex in every triangle. */
export function indexVertices(mesh: PolyMesh): PolyMesh {
  const { cornerPoint, pointCount } = weldCorners(mesh);
  const positions = new Float32Array(pointCount * 3);
  for (let c = 0; c < cornerPoint.length; c++) {
    const from = mesh.cornerVertex[c]! * 3;
    positions.set(mesh.positions.subarray(from, from + 3), cornerPoint[c]! * 3);
  }
  return { ...mesh, positions, cornerVertex: cornerPoint };
}
