import type { Pixels } from '../../kit/pixels';

/**
 * Texels that show the same cell as one of them and hang together with it by their sides, ascending. `within`: 1 where they
 * may lie; `links`: texels that touch besides, as across a seam on a model.
 */
export function touchingTexels(
  { width, cells }: Pixels,
  texel: number,
  within?: Uint8Array,
  links?: ReadonlyMap<number, Iterable<number>>,
): Uint32Array {
  const cell = cells[texel]!;
  if (within && !within[texel]) return new Uint32Array(0);
  // 1 where they may still be taken.
  const isOpen = openTexels(cells, cell, within);
  const runs: number[] = [];
  // Stretches of rows in which the next texels may lie, as their first and their last one.
  const stretches = [texel, texel];
  while (stretches.length) {
    const last = stretches.pop()!;
    let t = stretches.pop()!;
    const start = t - (t % width);
    const row = isOpen.subarray(start, start + width);
    // What the engine searches for natively is found many texels at a time.
    for (let step; t <= last && (step = row.subarray(t - start, last + 1 - start).indexOf(1)) >= 0;) {
      t += step;
      const from = start + row.lastIndexOf(0, t - start) + 1;
      const next = row.indexOf(0, t - start);
      const to = start + (next < 0 ? width : next) - 1;
      isOpen.fill(0, from, to + 1);
      runs.push(from, to);
      if (from >= width) stretches.push(from - width, to - width);
      if (to + width < isOpen.length) stretches.push(from + width, to + width);
      if (links) for (let k = from; k <= to; k++) for (const n of links.get(k) ?? []) if (isOpen[n]) stretches.push(n, n);
      t = to + 1;
    }
  }
  return texelsOf(runs);
}

/** The texels of one color, 1 each. */
function openTexels(cells: Uint16Array, cell: number, within?: Uint8Array): Uint8Array {
  const isOpen = new Uint8Array(cells.length);
  for (let t = 0; t < cells.length; t++) isOpen[t] = cells[t] === cell ? 1 : 0;
  if (within) for (let t = 0; t < within.length; t++) if (!within[t]) isOpen[t] = 0;
  return isOpen;
}

/** The texels of runs, each its first and its last, ascending. */
function texelsOf(runs: readonly number[]): Uint32Array {
  const order = Uint32Array.from({ length: runs.length / 2 }, (_, i) => i * 2).sort((a, b) => runs[a]! - runs[b]!);
  const out = new Uint32Array(runs.reduce((sum, v, i) => sum + (i % 2 ? v + 1 : -v), 0));
  let n = 0;
  for (const i of order) {
    const last = runs[i + 1]!;
    for (let t = runs[i]!; t <= last; t++) out[n++] = t;
  }
  return out;
}

/** All texels that show a cell, ascending. */
export function texelsShowing({ cells }: Pixels, cell: number, within?: Uint8Array): Uint32Array {
  const isIn = new Uint8Array(cells.length);
  for (let t = 0; t < cells.length; t++) if (cells[t] === cell && (!within || within[t])) isIn[t] = 1;
  return where(isIn);
}

/** The texels that are marked by 1, ascending. */
export function where(isIn: Uint8Array): Uint32Array {
  let count = 0;
  for (let t = 0; t < isIn.length; t++) count += isIn[t]!;
  const out = new Uint32Array(count);
  let n = 0;
  for (let t = 0; t < isIn.length; t++) if (isIn[t]) out[n++] = t;
  return out;
}
