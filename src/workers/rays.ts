import { BackSide, BufferAttribute, BufferGeometry, DoubleSide, Ray, Vector3, type Intersection } from 'three';
import { MeshBVH } from 'three-mesh-bvh';
import { adjacencyOf } from '@/core/shapes/mesh/adjacency';
import { facesWhere } from '@/core/shapes/mesh/facesWhere';
import { boundsOf, largestSide } from '@/core/shapes/mesh/measure';
import { faceCount, type PolyMesh } from '@/core/shapes/mesh/polyMesh';
import { triangulate, type Triangles } from '@/core/shapes/mesh/triangulate';
import { remembered } from '@/core/ground/remembered';
import type { RasterInput } from '@/core/shapes/view/rasterFaces';
import { rasterBothWays } from '@/core/shapes/view/bothWays';
import { framingHalf, framingMatrix } from '@/core/shapes/view/thumbnail';

/** What a view leaves out: faces that are hidden, and what lies before a plane. */
export interface Shown {
  hidden: Uint8Array | null;
  cut: { axis: 0 | 1 | 2; offset: number } | null;
  /** Faces turned to the eye are left out, so that those behind show. */
  behind?: boolean;
}

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
export function firstShown(tree: MeshBVH, ray: Ray, { triangles }: Pick<RayMesh, 'triangles'>, shown?: Shown): Intersection | null {
  if (!shown?.hidden && !shown?.cut && !shown?.behind) return tree.raycastFirst(ray, DoubleSide);
  return allShown(tree, ray, { triangles }, shown)[0] ?? null;
}

/** All that a ray meets of what is shown, the nearest first. */
export function allShown(tree: MeshBVH, ray: Ray, { triangles }: Pick<RayMesh, 'triangles'>, shown?: Shown): Intersection[] {
  const { hidden, cut, behind } = shown ?? {};
  // With the faces turned to the eye left out, only the backs of others are met.
  const hits = tree.raycast(ray, behind ? BackSide : DoubleSide).sort((p, q) => p.distance - q.distance);
  return hits.filter((h) => {
    const isHidden = h.faceIndex == null || hidden?.[triangles.face[h.faceIndex]!];
    return !isHidden && !(cut && h.point.getComponent(cut.axis) > cut.offset);
  });
}

/**
 * Triangles without those of hidden faces, those whose middle is cut away, and, where only what lies behind
 * is shown, those turned to the eye.
 */
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

/** Evenly spread directions over half a sphere: each stands for its opposite, too. Source: the golden spiral. */
function halfSphere(n: number): Vector3[] {
  return Array.from({ length: n }, (_, i) => {
    const y = 1 - (i + 0.5) / n;
    const r = Math.sqrt(1 - y * y);
    const turn = i * Math.PI * (3 - Math.sqrt(5));
    return new Vector3(Math.cos(turn) * r, y, Math.sin(turn) * r);
  });
}

/**
 * Pixels along a side of the rasters, axes that are looked along (from both ends), and rays that a face gets
 * at most.
 */
const looking = { size: 384, axes: 40, rays: 8 };
/** A small mesh needs fewer pixels to tell its faces apart. */
const rasterSize = (faces: number): number => Math.min(looking.size, Math.max(144, Math.ceil(Math.sqrt(faces) * 3)));

/**
 * Finds the faces that cannot be seen from any side, in steps: each yields the share that is done, so that
 * other work comes in between.
 *
 * Method: a face that owns a pixel from either end of one of 40 axes is seen. Of the others, points lie on a
 * surface or behind one in these rasters; where a point lies within two pixels of the first surface, a ray
 * decides, and one that leaves the mesh is enough. So the work is bounded by the rasters and 8 rays a face,
 * however many faces are hidden.
 */
export function* findHiddenFaces(of: RayMesh, tree: MeshBVH, normals: Float32Array): Generator<number, Uint32Array> {
  const { mesh, triangles } = of;
  const bounds = boundsOf(mesh);
  const input = { positions: mesh.positions, triangleVertices: trianglesOf(of), triangleFace: triangles.face };
  const faces = faceCount(mesh);
  const seen = new Uint8Array(faces);
  // A face without area has no side to be seen from, and is left alone.
  for (let f = 0; f < faces; f++) if (Math.hypot(normals[f * 3]!, normals[f * 3 + 1]!, normals[f * 3 + 2]!) < 0.5) seen[f] = 1;
  const rays = new Uint8Array(faces);
  const lift = largestSide(bounds) * 1e-5;
  const points = new Map<number, Vector3[]>();
  const axes = halfSphere(looking.axes);
  for (const [i, axis] of axes.entries()) {
    const from = axis.toArray();
    const m = framingMatrix(bounds, 1.02, from);
    const { near, far, size } = rasterBothWays(input, m, rasterSize(faces), seen);
    yield (i + 0.5) / axes.length;
    // Two pixels, in the units of depth.
    const slack = ((4 * framingHalf(bounds, 1.02, from)) / size) * Math.hypot(m[2]!, m[6]!, m[10]!);
    for (let f = 0; f < faces; f++) {
      if (seen[f] || rays[f]! >= looking.rays) continue;
      const normal = new Vector3().fromArray(normals, f * 3);
      const across = normal.dot(axis);
      if (Math.abs(across) < 1e-3) continue;
      let own = points.get(f);
      if (!own) points.set(f, (own = samplePoints(mesh, f)));
      for (const p of own) {
        const x = Math.floor(((m[0]! * p.x + m[4]! * p.y + m[8]! * p.z + m[12]!) * 0.5 + 0.5) * size);
        const y = Math.floor((0.5 - (m[1]! * p.x + m[5]! * p.y + m[9]! * p.z + m[13]!) * 0.5) * size);
        const z = m[2]! * p.x + m[6]! * p.y + m[10]! * p.z + m[14]!;
        const at = y * size + x;
        for (const end of [1, -1]) {
          const behind = end > 0 ? z - near[at]! : far[at]! - z;
          if (behind > slack || rays[f]! >= looking.rays) continue;
          rays[f]!++;
          const start = p.clone().addScaledVector(normal, Math.sign(across) * end * lift);
          if (tree.raycastFirst(new Ray(start, axis.clone().multiplyScalar(end)), DoubleSide) === null) seen[f] = 1;
        }
        if (seen[f]) break;
      }
    }
    yield (i + 1) / axes.length;
  }
  return facesWhere(faces, (f) => !seen[f]);
}

/** All of it at once. */
export function hiddenFaces(of: RayMesh, tree: MeshBVH, normals: Float32Array): Uint32Array {
  const steps = findHiddenFaces(of, tree, normals);
  for (;;) {
    const { done, value } = steps.next();
    if (done) return value;
  }
}

/** The same of a mesh by itself, kept as long as the mesh is. */
export const neverSeen = remembered((mesh: PolyMesh): Uint32Array => {
  const { normals } = adjacencyOf(mesh);
  const of = { mesh, triangles: triangulate(mesh, normals) };
  return hiddenFaces(of, buildTree(of), normals);
});

/** The middle of a face, and points most of the way to its corners. */
function samplePoints({ positions, cornerVertex, faceStart }: PolyMesh, f: number): Vector3[] {
  const corners = Array.from(cornerVertex.subarray(faceStart[f]!, faceStart[f + 1]!), (v) => new Vector3().fromArray(positions, v * 3));
  const middle = corners.reduce((sum, c) => sum.add(c), new Vector3()).divideScalar(corners.length);
  return [middle, ...corners.slice(0, 8).map((c) => middle.clone().lerp(c, 0.85))];
}
