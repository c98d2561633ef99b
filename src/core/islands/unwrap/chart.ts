import { nextCorner, type Adjacency } from '../../shapes/mesh/adjacency';
import type { PolyMesh } from '../../shapes/mesh/polyMesh';
import type { Triangles } from '../../shapes/mesh/triangulate';
import type { Graph } from './sparse';

/** Connected faces that are to become one island, cut open along seams: a surface with a border of its own. */
export interface Chart {
  faces: Uint32Array;
  /** Corners of the mesh, and the chart's vertex of each. */
  corners: Uint32Array;
  cornerVertex: Uint32Array;
  /** Metres, 3 for each vertex. */
  points: Float64Array;
  /** Vertices, 3 for each triangle, counter-clockwise as seen from the front; those of no length are left out. */
  triangles: Uint32Array;
  /** Corners of the mesh for each triangle, 3 each. */
  triangleCorners: Uint32Array;
  /** Borders, each as its vertices in the order in which the triangles run. */
  loops: Uint32Array[];
  /** Vertices less edges plus faces: 1 for a disk, 2 where it is closed all around. */
  euler: number;
}

/** Whether an edge is a seam, by its corner. */
export type IsSeam = (corner: number) => boolean;

/** What every step of unwrapping reads of a mesh. */
export interface Surface {
  mesh: PolyMesh;
  adjacency: Adjacency;
  triangles: Triangles;
}

/**
 * Faces by islands that seams part, in the order of their first face. An edge at which one of the two faces is
 * flipped parts them as well.
 */
export function chartFaces(adjacency: Adjacency, faces: Uint32Array, isSeam: IsSeam): Uint32Array[] {
  const { faceStart, neighbour, cornerFace, against } = adjacency;
  const isLeft = new Uint8Array(faceStart.length - 1);
  for (const f of faces) isLeft[f] = 1;
  const found: Uint32Array[] = [];
  for (const first of faces) {
    if (!isLeft[first]) continue;
    isLeft[first] = 0;
    const list = [first];
    for (let i = 0; i < list.length; i++)
      for (let c = faceStart[list[i]!]!; c < faceStart[list[i]! + 1]!; c++) {
        const d = neighbour[c]!;
        if (d < 0 || against[c] || isSeam(c) || !isLeft[cornerFace[d]!]) continue;
        isLeft[cornerFace[d]!] = 0;
        list.push(cornerFace[d]!);
      }
    found.push(Uint32Array.from(list).sort());
  }
  return found;
}

/** For each face the range of its triangles: `start[f] .. start[f + 1]`. */
export function trianglesOfFaces({ face }: Triangles, faces: number): Uint32Array {
  const start = new Uint32Array(faces + 1);
  for (const f of face) start[f + 1]!++;
  for (let f = 0; f < faces; f++) start[f + 1]! += start[f]!;
  return start;
}

/**
 * The surface of one list of `chartFaces`. Corners are one vertex where they meet along edges that are no seams, so
 * that a chart never has a vertex at which two of its sheets touch. `triangleStart`: see `trianglesOfFaces`.
 */
export function chartOf({ mesh, adjacency, triangles }: Surface, faces: Uint32Array, isSeam: IsSeam, triangleStart: Uint32Array): Chart {
  const { faceStart, neighbour, against } = adjacency;
  const isOwn = new Map<number, number>();
  const own: number[] = [];
  for (const f of faces)
    for (let c = faceStart[f]!; c < faceStart[f + 1]!; c++) {
      isOwn.set(c, own.length);
      own.push(c);
    }
  const corners = Uint32Array.from(own);
  const root = Uint32Array.from(corners, (_, i) => i);
  const find = (i: number): number => {
    while (root[i] !== i) i = root[i] = root[root[i]!]!;
    return i;
  };
  const isJoined = (c: number) => neighbour[c]! >= 0 && !against[c] && !isSeam(c) && isOwn.has(neighbour[c]!);
  let joined = 0;
  corners.forEach((c, i) => {
    if (!isJoined(c)) return;
    const d = neighbour[c]!;
    joined++;
    root[find(i)] = find(isOwn.get(nextCorner(adjacency, d))!);
    root[find(isOwn.get(nextCorner(adjacency, c))!)] = find(isOwn.get(d)!);
  });
  const number = new Int32Array(corners.length).fill(-1);
  const cornerVertex = new Uint32Array(corners.length);
  const points: number[] = [];
  corners.forEach((c, i) => {
    const r = find(i);
    if (number[r]! < 0) {
      number[r] = points.length / 3;
      const v = mesh.cornerVertex[c]! * 3;
      points.push(mesh.positions[v]!, mesh.positions[v + 1]!, mesh.positions[v + 2]!);
    }
    cornerVertex[i] = number[r]!;
  });
  const list: number[] = [];
  const triangleCorners: number[] = [];
  for (const f of faces)
    for (let t = triangleStart[f]!; t < triangleStart[f + 1]!; t++) {
      const three = [0, 1, 2].map((k) => triangles.corners[t * 3 + k]!);
      const [a, b, c] = three.map((corner) => cornerVertex[isOwn.get(corner)!]!) as [number, number, number];
      if (a === b || b === c || c === a) continue;
      list.push(a, b, c);
      triangleCorners.push(...three);
    }
  const vertexOf = (c: number) => cornerVertex[isOwn.get(c)!]!;
  const border = new Map<number, number>();
  for (const c of corners) if (!isJoined(c)) border.set(vertexOf(c), vertexOf(nextCorner(adjacency, c)));
  const edges = joined / 2 + (corners.length - joined);
  return {
    faces,
    corners,
    cornerVertex,
    points: Float64Array.from(points),
    triangles: Uint32Array.from(list),
    triangleCorners: Uint32Array.from(triangleCorners),
    loops: loopsOf(border),
    euler: points.length / 3 - edges + faces.length,
  };
}

function loopsOf(next: Map<number, number>): Uint32Array[] {
  const loops: Uint32Array[] = [];
  const seen = new Set<number>();
  for (const first of next.keys()) {
    const loop: number[] = [];
    for (let v: number | undefined = first; v !== undefined && !seen.has(v); v = next.get(v)) {
      seen.add(v);
      loop.push(v);
    }
    if (loop.length) loops.push(Uint32Array.from(loop));
  }
  return loops;
}

/** Whether a chart is a disk, which can always be laid flat. */
export const isDisk = ({ loops, euler }: Chart): boolean => loops.length === 1 && euler === 1;

/** Vertices that a triangle joins. */
export function graphOf({ points, triangles }: Pick<Chart, 'points' | 'triangles'>): Graph {
  const n = points.length / 3;
  const start = new Uint32Array(n + 1);
  for (const v of triangles) start[v + 1]! += 2;
  for (let v = 0; v < n; v++) start[v + 1]! += start[v]!;
  const fill = start.slice(0, n);
  const next = new Uint32Array(triangles.length * 2);
  for (let t = 0; t < triangles.length; t += 3)
    for (let k = 0; k < 3; k++) {
      const v = triangles[t + k]!;
      next[fill[v]!++] = triangles[t + ((k + 1) % 3)]!;
      next[fill[v]!++] = triangles[t + ((k + 2) % 3)]!;
    }
  return { start, next };
}
