import { hexFromRgb } from '../../ground/color/hex';
import { labDistance, labFromRgb, type Lab, type Rgb } from '../../ground/color/oklab';
import type { GradientStop } from '../../kit/kit';
import { gradientAt } from '../raster';

export interface GradientFit {
  stops: GradientStop[];
  mix: 'oklab' | 'srgb';
  /** Largest OKLab distance from the line. */
  error: number;
}

const goodEnough = 0.012;

/**
 * 2 to 8 stops whose gradient comes nearest to a line of colors: where it is farthest off, a stop is set,
 * until it is good enough.
 */
export function fitGradient(line: readonly Rgb[]): GradientFit {
  const fits = (['oklab', 'srgb'] as const).map((mix) => fitWith(line, mix));
  const [p, q] = fits as [GradientFit, GradientFit];
  // Fewer stops win where both are good enough.
  if (p.error <= goodEnough && q.error <= goodEnough) return q.stops.length < p.stops.length ? q : p;
  return q.error < p.error ? q : p;
}

function fitWith(line: readonly Rgb[], mix: 'oklab' | 'srgb'): GradientFit {
  const last = line.length - 1;
  const labs = line.map(labFromRgb);
  let chosen = [0, last];
  for (;;) {
    const stops = chosen.map((i) => ({ at: i / last, color: hexFromRgb(line[i]!) }));
    const { error, at } = worst(labs, { kind: 'gradient', axis: 'x', mix, stops });
    if (error <= goodEnough || chosen.length >= 8 || chosen.includes(at)) return { stops, mix, error };
    chosen = [...chosen, at].sort((a, b) => a - b);
  }
}

function worst(labs: readonly Lab[], fill: Parameters<typeof gradientAt>[0]): { error: number; at: number } {
  let [error, at] = [0, 0];
  labs.forEach((lab, i) => {
    const d = labDistance(lab, labFromRgb(gradientAt(fill, i / (labs.length - 1))));
    if (d > error) [error, at] = [d, i];
  });
  return { error, at };
}
