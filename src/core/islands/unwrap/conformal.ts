import type { Chart } from './chart';
import { cotangents, type Flat, type Rest } from './flat';
import { factorise, solve } from './sparse';

/**
 * Lays a chart flat so that angles change as little as they can; its border is free. `null` where the equations have
 * no single solution, as for a closed chart.
 *
 * Method: least squares conformal maps (Lévy, Petitjean, Ray, Maillot, 2002) as the Dirichlet energy less the area,
 * which the border alone tells (Mullen, Tong, Alliez, Desbrun, 2008): with u + iv one Hermitian unknown a vertex
 * instead of two real ones. Two vertices far apart on the border are held at their distance.
 */
export function conformal(chart: Chart, rest: Rest, order: Uint32Array): Flat | null {
  const { points, triangles, loops } = chart;
  const n = points.length / 3;
  const held = farApart(chart);
  if (!held) return null;
  const borders = loops.reduce((sum, l) => sum + l.length, 0);
  const most = triangles.length * 3 + borders + 2;
  const entries = { n, row: new Uint32Array(most), column: new Uint32Array(most), re: new Float64Array(most), im: new Float64Array(most) };
  const isHeld = new Uint8Array(n);
  isHeld[held[0]] = isHeld[held[1]] = 1;
  const x = new Float64Array(n);
  const y = new Float64Array(n);
  const place = new Float64Array(n);
  place[held[1]] = distance(points, held[0], held[1]);
  let e = 0;
  const put = (i: number, j: number, re: number, im: number) => {
    entries.row[e] = i;
    entries.column[e] = j;
    entries.re[e] = re;
    entries.im[e++] = im;
  };
  /** The entry (i, j), and with it (j, i); what meets a held vertex goes to the right hand side. */
  const join = (i: number, j: number, re: number, im: number) => {
    if (!isHeld[i] && !isHeld[j]) put(i, j, re, im);
    else if (!isHeld[i]) {
      x[i]! -= re * place[j]!;
      y[i]! -= im * place[j]!;
    } else if (!isHeld[j]) {
      x[j]! -= re * place[i]!;
      y[j]! += im * place[i]!;
    }
  };
  for (let t = 0; t < triangles.length / 3; t++) {
    const cot = cotangents(rest, t);
    for (let k = 0; k < 3; k++) {
      const [i, j] = [triangles[t * 3 + ((k + 1) % 3)]!, triangles[t * 3 + ((k + 2) % 3)]!];
      const w = cot[k]! / 2;
      if (!isHeld[i]) put(i, i, w, 0);
      if (!isHeld[j]) put(j, j, w, 0);
      join(i, j, -w, 0);
    }
  }
  for (const loop of loops) loop.forEach((i, k) => join(i, loop[(k + 1) % loop.length]!, 0, 0.5));
  for (const h of held) put(h, h, 1, 0);
  const used = {
    n,
    row: entries.row.subarray(0, e),
    column: entries.column.subarray(0, e),
    re: entries.re.subarray(0, e),
    im: entries.im.subarray(0, e),
  };
  const factor = factorise(used, order);
  if (!factor) return null;
  for (const h of held) [x[h], y[h]] = [place[h]!, 0];
  solve(factor, x, y);
  return { x, y };
}

const distance = (points: Float64Array, a: number, b: number): number =>
  Math.hypot(points[a * 3]! - points[b * 3]!, points[a * 3 + 1]! - points[b * 3 + 1]!, points[a * 3 + 2]! - points[b * 3 + 2]!);

/** Two vertices of the borders that lie far apart. */
export function farApart({ points, loops }: Chart): [number, number] | null {
  const all = loops.flatMap((l) => [...l]);
  const farthest = (from: number) => all.reduce((best, v) => (distance(points, from, v) > distance(points, from, best) ? v : best), from);
  if (!all.length) return null;
  const one = farthest(all[0]!);
  const other = farthest(one);
  return one === other ? null : [one, other];
}
