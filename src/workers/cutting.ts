import type { NamedFile } from '@/core/ground/bytes/fileKinds';
import { cutRings, type RingCut } from '@/core/shapes/cut/ringCut';
import { adjacencyOf } from '@/core/shapes/mesh/adjacency';
import { given, meshAt, newMesh } from './meshes';

/** Meshes with cuts in them. */
export const cutting = {
  /** A mesh cut along rings, and the faces that then lie between the cuts; the page keeps it. Throws as `cutRings` does. */
  async cutRings(id: string, files: NamedFile[], cuts: readonly RingCut[]) {
    const mesh = await meshAt(id);
    const { mesh: cut, origins, changed, bands } = cutRings(mesh, adjacencyOf(mesh), cuts);
    return given({ ...(await newMesh(cut, files)), origins, changed, bands });
  },
};
