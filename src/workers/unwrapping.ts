import { packIslands, type Packed, type Packing } from '@/core/islands/charts';
import { layOut, type LayingOut } from '@/core/islands/layOut';
import type { Cell } from '@/core/kit/kit';
import { adjacencyOf } from '@/core/mesh/adjacency';
import { triangulate } from '@/core/mesh/triangulate';
import { trianglesOfFaces, type Surface } from '@/core/unwrap/chart';
import { stretchOn, type Stretch } from '@/core/unwrap/stretch';
import { given, meshAt } from './meshes';

/** Faces that were laid flat on a cell. */
export interface LaidFlat {
  /** Faces that cannot lie flat without a cut, where none may be made: then nothing is laid. */
  closed: Uint32Array;
  /** Texels for each corner of the mesh, 2 each; of corners of other faces 0. */
  texels: Float32Array;
  islands: number;
  /** Edges that had to be cut, as `edgeCorner` gives them. */
  cuts: Uint32Array;
  flipped: number;
  overlapping: number;
}

const nothing = (): LaidFlat => ({
  closed: new Uint32Array(0),
  texels: new Float32Array(0),
  islands: 0,
  cuts: new Uint32Array(0),
  flipped: 0,
  overlapping: 0,
});

async function surfaceAt(address: string): Promise<Surface> {
  const mesh = await meshAt(address);
  const adjacency = adjacencyOf(mesh);
  return { mesh, adjacency, triangles: triangulate(mesh, adjacency.normals) };
}

/** Laying faces flat and side by side, which takes its time. */
export const unwrapping = {
  async layOut(
    mesh: string,
    faces: Uint32Array,
    how: LayingOut,
    cell: Cell,
    packing: Packing,
    onStep: (share: number) => void,
  ): Promise<LaidFlat> {
    const surface = await surfaceAt(mesh);
    const laid = layOut(surface, faces, how, (share) => onStep(share * 0.8));
    if ('closed' in laid) return given({ ...nothing(), closed: Uint32Array.from(laid.closed.flatMap((f) => [...f])) });
    onStep(0.8);
    const { cuts, flipped, overlapping, islands, places } = laid;
    const { texels } = packIslands(surface, islands, places, cell, packing);
    return given({ ...nothing(), texels, islands: islands.length, cuts, flipped, overlapping });
  },

  /** `texels`: where corners lie, 2 each, at their numbers. */
  async stretchOn(mesh: string, faces: Uint32Array, texels: Float32Array): Promise<Stretch> {
    const own = await surfaceAt(mesh);
    return given(stretchOn(own.mesh, own.triangles, faces, texels, trianglesOfFaces(own.triangles, own.adjacency.areas.length)));
  },

  /** Lays islands side by side on their cell; `texels`: where their corners lie now. */
  async packIslands(mesh: string, islands: Uint32Array[], texels: Float32Array, cell: Cell, packing: Packing): Promise<Packed> {
    return given(packIslands(await surfaceAt(mesh), islands, texels, cell, packing));
  },
};
