import { BufferAttribute, BufferGeometry, IntType, Sphere, Vector3, Box3 } from 'three';
import { nextCorner, type Adjacency } from '@/core/shapes/mesh/adjacency';
import type { Cut } from '@/state/chosen/viewState';
import type { LoadedMesh } from '@/workers/residents';

/** One vertex for each polygon corner, triangles over them. */
export function modelGeometry({ mesh, adjacency, triangles, bounds }: LoadedMesh): BufferGeometry {
  const corners = mesh.cornerVertex.length;
  const position = new Float32Array(corners * 3);
  const normal = new Float32Array(corners * 3);
  const faceSize = new Float32Array(corners);
  const { normals, areas, cornerFace } = adjacency;
  const own = mesh.cornerNormals;
  for (let c = 0; c < corners; c++) {
    const v = mesh.cornerVertex[c]! * 3;
    const f = cornerFace[c]!;
    const hasOwn = own && (own[c * 3] !== 0 || own[c * 3 + 1] !== 0 || own[c * 3 + 2] !== 0);
    for (let k = 0; k < 3; k++) {
      position[c * 3 + k] = mesh.positions[v + k]!;
      normal[c * 3 + k] = hasOwn ? own[c * 3 + k]! : normals[f * 3 + k]!;
    }
    faceSize[c] = Math.sqrt(areas[f]!);
  }
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(position, 3));
  geometry.setAttribute('normal', new BufferAttribute(normal, 3));
  const faceId = new BufferAttribute(cornerFace, 1);
  faceId.gpuType = IntType;
  geometry.setAttribute('faceId', faceId);
  geometry.setAttribute('faceSize', new BufferAttribute(faceSize, 1));
  if (mesh.uvSets[0]) geometry.setAttribute('uv', new BufferAttribute(mesh.uvSets[0], 2));
  geometry.setIndex(new BufferAttribute(triangles.corners, 1));
  geometry.boundingSphere = new Box3(new Vector3(...bounds.min), new Vector3(...bounds.max)).getBoundingSphere(new Sphere());
  return geometry;
}

/**
 * Ends of every polygon edge once, 6 numbers for each; of faces that are shown only, and not before a cutting
 * plane.
 */
export function edgeSegments({ mesh, adjacency }: LoadedMesh, isShown?: (face: number) => boolean, cut?: Cut | null): Float32Array {
  const { neighbour, cornerFace } = adjacency;
  const out: number[] = [];
  for (let c = 0; c < neighbour.length; c++) {
    const d = neighbour[c]!;
    if (!isShown) {
      if (d < c) pushEdge(out, mesh, adjacency, c);
      continue;
    }
    if (!isShown(cornerFace[c]!) || (d >= 0 && d < c && isShown(cornerFace[d]!))) continue;
    pushEdge(out, mesh, adjacency, c);
    const at = out.length - 6;
    if (cut && Math.max(out[at + cut.axis]!, out[at + 3 + cut.axis]!) > cut.offset) out.length = at;
  }
  return Float32Array.from(out);
}

/** Ends of the edges between faces of a set and faces out of it: those of the set have this bit in their state. */
export function outlineSegments({ mesh, adjacency }: LoadedMesh, faces: Uint32Array, state: Uint8Array, bit: number): Float32Array {
  const { neighbour, cornerFace, faceStart } = adjacency;
  const out: number[] = [];
  for (let i = 0; i < faces.length; i++) {
    const end = faceStart[faces[i]! + 1]!;
    for (let c = faceStart[faces[i]!]!; c < end; c++) {
      const d = neighbour[c]!;
      if (d < 0 || !(state[cornerFace[d]!]! & bit)) pushEdge(out, mesh, adjacency, c);
    }
  }
  return Float32Array.from(out);
}

/** Ends of the edges that corners stand for. */
export function segmentsOf({ mesh, adjacency }: LoadedMesh, corners: Iterable<number>): Float32Array {
  const out: number[] = [];
  for (const c of corners) pushEdge(out, mesh, adjacency, c);
  return Float32Array.from(out);
}

/** Segments as dashes about so long, with gaps as long; each begins and ends with one. */
export function dashed(segments: Float32Array, length: number): Float32Array {
  const out: number[] = [];
  for (let i = 0; i < segments.length; i += 6) {
    const [x, y, z, ex, ey, ez] = segments.subarray(i, i + 6) as unknown as [number, number, number, number, number, number];
    const dashes = Math.min(64, Math.max(1, Math.round((Math.hypot(ex - x, ey - y, ez - z) / length + 1) / 2)));
    const pieces = dashes * 2 - 1;
    for (let k = 0; k < pieces; k += 2)
      for (const t of [k / pieces, (k + 1) / pieces]) out.push(x + (ex - x) * t, y + (ey - y) * t, z + (ez - z) * t);
  }
  return Float32Array.from(out);
}

function pushEdge(out: number[], { positions, cornerVertex }: LoadedMesh['mesh'], adjacency: Adjacency, c: number): void {
  const a = cornerVertex[c]! * 3;
  const b = cornerVertex[nextCorner(adjacency, c)]! * 3;
  out.push(positions[a]!, positions[a + 1]!, positions[a + 2]!, positions[b]!, positions[b + 1]!, positions[b + 2]!);
}
