import type { Adjacency } from '@/core/shapes/mesh/adjacency';
import type { PictureStack } from '@/core/faces/seat/colorsAsRead';
import type { Bounds } from '@/core/shapes/mesh/measure';
import type { PolyMesh } from '@/core/shapes/mesh/polyMesh';
import type { Triangles } from '@/core/shapes/mesh/triangulate';
import type { ProposedAngles } from '@/core/shapes/pick/proposeAngles';
import type { MeshBVH } from 'three-mesh-bvh';
import { buildTree, type Shown } from './rays';

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

/** What the worker that picks keeps of a mesh. */
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
