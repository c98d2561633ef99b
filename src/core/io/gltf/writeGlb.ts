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
  type Texture,
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
import { groupFaces, groupUvs, isGltfModel, trianglesByFace, type ExportModel, type FaceGroup, type FlatMaterial } from '../exportModel';
import type { KitPicture, KitPictures } from '../picture';
import { extensionOf } from '../text';
import { createAccessor, setIndices } from './accessor';
import { NamesOnce, printable } from '../fileNames';
import { leaveDefaults, type LeaveOptions } from '../leaveOptions';
import { openKept, type GltfCodecs } from './openGltf';
import { joinMeshes } from './joinMeshes';
import { shownRoots } from './scenes';
import { rebuildSource, type Leave, type MaterialFor } from './rebuildSource';

export interface WriteGlbOptions extends Partial<LeaveOptions> {
  /** The pictures that sheets are drawn from. */
  pictures?: KitPictures;
  codecs?: GltfCodecs;
}

/**
 * GLB of one or more models that share the kit's sheets: one material for each sheet (a second one for what
 * is see-through, and others for faces seen from both sides), its PNG embedded, sampled to the nearest texel
 * and clamped. A model that came as glTF is opened again and leaves with what it held (node tree, skins,
 * animations, morph targets, extras).
 * Source: Khronos glTF 2.0 specification. Throws `FileError` where a source cannot be opened again.
 */
export async function writeGlb(kit: Kit, models: readonly ExportModel[], options: WriteGlbOptions = {}): Promise<Uint8Array> {
  const { as, meshes, unlit, numbered } = { ...leaveDefaults, ...options };
  const alone = models.length === 1 && isGltfModel(models[0]!) ? (await openKept(models[0]!.files, options.codecs)).document : null;
  const document = (alone ?? new Document()).setLogger(new Logger(Logger.Verbosity.WARN));
  const root = document.getRoot();
  const scene = sceneOf(document, kit.name);
  const pictures = options.pictures ?? new Map<string, KitPicture>();
  const materials = new GroupMaterials(document, unlit, pictures);
  const leave = { as, numbered, pictures: rastersOf(pictures) };
  const rights: string[] = [];
  const rebuilt: { item: ExportModel; top: Scene | Node; nodes: readonly Node[] }[] = [];
  for (const item of models) {
    if (!isGltfModel(item)) {
      const objects = meshes === 'shared' ? item.mesh.objects.length : 1;
      scene.addChild(buildNode(document, kit, item, materials, leave, objects));
      continue;
    }
    const source = alone ?? (await openKept(item.files, options.codecs)).document;
    const { copyright } = source.getRoot().getAsset();
    if (copyright && !rights.includes(copyright)) rights.push(copyright);
    const { sides } = item.model;
    if (sides) for (const material of source.getRoot().listMaterials()) material.setDoubleSided(sides === 'both');
    const { top, nodes } = alone ? { top: scene, nodes: root.listNodes() } : adopt(document, source, scene, item.model.name);
    rebuildSource(document, kit, item, materials.of, nodes, leave);
    rebuilt.push({ item, top, nodes });
  }
  if (meshes === 'joined') for (const { item, top, nodes } of rebuilt) joinMeshes(document, nodes, top, item.model.name);
  for (const { item, top } of rebuilt) if (item.model.placement) place(document, top, item.model.placement);
  nameApart(document, materials.all());
  const asset = root.getAsset();
  asset.generator = 'Oligochrome';
  if (rights.length) asset.copyright = rights.join('; ');
  for (const extension of root.listExtensionsUsed()) if (/draco|meshopt/.test(extension.extensionName)) extension.dispose();
  if (!root.listBuffers().length) document.createBuffer();
  await dropUnused(document);
  return new WebIO().registerExtensions(ALL_EXTENSIONS).writeBinary(document);
}

/**
 * Programs that know materials by their names would take two of one name for one. Ours, which several models
 * share, keep theirs.
 */
function nameApart(document: Document, ours: readonly Material[]): void {
  const names = new NamesOnce<Material>('_');
  for (const material of [...ours, ...document.getRoot().listMaterials()]) {
    const name = printable(material.getName());
    if (name) material.setName(names.of(material, name));
  }
}

/** The scene that is shown; where the file names none, one of all that it shows. */
function sceneOf(document: Document, name: string): Scene {
  const root = document.getRoot();
  const given = root.getDefaultScene();
  if (given) return given;
  const tops = shownRoots(document);
  const [first, ...others] = root.listScenes();
  const scene = first ?? document.createScene(name);
  for (const node of tops) scene.addChild(node);
  for (const other of others) other.dispose();
  root.setDefaultScene(scene);
  return scene;
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

/** Brings what another document shows under one node of this one, with what is said of the whole file. */
function adopt(document: Document, source: Document, scene: Scene, name: string) {
  const from = source.getRoot();
  const nodes = from.listNodes();
  const tops = shownRoots(source);
  const said = { ...from.getExtras(), ...from.getDefaultScene()?.getExtras() };
  const map = mergeDocuments(document, source);
  const node = document.createNode(name).setExtras(said);
  scene.addChild(node);
  for (const copy of from.listScenes()) (map.get(copy) as Scene).dispose();
  for (const top of tops) node.addChild(map.get(top) as Node);
  return { top: node, nodes: nodes.map((n) => map.get(n) as Node) };
}

/** Axis and scale are corrected by a node above all others; vertices stay. */
function place(document: Document, top: Scene | Node, { upFromZ, scale }: { upFromZ: boolean; scale: number }): void {
  const node = document.createNode('placement').setScale([scale, scale, scale]);
  if (upFromZ) node.setRotation([-Math.SQRT1_2, 0, 0, Math.SQRT1_2]);
  for (const child of top.listChildren()) node.addChild(child);
  top.addChild(node);
}

/**
 * One material for each sheet or flat slot, made when it is first asked for; see-through faces and those seen
 * from both sides have one of their own.
 */
class GroupMaterials {
  private readonly made = new Map<string, Material>();
  private readonly textures = new Map<string, Texture>();
  constructor(
    private readonly document: Document,
    private readonly unlit: boolean,
    private readonly pictures: KitPictures,
  ) {}

  readonly of: MaterialFor = (group) => {
    const { flat, sheet, seeThrough, doubleSided } = group;
    // Models with one number and name for one color share the material.
    const key = [flat ? `${flat.number} ${flat.name} ${flat.color.join()} ${flat.alpha}` : sheet!.id, seeThrough, doubleSided].join(' ');
    let material = this.made.get(key);
    if (!material) {
      material = flat ? this.flat(flat) : this.textured(group);
      material.setMetallicFactor(0).setRoughnessFactor(1).setDoubleSided(doubleSided);
      // Opacity only counts where the material asks for it.
      if (seeThrough) material.setAlphaMode('BLEND');
      if (this.unlit) material.setExtension('KHR_materials_unlit', this.document.createExtension(KHRMaterialsUnlit).createUnlit());
      this.made.set(key, material);
    }
    return material;
  };

  all = (): Material[] => [...this.made.values()];

  private flat({ number, name, color, alpha }: FlatMaterial): Material {
    const [r, g, b] = color.map(linearFromByte) as [number, number, number];
    return this.document.createMaterial(name).setBaseColorFactor([r, g, b, alpha]).setExtras({ slot: number });
  }

  private textured({ sheet, seeThrough, doubleSided }: FaceGroup): Material {
    const kinds = [...(seeThrough ? ['see-through'] : []), ...(doubleSided ? ['both sides'] : [])].join(', ');
    const material = this.document.createMaterial(sheet!.name + (kinds && `, ${kinds}`)).setBaseColorTexture(this.texture(sheet!));
    sampleClamped(material, sheet!.filter);
    return material;
  }

  private texture(sheet: Sheet): Texture {
    let texture = this.textures.get(sheet.id);
    if (!texture) {
      const { bytes, mime } = encodeSheet(sheet, this.pictures);
      texture = this.document
        .createTexture(sheet.name)
        .setMimeType(mime)
        .setImage(bytes as Uint8Array<ArrayBuffer>);
      // WebP is no picture of plain glTF.
      if (mime === 'image/webp') this.document.createExtension(EXTTextureWebP).setRequired(true);
      this.textures.set(sheet.id, texture);
    }
    return texture;
  }
}

function sampleClamped(material: Material, filter: Sheet['filter']): void {
  const mode = filter === 'linear' ? 9729 : 9728;
  material.getBaseColorTextureInfo()!.setMagFilter(mode).setMinFilter(mode).setWrapS(33071).setWrapT(33071);
}

/** A model that was no glTF: one mesh or, where its objects stay apart, a node for each of them. */
function buildNode(document: Document, kit: Kit, item: ExportModel, materials: GroupMaterials, leave: Leave, objects: number): Node {
  const { mesh, model } = item;
  const byFace = trianglesByFace(mesh);
  const slotMaterials = new Map<string, Material>();
  const build = (name: string, groups: readonly FaceGroup[]) => buildMesh(document, name, item, groups, byFace, materials, slotMaterials);
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
  groups: readonly FaceGroup[],
  { triangles, start, normals }: ReturnType<typeof trianglesByFace>,
  materials: GroupMaterials,
  slotMaterials: Map<string, Material>,
): Mesh {
  const { mesh, seats } = item;
  const out = document.createMesh(name);
  for (const group of groups) {
    const corners: number[] = [];
    for (const f of group.faces) for (let t = start[f]! * 3; t < start[f + 1]! * 3; t++) corners.push(triangles.corners[t]!);
    const faceOf = (t: number) => triangles.face[t]!;
    const faceOfCorner: number[] = [];
    for (const f of group.faces) for (let t = start[f]!; t < start[f + 1]!; t++) faceOfCorner.push(faceOf(t), faceOf(t), faceOf(t));
    const rows = cornerColumns(mesh, corners, faceOfCorner, normals, group, groupUvs(group, mesh, seats));
    const primitive = writeIndexed(document, rows, corners.length);
    primitive.setMaterial(group.sheet ? materials.of(group) : slotMaterial(document, item, group, slotMaterials));
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
  if (file && mime)
    material.setBaseColorTexture(
      document
        .createTexture(picture!)
        .setMimeType(mime)
        .setImage(file.bytes as Uint8Array<ArrayBuffer>),
    );
  else if (given || !mesh.cornerColors) {
    const [r, g, b] = rgbFromHex(color).map(linearFromByte) as [number, number, number];
    material.setBaseColorFactor([r, g, b, alpha ?? 1]);
  }
  made.set(key, material);
  return material;
}
