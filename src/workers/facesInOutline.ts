import { Ray, Vector3 } from 'three';
import type { MeshBVH } from 'three-mesh-bvh';
import { faceCount } from '@/core/mesh/polyMesh';
import { facesUnder, isWhollyInside, maskOf, projectVertices, touches, type Outline } from '@/core/pick/outline';
import { rasterFaces } from '@/core/view/rasterFaces';
import type { LoadedMesh, Shown } from './core.worker';
import { firstShown, shownInput } from './rays';

export interface OutlineRequest {
  outline: Outline;
  /** Projection × view, 16 numbers column by column. */
  matrix: number[];
  width: number;
  height: number;
  side: 'near' | 'through';
  reach: 'touched' | 'inside';
  eye: [number, number, number];
  /** The direction of a parallel view. */
  ahead?: [number, number, number];
}

export interface OutlineResult {
  faces: Uint32Array;
  /** 1 for each face that is seen; `null` where the outline went through the model. */
  seen: Uint8Array | null;
}

/** More faces without a pixel of their own than this are not asked for by rays. */
const mostRays = 20_000;

/**
 * Faces that an outline takes. On the near side a face counts as seen where it owns a pixel under the camera; a face that is too small for one is seen where a ray
 * from the eye to its middle meets it first.
 */
export function facesInOutline({ mesh, triangles }: LoadedMesh, tree: MeshBVH, request: OutlineRequest, shown?: Shown): OutlineResult {
  const { outline, matrix, width, height, side, reach } = request;
  const screen = projectVertices(mesh, matrix, width, height);
  const isTaken = (f: number) =>
    !shown?.hidden?.[f] && (reach === 'inside' ? isWhollyInside(mesh, screen, f, outline) : touches(mesh, screen, f, outline));
  const faces = faceCount(mesh);
  if (side === 'through') return { faces: Uint32Array.from({ length: faces }, (_, f) => f).filter(isTaken), seen: null };
  const input = {
    positions: mesh.positions,
    triangleVertices: triangles.corners.map((c) => mesh.cornerVertex[c]!),
    triangleFace: triangles.face,
  };
  const raster = rasterFaces(shownInput(input, shown), matrix, width, height);
  const owns = new Uint8Array(faces);
  for (const f of raster.faces) if (f >= 0) owns[f] = 1;
  const under = facesUnder(raster, maskOf(outline, width, height));
  const taken = reach === 'inside' ? [...under].filter(isTaken) : [...under];
  let rays = 0;
  for (let f = 0; f < faces && rays < mostRays; f++) {
    if (owns[f] || !isTaken(f)) continue;
    rays++;
    if (!isSeen(f)) continue;
    owns[f] = 1;
    taken.push(f);
  }
  return { faces: Uint32Array.from(taken).sort(), seen: owns };

  function isSeen(f: number): boolean {
    const middle = new Vector3();
    const [start, end] = [mesh.faceStart[f]!, mesh.faceStart[f + 1]!];
    for (let c = start; c < end; c++) middle.add(new Vector3().fromArray(mesh.positions, mesh.cornerVertex[c]! * 3));
    middle.divideScalar(end - start);
    const { eye, ahead } = request;
    const direction = ahead
      ? new Vector3(...ahead)
      : middle
          .clone()
          .sub(new Vector3(...eye))
          .normalize();
    const origin = ahead ? middle.clone().addScaledVector(direction, -1e4) : new Vector3(...eye);
    const hit = firstShown(tree, new Ray(origin, direction), { mesh, triangles }, shown);
    return hit?.faceIndex != null && triangles.face[hit.faceIndex] === f;
  }
}
