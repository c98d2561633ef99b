import type { NamedFile } from '@/core/ground/bytes/fileKinds';
import { gpuVertices } from '@/core/files/budget/tally';
import { cutModel, type CutWish } from '@/core/shapes/cut/cutModel';
import { dissolve } from '@/core/shapes/dissolve/dissolve';
import type { OnFaces } from '@/core/shapes/dissolve/partingEdges';
import { adjacencyOf, nextCorner } from '@/core/shapes/mesh/adjacency';
import { faceCount, triangleCount, type PolyMesh } from '@/core/shapes/mesh/polyMesh';
import { given, meshAt, newMesh } from './meshes';

/** Edges that part nothing, and what goes with them. */
export interface IdleEdges {
  edges: number;
  /** Ends of those edges, 6 numbers for each. */
  lines: Float32Array;
  triangles: number;
  gpuVertices: number;
}

/** Meshes with cuts in them, and without edges that part nothing. */
export const cutting = {
  /** A mesh that is cut, and the faces that then lie between the cuts; the page keeps it. Throws as `cutModel` does. */
  async cut(id: string, files: NamedFile[], wish: CutWish) {
    const mesh = await meshAt(id);
    const { mesh: cut, origins, changed, between } = cutModel(mesh, adjacencyOf(mesh), wish);
    return given({ ...(await newMesh(cut, files)), origins, changed, between });
  },

  /** What `withoutIdleEdges` would take away. Throws as `dissolve` does. */
  async idleEdges(id: string, on: OnFaces, angle: number): Promise<IdleEdges> {
    const mesh = await meshAt(id);
    const adjacency = adjacencyOf(mesh);
    const { mesh: after, origins, edges } = dissolve(mesh, adjacency, on, angle);
    const ends = Array.from(edges, (c) => [c, nextCorner(adjacency, c)]).flat();
    const lines = Float32Array.from(ends.flatMap((c) => [0, 1, 2].map((k) => mesh.positions[mesh.cornerVertex[c]! * 3 + k]!)));
    const looksAfter = origins.from.map((f) => on.looks[f]!);
    return given({
      edges: edges.length,
      lines,
      triangles: triangleCount(mesh) - triangleCount(after),
      gpuVertices: verticesDrawn(mesh, on.looks) - verticesDrawn(after, looksAfter),
    });
  },

  /** A mesh without the edges that part nothing; the page keeps it. Throws as `dissolve` does. */
  async withoutIdleEdges(id: string, files: NamedFile[], on: OnFaces, angle: number) {
    const mesh = await meshAt(id);
    const { mesh: after, origins, changed } = dissolve(mesh, adjacencyOf(mesh), on, angle);
    return given({ ...(await newMesh(after, files)), origins, changed });
  },
};

/** Vertices on the graphics card where faces of one look sit at one place of the sheet. */
function verticesDrawn(mesh: PolyMesh, looks: ArrayLike<number>): number {
  const places = new Float32Array(mesh.cornerVertex.length * 2);
  const faces = faceCount(mesh);
  for (let f = 0; f < faces; f++) for (let c = mesh.faceStart[f]!; c < mesh.faceStart[f + 1]!; c++) places[c * 2] = looks[f]!;
  return gpuVertices(
    mesh,
    Array.from({ length: faces }, (_, f) => f),
    places,
    adjacencyOf(mesh).normals,
  );
}
