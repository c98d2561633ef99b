import { nextCorner, type Adjacency } from '../mesh/adjacency';
import { firstMade, type PolyMesh } from '../mesh/polyMesh';

/** What lies on faces and must not be lost with their edges. */
export interface OnFaces {
  /** Equal numbers for faces that look the same, in every variant, and belong together, 1 each. */
  looks: Uint32Array;
  /** Coordinates on cells that differ from place to place, 2 for each corner, a list for each coloring that has them. */
  at: readonly Float32Array[];
  /** Edges that were marked as seams, as the corner that stands for each. */
  seams: readonly number[];
}

/** Values of two corners differ by no more than this, so that nothing is seen. */
const alike = { normal: 1e-3, uv: 1e-5, at: 1e-4, color: 1 };
/** Degrees between normals of the file at an edge that is smooth, whatever angle is stated. */
const leastCrease = 0.1;

/**
 * 1 for each corner whose edge parts nothing, however its faces bend: they look the same, and are of one object, group and material; no
 * seam, crease of more than an angle, degrees, or border of coordinates, colors or moving vertices runs there. Edges of three faces and
 * more stay.
 */
export function idleEdges(mesh: PolyMesh, adjacency: Adjacency, on: OnFaces, angle: number): Uint8Array {
  const { neighbour, cornerFace } = adjacency;
  const out = new Uint8Array(neighbour.length);
  const crowded = crowdedEdges(adjacency);
  const compare = new Corners(mesh, adjacency, on, angle);
  const isSeam = new Set(on.seams);
  neighbour.forEach((d, c) => {
    // Once for the two corners of an edge; seams stand under the lower one.
    if (d < c || isSeam.has(c) || crowded.has(c)) return;
    if (!compare.areFacesAlike(cornerFace[c]!, cornerFace[d]!)) return;
    if (compare.areAlike(c, nextCorner(adjacency, d)) && compare.areAlike(nextCorner(adjacency, c), d)) out[c] = out[d] = 1;
  });
  return out;
}

/** Corners of edges that three faces have, or more. */
function crowdedEdges(adjacency: Adjacency): Set<number> {
  const out = new Set<number>();
  if (!adjacency.nonManifoldEdges) return out;
  const { cornerPoint, pointCount } = adjacency;
  const byEdge = new Map<number, number[]>();
  cornerPoint.forEach((p, c) => {
    const q = cornerPoint[nextCorner(adjacency, c)]!;
    const key = Math.min(p, q) * pointCount + Math.max(p, q);
    byEdge.set(key, [...(byEdge.get(key) ?? []), c]);
  });
  for (const own of byEdge.values()) if (own.length > 2) for (const c of own) out.add(c);
  return out;
}

/** Compares what corners and faces of a mesh have. */
export class Corners {
  private readonly leastNormal: number;

  constructor(
    private readonly mesh: PolyMesh,
    private readonly adjacency: Adjacency,
    private readonly on: OnFaces,
    degrees: number,
  ) {
    this.leastNormal = Math.cos((Math.max(degrees, leastCrease) * Math.PI) / 180);
  }

  areFacesAlike(f: number, g: number): boolean {
    const { faceSlot, faceObject, faceGroup, source } = this.mesh;
    const lists = [this.on.looks, faceSlot, faceObject, faceGroup, source?.facePrimitive, source?.reversed];
    return lists.every((list) => !list || list[f] === list[g]);
  }

  /** Whether two corners at one place have the same. */
  areAlike(c: number, d: number): boolean {
    const { cornerNormals, cornerColors, uvSets, source } = this.mesh;
    if (cornerNormals && this.dot(cornerNormals, c, d) < this.leastNormal) return false;
    if (cornerColors)
      for (let k = 0; k < 4; k++) if (Math.abs(cornerColors[c * 4 + k]! - cornerColors[d * 4 + k]!) > alike.color) return false;
    if (!uvSets.every((uv) => isNear(uv, c, d, alike.uv)) || !this.on.at.every((at) => isNear(at, c, d, alike.at))) return false;
    return !source?.cornerVertex || source.cornerVertex[c] === source.cornerVertex[d] || !this.moves(c);
  }

  /** Whether a corner has just what lies at a share of the way from one corner of its face to another, so that it can go. */
  isBetween(c: number, from: number, to: number, share: number): boolean {
    const { cornerNormals, cornerColors, uvSets, source } = this.mesh;
    const isMixed = (list: ArrayLike<number>, width: number, within: number) => {
      for (let k = 0; k < width; k++) {
        const [a, b] = [list[from * width + k]!, list[to * width + k]!];
        if (Math.abs(a + (b - a) * share - list[c * width + k]!) > within) return false;
      }
      return true;
    };
    if (cornerNormals && !isMixed(cornerNormals, 3, alike.normal)) return false;
    if (cornerColors && !isMixed(cornerColors, 4, alike.color + 1)) return false;
    if (!uvSets.every((uv) => isMixed(uv, 2, alike.uv)) || !this.on.at.every((at) => isMixed(at, 2, alike.at))) return false;
    // What a vertex of the file does when it moves is not known here; one that a cut made moves with those beside it.
    return !source?.cornerVertex || source.cornerVertex[c]! >= firstMade || !this.moves(c);
  }

  private moves(c: number): boolean {
    const { facePrimitive, primitives } = this.mesh.source!;
    return primitives![facePrimitive![this.adjacency.cornerFace[c]!]!]!.moves !== false;
  }

  private dot(list: Float32Array, c: number, d: number): number {
    const at = (i: number) => [list[i * 3]!, list[i * 3 + 1]!, list[i * 3 + 2]!] as const;
    const [p, q] = [at(c), at(d)];
    // A file that gives no normal there says nothing of a crease.
    if (!(Math.hypot(...p) > 0.5 && Math.hypot(...q) > 0.5)) return 1;
    return p[0] * q[0] + p[1] * q[1] + p[2] * q[2];
  }
}

/** Where nothing is told of both, they are near. */
const isNear = (list: Float32Array, c: number, d: number, within: number): boolean =>
  [0, 1].every((k) => {
    const [a, b] = [list[c * 2 + k]!, list[d * 2 + k]!];
    return !(Math.abs(a - b) > within) && Number.isNaN(a) === Number.isNaN(b);
  });
