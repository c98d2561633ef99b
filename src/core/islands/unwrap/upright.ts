import type { Chart } from './chart';
import type { Flat } from './flat';

/**
 * Turns a flat chart, in place, so that what is up on the model is up on it; where it lies level, so that the back
 * is up on its upper side, and else so that its box is smallest.
 */
export function upright({ points, triangles }: Chart, flat: Flat): void {
  const { x, y } = flat;
  for (const axis of [1, 2]) {
    // The direction in the plane along which the axis grows, over all triangles.
    let [gx, gy, all] = [0, 0, 0];
    for (let t = 0; t < triangles.length; t += 3) {
      const [a, b, c] = [triangles[t]!, triangles[t + 1]!, triangles[t + 2]!];
      const height = (v: number) => points[v * 3 + axis]! * (axis === 2 ? -1 : 1);
      const [u, v] = [height(b) - height(a), height(c) - height(a)];
      const [bx, by, cx, cy] = [x[b]! - x[a]!, y[b]! - y[a]!, x[c]! - x[a]!, y[c]! - y[a]!];
      gx += u * cy - v * by;
      gy += v * bx - u * cx;
      all += Math.abs(bx * cy - by * cx);
    }
    const size = Math.hypot(gx, gy);
    if (size > 0.1 * all) {
      turn(flat, gy / size, gx / size);
      return;
    }
  }
  let [best, least] = [0, Infinity];
  for (let degrees = 0; degrees < 90; degrees += 1) {
    const [c, s] = [Math.cos((degrees * Math.PI) / 180), Math.sin((degrees * Math.PI) / 180)];
    let [x0, x1, y0, y1] = [Infinity, -Infinity, Infinity, -Infinity];
    for (let v = 0; v < x.length; v++) {
      const [px, py] = [c * x[v]! - s * y[v]!, s * x[v]! + c * y[v]!];
      [x0, x1, y0, y1] = [Math.min(x0, px), Math.max(x1, px), Math.min(y0, py), Math.max(y1, py)];
    }
    if ((x1 - x0) * (y1 - y0) < least * (1 - 1e-6)) [best, least] = [degrees, (x1 - x0) * (y1 - y0)];
  }
  turn(flat, Math.cos((best * Math.PI) / 180), Math.sin((best * Math.PI) / 180));
}

function turn({ x, y }: Flat, c: number, s: number): void {
  for (let v = 0; v < x.length; v++) [x[v], y[v]] = [c * x[v]! - s * y[v]!, s * x[v]! + c * y[v]!];
}
