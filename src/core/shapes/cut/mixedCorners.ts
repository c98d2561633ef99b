import { byteFromLinear, linearFromByte } from '../../ground/color/oklab';
import { nextCorner, type Adjacency } from '../mesh/adjacency';
import { pickRows } from '../mesh/build';
import { cornerRun, mixedAt, type CornersOnOutlines } from '../mesh/faceOrigins';
import { firstMade, type MadeVertices, type MeshSource, type PolyMesh } from '../mesh/polyMesh';

/** Corners and faces of a new mesh by those of an old one. */
export interface CutCorners extends CornersOnOutlines {
  /** 1 for each face: the old one, and how its corners run beside that one's (`cornerRun`). */
  from: Int32Array;
  order: Int8Array;
}

/**
 * What belongs to a mesh's corners and faces, for one whose corners lie on its edges and inside its faces. Colors are mixed in
 * linear light, directions made unit length; of a glTF source, vertices are noted as made of those that they lie between.
 * Vertices and `faceStart` stay those of the old mesh.
 */
export function mixedCorners(mesh: PolyMesh, adjacency: Adjacency, cut: CutCorners): PolyMesh {
  const { corner, share, across } = cut;
  const faces = Uint32Array.from(cut.from);
  const between: number[] = [];
  for (let i = 0; i < corner.length; i++) if (share[i]! > 0 || (across?.part[i] ?? 0) > 0) between.push(i);
  const next = (c: number) => nextCorner(adjacency, c);
  const mixed = (data: Float32Array, width: number): Float32Array => {
    const out = pickRows(data, corner, width);
    for (const at of between) for (let k = 0; k < width; k++) out[at * width + k] = mixedAt(cut, at, (c) => data[c * width + k]!, next);
    return out;
  };
  const { cornerNormals, cornerColors, faceGroup, source } = mesh;
  return {
    ...mesh,
    ...(cornerNormals && { cornerNormals: unitRows(mixed(cornerNormals, 3), between) }),
    ...(cornerColors && { cornerColors: mixedColors(cornerColors, cut, between, next) }),
    uvSets: mesh.uvSets.map((uv) => mixed(uv, 2)),
    faceSlot: pickRows(mesh.faceSlot, faces, 1),
    faceObject: pickRows(mesh.faceObject, faces, 1),
    ...(faceGroup && { faceGroup: pickRows(faceGroup, faces, 1) }),
    ...(source && { source: mixedSource(source, adjacency, cut, between) }),
  };
}

function unitRows(normals: Float32Array, between: readonly number[]): Float32Array {
  for (const at of between) {
    const length = Math.hypot(normals[at * 3]!, normals[at * 3 + 1]!, normals[at * 3 + 2]!);
    if (length > 1e-8) for (let k = 0; k < 3; k++) normals[at * 3 + k]! /= length;
  }
  return normals;
}

function mixedColors(colors: Uint8Array, cut: CutCorners, between: readonly number[], next: (c: number) => number): Uint8Array {
  const out = pickRows(colors, cut.corner, 4);
  for (const at of between) {
    for (let k = 0; k < 3; k++) out[at * 4 + k] = byteFromLinear(mixedAt(cut, at, (c) => linearFromByte(colors[c * 4 + k]!), next));
    out[at * 4 + 3] = Math.round(mixedAt(cut, at, (c) => colors[c * 4 + 3]!, next));
  }
  return out;
}

function mixedSource(source: MeshSource, adjacency: Adjacency, cut: CutCorners, between: readonly number[]): MeshSource {
  const { triangles, facePrimitive, cornerVertex, primitives, reversed } = source;
  const faces = Uint32Array.from(cut.from);
  const out: MeshSource = { ...source };
  if (triangles) {
    out.triangles = pickRows(triangles, faces, 2);
    // A face that is another one now has no cut of the file's own, but keeps its place among the file's triangles.
    for (let f = 0; f < faces.length; f++) if (cut.order[f] !== cornerRun.same) out.triangles[f * 2 + 1] = -1;
  }
  if (facePrimitive) out.facePrimitive = pickRows(facePrimitive, faces, 1);
  if (reversed) out.reversed = pickRows(reversed, faces, 1);
  if (!cornerVertex || !facePrimitive || !primitives) return out;
  out.cornerVertex = pickRows(cornerVertex, cut.corner, 1);
  const made = primitives.map((p) => new Making(p.made));
  const { cornerFace, cornerPoint } = adjacency;
  for (const at of between) {
    const making = made[facePrimitive[cornerFace[cut.corner[at]!]!]!]!;
    const along = (corner: number, share: number): number => {
      if (!(share > 0)) return cornerVertex[corner]!;
      const end = nextCorner(adjacency, corner);
      const [a, b] = [cornerVertex[corner]!, cornerVertex[end]!];
      // From the lower point on, so that both sides of an edge come to the same place.
      return cornerPoint[corner]! < cornerPoint[end]! ? making.vertex(a, b, share) : making.vertex(b, a, 1 - share);
    };
    const first = along(cut.corner[at]!, cut.share[at]!);
    const part = cut.across?.part[at] ?? 0;
    out.cornerVertex[at] = part > 0 ? making.vertex(first, along(cut.across!.corner[at]!, cut.across!.share[at]!), part) : first;
  }
  out.primitives = primitives.map((p, i) => (made[i]!.isEmpty() ? p : { ...p, made: made[i]!.done() }));
  return out;
}

/** Made vertices of one primitive: those of earlier cuts, and new ones, each once. */
class Making {
  private readonly between: number[];
  private readonly share: number[];
  private readonly known = new Map<string, number>();

  constructor(before: MadeVertices | undefined) {
    this.between = Array.from(before?.between ?? []);
    this.share = Array.from(before?.share ?? []);
  }
  vertex(a: number, b: number, share: number): number {
    const key = `${a} ${b} ${share}`;
    const found = this.known.get(key);
    if (found !== undefined) return found;
    const number = firstMade + this.share.length;
    this.between.push(a, b);
    this.share.push(share);
    this.known.set(key, number);
    return number;
  }
  isEmpty(): boolean {
    return this.share.length === 0;
  }
  done(): MadeVertices {
    return { between: Uint32Array.from(this.between), share: Float32Array.from(this.share) };
  }
}
