/** A shape with a color at each vertex. */
export interface TintedShape {
  /** x, y, z of each vertex. */
  positions: Float32Array;
  normals: Float32Array;
  /** Red, green, blue and alpha of each vertex, bytes in sRGB. */
  tints: Uint8Array;
  /** Three vertices a triangle. */
  triangles: Uint32Array;
}

/**
 * The shape with its vertices drawn together in a grid of so many cells along its longest side; triangles that lie within
 * two cells vanish, and those of the same three cells become one in their mean color. Each triangle of the result has
 * vertices of its own. No vertex moves farther than a cell's diagonal. Source: vertex clustering, Rossignac and Borrel, 1993.
 */
export function coarsened({ positions, normals, tints, triangles }: TintedShape, cells: number): TintedShape {
  const [least, most] = [
    [Infinity, Infinity, Infinity],
    [-Infinity, -Infinity, -Infinity],
  ];
  for (let i = 0; i < positions.length; i++) {
    least[i % 3] = Math.min(least[i % 3]!, positions[i]!);
    most[i % 3] = Math.max(most[i % 3]!, positions[i]!);
  }
  const step = Math.max(...most.map((m, k) => m - least[k]!), 1e-9) / cells;
  const side = cells + 1;
  const clusterAt = new Map<number, number>();
  const sums: number[] = [];
  const clusterOf = Uint32Array.from({ length: positions.length / 3 }, (_, v) => {
    const at = [0, 1, 2].map((k) => Math.min(cells, Math.floor((positions[v * 3 + k]! - least[k]!) / step)));
    const key = (at[0]! * side + at[1]!) * side + at[2]!;
    let cluster = clusterAt.get(key);
    if (cluster === undefined) {
      clusterAt.set(key, (cluster = clusterAt.size));
      sums.push(0, 0, 0, 0);
    }
    for (let k = 0; k < 3; k++) sums[cluster * 4 + k]! += positions[v * 3 + k]!;
    sums[cluster * 4 + 3]!++;
    return cluster;
  });
  const count = clusterAt.size;
  /** By their clusters, turned so that the least comes first: corners, sums of normal and color, and how much is in them. */
  const kept = new Map<number, { corners: number[]; normal: number[]; tint: number[]; weight: number }>();
  for (let t = 0; t < triangles.length; t += 3) {
    const own = [triangles[t]!, triangles[t + 1]!, triangles[t + 2]!];
    const [a, b, c] = own.map((v) => clusterOf[v]!) as [number, number, number];
    if (a === b || b === c || a === c) continue;
    const corners = a < b && a < c ? [a, b, c] : b < c ? [b, c, a] : [c, a, b];
    const key = (corners[0]! * count + corners[1]!) * count + corners[2]!;
    const weight = Math.max(1e-12, areaOf(positions, own));
    let sum = kept.get(key);
    if (!sum) kept.set(key, (sum = { corners, normal: [0, 0, 0], tint: [0, 0, 0, 0], weight: 0 }));
    for (const v of own) {
      for (let k = 0; k < 3; k++) sum.normal[k]! += normals[v * 3 + k]! * weight;
      for (let k = 0; k < 4; k++) sum.tint[k]! += tints[v * 4 + k]! * weight;
    }
    sum.weight += weight * 3;
  }
  const out: TintedShape = {
    positions: new Float32Array(kept.size * 9),
    normals: new Float32Array(kept.size * 9),
    tints: new Uint8Array(kept.size * 12),
    triangles: Uint32Array.from({ length: kept.size * 3 }, (_, i) => i),
  };
  let v = 0;
  for (const { corners, normal, tint, weight } of kept.values()) {
    const length = Math.hypot(...normal) || 1;
    for (const cluster of corners) {
      for (let k = 0; k < 3; k++) {
        out.positions[v * 3 + k] = sums[cluster * 4 + k]! / sums[cluster * 4 + 3]!;
        out.normals[v * 3 + k] = normal[k]! / length;
      }
      for (let k = 0; k < 4; k++) out.tints[v * 4 + k] = Math.round(tint[k]! / weight);
      v++;
    }
  }
  return out;
}

function areaOf(p: Float32Array, [a, b, c]: readonly number[]): number {
  const [u, w] = [b!, c!].map((v) => [0, 1, 2].map((k) => p[v * 3 + k]! - p[a! * 3 + k]!)) as [number[], number[]];
  return Math.hypot(u[1]! * w[2]! - u[2]! * w[1]!, u[2]! * w[0]! - u[0]! * w[2]!, u[0]! * w[1]! - u[1]! * w[0]!) / 2;
}

/** Cells of the grids that are tried, from the finest. */
const fewestCells = [6, 5, 4, 3];

/** The finest coarse shape of at most so many triangles; a box where those that are so few say nothing any more. */
export function fewest(shape: TintedShape, most: number): TintedShape {
  for (const cells of fewestCells) {
    const few = coarsened(shape, cells);
    const count = few.triangles.length / 3;
    if (count <= most) return count >= trianglesOfBox / 2 ? few : boxFor(shape);
  }
  return boxFor(shape);
}
const trianglesOfBox = 12;

/** A box in place of a shape, each side in the mean color of what looks that way. */
export function boxFor({ positions, normals, tints }: TintedShape): TintedShape {
  const [least, most] = [
    [Infinity, Infinity, Infinity],
    [-Infinity, -Infinity, -Infinity],
  ];
  // Sides are -X, +X, -Y, +Y, -Z, +Z.
  const sums = Array.from({ length: 6 }, () => [0, 0, 0, 1e-6]);
  for (let v = 0; v < positions.length / 3; v++)
    for (let k = 0; k < 3; k++) {
      least[k] = Math.min(least[k]!, positions[v * 3 + k]!);
      most[k] = Math.max(most[k]!, positions[v * 3 + k]!);
      const along = normals[v * 3 + k]!;
      const sum = sums[k * 2 + (along > 0 ? 1 : 0)]!;
      for (let c = 0; c < 3; c++) sum[c]! += tints[v * 4 + c]! * Math.abs(along);
      sum[3]! += Math.abs(along);
    }
  const out: TintedShape = {
    positions: new Float32Array(72),
    normals: new Float32Array(72),
    tints: new Uint8Array(96).fill(255),
    triangles: Uint32Array.from({ length: 36 }, (_, i) => Math.floor(i / 6) * 4 + [0, 1, 2, 0, 2, 3][i % 6]!),
  };
  for (let side = 0; side < 6; side++) {
    const [axis, isMost] = [side >> 1, side & 1];
    const [u, w] = [(axis + 1) % 3, (axis + 2) % 3];
    // Around the side as seen from outside, against the clock.
    const round = isMost ? [0, 1, 3, 2] : [0, 2, 3, 1];
    round.forEach((corner, i) => {
      const v = side * 4 + i;
      out.positions[v * 3 + axis] = (isMost ? most : least)[axis]!;
      out.positions[v * 3 + u] = (corner & 1 ? most : least)[u]!;
      out.positions[v * 3 + w] = (corner & 2 ? most : least)[w]!;
      out.normals[v * 3 + axis] = isMost ? 1 : -1;
      for (let c = 0; c < 3; c++) out.tints[v * 4 + c] = Math.round(sums[side]![c]! / sums[side]![3]!);
    });
  }
  return out;
}
