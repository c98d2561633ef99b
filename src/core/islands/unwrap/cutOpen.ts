import { edgeCorner } from '../../shapes/pick/edges';
import { nextCorner, type Adjacency } from '../../shapes/mesh/adjacency';
import { pathBetween } from './edgePath';
import type { Chart, Surface } from './chart';

/** Degrees from which an edge is a crease along which a cut may end, and what a point may lack of a full turn. */
const crease = 50;
const dent = 3;

/**
 * Edges along which a chart has to be cut so that it becomes a disk: around what is closed, from border to border,
 * and into the tips of what is bent, as the corners of a box. Corners as `edgeCorner` gives them.
 *
 * Method: the faces are joined to a tree, over the flattest edges first; of the edges that are left, those that end
 * nowhere are taken away again (a cut graph, after Erickson and Har-Peled, 2004).
 */
export function cutOpen({ mesh, adjacency }: Surface, chart: Chart): Uint32Array {
  const { neighbour, cosine } = adjacency;
  const place = new Map<number, number>();
  chart.corners.forEach((c, i) => place.set(c, i));
  const vertexOf = (c: number) => chart.cornerVertex[place.get(c)!]!;
  const isJoined = (c: number) => {
    const d = neighbour[c]!;
    return (
      d >= 0 && place.has(d) && vertexOf(c) === vertexOf(nextCorner(adjacency, d)) && vertexOf(nextCorner(adjacency, c)) === vertexOf(d)
    );
  };
  const crossed = crossedEdges(adjacency, chart, isJoined, (c) => Math.round(angleOf(cosine[c]!)));
  const border = new Set(chart.loops.flatMap((l) => [...l]));
  const cut = new Set<number>();
  const edgesOf = new Map<number, number[]>();
  for (const c of chart.corners) {
    const edge = edgeCorner(adjacency, c);
    if (!isJoined(c) || crossed.has(edge) || cut.has(edge)) continue;
    cut.add(edge);
    for (const v of [vertexOf(c), vertexOf(nextCorner(adjacency, c))]) {
      const list = edgesOf.get(v);
      if (list) list.push(edge);
      else edgesOf.set(v, [edge]);
    }
  }
  const lacking = turnsLacking(chart);
  const left = new Map([...edgesOf].map(([v, list]) => [v, list.length]));
  const ends = [...left.keys()];
  for (let v = ends.pop(); v !== undefined; v = ends.pop()) {
    if (left.get(v) !== 1 || border.has(v)) continue;
    const edge = edgesOf.get(v)!.find((e) => cut.has(e))!;
    if (angleOf(cosine[edge]!) > crease && Math.abs(lacking[v]!) > dent) continue;
    cut.delete(edge);
    for (const w of [vertexOf(edge), vertexOf(nextCorner(adjacency, edge))]) {
      left.set(w, left.get(w)! - 1);
      ends.push(w);
    }
  }
  if (cut.size || chart.loops.length) return Uint32Array.from(cut).sort();
  // A closed chart without a tip is opened from end to end.
  const [from, to] = farCorners(mesh.positions, mesh.cornerVertex, chart.corners);
  return pathBetween(mesh, adjacency, [from], [to]) ?? new Uint32Array(0);
}

const angleOf = (cosine: number): number => (Math.acos(Math.max(-1, Math.min(1, cosine))) * 180) / Math.PI;

/** Edges over which the faces of a chart make one tree: by whole degrees of fold, and within one the nearest first. */
function crossedEdges(
  adjacency: Adjacency,
  { faces }: Chart,
  isJoined: (c: number) => boolean,
  foldOf: (c: number) => number,
): Set<number> {
  const { faceStart, neighbour, cornerFace, areas } = adjacency;
  const waiting: number[][] = Array.from({ length: 181 }, () => []);
  const crossed = new Set<number>();
  const isIn = new Set<number>();
  const enter = (f: number) => {
    isIn.add(f);
    for (let c = faceStart[f]!; c < faceStart[f + 1]!; c++) if (isJoined(c)) waiting[foldOf(c)]!.push(c);
  };
  enter(faces.reduce((best, f) => (areas[f]! > areas[best]! ? f : best), faces[0]!));
  const heads = new Uint32Array(181);
  for (let fold = 0; fold < 181;) {
    const c = waiting[fold]![heads[fold]!++];
    if (c === undefined) {
      heads[fold]!--;
      fold++;
      continue;
    }
    const f = cornerFace[neighbour[c]!]!;
    if (isIn.has(f)) continue;
    crossed.add(edgeCorner(adjacency, c));
    enter(f);
    fold = 0;
  }
  return crossed;
}

/** Degrees that the angles around each vertex lack of a full turn; below 0 where there is more. */
function turnsLacking({ points, triangles }: Chart): Float64Array {
  const lacking = new Float64Array(points.length / 3).fill(360);
  for (let t = 0; t < triangles.length; t += 3)
    for (let k = 0; k < 3; k++) {
      const [a, b, c] = [0, 1, 2].map((i) => triangles[t + ((k + i) % 3)]! * 3) as [number, number, number];
      const u = [0, 1, 2].map((i) => points[b + i]! - points[a + i]!);
      const v = [0, 1, 2].map((i) => points[c + i]! - points[a + i]!);
      const dot = u.reduce((sum, x, i) => sum + x * v[i]!, 0) / (Math.hypot(...u) * Math.hypot(...v) || 1);
      lacking[triangles[t + k]!]! -= angleOf(dot);
    }
  return lacking;
}

/** Two corners that lie far apart in space. */
function farCorners(positions: Float32Array, cornerVertex: Uint32Array, corners: Uint32Array): [number, number] {
  const distance = (c: number, d: number) =>
    Math.hypot(...[0, 1, 2].map((k) => positions[cornerVertex[c]! * 3 + k]! - positions[cornerVertex[d]! * 3 + k]!));
  const farthest = (from: number) => corners.reduce((best, c) => (distance(from, c) > distance(from, best) ? c : best), from);
  const one = farthest(corners[0]!);
  return [one, farthest(one)];
}
