import { nextCorner, type Adjacency } from '../mesh/adjacency';
import type { PolyMesh } from '../mesh/polyMesh';
import type { FaceCut, OutlinePlace } from './cutFaces';

/** Cuts as segments, 6 numbers for each: metres, in the mesh's frame. */
export function linesOfCuts({ positions, cornerVertex }: PolyMesh, adjacency: Adjacency, cuts: readonly FaceCut[]): Float32Array {
  const place = ({ corner, share }: OutlinePlace): number[] => {
    const [a, b] = [cornerVertex[corner]! * 3, cornerVertex[nextCorner(adjacency, corner)]! * 3];
    return [0, 1, 2].map((k) => positions[a + k]! + (positions[b + k]! - positions[a + k]!) * share);
  };
  return Float32Array.from(cuts.flatMap(({ from, to }) => [...place(from), ...place(to)]));
}
