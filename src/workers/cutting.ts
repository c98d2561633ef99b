import type { NamedFile } from '@/core/ground/bytes/fileKinds';
import { cutModel, type CutWish } from '@/core/shapes/cut/cutModel';
import { adjacencyOf } from '@/core/shapes/mesh/adjacency';
import { given, meshAt, newMesh } from './meshes';

/** Meshes with cuts in them. */
export const cutting = {
  /** A mesh that is cut, and the faces that then lie between the cuts; the page keeps it. Throws as `cutModel` does. */
  async cut(id: string, files: NamedFile[], wish: CutWish) {
    const mesh = await meshAt(id);
    const { mesh: cut, origins, changed, between } = cutModel(mesh, adjacencyOf(mesh), wish);
    return given({ ...(await newMesh(cut, files)), origins, changed, between });
  },
};
