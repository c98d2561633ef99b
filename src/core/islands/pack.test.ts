import fc from 'fast-check';
import { expect, it } from 'vitest';
import { packPieces, quarter, type Piece, type Placed } from './pack';

/** A star of so many points around 0, as the triangles between its middle and its sides. */
function star(radii: number[], wide: number): Piece {
  const at = (i: number) => {
    const a = ((i % radii.length) / radii.length) * 2 * Math.PI;
    const r = radii[i % radii.length]!;
    return [r * wide * Math.cos(a), r * Math.sin(a)];
  };
  return Float64Array.from(radii.flatMap((_, i) => [0, 0, ...at(i), ...at(i + 1)]));
}

function placed(piece: Piece, size: number, { quarters, x, y }: Placed): [number, number][] {
  return Array.from({ length: piece.length / 2 }, (_, i) => {
    const [px, py] = quarter(piece[i * 2]! * size, piece[i * 2 + 1]! * size, quarters);
    return [px + x, py + y];
  });
}

/** The distance between two triangles: 0 where they meet. */
function distance(a: [number, number][], b: [number, number][]): number {
  const inside = ([x, y]: [number, number], t: [number, number][]) => {
    const sides = [0, 1, 2].map((k) => {
      const [p, q] = [t[k]!, t[(k + 1) % 3]!];
      return (q[0] - p[0]) * (y - p[1]) - (q[1] - p[1]) * (x - p[0]);
    });
    return sides.every((s) => s > 0) || sides.every((s) => s < 0);
  };
  if (a.some((p) => inside(p, b)) || b.some((p) => inside(p, a))) return 0;
  const toSide = ([x, y]: [number, number], p: [number, number], q: [number, number]) => {
    const [ux, uy] = [q[0] - p[0], q[1] - p[1]];
    const t = Math.max(0, Math.min(1, ((x - p[0]) * ux + (y - p[1]) * uy) / (ux * ux + uy * uy || 1)));
    return Math.hypot(x - p[0] - t * ux, y - p[1] - t * uy);
  };
  const one = (from: [number, number][], to: [number, number][]) =>
    Math.min(...from.flatMap((p) => [0, 1, 2].map((k) => toSide(p, to[k]!, to[(k + 1) % 3]!))));
  return Math.min(one(a, b), one(b, a));
}

const triangles = (points: [number, number][]) => Array.from({ length: points.length / 3 }, (_, t) => points.slice(t * 3, t * 3 + 3));
const apart = (a: [number, number][], b: [number, number][]) =>
  Math.min(...triangles(a).flatMap((s) => triangles(b).map((t) => distance(s, t))));

it('pieces keep their margin from each other, from those of other groups and from what lies there, inside the room', () => {
  fc.assert(
    fc.property(
      fc.array(
        fc.record({
          radii: fc.array(fc.double({ min: 0.3, max: 1, noNaN: true }), { minLength: 4, maxLength: 7 }),
          wide: fc.double({ min: 0.3, max: 3, noNaN: true }),
          group: fc.constantFrom(0, 1),
        }),
        { minLength: 2, maxLength: 8 },
      ),
      fc.constantFrom(0, 1, 3),
      fc.constantFrom(0, 5),
      fc.boolean(),
      fc.boolean(),
      (list, margin, groupMargin, mayTurn, hasFixed) => {
        const pieces = list.map((p) => star(p.radii, p.wide));
        const groups = list.map((p) => p.group);
        const fixed = hasFixed ? [star([6, 5, 6, 4, 6], 1.5).map((v, i) => v + (i % 2 ? 20 : 31))] : [];
        const { size, places } = packPieces(pieces, { width: 64, height: 48, margin, groups, groupMargin, mayTurn, fixed });
        expect(size).toBeGreaterThan(0);
        const at = pieces.map((p, i) => placed(p, size, places[i]!));
        for (const [x, y] of at.flat()) expect(x > -1e-6 && y > -1e-6 && x < 64 + 1e-6 && y < 48 + 1e-6).toBe(true);
        at.forEach((a, i) => {
          for (let j = i + 1; j < at.length; j++)
            expect(apart(a, at[j]!)).toBeGreaterThanOrEqual((groups[i] === groups[j] ? margin : Math.max(margin, groupMargin)) - 1e-6);
          for (const f of fixed) expect(apart(a, placed(f, 1, { quarters: 0, x: 0, y: 0 }))).toBeGreaterThanOrEqual(margin - 1e-6);
          if (!mayTurn) expect(places[i]!.quarters).toBe(0);
        });
      },
    ),
    { seed: 9, numRuns: 60 },
  );
});

it('fills most of the room, is bounded in size, and gives up where margins alone take it', () => {
  const square = Float64Array.of(0, 0, 1, 0, 1, 1, 0, 0, 1, 1, 0, 1);
  const sixteen = packPieces(Array<Piece>(16).fill(square), { width: 64, height: 64, margin: 0, mayTurn: true });
  expect(16 * sixteen.size ** 2).toBeGreaterThan(0.9 * 64 ** 2);
  expect(packPieces([square], { width: 64, height: 64, margin: 0, mayTurn: true, most: 7 }).size).toBe(7);
  // Upright it would be half as large.
  const long = square.map((v, i) => (i % 2 ? v : v * 4));
  const size = (mayTurn: boolean) => packPieces([long], { width: 16, height: 64, margin: 0, mayTurn }).size;
  expect([size(true), size(false)]).toEqual([expect.closeTo(16, 0), expect.closeTo(4, 0)]);
  expect(packPieces(Array<Piece>(30).fill(square), { width: 4, height: 4, margin: 3, mayTurn: true }).size).toBe(0);
});
