import { stampLimits } from '../../ground/limits';
import { turn, type Flat } from './facePlaces';

/** Metres. A round shape has so many sides, one of them at its bottom. `drawn`: outlines in a square of side 1 around the middle. */
export type StampShape =
  | { kind: 'rectangle'; width: number; height: number }
  | { kind: 'round'; width: number; height: number; sides: number }
  | { kind: 'drawn'; width: number; height: number; outlines: readonly (readonly Flat[])[] };

/** In rows and columns around the middle, with gaps between, metres. */
export interface StampRows {
  columns: number;
  rows: number;
  gap: number;
}

export const mostInRow = 32;
/** Share of a stamp's size within which a corner lies on a line. */
export const onLine = 1e-5;

export const apart = (a: Flat, b: Flat): number => Math.hypot(a[0] - b[0], a[1] - b[1]);

function outlinesOf(shape: StampShape): readonly (readonly Flat[])[] {
  const { width, height } = shape;
  const sized = ([x, y]: Flat): Flat => [x * width, y * height];
  if (shape.kind === 'drawn') return shape.outlines.map((o) => o.map(sized));
  if (shape.kind === 'rectangle') return [([[-0.5, -0.5], [0.5, -0.5], [0.5, 0.5], [-0.5, 0.5]] as const).map(sized)]; // prettier-ignore
  const angle = (i: number) => -Math.PI / 2 + ((2 * i + 1) * Math.PI) / shape.sides;
  return [Array.from({ length: shape.sides }, (_, i) => sized([Math.cos(angle(i)) / 2, Math.sin(angle(i)) / 2]))];
}

/** A shape, repeated and turned counter-clockwise around the middle of all. Throws where numbers make no sense. */
export function stampOutlines(shape: StampShape, { columns, rows, gap }: StampRows, degrees: number): Flat[][] {
  const { width, height } = shape;
  if (!(width > 0 && height > 0)) throw new Error('A stamp is some metres wide and high: numbers above zero.');
  if (shape.kind === 'round' && !(Number.isInteger(shape.sides) && shape.sides >= 3 && shape.sides <= 64))
    throw new Error('A round stamp has 3 to 64 sides.');
  if (![columns, rows].every((n) => Number.isInteger(n) && n >= 1 && n <= mostInRow))
    throw new Error(`Stamps stand in 1 to ${mostInRow} rows and columns.`);
  if (columns * rows > 1 && !(gap > 0)) throw new Error('Stamps in rows need a gap above zero between them.');
  const [cos, sin] = [Math.cos((degrees * Math.PI) / 180), Math.sin((degrees * Math.PI) / 180)];
  const places = Array.from({ length: columns * rows }, (_, i): Flat => [
    ((i % columns) - (columns - 1) / 2) * (width + gap),
    (Math.floor(i / columns) - (rows - 1) / 2) * (height + gap),
  ]);
  return places.flatMap(([dx, dy]) =>
    outlinesOf(shape).map((o) => o.map(([x, y]): Flat => [(x + dx) * cos - (y + dy) * sin, (x + dx) * sin + (y + dy) * cos])),
  );
}

/** How far a point lies from the nearest one of a line with two ends. */
export function apartFromLine(p: Flat, a: Flat, b: Flat): number {
  const [dx, dy] = [b[0] - a[0], b[1] - a[1]];
  const share = Math.max(0, Math.min(1, ((p[0] - a[0]) * dx + (p[1] - a[1]) * dy) / (dx * dx + dy * dy || 1)));
  return Math.hypot(p[0] - a[0] - dx * share, p[1] - a[1] - dy * share);
}

export const boundsOf = (points: readonly Flat[]): readonly (readonly [number, number])[] =>
  [0, 1].map(
    (k) =>
      [
        points.reduce((least, p) => Math.min(least, p[k]!), Infinity),
        points.reduce((most, p) => Math.max(most, p[k]!), -Infinity),
      ] as const,
  );

/** The outlines' size; throws where they make no sense. */
export function sizeOfStamp(outlines: readonly (readonly Flat[])[]): number {
  const all = outlines.flat();
  if (!all.length || outlines.some((o) => o.length < 3)) throw new Error('A stamp needs an outline of three corners or more.');
  if (all.length > stampLimits.corners)
    throw new Error(`Stamps have at most ${stampLimits.corners} corners together; these have ${all.length}.`);
  if (all.flat().some((n) => !Number.isFinite(n))) throw new Error('A corner of a stamp lies nowhere.');
  const size = boundsOf(all).reduce((most, [low, high]) => Math.max(most, high - low), 0);
  if (!(size > 0)) throw new Error('A stamp needs a size above zero.');
  const lines = outlines.flatMap((o, n) => o.map((p, i) => ({ n, i, count: o.length, ends: [p, o[(i + 1) % o.length]!] as const })));
  // From left to right, so that a line is held only against those that begin before it ends.
  const [left, right] = [
    ({ ends: [a, b] }: { ends: Line }) => Math.min(a[0], b[0]),
    ({ ends: [a, b] }: { ends: Line }) => Math.max(a[0], b[0]),
  ];
  lines.sort((p, q) => left(p) - left(q));
  const slack = size * onLine;
  for (const [k, p] of lines.entries())
    for (let m = k + 1; m < lines.length && left(lines[m]!) <= right(p) + slack; m++) {
      const q = lines[m]!;
      const isNext = p.n === q.n && ((p.i + 1) % p.count === q.i || (q.i + 1) % q.count === p.i);
      if (isNext || !meet(p.ends, q.ends, slack)) continue;
      throw new Error(
        p.n === q.n ? 'The outline of the stamp crosses itself.' : 'The stamps touch or cross each other; set them further apart.',
      );
    }
  return size;
}

type Line = readonly [Flat, Flat];
/** Whether two lines cross, or an end of one lies on the other. */
function meet([a, b]: Line, [c, d]: Line, slack: number): boolean {
  const side = (p: Flat, q: Flat, r: Flat) => {
    const off = turn(p, q, r) / (apart(p, q) || 1);
    return Math.abs(off) <= slack ? 0 : Math.sign(off);
  };
  const beside = [0, 1].some(
    (k) => Math.max(a[k]!, b[k]!) < Math.min(c[k]!, d[k]!) - slack || Math.min(a[k]!, b[k]!) > Math.max(c[k]!, d[k]!) + slack,
  );
  return !beside && side(a, b, c) * side(a, b, d) <= 0 && side(c, d, a) * side(c, d, b) <= 0;
}
