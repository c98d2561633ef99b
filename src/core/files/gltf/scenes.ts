import type { Document, Node } from '@gltf-transform/core';

/**
 * The nodes at the top of what a file shows: of its default scene, else of all its scenes, else all that have
 * no parent.
 */
export function shownRoots(document: Document): Node[] {
  const root = document.getRoot();
  const scenes = root.getDefaultScene() ? [root.getDefaultScene()!] : root.listScenes();
  if (scenes.length) return [...new Set(scenes.flatMap((s) => s.listChildren()))];
  return root.listNodes().filter((n) => !n.getParentNode());
}

/** All nodes that a file shows. */
export function shownNodes(document: Document): Set<Node> {
  const shown = new Set<Node>();
  for (const top of shownRoots(document)) top.traverse((node) => shown.add(node));
  return shown;
}

/** The shown nodes that carry meshes, in the order of the file. */
export function meshNodes(document: Document): Node[] {
  const shown = shownNodes(document);
  return document
    .getRoot()
    .listNodes()
    .filter((n) => shown.has(n) && n.getMesh());
}
