import type { Accessor, Document, Material, Mesh, Node, Primitive, PrimitiveTarget } from '@gltf-transform/core';
import type { Kit } from '../../kit/kit';
import { pickRows } from '../../mesh/build';
import type { PolyMesh } from '../../mesh/polyMesh';
import { indexRows } from '../../mesh/rows';
import { groupFaces, groupUvs, trianglesByFace, type ExportModel, type FaceGroup } from '../exportModel';
import { createAccessor, setIndices, type Numbers } from './accessor';

export type MaterialFor = (group: FaceGroup) => Material;
/** How groups are made: see `groupFaces`. */
export type Leave = NonNullable<Parameters<typeof groupFaces>[2]>;

/**
 * Gives the nodes of an opened glTF meshes whose faces leave with their seats: each primitive is cut by sheet, each (source vertex, UV) that
 * occurs is written with all its attributes and morph targets, and triangles keep the file's order. Nodes that showed one mesh share one again where
 * their seats agree. Faces not yet colored keep material and UVs.
 */
export function rebuildSource(
  document: Document,
  kit: Kit,
  item: ExportModel,
  materialFor: MaterialFor,
  nodes: readonly Node[],
  leave: Leave,
): void {
  const { mesh, seats } = item;
  const { facePrimitive, primitives } = mesh.source!;
  const byFace = trianglesByFace(mesh);
  const facesOf: number[][] = primitives!.map(() => []);
  facePrimitive!.forEach((p, f) => facesOf[p]!.push(f));
  const byNode = new Map<number, number[]>();
  primitives!.forEach((p, i) => byNode.set(p.node, [...(byNode.get(p.node) ?? []), i]));
  const originals = new Map([...byNode.keys()].map((n) => [n, nodes[n]!.getMesh()!]));
  const built: { original: Mesh; cells: string; mesh: Mesh }[] = [];
  for (const [nodeIndex, pieces] of byNode) {
    const original = originals.get(nodeIndex)!;
    const cells = pieces.map((p) => signature(item, facesOf[p]!)).join('|');
    const shared = built.find((b) => b.original === original && b.cells === cells);
    if (shared) {
      nodes[nodeIndex]!.setMesh(shared.mesh);
      continue;
    }
    const copy = original.clone();
    const sources = original.listPrimitives();
    const byPrimitive = new Map(pieces.map((p) => [primitives![p]!.primitive, p]));
    sources.forEach((source, k) => {
      const piece = byPrimitive.get(k);
      // Points and lines stay as they are.
      if (piece === undefined) return;
      copy.removePrimitive(source);
      const faces = Uint32Array.from(facesOf[piece]!);
      for (const group of groupFaces(kit, item, { ...leave, among: faces })) {
        const uvs = group.sheet ? groupUvs(group, mesh, seats) : undefined;
        const primitive = cutPrimitive(document, mesh, source, orderedCorners(mesh, group.faces, byFace), uvs);
        if (group.sheet) {
          primitive.setMaterial(materialFor(group));
          // Vertex colors would tint the sheet.
          for (const name of primitive.listSemantics()) if (name.startsWith('COLOR_')) primitive.setAttribute(name, null);
        }
        copy.addPrimitive(primitive);
      }
    });
    if (!copy.listPrimitives().length) {
      // All of it was left out; a mesh must have something.
      nodes[nodeIndex]!.setMesh(null);
      copy.dispose();
      continue;
    }
    nodes[nodeIndex]!.setMesh(copy);
    built.push({ original, cells, mesh: copy });
  }
  for (const original of new Set(originals.values()))
    if (
      !document
        .getRoot()
        .listNodes()
        .some((n) => n.getMesh() === original)
    )
      original.dispose();
}

/** Equal where two instances of a mesh may share one: same faces, same cells, same seats. */
function signature({ mesh, seats, leaveOut }: ExportModel, faces: number[]): string {
  const parts: (number | string)[] = [];
  for (const f of faces) {
    parts.push(seats.cell[f]!, mesh.source!.reversed?.[f] ?? 0, leaveOut?.[f] ?? 0);
    for (let c = mesh.faceStart[f]!; c < mesh.faceStart[f + 1]!; c++) {
      parts.push(mesh.source!.cornerVertex![c]!);
      if (seats.at && seats.cell[f] !== 0) parts.push(seats.at[c * 2]!, seats.at[c * 2 + 1]!);
    }
  }
  return parts.join(',');
}

interface CornersToWrite {
  corners: Uint32Array;
  /** 1 where the corner's face has been turned over. */
  reversed: Uint8Array;
}

/** Corners of the faces' triangles, in the order of the file's own triangles. */
function orderedCorners(mesh: PolyMesh, faces: Uint32Array, { triangles, start }: ReturnType<typeof trianglesByFace>): CornersToWrite {
  const list: { t: number; order: number }[] = [];
  const source = mesh.source?.triangles;
  for (const f of faces)
    for (let t = start[f]!, k = 0; t < start[f + 1]!; t++, k++) list.push({ t, order: source ? source[f * 2 + k]! : f });
  list.sort((a, b) => a.order - b.order || a.t - b.t);
  const corners = new Uint32Array(list.length * 3);
  const face = new Uint32Array(list.length * 3);
  list.forEach(({ t }, i) => {
    corners.set(triangles.corners.subarray(t * 3, t * 3 + 3), i * 3);
    face.fill(triangles.face[t]!, i * 3, i * 3 + 3);
  });
  const turned = mesh.source?.reversed;
  return { corners, reversed: Uint8Array.from(face, (f) => turned?.[f] ?? 0) };
}

function cutPrimitive(
  document: Document,
  mesh: PolyMesh,
  source: Primitive,
  { corners, reversed }: CornersToWrite,
  uvs: Float32Array | undefined,
): Primitive {
  const vertexOf = mesh.source!.cornerVertex!;
  const vertex = Uint32Array.from(corners, (c) => vertexOf[c]!);
  const uv = uvs && pickRows(uvs, corners, 2);
  const columns = [{ data: vertex, width: 1 }, { data: reversed, width: 1 }, ...(uv ? [{ data: uv, width: 2 }] : [])];
  const { rows, index } = indexRows(columns, corners.length);
  const vertices = pickRows(vertex, rows, 1);
  const turned = pickRows(reversed, rows, 1);
  const primitive = setIndices(document, source.clone().setMode(4), index, rows.length);
  for (const name of source.listSemantics())
    primitive.setAttribute(name, pickedAccessor(document, source.getAttribute(name)!, name, vertices, turned));
  dropIdleJoints(primitive);
  if (uv) primitive.setAttribute('TEXCOORD_0', createAccessor(document, 'VEC2', pickRows(uv, rows, 2)));
  for (const target of source.listTargets()) {
    primitive.removeTarget(target);
    const copy: PrimitiveTarget = target.clone();
    for (const name of target.listSemantics())
      copy.setAttribute(name, pickedAccessor(document, target.getAttribute(name)!, `delta ${name}`, vertices, turned));
    primitive.addTarget(copy);
  }
  return primitive;
}

function pickedAccessor(document: Document, from: Accessor, name: string, vertices: Uint32Array, turned: Uint8Array): Accessor {
  const width = from.getElementSize();
  const array = from.getArray()!;
  const out = new (array.constructor as new (n: number) => Numbers)(vertices.length * width);
  for (let i = 0; i < vertices.length; i++) {
    const v = vertices[i]!;
    for (let k = 0; k < width; k++) out[i * width + k] = array[v * width + k] ?? 0;
    if (turned[i] && name.endsWith('NORMAL')) for (let k = 0; k < 3; k++) out[i * width + k] = -out[i * width + k]!;
    if (name === 'NORMAL' && out instanceof Float32Array) makeUnit(out, i * 3);
  }
  return createAccessor(document, from.getType() as 'VEC3', out)
    .setName(from.getName())
    .setNormalized(from.getNormalized());
}

/** A joint that moves a vertex by nothing is none: strict readers want it to be 0. */
function dropIdleJoints(primitive: Primitive): void {
  for (const name of primitive.listSemantics()) {
    const weights = name.startsWith('JOINTS_') ? primitive.getAttribute(name.replace('JOINTS', 'WEIGHTS'))?.getArray() : null;
    if (!weights) continue;
    const joints = primitive.getAttribute(name)!.getArray()!;
    for (let i = 0; i < joints.length; i++) if (!weights[i]) joints[i] = 0;
  }
}

/** Files in the wild hold normals that are not of unit length; what goes out is valid. */
function makeUnit(normals: Float32Array, at: number): void {
  const length = Math.hypot(normals[at]!, normals[at + 1]!, normals[at + 2]!);
  if (Math.abs(length - 1) < 1e-4) return;
  if (length > 1e-8) for (let k = 0; k < 3; k++) normals[at + k]! /= length;
  else normals.set([0, 1, 0], at);
}
