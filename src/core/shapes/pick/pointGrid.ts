/** Points in cubes of one size, for finding those near a place. */
export interface PointGrid {
  /**
   * Calls `visit` with each point within `reach` of a place along every axis, and some beyond. `reach` is at
   * most half the cubes' side.
   */
  near(x: number, y: number, z: number, reach: number, visit: (point: number) => void): void;
}

/**
 * `points`: 3 for each; `side`: metres, the side of a cube. Points without numbers in them (NaN) are passed
 * over.
 *
 * Method: a hash of the cube's three indices leads to a list through `next`; a query looks at the two cubes a
 * side that its reach can touch, 8 at most.
 */
export function pointGrid(points: Float32Array, side: number): PointGrid {
  const count = points.length / 3;
  let size = 16;
  while (size < count * 2) size *= 2;
  const first = new Int32Array(size).fill(-1);
  const next = new Int32Array(count);
  const index = (v: number) => Math.floor(v / side);
  const bucket = (x: number, y: number, z: number) =>
    (Math.imul(x, 73856093) ^ Math.imul(y, 19349663) ^ Math.imul(z, 83492791)) & (size - 1);
  // From the last to the first, so that lists run in order.
  for (let p = count - 1; p >= 0; p--) {
    const b = bucket(index(points[p * 3]!), index(points[p * 3 + 1]!), index(points[p * 3 + 2]!));
    next[p] = first[b]!;
    first[b] = p;
  }
  return {
    near(x, y, z, reach, visit) {
      const [x1, y1, z1] = [index(x + reach), index(y + reach), index(z + reach)];
      const z0 = index(z - reach);
      for (let i = index(x - reach); i <= x1; i++)
        for (let j = index(y - reach); j <= y1; j++)
          for (let k = z0; k <= z1; k++)
            for (let p = first[bucket(i, j, k)]!; p >= 0; p = next[p]!)
              // Two cubes may share a bucket; a point belongs to one of them.
              if (index(points[p * 3]!) === i && index(points[p * 3 + 1]!) === j && index(points[p * 3 + 2]!) === k) visit(p);
    },
  };
}
