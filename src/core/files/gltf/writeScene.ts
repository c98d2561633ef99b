import {
  MathUtils,
  PropertyType,
  type Animation,
  type Document,
  type Mesh,
  type Node,
  type Primitive,
  type Skin,
  type mat4,
} from '@gltf-transform/core';
import { EXTMeshGPUInstancing, KHRMaterialsVariants, type MappingList } from '@gltf-transform/extensions';
import { prune } from '@gltf-transform/functions';
import type { Kit, Placement } from '../../kit/kit';
import { stageInFile, type PlacementInFile } from '../leaving/stageFile';
import type { ExportModel } from '../leaving/exportModel';
import { buildGltf, type GltfOptions } from './buildGltf';
import { identity, multiply, type Matrix } from './matrix';
import { writeDocument } from './writeGlb';

export interface SceneOptions extends GltfOptions {
  /** What stands there several times in one coloring is one node with a list of places (EXT_mesh_gpu_instancing), which its reader must know. */
  instanced?: boolean;
}

/** A placement, and what files say of it; `number`: which of the stage it is, where nodes do not stand in that order. */
type Standing = Placement & { inFile: PlacementInFile; number?: number };

/**
 * The stage as one GLB: a node for each placement, called by its name, with the meshes of its model, which all of that
 * model share. A mesh whose placements start in a variant is there again under the variant's material, with the same
 * vertices. Nodes say of which model and in which coloring they stand, and the scene has the cues, so that the stage
 * comes in from it again (`stageInGlb`). Skins and animations are there once for each placement.
 * `models`: all that stand there, the others are left out. Source: Khronos glTF 2.0; EXT_mesh_gpu_instancing. Throws
 * `FileError` where a source cannot be opened again, and where nothing stands there.
 */
export async function writeScene(
  kit: Kit,
  models: readonly ExportModel[],
  { instanced = false, ...options }: SceneOptions = {},
): Promise<Uint8Array> {
  const placements = kit.placements ?? [];
  const standing = models.filter(({ model }) => placements.some((p) => p.model === model.id));
  if (!standing.length) throw new Error('Nothing stands on the stage yet: place a model first.');
  const { placements: inFile, ...stage } = stageInFile(kit);
  const { document } = await buildGltf(kit, standing, { ...options, origin: 'came', scale: 1, apart: true });
  const scene = document.getRoot().getDefaultScene()!;
  const templates = scene.listChildren();
  const animations = document.getRoot().listAnimations();
  const colored = new ColoredMeshes(document);
  scene.setName(kit.name).setExtras({ ...scene.getExtras(), stage });
  const tops = new Map(standing.map(({ model }, i) => [model.id, templates[i]!]));
  const moves = new Set([...tops].filter(([, top]) => hasSkin(top) || animations.some((a) => aimsAt(a, top))).map(([id]) => id));
  const all = placements.flatMap((p, i): Standing[] =>
    tops.has(p.model) ? [{ ...p, inFile: inFile[i]!, ...(instanced && { number: i }) }] : [],
  );
  const together = grouped(all, (p) => `${p.model} ${p.inFile.coloring}`);
  const done = new Set<Standing>();
  for (const p of all) {
    if (done.has(p)) continue;
    const top = tops.get(p.model)!;
    const meshOf = (mesh: Mesh) => colored.of(mesh, p.inFile.coloring);
    const group = together.get(`${p.model} ${p.inFile.coloring}`)!;
    const many = instanced && !moves.has(p.model) && group.length > 1 ? instancesOf(document, top, group, meshOf) : null;
    if (many) scene.addChild(many.setName(`${p.inFile.model}, ${p.inFile.coloring}`));
    else for (const node of placed(document, top, p, animations, meshOf)) scene.addChild(node);
    for (const own of many ? group : [p]) done.add(own);
  }
  for (const animation of animations) animation.dispose();
  for (const top of templates) disposeTree(top);
  const { MESH, PRIMITIVE, SKIN, ANIMATION, ACCESSOR, MATERIAL, TEXTURE } = PropertyType;
  await document.transform(
    prune({
      propertyTypes: [MESH, PRIMITIVE, SKIN, ANIMATION, MATERIAL, TEXTURE, ACCESSOR],
      keepAttributes: true,
      keepLeaves: true,
      keepIndices: true,
      keepSolidTextures: true,
      keepExtras: true,
    }),
  );
  return writeDocument(document);
}

/** Meshes as they start in a variant: of the same vertices, with the materials that the file maps to it. */
class ColoredMeshes {
  private readonly known = new Map<Mesh, Map<string, Mesh>>();
  private readonly extension;
  constructor(document: Document) {
    const isVaried = document
      .getRoot()
      .listExtensionsUsed()
      .some((e) => e instanceof KHRMaterialsVariants);
    this.extension = isVaried ? document.createExtension(KHRMaterialsVariants) : null;
  }

  of(mesh: Mesh, coloring: string): Mesh {
    const variants = this.extension?.listVariants() ?? [];
    if (!this.extension || !variants.some((v) => v.getName() === coloring)) return mesh;
    const own = this.known.get(mesh) ?? new Map<string, Mesh>();
    this.known.set(mesh, own);
    let made = own.get(coloring);
    if (!made) {
      const primitives = mesh.listPrimitives().map((p) => this.primitive(p, coloring));
      made = primitives.every((p, i) => p === mesh.listPrimitives()[i]) ? mesh : mesh.clone().setName(`${mesh.getName()}, ${coloring}`);
      if (made !== mesh) {
        for (const p of made.listPrimitives()) made.removePrimitive(p);
        for (const p of primitives) made.addPrimitive(p);
      }
      own.set(coloring, made);
    }
    return made;
  }

  /** What looks otherwise in the variant begins with its material, and with the others in theirs, the default's included. */
  private primitive(primitive: Primitive, coloring: string): Primitive {
    const list = primitive.getExtension<MappingList>('KHR_materials_variants');
    const materialIn = (name: string) =>
      list
        ?.listMappings()
        .find((m) => m.listVariants().some((v) => v.getName() === name))
        ?.getMaterial() ?? primitive.getMaterial();
    const start = materialIn(coloring);
    if (!list || start === primitive.getMaterial()) return primitive;
    const mappings = this.extension!.createMappingList();
    const byMaterial = grouped(this.extension!.listVariants(), (v) => materialIn(v.getName()));
    for (const [material, variants] of byMaterial) {
      if (material === start || !material) continue;
      const mapping = this.extension!.createMapping().setMaterial(material);
      for (const v of variants) mapping.addVariant(v);
      mappings.addMapping(mapping);
    }
    return primitive
      .clone()
      .setMaterial(start)
      .setExtension('KHR_materials_variants', mappings.listMappings().length ? mappings : null);
  }
}

/**
 * A placement as a tree of nodes like its model's, with skins and animations of its own. What is skinned stands beside it:
 * its bones move it, and no node above.
 */
function placed(
  document: Document,
  top: Node,
  { name, at, turn, scale, inFile, number }: Standing,
  animations: readonly Animation[],
  meshOf: (mesh: Mesh) => Mesh,
): Node[] {
  const copies = new Map<Node, Node>();
  const skinned = new Map<Node, Node>();
  const skins = new Map<Skin, Skin>();
  const copy = (node: Node): Node => {
    const mesh = node.getMesh();
    const made = document
      .createNode(node.getName())
      .setTranslation(node.getTranslation())
      .setRotation(node.getRotation())
      .setScale(node.getScale())
      .setCamera(node.getCamera())
      .setExtras(node.getExtras());
    const body = node.getSkin() ? document.createNode(`${name}, ${node.getName()}`) : made;
    body.setMesh(mesh && meshOf(mesh)).setWeights(node.getWeights());
    if (body !== made) skinned.set(node, body);
    for (const extension of node.listExtensions()) made.setExtension(extension.extensionName, extension as never);
    copies.set(node, made);
    for (const child of node.listChildren()) made.addChild(copy(child));
    return made;
  };
  const root = document.createNode(name).setTranslation(at).setRotation(aboutVertical(turn)).setScale([scale, scale, scale]);
  // A model that is one node with nothing to its place is the placement itself.
  const isPlain = !top.listChildren().length && isSame(top.getMatrix(), identity) && !hasSkin(top);
  const body = isPlain ? null : copy(top);
  if (body) root.addChild(body);
  else {
    root.setMesh(top.getMesh() && meshOf(top.getMesh()!)).setWeights(top.getWeights());
    copies.set(top, root);
  }
  for (const [node, made] of skinned) {
    const skin = node.getSkin()!;
    let own = skins.get(skin);
    if (!own) {
      own = document.createSkin(skin.getName()).setInverseBindMatrices(skin.getInverseBindMatrices()).setExtras(skin.getExtras());
      for (const joint of skin.listJoints()) own.addJoint(copies.get(joint) ?? joint);
      const skeleton = skin.getSkeleton();
      if (skeleton) own.setSkeleton(copies.get(skeleton) ?? skeleton);
      skins.set(skin, own);
    }
    made.setSkin(own);
  }
  for (const animation of animations) animate(document, animation, copies, skinned, name);
  root.setExtras({ ...root.getExtras(), model: inFile.model, coloring: inFile.coloring, ...(number !== undefined && { number }) });
  return [root, ...skinned.values()];
}

function animate(
  document: Document,
  animation: Animation,
  copies: ReadonlyMap<Node, Node>,
  skinned: ReadonlyMap<Node, Node>,
  name: string,
): void {
  const channels = animation.listChannels().filter((c) => c.getTargetNode() && copies.has(c.getTargetNode()!));
  if (!channels.length) return;
  const made = document.createAnimation([name, animation.getName()].filter(Boolean).join(', ')).setExtras(animation.getExtras());
  for (const channel of channels) {
    const from = channel.getSampler()!;
    const sampler = document
      .createAnimationSampler()
      .setInput(from.getInput())
      .setOutput(from.getOutput())
      .setInterpolation(from.getInterpolation());
    made.addSampler(sampler);
    const [node, path] = [channel.getTargetNode()!, channel.getTargetPath()!];
    // Weights belong to the mesh, and all else to the place.
    const target = (path === 'weights' ? skinned.get(node) : undefined) ?? copies.get(node)!;
    made.addChannel(document.createAnimationChannel().setTargetNode(target).setTargetPath(path).setSampler(sampler));
  }
}

/** Where a model's meshes stand in all of its placements; `null` where a place cannot be said by move, turn and scale. */
function instancesOf(document: Document, top: Node, placements: readonly Standing[], meshOf: (mesh: Mesh) => Mesh): Node | null {
  const extension = document.createExtension(EXTMeshGPUInstancing).setRequired(true);
  const buffer = document.getRoot().listBuffers()[0]!;
  const bodies: { node: Node; places: Place[] }[] = [];
  const visit = (node: Node, above: Matrix): boolean => {
    const matrix = multiply(above, node.getMatrix());
    if (node.getMesh()) {
      const places = placements.map((p) => placeOf(multiply(matrixOf(p), matrix)));
      if (!places.every((p): p is Place => p !== null)) return false;
      bodies.push({ node, places });
    }
    return node.listChildren().every((child) => visit(child, matrix));
  };
  if (!visit(top, identity)) return null;
  const root = document.createNode().setExtras({ placements: placements.map(({ inFile, number }) => ({ ...inFile, number })) });
  for (const { node, places } of bodies) {
    const list = (name: string, type: 'VEC3' | 'VEC4', of: (p: Place) => readonly number[]) =>
      document
        .createAccessor(name)
        .setType(type)
        .setBuffer(buffer)
        .setArray(Float32Array.from(places.flatMap((p) => [...of(p)])));
    const instances = extension
      .createInstancedMesh()
      .setAttribute(
        'TRANSLATION',
        list('moves', 'VEC3', (p) => p.move),
      )
      .setAttribute(
        'ROTATION',
        list('turns', 'VEC4', (p) => p.turn),
      )
      .setAttribute(
        'SCALE',
        list('sizes', 'VEC3', (p) => p.scale),
      );
    root.addChild(document.createNode(node.getName()).setMesh(meshOf(node.getMesh()!)).setExtension('EXT_mesh_gpu_instancing', instances));
  }
  return root;
}

interface Place {
  move: [number, number, number];
  turn: [number, number, number, number];
  scale: [number, number, number];
}

function placeOf(matrix: Matrix): Place | null {
  const place: Place = { move: [0, 0, 0], turn: [0, 0, 0, 1], scale: [1, 1, 1] };
  MathUtils.decompose(Array.from(matrix) as mat4, place.move, place.turn, place.scale);
  return isSame(MathUtils.compose(place.move, place.turn, place.scale, [...identity]), matrix) ? place : null;
}

const isSame = (a: readonly number[], b: Matrix): boolean => a.every((v, i) => Math.abs(v - b[i]!) < 1e-5);

function aboutVertical(degrees: number): [number, number, number, number] {
  const half = (degrees * Math.PI) / 360;
  return [0, rounded(Math.sin(half)), 0, rounded(Math.cos(half))];
}
/** Sines differ in the last digit from one machine to the next; files must not. */
const rounded = (v: number): number => Math.round(v * 1e12) / 1e12;

const matrixOf = ({ at, turn, scale }: Placement): mat4 => MathUtils.compose(at, aboutVertical(turn), [scale, scale, scale], [...identity]);

function grouped<T, K>(list: readonly T[], keyOf: (entry: T) => K): Map<K, T[]> {
  const groups = new Map<K, T[]>();
  for (const entry of list) {
    const group = groups.get(keyOf(entry));
    if (group) group.push(entry);
    else groups.set(keyOf(entry), [entry]);
  }
  return groups;
}

const aimsAt = (animation: Animation, top: Node): boolean => animation.listChannels().some((c) => isUnder(c.getTargetNode(), top));
function isUnder(node: Node | null, top: Node): boolean {
  for (let n = node; n; n = n.getParentNode()) if (n === top) return true;
  return false;
}
const hasSkin = (top: Node): boolean => top.getSkin() !== null || top.listChildren().some(hasSkin);

function disposeTree(node: Node): void {
  for (const child of node.listChildren()) disposeTree(child);
  node.getSkin()?.dispose();
  node.dispose();
}
