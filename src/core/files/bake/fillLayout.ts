import type { PolyMesh } from '../../shapes/mesh/polyMesh';
import type { Triangles } from '../../shapes/mesh/triangulate';
import type { Raster } from '../../ground/pictures/raster';

export interface LayoutSize {
  /** Texels, 1 to `maxLayoutSize`. */
  width: number;
  height: number;
  /** Texels of its own color around each island. */
  padding: number;
}

export const maxLayoutSize = 4096;

/** The color of a place of a triangle, by its number and the shares of its three corners. */
export type ColorAt = (triangle: number, a: number, b: number, c: number) => ArrayLike<number>;

/** A picture on which every face's color lies where its UVs have it. */
export interface FilledLayout {
  raster: Raster;
  /** The face that each texel shows, padding included; -1 where none does. */
  owner: Int32Array;
  /** Texels that faces of different colors share, with the faces; the first of each is shown. */
  clashes: Map<number, Set<number>>;
  /** Faces whose UVs cover no texel's middle; they have one all the same, where no other face has it. */
  thin: number;
}

/** Faces of which texels are told at most, so that a model laid on one spot takes no memory without end. */
const mostClashes = 200_000;

/**
 * Fills a picture of a prescribed size with the colors of faces, where the first UV set has them; UVs beyond the
 * picture repeat it. Where faces share a texel the first one is shown, and where their colors differ it is told.
 * `faces`: 1 for those that are drawn; all where it is left out. Throws where the mesh has no UVs or the size is none.
 */
export function fillLayout(mesh: PolyMesh, triangles: Triangles, size: LayoutSize, colorAt: ColorAt, faces?: Uint8Array): FilledLayout {
  const { width, height, padding } = size;
  const uvs = mesh.uvSets[0];
  if (!uvs) throw new Error('This model came without UVs, so there is no layout to fill.');
  if (![width, height].every((n) => Number.isInteger(n) && n >= 1 && n <= maxLayoutSize))
    throw new Error(`A picture has from 1 to ${maxLayoutSize} texels a side.`);
  const raster: Raster = { width, height, data: new Uint8Array(width * height * 4) };
  const out: FilledLayout = { raster, owner: new Int32Array(width * height).fill(-1), clashes: new Map(), thin: 0 };
  const isCovered = new Uint8Array(mesh.faceStart.length - 1);
  const put = (x: number, y: number, t: number, shares: readonly [number, number, number]) => {
    const f = triangles.face[t]!;
    isCovered[f] = 1;
    const at = wrap(y, height) * width + wrap(x, width);
    const color = colorAt(t, ...shares);
    const other = out.owner[at]!;
    if (other >= 0) {
      if (other !== f && !isSame(raster.data, at * 4, color)) clash(out.clashes, at, other, f);
      return;
    }
    out.owner[at] = f;
    for (let k = 0; k < 4; k++) raster.data[at * 4 + k] = color[k]!;
  };
  for (let t = 0; t < triangles.face.length; t++) if (!faces || faces[triangles.face[t]!]) eachMiddle(uvs, triangles, t, size, put);
  for (let t = 0; t < triangles.face.length; t++) {
    const f = triangles.face[t]!;
    if (isCovered[f] || (faces && !faces[f])) continue;
    // Thinner than texels are apart: the texel under its middle, where that is free.
    const [u, v] = [0, 1].map((k) => [0, 1, 2].reduce((sum, i) => sum + uvs[triangles.corners[t * 3 + i]! * 2 + k]!, 0) / 3) as [
      number,
      number,
    ];
    out.thin++;
    put(Math.floor(u * width), Math.floor(v * height), t, [1 / 3, 1 / 3, 1 / 3]);
  }
  pad(out, padding);
  return out;
}

const wrap = (t: number, size: number): number => ((t % size) + size) % size;

function isSame(data: Uint8Array, at: number, color: ArrayLike<number>): boolean {
  for (let k = 0; k < 4; k++) if (Math.abs(data[at + k]! - Math.round(color[k]!)) > 1) return false;
  return true;
}

function clash(clashes: FilledLayout['clashes'], at: number, f: number, g: number): void {
  const known = clashes.get(at);
  if (known) known.add(f).add(g);
  else if (clashes.size < mostClashes) clashes.set(at, new Set([f, g]));
}

type Put = (x: number, y: number, t: number, shares: readonly [number, number, number]) => void;

/**
 * Calls `put` for the texels whose middle lies in a triangle. A middle on a side that two triangles have in common is
 * that of one of them.
 */
function eachMiddle(uvs: Float32Array, { corners }: Triangles, t: number, { width, height }: LayoutSize, put: Put): void {
  const [ax, ay, bx, by, cx, cy] = [0, 1, 2].flatMap((k) => {
    const c = corners[t * 3 + k]! * 2;
    return [uvs[c]! * width, uvs[c + 1]! * height];
  }) as [number, number, number, number, number, number];
  const twice = (bx - ax) * (cy - ay) - (by - ay) * (cx - ax);
  if (Math.abs(twice) < 1e-9) return;
  // No more than one picture's worth of texels: a triangle that repeats it many times shows each of them.
  const [x0, y0] = [Math.ceil(Math.min(ax, bx, cx) - 0.5), Math.ceil(Math.min(ay, by, cy) - 0.5)];
  const x1 = Math.min(x0 + width * 2, Math.floor(Math.max(ax, bx, cx) - 0.5));
  const y1 = Math.min(y0 + height * 2, Math.floor(Math.max(ay, by, cy) - 0.5));
  for (let y = y0; y <= y1; y++)
    for (let x = x0; x <= x1; x++) {
      const [px, py] = [x + 0.5, y + 0.5];
      const b = ((px - ax) * (cy - ay) - (py - ay) * (cx - ax)) / twice;
      const c = ((bx - ax) * (py - ay) - (by - ay) * (px - ax)) / twice;
      const sign = Math.sign(twice);
      if (isWithin(ax, ay, bx, by, px, py, sign) && isWithin(bx, by, cx, cy, px, py, sign) && isWithin(cx, cy, ax, ay, px, py, sign))
        put(x, y, t, [1 - b - c, b, c]);
    }
}

/** Whether a place lies on the inner side of a triangle's side, or on it where the side is this triangle's. */
function isWithin(ax: number, ay: number, bx: number, by: number, px: number, py: number, sign: number): boolean {
  // Reckoned from the same end whichever triangle asks, so that both get the same number.
  const isTurned = ax > bx || (ax === bx && ay > by);
  const side = isTurned ? -((ax - bx) * (py - by) - (ay - by) * (px - bx)) : (bx - ax) * (py - ay) - (by - ay) * (px - ax);
  return side * sign > 0 || (side === 0 && isTurned === sign > 0);
}

/** Grows colors into the free texels around them, step by step, each from the nearest; the picture does not repeat here. */
function pad({ raster: { width, height, data }, owner }: FilledLayout, steps: number): void {
  const pixels = new Uint32Array(data.buffer, data.byteOffset, width * height);
  let edge = Uint32Array.from(owner.keys()).filter((at) => owner[at]! >= 0);
  for (let step = 0; step < steps && edge.length; step++) {
    const next: number[] = [];
    for (const at of edge) {
      const [x, y] = [at % width, Math.floor(at / width)];
      for (const [nx, ny] of [
        [x - 1, y],
        [x + 1, y],
        [x, y - 1],
        [x, y + 1],
        [x - 1, y - 1],
        [x + 1, y - 1],
        [x - 1, y + 1],
        [x + 1, y + 1],
      ] as const) {
        // prettier-ignore
        if (nx < 0 || ny < 0 || nx >= width || ny >= height) continue;
        const to = ny * width + nx;
        if (owner[to]! >= 0) continue;
        owner[to] = owner[at]!;
        pixels[to] = pixels[at]!;
        next.push(to);
      }
    }
    edge = Uint32Array.from(next);
  }
}
