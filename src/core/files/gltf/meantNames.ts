import type { Node } from '@gltf-transform/core';
import type { LeaveOptions } from '../../kit/leaveOptions';
import type { PolyMesh } from '../../shapes/mesh/polyMesh';

/** Words of modelling programs and exporters for what nobody named: such a name tells nothing of the node. */
const anyThing = new Set(
  (
    'a an and of the my new default unnamed untitled null empty dummy ' +
    'box cube capsule circle cone curve cylinder icosphere line plane poly polygon quad sphere surface torus tri vertices ' +
    'mesh geo geometry obj object model shape primitive prim part piece ' +
    'node root scene group grp item instance entity layer locator transform xform container path axis ' +
    'gltf glb export exported import imported'
  ).split(' '),
);
/** Nodes whose names differ by a number alone: so many are numbered by a program. */
const mostNumbered = 8;

const stemOf = (name: string): string =>
  name
    .replace(/\.(obj|gl[bt]f?|stl|ply)\b/gi, ' ')
    .replace(/(\p{Ll})(?=\p{Lu})/gu, '$1 ')
    .replace(/[^\p{L}]+/gu, ' ')
    .trim()
    .toLowerCase();

/** Whether someone gave a name, for all that it says: it has a word that is not a program's own. */
export function looksMeant(name: string): boolean {
  const isCode = /^[0-9a-f]{8}-?[0-9a-f-]{8,}$/i.test(name) || /\.\d{3,}$/.test(name);
  return (
    !isCode &&
    stemOf(name)
      .split(' ')
      .some((word) => word.length > 1 && !anyThing.has(word))
  );
}

/**
 * The nodes of a model that are kept for their names, though nothing moves them in the file: those whose names look
 * meant, all that have one, or none. What many share but for a number is a program's numbering.
 */
export function keptNodes(nodes: readonly Node[], which: LeaveOptions['nodes']): Set<Node> {
  if (which === 'joined') return new Set();
  const numbers = new Map<string, number>();
  for (const node of nodes) numbers.set(stemOf(node.getName()), (numbers.get(stemOf(node.getName())) ?? 0) + 1);
  const isMeant = (node: Node) => looksMeant(node.getName()) && numbers.get(stemOf(node.getName()))! <= mostNumbered;
  return new Set(nodes.filter((n) => (which === 'named' ? n.getName() !== '' : isMeant(n))));
}

/** Which nodes of a model stay: of one that was read before it was told how they join, none do, as its draw calls are counted. */
export const nodesToKeep = ({ source }: Pick<PolyMesh, 'source'>, which: LeaveOptions['nodes']): LeaveOptions['nodes'] =>
  source?.primitives?.some((p) => p.apart) ? which : 'joined';
