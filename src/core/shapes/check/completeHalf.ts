import { adjacencyOf, nextCorner } from '../mesh/adjacency';
import { boundsOf, largestSide } from '../mesh/measure';
import { pickRows, takeFaces } from '../mesh/build';
import { faceCount, type PolyMesh } from '../mesh/polyMesh';
import type { Axis, MirrorPlane } from '../pick/symmetry';
import { sameCorners } from '../mesh/faceOrigins';
import type { Repaired } from './repaired';

const axes = ['x', 'y', 'z'] as const;
/** Share of the model's size within which a vertex counts as lying on the plane. */
const onPlane = 1e-3;

const sizeOf = (mesh: PolyMesh): number => Math.max(largestSide(boundsOf(mesh)), 1e-9);

/** The plane at which a mesh looks cut in half: most of its open edges lie there, and all of it lies on one side. */
export function halfPlane(mesh: PolyMesh): (MirrorPlane & { edges: number }) | null {
  const adjacency = adjacencyOf(mesh);
  const { openEdges, neighbour } = adjacency;
  if (openEdges < 3) return null;
  const { min, max } = boundsOf(mesh);
  const size = sizeOf(mesh);
  const slack = size * onPlane;
  const { positions, cornerVertex } = mesh;
  let best: (MirrorPlane & { edges: number }) | null = null;
  for (const [k, axis] of axes.entries()) {
    // What lies flat in a plane is no half of anything.
    if (max[k]! - min[k]! < size * 0.02) continue;
    for (const offset of [min[k]!, max[k]!]) {
      let edges = 0;
      for (let c = 0; c < neighbour.length; c++) {
        if (neighbour[c]! >= 0) continue;
        const lies = (corner: number) => Math.abs(positions[cornerVertex[corner]! * 3 + k]! - offset) <= slack;
        if (lies(c) && lies(nextCorner(adjacency, c))) edges++;
      }
      if (edges >= 3 && edges > openEdges * 0.6 && edges > (best?.edges ?? 0))
        best = { axis, offset: Math.abs(offset) <= slack ? 0 : offset, edges };
    }
  }
  // Models that stand open on the ground are not halves.
  return best?.axis === 'y' ? null : best;
}

/** Planes at which a mesh could be completed, for each axis the bound that is nearest to 0. */
export function edgePlanes(mesh: PolyMesh): Record<Axis, number> {
  const { min, max } = boundsOf(mesh);
  const near = (k: number) => (Math.abs(min[k]!) <= Math.abs(max[k]!) ? min[k]! : max[k]!);
  return { x: near(0), y: near(1), z: near(2) };
}

/**
 * A half mesh and its mirror image as one: what lies on the plane is shared, so that both halves are welded;
 * faces that lie wholly in the plane go, since they would lie inside. The new half follows the old one face
 * by face, with all corners in the opposite order. Throws where the mesh reaches beyond the plane on both
 * sides.
 *
 * The vertices are the kit's own from then on: `source` is dropped.
 */
export function completeHalf(mesh: PolyMesh, { axis, offset }: MirrorPlane): Repaired {
  const k = axes.indexOf(axis);
  const slack = sizeOf(mesh) * onPlane;
  const { min, max } = boundsOf(mesh);
  if (max[k]! > offset + slack && min[k]! < offset - slack)
    throw new Error(`The model reaches beyond ${axis} = ${Number(offset.toPrecision(3))} on both sides, so it is no half there.`);
  const vertices = mesh.positions.length / 3;
  const isOn = (v: number) => Math.abs(mesh.positions[v * 3 + k]! - offset) <= slack;
  const twinOf = new Uint32Array(vertices);
  const positions = Array.from(mesh.positions);
  for (let v = 0; v < vertices; v++) {
    if (isOn(v)) {
      positions[v * 3 + k] = offset;
      twinOf[v] = v;
      continue;
    }
    twinOf[v] = positions.length / 3;
    const p = [0, 1, 2].map((n) => mesh.positions[v * 3 + n]!);
    p[k] = 2 * offset - p[k]!;
    positions.push(...(p as [number, number, number]));
  }
  const lies = (f: number) => mesh.cornerVertex.subarray(mesh.faceStart[f]!, mesh.faceStart[f + 1]!).every(isOn);
  const kept = Uint32Array.from({ length: faceCount(mesh) }, (_, f) => f).filter((f) => !lies(f));
  if (!kept.length) throw new Error('The whole model lies in the plane.');
  const { source: _, ...bare } = mesh;
  const half = takeFaces(bare, kept);
  const other = takeFaces(bare, kept, new Uint8Array(faceCount(mesh)).fill(1));
  const twice = <T extends Uint16Array | Uint32Array>(data: T): T => {
    const out = new (data.constructor as new (n: number) => T)(data.length * 2);
    out.set(data);
    out.set(data, data.length);
    return out;
  };
  const joined = <T extends Float32Array | Uint8Array>(p: T, q: T): T => {
    const out = new (p.constructor as new (n: number) => T)(p.length + q.length);
    out.set(p);
    out.set(q, p.length);
    return out;
  };
  const corners = half.cornerVertex.length;
  const faceStart = new Uint32Array(kept.length * 2 + 1);
  faceStart.set(half.faceStart);
  for (let f = 0; f < kept.length; f++) faceStart[kept.length + f + 1] = corners + half.faceStart[f + 1]!;
  const cornerVertex = new Uint32Array(corners * 2);
  cornerVertex.set(half.cornerVertex);
  other.cornerVertex.forEach((v, c) => (cornerVertex[corners + c] = twinOf[v]!));
  // Turning a face over has turned its normals; a mirror image only turns what is across the plane.
  const normals = other.cornerNormals?.map((v, i) => (i % 3 === k ? v : -v));
  const whole: PolyMesh = {
    ...half,
    positions: Float32Array.from(positions),
    faceStart,
    cornerVertex,
    ...(half.cornerNormals && { cornerNormals: joined(half.cornerNormals, normals!) }),
    ...(half.cornerColors && { cornerColors: joined(half.cornerColors, other.cornerColors!) }),
    uvSets: half.uvSets.map((uv, i) => joined(uv, other.uvSets[i]!)),
    faceSlot: twice(half.faceSlot),
    faceObject: twice(half.faceObject),
    ...(half.faceGroup && { faceGroup: twice(half.faceGroup) }),
  };
  return {
    mesh: dropIdleVertices(whole),
    origins: sameCorners(
      Int32Array.from([...kept, ...kept]),
      Uint8Array.from({ length: kept.length * 2 }, (_, f) => Number(f >= kept.length)),
    ),
    changed: kept.length,
  };
}

/** Mirror images of vertices that only dropped faces had. */
function dropIdleVertices(mesh: PolyMesh): PolyMesh {
  const number = new Int32Array(mesh.positions.length / 3).fill(-1);
  const used: number[] = [];
  const cornerVertex = mesh.cornerVertex.map((v) => {
    if (number[v]! < 0) number[v] = used.push(v) - 1;
    return number[v]!;
  });
  return { ...mesh, cornerVertex, positions: pickRows(mesh.positions, Uint32Array.from(used), 3) };
}
