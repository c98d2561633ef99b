import { facesWhere } from '../mesh/facesWhere';
import type { PolyMesh } from '../mesh/polyMesh';
import type { FaceRaster } from '../view/rasterFaces';

/** A closed line on the screen: x and y of its corners, pixels from the top left. */
export type Outline = Float32Array;

/** Whether a point lies inside, by the even-odd rule. */
export function isInside(outline: Outline, x: number, y: number): boolean {
  let inside = false;
  for (let i = 0, j = outline.length - 2; i < outline.length; j = i, i += 2) {
    const [xi, yi, xj, yj] = [outline[i]!, outline[i + 1]!, outline[j]!, outline[j + 1]!];
    if (yi > y !== yj > y && x < ((xj - xi) * (y - yi)) / (yj - yi) + xi) inside = !inside;
  }
  return inside;
}

/**
 * 1 for each pixel whose middle lies inside an outline, by the even-odd rule; filled row by row between
 * crossings.
 */
export function maskOf(outline: Outline, width: number, height: number): Uint8Array {
  const mask = new Uint8Array(width * height);
  const crossings: number[] = [];
  for (let row = 0; row < height; row++) {
    const y = row + 0.5;
    crossings.length = 0;
    for (let i = 0, j = outline.length - 2; i < outline.length; j = i, i += 2) {
      const [xi, yi, xj, yj] = [outline[i]!, outline[i + 1]!, outline[j]!, outline[j + 1]!];
      if (yi > y !== yj > y) crossings.push(((xj - xi) * (y - yi)) / (yj - yi) + xi);
    }
    crossings.sort((p, q) => p - q);
    for (let k = 0; k + 1 < crossings.length; k += 2) {
      const from = Math.max(0, Math.ceil(crossings[k]! - 0.5));
      const to = Math.min(width, Math.ceil(crossings[k + 1]! - 0.5));
      if (to > from) mask.fill(1, row * width + from, row * width + to);
    }
  }
  return mask;
}

/** 1 for each of so many faces that owns a pixel; only of the mask, where there is one. */
export function ownersOf({ faces }: FaceRaster, count: number, mask?: Uint8Array): Uint8Array {
  const owns = new Uint8Array(count);
  for (let i = 0; i < faces.length; i++) if (faces[i]! >= 0 && (!mask || mask[i])) owns[faces[i]!] = 1;
  return owns;
}

/**
 * Faces that own a pixel inside an outline, ascending; those with all corners in it, where so asked.
 * `screen`: see `projectVertices`.
 */
export function facesSeenInside(
  mesh: PolyMesh,
  raster: FaceRaster,
  outline: Outline,
  reach: 'touched' | 'inside',
  screen: () => Float32Array,
): Uint32Array {
  const owns = ownersOf(raster, mesh.faceStart.length - 1, maskOf(outline, raster.width, raster.height));
  const faces = facesWhere(owns.length, (f) => owns[f]);
  if (reach === 'touched') return faces;
  const at = screen();
  return faces.filter((f) => isWhollyInside(mesh, at, f, outline));
}

/**
 * Where the vertices of a mesh lie on the screen: 2 for each, NaN behind the camera. `matrix` as in
 * `rasterFaces`.
 */
export function projectVertices({ positions }: PolyMesh, m: ArrayLike<number>, width: number, height: number): Float32Array {
  const out = new Float32Array((positions.length / 3) * 2);
  for (let v = 0; v < positions.length / 3; v++) {
    const [x, y, z] = [positions[v * 3]!, positions[v * 3 + 1]!, positions[v * 3 + 2]!];
    const w = m[3]! * x + m[7]! * y + m[11]! * z + m[15]!;
    if (w <= 1e-6) {
      out[v * 2] = out[v * 2 + 1] = NaN;
      continue;
    }
    out[v * 2] = (((m[0]! * x + m[4]! * y + m[8]! * z + m[12]!) / w) * 0.5 + 0.5) * width;
    out[v * 2 + 1] = (0.5 - ((m[1]! * x + m[5]! * y + m[9]! * z + m[13]!) / w) * 0.5) * height;
  }
  return out;
}

/** Whether all corners of a face lie inside an outline. */
export function isWhollyInside({ cornerVertex, faceStart }: PolyMesh, screen: Float32Array, face: number, outline: Outline): boolean {
  for (let c = faceStart[face]!; c < faceStart[face + 1]!; c++) {
    const v = cornerVertex[c]! * 2;
    if (!isInside(outline, screen[v]!, screen[v + 1]!)) return false;
  }
  return true;
}

/** What puts points on a screen; see `rasterFaces`. */
export interface Lens {
  matrix: ArrayLike<number>;
  width: number;
  height: number;
}

/**
 * A face on the screen; x and y of its corners. Where some of them lie behind the camera, only what is before
 * it (by Sutherland and Hodgman's clipping of its plane), if a lens is given; empty where nothing is.
 */
export function polygonOf({ cornerVertex, faceStart, positions }: PolyMesh, screen: Float32Array, face: number, lens?: Lens): Float32Array {
  const [start, end] = [faceStart[face]!, faceStart[face + 1]!];
  const polygon = new Float32Array((end - start) * 2);
  let isBehind = false;
  for (let c = start; c < end; c++) {
    const v = cornerVertex[c]! * 2;
    polygon[(c - start) * 2] = screen[v]!;
    polygon[(c - start) * 2 + 1] = screen[v + 1]!;
    isBehind ||= Number.isNaN(screen[v]);
  }
  if (!isBehind) return polygon;
  if (!lens) return new Float32Array(0);
  const { matrix: m, width, height } = lens;
  const clip = (c: number): [number, number, number] => {
    const p = cornerVertex[c]! * 3;
    const at = (row: number) => m[row]! * positions[p]! + m[4 + row]! * positions[p + 1]! + m[8 + row]! * positions[p + 2]! + m[12 + row]!;
    return [at(0), at(1), at(3)];
  };
  // A hair before the eye, so that what is cut has a place on the screen.
  const near = 1e-4;
  const out: number[] = [];
  const put = ([x, y, w]: readonly [number, number, number]) => out.push(((x / w) * 0.5 + 0.5) * width, (0.5 - (y / w) * 0.5) * height);
  for (let c = start; c < end; c++) {
    const [p, q] = [clip(c), clip(c + 1 < end ? c + 1 : start)];
    if (p[2] >= near) put(p);
    if (p[2] >= near !== q[2] >= near) {
      const t = (near - p[2]) / (q[2] - p[2]);
      put([p[0] + (q[0] - p[0]) * t, p[1] + (q[1] - p[1]) * t, near]);
    }
  }
  return Float32Array.from(out);
}

/**
 * Whether a face on the screen and an outline have a point in common. `lens`: for faces that reach behind the
 * camera.
 */
export function touches(mesh: PolyMesh, screen: Float32Array, face: number, outline: Outline, lens?: Lens): boolean {
  const { cornerVertex, faceStart } = mesh;
  // Most faces lie far from an outline, which their bounds tell.
  let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity];
  let isBehind = false;
  for (let c = faceStart[face]!; c < faceStart[face + 1]!; c++) {
    const v = cornerVertex[c]! * 2;
    const [x, y] = [screen[v]!, screen[v + 1]!];
    isBehind ||= Number.isNaN(x);
    if (x < x0) x0 = x;
    if (x > x1) x1 = x;
    if (y < y0) y0 = y;
    if (y > y1) y1 = y;
  }
  const of = boundsOfOutline(outline);
  if (!isBehind && (x1 < of[0] || x0 > of[2] || y1 < of[1] || y0 > of[3])) return false;
  const polygon = polygonOf(mesh, screen, face, lens);
  for (let i = 0; i < polygon.length; i += 2) if (isInside(outline, polygon[i]!, polygon[i + 1]!)) return true;
  if (polygon.length) for (let i = 0; i < outline.length; i += 2) if (isInside(polygon, outline[i]!, outline[i + 1]!)) return true;
  const n = polygon.length;
  const m = outline.length;
  for (let i = 0; i < n; i += 2)
    for (let k = 0; k < m; k += 2)
      if (
        crosses(
          [polygon[i]!, polygon[i + 1]!],
          [polygon[(i + 2) % n]!, polygon[(i + 3) % n]!],
          [outline[k]!, outline[k + 1]!],
          [outline[(k + 2) % m]!, outline[(k + 3) % m]!],
        )
      )
        return true;
  return false;
}

/**
 * Whether all corners of a face lie in what was drawn, or at most `margin` pixels from its line. A line that
 * is not closed has no inside.
 */
export function isNearLine(
  { cornerVertex, faceStart }: PolyMesh,
  screen: Float32Array,
  face: number,
  line: Outline,
  margin: number,
  isClosed = true,
): boolean {
  const last = isClosed ? line.length : line.length - 2;
  for (let c = faceStart[face]!; c < faceStart[face + 1]!; c++) {
    const [x, y] = [screen[cornerVertex[c]! * 2]!, screen[cornerVertex[c]! * 2 + 1]!];
    if (isClosed && isInside(line, x, y)) continue;
    let isNear = false;
    for (let i = 0; i < last && !isNear; i += 2) {
      const [ax, ay, bx, by] = [line[i]!, line[i + 1]!, line[(i + 2) % line.length]!, line[(i + 3) % line.length]!];
      const [dx, dy] = [bx - ax, by - ay];
      const t = Math.max(0, Math.min(1, ((x - ax) * dx + (y - ay) * dy) / (dx * dx + dy * dy || 1)));
      isNear = Math.hypot(x - ax - t * dx, y - ay - t * dy) <= margin;
    }
    if (!isNear) return false;
  }
  return true;
}

const knownBounds = new WeakMap<Outline, [number, number, number, number]>();
/** Least x and y, greatest x and y. Outlines do not change once they are made. */
function boundsOfOutline(outline: Outline): [number, number, number, number] {
  let found = knownBounds.get(outline);
  if (found) return found;
  found = [Infinity, Infinity, -Infinity, -Infinity];
  for (let i = 0; i < outline.length; i += 2) {
    found[0] = Math.min(found[0], outline[i]!);
    found[1] = Math.min(found[1], outline[i + 1]!);
    found[2] = Math.max(found[2], outline[i]!);
    found[3] = Math.max(found[3], outline[i + 1]!);
  }
  knownBounds.set(outline, found);
  return found;
}

type Point = readonly [number, number];
function crosses(a: Point, b: Point, c: Point, d: Point): boolean {
  const side = (p: Point, q: Point, r: Point) => Math.sign((q[0] - p[0]) * (r[1] - p[1]) - (q[1] - p[1]) * (r[0] - p[0]));
  return side(a, b, c) !== side(a, b, d) && side(c, d, a) !== side(c, d, b);
}
