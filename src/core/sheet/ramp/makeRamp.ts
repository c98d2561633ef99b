import { hexFromLch, lchFromHex, type Hex } from '../../ground/color/hex';
import { fitToGamut, type Lch } from '../../ground/color/oklab';

export interface RampOptions {
  steps: number;
  /** OKLab lightness of the darkest and the lightest step, 0..1. */
  dark: number;
  light: number;
  /** Degrees by which the darkest step turns toward a cool blue, and the lightest toward a warm yellow. */
  coolShade: number;
  warmLight: number;
  /** Chroma at both ends, as a share of the base's. */
  endChroma: number;
  /** The step at which the base stands; by default the one nearest to its lightness. */
  baseIndex?: number;
}

export const rampDefaults: RampOptions = { steps: 3, dark: 0.34, light: 0.88, coolShade: 18, warmLight: 14, endChroma: 0.75 };
/** Steps that the interface offers. */
export const rampLimits = { least: 2, most: 9 } as const;

/** Where shades and lights drift to under a sky, in degrees of OKLCH hue. */
const coolHue = 265;
const warmHue = 90;

/**
 * Steps from dark to light around a base color, which stays exactly as it is at the step nearest to its
 * lightness. Lightness runs evenly from end to base to end; hue drifts and chroma falls toward the ends.
 * Where a screen cannot show a step, its chroma is lowered. An end that lies on the wrong side of the base (a
 * base lighter than `light`) is moved a step beyond the base.
 */
export function makeRamp(base: Hex, options: Partial<RampOptions> = {}): { colors: Hex[]; baseIndex: number } {
  const o = { ...rampDefaults, ...options };
  const steps = Math.max(1, Math.round(o.steps));
  const lch = lchFromHex(base);
  const share = (lch.l - o.dark) / Math.max(1e-6, o.light - o.dark);
  const baseIndex = Math.max(0, Math.min(steps - 1, o.baseIndex ?? Math.round(share * (steps - 1))));
  const colors = Array.from({ length: steps }, (_, i) => {
    if (i === baseIndex) return base;
    const isShade = i < baseIndex;
    // 0 at the base, 1 at the end.
    const t = isShade ? (baseIndex - i) / baseIndex : (i - baseIndex) / (steps - 1 - baseIndex);
    return hexFromLch(fitToGamut(stepAt(lch, t, isShade, o)));
  });
  return { colors, baseIndex };
}

function stepAt(base: Lch, t: number, isShade: boolean, o: RampOptions): Lch {
  const end = isShade ? Math.min(o.dark, base.l - 0.06) : Math.max(o.light, base.l + 0.06);
  return {
    l: Math.max(0.08, Math.min(0.985, base.l + (end - base.l) * t)),
    c: base.c * (1 + (o.endChroma - 1) * t * t),
    h: turnToward(base.h, isShade ? coolHue : warmHue, (isShade ? o.coolShade : o.warmLight) * t),
  };
}

/** Options under which `makeRamp` comes near to a ramp that is there, so that tuning goes on from how it runs. */
export function readTuning(colors: readonly Hex[], baseIndex: number): Omit<RampOptions, 'steps' | 'baseIndex'> {
  const lchs = colors.map(lchFromHex);
  const [base, first, last] = [lchs[baseIndex]!, lchs[0]!, lchs.at(-1)!];
  /** How far an end has turned from the base, counted toward the hue that such ends drift to. */
  const drift = (end: Lch, toward: number) => {
    if (base.c < 0.02 || end.c < 0.02) return 0;
    const way = Math.sign(((toward - base.h + 540) % 360) - 180) || 1;
    return Math.max(0, Math.min(60, Math.round((((end.h - base.h + 540) % 360) - 180) * way)));
  };
  const ends = [first, last].filter((e) => e !== base);
  const endChroma = base.c < 0.005 || !ends.length ? 1 : ends.reduce((sum, e) => sum + e.c / base.c, 0) / ends.length;
  return {
    dark: baseIndex > 0 ? first.l : rampDefaults.dark,
    light: baseIndex < lchs.length - 1 ? last.l : rampDefaults.light,
    coolShade: drift(first, coolHue),
    warmLight: drift(last, warmHue),
    endChroma: Math.max(0, Math.min(1.5, Math.round(endChroma * 20) / 20)),
  };
}

/** Turns a hue by at most `degrees` toward another, the short way round, never past it. */
export function turnToward(hue: number, toward: number, degrees: number): number {
  const way = ((toward - hue + 540) % 360) - 180;
  return (hue + Math.sign(way) * Math.min(Math.abs(way), degrees) + 360) % 360;
}

/**
 * One more step: beyond the dark (-1) or light (+1) end of a ramp, in the direction in which its last two
 * steps run. `null` where the ramp already ends at black or white as far as a color can go.
 */
export function stepBeyond(colors: readonly Hex[], direction: -1 | 1): Hex | null {
  const ordered = direction > 0 ? colors : [...colors].reverse();
  const last = lchFromHex(ordered.at(-1)!);
  const before = ordered.length > 1 ? lchFromHex(ordered.at(-2)!) : null;
  const stride = before ? Math.max(0.05, Math.min(0.16, Math.abs(last.l - before.l))) : 0.12;
  const l = last.l + stride * direction;
  if (l < 0.1 || l > 0.985) {
    const rest = direction > 0 ? (0.985 - last.l) / 2 : (0.1 - last.l) / 2;
    if (Math.abs(rest) < 0.015) return null;
    return hexFromLch(fitToGamut({ ...last, l: last.l + rest }));
  }
  return hexFromLch(fitToGamut({ l, c: last.c * 0.9, h: turnToward(last.h, direction > 0 ? warmHue : coolHue, 8) }));
}

/** The step in the middle of two. */
export function stepBetween(a: Hex, b: Hex): Hex {
  const [p, q] = [lchFromHex(a), lchFromHex(b)];
  // Greys have no hue of their own.
  const hue = p.c < 0.01 ? q.h : q.c < 0.01 ? p.h : turnToward(p.h, q.h, Math.abs(((q.h - p.h + 540) % 360) - 180) / 2);
  return hexFromLch(fitToGamut({ l: (p.l + q.l) / 2, c: (p.c + q.c) / 2, h: hue }));
}
