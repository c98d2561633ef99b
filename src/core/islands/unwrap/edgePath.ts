import { edgeCorner } from '../../shapes/pick/edges';
import { nextCorner, type Adjacency } from '../../shapes/mesh/adjacency';
import type { PolyMesh } from '../../shapes/mesh/polyMesh';

/** How much shorter a fold of 90 degrees and more makes an edge seem. */
const preference = 0.7;

/**
 * The way along edges from the point of any of some corners to that of any of some others: the shortest, where a sharp
 * edge counts for less than its length. Edges as `edgeCorner` gives them; `null` where they do not hang together.
 * Method: Dijkstra (1959).
 */
export function pathBetween(mesh: PolyMesh, adjacency: Adjacency, from: Iterable<number>, to: Iterable<number>): Uint32Array | null {
  const { cornerPoint, pointCount, cosine, neighbour } = adjacency;
  const corners = cornersOfPoints(adjacency);
  const least = new Float64Array(pointCount).fill(Infinity);
  const by = new Int32Array(pointCount).fill(-1);
  const done = new Uint8Array(pointCount);
  const queue = heap();
  const ends = new Set([...to].map((c) => cornerPoint[c]!));
  for (const c of from) {
    least[cornerPoint[c]!] = 0;
    queue.push(0, cornerPoint[c]!);
  }
  let end = queue.pop();
  for (; end >= 0 && !ends.has(end); end = queue.pop()) {
    const p = end;
    if (done[p]) continue;
    done[p] = 1;
    for (let k = corners.start[p]!; k < corners.start[p + 1]!; k++) {
      const edge = corners.edge[k]!;
      const [a, b] = [cornerPoint[edge]!, cornerPoint[nextCorner(adjacency, edge)]!];
      const q = a === p ? b : a;
      // An open border is no fold.
      const fold = neighbour[edge]! < 0 ? 0 : Math.min(1, 1 - cosine[edge]!);
      const way = least[p]! + lengthOf(mesh, adjacency, edge) * (1 - preference * fold);
      if (way >= least[q]!) continue;
      least[q] = way;
      by[q] = edge;
      queue.push(way, q);
    }
  }
  if (end < 0) return null;
  const path: number[] = [];
  for (let p = end; by[p]! >= 0;) {
    const edge = by[p]!;
    path.push(edgeCorner(adjacency, edge));
    const [a, b] = [cornerPoint[edge]!, cornerPoint[nextCorner(adjacency, edge)]!];
    p = a === p ? b : a;
  }
  return Uint32Array.from(path).sort();
}

function lengthOf({ positions, cornerVertex }: PolyMesh, adjacency: Adjacency, c: number): number {
  const [v, w] = [cornerVertex[c]! * 3, cornerVertex[nextCorner(adjacency, c)]! * 3];
  return Math.hypot(positions[v]! - positions[w]!, positions[v + 1]! - positions[w + 1]!, positions[v + 2]! - positions[w + 2]!);
}

/** Corners whose edges begin or end at each point. */
function cornersOfPoints(adjacency: Adjacency): { start: Uint32Array; edge: Uint32Array } {
  const { cornerPoint, pointCount } = adjacency;
  const start = new Uint32Array(pointCount + 1);
  const ends = (c: number) => [cornerPoint[c]!, cornerPoint[nextCorner(adjacency, c)]!];
  for (let c = 0; c < cornerPoint.length; c++) for (const p of ends(c)) start[p + 1]!++;
  for (let p = 0; p < pointCount; p++) start[p + 1]! += start[p]!;
  const fill = start.slice(0, pointCount);
  const edge = new Uint32Array(cornerPoint.length * 2);
  for (let c = 0; c < cornerPoint.length; c++) for (const p of ends(c)) edge[fill[p]!++] = c;
  return { start, edge };
}

/** Numbers by their weight, the least first; -1 where none is left. */
function heap(): { push: (weight: number, value: number) => void; pop: () => number } {
  const weights: number[] = [];
  const values: number[] = [];
  const swap = (i: number, j: number) => {
    [weights[i], weights[j]] = [weights[j]!, weights[i]!];
    [values[i], values[j]] = [values[j]!, values[i]!];
  };
  return {
    push(weight, value) {
      weights.push(weight);
      values.push(value);
      for (let i = weights.length - 1; i > 0 && weights[(i - 1) >> 1]! > weights[i]!; i = (i - 1) >> 1) swap(i, (i - 1) >> 1);
    },
    pop() {
      if (!values.length) return -1;
      swap(0, values.length - 1);
      weights.pop();
      const value = values.pop()!;
      for (let i = 0; ;) {
        const [l, r] = [i * 2 + 1, i * 2 + 2];
        let least = i;
        if (l < weights.length && weights[l]! < weights[least]!) least = l;
        if (r < weights.length && weights[r]! < weights[least]!) least = r;
        if (least === i) return value;
        swap(i, least);
        i = least;
      }
    },
  };
}
