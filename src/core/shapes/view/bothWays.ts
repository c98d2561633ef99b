import type { RasterInput } from './rasterFaces';

/** What is seen along an axis from its two ends, at once. */
export interface BothWays {
  size: number;
  /**
   * Depth (clip space, -1..1) of the nearest and the farthest surface under each pixel; Infinity and
   * -Infinity where there is none.
   */
  near: Float32Array;
  far: Float32Array;
}

/**
 * Rasters a mesh under an orthographic matrix (as `framingMatrix` makes it) and marks in `seen` every face
 * that owns a pixel from the front or from behind. Method: as `rasterFaces`; one pass keeps the least and the
 * greatest depth, which is half the work of two.
 */
export function rasterBothWays(
  { positions, triangleVertices, triangleFace }: RasterInput,
  m: ArrayLike<number>,
  size: number,
  seen: Uint8Array,
): BothWays {
  const screen = new Float32Array(positions.length);
  for (let v = 0; v < positions.length; v += 3) {
    const [x, y, z] = [positions[v]!, positions[v + 1]!, positions[v + 2]!];
    screen[v] = ((m[0]! * x + m[4]! * y + m[8]! * z + m[12]!) * 0.5 + 0.5) * size;
    screen[v + 1] = (0.5 - (m[1]! * x + m[5]! * y + m[9]! * z + m[13]!) * 0.5) * size;
    screen[v + 2] = m[2]! * x + m[6]! * y + m[10]! * z + m[14]!;
  }
  const near = new Float32Array(size * size).fill(Infinity);
  const far = new Float32Array(size * size).fill(-Infinity);
  const first = new Int32Array(size * size).fill(-1);
  const last = new Int32Array(size * size).fill(-1);
  for (let t = 0; t < triangleFace.length; t++) {
    const a = triangleVertices[t * 3]! * 3;
    const b = triangleVertices[t * 3 + 1]! * 3;
    const c = triangleVertices[t * 3 + 2]! * 3;
    const ax = screen[a]!;
    const ay = screen[a + 1]!;
    const bx = screen[b]!;
    const by = screen[b + 1]!;
    const cx = screen[c]!;
    const cy = screen[c + 1]!;
    const area = (bx - ax) * (cy - ay) - (by - ay) * (cx - ax);
    if (!(Math.abs(area) > 1e-9)) continue;
    const x0 = Math.max(0, Math.ceil(Math.min(ax, bx, cx) - 0.5));
    const x1 = Math.min(size - 1, Math.floor(Math.max(ax, bx, cx) - 0.5));
    const y0 = Math.max(0, Math.ceil(Math.min(ay, by, cy) - 0.5));
    const y1 = Math.min(size - 1, Math.floor(Math.max(ay, by, cy) - 0.5));
    if (x1 < x0 || y1 < y0) continue;
    const face = triangleFace[t]!;
    const az = screen[a + 2]!;
    const bz = screen[b + 2]!;
    const cz = screen[c + 2]!;
    for (let y = y0; y <= y1; y++)
      for (let x = x0; x <= x1; x++) {
        const px = x + 0.5;
        const py = y + 0.5;
        const u = ((bx - px) * (cy - py) - (by - py) * (cx - px)) / area;
        const v = ((cx - px) * (ay - py) - (cy - py) * (ax - px)) / area;
        const w = 1 - u - v;
        if (u < 0 || v < 0 || w < 0) continue;
        const z = u * az + v * bz + w * cz;
        const at = y * size + x;
        if (z < near[at]!) {
          near[at] = z;
          first[at] = face;
        }
        if (z > far[at]!) {
          far[at] = z;
          last[at] = face;
        }
      }
  }
  for (let at = 0; at < first.length; at++) {
    if (first[at]! < 0) continue;
    seen[first[at]!] = 1;
    seen[last[at]!] = 1;
  }
  return { size, near, far };
}
