import fc from 'fast-check';
import { expect, it } from 'vitest';
import { polygonTexels } from './polygonTexels';

const texelsOf = (points: readonly number[]) => {
  const out: string[] = [];
  polygonTexels(Float64Array.from(points), (y, from, to) => {
    for (let x = from; x < to; x++) out.push(`${x} ${y}`);
  });
  return out.sort();
};

/** How often a polygon winds around a place; `null` on its outline. By the definition, side by side. */
function winding(p: readonly number[], x: number, y: number): number | null {
  let sum = 0;
  for (let i = 0; i < p.length; i += 2) {
    const [ax, ay, bx, by] = [p[i]!, p[i + 1]!, p[(i + 2) % p.length]!, p[(i + 3) % p.length]!];
    const side = (bx - ax) * (y - ay) - (by - ay) * (x - ax);
    if (side === 0 && Math.min(ax, bx) <= x && x <= Math.max(ax, bx) && Math.min(ay, by) <= y && y <= Math.max(ay, by)) return null;
    if (ay <= y !== by <= y) sum += ay <= y && side > 0 ? 1 : ay > y && side < 0 ? -1 : 0;
  }
  return sum;
}

it('holds the texels whose middle is inside, and none on the outline', () => {
  // Quarters of texels, so that corners and sides come to lie on middles, and all sums are exact.
  const corner = fc.integer({ min: -8, max: 24 }).map((n) => n / 4);
  fc.assert(
    fc.property(fc.array(corner, { minLength: 6, maxLength: 12 }), (all) => {
      const points = all.slice(0, all.length & ~1);
      // What winds both ways around a place may meet itself there; its outline is then a matter of rounding.
      const wanted: string[] = [];
      for (let y = -2; y < 6; y++) for (let x = -2; x < 6; x++) if (winding(points, x + 0.5, y + 0.5)) wanted.push(`${x} ${y}`);
      const found = texelsOf(points);
      const isOnOutline = (t: string) => winding(points, Number(t.split(' ')[0]) + 0.5, Number(t.split(' ')[1]) + 0.5) === null;
      // A side inside of a polygon that crosses itself is not its outline.
      expect(found.filter((t) => !isOnOutline(t))).toEqual(wanted.sort());
      if (points.length === 6) expect(found).toEqual(wanted);
    }),
    { numRuns: 2000 },
  );
});

it('gives a texel to one at most of two polygons with a side in common, whichever way they run', () => {
  const place = fc.double({ min: 0, max: 8, noNaN: true });
  fc.assert(
    fc.property(place, place, place, place, (ax, ay, bx, by) => {
      // One on each side of it.
      const left = texelsOf([ax, ay, bx, by, ax - (by - ay), ay + (bx - ax)]);
      const right = new Set(texelsOf([bx, by, ax, ay, ax + (by - ay), ay - (bx - ax)]));
      expect(left.filter((t) => right.has(t))).toEqual([]);
    }),
    { numRuns: 1000 },
  );
  let rows = 0;
  polygonTexels(Float64Array.of(0, 0, 9, 0, 9, 9, 0, 9), () => ++rows > 2);
  expect(rows).toBe(3);
});
