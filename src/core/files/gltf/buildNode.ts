import type { Document, Material, Mesh, Node, Primitive } from '@gltf-transform/core';
import { rgbFromHex } from '../../ground/color/hex';
import { linearFromByte } from '../../ground/color/oklab';
import type { Kit } from '../../kit/kit';
import { pickRows } from '../../shapes/mesh/build';
import type { PolyMesh } from '../../shapes/mesh/polyMesh';
import { indexRows, type Column } from '../../shapes/mesh/rows';
import { groupFaces, groupUvs, trianglesByFace, type ExportModel, type FaceGroup } from '../leaving/exportModel';
import type { LeaveOptions } from '../../kit/leaveOptions';
import { extensionOf } from '../../ground/bytes/text';
import { colorNumbers } from './colorNumbers';
import { createAccessor, setIndices } from './accessor';
import type { GroupMaterials } from './groupMaterials';
import type { MaterialVariants } from './materialVariants';
import { variedGroups, type VariedGroup } from '../leaving/variantGroups';
import type { Leave } from './rebuildSource';

/** A model that was no glTF: one mesh or, where its objects stay apart, a node for each of them. */
export function buildNode(
  document: Document,
  kit: Kit,
  item: ExportModel,
  materials: GroupMaterials,
  variants: MaterialVariants,
  leave: Leave,
  objects: number,
): Node {
  const { mesh, model } = item;
  const byFace = trianglesByFace(mesh);
  const slotMaterials = new Map<string, Material>();
  const varied = variedGroups(kit, item, leave);
  const build = (name: string, groups: readonly FaceGroup[]) =>
    buildMesh(document, name, item, groups.flatMap(varied), byFace, { materials, variants, slotMaterials }, leave.vertexColors);
  const node = document.createNode(model.name);
  if (objects === 1) return node.setMesh(build(model.name, groupFaces(kit, item, leave)));
  const faces: number[][] = mesh.objects.map(() => []);
  mesh.faceObject.forEach((o, f) => faces[o]!.push(f));
  mesh.objects.forEach((name, o) => {
    const groups = groupFaces(kit, item, { ...leave, among: Uint32Array.from(faces[o]!) });
    if (groups.length) node.addChild(document.createNode(name).setMesh(build(name, groups)));
  });
  return node;
}

/** Position, normal, UV and color for each distinct vertex. */
function buildMesh(
  document: Document,
  name: string,
  item: ExportModel,
  groups: readonly VariedGroup[],
  { triangles, start, normals }: ReturnType<typeof trianglesByFace>,
  { materials, variants, slotMaterials }: { materials: GroupMaterials; variants: MaterialVariants; slotMaterials: Map<string, Material> },
  space: LeaveOptions['vertexColors'],
): Mesh {
  const { mesh, seats } = item;
  const out = document.createMesh(name);
  for (const group of groups) {
    const corners: number[] = [];
    for (const f of group.faces) for (let t = start[f]! * 3; t < start[f + 1]! * 3; t++) corners.push(triangles.corners[t]!);
    const faceOf = (t: number) => triangles.face[t]!;
    const faceOfCorner: number[] = [];
    for (const f of group.faces) for (let t = start[f]!; t < start[f + 1]!; t++) faceOfCorner.push(faceOf(t), faceOf(t), faceOf(t));
    const rows = cornerColumns(mesh, corners, faceOfCorner, normals, group, space, groupUvs(group, mesh, seats));
    const primitive = writeIndexed(document, rows, corners.length);
    primitive.setMaterial(group.sheet ? materials.of(group) : slotMaterial(document, item, group, slotMaterials));
    variants.map(primitive, group, rows.filter((r) => r.name.startsWith('TEXCOORD_')).length - group.uvSets.length);
    out.addPrimitive(primitive);
  }
  return out;
}

interface NamedColumn extends Column {
  name: string;
  data: Float32Array | Uint16Array;
  normalized?: boolean;
}

function cornerColumns(
  mesh: PolyMesh,
  corners: number[],
  faces: number[],
  faceNormals: Float32Array,
  group: VariedGroup,
  space: LeaveOptions['vertexColors'],
  uvs?: Float32Array,
): NamedColumn[] {
  const n = corners.length;
  const position = new Float32Array(n * 3);
  const normal = new Float32Array(n * 3);
  const columns: NamedColumn[] = [
    { name: 'POSITION', data: position, width: 3 },
    { name: 'NORMAL', data: normal, width: 3 },
  ];
  corners.forEach((c, i) => {
    const v = mesh.cornerVertex[c]! * 3;
    position.set(mesh.positions.subarray(v, v + 3), i * 3);
    normal.set(unitNormal(mesh.cornerNormals, c, faceNormals, faces[i]!), i * 3);
  });
  const addUv = (name: string, from: Float32Array) => {
    const data = new Float32Array(n * 2);
    corners.forEach((c, i) => data.set(from.subarray(c * 2, c * 2 + 2), i * 2));
    columns.push({ name, data, width: 2 });
  };
  if (uvs) addUv('TEXCOORD_0', uvs);
  if (!group.sheet) mesh.uvSets.slice(1).forEach((uv, i) => addUv(`TEXCOORD_${i + 1}`, uv));
  for (const set of group.uvSets) addUv(`TEXCOORD_${columns.filter((c) => c.name.startsWith('TEXCOORD_')).length}`, set);
  const colors = group.sheet ? group.colors : mesh.cornerColors;
  if (colors)
    columns.push({ name: 'COLOR_0', data: colorNumbers(colors, corners, group.colors ? space : 'linear'), width: 4, normalized: true });
  return columns;
}

/** The corner's own normal; where it has none, the face's; upward for a face without area. */
function unitNormal(own: Float32Array | undefined, corner: number, faceNormals: Float32Array, face: number): [number, number, number] {
  for (const [data, at] of [
    [own, corner],
    [faceNormals, face],
  ] as const) {
    if (!data) continue;
    const n: [number, number, number] = [data[at * 3]!, data[at * 3 + 1]!, data[at * 3 + 2]!];
    const length = Math.hypot(...n);
    if (length > 1e-6) return [n[0] / length, n[1] / length, n[2] / length];
  }
  return [0, 1, 0];
}

function writeIndexed(document: Document, columns: NamedColumn[], count: number): Primitive {
  const { rows, index } = indexRows(columns, count);
  const primitive = setIndices(document, document.createPrimitive(), index, rows.length);
  for (const { name, data, width, normalized } of columns)
    primitive.setAttribute(
      name,
      createAccessor(document, (['SCALAR', 'VEC2', 'VEC3', 'VEC4'] as const)[width - 1]!, pickRows(data, rows, width)).setNormalized(
        normalized ?? false,
      ),
    );
  return primitive;
}

/** A color multiplies the picture beside it; black would leave nothing of it, and is written by programs that mean the picture alone. */
const black = '#000000';

/** The material that uncolored faces came in with; all slots without one share a neutral material. */
function slotMaterial(
  document: Document,
  { mesh, files }: ExportModel,
  { slot, seeThrough, doubleSided }: FaceGroup,
  made: Map<string, Material>,
): Material {
  const { name, color, picture, given, alpha } = mesh.slots[slot]!;
  const key = given || picture ? `slot ${slot}` : 'neutral';
  let material = made.get(key);
  if (material) return material;
  material = document
    .createMaterial(given || picture ? name : 'not yet colored')
    .setMetallicFactor(0)
    .setRoughnessFactor(1)
    .setDoubleSided(doubleSided);
  if (seeThrough) material.setAlphaMode('BLEND').setAlpha(alpha ?? 1);
  const file = files.find((f) => picture && f.name.toLowerCase() === picture.toLowerCase());
  const mime = file && { png: 'image/png', jpg: 'image/jpeg', jpeg: 'image/jpeg' }[extensionOf(file.name)];
  const isPictured = file !== undefined && mime !== undefined;
  if (isPictured)
    material.setBaseColorTexture(
      document
        .createTexture(picture!)
        .setMimeType(mime)
        .setImage(file.bytes as Uint8Array<ArrayBuffer>),
    );
  if (isPictured ? given && color !== black : given || !mesh.cornerColors) {
    const [r, g, b] = rgbFromHex(color).map(linearFromByte) as [number, number, number];
    material.setBaseColorFactor([r, g, b, alpha ?? 1]);
  }
  made.set(key, material);
  return material;
}
