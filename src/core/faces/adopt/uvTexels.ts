import { polygonTexels } from '../../ground/pictures/polygonTexels';
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

/** A face that goes over so many pictures one way is taken to lie on all of the picture. */
const mostPictures = 64;

/**
 * Calls `visit` for each texel whose middle lies in a face, and for the texel under the face's middle; where it says
 * `true`, no more follow. Texels outside of the picture are those of the picture repeated; each is told as often as
 * the face comes by it, within a row once.
 */
export function eachTexel(
  { points, middle }: Pick<FaceTexels, 'points' | 'middle'>,
  width: number,
  height: number,
  visit: (x: number, y: number) => boolean | void,
): void {
  const wrap = (t: number, size: number) => ((t % size) + size) % size;
  const first = (t: number, size: number) => wrap(Math.min(size - 1, Math.floor(t)), size);
  if (visit(first(middle[0], width), first(middle[1], height))) return;
  let [top, bottom] = [Infinity, -Infinity];
  for (let i = 1; i < points.length; i += 2) [top, bottom] = [Math.min(top, points[i]!), Math.max(bottom, points[i]!)];
  const isAll = bottom - top > mostPictures * height;
  polygonTexels(isAll ? Float64Array.of(0, 0, width, 0, width, height, 0, height) : points, (row, from, to) => {
    const y = wrap(row, height);
    const end = Math.min(to, from + width);
    for (let x = from; x < end; x++) if (visit(wrap(x, width), y)) return true;
  });
}
