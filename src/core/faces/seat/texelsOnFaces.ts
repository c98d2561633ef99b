import { polygonTexels } from '../../ground/pictures/polygonTexels';
import type { Cell, Seats } from '../../kit/kit';
import type { PolyMesh } from '../../shapes/mesh/polyMesh';
import type { Triangles } from '../../shapes/mesh/triangulate';

/** Where a corner lies on an art of `width` × `height` texels: edge to edge of it. */
type Size = { width: number; height: number };

/** The texels of an art whose middle lies under some faces that sit on its cell, 1 each, row by row. */
export function texelsUnder(
  mesh: Pick<PolyMesh, 'faceStart'>,
  { cell, at }: Pick<Seats, 'cell' | 'at'>,
  art: Pick<Cell, 'id'>,
  { width, height }: Size,
  faces: Iterable<number>,
): Uint8Array {
  const isUnder = new Uint8Array(width * height);
  if (!at) return isUnder;
  for (const f of faces) {
    if (cell[f] !== art.id) continue;
    eachRun(mesh, at, { width, height }, f, (from, to) => isUnder.fill(1, from, to));
  }
  return isUnder;
}

/** The texels of an art whose middle lies under a face that sits on it. */
export function texelsOfFace(mesh: Pick<PolyMesh, 'faceStart'>, { at }: Pick<Seats, 'at'>, size: Size, face: number): number[] {
  const out: number[] = [];
  if (at)
    eachRun(mesh, at, size, face, (from, to) => {
      for (let t = from; t < to; t++) out.push(t);
    });
  return out;
}

/** Of each texel of an art the first face under which its middle lies, -1 none, and how many there are (up to 255). */
export function ownersOfTexels(
  mesh: Pick<PolyMesh, 'faceStart'>,
  seats: Pick<Seats, 'cell' | 'at'>,
  art: Pick<Cell, 'id'>,
  size: Size,
): { face: Int32Array; count: Uint8Array } {
  const face = new Int32Array(size.width * size.height).fill(-1);
  const count = new Uint8Array(face.length);
  for (let f = 0; f < seats.cell.length; f++) {
    if (seats.cell[f] !== art.id || !seats.at) continue;
    eachRun(mesh, seats.at, size, f, (from, to) => {
      for (let t = from; t < to; t++) {
        if (face[t]! < 0) face[t] = f;
        if (count[t]! < 255) count[t]!++;
      }
    });
  }
  return { face, count };
}

function eachRun(
  { faceStart }: Pick<PolyMesh, 'faceStart'>,
  at: Float32Array,
  { width, height }: Size,
  f: number,
  visit: (from: number, to: number) => void,
): void {
  const points = Float64Array.from(at.subarray(faceStart[f]! * 2, faceStart[f + 1]! * 2), (v, i) => v * (i % 2 ? height : width));
  polygonTexels(points, (y, from, to) => {
    if (y >= 0 && y < height) visit(y * width + Math.max(0, from), y * width + Math.max(0, Math.min(width, to)));
  });
}

/** Where on the model (metres) a face shows the middle of a texel; `null` where the face shows it nowhere. */
export function pointOfTexel(
  { positions, cornerVertex }: Pick<PolyMesh, 'positions' | 'cornerVertex'>,
  triangles: Triangles,
  { at }: Pick<Seats, 'at'>,
  { width, height }: Size,
  face: number,
  [x, y]: readonly [number, number],
): [number, number, number] | null {
  if (!at) return null;
  const middle = [(x + 0.5) / width, (y + 0.5) / height, 0] as const;
  let best: { inside: number; point: [number, number, number] } | null = null;
  for (let t = firstTriangle(triangles, face); triangles.face[t] === face; t++) {
    const corners = [0, 1, 2].map((k) => triangles.corners[t * 3 + k]!);
    const shares = sharesOf(corners.map((c) => Float32Array.of(at[c * 2]!, at[c * 2 + 1]!, 0)), middle); // prettier-ignore
    if (!shares) continue;
    const inside = Math.min(...shares);
    if (best && inside <= best.inside) continue;
    const of = (k: number) => shares.reduce((sum, s, i) => sum + s * positions[cornerVertex[corners[i]!]! * 3 + k]!, 0);
    best = { inside, point: [of(0), of(1), of(2)] };
  }
  return best?.point ?? null;
}

/** More texels than these are not looked through for their rim while one points. */
const mostLookedThrough = 2 ** 18;

/**
 * Those of some texels that have a neighbour which is none of them or which another face shows, and those that several
 * faces show: along them goes the outline. `null` where they are more than `most`, or too many to be looked through.
 */
export function rimOf(
  { width, height }: Size,
  owners: ReturnType<typeof ownersOfTexels>,
  texels: Uint32Array,
  most: number,
): Uint32Array | null {
  if (texels.length > mostLookedThrough) return null;
  const isIn = new Uint8Array(width * height);
  for (const t of texels) isIn[t] = 1;
  const rim: number[] = [];
  for (const t of texels) {
    const face = owners.face[t];
    const x = t % width;
    const goesOn = (n: number) => isIn[n] === 1 && owners.face[n] === face;
    const isInside =
      owners.count[t]! < 2 && x > 0 && x + 1 < width && goesOn(t - 1) && goesOn(t + 1) && goesOn(t - width) && goesOn(t + width);
    if (!isInside && rim.push(t) > most) return null;
  }
  return Uint32Array.from(rim);
}

/**
 * The outline of some texels on the model, as ends of line segments (metres, 6 each): sides of texels beyond which a face
 * shows none of them, on every face that shows one. `owners`: see `ownersOfTexels`; `rim`: see `rimOf`.
 */
export function outlineOnModel(
  mesh: PolyMesh,
  triangles: Triangles,
  seats: Pick<Seats, 'cell' | 'at'>,
  art: Pick<Cell, 'id'>,
  size: Size,
  owners: ReturnType<typeof ownersOfTexels>,
  texels: Uint32Array,
  rim: Uint32Array,
): Float32Array {
  const { width } = size;
  // Beyond the rim and what is next to it nothing is asked for.
  const isNear = new Uint8Array(size.width * size.height);
  for (const t of rim) for (const n of [t, t - 1, t + 1, t - width, t + width]) isNear[n] = 1;
  const near = texels.filter((t) => isNear[t]);
  const lit = new Set(near);
  const faceOf = new Map<number, number[]>();
  const show = (t: number, f: number) => lit.has(t) && faceOf.set(t, [...(faceOf.get(t) ?? []), f]);
  if (!near.some((t) => owners.count[t]! > 1)) for (const t of near) show(t, owners.face[t]!);
  else {
    const mayShow = nearTexels(mesh, seats.at, size, near);
    for (let f = 0; f < seats.cell.length; f++)
      if (seats.cell[f] === art.id && seats.at && mayShow(f))
        eachRun(mesh, seats.at, size, f, (from, to) => {
          for (let t = from; t < to; t++) show(t, f);
        });
  }
  const segments: number[] = [];
  for (const t of rim)
    for (const f of faceOf.get(t) ?? []) {
      if (f < 0) continue;
      const [x, y] = [t % width, Math.floor(t / width)];
      const point = (dx: number, dy: number) => pointOfTexel(mesh, triangles, seats, size, f, [x + dx - 0.5, y + dy - 0.5]);
      const isSame = (ox: number, oy: number) => x + ox >= 0 && x + ox < width && (faceOf.get(t + oy * width + ox)?.includes(f) ?? false);
      const side = (a: [number, number, number] | null, b: [number, number, number] | null) => a && b && segments.push(...a, ...b);
      if (!isSame(0, -1)) side(point(0, 0), point(1, 0));
      if (!isSame(0, 1)) side(point(0, 1), point(1, 1));
      if (!isSame(-1, 0)) side(point(0, 0), point(0, 1));
      if (!isSame(1, 0)) side(point(1, 0), point(1, 1));
    }
  return Float32Array.from(segments);
}

/** Texels a side of the squares in which those that are meant are looked for. */
const square = 16;

/** Whether the box around a face meets a square in which one of some texels lies: few of many faces need a closer look. */
function nearTexels(
  { faceStart }: Pick<PolyMesh, 'faceStart'>,
  at: Float32Array | undefined,
  { width, height }: Size,
  texels: Uint32Array,
): (face: number) => boolean {
  const [across, down] = [Math.ceil(width / square), Math.ceil(height / square)];
  const isMeant = new Uint8Array(across * down);
  for (const t of texels) isMeant[Math.floor(Math.floor(t / width) / square) * across + Math.floor((t % width) / square)] = 1;
  const squareOf = (share: number, size: number, most: number) => Math.max(0, Math.min(most - 1, Math.floor((share * size) / square)));
  return (f) => {
    let [x0, x1, y0, y1] = [Infinity, -Infinity, Infinity, -Infinity];
    for (let c = faceStart[f]!; c < faceStart[f + 1]!; c++) {
      const [x, y] = [at![c * 2]!, at![c * 2 + 1]!];
      if (x < x0) x0 = x;
      if (x > x1) x1 = x;
      if (y < y0) y0 = y;
      if (y > y1) y1 = y;
    }
    const [left, right] = [squareOf(x0, width, across), squareOf(x1, width, across)];
    for (let y = squareOf(y0, height, down); y <= squareOf(y1, height, down); y++)
      for (let x = left; x <= right; x++) if (isMeant[y * across + x]) return true;
    return false;
  };
}

/** The column and row of the texel that a face shows at a point of the model; see `placeAtPoint`. */
export function texelAtPoint(...of: Parameters<typeof placeAtPoint>): [number, number] | null {
  const place = placeAtPoint(...of);
  return place && texelIn(of[3], place);
}

/** The texel of an art in which a place lies, or the nearest to it. */
export function texelIn({ width, height }: Size, [x, y]: readonly [number, number]): [number, number] {
  const within = (v: number, size: number) => Math.max(0, Math.min(size - 1, Math.floor(v)));
  return [within(x, width), within(y, height)];
}

/**
 * Where on an art, in texels from its upper left corner, a face shows a point of the model (metres); `null` where the face
 * has no coordinates or no area. Method: the triangle of the face in which the point lies best, by barycentric coordinates.
 */
export function placeAtPoint(
  { positions, cornerVertex }: Pick<PolyMesh, 'positions' | 'cornerVertex'>,
  triangles: Triangles,
  { at }: Pick<Seats, 'at'>,
  { width, height }: Size,
  face: number,
  point: readonly [number, number, number],
): [x: number, y: number] | null {
  if (!at) return null;
  let best = { inside: -Infinity, u: 0, v: 0 };
  for (let t = firstTriangle(triangles, face); triangles.face[t] === face; t++) {
    const corners = [0, 1, 2].map((k) => triangles.corners[t * 3 + k]!);
    const shares = sharesOf(
      corners.map((c) => positions.subarray(cornerVertex[c]! * 3, cornerVertex[c]! * 3 + 3)),
      point,
    );
    if (!shares) continue;
    const inside = Math.min(...shares);
    if (inside <= best.inside) continue;
    const of = (k: 0 | 1) => shares.reduce((sum, s, i) => sum + s * at[corners[i]! * 2 + k]!, 0);
    best = { inside, u: of(0), v: of(1) };
  }
  if (best.inside === -Infinity) return null;
  return [best.u * width, best.v * height];
}

/** Triangles are in the order of their faces. */
function firstTriangle({ face: faces }: Triangles, face: number): number {
  let [low, high] = [0, faces.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (faces[middle]! < face) low = middle + 1;
    else high = middle;
  }
  return low;
}

/** Barycentric coordinates of a point in the plane of a triangle; `null` where it has no area. */
function sharesOf([a, b, c]: Float32Array[], p: readonly [number, number, number]): [number, number, number] | null {
  const from = (q: ArrayLike<number>) => [q[0]! - a![0]!, q[1]! - a![1]!, q[2]! - a![2]!] as const;
  const dot = (u: readonly number[], v: readonly number[]) => u[0]! * v[0]! + u[1]! * v[1]! + u[2]! * v[2]!;
  const [ab, ac, ap] = [from(b!), from(c!), from(p)];
  const [bb, bc, cc, pb, pc] = [dot(ab, ab), dot(ab, ac), dot(ac, ac), dot(ap, ab), dot(ap, ac)];
  const area = bb * cc - bc * bc;
  if (area <= 0) return null;
  const v = (cc * pb - bc * pc) / area;
  const w = (bb * pc - bc * pb) / area;
  return [1 - v - w, v, w];
}
