import { edgeLength, type Adjacency } from '../mesh/adjacency';
import type { PolyMesh } from '../mesh/polyMesh';
import type { Flags } from './change';

/** The corner that stands for an edge: the lower one of the two that lie against each other. */
export function edgeCorner({ neighbour }: Adjacency, corner: number): number {
  const other = neighbour[corner]!;
  return other >= 0 && other < corner ? other : corner;
}

/**
 * Edges between picked faces and others, and open edges of picked faces; each as the corner that stands for
 * it, ascending.
 */
export function borderOf(adjacency: Adjacency, picked: Flags): Uint32Array {
  const { faceStart, neighbour, cornerFace } = adjacency;
  const out: number[] = [];
  for (let f = 0; f < picked.length; f++) {
    if (!picked[f]) continue;
    for (let c = faceStart[f]!; c < faceStart[f + 1]!; c++) {
      const d = neighbour[c]!;
      if (d < 0 || !picked[cornerFace[d]!]) out.push(edgeCorner(adjacency, c));
    }
  }
  return Uint32Array.from(out).sort();
}

/** Metres of edges together. */
export const lengthOfEdges = (mesh: PolyMesh, adjacency: Adjacency, edges: Uint32Array): number =>
  edges.reduce((sum, c) => sum + edgeLength(mesh, adjacency, c), 0);
