import type { PolyMesh } from '../../shapes/mesh/polyMesh';

/** Corners of a face in texels of its picture, 2 each, from the top left. */
export interface FaceTexels {
  points: Float64Array;
  /** Mean of the corners. */
  middle: [number, number];
  /** Whole pictures by which it was moved, so that its middle lies on the picture. */
  moved: [number, number];
}

/** Where a face lies on a picture of `width` × `height` texels; pictures repeat, so it is moved onto the first. */
export function faceTexels({ faceStart, uvSets }: PolyMesh, face: number, width: number, height: number): FaceTexels {
  const uvs = uvSets[0]!;
  const [start, end] = [faceStart[face]!, faceStart[face + 1]!];
  const points = new Float64Array((end - start) * 2);
  let [u, v] = [0, 0];
  for (let c = start; c < end; c++) {
    u += uvs[c * 2]! / (end - start);
    v += uvs[c * 2 + 1]! / (end - start);
  }
  // A middle on the very right or lower border belongs to the picture before it.
  const shift = (t: number) => (t === 1 ? 0 : Math.floor(t));
  const moved: [number, number] = [shift(u), shift(v)];
  for (let c = start; c < end; c++) {
    points[(c - start) * 2] = (uvs[c * 2]! - moved[0]) * width;
    points[(c - start) * 2 + 1] = (uvs[c * 2 + 1]! - moved[1]) * height;
  }
  return { points, middle: [(u - moved[0]) * width, (v - moved[1]) * height], moved };
}

/** Texels looked at for one face at most; of larger ones every so many. */
const mostSamples = 4096;

/**
 * Calls `visit` for the texels whose middle lies in a face, which is taken as a fan of triangles, and for the
 * texel under the face's middle. Texels outside of the picture are those of the picture repeated.
 */
export function eachTexel({ points, middle }: FaceTexels, width: number, height: number, visit: (x: number, y: number) => void): void {
  const wrap = (t: number, size: number) => ((t % size) + size) % size;
  const at = (x: number, y: number) => visit(wrap(x, width), wrap(y, height));
  at(Math.min(width - 1, Math.floor(middle[0])), Math.min(height - 1, Math.floor(middle[1])));
  let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity];
  for (let i = 0; i < points.length; i += 2) {
    x0 = Math.min(x0, points[i]!);
    x1 = Math.max(x1, points[i]!);
    y0 = Math.min(y0, points[i + 1]!);
    y1 = Math.max(y1, points[i + 1]!);
  }
  const step = Math.max(
    1,
    Math.ceil(Math.sqrt(((x1 - x0) * (y1 - y0)) / mostSamples)),
    Math.ceil((x1 - x0) / mostSamples),
    Math.ceil((y1 - y0) / mostSamples),
  );
  for (let y = Math.ceil(y0 - 0.5); y + 0.5 <= y1; y += step)
    for (let x = Math.ceil(x0 - 0.5); x + 0.5 <= x1; x += step) if (isInside(points, x + 0.5, y + 0.5)) at(x, y);
}

function isInside(points: Float64Array, x: number, y: number): boolean {
  const last = points.length - 4;
  for (let k = 2; k <= last; k += 2) {
    const side = (i: number, j: number) =>
      (points[j]! - points[i]!) * (y - points[i + 1]!) - (points[j + 1]! - points[i + 1]!) * (x - points[i]!);
    const [a, b, c] = [side(0, k), side(k, k + 2), side(k + 2, 0)];
    // What lies on a border inside of the fan is in it, what lies on its outline is not; a triangle pressed flat
    // holds nothing.
    const sign = Math.sign(a + b + c);
    const isOn = (v: number, isInner: boolean) => v * sign > 0 || (isInner && v === 0);
    if (sign !== 0 && isOn(a, k > 2) && isOn(b, false) && isOn(c, k < last)) return true;
  }
  return false;
}
