import fc from 'fast-check';
import { expect, it } from 'vitest';
import { byId } from '../../ground/byId';
import { applyEdit } from '../../kit/edit/editKinds';
import type { KitState } from '../../kit/kit';
import { problemOfMotif, type Motif, type Pattern } from '../../kit/patterns';
import { newKit } from '../starter';
import { brushEdit, isStepwise } from './brush';
import { isEmptyMotif, resizedMotif, startMotifs, stepAt, tileUnder, withStep } from './motifs';
import { orderOfTexel, patternOf, type PointAt } from './patterns';

const { kit } = { kit: newKit('Skerry') };
const [dark, base, light] = kit.sheets[0]!.ramps[0]!.cells as [number, number, number];
const motif = (rows: string[], more: Partial<Motif> = {}): Motif => ({ id: 'm', name: 'm', rows, ...more });
const drawn = (m: Motif, w: number, h: number) =>
  Array.from({ length: h }, (_, y) => Array.from({ length: w }, (_, x) => '-0+'[stepAt(m, x, y) + 1]).join(''));
const stateOf = (width: number, cells: number[]): KitState => ({ kit, seats: byId(), pixels: byId({ a: { width, height: cells.length / width, cells: Uint16Array.from(cells) } }) }); // prettier-ignore

/** What a pattern makes of one texel, by its place and what is there. */
const cellAt = (pattern: Pattern, pointAt?: PointAt) => (x: number, y: number, before: number) => {
  const cells = Uint16Array.of(before);
  patternOf(kit, pattern, pointAt)(cells, 0, 1, x, y);
  return cells[0]!;
};

it('motifs repeat, each row of tiles shifted to the right, every second one over its neighbours', () => {
  expect(drawn(motif(['+0', '0-']), 5, 4)).toEqual(['+0+0+', '0-0-0', '+0+0+', '0-0-0']);
  expect(drawn(motif(['+00', '-00'], { shift: 1 }), 6, 6)).toEqual(['+00+00', '-00-00', '0+00+0', '0-00-0', '00+00+', '00-00-']);
  // Rows 0, 2 and 4 lie over 1 and 3: there the others show only where they have no step.
  const scales = motif(['++', '0-'], { overlap: 1 });
  expect(drawn(scales, 2, 4)).toEqual(['++', '+-', '++', '+-']);
  expect(drawn(motif(['+0', '-+'], { overlap: 1, shift: 1 }), 2, 5)).toEqual(['+-', '-+', '+-', '-+', '+-']);
  // To the left of the first tile and above it, too.
  for (let y = -7; y < 7; y++) for (let x = -7; x < 7; x++) expect(stepAt(motif(['+0-', '00+'], { shift: 2 }), x, y)).toBe(stepAt(motif(['+0-', '00+'], { shift: 2 }), x + 6, y + 12)); // prettier-ignore
});

it('a stamp covers the tile that is meant, wherever it is', () => {
  const size = fc.integer({ min: 1, max: 5 });
  fc.assert(
    fc.property(size, size, fc.nat(4), fc.nat(4), fc.integer({ min: -20, max: 20 }), fc.integer({ min: -20, max: 20 }), (w, h, shift, over, x, y) => {
      const tiles = motif(Array.from({ length: h }, () => '+'.repeat(w)), { shift, overlap: Math.min(over, h - 1) });
      const tile = tileUnder(tiles, x, y);
      expect([tile.w, tile.h, tile.x <= x && x < tile.x + w, tile.y <= y && y < tile.y + h]).toEqual([w, h, true, true]);
      // The same one from everywhere in it that no further row covers, and the next one beside it.
      expect(tileUnder(tiles, tile.x, tile.y)).toEqual(tile);
      expect(tileUnder(tiles, tile.x + w, tile.y).x).toBe(tile.x + w);
      const below = tileUnder(tiles, tile.x + shift, tile.y + h - tiles.overlap!);
      expect([below.y - tile.y, (((below.x - tile.x - shift) % w) + w) % w]).toEqual([h - tiles.overlap!, 0]);
    }),
    { seed: 3, numRuns: 120 },
  ); // prettier-ignore
});

it('steps go along whatever ramp is there, once a stroke, or around a color; ends of ramps stay', () => {
  const rows = motif(['-+0']);
  const state = stateOf(3, [dark, dark, dark, base, base, base, light, light, light, 0, 0, 0]);
  const all = Uint32Array.from({ length: 12 }, (_, t) => t);
  const after = (cell: number) => [...applyEdit(stateOf(3, [...state.pixels!.a!.cells]), brushEdit(state, 'a', all, { kind: 'motif', motif: rows, cell })!).pixels!.a!.cells]; // prettier-ignore
  expect(after(0)).toEqual([dark, base, dark, dark, light, base, base, light, light, 0, 0, 0]);
  expect(after(base)).toEqual([dark, light, base, dark, light, base, dark, light, base, dark, light, base]);
  expect(after(light).slice(0, 3)).toEqual([base, light, light]);
  expect([isStepwise({ kind: 'motif', motif: rows, cell: 0 }), isStepwise({ kind: 'motif', motif: rows, cell: 1 })]).toEqual([true, false]);
  const stepped = new Uint8Array(12);
  const once = brushEdit(state, 'a', all, { kind: 'motif', motif: rows, cell: 0 }, { stepped })!;
  expect(brushEdit(applyEdit(state, once), 'a', all, { kind: 'motif', motif: rows, cell: 0 }, { stepped })).toBeNull();
  // From another texel, and by the texels of which others are the mirror image.
  const fresh = stateOf(
    3,
    Array.from({ length: 6 }, () => base),
  );
  const laid = (from: [number, number], sourceOf = (t: number) => t) => [...applyEdit(stateOf(3, [...fresh.pixels!.a!.cells]), brushEdit(fresh, 'a', all.slice(0, 6), { kind: 'motif', motif: motif(['-0+', '000']), cell: 0 }, { from, sourceOf })!).pixels!.a!.cells]; // prettier-ignore
  expect(laid([1, 1])).toEqual([base, base, base, light, dark, base]);
  expect(laid([0, 0], (t) => 2 - t)).toEqual([light, base, dark, base, base, base]);
  const rows3 = motif(['-', '0', '+']);
  const from = (y: number) => [...applyEdit(stateOf(1, [base, base, base]), brushEdit(stateOf(1, [base, base, base]), 'a', Uint32Array.of(0, 1, 2), { kind: 'motif', motif: rows3, cell: 0 }, { from: [0, y] })!).pixels!.a!.cells]; // prettier-ignore
  expect([from(0), from(1), from(2)]).toEqual([[dark, base, light], [light, dark, base], [base, light, dark]]); // prettier-ignore
  // Where a texel is shown is asked of its own place, wherever the pattern begins.
  const asked: string[] = [];
  const line = [[0, 0, 0], [1, 0, 0]] as const; // prettier-ignore
  brushEdit(fresh, 'a', all.slice(2, 5), { kind: 'ordered', from: dark, to: light, share: 0, grid: 2, line }, { from: [2, 1], pointAt: (x, y) => (asked.push(`${x} ${y}`), [x, y, 0]) }); // prettier-ignore
  expect(asked).toEqual(['2 0', '0 1', '1 1']);
});

it('patterns fill by place: noise evenly among the steps of a ramp, checkers at their share, and the same again', () => {
  const count = (of: ReturnType<typeof cellAt>) => {
    const counts = new Map<number, number>();
    for (let y = 0; y < 64; y++) for (let x = 0; x < 64; x++) counts.set(of(x, y, 0)!, (counts.get(of(x, y, 0)!) ?? 0) + 1);
    return counts;
  };
  const noise = (cell: number, within: number, seed = 0) => cellAt({ kind: 'noise', cell, within, seed });
  const about = (cell: number, within: number) =>
    [...count(noise(cell, within))].map(([c, n]) => [c, Math.round((n / 4096) * 20) / 20]).sort((a, b) => a[0]! - b[0]!);
  expect(about(base, 1)).toEqual([dark, base, light].map((c) => [c, 0.35]));
  expect(about(dark, 1)).toEqual([dark, base].map((c) => [c, 0.5]));
  expect([...count(noise(999, 2)).keys()]).toEqual([999]);
  const row = (seed: number) => Array.from({ length: 64 }, (_, x) => noise(base, 1, seed)(x, 3, 0)).join();
  expect([row(1) === row(1), row(1) === row(2)]).toEqual([true, false]);
  const checker = (share: number) => cellAt({ kind: 'ordered', from: 1, to: 2, share, grid: 8 });
  for (const n of [0, 1, 7, 16, 32, 63, 64]) expect(count(checker(n / 64)).get(2) ?? 0).toBe(n * 64);
  const half = (y: number) => Array.from({ length: 6 }, (_, x) => checker(0.5)(x, y, 0)).join('');
  expect([half(0), half(1)]).toEqual(['212121', '121212']);
  // A quarter is one of each four.
  for (let y = 0; y < 8; y += 2) for (let x = 0; x < 8; x += 2) expect([[0, 0], [1, 0], [0, 1], [1, 1]].filter(([dx, dy]) => checker(0.25)(x + dx!, y + dy!, 0) === 2)).toHaveLength(1); // prettier-ignore
  const state = stateOf(
    6,
    Array.from({ length: 30 }, () => 5),
  );
  const edit = brushEdit(
    state,
    'a',
    Uint32Array.from({ length: 30 }, (_, t) => t),
    { kind: 'ordered', from: 1, to: 2, share: 0.5, grid: 8 },
  );
  expect([...applyEdit(state, edit!).pixels!.a!.cells.slice(0, 12)].join('')).toBe('212121121212');
});

it('colors are mixed by their weights, the same again, and otherwise with another seed', () => {
  const count = (pattern: Pattern) => {
    const at = cellAt(pattern);
    const cells = Array.from({ length: 4096 }, (_, t) => at(t % 64, t >> 6, 0)!);
    return [...new Set(cells)].sort().map((c) => [c, Math.round((cells.filter((d) => d === c).length / 4096) * 20) / 20]);
  };
  const among = [{ cell: 7, weight: 3 }, { cell: 2, weight: 1 }]; // prettier-ignore
  expect(count({ kind: 'mix', among, seed: 1 })).toEqual([[2, 0.25], [7, 0.75]]); // prettier-ignore
  const row = (seed: number) => Array.from({ length: 40 }, (_, x) => cellAt({ kind: 'mix', among, seed })(x, 0, 0)).join('');
  expect([row(4) === row(4), row(4) === row(5)]).toEqual([true, false]);
});

it('squares of 2, 4 and 8 hold every order once, and along a line each step of a ramp is passed', () => {
  for (const grid of [2, 4, 8] as const) {
    const orders = Array.from({ length: grid * grid }, (_, t) => Math.round(orderOfTexel(t % grid, Math.floor(t / grid), grid) * grid * grid - 0.5)); // prettier-ignore
    expect(orders.sort((a, b) => a - b)).toEqual(Array.from({ length: grid * grid }, (_, i) => i));
    expect(orderOfTexel(grid + 1, grid, grid)).toBe(orderOfTexel(1, 0, grid));
  }
  expect([orderOfTexel(0, 0, 2), orderOfTexel(1, 1, 2), orderOfTexel(1, 0, 2), orderOfTexel(0, 1, 2)]).toEqual([
    0.125, 0.375, 0.625, 0.875,
  ]);
  const line = [[1, 5, 0], [9, 5, 0]] as const; // prettier-ignore
  const at = cellAt({ kind: 'ordered', from: dark, to: light, share: 0, grid: 4, line }, (x, y) => (y > 90 ? null : [x / 8, 7, 3]));
  expect([at(0, 0, 0), at(8, 8, 0), at(40, 0, 0), at(72, 0, 0), at(999, 3, 0), at(0, 99, 0)]).toEqual([dark, dark, base, light, light, 0]);
  const share = (from: number, of: number) => Array.from({ length: 256 }, (_, t) => at(from + (t % 16), t >> 4, 0)).filter((c) => c === of).length / 256; // prettier-ignore
  // A quarter of the way on half of the texels are of the step between.
  expect([share(16, dark), share(16, base), share(48, base), share(48, light)].map((v) => Math.round(v * 10) / 10)).toEqual([0.5, 0.5, 0.5, 0.5]); // prettier-ignore
  const counts = (from: number, to: number, part: number, grid: 2 | 8 = 8) => {
    const shown = Array.from({ length: 64 }, (_, t) => cellAt({ kind: 'ordered', from, to, share: part, grid })(t % 8, t >> 3, 0)!);
    return [...new Set(shown)].map((c) => [c, shown.filter((d) => d === c).length]).sort((a, b) => b[1]! - a[1]!);
  };
  expect([counts(light, dark, 0.5), counts(light, dark, 0.125), counts(dark, light, 0.875), counts(light, dark, 1)]).toEqual([
    [[base, 64]], [[light, 48], [base, 16]], [[light, 48], [base, 16]], [[dark, 64]],
  ]); // prettier-ignore
  // Of no ramp, or the same one twice, there is nothing between; a share that is an order is not yet reached.
  expect([counts(900, light, 0.25), counts(base, base, 0.7), counts(dark, 900, 0.25, 2)]).toEqual([[[900, 48], [light, 16]], [[base, 64]], [[dark, 48], [900, 16]]]); // prettier-ignore
  expect(counts(900, light, 0.5 / 64)).toEqual([[900, 64]]);
  // The line may run any way: places beside it count as far along it as they lie.
  const skew = cellAt({ kind: 'ordered', from: 900, to: light, share: 0, grid: 8, line: [[1, 2, 3], [3, 6, 7]] }, (x, y) => [x / 100, y / 100, 3]); // prettier-ignore
  // Of 36 square metres, (-0.5, 0.5, 0) reaches 1 and (1, 2, 0) 10: below the first order, and above the lowest.
  const along = (x: number, y: number) => Math.max(0, Math.min(1, ((x / 100 - 1) * 2 + (y / 100 - 2) * 4) / 36));
  for (const [x, y] of [[50, 250], [200, 400], [400, 800], [0, 0], [120, 210]] as const) expect([x, y, skew(x, y, 0)]).toEqual([x, y, orderOfTexel(x, y) < along(x, y) ? light : 900]); // prettier-ignore
  const deep = cellAt({ kind: 'ordered', from: 900, to: light, share: 0, grid: 8, line: [[1, 2, 3], [3, 6, 7]] }, (x) => [1, 2, 3 + x / 8]); // prettier-ignore
  for (let x = 0; x < 60; x += 7)
    expect([x, deep(x, 3, 0)]).toEqual([x, orderOfTexel(x, 3) < Math.min(1, ((x / 8) * 4) / 36) ? light : 900]);
  expect(cellAt({ kind: 'ordered', from: 900, to: light, share: 1, grid: 8, line: [[1, 2, 3], [3, 6, 7]] })(0, 0, 0)).toBe(0); // prettier-ignore
});

it('a motif is drawn texel by texel, and made larger and smaller', () => {
  const own = motif(['+0', '0-', '00'], { overlap: 2 });
  expect(withStep(own, [[1, 0], [0, 2], [5, 5], [-1, 0]], '-').rows).toEqual(['+-', '0-', '-0']); // prettier-ignore
  expect([withStep(own, [[0, 0]], '+'), withStep(own, [], '-')]).toEqual([own, own]); // prettier-ignore
  expect(withStep(own, [[0, 0]], '+')).toBe(own);
  expect(own.rows).toEqual(['+0', '0-', '00']);
  expect([resizedMotif(own, 3, 2), resizedMotif(own, 1, 4).rows, resizedMotif(own, 2, 3)]).toEqual([
    { ...own, rows: ['+00', '0-0'], overlap: 1 },
    ['+', '0', '0', '0'],
    own,
  ]);
  expect('overlap' in resizedMotif(motif(['+']), 2, 2)).toBe(false);
  expect([['00', '00'], ['00', '0-'], ['+0'], ['0+']].map((rows) => isEmptyMotif({ rows }))).toEqual([true, false, false, false]);
});

it('those that come along hold together, show steps both ways, and none is the other', () => {
  for (const m of startMotifs) {
    expect(problemOfMotif(m)).toBeNull();
    expect([m.rows.length <= 16, m.rows[0]!.length <= 16, new Set(m.rows.join('')).size]).toEqual([true, true, 3]);
  }
  expect(new Set(startMotifs.map((m) => m.rows.join())).size).toBe(startMotifs.length);
  expect([problemOfMotif(motif(['00', '0'])), problemOfMotif(motif(['0'], { overlap: 1 }))]).toEqual([
    'the rows of a motif are not of one length',
    'the rows of a motif lie over each other by more than it is high',
  ]);
});
