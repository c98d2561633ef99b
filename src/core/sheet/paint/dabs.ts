/** What a press sets at once: so many texels across, as a square or a disk; always hard. */
export interface Dab {
  size: number;
  shape: 'square' | 'round';
}

/** The most texels across. */
export const largestDab = 64;

/** Columns and rows of texels from the one that is meant; of an even size the one at the upper left of the middle. */
function offsetsOf({ size, shape }: Dab): [number, number][] {
  const first = -((size - 1) >> 1);
  const middle = (size - 1) / 2;
  const out: [number, number][] = [];
  for (let y = 0; y < size; y++)
    for (let x = 0; x < size; x++) {
      // A quarter more, so that 2 and 3 across are no crosses.
      const isIn = shape === 'square' || Math.hypot(x - middle, y - middle) <= size / 2 - 0.25 || size <= 2;
      if (isIn) out.push([first + x, first + y]);
    }
  return out;
}

/**
 * The texels of an art of `width` × `height` that dabs from one texel to another set, in a straight line with no gap,
 * ascending, each once. Method: Bresenham's line, a dab at each of its texels.
 */
export function dabsAlong(
  { width, height }: { width: number; height: number },
  from: readonly [number, number],
  to: readonly [number, number],
  dab: Dab,
): Uint32Array {
  const offsets = offsetsOf(dab);
  const found = new Set<number>();
  const [dx, dy] = [Math.abs(to[0] - from[0]), -Math.abs(to[1] - from[1])];
  const [sx, sy] = [Math.sign(to[0] - from[0]), Math.sign(to[1] - from[1])];
  let [x, y] = from;
  let error = dx + dy;
  for (;;) {
    for (const [ox, oy] of offsets) {
      const [tx, ty] = [x + ox, y + oy];
      if (tx >= 0 && ty >= 0 && tx < width && ty < height) found.add(ty * width + tx);
    }
    if (x === to[0] && y === to[1]) break;
    const twice = 2 * error;
    if (twice >= dy) {
      error += dy;
      x += sx;
    }
    if (twice <= dx) {
      error += dx;
      y += sy;
    }
  }
  return Uint32Array.from(found).sort();
}

/** The texels of a rectangle between two corners, both within, ascending. */
export function rectangleBetween(
  { width, height }: { width: number; height: number },
  [ax, ay]: readonly [number, number],
  [bx, by]: readonly [number, number],
): Uint32Array {
  const [x0, x1] = [Math.max(0, Math.min(ax, bx)), Math.min(width - 1, Math.max(ax, bx))];
  const [y0, y1] = [Math.max(0, Math.min(ay, by)), Math.min(height - 1, Math.max(ay, by))];
  const out: number[] = [];
  for (let y = y0; y <= y1; y++) for (let x = x0; x <= x1; x++) out.push(y * width + x);
  return Uint32Array.from(out);
}
