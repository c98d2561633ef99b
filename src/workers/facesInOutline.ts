import { Ray, Vector3 } from 'three';
import type { MeshBVH } from 'three-mesh-bvh';
import { faceCount } from '@/core/shapes/mesh/polyMesh';
import { isWhollyInside, ownersOf, projectVertices, touches, type Lens, type Outline } from '@/core/shapes/pick/outline';
import { rasterFaces, type FaceRaster } from '@/core/shapes/view/rasterFaces';
import type { PresentView } from '@/core/shapes/view/presentView';
import type { LoadedMesh } from './residents';
import { firstShown, shownInput, trianglesOf, type RayMesh, type Shown } from './rays';

export type Reach = 'touched' | 'inside';

/** More faces without a pixel of their own than this are not asked for by rays. */
const mostRays = 20_000;

/** Which face owns each pixel. */
export function rasterOf(of: RayMesh, { matrix, width, height }: PresentView, shown?: Shown): FaceRaster {
  const input = { positions: of.mesh.positions, triangleVertices: trianglesOf(of), triangleFace: of.triangles.face };
  return rasterFaces(shownInput(input, shown, matrix), matrix, width, height);
}

/** All faces that an outline takes through the model. */
export function facesThrough({ mesh }: LoadedMesh, view: PresentView, outline: Outline, reach: Reach, shown?: Shown): Uint32Array {
  const screen = projectVertices(mesh, view.matrix, view.width, view.height);
  return Uint32Array.from({ length: faceCount(mesh) }, (_, f) => f).filter(isTaken({ mesh }, screen, outline, reach, shown, view));
}

/**
 * Faces in an outline that own no pixel (`owns`: 1 for those that do) and are seen all the same, since a ray
 * from the eye to their middle meets them first.
 */
export function smallFacesInOutline(
  of: LoadedMesh,
  tree: MeshBVH,
  view: PresentView,
  outline: Outline,
  reach: Reach,
  owns: Uint8Array,
  shown?: Shown,
): Uint32Array {
  const screen = projectVertices(of.mesh, view.matrix, view.width, view.height);
  const taken = isTaken(of, screen, outline, reach, shown, view);
  const found: number[] = [];
  let rays = 0;
  for (let f = 0; f < owns.length && rays < mostRays; f++) {
    if (owns[f] || !taken(f)) continue;
    rays++;
    if (isMetFirst(of, tree, view, f, shown)) found.push(f);
  }
  return Uint32Array.from(found);
}

/** Those of some faces that are truly seen: by a pixel of their own, or by a ray. */
export function seenFaces(of: RayMesh, tree: MeshBVH, view: PresentView, faces: Uint32Array, shown?: Shown): Uint32Array {
  const owns = ownersOf(rasterOf(of, view, shown), faceCount(of.mesh));
  return faces.filter((f) => owns[f] || isMetFirst(of, tree, view, f, shown));
}

const isTaken =
  ({ mesh }: Pick<LoadedMesh, 'mesh'>, screen: Float32Array, outline: Outline, reach: Reach, shown: Shown | undefined, lens: Lens) =>
  (f: number): boolean =>
    !shown?.hidden?.[f] && (reach === 'inside' ? isWhollyInside(mesh, screen, f, outline) : touches(mesh, screen, f, outline, lens));

function isMetFirst(of: RayMesh, tree: MeshBVH, { eye, ahead }: PresentView, f: number, shown?: Shown): boolean {
  const { mesh, triangles } = of;
  const middle = new Vector3();
  const [start, end] = [mesh.faceStart[f]!, mesh.faceStart[f + 1]!];
  for (let c = start; c < end; c++) middle.add(new Vector3().fromArray(mesh.positions, mesh.cornerVertex[c]! * 3));
  middle.divideScalar(end - start);
  const direction = ahead
    ? new Vector3(...ahead)
    : middle
        .clone()
        .sub(new Vector3(...eye))
        .normalize();
  const origin = ahead ? middle.clone().addScaledVector(direction, -1e4) : new Vector3(...eye);
  const hit = firstShown(tree, new Ray(origin, direction), of, shown);
  return hit?.faceIndex != null && triangles.face[hit.faceIndex] === f;
}
