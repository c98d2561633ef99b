import fc from 'fast-check';
import { expect, it } from 'vitest';
import { adjacencyOf } from '../mesh/adjacency';
import { meshFromLists } from '../mesh/build';
import { fillHoles, grow, invertInParts, missedFaces, ringsFrom, shrink } from './change';

/** Two floors of so many columns and rows, of other widths; the second stands apart. */
const columns = [1, 0.3, 1, 1, 0.3, 0.3];
const rows = [1, 1, 0.3, 1, 0.4];
const size = columns.length * rows.length;
const along = (widths: readonly number[]) => widths.reduce((all, w) => [...all, all.at(-1)! + w], [0]);
const [xs, zs] = [along(columns), along(rows)];
const corner = (floor: number, i: number, k: number) => (floor * zs.length + k) * xs.length + i;
const mesh = meshFromLists({
  positions: [0, 9].flatMap((y) => zs.flatMap((z) => xs.flatMap((x) => [x, y, z]))),
  faces: [0, 1].flatMap((floor) =>
    rows.flatMap((_, k) =>
      columns.map((_, i) => [corner(floor, i, k), corner(floor, i, k + 1), corner(floor, i + 1, k + 1), corner(floor, i + 1, k)]),
    ),
  ),
});
const adjacency = adjacencyOf(mesh);
const placeOf = (f: number) => [f % columns.length, Math.floor((f % size) / columns.length)] as const;
const areaOf = (f: number) => columns[placeOf(f)[0]]! * rows[placeOf(f)[1]]!;
/** Neighbours over sides, with the length of the side; -1 where the floor ends. */
const sidesOf = (f: number): [other: number, length: number][] => {
  const [i, k] = placeOf(f);
  return [
    [i > 0 ? f - 1 : -1, rows[k]!],
    [i + 1 < columns.length ? f + 1 : -1, rows[k]!],
    [k > 0 ? f - columns.length : -1, columns[i]!],
    [k + 1 < rows.length ? f + columns.length : -1, columns[i]!],
  ];
};
const floorOf = (f: number) => Math.floor(f / size);
const near = (a: number, b: number) => Math.abs(a - b) < 1e-6;

/** Connected faces without a pick, and what they lie beside. */
function holes(picked: readonly boolean[]) {
  const left = new Set(picked.flatMap((p, f) => (p ? [] : [f])));
  const out: { faces: number[]; area: number; border: number; against: number; isOpen: boolean; floor: number }[] = [];
  for (const first of left) {
    const faces = new Set([first]);
    for (const f of faces) for (const [g] of sidesOf(f)) if (g >= 0 && left.has(g)) faces.add(g);
    for (const f of faces) left.delete(f);
    const ends = [...faces].flatMap(sidesOf).filter(([g]) => g < 0 || picked[g]);
    out.push({
      faces: [...faces].sort((a, b) => a - b),
      area: [...faces].reduce((sum, f) => sum + areaOf(f), 0),
      border: ends.reduce((sum, [, l]) => sum + l, 0),
      against: ends.reduce((sum, [g, l]) => sum + (g < 0 ? 0 : l), 0),
      isOpen: ends.some(([g]) => g < 0),
      floor: floorOf(first),
    });
  }
  return out.map((h) => {
    const most = Math.max(...out.filter((o) => o.floor === h.floor).map((o) => o.area));
    const isLargest = out.find((o) => o.floor === h.floor && near(o.area, most)) === h;
    const taken = picked.reduce((sum, p, f) => sum + (p && floorOf(f) === h.floor ? areaOf(f) : 0), 0);
    return { ...h, isEnclosed: !h.isOpen && h.against > 0 && (!isLargest || h.area < taken - 1e-6) };
  });
}

const picks = fc
  .tuple(
    fc.array(fc.double({ min: 0, max: 1, noNaN: true }), { minLength: 2 * size, maxLength: 2 * size }),
    fc.constantFrom(0.2, 0.5, 0.85, 0.95),
  )
  .map(([rolls, share]) => rolls.map((r) => r < share));
const flags = (picked: readonly boolean[]) => Uint8Array.from(picked, Number);
const listOf = (list: ArrayLike<number>) => Array.from(list);

it('gaps and lone faces are what their figures say, and holes are filled', () => {
  fc.assert(
    fc.property(picks, (picked) => {
      const found = missedFaces(mesh, adjacency, flags(picked));
      const taken = picked.flatMap((p, f) => (p ? [f] : []));
      const sum = taken.reduce((all, f) => all + areaOf(f), 0);
      const mean = sum / taken.length;
      const all = holes(picked);
      // Figures that lie on a limit could go either way by rounding.
      const isClear = (h: (typeof all)[number]) =>
        ![[h.area, sum * 0.15], [h.against, h.border * 0.5], [h.area, 0.085 * h.border ** 2], [h.area / h.faces.length, mean * 0.5]].some(([a, b]) => near(a!, b!)); // prettier-ignore
      fc.pre(all.every(isClear) && taken.every((f) => !near(areaOf(f), mean * 0.5)));
      const gaps = all.filter(
        (h) =>
          h.against > 0 &&
          h.faces.length <= 6 &&
          h.area <= sum * 0.15 &&
          h.against >= h.border * 0.5 &&
          h.area <= 0.085 * h.border ** 2 &&
          (h.isEnclosed || h.area / h.faces.length <= mean * 0.5),
      );
      const lone = taken.filter(
        (f) =>
          areaOf(f) <= mean * 0.5 &&
          sidesOf(f).every(([g]) => g < 0 || !picked[g]) &&
          picked.some((p, g) => !p && floorOf(g) === floorOf(f)),
      );
      const few = taken.length < 2;
      expect(found.left.map(listOf).sort()).toEqual(few ? [] : gaps.map((g) => g.faces).sort());
      expect(listOf(found.lone)).toEqual(few ? [] : lone);
      const filled = all.filter((h) => h.isEnclosed).flatMap((h) => h.faces);
      expect(listOf(fillHoles(adjacency, flags(picked)))).toEqual(picked.map((p, f) => Number(p || filled.includes(f))));
    }),
    { numRuns: 400, seed: 21 },
  );
});

it('rings count how often growing takes a face and shrinking leaves it; parts are inverted each by itself', () => {
  const touching = (f: number, g: number) => {
    const [[i, k], [m, n]] = [placeOf(f), placeOf(g)];
    return floorOf(f) === floorOf(g) && Math.max(Math.abs(i - m), Math.abs(k - n)) <= 1;
  };
  const numbers = Array.from({ length: 2 * size }, (_, f) => f);
  fc.assert(
    fc.property(picks, (picked) => {
      const grown = numbers.map((f) => Number(numbers.some((g) => picked[g] && touching(f, g))));
      const shrunk = numbers.map((f) => Number(picked[f] && !numbers.some((g) => !picked[g] && touching(f, g))));
      expect(listOf(grow(adjacency, flags(picked)))).toEqual(grown);
      expect(listOf(shrink(adjacency, flags(picked)))).toEqual(shrunk);
      const rings = ringsFrom(adjacency, flags(picked));
      const far = (f: number, of: boolean) => {
        const [i, k] = placeOf(f);
        const steps = numbers.flatMap((g) => (picked[g] === of && floorOf(g) === floorOf(f) ? [Math.max(Math.abs(placeOf(g)[0] - i), Math.abs(placeOf(g)[1] - k))] : [])); // prettier-ignore
        return Math.min(Infinity, ...steps);
      };
      for (const f of numbers) expect(rings[f]).toBe(picked[f] ? 1 - far(f, false) : far(f, true));
      const has = [0, 1].map((floor) => picked.some((p, f) => p && floorOf(f) === floor));
      expect(listOf(invertInParts(adjacency, flags(picked)))).toEqual(picked.map((p, f) => (has[floorOf(f)] ? Number(!p) : 0)));
    }),
    { numRuns: 60, seed: 4 },
  );
});
