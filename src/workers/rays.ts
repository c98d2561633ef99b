import { BackSide, BufferAttribute, BufferGeometry, DoubleSide, Ray, Vector3, type Intersection } from 'three';
import { MeshBVH } from 'three-mesh-bvh';
import { boundsOf, largestSide } from '@/core/mesh/measure';
import { faceCount, type PolyMesh } from '@/core/mesh/polyMesh';
import type { Triangles } from '@/core/mesh/triangulate';
import type { RasterInput } from '@/core/view/rasterFaces';
import { visibleArea } from '@/core/view/visibleArea';
import type { Shown } from './residents';

export interface RayMesh {
  mesh: PolyMesh;
  triangles: Triangles;
}

export const trianglesOf = ({ mesh, triangles }: RayMesh): Uint32Array => triangles.corners.map((c) => mesh.cornerVertex[c]!);

/** A tree for casting rays; triangle numbers stay ours. */
export function buildTree(of: RayMesh): MeshBVH {
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(of.mesh.positions, 3));
  geometry.setIndex(new BufferAttribute(trianglesOf(of), 1));
  return new MeshBVH(geometry, { indirect: true });
}

/** The first thing that a ray meets of what is shown. */
export function firstShown(tree: MeshBVH, ray: Ray, { triangles }: RayMesh, shown?: Shown): Intersection | null {
  if (!shown?.hidden && !shown?.cut && !shown?.behind) return tree.raycastFirst(ray, DoubleSide);
  const { hidden, cut, behind } = shown;
  // With the faces turned to the eye left out, only the backs of others are met.
  const hits = tree.raycast(ray, behind ? BackSide : DoubleSide).sort((p, q) => p.distance - q.distance);
  return (
    hits.find((h) => {
      const isHidden = h.faceIndex == null || hidden?.[triangles.face[h.faceIndex]!];
      return !isHidden && !(cut && h.point.getComponent(cut.axis) > cut.offset);
    }) ?? null
  );
}

/** Triangles without those of hidden faces, those whose middle is cut away, and, where only what lies behind is shown, those turned to the eye. */
export function shownInput(input: RasterInput, shown: Shown | undefined, m: readonly number[]): RasterInput {
  if (!shown?.hidden && !shown?.cut && !shown?.behind) return input;
  const { positions, triangleVertices, triangleFace } = input;
  const { hidden, cut, behind } = shown;
  const onScreen = (v: number): [number, number, number] => {
    const [x, y, z] = [positions[v * 3]!, positions[v * 3 + 1]!, positions[v * 3 + 2]!];
    return [0, 1, 3].map((r) => m[r]! * x + m[4 + r]! * y + m[8 + r]! * z + m[12 + r]!) as [number, number, number];
  };
  /** The sign of the determinant of homogeneous places tells which way a triangle runs on the screen. */
  const isTurnedToEye = (t: number) => {
    const [a, b, c] = [0, 1, 2].map((k) => onScreen(triangleVertices[t * 3 + k]!)) as [number, number, number][];
    return (
      a![0]! * (b![1]! * c![2]! - c![1]! * b![2]!) -
        a![1]! * (b![0]! * c![2]! - c![0]! * b![2]!) +
        a![2]! * (b![0]! * c![1]! - c![0]! * b![1]!) >
      0
    );
  };
  const kept: number[] = [];
  for (let t = 0; t < triangleFace.length; t++) {
    if (hidden?.[triangleFace[t]!] || (behind && isTurnedToEye(t))) continue;
    if (cut) {
      let middle = 0;
      for (let k = 0; k < 3; k++) middle += positions[triangleVertices[t * 3 + k]! * 3 + cut.axis]! / 3;
      if (middle > cut.offset) continue;
    }
    kept.push(t);
  }
  return {
    positions,
    triangleVertices: Uint32Array.from(
      kept.flatMap((t) => [triangleVertices[t * 3]!, triangleVertices[t * 3 + 1]!, triangleVertices[t * 3 + 2]!]),
    ),
    triangleFace: Uint32Array.from(kept, (t) => triangleFace[t]!),
  };
}

/** Evenly spread directions. Source: the golden spiral. */
function sphere(n: number): Vector3[] {
  return Array.from({ length: n }, (_, i) => {
    const y = 1 - ((i + 0.5) / n) * 2;
    const r = Math.sqrt(1 - y * y);
    const turn = i * Math.PI * (3 - Math.sqrt(5));
    return new Vector3(Math.cos(turn) * r, y, Math.sin(turn) * r);
  });
}

/**
 * Faces that cannot be seen from any side. A face that owns a pixel from one of 14 directions is seen; of the others, points on either side send rays over the whole
 * sphere, and one ray that leaves the mesh is enough.
 */
export function hiddenFaces(of: RayMesh, tree: MeshBVH, normals: Float32Array, directions = 128): Uint32Array {
  const { mesh, triangles } = of;
  const bounds = boundsOf(mesh);
  const input = { positions: mesh.positions, triangleVertices: trianglesOf(of), triangleFace: triangles.face };
  const seen = visibleArea(input, bounds, faceCount(mesh));
  const around = sphere(directions);
  const size = largestSide(bounds);
  const lift = size * 1e-5;
  const isFree = (from: Vector3, direction: Vector3) => tree.raycastFirst(new Ray(from, direction), DoubleSide) === null;
  const hidden: number[] = [];
  for (let f = 0; f < faceCount(mesh); f++) {
    if (seen[f]! > 0) continue;
    const normal = new Vector3().fromArray(normals, f * 3);
    if (normal.lengthSq() < 0.5) continue;
    const points = samplePoints(mesh, f);
    const isSeen = points.some((p) =>
      [1, -1].some((side) => {
        const from = p.clone().addScaledVector(normal, side * lift);
        return around.some((d) => d.dot(normal) * side > 1e-3 && isFree(from, d));
      }),
    );
    if (!isSeen) hidden.push(f);
  }
  return Uint32Array.from(hidden);
}

/** The middle of a face, and points most of the way to its corners. */
function samplePoints({ positions, cornerVertex, faceStart }: PolyMesh, f: number): Vector3[] {
  const corners = Array.from(cornerVertex.subarray(faceStart[f]!, faceStart[f + 1]!), (v) => new Vector3().fromArray(positions, v * 3));
  const middle = corners.reduce((sum, c) => sum.add(c), new Vector3()).divideScalar(corners.length);
  return [middle, ...corners.slice(0, 8).map((c) => middle.clone().lerp(c, 0.85))];
}
