import type { Chart } from './chart';
import type { Flat } from './flat';
import { factorise, solve } from './sparse';

/**
 * Lays a disk flat without any flipped triangle: its border on a circle, every other vertex in the middle of its
 * neighbours (Tutte, 1963). A start for `relax`, where the conformal map flips; by itself it stretches much.
 */
export function onCircle({ points, triangles, loops: [loop] }: Chart, order: Uint32Array): Flat | null {
  const n = points.length / 3;
  const isBorder = new Uint8Array(n);
  const x = new Float64Array(n);
  const y = new Float64Array(n);
  const steps = Float64Array.from(loop!, (v, k) => {
    const w = loop![(k + 1) % loop!.length]!;
    return Math.hypot(...[0, 1, 2].map((a) => points[v * 3 + a]! - points[w * 3 + a]!));
  });
  const around = steps.reduce((sum, s) => sum + s, 0) || 1;
  let gone = 0;
  loop!.forEach((v, k) => {
    const angle = (2 * Math.PI * gone) / around;
    [x[v], y[v], isBorder[v]] = [Math.cos(angle), Math.sin(angle), 1];
    // No two vertices at one place, even where the border has edges of no length.
    gone += (steps[k]! + (1e-3 * around) / loop!.length) / (1 + 1e-3);
  });
  const rows: number[] = [];
  const columns: number[] = [];
  const values: number[] = [];
  const put = (i: number, j: number, value: number) => {
    rows.push(i);
    columns.push(j);
    values.push(value);
  };
  for (let v = 0; v < n; v++) if (isBorder[v]) put(v, v, 1);
  // Each inner edge is met once from either side: half a weight from each.
  for (let t = 0; t < triangles.length; t += 3)
    for (let k = 0; k < 3; k++) {
      const [i, j] = [triangles[t + k]!, triangles[t + ((k + 1) % 3)]!];
      for (const [a, b] of [
        [i, j],
        [j, i],
      ] as const) {
        if (isBorder[a]) continue;
        put(a, a, 0.5);
        if (isBorder[b]) {
          x[a]! += 0.5 * x[b]!;
          y[a]! += 0.5 * y[b]!;
        } else if (a < b) put(a, b, -0.5);
      }
    }
  const factor = factorise({ n, row: Uint32Array.from(rows), column: Uint32Array.from(columns), re: Float64Array.from(values) }, order);
  if (!factor) return null;
  solve(factor, x, y);
  return { x, y };
}
