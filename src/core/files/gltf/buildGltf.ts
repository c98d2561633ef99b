import { Document, Logger, PropertyType, type Material, type Node, type Scene, type Texture } from '@gltf-transform/core';
import { EXTMeshoptCompression } from '@gltf-transform/extensions';
import { mergeDocuments, prune, unpartition } from '@gltf-transform/functions';
import type { Kit } from '../../kit/kit';
import { colorsOfCorners } from '../../faces/seat/colorsOfCorners';
import { rastersOf } from '../../sheet/encode';
import { variantsOfLooks } from '../../kit/colorings/shown';
import { isGltfModel, shadedItem, type ExportModel } from '../leaving/exportModel';
import { NamesOnce, printable } from '../../ground/bytes/fileNames';
import { framedMesh, isMoved, originOf } from '../leaving/leaveFrame';
import { leaveDefaults, type LeaveOptions } from '../../kit/leaveOptions';
import type { KitPicture, KitPictures } from '../../ground/pictures/picture';
import { buildNode } from './buildNode';
import { GroupMaterials, type SheetPicture } from './groupMaterials';
import { joinMeshes } from './joinMeshes';
import { keptNodes, nodesToKeep } from './meantNames';
import { MaterialVariants } from './materialVariants';
import { openKept, type GltfCodecs } from './openGltf';
import { rebuildSource } from './rebuildSource';
import { shownRoots } from './scenes';

export interface GltfOptions extends Partial<LeaveOptions> {
  /** The pictures that sheets are drawn from. */
  pictures?: KitPictures;
  codecs?: GltfCodecs;
  /** Each model is under one node of the scene, in the order given, also where there is one alone. */
  apart?: boolean;
}

export interface BuiltGltf {
  document: Document;
  /** The sheet that a texture holds; none for pictures that came along. */
  sheetOf: (texture: Texture) => SheetPicture | undefined;
}

/**
 * One or more models that share the kit's sheets, as a glTF document: one material for each sheet (a second
 * one for what is see-through, and others for faces seen from both sides), its picture sampled to the nearest
 * texel and clamped. A model that came as glTF is opened again and leaves with what it held (node tree, skins,
 * animations, morph targets, extras).
 * Source: Khronos glTF 2.0 specification. Throws `FileError` where a source cannot be opened again.
 */
export async function buildGltf(kit: Kit, models: readonly ExportModel[], options: GltfOptions = {}): Promise<BuiltGltf> {
  const {
    as,
    meshes,
    unlit,
    finish,
    numbered,
    vertexColors,
    origin,
    scale,
    packed,
    variants: wanted,
    nodes: keep,
  } = { ...leaveDefaults, ...options };
  const alone =
    models.length === 1 && !options.apart && isGltfModel(models[0]!) ? (await openKept(models[0]!.files, options.codecs)).document : null;
  const document = (alone ?? new Document()).setLogger(new Logger(Logger.Verbosity.WARN));
  const root = document.getRoot();
  const scene = sceneOf(document, kit.name);
  const pictures = options.pictures ?? new Map<string, KitPicture>();
  const materials = new GroupMaterials(document, { unlit, finish }, pictures, variantsOfLooks(kit));
  const named = wanted === 'none' ? [] : kit.variants.filter((v) => models.some((m) => v.model === undefined || v.model === m.model.id));
  const variants = new MaterialVariants(
    document,
    materials,
    named.map((v) => v.name),
  );
  const leave = { as, numbered, vertexColors, variants: wanted, rasters: rastersOf(pictures) };
  const rights: string[] = [];
  const rebuilt: { item: ExportModel; top: Scene | Node; nodes: readonly Node[] }[] = [];
  for (const came of models) {
    const shaded = shadedItem(came, options);
    const item = as === 'colors' ? { ...shaded, colors: colorsOfCorners(kit, shaded.mesh, shaded.seats, leave.rasters) } : shaded;
    if (!isGltfModel(item)) {
      const objects = meshes === 'shared' ? item.mesh.objects.length : 1;
      const framed = { ...item, mesh: framedMesh(item.mesh, { origin, scale, up: 'y' }) };
      scene.addChild(buildNode(document, kit, framed, materials, variants, leave, objects));
      continue;
    }
    const source = alone ?? (await openKept(item.files, options.codecs)).document;
    const { copyright } = source.getRoot().getAsset();
    if (copyright && !rights.includes(copyright)) rights.push(copyright);
    const { sides } = item.model;
    if (sides) for (const material of source.getRoot().listMaterials()) material.setDoubleSided(sides === 'both');
    const { top, nodes } = alone ? { top: scene, nodes: root.listNodes() } : adopt(document, source, scene, item.model.name);
    rebuildSource(document, kit, item, materials, variants, nodes, leave);
    rebuilt.push({ item, top, nodes });
  }
  if (meshes === 'joined')
    for (const { item, top, nodes } of rebuilt)
      joinMeshes(document, nodes, top, item.model.name, keptNodes(nodes, nodesToKeep(item.mesh, keep)));
  for (const { item, top } of rebuilt) {
    if (item.model.placement) place(document, top, item.model.placement);
    if (isMoved({ origin, scale })) frame(document, top, originOf(item.mesh, origin), scale);
  }
  nameApart(document, materials.all());
  const asset = root.getAsset();
  asset.generator = 'Oligochrome';
  if (rights.length) asset.copyright = rights.join('; ');
  for (const extension of root.listExtensionsUsed()) if (/draco|meshopt/.test(extension.extensionName)) extension.dispose();
  if (!root.listBuffers().length) document.createBuffer();
  await dropUnused(document);
  if (packed)
    document
      .createExtension(EXTMeshoptCompression)
      .setRequired(true)
      .setEncoderOptions({ method: EXTMeshoptCompression.EncoderMethod.QUANTIZE });
  return { document, sheetOf: materials.sheetOf };
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

/** The frame in which a model leaves, as a node above it: vertices stay, and with them skins and animations. */
function frame(document: Document, top: Scene | Node, origin: readonly number[], scale: number): void {
  const [x, y, z] = origin.map((o) => 0 - o * scale) as [number, number, number];
  const node = document.createNode('frame').setScale([scale, scale, scale]).setTranslation([x, y, z]);
  for (const child of top.listChildren()) node.addChild(child);
  top.addChild(node);
}
