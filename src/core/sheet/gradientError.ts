import { labDistance, labFromRgb } from '../ground/color/oklab';
import type { Fill } from '../kit/kit';
import { gradientAt } from './raster';

/**
 * How far (OKLab) a gradient of so many texels along its axis lies from the gradient itself, at worst, when
 * it is sampled to the nearest texel. Bands count as exact where every band has a texel.
 */
export function gradientError(fill: Extract<Fill, { kind: 'gradient' }>, texels: number): number {
  const samples = 256;
  const colorAt = (t: number) => labFromRgb(gradientAt(fill, t));
  const line = Array.from({ length: texels }, (_, i) => colorAt(texels > 1 ? i / (texels - 1) : 0.5));
  if (fill.bands) return texels >= fill.bands ? 0 : labDistance(line[0]!, line.at(-1)!) / fill.bands;
  let worst = 0;
  for (let i = 0; i <= samples; i++) {
    const t = i / samples;
    worst = Math.max(worst, labDistance(colorAt(t), line[Math.min(texels - 1, Math.floor(t * (texels - 1) + 0.5))]!));
  }
  return worst;
}

/** The fewest texels along its axis that keep a gradient within an error (OKLab); at most `most`. */
export function texelsFor(fill: Extract<Fill, { kind: 'gradient' }>, error: number, most = 256): number {
  if (fill.bands) return fill.bands;
  let texels = 2;
  while (texels < most && gradientError(fill, texels) > error) texels++;
  return texels;
}
