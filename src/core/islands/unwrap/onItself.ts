import Flatbush from 'flatbush';
import type { Flat } from './flat';

/** How deep triangles must lie in each other to overlap, as a share of the chart's size: a hundredth of a texel on the largest sheets. */
const depth = 1e-6;

/**
 * Two triangles of a flat chart that lie over each other, by their numbers; `null` where none do. Exact but for the
 * depth: neighbours that only touch do not overlap, whatever the borders of the chart do, and slivers overlap nothing.
 *
 * Method: boxes in an R-tree, then separating axes: two triangles are apart where they are so across a side of one.
 */
export function onItself({ x, y }: Flat, triangles: Uint32Array): [number, number] | null {
  const n = triangles.length / 3;
  if (n < 2) return null;
  const tree = new Flatbush(n);
  const boxes = new Float64Array(n * 4);
  let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity];
  for (let t = 0; t < n; t++) {
    const [a, b, c] = [triangles[t * 3]!, triangles[t * 3 + 1]!, triangles[t * 3 + 2]!];
    const box = [
      Math.min(x[a]!, x[b]!, x[c]!),
      Math.min(y[a]!, y[b]!, y[c]!),
      Math.max(x[a]!, x[b]!, x[c]!),
      Math.max(y[a]!, y[b]!, y[c]!),
    ];
    boxes.set(box, t * 4);
    [x0, y0, x1, y1] = [Math.min(x0, box[0]!), Math.min(y0, box[1]!), Math.max(x1, box[2]!), Math.max(y1, box[3]!)];
    tree.add(box[0]!, box[1]!, box[2]!, box[3]!);
  }
  tree.finish();
  const least = Math.max(x1 - x0, y1 - y0) * depth;
  const isApart = (t: number, u: number) => isApartBySide(x, y, triangles, t, u, least) || isApartBySide(x, y, triangles, u, t, least);
  let found: [number, number] | null = null;
  for (let t = 0; t < n && !found; t++) {
    const [left, low, right, high] = [boxes[t * 4]!, boxes[t * 4 + 1]!, boxes[t * 4 + 2]!, boxes[t * 4 + 3]!];
    tree.search(left + least, low + least, right - least, high - least, (u) => {
      if (u < t && !found && !isApart(t, u)) found = [u, t];
      return false;
    });
  }
  return found;
}

/** Whether across a side of the first triangle the two have less than so much in common. */
function isApartBySide(x: Float64Array, y: Float64Array, triangles: Uint32Array, t: number, u: number, least: number): boolean {
  for (let k = 0; k < 3; k++) {
    const [a, b, c] = [triangles[t * 3 + k]!, triangles[t * 3 + ((k + 1) % 3)]!, triangles[t * 3 + ((k + 2) % 3)]!];
    const [dx, dy] = [x[b]! - x[a]!, y[b]! - y[a]!];
    const length = Math.hypot(dx, dy);
    if (!length) return true;
    const across = (v: number) => (dx * (y[v]! - y[a]!) - dy * (x[v]! - x[a]!)) / length;
    const own = across(c);
    const others = [across(triangles[u * 3]!), across(triangles[u * 3 + 1]!), across(triangles[u * 3 + 2]!)] as const;
    const common = Math.min(Math.max(own, 0), Math.max(...others)) - Math.max(Math.min(own, 0), Math.min(...others));
    if (common <= least) return true;
  }
  return false;
}
