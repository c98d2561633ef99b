import { remembered } from '../../ground/remembered';
import { measureFaces, type FaceMeasures } from './measure';
import { cornerCount, faceCount, faceOfCorners, type PolyMesh } from './polyMesh';
import { weldCorners } from './weld';

/**
 * What picking needs to know of a mesh, flat and transferable. The edge of corner c runs from c to the next
 * corner of its face.
 */
export interface Adjacency extends FaceMeasures {
  faceStart: Uint32Array;
  cornerFace: Uint32Array;
  cornerPoint: Uint32Array;
  pointCount: number;
  /** The corner whose edge lies against this corner's edge; -1 on an open border. */
  neighbour: Int32Array;
  /** Cosine between the two faces at the edge, as if both faced the same side: 1 flat, -1 folded; 0 on a border. */
  cosine: Float32Array;
  /** 1 where the neighbour's edge runs the same way, so that one of the two faces is flipped. */
  against: Uint8Array;
  /** Part of each face: a connected piece of the mesh, across shared points. Numbered by first face. */
  part: Uint32Array;
  /** Faces of part p, ascending: `partFaces[partStart[p] .. partStart[p + 1]]`. */
  partStart: Uint32Array;
  partFaces: Uint32Array;
  /** Edges with one face, and edges with three or more. */
  openEdges: number;
  nonManifoldEdges: number;
}

/** The corner after c in its face. */
export const nextCorner = ({ faceStart, cornerFace }: Pick<Adjacency, 'faceStart' | 'cornerFace'>, c: number): number =>
  c + 1 < faceStart[cornerFace[c]! + 1]! ? c + 1 : faceStart[cornerFace[c]!]!;

/** Metres of the edge of a corner. */
export function edgeLength({ positions, cornerVertex }: PolyMesh, adjacency: Adjacency, c: number): number {
  const [a, b] = [cornerVertex[c]! * 3, cornerVertex[nextCorner(adjacency, c)]! * 3];
  return Math.hypot(positions[a]! - positions[b]!, positions[a + 1]! - positions[b + 1]!, positions[a + 2]! - positions[b + 2]!);
}

/** Built once for a mesh, and kept as long as the mesh is. */
export const adjacencyOf = remembered((mesh: PolyMesh): Adjacency => buildAdjacency(mesh));

/**
 * Method: edges are gathered in lists by their lower point, so that each look-up runs over a handful of
 * edges; a crowded point's list (the middle of a big fan) is sorted instead. An edge of three or more faces
 * pairs the flattest two first, so that a wall stays one area though a fence meets it.
 */
export function buildAdjacency(mesh: PolyMesh): Adjacency {
  const measures = measureFaces(mesh);
  const { cornerPoint, pointCount } = weldCorners(mesh);
  const cornerFace = faceOfCorners(mesh);
  const corners = cornerCount(mesh);
  const { faceStart } = mesh;
  const nextPoint = new Uint32Array(corners);
  for (let f = 0; f < faceCount(mesh); f++) {
    const start = faceStart[f]!;
    const end = faceStart[f + 1]!;
    for (let c = start; c < end - 1; c++) nextPoint[c] = cornerPoint[c + 1]!;
    if (end > start) nextPoint[end - 1] = cornerPoint[start]!;
  }

  const low = (c: number) => Math.min(cornerPoint[c]!, nextPoint[c]!);
  const high = (c: number) => Math.max(cornerPoint[c]!, nextPoint[c]!);
  const listStart = new Uint32Array(pointCount + 1);
  for (let c = 0; c < corners; c++) listStart[low(c) + 1]!++;
  for (let p = 0; p < pointCount; p++) listStart[p + 1]! += listStart[p]!;
  const fill = listStart.slice(0, pointCount);
  const list = new Uint32Array(corners);
  const listHigh = new Uint32Array(corners);
  for (let c = 0; c < corners; c++) {
    const at = fill[low(c)]!++;
    list[at] = c;
    listHigh[at] = high(c);
  }

  const neighbour = new Int32Array(corners).fill(-1);
  const cosine = new Float32Array(corners);
  const against = new Uint8Array(corners);
  const { normals } = measures;
  const foldCosine = (c: number, d: number) => {
    const a = cornerFace[c]! * 3;
    const b = cornerFace[d]! * 3;
    const dot = normals[a]! * normals[b]! + normals[a + 1]! * normals[b + 1]! + normals[a + 2]! * normals[b + 2]!;
    return cornerPoint[c] === cornerPoint[d] ? -dot : dot;
  };
  const join = (c: number, d: number) => {
    const cos = foldCosine(c, d);
    neighbour[c] = d;
    neighbour[d] = c;
    cosine[c] = cosine[d] = cos;
    against[c] = against[d] = cornerPoint[c] === cornerPoint[d] ? 1 : 0;
  };
  let openEdges = 0;
  let nonManifoldEdges = 0;
  const pair = (edge: number[]) => {
    if (edge.length === 1) openEdges++;
    else if (edge.length === 2) {
      if (cornerFace[edge[0]!] !== cornerFace[edge[1]!]) join(edge[0]!, edge[1]!);
    } else {
      nonManifoldEdges++;
      const pairs: [number, number, number][] = [];
      // A junction of more than 16 faces is noise; pairing only the first ones bounds the work.
      const few = edge.slice(0, 16);
      few.forEach((c, i) => few.slice(i + 1).forEach((d) => cornerFace[c] !== cornerFace[d] && pairs.push([foldCosine(c, d), c, d])));
      pairs.sort((p, q) => q[0] - p[0]);
      for (const [, c, d] of pairs) if (neighbour[c]! < 0 && neighbour[d]! < 0) join(c, d);
    }
  };

  const edge: number[] = [];
  for (let p = 0; p < pointCount; p++) {
    const start = listStart[p]!;
    const end = listStart[p + 1]!;
    if (end - start > 48) {
      const sorted = Array.from(list.subarray(start, end)).sort((c, d) => high(c) - high(d));
      for (let i = 0; i < sorted.length;) {
        edge.length = 0;
        const h = high(sorted[i]!);
        while (i < sorted.length && high(sorted[i]!) === h) edge.push(sorted[i++]!);
        if (h !== p) pair(edge);
      }
      continue;
    }
    for (let i = start; i < end; i++) {
      const h = listHigh[i]!;
      // An edge from a point to itself has no length and no neighbour; 0xffffffff marks edges already seen.
      if (h === p || h === 0xffffffff) continue;
      let first = -1;
      let count = 1;
      for (let j = i + 1; j < end; j++) {
        if (listHigh[j] !== h) continue;
        if (count === 1) first = j;
        count++;
      }
      if (count === 2) {
        const c = list[i]!;
        const d = list[first]!;
        if (cornerFace[c] !== cornerFace[d]) join(c, d);
        listHigh[first] = 0xffffffff;
      } else {
        edge.length = 0;
        for (let j = i; j < end; j++) {
          if (listHigh[j] !== h) continue;
          edge.push(list[j]!);
          listHigh[j] = 0xffffffff;
        }
        pair(edge);
      }
    }
  }
  return {
    ...measures,
    faceStart,
    cornerFace,
    cornerPoint,
    pointCount,
    neighbour,
    cosine,
    against,
    ...findParts(mesh, cornerPoint, pointCount),
    openEdges,
    nonManifoldEdges,
  };
}

/** Union-find over points with path halving; a face joins all its corners. */
function findParts(mesh: PolyMesh, cornerPoint: Uint32Array, pointCount: number) {
  const parent = new Uint32Array(pointCount);
  for (let p = 0; p < pointCount; p++) parent[p] = p;
  const root = (p: number) => {
    while (parent[p] !== p) p = parent[p] = parent[parent[p]!]!;
    return p;
  };
  const faces = faceCount(mesh);
  const { faceStart } = mesh;
  for (let f = 0; f < faces; f++) {
    const start = faceStart[f]!;
    const end = faceStart[f + 1]!;
    if (start === end) continue;
    let a = root(cornerPoint[start]!);
    for (let c = start + 1; c < end; c++) {
      const b = root(cornerPoint[c]!);
      if (a < b) parent[b] = a;
      else if (b < a) {
        parent[a] = b;
        a = b;
      }
    }
  }
  const part = new Uint32Array(faces);
  const number = new Int32Array(pointCount).fill(-1);
  const sizes: number[] = [];
  for (let f = 0; f < faces; f++) {
    const r = root(cornerPoint[faceStart[f]!]!);
    let n = number[r]!;
    if (n < 0) {
      n = number[r] = sizes.length;
      sizes.push(0);
    }
    part[f] = n;
    sizes[n]!++;
  }
  const partStart = new Uint32Array(sizes.length + 1);
  sizes.forEach((s, i) => (partStart[i + 1] = partStart[i]! + s));
  const at = partStart.slice();
  const partFaces = new Uint32Array(faces);
  for (let f = 0; f < faces; f++) partFaces[at[part[f]!]!++] = f;
  return { part, partStart, partFaces };
}
