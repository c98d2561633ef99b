import { nextCorner, type Adjacency } from '../mesh/adjacency';
import { distanceToLine } from '../mesh/distance';
import type { PolyMesh } from '../mesh/polyMesh';

/**
 * The run of faces through the edge of a corner: over quads by opposite edges, closed or to where a face is
 * no quad; `edge` is a corner of the mesh, its edge runs to the next corner. From a triangle, a run of
 * triangles that keeps its direction. In order along the run, without duplicates.
 */
export function ringThrough(mesh: PolyMesh, adjacency: Adjacency, edge: number): Uint32Array {
  const face = adjacency.cornerFace[edge]!;
  const size = sizeOf(adjacency, face);
  if (size === 4) return Uint32Array.from(ringOfQuads(adjacency, edge).faces);
  if (size !== 3) return Uint32Array.of(face);
  const behind = runOfTriangles(mesh, adjacency, exitOf(mesh, adjacency, edge));
  return Uint32Array.from(new Set([...behind.reverse(), ...runOfTriangles(mesh, adjacency, edge)]));
}

/** Whether the ring of quads through the edge of a corner comes back to where it began. */
export const isClosedRing = (adjacency: Adjacency, edge: number): boolean =>
  sizeOf(adjacency, adjacency.cornerFace[edge]!) === 4 && ringOfQuads(adjacency, edge).isClosed;

/** The corner of a face whose edge lies nearest to a point on the face. Coordinates of the mesh. */
export function nearestEdge(mesh: PolyMesh, adjacency: Adjacency, face: number, point: readonly number[]): number {
  let best = adjacency.faceStart[face]!;
  let least = Infinity;
  for (let c = adjacency.faceStart[face]!; c < adjacency.faceStart[face + 1]!; c++) {
    const d = awayFromEdge(mesh, adjacency, c, point);
    if (d < least) [best, least] = [c, d];
  }
  return best;
}

/** The corner of a face that lies nearest to a point on it. */
export function nearestCorner(mesh: PolyMesh, adjacency: Adjacency, face: number, point: readonly number[]): number {
  let best = adjacency.faceStart[face]!;
  let least = Infinity;
  for (let c = adjacency.faceStart[face]!; c < adjacency.faceStart[face + 1]!; c++) {
    const d = length(sub(point, positionOf(mesh, c)));
    if (d < least) [best, least] = [c, d];
  }
  return best;
}

const sizeOf = ({ faceStart }: Adjacency, face: number): number => faceStart[face + 1]! - faceStart[face]!;

/** The corner after the next one: of a quad the one whose edge lies opposite. */
const afterNext = (adjacency: Adjacency, corner: number): number => nextCorner(adjacency, nextCorner(adjacency, corner));

/** All faces of a ring over quads, in its order, each once: where it crosses itself it goes on. */
function ringOfQuads(adjacency: Adjacency, edge: number): { faces: number[]; isClosed: boolean } {
  const ahead = runOfQuads(adjacency, edge);
  if (ahead.isClosed) return { faces: [...new Set(ahead.faces)], isClosed: true };
  const behind = runOfQuads(adjacency, afterNext(adjacency, edge));
  return { faces: [...new Set([...behind.faces.reverse(), ...ahead.faces])], isClosed: false };
}

/** Faces from the one that has the edge, over the edge, and on. A face that is crossed both ways is there twice. */
function runOfQuads(adjacency: Adjacency, edge: number): { faces: number[]; isClosed: boolean } {
  const { cornerFace, faceStart, neighbour } = adjacency;
  // Of the two ways through a quad only one is this run's.
  const wayOf = (c: number) => cornerFace[c]! * 2 + ((c - faceStart[cornerFace[c]!]!) % 2);
  const first = wayOf(edge);
  const seen = new Set<number>();
  const faces = [cornerFace[edge]!];
  for (let c = edge; ;) {
    const over = neighbour[c]!;
    if (over < 0) return { faces, isClosed: false };
    const way = wayOf(over);
    if (way === first) return { faces, isClosed: true };
    if (seen.has(way) || sizeOf(adjacency, cornerFace[over]!) !== 4) return { faces, isClosed: false };
    seen.add(way);
    faces.push(cornerFace[over]!);
    c = afterNext(adjacency, over);
  }
}

/**
 * The edge of a face whose ring one most likely means, where the pointer says nothing: a closed ring before
 * an open one, and of two alike the shorter. Counted from the face's first corner; 0 on a face that is no
 * quad.
 */
export function likeliestEdge(adjacency: Adjacency, face: number): number {
  if (sizeOf(adjacency, face) !== 4) return 0;
  const start = adjacency.faceStart[face]!;
  const [p, q] = [ringOfQuads(adjacency, start), ringOfQuads(adjacency, start + 1)];
  if (p.isClosed !== q.isClosed) return p.isClosed ? 0 : 1;
  return p.faces.length <= q.faces.length ? 0 : 1;
}

/** Whether a point on a face lies so near one of its edges, beside the face's size, that this one is meant. */
export function isNearEdge(mesh: PolyMesh, adjacency: Adjacency, face: number, edge: number, point: readonly number[]): boolean {
  return awayFromEdge(mesh, adjacency, edge, point) < 0.18 * Math.sqrt(adjacency.areas[face]!);
}

/** Metres from a point to the edge of a corner. */
const awayFromEdge = (mesh: PolyMesh, adjacency: Adjacency, c: number, point: readonly number[]): number =>
  distanceToLine(point, positionOf(mesh, c), positionOf(mesh, nextCorner(adjacency, c)));

function runOfTriangles(mesh: PolyMesh, adjacency: Adjacency, edge: number): number[] {
  const faces = [adjacency.cornerFace[edge]!];
  const seen = new Set(faces);
  for (let c = edge; ;) {
    const over = adjacency.neighbour[c]!;
    if (over < 0) return faces;
    const face = adjacency.cornerFace[over]!;
    if (seen.has(face) || sizeOf(adjacency, face) !== 3) return faces;
    seen.add(face);
    faces.push(face);
    c = exitOf(mesh, adjacency, over);
  }
}

/**
 * The edge by which a run that came in over an edge leaves a triangle: of the other two, the one that is more
 * nearly parallel to it.
 */
function exitOf(mesh: PolyMesh, adjacency: Adjacency, edge: number): number {
  const direction = (c: number) => unit(sub(positionOf(mesh, nextCorner(adjacency, c)), positionOf(mesh, c)));
  const own = direction(edge);
  const [p, q] = [nextCorner(adjacency, edge), afterNext(adjacency, edge)];
  const parallel = (c: number) => Math.abs(dot(direction(c), own));
  return parallel(p) >= parallel(q) ? p : q;
}

const positionOf = ({ positions, cornerVertex }: PolyMesh, c: number): number[] => {
  const v = cornerVertex[c]! * 3;
  return [positions[v]!, positions[v + 1]!, positions[v + 2]!];
};
const sub = (p: readonly number[], q: readonly number[]) => [p[0]! - q[0]!, p[1]! - q[1]!, p[2]! - q[2]!];
const dot = (p: readonly number[], q: readonly number[]) => p[0]! * q[0]! + p[1]! * q[1]! + p[2]! * q[2]!;
const length = (p: readonly number[]) => Math.hypot(p[0]!, p[1]!, p[2]!);
const unit = (p: readonly number[]) => p.map((v) => v / (length(p) || 1));
