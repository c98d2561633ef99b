import { packIslands, piecesOn, type Packed, type Packing } from '@/core/islands/charts';
import { layOut, type LayingOut } from '@/core/islands/layOut';
import type { Piece } from '@/core/islands/pack';
import { layForPainting, type PaintLayout } from '@/core/islands/paintable';
import { stackLike } from '@/core/islands/stackLike';
import { texelsOf } from '@/core/islands/texels';
import type { Cell, Seats, Sheet } from '@/core/kit/kit';
import { adjacencyOf } from '@/core/shapes/mesh/adjacency';
import { triangulate } from '@/core/shapes/mesh/triangulate';
import { trianglesOfFaces, type Surface } from '@/core/islands/unwrap/chart';
import { stretchOn, type Stretch } from '@/core/islands/unwrap/stretch';
import { given, meshAt } from './meshes';

/** Faces that were laid flat on a cell. */
export interface LaidFlat {
  /** Faces that cannot lie flat without a cut, where none may be made: then nothing is laid. */
  closed: Uint32Array;
  /** Texels for each corner of the mesh, 2 each; of corners of other faces 0. */
  texels: Float32Array;
  /** Texels a metre; 0 where they found no room. */
  factor: number;
  /** Texels a metre of what lies there already, where they were to have as many; else 0. */
  density: number;
  islands: number;
  /** Edges that had to be cut, as `edgeCorner` gives them. */
  cuts: Uint32Array;
  flipped: number;
  overlapping: number;
}

const nothing = (): LaidFlat => ({
  closed: new Uint32Array(0),
  texels: new Float32Array(0),
  factor: 0,
  density: 0,
  islands: 0,
  cuts: new Uint32Array(0),
  flipped: 0,
  overlapping: 0,
});

export async function surfaceAt(address: string): Promise<Surface> {
  const mesh = await meshAt(address);
  const adjacency = adjacencyOf(mesh);
  return { mesh, adjacency, triangles: triangulate(mesh, adjacency.normals) };
}

/** What else lies on a cell: a model's mesh by its address, and its seats. */
export interface Lain {
  mesh: string;
  seats: Pick<Seats, 'cell' | 'at'>;
  /** The faces of it that are to be laid anew. */
  except?: Uint32Array;
}

/** How islands are packed, and beside what. */
export interface PackingAsked extends Omit<Packing, 'fixed' | 'most' | 'groups'> {
  sheet: Sheet;
  beside: Lain[];
  /** They come no larger than what lies there already, in texels a metre. */
  keepsDensity: boolean;
  /** Islands of one shape share their texels. */
  stacksLike: boolean;
  /** The group of each face. */
  groupOf?: ArrayLike<number>;
}

/** What lies on a cell, as one piece for each model, and its texels a metre; 0 where nothing does. */
async function lainOn(cell: Cell, { sheet, beside }: PackingAsked): Promise<{ fixed: Piece[]; density: number }> {
  const fixed: Piece[] = [];
  let [texelsAll, metresAll] = [0, 0];
  for (const { mesh: address, seats, except } of beside) {
    const anew = new Set(except);
    const faces = Uint32Array.from(seats.cell.keys()).filter((f) => seats.cell[f] === cell.id && !anew.has(f));
    if (!faces.length) continue;
    const { mesh, adjacency, triangles } = await surfaceAt(address);
    const texels = texelsOf(sheet, seats, mesh.faceStart, faces);
    fixed.push(...piecesOn(triangles, adjacency.areas.length, [faces], texels));
    const { density } = stretchOn(mesh, triangles, faces, texels, trianglesOfFaces(triangles, adjacency.areas.length));
    for (const f of faces) {
      texelsAll += density[f]! ** 2 * adjacency.areas[f]!;
      metresAll += density[f]! > 0 ? adjacency.areas[f]! : 0;
    }
  }
  return { fixed, density: metresAll > 0 ? Math.sqrt(texelsAll / metresAll) : 0 };
}

async function packed(
  surface: Surface,
  islands: Uint32Array[],
  places: Float32Array,
  cell: Cell,
  asked: PackingAsked,
  isInMetres: boolean,
): Promise<Packed & { density: number }> {
  const { sheet: _s, beside: _b, keepsDensity, stacksLike, groupOf, ...packing } = asked;
  const { fixed, density } = await lainOn(cell, asked);
  const own = stacksLike ? stackLike(islands, surface.mesh.faceStart, places) : { islands, places };
  const most = keepsDensity ? (isInMetres ? density : 1) : 0;
  const found = packIslands(surface, own.islands, own.places, cell, {
    ...packing,
    fixed,
    ...(most > 0 && { most }),
    ...(groupOf && { groups: own.islands.map((faces) => groupOf[faces[0]!]!) }),
  });
  return { ...found, density: keepsDensity ? density : 0 };
}

/** Laying faces flat and side by side, which takes its time. */
export const unwrapping = {
  async layForPainting(address: string, faces: Uint32Array, density: number, gap: number): Promise<PaintLayout> {
    return given(layForPainting(await surfaceAt(address), faces, density, gap));
  },

  async layOut(
    mesh: string,
    faces: Uint32Array,
    how: LayingOut,
    cell: Cell,
    asked: PackingAsked,
    onStep: (share: number) => void,
  ): Promise<LaidFlat> {
    const surface = await surfaceAt(mesh);
    const laid = layOut(surface, faces, how, (share) => onStep(share * 0.8));
    if ('closed' in laid) return given({ ...nothing(), closed: Uint32Array.from(laid.closed.flatMap((f) => [...f])) });
    onStep(0.8);
    const { cuts, flipped, overlapping, islands, places } = laid;
    const { texels, factor, density } = await packed(surface, islands, places, cell, asked, true);
    return given({ ...nothing(), texels, factor, density, islands: islands.length, cuts, flipped, overlapping });
  },

  /** `texels`: where corners lie, 2 each, at their numbers. */
  async stretchOn(mesh: string, faces: Uint32Array, texels: Float32Array): Promise<Stretch> {
    const own = await surfaceAt(mesh);
    return given(stretchOn(own.mesh, own.triangles, faces, texels, trianglesOfFaces(own.triangles, own.adjacency.areas.length)));
  },

  /** Lays islands side by side on their cell; `texels`: where their corners lie now. They grow only where density is not kept. */
  async packIslands(mesh: string, islands: Uint32Array[], texels: Float32Array, cell: Cell, asked: PackingAsked): Promise<Packed> {
    return given(await packed(await surfaceAt(mesh), islands, texels, cell, asked, false));
  },
};
