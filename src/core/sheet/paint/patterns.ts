import type { Kit } from '../../kit/kit';

/** What texels become by where they lie, so that strokes join and a repeated one changes nothing. */
export type Pattern =
  /** Steps at random, up to so many either way along the ramp of a cell. */
  | { kind: 'noise'; cell: number; within: number; seed: number }
  /** A cell and another one at a share of the texels, 0..1, spread evenly. */
  | { kind: 'ordered'; cell: number; other: number; share: number };

/** How a pattern fills an art: the cell at a column and row. */
export function patternOf({ sheets }: Pick<Kit, 'sheets'>, pattern: Pattern): (x: number, y: number) => number {
  if (pattern.kind === 'ordered') {
    const { cell, other, share } = pattern;
    return (x, y) => (orderOfTexel(x, y) < share ? other : cell);
  }
  const { cell, within, seed } = pattern;
  const ramp = sheets.flatMap((s) => s.ramps).find((r) => r.cells.includes(cell));
  if (!ramp) return () => cell;
  const at = ramp.cells.indexOf(cell);
  // Past its ends a ramp has no steps: what is there is drawn evenly.
  const steps = ramp.cells.slice(Math.max(0, at - within), at + within + 1);
  return (x, y) => steps[Math.floor((hashed(x, y, seed) / 2 ** 32) * steps.length)]!;
}

/**
 * The order in which 64 texels of a square of 8 change, so that at every share they are spread evenly. Source: B. E. Bayer,
 * An optimum method for two-level rendition of continuous-tone pictures, 1973.
 */
const thresholds = Uint8Array.from({ length: 64 }, (_, i) => {
  const [x, y] = [i & 7, i >> 3];
  let order = 0;
  for (let bit = 0; bit < 3; bit++) order = (order << 2) | ((((x ^ y) >> bit) & 1) << 1) | ((y >> bit) & 1);
  return order;
});

/** In which order a texel changes as a share grows, 0..1: it does where the share is larger. */
export const orderOfTexel = (x: number, y: number): number => (thresholds[(y & 7) * 8 + (x & 7)]! + 0.5) / 64;

/** An even number of 32 bits for a place and a seed. Method: the finalizer of MurmurHash3 (A. Appleby, public domain). */
function hashed(x: number, y: number, seed: number): number {
  let h = Math.imul(x + 1, 0x9e3779b1) ^ Math.imul(y + 1, 0x85ebca77) ^ Math.imul(seed + 1, 0xc2b2ae3d);
  h = Math.imul(h ^ (h >>> 16), 0x85ebca6b);
  h = Math.imul(h ^ (h >>> 13), 0xc2b2ae35);
  return (h ^ (h >>> 16)) >>> 0;
}
