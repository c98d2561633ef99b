import * as Comlink from 'comlink';
import { faceCount } from '@/core/shapes/mesh/polyMesh';
import { type Brush, facesThroughBrush } from '@/core/shapes/pick/brush';
import { type Missed, missedFaces, ringsFrom } from '@/core/shapes/pick/change';
import { likeFaces, likenessOf, type Likeness, type LikeOptions } from '@/core/shapes/pick/likeParts';
import { type Outline, projectVertices } from '@/core/shapes/pick/outline';
import { isNearEdge, nearestCorner, nearestEdge } from '@/core/shapes/pick/ring';
import { type PickRequest, facesOf } from '@/core/shapes/pick/scopes';
import { type MirrorPlane, type Symmetry, mirrorPlanes, twinsAcross } from '@/core/shapes/pick/symmetry';
import { runOf } from '@/core/faces/seat/layAlong';
import type { Laying } from '@/core/kit/laying/seatRule';
import type { PresentView } from '@/core/shapes/view/presentView';
import { rasterInputOf, type FaceRaster } from '@/core/shapes/view/rasterFaces';
import { estimatedVisibleArea } from '@/core/shapes/view/estimatedVisibleArea';
import { pathBetween } from '@/core/islands/unwrap/edgePath';
import { Ray, Vector3 } from 'three';
import { type Reach, facesThrough, rasterOf, seenFaces, smallFacesInOutline } from './facesInOutline';
import { allShown, findHiddenFaces, firstShown, type Shown } from './rays';
import { type LoadedMesh, residents, treeOf } from './residents';

/** What a ray meets: a face, and the numbers of its nearest edge and corner. */
export interface Hit {
  face: number;
  edge: number;
  corner: number;
  /** Where, metres. */
  point: [number, number, number];
  /** Whether it lies so near that edge that this one is meant. */
  isNearEdge: boolean;
}

/** Meshes whose never-seen faces are no longer asked for. */
const stopped = new Set<string>();

/** What rays, rasters and floods tell of a mesh. */
export const picking = {
  /** Keeps a mesh for all that follows. */
  keep(loaded: LoadedMesh): void {
    residents.set(loaded.id, { loaded });
  },

  forget(id: string): void {
    residents.delete(id);
  },

  /**
   * The face that a ray meets first, and which of its edges and corners are nearest; `null` where there is
   * none. World coordinates in metres.
   */
  faceAt(id: string, origin: [number, number, number], direction: [number, number, number]): Hit | null {
    const resident = residents.get(id);
    if (!resident) return null;
    const ray = new Ray(new Vector3(...origin), new Vector3(...direction));
    const hit = firstShown(treeOf(resident), ray, resident.loaded, resident.shown);
    if (hit?.faceIndex == null) return null;
    const { mesh, adjacency, triangles } = resident.loaded;
    const face = triangles.face[hit.faceIndex]!;
    const start = mesh.faceStart[face]!;
    const point = hit.point.toArray();
    const edge = nearestEdge(mesh, adjacency, face, point);
    return {
      face,
      point,
      edge: edge - start,
      corner: nearestCorner(mesh, adjacency, face, point) - start,
      isNearEdge: isNearEdge(mesh, adjacency, face, edge, point),
    };
  },

  /** Every face that a ray meets, the nearest first, each with its first point. */
  facesAlong(id: string, origin: [number, number, number], direction: [number, number, number]): Pick<Hit, 'face' | 'point'>[] {
    const resident = residents.get(id);
    if (!resident) return [];
    const { triangles } = resident.loaded;
    const hits = allShown(treeOf(resident), new Ray(new Vector3(...origin), new Vector3(...direction)), resident.loaded, resident.shown);
    const seen = new Set<number>();
    return hits.flatMap(({ faceIndex, point }) => {
      const face = triangles.face[faceIndex!]!;
      if (seen.has(face)) return [];
      seen.add(face);
      return [{ face, point: point.toArray() }];
    });
  },

  /** Floods that are too large for the page. */
  pick(id: string, cells: Uint16Array, seams: readonly number[], request: PickRequest): Uint32Array {
    const { loaded } = residents.get(id)!;
    const faces = facesOf({ mesh: loaded.mesh, adjacency: loaded.adjacency, cells, seams }, request)!;
    return Comlink.transfer(faces, [faces.buffer]);
  },

  /** The same faces on all parts that are like theirs. */
  likeFaces(id: string, faces: Uint32Array, options: LikeOptions): Uint32Array {
    const { mesh, adjacency } = residents.get(id)!.loaded;
    return likeFaces(mesh, adjacency, faces, options);
  },

  /** How many parts are like that of a face, and how far from it. */
  likeness(id: string, face: number, options: LikeOptions): Likeness {
    const { mesh, adjacency } = residents.get(id)!.loaded;
    return likenessOf(mesh, adjacency, face, options);
  },

  /** What a drag may have left out or taken by accident, on meshes too large for the page. */
  missedFaces(id: string, picked: Uint8Array): Missed {
    const { mesh, adjacency } = residents.get(id)!.loaded;
    return missedFaces(mesh, adjacency, picked);
  },

  /** Where corners lie along a run; see `runOf`. */
  runAlong(id: string, faces: Uint32Array, laying: Laying): Float32Array {
    const { mesh, adjacency } = residents.get(id)!.loaded;
    const run = runOf(mesh, adjacency, faces, laying);
    return Comlink.transfer(run, [run.buffer]);
  },

  /** The way along edges between corners; see `pathBetween`. */
  edgePath(id: string, from: readonly number[], to: readonly number[]): Uint32Array | null {
    const { mesh, adjacency } = residents.get(id)!.loaded;
    return pathBetween(mesh, adjacency, from, to);
  },

  /** How many rings each face lies from the pick, on such meshes. */
  ringsFrom: (id: string, picked: Uint8Array): Float32Array => ringsFrom(residents.get(id)!.loaded.adjacency, picked),

  /** From now on only what is shown is met by rays and outlines. */
  setShown(id: string, shown: Shown): void {
    const resident = residents.get(id);
    if (resident) resident.shown = shown;
  },

  mirrorPlanes(id: string, tolerance: number): (MirrorPlane & { share: number })[] {
    const { mesh, adjacency } = residents.get(id)!.loaded;
    return mirrorPlanes(mesh, adjacency, tolerance);
  },

  twinsAcross(id: string, plane: MirrorPlane, tolerance: number): Symmetry {
    const { mesh, adjacency } = residents.get(id)!.loaded;
    return twinsAcross(mesh, adjacency, plane, tolerance);
  },

  /** Which face owns each pixel under a camera. */
  faceRaster(id: string, view: PresentView): FaceRaster {
    const { loaded, shown } = residents.get(id)!;
    const raster = rasterOf(loaded, view, shown);
    return Comlink.transfer(raster, [raster.faces.buffer]);
  },

  /** All faces that an outline on the screen takes through the model. */
  facesThrough(id: string, view: PresentView, outline: Outline, reach: Reach): Uint32Array {
    const { loaded, shown } = residents.get(id)!;
    return facesThrough(loaded, view, outline, reach, shown);
  },

  /** Faces under a brush through the model, at each of its places. */
  brushThrough(id: string, view: PresentView, brush: Omit<Brush, 'x' | 'y'>, places: [number, number][]): number[] {
    const { mesh, adjacency } = residents.get(id)!.loaded;
    const { hidden } = residents.get(id)!.shown ?? {};
    const screen = projectVertices(mesh, view.matrix, view.width, view.height);
    const taken = new Set(places.flatMap(([x, y]) => facesThroughBrush(mesh, adjacency, screen, { ...brush, x, y }, view)));
    return [...taken].filter((f) => !hidden?.[f]);
  },

  /** Faces in an outline that own no pixel (`owns`: 1 for those that do) and are seen all the same. */
  smallFacesInOutline(id: string, view: PresentView, outline: Outline, reach: Reach, owns: Uint8Array): Uint32Array {
    const resident = residents.get(id)!;
    return smallFacesInOutline(resident.loaded, treeOf(resident), view, outline, reach, owns, resident.shown);
  },

  /** Those of some faces that are truly seen. */
  seenFaces(id: string, view: PresentView, faces: Uint32Array): Uint32Array {
    const resident = residents.get(id)!;
    return seenFaces(resident.loaded, treeOf(resident), view, faces, resident.shown);
  },

  /** Faces that cannot be seen from any side; `null` where it was stopped. Other work comes in between its steps. */
  async hiddenFaces(id: string, onProgress: (share: number) => unknown): Promise<Uint32Array | null> {
    const resident = residents.get(id)!;
    const { loaded } = resident;
    stopped.delete(id);
    const steps = findHiddenFaces(loaded, treeOf(resident), loaded.adjacency.normals);
    let since = performance.now();
    for (;;) {
      const step = steps.next();
      if (step.done) return step.value;
      if (performance.now() - since < 12) continue;
      void onProgress(step.value);
      await new Promise((resolve) => setTimeout(resolve));
      if (stopped.has(id) || !residents.has(id)) return null;
      since = performance.now();
    }
  },

  /** Stops looking for them. */
  stopHiddenFaces(id: string): void {
    stopped.add(id);
  },

  /** Square metres of each face that are seen from around; computed once for a mesh. */
  estimatedVisibleArea(id: string): Float32Array {
    const resident = residents.get(id)!;
    const { loaded } = resident;
    return (resident.visible ??= estimatedVisibleArea(rasterInputOf(loaded.mesh, loaded.triangles), loaded.bounds, faceCount(loaded.mesh)));
  },
};
