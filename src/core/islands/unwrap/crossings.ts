import type { Flat } from './flat';

/** Segments looked at in one square of the grid at most, so that a crowd costs no time without end. */
const mostInSquare = 400;

/**
 * Whether the borders of a flat chart cross each other or themselves; if so, the first vertices of two
 * sides that do. A chart without flipped triangles lies on itself only where they do. Sides that touch do not cross.
 */
export function crossing({ x, y }: Flat, loops: readonly Uint32Array[]): [number, number] | null {
  const from = loops.flatMap((l) => [...l]);
  const to = loops.flatMap((l) => [...l.subarray(1), l[0]!]);
  const n = from.length;
  if (n < 4) return null;
  let [x0, x1, y0, y1, sum] = [Infinity, -Infinity, Infinity, -Infinity, 0];
  for (let k = 0; k < n; k++) {
    const [px, py] = [x[from[k]!]!, y[from[k]!]!];
    [x0, x1, y0, y1] = [Math.min(x0, px), Math.max(x1, px), Math.min(y0, py), Math.max(y1, py)];
    sum += Math.hypot(x[to[k]!]! - px, y[to[k]!]! - py);
  }
  const size = Math.max(x1 - x0, y1 - y0, 1e-12);
  // About two squares a side, so that few sides share one.
  const step = Math.max(sum / n, size / 512);
  const tolerance = size * 1e-6;
  const squares = new Map<number, number[]>();
  const at = (v: number, low: number) => Math.floor((v - low) / step);
  for (let k = 0; k < n; k++) {
    const [a, b] = [from[k]!, to[k]!];
    for (let i = at(Math.min(x[a]!, x[b]!), x0); i <= at(Math.max(x[a]!, x[b]!), x0); i++)
      for (let j = at(Math.min(y[a]!, y[b]!), y0); j <= at(Math.max(y[a]!, y[b]!), y0); j++) {
        const list = squares.get(i * 4096 + j);
        if (!list) {
          squares.set(i * 4096 + j, [k]);
          continue;
        }
        for (const other of list) if (crosses(x, y, a, b, from[other]!, to[other]!, tolerance)) return [a, from[other]!];
        if (list.length < mostInSquare) list.push(k);
      }
  }
  return null;
}

/** Whether two segments cross, each with its ends on either side of the other by more than the tolerance. */
function crosses(x: Float64Array, y: Float64Array, a: number, b: number, c: number, d: number, tolerance: number): boolean {
  if (a === c || a === d || b === c || b === d) return false;
  const side = (p: number, q: number, r: number) => {
    const [ux, uy] = [x[q]! - x[p]!, y[q]! - y[p]!];
    return (ux * (y[r]! - y[p]!) - uy * (x[r]! - x[p]!)) / (Math.hypot(ux, uy) || 1);
  };
  const isApart = (s: number, t: number) => (s > tolerance && t < -tolerance) || (s < -tolerance && t > tolerance);
  return isApart(side(a, b, c), side(a, b, d)) && isApart(side(c, d, a), side(c, d, b));
}
