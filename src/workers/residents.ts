import { decodePicture } from '@/core/io/decodePicture';
import type { NamedFile } from '@/core/io/fileKinds';
import { openGltf } from '@/core/io/gltf/openGltf';
import { probePicture } from '@/core/io/picture';
import { type Adjacency, adjacencyOf } from '@/core/mesh/adjacency';
import { type PictureStack, colorsAsRead, stackPictures } from '@/core/mesh/colorsAsRead';
import { type Bounds, boundsOf } from '@/core/mesh/measure';
import type { PolyMesh } from '@/core/mesh/polyMesh';
import { type Triangles, triangulate } from '@/core/mesh/triangulate';
import { type ProposedAngles, proposeAngles } from '@/core/pick/proposeAngles';
import type { Raster } from '@/core/sheet/raster';
import type { RasterInput } from '@/core/view/rasterFaces';
import type { MeshBVH } from 'three-mesh-bvh';
import { codecs, pictureDecoder } from './codecs';
import { buildTree } from './rays';

/** A mesh with all that the page needs to show it and to pick on it. */
export interface LoadedMesh {
  id: string;
  mesh: PolyMesh;
  adjacency: Adjacency;
  triangles: Triangles;
  bounds: Bounds;
  angles: ProposedAngles;
  /** The color that each face came in with, 4 bytes, and the pictures. */
  asRead: Uint8Array;
  pictures: PictureStack | null;
}

/** What a view leaves out: faces that are hidden, and what lies before a plane. */
export interface Shown {
  hidden: Uint8Array | null;
  cut: { axis: 0 | 1 | 2; offset: number } | null;
  /** Faces turned to the eye are left out, so that those behind show. */
  behind?: boolean;
}

/** What the worker keeps of a mesh. */
export interface Resident {
  loaded: LoadedMesh;
  bvh?: MeshBVH;
  visible?: Float32Array;
  /** What is not shown, and must not be met. */
  shown?: Shown;
}
export const residents = new Map<string, Resident>();
/** The tree for rays, built when the first one is cast. */
export const treeOf = (resident: Resident): MeshBVH => (resident.bvh ??= buildTree(resident.loaded));
/** Keeps a mesh in this worker. */
export function settle(id: string, mesh: PolyMesh, pictures: Map<string, Raster>): Resident {
  const adjacency = adjacencyOf(mesh);
  const triangles = triangulate(mesh, adjacency.normals);
  const stack = stackPictures(mesh, pictures);
  const resident: Resident = {
    loaded: {
      id,
      mesh,
      adjacency,
      triangles,
      bounds: boundsOf(mesh),
      angles: proposeAngles(adjacency),
      asRead: colorsAsRead(mesh, pictures, stack?.names),
      pictures: stack,
    },
  };
  residents.set(id, resident);
  return resident;
}

/** A mesh as rasters need it. */
export function rasterInputOf({ mesh, triangles }: LoadedMesh): RasterInput {
  return {
    positions: mesh.positions,
    triangleVertices: triangles.corners.map((c) => mesh.cornerVertex[c]!),
    triangleFace: triangles.face,
  };
}

/** Pictures that the platform can decode, by lower-case name; others are passed over. */
export async function readPictures(files: NamedFile[]): Promise<Map<string, Raster>> {
  const out = new Map<string, Raster>();
  for (const { name, bytes } of files) {
    try {
      if (/\.(png|jpe?g|webp)$/i.test(name)) {
        await pictureDecoder();
        out.set(name.toLowerCase(), decodePicture(name, bytes));
      } else if (/\.(gltf|glb)$/i.test(name)) for (const [n, raster] of await gltfPictures(name, bytes, files)) out.set(n, raster);
    } catch (error) {
      console.warn(`The picture “${name}” cannot be shown.`, error);
    }
  }
  return out;
}

async function gltfPictures(name: string, bytes: Uint8Array, files: NamedFile[]): Promise<[string, Raster][]> {
  const { document } = await openGltf(name, bytes, new Map(files.map((f) => [f.name, f.bytes])), codecs);
  const out: [string, Raster][] = [];
  for (const [i, material] of document.getRoot().listMaterials().entries()) {
    const texture = material.getBaseColorTexture();
    const image = texture?.getImage();
    if (!texture || !image) continue;
    if (!probePicture(image)) continue;
    await pictureDecoder();
    const raster = decodePicture(texture.getName() || name, image);
    out.push([(texture.getName() || texture.getURI() || `picture ${i + 1}`).toLowerCase(), raster]);
  }
  return out;
}
