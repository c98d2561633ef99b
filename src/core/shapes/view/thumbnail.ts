import type { Bounds } from '../mesh/measure';
import type { Raster } from '../../ground/pictures/raster';
import { rasterFaces, type RasterInput } from './rasterFaces';

/** Where thumbnails are seen from: a little above, from the front right. */
const direction = normalize([0.62, 0.42, 1]);
const supersampling = 3;

/** Orthographic projection × view that frames the bounds with some air. */
export function framingMatrix({ min, max }: Bounds, air = 1.12, from: readonly number[] = direction): number[] {
  const forward = normalize([...from]);
  const [right, up] = basis(forward);
  const center = [0, 1, 2].map((k) => (min[k]! + max[k]!) / 2);
  const extent = (axis: number[]) => {
    let most = 0;
    for (let corner = 0; corner < 8; corner++) {
      let dot = 0;
      for (let k = 0; k < 3; k++) dot += axis[k]! * ((corner >> k) & 1 ? max[k]! - center[k]! : min[k]! - center[k]!);
      most = Math.max(most, Math.abs(dot));
    }
    return most;
  };
  const half = Math.max(extent(right), extent(up), 1e-9) * air;
  const depth = extent(forward) * 1.01 || 1;
  const rows = [right.map((v) => v / half), up.map((v) => v / half), forward.map((v) => -v / depth)];
  const out = new Array<number>(16).fill(0);
  rows.forEach((row, r) => {
    row.forEach((v, k) => (out[k * 4 + r] = v));
    out[12 + r] = -row.reduce((sum, v, k) => sum + v * center[k]!, 0);
  });
  out[15] = 1;
  return out;
}

/** Half the side of the square that `framingMatrix` shows, in metres. */
export function framingHalf(bounds: Bounds, air = 1.12, from: readonly number[] = direction): number {
  const m = framingMatrix(bounds, air, from);
  return 1 / Math.hypot(m[0]!, m[4]!, m[8]!);
}

/**
 * A small picture of a mesh: flat colors, gently shaded so that an uncolored model reads too; transparent
 * around. `colorOf` gives sRGB for a face; `flat`: no shade at all; `from`: the direction that it is seen from.
 */
export function thumbnail(
  input: RasterInput,
  bounds: Bounds,
  normals: Float32Array,
  colorOf: (face: number) => ArrayLike<number>,
  size: number,
  { flat = false, from = direction }: { flat?: boolean; from?: readonly number[] } = {},
): Raster {
  const large = size * supersampling;
  const { faces } = rasterFaces(input, framingMatrix(bounds, undefined, from), large, large);
  const data = new Uint8Array(size * size * 4);
  const n = supersampling ** 2;
  for (let y = 0; y < size; y++)
    for (let x = 0; x < size; x++) {
      let [r, g, b, hits] = [0, 0, 0, 0];
      for (let k = 0; k < n; k++) {
        const f = faces[(y * supersampling + Math.floor(k / supersampling)) * large + x * supersampling + (k % supersampling)]!;
        if (f < 0) continue;
        const light = flat ? 1 : 0.88 + 0.12 * normals[f * 3 + 1]! + 0.06 * normals[f * 3]!;
        const color = colorOf(f);
        r += color[0]! * light;
        g += color[1]! * light;
        b += color[2]! * light;
        hits++;
      }
      if (!hits) continue;
      const at = (y * size + x) * 4;
      data[at] = Math.min(255, Math.round(r / hits));
      data[at + 1] = Math.min(255, Math.round(g / hits));
      data[at + 2] = Math.min(255, Math.round(b / hits));
      data[at + 3] = Math.round((hits / n) * 255);
    }
  return { width: size, height: size, data };
}

/** Pictures of one size in a row, with room for `places`; fewer stand in the middle. */
export function sideBySide(pictures: readonly Raster[], places: number): Raster {
  const size = pictures[0]?.width ?? 1;
  const out: Raster = { width: size * places, height: size, data: new Uint8Array(size * places * size * 4) };
  const left = Math.floor(((places - pictures.length) * size) / 2);
  pictures.forEach(({ data }, i) => {
    for (let y = 0; y < size; y++) out.data.set(data.subarray(y * size * 4, (y + 1) * size * 4), (y * out.width + left + i * size) * 4);
  });
  return out;
}

function normalize(v: number[]): number[] {
  const length = Math.hypot(...v);
  return v.map((x) => x / length);
}

function basis(forward: number[]): [number[], number[]] {
  // Straight from above or below, any direction will do for the right.
  const isUpright = Math.hypot(forward[0]!, forward[2]!) < 1e-6;
  const right = isUpright ? [1, 0, 0] : normalize([forward[2]!, 0, -forward[0]!]);
  const up = [
    forward[1]! * right[2]! - forward[2]! * right[1]!,
    forward[2]! * right[0]! - forward[0]! * right[2]!,
    forward[0]! * right[1]! - forward[1]! * right[0]!,
  ];
  return [right, up];
}
