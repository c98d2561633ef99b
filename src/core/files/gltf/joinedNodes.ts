import type { Document } from '@gltf-transform/core';
import { count } from '../../ground/words';
import { shownNodes } from './scenes';

const mostNames = 12;

/** Nodes that the file had by name and that are not in what leaves: their meshes were joined with others. */
export function joinedNodes(source: Document, written: Document): string[] {
  const there = new Set(
    written
      .getRoot()
      .listNodes()
      .map((n) => n.getName()),
  );
  const gone = [...shownNodes(source)].map((n) => n.getName()).filter((name) => name && !there.has(name));
  if (!gone.length) return [];
  const told = gone.slice(0, mostNames).join(', ');
  const more = gone.length > mostNames ? ` and ${gone.length - mostNames} more` : '';
  return [`${count(gone.length, 'node')} by name, joined with others for fewer draw calls: ${told}${more}.`];
}
