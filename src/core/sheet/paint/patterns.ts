import type { Point3 } from '../../kit/laying/gradientRules';
import type { Kit } from '../../kit/kit';
import type { Pattern } from '../../kit/patterns';
import { stepAt } from './motifs';
import { neighboursInRamps } from './steps';

/** Where on the model (metres) a texel is shown, by its column and row; `null` where it is not. */
export type PointAt = (x: number, y: number) => Point3 | null;

/**
 * How a pattern fills part of a row: what stands in `cells` from an index up to another becomes what it makes of the texels
 * from column `x` of row `y` on. Row by row, so that millions are filled without a call for each.
 */
export type FillRow = (cells: Uint16Array, from: number, to: number, x: number, y: number) => void;

/** `pointAt`: for a pattern that runs along a line on the model. */
export function patternOf(kit: Pick<Kit, 'sheets'>, pattern: Pattern, pointAt?: PointAt): FillRow {
  switch (pattern.kind) {
    case 'noise':
      return noiseOf(kit, pattern);
    case 'mix':
      return mixOf(pattern);
    case 'ordered':
      return orderedOf(kit, pattern, pointAt);
    case 'motif':
      return motifOf(kit, pattern);
  }
}

type Of<K extends Pattern['kind']> = Extract<Pattern, { kind: K }>;

function noiseOf(kit: Pick<Kit, 'sheets'>, { cell, within, seed }: Of<'noise'>): FillRow {
  const ramp = rampWith(kit, cell) ?? [cell];
  const at = ramp.indexOf(cell);
  // Past its ends a ramp has no steps: what is there is drawn evenly.
  const steps = ramp.slice(Math.max(0, at - within), at + within + 1);
  return (cells, from, to, x, y) => {
    for (let i = from; i < to; i++, x++) cells[i] = steps[Math.floor(shareAt(x, y, seed) * steps.length)]!;
  };
}

function mixOf({ among, seed }: Of<'mix'>): FillRow {
  const sum = among.reduce((all, a) => all + a.weight, 0);
  let reached = 0;
  const ends = among.map((a) => (reached += a.weight) / sum);
  return (cells, from, to, x, y) => {
    for (let i = from; i < to; i++, x++) {
      const share = shareAt(x, y, seed);
      let n = 0;
      while (share >= ends[n]!) n++;
      cells[i] = among[n]!.cell;
    }
  };
}

function orderedOf(kit: Pick<Kit, 'sheets'>, { from, to, share, grid, line }: Of<'ordered'>, pointAt?: PointAt): FillRow {
  const steps = stepsBetween(kit, from, to);
  const at = (x: number, y: number, part: number) => {
    const place = part * (steps.length - 1);
    const first = Math.min(Math.floor(place), steps.length - 2);
    return steps[first + (orderOfTexel(x, y, grid) < place - first ? 1 : 0)]!;
  };
  if (!line)
    return (cells, start, end, x, y) => {
      // A square repeats along the row.
      const square = Array.from({ length: 8 }, (_, n) => at(x + n, y, share));
      for (let i = start; i < end; i++) cells[i] = square[(i - start) & 7]!;
    };
  const [[ax, ay, az], [bx, by, bz]] = line;
  const way = [bx - ax, by - ay, bz - az] as const;
  const square = way[0] ** 2 + way[1] ** 2 + way[2] ** 2 || 1;
  return (cells, start, end, x, y) => {
    for (let i = start; i < end; i++, x++) {
      const p = pointAt?.(x, y);
      if (!p) continue;
      const part = ((p[0] - ax) * way[0] + (p[1] - ay) * way[1] + (p[2] - az) * way[2]) / square;
      cells[i] = at(x, y, Math.max(0, Math.min(1, part)));
    }
  };
}

function motifOf(kit: Pick<Kit, 'sheets'>, { motif, cell }: Of<'motif'>): FillRow {
  const [lower, higher] = [neighboursInRamps(kit, -1), neighboursInRamps(kit, 1)];
  const width = motif.rows[0]!.length;
  return (cells, from, to, x, y) => {
    // A tile repeats along the row.
    const steps = Array.from({ length: width }, (_, n) => stepAt(motif, x + n, y));
    for (let i = from, n = 0; i < to; i++, n = n + 1 < width ? n + 1 : 0) {
      const step = steps[n]!;
      const base = cell || cells[i]!;
      // Past the ends of its ramp a color has no step, and stays.
      cells[i] = step ? ((step < 0 ? lower : higher).get(base) ?? base) : base;
    }
  };
}

const rampWith = ({ sheets }: Pick<Kit, 'sheets'>, cell: number): number[] | undefined =>
  sheets.flatMap((s) => s.ramps).find((r) => r.cells.includes(cell))?.cells;

/** From one cell to another: through the steps between them where one ramp has both. */
function stepsBetween(kit: Pick<Kit, 'sheets'>, from: number, to: number): number[] {
  const ramp = rampWith(kit, from);
  if (from === to || !ramp?.includes(to)) return [from, to];
  const [a, b] = [ramp.indexOf(from), ramp.indexOf(to)];
  return a < b ? ramp.slice(a, b + 1) : ramp.slice(b, a + 1).reverse();
}

/**
 * The order in which the texels of a square of 8 change, so that at every share they are spread evenly. Source: B. E. Bayer,
 * An optimum method for two-level rendition of continuous-tone pictures, 1973.
 */
const thresholds = Uint8Array.from({ length: 64 }, (_, i) => {
  const [x, y] = [i & 7, i >> 3];
  let order = 0;
  for (let bit = 0; bit < 3; bit++) order = (order << 2) | ((((x ^ y) >> bit) & 1) << 1) | ((y >> bit) & 1);
  return order;
});

/** In which order a texel changes as a share grows, 0..1, in squares of so many: it does where the share is larger. */
export function orderOfTexel(x: number, y: number, grid: 2 | 4 | 8 = 8): number {
  const least = grid - 1;
  // Of a smaller square the order is that of the larger one, without what tells its parts apart.
  const order = thresholds[(y & least) * 8 + (x & least)]! >> (grid === 8 ? 0 : grid === 4 ? 2 : 4);
  return (order + 0.5) / grid ** 2;
}

/** An even share, 0..1, for a place and a seed. Method: the finalizer of MurmurHash3 (A. Appleby, public domain). */
function shareAt(x: number, y: number, seed: number): number {
  let h = Math.imul(x + 1, 0x9e3779b1) ^ Math.imul(y + 1, 0x85ebca77) ^ Math.imul(seed + 1, 0xc2b2ae3d);
  h = Math.imul(h ^ (h >>> 16), 0x85ebca6b);
  h = Math.imul(h ^ (h >>> 13), 0xc2b2ae35);
  return ((h ^ (h >>> 16)) >>> 0) / 2 ** 32;
}
