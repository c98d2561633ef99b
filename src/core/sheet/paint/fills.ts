import type { Pixels } from '../../kit/pixels';

/**
 * Texels that show the same cell as one of them and hang together with it by their sides, ascending. `within`: 1 where they
 * may lie; `links`: texels that touch besides, as across a seam on a model.
 */
export function touchingTexels(
  { width, height, cells }: Pixels,
  texel: number,
  within?: Uint8Array,
  links?: ReadonlyMap<number, Iterable<number>>,
): Uint32Array {
  const cell = cells[texel]!;
  const isIn = new Uint8Array(cells.length);
  if (within && !within[texel]) return new Uint32Array(0);
  const stack = [texel];
  isIn[texel] = 1;
  let count = 1;
  const visit = (t: number) => {
    if (isIn[t] || cells[t] !== cell || (within && !within[t])) return;
    isIn[t] = 1;
    count++;
    stack.push(t);
  };
  while (stack.length) {
    const t = stack.pop()!;
    const x = t % width;
    if (x > 0) visit(t - 1);
    if (x + 1 < width) visit(t + 1);
    if (t >= width) visit(t - width);
    if (t + width < width * height) visit(t + width);
    for (const n of links?.get(t) ?? []) visit(n);
  }
  return where(isIn, count);
}

/** All texels that show a cell, ascending. */
export function texelsShowing({ cells }: Pixels, cell: number, within?: Uint8Array): Uint32Array {
  const isIn = Uint8Array.from(cells, (c, t) => (c === cell && (!within || within[t]) ? 1 : 0));
  return where(isIn, isIn.reduce((n, v) => n + v, 0)); // prettier-ignore
}

function where(isIn: Uint8Array, count: number): Uint32Array {
  const out = new Uint32Array(count);
  let n = 0;
  for (let t = 0; t < isIn.length; t++) if (isIn[t]) out[n++] = t;
  return out;
}
