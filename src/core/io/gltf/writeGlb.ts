import {
  Document,
  Logger,
  PropertyType,
  WebIO,
  type Material,
  type Mesh,
  type Node,
  type Primitive,
  type Scene,
} from '@gltf-transform/core';
import { ALL_EXTENSIONS, EXTTextureWebP, KHRMaterialsUnlit } from '@gltf-transform/extensions';
import { mergeDocuments, prune, unpartition } from '@gltf-transform/functions';
import { rgbFromHex } from '../../color/hex';
import { linearFromByte } from '../../color/oklab';
import type { Kit, Sheet } from '../../kit/kit';
import type { PolyMesh } from '../../mesh/polyMesh';
import { pickRows } from '../../mesh/build';
import { indexRows, type Column } from '../../mesh/rows';
import { encodeSheet, rastersOf } from '../../sheet/encode';
import { groupFaces, groupUvs, trianglesByFace, type ExportModel, type FaceGroup, type FlatMaterial, type LeaveAs } from '../exportModel';
import type { KitPicture, KitPictures } from '../picture';
import { extensionOf } from '../text';
import { createAccessor, setIndices } from './accessor';
import { openGltf, type GltfCodecs } from './openGltf';
import { rebuildSource, type Leave, type MaterialFor } from './rebuildSource';

export interface WriteGlbOptions {
  /** Mark the sheet's material as one that light does not touch (KHR_materials_unlit). */
  unlit?: boolean;
  as?: LeaveAs;
  /** The pictures that sheets are drawn from. */
  pictures?: KitPictures;
  codecs?: GltfCodecs;
}

/**
 * GLB of one or more models that share the kit's sheets: one material for each sheet, its PNG embedded, sampled to the nearest texel and clamped.
 * A model that came as glTF is opened again and leaves with all that it held (node tree, skins, animations, morph targets, extras).
 * Source: Khronos glTF 2.0 specification.
 */
export async function writeGlb(kit: Kit, models: readonly ExportModel[], options: WriteGlbOptions = {}): Promise<Uint8Array> {
  const alone = models.length === 1 && isGltf(models[0]!) ? await openSource(models[0]!, options.codecs) : null;
  const document = (alone ?? new Document()).setLogger(new Logger(Logger.Verbosity.WARN));
  const root = document.getRoot();
  const scene = root.getDefaultScene() ?? root.listScenes()[0] ?? document.createScene(kit.name);
  root.setDefaultScene(scene);
  const pictures = options.pictures ?? new Map<string, KitPicture>();
  const materialFor = groupMaterials(document, options.unlit ?? false, pictures);
  const leave = { as: options.as ?? 'texture', pictures: rastersOf(pictures) };
  for (const item of models) {
    if (!isGltf(item)) {
      scene.addChild(document.createNode(item.model.name).setMesh(buildMesh(document, kit, item, materialFor, leave)));
      continue;
    }
    const { top, nodes } = alone
      ? { top: scene, nodes: root.listNodes() }
      : adopt(document, await openSource(item, options.codecs), scene, item.model.name);
    rebuildSource(document, kit, item, materialFor, nodes, leave);
    if (item.model.placement) place(document, top, item.model.placement);
  }
  root.getAsset().generator = 'Oligochrome';
  for (const extension of root.listExtensionsUsed()) if (/draco|meshopt/.test(extension.extensionName)) extension.dispose();
  if (!root.listBuffers().length) document.createBuffer();
  await dropUnused(document);
  return new WebIO().registerExtensions(ALL_EXTENSIONS).writeBinary(document);
}

/** What no face uses any more leaves the file; nodes, names, extras and animations stay. */
async function dropUnused(document: Document): Promise<void> {
  const { TEXTURE, ACCESSOR, MESH, PRIMITIVE, PRIMITIVE_TARGET, BUFFER } = PropertyType;
  const keep = { keepAttributes: true, keepLeaves: true, keepIndices: true, keepSolidTextures: true, keepExtras: true };
  await document.transform(prune({ propertyTypes: [MESH, PRIMITIVE, PRIMITIVE_TARGET], ...keep }));
  for (const material of document.getRoot().listMaterials()) {
    if (material.listParents().some((p) => p.propertyType !== PropertyType.ROOT)) continue;
    // Extensions of a material would keep its textures.
    for (const extension of material.listExtensions()) extension.dispose();
    material.dispose();
  }
  await document.transform(prune({ propertyTypes: [TEXTURE, ACCESSOR, BUFFER], ...keep }), unpartition());
}

export const isGltf = ({ model, mesh, files }: ExportModel): boolean =>
  model.source.format === 'gltf' && mesh.source?.primitives !== undefined && files.length > 0;

async function openSource({ files }: ExportModel, codecs?: GltfCodecs): Promise<Document> {
  const [main, ...rest] = files;
  const { document } = await openGltf(main!.name, main!.bytes, new Map(rest.map((f) => [f.name, f.bytes])), codecs);
  return document;
}

/** Brings another document's shown scene under one node of this one. */
function adopt(document: Document, source: Document, scene: Scene, name: string) {
  const nodes = source.getRoot().listNodes();
  const shown = source.getRoot().getDefaultScene() ?? source.getRoot().listScenes()[0];
  const map = mergeDocuments(document, source);
  const node = document.createNode(name);
  scene.addChild(node);
  for (const copy of source
    .getRoot()
    .listScenes()
    .map((s) => map.get(s) as Scene)) {
    if (shown && copy === map.get(shown)) for (const child of copy.listChildren()) node.addChild(child);
    copy.dispose();
  }
  return { top: node, nodes: nodes.map((n) => map.get(n) as Node) };
}

/** Axis and scale are corrected by a node above all others; vertices stay. */
function place(document: Document, top: Scene | Node, { upFromZ, scale }: { upFromZ: boolean; scale: number }): void {
  const node = document.createNode('placement').setScale([scale, scale, scale]);
  if (upFromZ) node.setRotation([-Math.SQRT1_2, 0, 0, Math.SQRT1_2]);
  for (const child of top.listChildren()) node.addChild(child);
  top.addChild(node);
}

/** One material for each sheet or flat slot, made when it is first asked for. */
function groupMaterials(document: Document, unlit: boolean, pictures: KitPictures): MaterialFor {
  const made = new Map<string, Material>();
  const flatMaterial = ({ name, color }: FlatMaterial) => {
    // Models with one name for one color share the material.
    const key = `${name} ${color.join()}`;
    const known = made.get(key);
    if (known) return known;
    const [r, g, b] = color.map(linearFromByte) as [number, number, number];
    const material = document.createMaterial(name).setBaseColorFactor([r, g, b, 1]).setMetallicFactor(0).setRoughnessFactor(1);
    if (unlit) material.setExtension('KHR_materials_unlit', document.createExtension(KHRMaterialsUnlit).createUnlit());
    made.set(key, material);
    return material;
  };
  return (group) => {
    if (group.flat) return flatMaterial(group.flat);
    const sheet = group.sheet!;
    let material = made.get(sheet.id);
    if (!material) {
      const { bytes, mime } = encodeSheet(sheet, pictures);
      const texture = document
        .createTexture(sheet.name)
        .setMimeType(mime)
        .setImage(bytes as Uint8Array<ArrayBuffer>);
      // WebP is no picture of plain glTF.
      if (mime === 'image/webp') document.createExtension(EXTTextureWebP).setRequired(true);
      material = document.createMaterial(sheet.name).setBaseColorTexture(texture).setMetallicFactor(0).setRoughnessFactor(1);
      // Opacity only counts where the material asks for it.
      if (sheet.cells.some((c) => c.fill.kind === 'solid' && (c.fill.alpha ?? 1) < 1)) material.setAlphaMode('BLEND');
      sampleClamped(material, sheet.filter);
      if (unlit) material.setExtension('KHR_materials_unlit', document.createExtension(KHRMaterialsUnlit).createUnlit());
      made.set(sheet.id, material);
    }
    return material;
  };
}

function sampleClamped(material: Material, filter: Sheet['filter']): void {
  const mode = filter === 'linear' ? 9729 : 9728;
  material.getBaseColorTextureInfo()!.setMagFilter(mode).setMinFilter(mode).setWrapS(33071).setWrapT(33071);
}

/** Position, normal, UV and color for each distinct vertex. */
function buildMesh(document: Document, kit: Kit, item: ExportModel, materialFor: MaterialFor, leave: Leave): Mesh {
  const { mesh, model, seats } = item;
  const { triangles, start, normals } = trianglesByFace(mesh);
  const out = document.createMesh(model.name);
  const slotMaterials = new Map<string, Material>();
  for (const group of groupFaces(kit, item, leave)) {
    const corners: number[] = [];
    for (const f of group.faces) for (let t = start[f]! * 3; t < start[f + 1]! * 3; t++) corners.push(triangles.corners[t]!);
    const faceOf = (t: number) => triangles.face[t]!;
    const faceOfCorner: number[] = [];
    for (const f of group.faces) for (let t = start[f]!; t < start[f + 1]!; t++) faceOfCorner.push(faceOf(t), faceOf(t), faceOf(t));
    const rows = cornerColumns(mesh, corners, faceOfCorner, normals, group, groupUvs(group, mesh, seats));
    const primitive = writeIndexed(document, rows, corners.length);
    primitive.setMaterial(group.sheet ? materialFor(group) : slotMaterial(document, item, group.slot, slotMaterials));
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
  group: FaceGroup,
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
  if (!group.sheet) {
    mesh.uvSets.slice(1).forEach((uv, i) => addUv(`TEXCOORD_${i + 1}`, uv));
    const colors = mesh.cornerColors;
    if (colors) {
      const data = new Uint16Array(n * 4);
      corners.forEach((c, i) => {
        for (let k = 0; k < 3; k++) data[i * 4 + k] = Math.round(linearFromByte(colors[c * 4 + k]!) * 65535);
        data[i * 4 + 3] = colors[c * 4 + 3]! * 257;
      });
      columns.push({ name: 'COLOR_0', data, width: 4, normalized: true });
    }
  }
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

/** The material that uncolored faces came in with; all slots without one share a neutral material. */
function slotMaterial(document: Document, { mesh, files }: ExportModel, slot: number, made: Map<string, Material>): Material {
  const { name, color, picture, given } = mesh.slots[slot]!;
  const key = given || picture ? `slot ${slot}` : 'neutral';
  let material = made.get(key);
  if (material) return material;
  material = document
    .createMaterial(given || picture ? name : 'not yet colored')
    .setMetallicFactor(0)
    .setRoughnessFactor(1);
  const file = files.find((f) => picture && f.name.toLowerCase() === picture.toLowerCase());
  const mime = file && { png: 'image/png', jpg: 'image/jpeg', jpeg: 'image/jpeg' }[extensionOf(file.name)];
  if (file && mime)
    material.setBaseColorTexture(
      document
        .createTexture(picture!)
        .setMimeType(mime)
        .setImage(file.bytes as Uint8Array<ArrayBuffer>),
    );
  else if (given || !mesh.cornerColors) {
    const [r, g, b] = rgbFromHex(color).map(linearFromByte) as [number, number, number];
    material.setBaseColorFactor([r, g, b, 1]);
  }
  made.set(key, material);
  return material;
}
