import type { Accessor, Document, Mesh, Node, Primitive, PrimitiveTarget } from '@gltf-transform/core';
import type { Kit, Seats } from '../../kit/kit';
import { pickRows } from '../../shapes/mesh/build';
import { adjacencyOf } from '../../shapes/mesh/adjacency';
import type { PolyMesh } from '../../shapes/mesh/polyMesh';
import { smoothNormals } from '../../shapes/mesh/smoothing';
import { firstEqualRows, indexRows, type Column } from '../../shapes/mesh/rows';
import { groupFaces, groupUvs, trianglesByFace, type ExportModel } from '../leaving/exportModel';
import { leavingVariants, variedGroups } from '../leaving/variantGroups';
import { createAccessor, setIndices, values, type Numbers } from './accessor';
import { coloredSemantics } from './joinNumbers';
import type { LeaveOptions } from '../../kit/leaveOptions';
import { colorNumbers } from './colorNumbers';
import type { GroupMaterials } from './groupMaterials';
import { withMadeVertices } from './madeVertices';
import { variantsExtension, type MaterialVariants } from './materialVariants';
import { determinant } from './matrix';

/** How groups are made, see `groupFaces`, and what their colors of vertices are. */
export type Leave = NonNullable<Parameters<typeof groupFaces>[2]> & Pick<LeaveOptions, 'vertexColors'>;

/**
 * Gives the nodes of an opened glTF meshes whose faces leave with their seats: each primitive is cut by
 * sheet and variants, each (source vertex, UV) that occurs is written with all its attributes and morph targets, and
 * triangles keep the file's order. Nodes that showed one mesh share one again where their seats agree. Faces
 * not yet colored keep material and UVs.
 */
export function rebuildSource(
  document: Document,
  kit: Kit,
  of: ExportModel,
  materials: GroupMaterials,
  variants: MaterialVariants,
  nodes: readonly Node[],
  leave: Leave,
): void {
  const item = { ...of, mesh: withMadeVertices(of.mesh, nodes, document) };
  const { mesh, seats } = item;
  const { facePrimitive, primitives } = mesh.source!;
  const byFace = trianglesByFace(mesh);
  const facesOf: number[][] = primitives!.map(() => []);
  facePrimitive!.forEach((p, f) => facesOf[p]!.push(f));
  const byNode = new Map<number, number[]>();
  primitives!.forEach((p, i) => byNode.set(p.node, [...(byNode.get(p.node) ?? []), i]));
  const originals = new Map([...byNode.keys()].map((n) => [n, nodes[n]!.getMesh()!]));
  const varied = variedGroups(kit, item, leave);
  const otherwise = leave.variants === 'none' ? [] : leavingVariants(kit, item).flatMap((v) => (v.seats === seats ? [] : v.seats));
  const built: { original: Mesh; cells: string; mesh: Mesh }[] = [];
  /** Meshes from before this was noted were turned wherever their node mirrors. */
  const isMirrored = (p: number) => primitives![p]!.mirrored ?? determinant(nodes[primitives![p]!.node]!.getWorldMatrix()) < 0;
  const shading = item.smooth && smoothShading(item, facesOf, originals, isMirrored);
  for (const [nodeIndex, pieces] of byNode) {
    const original = originals.get(nodeIndex)!;
    const cells = pieces
      .map((p) => signature(item, otherwise, orderedCorners(mesh, Uint32Array.from(facesOf[p]!), byFace, isMirrored(p))))
      .join('|');
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
      for (const group of groupFaces(kit, item, { ...leave, among: faces }).flatMap(varied)) {
        const uvs = group.sheet ? groupUvs(group, mesh, seats) : undefined;
        const corners = orderedCorners(mesh, group.faces, byFace, isMirrored(piece));
        // Vertex colors would tint the sheet, and nothing reads other UVs or tangents on it.
        const semantics = group.sheet ? coloredSemantics(source) : source.listSemantics();
        const colors = group.colors && colorNumbers(group.colors, corners.corners, leave.vertexColors);
        const primitive = cutPrimitive(document, mesh, source, corners, { semantics, uvs, colors, shading, more: group.uvSets });
        if (group.sheet) primitive.setMaterial(materials.of(group)).setExtension(variantsExtension, null);
        variants.map(primitive, group, uvSetsOf(primitive) - group.uvSets.length);
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

/** Equal where two instances of a mesh may share one: the same triangles leave with the same cells and seats. */
function signature(
  { mesh, seats, leaveOut }: ExportModel,
  otherwise: readonly Seats[],
  { corners, faces, reversed }: CornersToWrite,
): string {
  const vertexOf = mesh.source!.cornerVertex!;
  const parts: (number | string)[] = [];
  for (let i = 0; i < corners.length; i += 3) {
    const f = faces[i]!;
    if (leaveOut?.[f]) continue;
    parts.push(seats.cell[f]!, reversed[i]!, ...otherwise.map((other) => other.cell[f]!));
    // A triangle is the same from whichever corner it begins.
    let first = i;
    for (let k = i + 1; k < i + 3; k++) if (vertexOf[corners[k]!]! < vertexOf[corners[first]!]!) first = k;
    for (let k = 0; k < 3; k++) {
      const c = corners[i + ((first - i + k) % 3)]!;
      parts.push(vertexOf[c]!);
      for (const { cell, at } of [seats, ...otherwise]) if (at && cell[f] !== 0) parts.push(at[c * 2]!, at[c * 2 + 1]!);
    }
  }
  return parts.join(',');
}

interface CornersToWrite {
  corners: Uint32Array;
  /** The face of each corner. */
  faces: Uint32Array;
  /** 1 where the corner's face has been turned over. */
  reversed: Uint8Array;
  /** Whether the mesh runs against the file, since the node mirrors. */
  mirrored: boolean;
}

/**
 * Corners of the faces' triangles, in the order of the file's own triangles, and running as these do under
 * their node.
 */
function orderedCorners(
  mesh: PolyMesh,
  faces: Uint32Array,
  { triangles, start }: ReturnType<typeof trianglesByFace>,
  mirrored: boolean,
): CornersToWrite {
  const list: { t: number; order: number }[] = [];
  const source = mesh.source?.triangles;
  for (const f of faces)
    for (let t = start[f]!, k = 0; t < start[f + 1]!; t++, k++) {
      // A face that was cut keeps the place of the first of its file's triangles.
      const isOwn = k === 0 || (k === 1 && source && source[f * 2 + 1]! >= 0);
      list.push({ t, order: source ? source[f * 2 + (isOwn ? k : 0)]! : f });
    }
  list.sort((a, b) => a.order - b.order || a.t - b.t);
  const corners = new Uint32Array(list.length * 3);
  const face = new Uint32Array(list.length * 3);
  list.forEach(({ t }, i) => {
    const [a, b, c] = triangles.corners.subarray(t * 3, t * 3 + 3) as unknown as [number, number, number];
    corners.set(mirrored ? [a, c, b] : [a, b, c], i * 3);
    face.fill(triangles.face[t]!, i * 3, i * 3 + 3);
  });
  const turned = mesh.source?.reversed;
  return { corners, faces: face, reversed: Uint8Array.from(face, (f) => turned?.[f] ?? 0), mirrored };
}

/** With what a primitive's vertices leave: attributes of the source by name, and what takes their place. */
interface Dressing {
  semantics: readonly string[];
  /** For each corner of the mesh: 2 and 3. */
  uvs: Float32Array | undefined;
  shading: Float32Array | undefined;
  /** 4 for each corner that is written. */
  colors: Uint16Array | undefined;
  /** Further UVs, each 2 for each corner of the mesh. */
  more: readonly Float32Array[];
}

const uvSetsOf = (primitive: Primitive): number => primitive.listSemantics().filter((s) => s.startsWith('TEXCOORD_')).length;

function cutPrimitive(
  document: Document,
  mesh: PolyMesh,
  source: Primitive,
  written: CornersToWrite,
  { semantics, uvs, colors, shading, more }: Dressing,
): Primitive {
  const { corners, reversed } = written;
  const same = equalVertices(source, semantics);
  const vertexOf = mesh.source!.cornerVertex!;
  const vertex = Uint32Array.from(corners, (c) => same[vertexOf[c]!]!);
  const uv = uvs && pickRows(uvs, corners, 2);
  const further = more.map((set) => pickRows(set, corners, 2));
  const normal = shading ? pickRows(shading, corners, 3) : semantics.includes('NORMAL') ? ownNormals(mesh, source, written) : null;
  const columns = [
    { data: vertex, width: 1 },
    { data: reversed, width: 1 },
    ...(uv ? [{ data: uv, width: 2 }] : []),
    ...further.map((data) => ({ data, width: 2 })),
    ...(normal ? [{ data: normal, width: 3 }] : []),
    ...(colors ? [{ data: colors, width: 4 }] : []),
  ];
  const { rows, index } = indexRows(columns, corners.length);
  const vertices = pickRows(vertex, rows, 1);
  const turned = pickRows(reversed, rows, 1);
  const primitive = setIndices(document, source.clone().setMode(4), index, rows.length);
  for (const name of source.listSemantics())
    primitive.setAttribute(
      name,
      semantics.includes(name) ? pickedAccessor(document, source.getAttribute(name)!, name, vertices, turned) : null,
    );
  dropIdleJoints(primitive);
  if (uv) primitive.setAttribute('TEXCOORD_0', createAccessor(document, 'VEC2', pickRows(uv, rows, 2)));
  for (const set of further)
    primitive.setAttribute(`TEXCOORD_${uvSetsOf(primitive)}`, createAccessor(document, 'VEC2', pickRows(set, rows, 2)));
  if (normal) primitive.setAttribute('NORMAL', createAccessor(document, 'VEC3', pickRows(normal, rows, 3)));
  if (colors) primitive.setAttribute('COLOR_0', createAccessor(document, 'VEC4', pickRows(colors, rows, 4)).setNormalized(true));
  for (const target of source.listTargets()) {
    primitive.removeTarget(target);
    const copy: PrimitiveTarget = target.clone();
    for (const name of target.listSemantics())
      copy.setAttribute(
        name,
        semantics.includes(name) ? pickedAccessor(document, target.getAttribute(name)!, `delta ${name}`, vertices, turned) : null,
      );
    primitive.addTarget(copy);
  }
  return primitive;
}

/** For each vertex the first that agrees with it in all that leaves. */
function equalVertices(source: Primitive, semantics: readonly string[]): Uint32Array {
  const count = source.getAttribute('POSITION')!.getCount();
  const columns: Column[] = [source, ...source.listTargets()].flatMap((from) =>
    semantics.flatMap((name) => {
      const a = from.getAttribute(name);
      return a && a.getCount() === count ? [{ data: a.getArray()!, width: a.getElementSize() }] : [];
    }),
  );
  return firstEqualRows(columns, count).first;
}

/**
 * A normal for each corner, in the space of the file's vertices, where those of the file do not serve: the
 * artist wants flat ones, or some of the file's have no length. `null`: they serve.
 */
function ownNormals(mesh: PolyMesh, source: Primitive, { corners, faces, reversed, mirrored }: CornersToWrite): Float32Array | null {
  const given = values(source.getAttribute('NORMAL')!);
  const isFlat = !mesh.cornerNormals;
  const vertexOf = mesh.source!.cornerVertex!;
  const hasLength = (v: number) => Math.hypot(given[v * 3]!, given[v * 3 + 1]!, given[v * 3 + 2]!) > 1e-6;
  if (!isFlat && corners.every((c) => hasLength(vertexOf[c]!))) return null;
  const position = values(source.getAttribute('POSITION')!);
  const out = new Float32Array(corners.length * 3);
  const known = new Map<number, [number, number, number]>();
  for (let i = 0; i < corners.length; i++) {
    const v = vertexOf[corners[i]!]!;
    if (!isFlat && hasLength(v)) {
      const sign = reversed[i] ? -1 : 1;
      for (let k = 0; k < 3; k++) out[i * 3 + k] = given[v * 3 + k]! * sign;
      makeUnit(out, i * 3);
      continue;
    }
    const f = faces[i]!;
    let normal = known.get(f);
    if (!normal) known.set(f, (normal = localNormal(mesh, position, f, mirrored)));
    out.set(normal, i * 3);
  }
  return out;
}

/**
 * A normal for each corner, smooth over its set, in the space of the file's vertices. What lies under two nodes
 * has no space in common, and is not smooth with each other.
 */
function smoothShading(
  { mesh, smooth }: ExportModel,
  facesOf: readonly number[][],
  meshes: ReadonlyMap<number, Mesh>,
  isMirrored: (piece: number) => boolean,
): Float32Array {
  const normals = new Float32Array((mesh.faceStart.length - 1) * 3);
  mesh.source!.primitives!.forEach(({ node, primitive }, piece) => {
    const position = values(meshes.get(node)!.listPrimitives()[primitive]!.getAttribute('POSITION')!);
    for (const f of facesOf[piece]!) normals.set(localNormal(mesh, position, f, isMirrored(piece)), f * 3);
  });
  return smoothNormals(mesh, smooth!, adjacencyOf(mesh), normals);
}

/** Newell's normal of a face over the file's own vertices; upward where it has no area. */
function localNormal({ faceStart, source }: PolyMesh, position: Float32Array, f: number, mirrored: boolean): [number, number, number] {
  const vertices = source!.cornerVertex!.subarray(faceStart[f]!, faceStart[f + 1]!);
  const sum: [number, number, number] = [0, 0, 0];
  vertices.forEach((v, i) => {
    const [a, b] = [v * 3, vertices[(i + 1) % vertices.length]! * 3];
    for (let k = 0; k < 3; k++) {
      const [p, q] = [(k + 1) % 3, (k + 2) % 3];
      sum[k]! += (position[a + p]! - position[b + p]!) * (position[a + q]! + position[b + q]!);
    }
  });
  const length = Math.hypot(...sum) * (mirrored ? -1 : 1);
  return Math.abs(length) > 1e-20 ? (sum.map((v) => v / length) as [number, number, number]) : [0, 1, 0];
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
