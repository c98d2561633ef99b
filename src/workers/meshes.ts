import * as Comlink from 'comlink';
import type { NamedFile } from '@/core/ground/bytes/fileKinds';
import { contentAddress, pack, unpack } from '@/core/ground/bytes/pack';
import { readPictures } from '@/core/files/formats/readPictures';
import { adjacencyOf } from '@/core/shapes/mesh/adjacency';
import { checkMesh } from '@/core/shapes/mesh/checkMesh';
import { colorsAsRead, stackPictures } from '@/core/faces/seat/colorsAsRead';
import { boundsOf } from '@/core/shapes/mesh/measure';
import type { PolyMesh } from '@/core/shapes/mesh/polyMesh';
import { triangulate } from '@/core/shapes/mesh/triangulate';
import { proposeAngles } from '@/core/shapes/pick/proposeAngles';
import type { Raster } from '@/core/ground/pictures/raster';
import { readBlob } from '@/data/blobs';
import { codecs, pictureDecoder } from './codecs';
import type { LoadedMesh } from './residents';

/** All that the page needs of a mesh. `onStep` is told which share of the work is done. */
export function prepareMesh(
  id: string,
  mesh: PolyMesh,
  pictures: Map<string, Raster>,
  onStep: (share: number) => void = () => undefined,
): LoadedMesh {
  const adjacency = adjacencyOf(mesh);
  onStep(0.5);
  const triangles = triangulate(mesh, adjacency.normals);
  onStep(0.7);
  const angles = proposeAngles(adjacency);
  onStep(0.8);
  const stack = stackPictures(mesh, pictures);
  const asRead = colorsAsRead(mesh, pictures, stack?.names);
  return { id, mesh, adjacency, triangles, bounds: boundsOf(mesh), angles, asRead, pictures: stack };
}

/** A mesh that was made here: as it is kept, and all that the page needs of it. */
export async function newMesh(mesh: PolyMesh, files: NamedFile[]): Promise<{ address: string; packed: Uint8Array; loaded: LoadedMesh }> {
  const packed = pack(mesh);
  const address = await contentAddress(packed);
  return { address, packed, loaded: prepareMesh(address, unpack(packed) as PolyMesh, await picturesOf(files)) };
}

/** A value that leaves for the page without a copy: its arrays are empty here from then on. */
export function given<T>(value: T): T {
  const buffers = new Set<ArrayBuffer>();
  const look = (v: unknown): void => {
    if (ArrayBuffer.isView(v)) buffers.add(v.buffer as ArrayBuffer);
    else if (v && typeof v === 'object') Object.values(v).forEach(look);
  };
  look(value);
  return Comlink.transfer(value, [...buffers]);
}

/** A mesh out of the storage of this browser, all its arrays checked. Throws where it is missing or broken. */
export const readMesh = async (address: string): Promise<PolyMesh> => checkMesh(unpack(await readBlob(address)));

/** Corners of the meshes that are kept at most for what is asked of them next. */
const mostCorners = 4_000_000;
const lately = new Map<string, PolyMesh>();

/** The same, kept for a while: what leaves is asked for again and again. */
export async function meshAt(address: string): Promise<PolyMesh> {
  const mesh = lately.get(address) ?? (await readMesh(address));
  lately.delete(address);
  lately.set(address, mesh);
  let corners = [...lately.values()].reduce((n, m) => n + m.cornerVertex.length, 0);
  for (const [id, { cornerVertex }] of lately) {
    if (corners <= mostCorners || id === address) break;
    lately.delete(id);
    corners -= cornerVertex.length;
  }
  return mesh;
}

export const picturesOf = (files: readonly NamedFile[]): Promise<Map<string, Raster>> => readPictures(files, codecs, pictureDecoder);
