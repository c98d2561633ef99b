import { boundsOf } from '../../shapes/mesh/measure';
import type { PolyMesh } from '../../shapes/mesh/polyMesh';
import { adjacencyOf } from '../../shapes/mesh/adjacency';
import { triangulate } from '../../shapes/mesh/triangulate';
import { remembered } from '../../ground/remembered';
import { rasterFaces, rasterInputOf } from '../../shapes/view/rasterFaces';
import { framingMatrix } from '../../shapes/view/thumbnail';

/** A game looks from a little above, from all around. */
const directions = Array.from({ length: 8 }, (_, i) => [Math.sin((i * Math.PI) / 4), 0.5, Math.cos((i * Math.PI) / 4)]);

/** Pairs of faces that are seen side by side, and along how many pixels: over eight directions, each pair once. */
export interface BordersInView {
  first: Uint32Array;
  /** `nothing` where the model ends. */
  second: Uint32Array;
  pixels: Uint32Array;
}

export const nothing = 0xffffffff;

const known = remembered((_mesh: PolyMesh): { size: number; borders?: BordersInView } => ({ size: 0 }));

/** What lies beside what where a model is seen at so many pixels each way. Kept with the mesh, for the last size asked for. */
export function bordersInView(mesh: PolyMesh, size: number): BordersInView {
  const kept = known(mesh);
  if (kept.size !== size || !kept.borders) Object.assign(kept, { size, borders: look(mesh, size) });
  return kept.borders!;
}

/** Method: faces are drawn by their numbers, and pixels that lie beside each other are counted. */
function look(mesh: PolyMesh, size: number): BordersInView {
  const input = rasterInputOf(mesh, triangulate(mesh, adjacencyOf(mesh).normals));
  const bounds = boundsOf(mesh);
  const counts = new Map<number, number>();
  const width = 2 ** 26;
  const meet = (a: number, b: number) => {
    if (a === b) return;
    // The background, -1, is 0 here.
    const key = Math.max(a + 1, b + 1) * width + Math.min(a + 1, b + 1);
    counts.set(key, (counts.get(key) ?? 0) + 1);
  };
  for (const from of directions) {
    const { faces } = rasterFaces(input, framingMatrix(bounds, 1.12, from), size, size);
    for (let y = 0; y < size; y++)
      for (let x = 0; x < size; x++) {
        const at = y * size + x;
        if (x + 1 < size) meet(faces[at]!, faces[at + 1]!);
        if (y + 1 < size) meet(faces[at]!, faces[at + size]!);
      }
  }
  const keys = Float64Array.from(counts.keys());
  return {
    first: Uint32Array.from(keys, (key) => Math.floor(key / width) - 1),
    second: Uint32Array.from(keys, (key) => (key % width === 0 ? nothing : (key % width) - 1)),
    pixels: Uint32Array.from(counts.values()),
  };
}
