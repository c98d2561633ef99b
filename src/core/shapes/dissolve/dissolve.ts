import { convexPieces } from '../cut/convexPieces';
import { cornerPoint, flattener, turn } from '../cut/facePlaces';
import { mixedCorners } from '../cut/mixedCorners';
import type { Repaired } from '../check/repaired';
import { nextCorner, type Adjacency } from '../mesh/adjacency';
import { withoutUnusedVertices } from '../mesh/build';
import { cornerRun } from '../mesh/faceOrigins';
import { faceCount, type PolyMesh } from '../mesh/polyMesh';
import { Corners, idleEdges, type OnFaces } from './partingEdges';
import { withoutStraightPoints } from './straightPoints';

/** Of the outline of faces that become one. */
const mostCorners = 256;

export interface Dissolved extends Repaired {
  /** Corners of the old mesh whose edges are gone, one for each edge. */
  edges: Uint32Array;
}

/** Degrees that faces may lean away from each other where an edge between them goes: the least and the most that may be stated. */
export const dissolveAngles = { least: 0, most: 20, usual: 0.5 };

/**
 * A mesh without the edges that part nothing (`idleEdges`), and without the vertices that then lie in the middle of a straight edge and
 * have nothing of their own. Touching faces become one where their common outline is one convex line, else few convex ones; where that
 * would not make them fewer they stay. Edges towards others keep all their points, on both sides, so that nothing gapes. Throws where the angle is none.
 */
export function dissolve(mesh: PolyMesh, adjacency: Adjacency, on: OnFaces, angle: number): Dissolved {
  if (!(angle >= dissolveAngles.least && angle <= dissolveAngles.most))
    throw new Error(`Edges are taken away between faces that are flat within ${dissolveAngles.least} to ${dissolveAngles.most} degrees.`);
  const idle = idleEdges(mesh, adjacency, on, angle);
  const { groupOf, groups } = flatGroups(mesh, adjacency, idle, angle);
  const from: number[] = [];
  const polygons: number[][] = [];
  const isMade = new Uint8Array(groups.length);
  const made = groups.map((faces, g) =>
    faces.length > 1
      ? joined(mesh, adjacency, faces, (c) => idle[c]! > 0 && groupOf[adjacency.cornerFace[adjacency.neighbour[c]!]!] === g)
      : null,
  );
  let changed = 0;
  for (let f = 0; f < faceCount(mesh); f++) {
    const g = groupOf[f]!;
    const pieces = g < 0 ? null : made[g]!;
    if (!pieces) {
      polygons.push(range(mesh.faceStart[f]!, mesh.faceStart[f + 1]!));
      from.push(f);
      continue;
    }
    changed++;
    if (isMade[g]) continue;
    isMade[g] = 1;
    for (const piece of pieces) {
      polygons.push(piece);
      from.push(f);
    }
  }
  const isSeam = new Set(on.seams.flatMap((c) => [c, adjacency.neighbour[c]!]));
  const straight = withoutStraightPoints(mesh, adjacency, polygons, new Corners(mesh, adjacency, on, angle), isSeam);
  const faceStart = new Uint32Array(straight.length + 1);
  straight.forEach((p, i) => (faceStart[i + 1] = faceStart[i]! + p.length));
  const corner = Uint32Array.from(straight.flat());
  const order = Int8Array.from(straight, (p, f) => (isSame(mesh, from[f]!, p) ? cornerRun.same : cornerRun.byPlace));
  const corners = { corner, share: new Float32Array(corner.length), onEdge: alongOldEdges(adjacency, polygons, straight) };
  const out: PolyMesh = {
    ...mixedCorners(mesh, adjacency, { from: Int32Array.from(from), order, ...corners }),
    faceStart,
    cornerVertex: corner.map((c) => mesh.cornerVertex[c]!),
  };
  const { cornerPoint: pointOf, cornerFace, neighbour, pointCount } = adjacency;
  const kept = new Set(polygons.flatMap((p) => p.map((c, i) => pointOf[c]! * pointCount + pointOf[p[(i + 1) % p.length]!]!)));
  const edges = Array.from(idle.keys()).filter((c) => {
    const g = groupOf[cornerFace[c]!]!;
    if (!idle[c] || c > neighbour[c]! || g < 0 || !isMade[g] || groupOf[cornerFace[neighbour[c]!]!] !== g) return false;
    // Around a hole an old edge may part the new faces.
    return !kept.has(pointOf[c]! * pointCount + pointOf[nextCorner(adjacency, c)]!);
  });
  return {
    mesh: withoutUnusedVertices(out),
    origins: { from: Int32Array.from(from), order, corners },
    changed,
    edges: Uint32Array.from(edges),
  };
}

const range = (start: number, end: number): number[] => Array.from({ length: end - start }, (_, i) => start + i);
const isSame = ({ faceStart }: PolyMesh, face: number, polygon: readonly number[]): boolean =>
  polygon.length === faceStart[face + 1]! - faceStart[face]! && polygon.every((c, i) => c === faceStart[face]! + i);

/** 1 for each corner whose edge runs along its old one: it did before points on straight lines went, which leave edges on their lines. */
function alongOldEdges(
  { cornerPoint: pointOf, ...adjacency }: Adjacency,
  polygons: readonly (readonly number[])[],
  straight: readonly (readonly number[])[],
): Uint8Array {
  const flags = straight.flatMap((left, n) => {
    const before = polygons[n]!;
    const isOn = new Set(before.filter((c, i) => pointOf[nextCorner(adjacency, c)] === pointOf[before[(i + 1) % before.length]!]));
    return left.map((c) => Number(isOn.has(c)));
  });
  return Uint8Array.from(flags);
}

/** Faces that hang together over idle edges and are flat beside the largest of them; -1 for those that have no such neighbour. */
function flatGroups(mesh: PolyMesh, adjacency: Adjacency, idle: Uint8Array, angle: number): { groupOf: Int32Array; groups: number[][] } {
  const { faceStart, neighbour, cornerFace, normals, areas } = adjacency;
  const groupOf = new Int32Array(faceCount(mesh)).fill(-1);
  const groups: number[][] = [];
  const least = Math.cos((angle * Math.PI) / 180) - 1e-6;
  const withIdle: number[] = [];
  for (let f = 0; f < groupOf.length; f++) {
    let is = false;
    for (let c = faceStart[f]!; c < faceStart[f + 1]! && !is; c++) is = idle[c]! > 0;
    if (is) withIdle.push(f);
  }
  withIdle.sort((a, b) => areas[b]! - areas[a]! || a - b);
  for (const seed of withIdle) {
    if (groupOf[seed]! >= 0) continue;
    const group = [seed];
    groupOf[seed] = groups.length;
    for (const f of group)
      for (let c = faceStart[f]!; c < faceStart[f + 1]!; c++) {
        const g = idle[c] ? cornerFace[neighbour[c]!]! : -1;
        if (g < 0 || groupOf[g]! >= 0) continue;
        const dot =
          normals[seed * 3]! * normals[g * 3]! +
          normals[seed * 3 + 1]! * normals[g * 3 + 1]! +
          normals[seed * 3 + 2]! * normals[g * 3 + 2]!;
        if (dot < least) continue;
        groupOf[g] = groups.length;
        group.push(g);
      }
    groups.push(group);
  }
  return { groupOf, groups };
}

/** The polygons that faces become without the edges between them, as corners; `null` where they stay as they are. */
function joined(mesh: PolyMesh, adjacency: Adjacency, faces: readonly number[], isInner: (corner: number) => boolean): number[][] | null {
  const { faceStart, neighbour, cornerPoint: pointOf } = adjacency;
  const outer = faces.flatMap((f) => range(faceStart[f]!, faceStart[f + 1]!).filter((c) => !isInner(c)));
  const left = new Set(outer);
  const loops: number[][] = [];
  for (const first of outer) {
    if (!left.has(first)) continue;
    const loop: number[] = [];
    for (let c = first; left.has(c);) {
      left.delete(c);
      loop.push(c);
      // Around the point where the edge ends, over edges that go.
      for (c = nextCorner(adjacency, c); isInner(c);) c = nextCorner(adjacency, neighbour[c]!);
    }
    loops.push(loop);
  }
  const all = loops.flat();
  // An outline that touches itself stays, and one so long that it would be slow to be cut into triangles wherever it is seen.
  if (!all.length || all.length > mostCorners || new Set(all.map((c) => pointOf[c]!)).size < all.length) return null;
  const flat = flattener(adjacency, faces[0]!);
  const points = all.map((c) => flat(cornerPoint(mesh, c)));
  const convex = loops.length === 1 && points.every((p, i) => turn(points.at(i - 1)!, p, points[(i + 1) % points.length]!) >= 0);
  if (convex) return loops;
  let start = 0;
  const numbers = loops.map((loop) => loop.map(() => start++));
  try {
    const pieces = convexPieces(points, numbers);
    return pieces.length < faces.length ? pieces.map((piece) => piece.map((i) => all[i]!)) : null;
  } catch {
    // Faces that fold over each other as they are seen from the front stay.
    return null;
  }
}
