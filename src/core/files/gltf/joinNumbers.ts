import type { Document, Node, Primitive } from '@gltf-transform/core';
import { shownNodes } from './scenes';

/** What moves by itself: joints, and nodes that an animation moves, each with all that hangs on it. */
export function movers(document: Document): Set<Node> {
  const root = document.getRoot();
  const moving = new Set(root.listSkins().flatMap((skin) => skin.listJoints()));
  for (const animation of root.listAnimations())
    for (const channel of animation.listChannels()) {
      const node = channel.getTargetNode();
      if (node && channel.getTargetPath() !== 'weights') moving.add(node);
    }
  return moving;
}

/**
 * What a node's mesh can be joined with, as a name: meshes under the same node that moves or is kept (or under none), and
 * meshes of one skin, whose nodes' transforms do not count. Morphing meshes, instanced ones, and those that
 * another scene shows as well stay alone.
 */
export function anchorsOf(document: Document, kept: ReadonlySet<Node> = new Set()): (node: Node) => { key: string; under: Node | null } {
  const root = document.getRoot();
  const index = new Map<unknown, number>([...root.listNodes(), ...root.listSkins()].map((p, i) => [p, i]));
  const moving = movers(document);
  const shown = shownNodes(document);
  const elsewhere = new Set<Node>();
  const main = root.getDefaultScene();
  if (main) for (const scene of root.listScenes()) if (scene !== main) scene.traverse((n) => shown.has(n) && elsewhere.add(n));
  return (node) => {
    const mesh = node.getMesh()!;
    const skin = node.getSkin();
    const isAlone =
      elsewhere.has(node) ||
      node.getExtension('EXT_mesh_gpu_instancing') !== null ||
      mesh.listPrimitives().some((p) => p.listTargets().length > 0);
    if (isAlone) return { key: `node ${index.get(node)}`, under: null };
    if (skin) return { key: `skin ${index.get(skin)}`, under: null };
    let under: Node | null = node;
    while (under && !moving.has(under) && !kept.has(under)) under = under.getParentNode();
    return { key: under ? `under ${index.get(under)}` : 'top', under };
  };
}

/** Numbers that are equal for primitives that can leave as one draw call; see `SourcePrimitive.joins`. */
export function joinNumbers(
  document: Document,
  kept?: ReadonlySet<Node>,
): (node: Node, primitive: Primitive) => { colored: number; bare: number } {
  const anchorOf = anchorsOf(document, kept);
  const numbers = new Map<string, number>();
  const numberOf = (key: string) => {
    if (!numbers.has(key)) numbers.set(key, numbers.size);
    return numbers.get(key)!;
  };
  return (node, primitive) => {
    const { key } = anchorOf(node);
    const layout = layoutOf(primitive, primitive.listSemantics());
    // Volumes are measured in the space of their node.
    const isVolume = primitive.getMaterial()?.getExtension('KHR_materials_volume');
    return {
      colored: numberOf(`${key} ${layoutOf(primitive, coloredSemantics(primitive))}`),
      bare: numberOf(isVolume ? `volume ${numbers.size}` : `${key} ${layout}`),
    };
  };
}

/** What primitives must have in common to become one: attributes of equal width, and morph targets. */
export function layoutOf(primitive: Primitive, semantics: readonly string[]): string {
  const own = [...semantics].sort().map((s) => `${s}${primitive.getAttribute(s)!.getElementSize()}`);
  return [...own, ...primitive.listTargets().map((t) => t.listSemantics().sort().join('+'))].join(' ');
}

/**
 * Attributes that faces on a cell keep: the sheet reads its own UVs and nothing else. Attributes of the
 * file's own (with an underscore) stay.
 */
export const coloredSemantics = (primitive: Primitive): string[] =>
  primitive.listSemantics().filter((s) => /^(POSITION|NORMAL|JOINTS_\d+|WEIGHTS_\d+|_.*)$/.test(s));
