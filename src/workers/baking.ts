import { Triangle, Vector3 } from 'three';
import { colorsOnFaces } from '@/core/files/bake/colorsOnFaces';
import { fillLayout, type ColorAt, type LayoutSize } from '@/core/files/bake/fillLayout';
import type { NamedFile } from '@/core/ground/bytes/fileKinds';
import { encodePng } from '@/core/ground/pictures/png';
import type { Kit, Seats } from '@/core/kit/kit';
import type { PolyMesh } from '@/core/shapes/mesh/polyMesh';
import { triangulate, type Triangles } from '@/core/shapes/mesh/triangulate';
import type { Pictures } from '@/core/ground/pictures/raster';
import { given, meshAt, picturesOf } from './meshes';
import { openPictures, type PictureFile } from './pictures';
import { buildTree } from './rays';

/** A model whose colors are filled in: its mesh by its address, and its seats. */
export interface Baked {
  mesh: string;
  seats: Seats;
  /** Its files, for the pictures that it came with. */
  files: NamedFile[];
}

/** A picture for a model's own UVs. */
export interface BakedPicture {
  png: Uint8Array;
  /** Texels that faces of different colors share, ascending, and two of the faces of each. */
  clashTexels: Uint32Array;
  clashFaces: Uint32Array;
  /** All faces that share such texels. */
  faces: Uint32Array;
  thin: number;
}

/** Colors out of what lies nearest on the surface of another model. */
function nearestColors(mesh: PolyMesh, triangles: Triangles, other: { mesh: PolyMesh; triangles: Triangles; colors: ColorAt }): ColorAt {
  const tree = buildTree(other);
  const place = new Vector3();
  const corner = (own: PolyMesh, c: number, to = new Vector3()) => to.fromArray(own.positions, own.cornerVertex[c]! * 3);
  const three = [new Vector3(), new Vector3(), new Vector3()] as const;
  const shares = new Vector3();
  return (t, ...own) => {
    place.set(0, 0, 0);
    own.forEach((share, k) => place.addScaledVector(corner(mesh, triangles.corners[t * 3 + k]!), share));
    const hit = tree.closestPointToPoint(place);
    if (!hit) return [0, 0, 0, 0];
    three.forEach((v, k) => corner(other.mesh, other.triangles.corners[hit.faceIndex * 3 + k]!, v));
    const { x, y, z } = Triangle.getBarycoord(hit.point, ...three, shares) ?? shares.set(1, 0, 0);
    return other.colors(hit.faceIndex, x, y, z);
  };
}

async function colored(kit: Kit, { mesh: address, seats, files }: Baked, pictures: Pictures) {
  const mesh = await meshAt(address);
  const triangles = triangulate(mesh);
  return { mesh, triangles, colors: colorsOnFaces(kit, mesh, seats, triangles, pictures, await picturesOf(files)) };
}

/** Pictures of a prescribed layout. */
export const baking = {
  /** Fills the layout of a model's own UVs with its colors, or with those nearest on `from`. */
  async bakeLayout(kit: Kit, model: Baked, from: Baked | null, files: PictureFile[], size: LayoutSize): Promise<BakedPicture> {
    const pictures: Pictures = new Map([...(await openPictures(files))].map(([address, { raster }]) => [address, raster]));
    const own = await colored(kit, model, pictures);
    const colors = from ? nearestColors(own.mesh, own.triangles, await colored(kit, from, pictures)) : own.colors;
    const { raster, clashes, thin } = fillLayout(own.mesh, own.triangles, size, colors);
    const texels = Uint32Array.from(clashes.keys()).sort();
    const pairs = Uint32Array.from([...texels].flatMap((at) => [...clashes.get(at)!].slice(0, 2)));
    const faces = Uint32Array.from(new Set([...clashes.values()].flatMap((s) => [...s]))).sort();
    return given({ png: encodePng(raster), clashTexels: texels, clashFaces: pairs, faces, thin });
  },
};
