import { labFromRgb } from '../ground/color/oklab';
import type { Sheet } from '../kit/kit';
import type { Raster } from '../ground/pictures/raster';

export type BlockFormat = 'bc1' | 'etc1';
type Color = [number, number, number];

/**
 * A raster as it looks once it is compressed in blocks of 4 × 4 texels at 4 bits a texel, as BC1 or as ETC1; alpha
 * stays. A good encoder's choice is sought, not every one: another may come out a little nearer or farther.
 * Sources: S3TC (EXT_texture_compression_s3tc) and OES_compressed_ETC1_RGB8_texture, Khronos registry.
 */
export function compressed(raster: Raster, format: BlockFormat): Raster {
  const { width, height } = raster;
  const out = { width, height, data: raster.data.slice() };
  for (let y = 0; y < height; y += 4)
    for (let x = 0; x < width; x += 4) {
      // What lies past the border repeats it.
      const at = (i: number) => (Math.min(height - 1, y + (i >> 2)) * width + Math.min(width - 1, x + (i & 3))) * 4;
      const texels = Array.from({ length: 16 }, (_, i): Color => [raster.data[at(i)]!, raster.data[at(i) + 1]!, raster.data[at(i) + 2]!]);
      const shown = format === 'bc1' ? bc1(texels) : etc1(texels);
      shown.forEach((color, i) => {
        if (y + (i >> 2) < height && x + (i & 3) < width) out.data.set(color, at(i));
      });
    }
  return out;
}

/** How far the farthest texel of each cell moves, in OKLab; spare cells are left out. */
export function cellErrors(sheet: Sheet, before: Raster, after: Raster): Map<number, number> {
  const lab = (raster: Raster, at: number) => labFromRgb([raster.data[at]!, raster.data[at + 1]!, raster.data[at + 2]!]);
  const out = new Map<number, number>();
  for (const { id, rect, fill } of sheet.cells) {
    if (fill.kind === 'spare') continue;
    let most = 0;
    for (let y = rect.y; y < rect.y + rect.h; y++)
      for (let x = rect.x; x < rect.x + rect.w; x++) {
        const at = (y * before.width + x) * 4;
        const [a, b] = [lab(before, at), lab(after, at)];
        most = Math.max(most, Math.hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2]));
      }
    out.set(id, most);
  }
  return out;
}

const square = (a: readonly number[], b: readonly number[]) => (a[0]! - b[0]!) ** 2 + (a[1]! - b[1]!) ** 2 + (a[2]! - b[2]!) ** 2;
/** A byte as so many bits give it back. */
const inBits = (v: number, bits: number) => {
  const most = 2 ** bits - 1;
  const level = Math.max(0, Math.min(most, Math.round((v * most) / 255)));
  return bits === 4 ? level * 17 : (level << (8 - bits)) | (level >> (2 * bits - 8));
};

interface Fit {
  colors: Color[];
  error: number;
}

/** Each texel takes the nearest of a palette. */
function nearestOf(texels: readonly Color[], palette: readonly Color[]): Fit {
  let error = 0;
  const colors = texels.map((t) => {
    let best = palette[0]!;
    for (const p of palette) if (square(t, p) < square(t, best)) best = p;
    error += square(t, best);
    return best;
  });
  return { colors, error };
}

/** Two ends with 5, 6 and 5 bits, and two colors between: the two farthest texels, then ends moved by least squares. */
function bc1(texels: readonly Color[]): Color[] {
  let ends: [Color, Color] = [texels[0]!, texels[0]!];
  for (const a of texels) for (const b of texels) if (square(a, b) > square(...ends)) ends = [a, b];
  let best: Fit | null = null;
  for (let step = 0; step < 4; step++) {
    const [p, q] = ends.map(([r, g, b]): Color => [inBits(r, 5), inBits(g, 6), inBits(b, 5)]) as [Color, Color];
    const between = (share: number): Color => [0, 1, 2].map((k) => Math.round(p[k]! + (q[k]! - p[k]!) * share)) as Color;
    const palette = [p, between(1 / 3), between(2 / 3), q];
    const fit = nearestOf(texels, palette);
    if (!best || fit.error < best.error) best = fit;
    const next = endsOf(
      texels,
      fit.colors.map((c) => palette.indexOf(c) / 3),
    );
    if (!next) break;
    ends = next;
  }
  return best!.colors;
}

/** The two ends of a line on which each texel stands at a share, nearest to all; none where all have one share. */
function endsOf(texels: readonly Color[], shares: readonly number[]): [Color, Color] | null {
  let [aa, ab, bb] = [0, 0, 0];
  const [sa, sb]: [Color, Color] = [
    [0, 0, 0],
    [0, 0, 0],
  ];
  texels.forEach((t, i) => {
    const b = shares[i]!;
    const a = 1 - b;
    aa += a * a;
    ab += a * b;
    bb += b * b;
    for (let k = 0; k < 3; k++) {
      sa[k]! += a * t[k]!;
      sb[k]! += b * t[k]!;
    }
  });
  const det = aa * bb - ab * ab;
  if (Math.abs(det) < 1e-6) return null;
  const solve = (k: number): [number, number] => [(bb * sa[k]! - ab * sb[k]!) / det, (aa * sb[k]! - ab * sa[k]!) / det];
  const channels = [solve(0), solve(1), solve(2)];
  return [channels.map((c) => c[0]) as Color, channels.map((c) => c[1]) as Color];
}

/** How far lighter or darker than its base a texel may be, the same for all channels: one row for each half. */
const modifiers = [
  [2, 8],
  [5, 17],
  [9, 29],
  [13, 42],
  [18, 60],
  [24, 80],
  [33, 106],
  [47, 183],
] as const;

/** Two halves, side by side or one above the other, each with a base and its lighter and darker steps. */
function etc1(texels: readonly Color[]): Color[] {
  let best: Fit | null = null;
  for (const isBelow of [false, true]) {
    const inSecond = (i: number) => (isBelow ? i >> 2 : i & 3) >= 2;
    const halves = [texels.filter((_, i) => !inSecond(i)), texels.filter((_, i) => inSecond(i))] as const;
    const means = halves.map((half) => [0, 1, 2].map((k) => half.reduce((sum, t) => sum + t[k]!, 0) / half.length) as Color);
    for (const bits of [5, 4]) {
      const bases = means.map((m) => m.map((v) => inBits(v, bits)) as Color) as [Color, Color];
      // With 5 bits the second base is written as a difference of -4 to 3 steps.
      const steps = (k: number) => Math.round(((bases[1][k]! - bases[0][k]!) * 31) / 255);
      if (bits === 5 && [0, 1, 2].some((k) => steps(k) < -4 || steps(k) > 3)) continue;
      const fits = halves.map((half, h) => bestSteps(half, bases[h]!)) as [Fit, Fit];
      const error = fits[0].error + fits[1].error;
      if (best && error >= best.error) continue;
      const next = [0, 0];
      best = { error, colors: texels.map((_, i) => fits[inSecond(i) ? 1 : 0].colors[next[inSecond(i) ? 1 : 0]!++]!) };
    }
  }
  return best!.colors;
}

function bestSteps(half: readonly Color[], base: Color): Fit {
  const fits = modifiers.map(([near, far]) =>
    nearestOf(
      half,
      [-far, -near, near, far].map((m) => base.map((v) => Math.max(0, Math.min(255, v + m))) as Color),
    ),
  );
  return fits.reduce((a, b) => (b.error < a.error ? b : a));
}
