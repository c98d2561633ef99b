import { cotangents, twiceArea, type Flat, type Rest } from './flat';
import { factorise, solve } from './sparse';

/**
 * Brings a flat chart nearer to true lengths, in place, step by step and without flipping a triangle that is not
 * flipped already. `steps`: at most so many.
 *
 * Method: as rigid as possible, local and global in turn (Liu, Zhang, Xu, Gotsman, Gortler, 2008); a step goes no
 * farther than 0.9 of the way to the first flip (Smith, Schaefer, 2015).
 */
export function relax(triangles: Uint32Array, rest: Rest, flat: Flat, order: Uint32Array, steps: number): void {
  const n = flat.x.length;
  const count = triangles.length / 3;
  const cots = Float64Array.from({ length: count * 3 }, () => 0);
  const rows = new Uint32Array(triangles.length * 3 + 1);
  const columns = new Uint32Array(triangles.length * 3 + 1);
  const values = new Float64Array(triangles.length * 3 + 1);
  let e = 0;
  for (let t = 0; t < count; t++) {
    cots.set(cotangents(rest, t), t * 3);
    for (let k = 0; k < 3; k++) {
      const [i, j] = [triangles[t * 3 + ((k + 1) % 3)]!, triangles[t * 3 + ((k + 2) % 3)]!];
      const w = cots[t * 3 + k]!;
      for (const [a, b, value] of [
        [i, i, w],
        [j, j, w],
        [i, j, -w],
      ] as const) {
        rows[e] = a;
        columns[e] = b;
        values[e++] = value;
      }
    }
  }
  // One vertex is held, or all could move.
  const held = order[n - 1]!;
  rows[e] = columns[e] = held;
  values[e] = values.reduce((most, v) => Math.max(most, v), 0) + 1;
  const weight = values[e]!;
  const factor = factorise({ n, row: rows, column: columns, re: values }, order);
  if (!factor) return;
  let energy = Infinity;
  for (let step = 0; step < steps; step++) {
    const goal = { x: new Float64Array(n), y: new Float64Array(n) };
    const now = turnsAndSums(triangles, rest, cots, flat, goal);
    if (energy - now < 1e-5 * energy) return;
    energy = now;
    goal.x[held]! += weight * flat.x[held]!;
    goal.y[held]! += weight * flat.y[held]!;
    solve(factor, goal.x, goal.y);
    const far = farthestStep(triangles, flat, goal);
    for (let v = 0; v < n; v++) {
      flat.x[v]! += far * (goal.x[v]! - flat.x[v]!);
      flat.y[v]! += far * (goal.y[v]! - flat.y[v]!);
    }
    if (far < 1e-3) return;
  }
}

/** The turn that each triangle is nearest to; sums up what it asks of its corners. Returns how far all are from it. */
function turnsAndSums(triangles: Uint32Array, rest: Rest, cots: Float64Array, { x, y }: Flat, sums: Flat): number {
  let energy = 0;
  for (let t = 0; t < triangles.length / 3; t++) {
    const shape = [0, 0, rest.length[t]!, 0, rest.px[t]!, rest.py[t]!];
    let [dot, cross] = [0, 0];
    for (let k = 0; k < 3; k++) {
      const [i, j] = [(k + 1) % 3, (k + 2) % 3];
      const w = cots[t * 3 + k]!;
      const [a, b] = [triangles[t * 3 + i]!, triangles[t * 3 + j]!];
      const [ex, ey] = [x[a]! - x[b]!, y[a]! - y[b]!];
      const [sx, sy] = [shape[i * 2]! - shape[j * 2]!, shape[i * 2 + 1]! - shape[j * 2 + 1]!];
      dot += w * (ex * sx + ey * sy);
      cross += w * (ey * sx - ex * sy);
      energy += w * (ex * ex + ey * ey + sx * sx + sy * sy);
    }
    const size = Math.hypot(dot, cross);
    const [c, s] = size > 0 ? [dot / size, cross / size] : [1, 0];
    energy -= 2 * size;
    for (let k = 0; k < 3; k++) {
      const [i, j] = [(k + 1) % 3, (k + 2) % 3];
      const w = cots[t * 3 + k]!;
      const [sx, sy] = [shape[i * 2]! - shape[j * 2]!, shape[i * 2 + 1]! - shape[j * 2 + 1]!];
      const [rx, ry] = [w * (c * sx - s * sy), w * (s * sx + c * sy)];
      const [a, b] = [triangles[t * 3 + i]!, triangles[t * 3 + j]!];
      sums.x[a]! += rx;
      sums.y[a]! += ry;
      sums.x[b]! -= rx;
      sums.y[b]! -= ry;
    }
  }
  return energy;
}

/** How far one may go from a flat chart to another, 1 at most, before a triangle that is not flipped now has no area. */
function farthestStep(triangles: Uint32Array, from: Flat, to: Flat): number {
  let far = 1 / 0.9;
  for (let t = 0; t < triangles.length / 3; t++) {
    const c = twiceArea(triangles, from, t);
    if (c <= 0) continue;
    // The area along the way is a t² + b t + c; it is known at 0, at 1, and by its slope.
    const whole = twiceArea(triangles, to, t);
    const b = slope(triangles, from, to, t);
    const a = whole - b - c;
    const root = firstRoot(a, b, c);
    if (root < far) far = root;
  }
  return Math.min(1, 0.9 * far);
}

function slope(triangles: Uint32Array, from: Flat, to: Flat, t: number): number {
  const [a, b, c] = [triangles[t * 3]!, triangles[t * 3 + 1]!, triangles[t * 3 + 2]!];
  const edge = (flat: Flat, p: number, q: number) => [flat.x[q]! - flat.x[p]!, flat.y[q]! - flat.y[p]!] as const;
  const [u, v] = [edge(from, a, b), edge(from, a, c)];
  const [p, q] = [edge(to, a, b), edge(to, a, c)];
  const [du, dv] = [
    [p[0] - u[0], p[1] - u[1]],
    [q[0] - v[0], q[1] - v[1]],
  ] as [[number, number], [number, number]];
  return du[0] * v[1] - du[1] * v[0] + u[0] * dv[1] - u[1] * dv[0];
}

/** The least t above 0 at which a t² + b t + c is 0, for c above 0; infinite where there is none. */
function firstRoot(a: number, b: number, c: number): number {
  if (Math.abs(a) < 1e-14 * (Math.abs(b) + c)) return b < 0 ? -c / b : Infinity;
  const d = b * b - 4 * a * c;
  if (d < 0) return Infinity;
  const q = -(b + (b < 0 ? -1 : 1) * Math.sqrt(d)) / 2;
  const roots = [q / a, q === 0 ? Infinity : c / q].filter((t) => t > 0);
  return Math.min(...roots, Infinity);
}
