import type { Adjacency } from '../mesh/adjacency';
import type { PolyMesh } from '../mesh/polyMesh';
import { pointOf, type FaceCut } from './facePlaces';

/** Cuts as segments, 6 numbers for each: metres, in the mesh's frame. */
export function linesOfCuts(mesh: PolyMesh, adjacency: Adjacency, cuts: readonly FaceCut[]): Float32Array {
  const lines = cuts.flatMap(({ from, to, via = [] }) => {
    const way = [from, ...via, to].map((place) => pointOf(mesh, adjacency, place));
    return way.slice(1).flatMap((p, i) => [...way[i]!, ...p]);
  });
  return Float32Array.from(lines);
}
