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
  // 1 where they may still be taken, with a border that never is, so that each run ends within its row.
  const wide = width + 1;
  const isOpen = openTexels(cells, width, cell, within);
  const runs: number[] = [];
  // Stretches of rows in which the next texels may lie, as their first and their last one.
  const start = Math.floor(texel / width) * wide + 1 + (texel % width);
  const stretches = [start, start];
  while (stretches.length) {
    const last = stretches.pop()!;
    let t = stretches.pop()!;
    // What the engine searches for natively is found many texels at a time.
    for (let step; (step = isOpen.subarray(t, last + 1).indexOf(1)) >= 0;) {
      t += step;
      const from = isOpen.lastIndexOf(0, t) + 1;
      const to = isOpen.indexOf(0, t) - 1;
      isOpen.fill(0, from, to + 1);
      const row = Math.floor(from / wide);
      const first = from - row - 1;
      runs.push(first, first + to - from);
      if (row > 0) stretches.push(from - wide, to - wide);
      if (to + wide < isOpen.length) stretches.push(from + wide, to + wide);
      if (links)
        for (let k = first; k <= first + to - from; k++)
          for (const n of links.get(k) ?? []) {
            const there = n + Math.floor(n / width) + 1;
            if (isOpen[there]) stretches.push(there, there);
          }
      t = to + 1;
    }
  }
  return texelsOf(runs);
}

/** The texels of one color, 1 each, behind a 0 in every row, and one at the end. */
function openTexels(cells: Uint16Array, width: number, cell: number, within?: Uint8Array): Uint8Array {
  const height = cells.length / width;
  const isOpen = new Uint8Array((width + 1) * height + 1);
  for (let y = 0, t = 0, at = 0; y < height; y++) {
    at++;
    for (const end = t + width; t < end; t++, at++) isOpen[at] = cells[t] === cell ? 1 : 0;
  }
  if (within) for (let t = 0; t < within.length; t++) if (!within[t]) isOpen[t + Math.floor(t / width) + 1] = 0;
  return isOpen;
}

/** The texels of runs, each its first and its last, ascending. */
function texelsOf(runs: readonly number[]): Uint32Array {
  const order = Uint32Array.from({ length: runs.length / 2 }, (_, i) => i * 2).sort((a, b) => runs[a]! - runs[b]!);
  const out = new Uint32Array(runs.reduce((sum, v, i) => sum + (i % 2 ? v + 1 : -v), 0));
  let n = 0;
  for (const i of order) for (let t = runs[i]!; t <= runs[i + 1]!; t++) out[n++] = t;
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
