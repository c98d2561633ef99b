import { describe, expect, it } from 'vitest';
import { lchFromHex, type Hex } from '../../ground/color/hex';
import type { ColoringRule, Fill, Kit } from '../kit';
import { newKit } from '../../sheet/starter';
import { colorsInOrder, exchangedFrom, exchangeRamp, fillsByRules } from './rules';

/** Cells 1 to 3 are a ramp, 4 to 6 the next, and so on; 13 and 14 a ramp of two; 15 a gradient. */
function kit(): Kit {
  const made = newKit('Skerry');
  const stops = [
    { at: 0, color: '#204060' },
    { at: 1, color: '#e0d0c0' },
  ];
  made.sheets[0]!.cells[14]!.fill = { kind: 'gradient', axis: 'x', mix: 'oklab', stops };
  return made;
}
const own = kit();
const ramps = own.sheets[0]!.ramps;
const [rust, straw] = ramps.map((r) => r.id) as [string, string];
/** Ramps by their numbers that take the colors of others. */
const exchange = (...pairs: [number, number][]): ColoringRule => ({
  kind: 'exchange',
  cells: pairs.reduce((now, [to, from]) => exchangeRamp(now, ramps[to]!, ramps[from]!), {}),
});
const colorOf = (fill: Fill | undefined): Hex => (fill?.kind === 'solid' ? fill.color : '');
const was = (id: number) => colorOf(own.sheets[0]!.cells[id - 1]!.fill);
const made = (...rules: ColoringRule[]) => fillsByRules(own, rules);
const all = Array.from({ length: 15 }, (_, i) => String(i + 1));

describe('a rule', () => {
  it('shifts lightness, strength and hue of all colors, gradients too, and of no spare cell', () => {
    const fills = made({ kind: 'shift', lightness: 0.1, strength: 0.5, hue: 40 });
    expect(Object.keys(fills)).toEqual(all);
    for (const id of [1, 5, 8, 11]) {
      const [from, to] = [lchFromHex(was(id)), lchFromHex(colorOf(fills[id]))];
      expect(to.l - from.l).toBeCloseTo(0.1, 2);
      expect(to.c / from.c).toBeCloseTo(0.5, 1);
      expect((to.h - from.h + 360) % 360).toBeCloseTo(40, -0.7);
    }
    const stops = (fills[15] as Extract<Fill, { kind: 'gradient' }>).stops.map((s) => s.color);
    expect(lchFromHex(stops[0]!).l - lchFromHex('#204060').l).toBeCloseTo(0.1, 2);
    expect(lchFromHex(stops[1]!).l - lchFromHex('#e0d0c0').l).toBeCloseTo(0.1, 1);
    expect(made({ kind: 'shift', lightness: 0, strength: 1, hue: 0 })).toEqual({});
    expect(lchFromHex(colorOf(made({ kind: 'shift', lightness: -0.1, strength: 1, hue: 0 })[2])).l).toBeLessThan(lchFromHex(was(2)).l);
  });

  it('goes toward a color by a share, of the ramps that are meant and but for what is left alone', () => {
    const toward = (share: number, meant: Pick<ColoringRule, 'only' | 'except'> = {}) =>
      made({ kind: 'toward', color: '#808890', share, ...meant });
    expect(colorOf(toward(1)[7])).toBe('#808890');
    expect(toward(0)).toEqual({});
    const half = lchFromHex(colorOf(toward(0.5)[1])).l;
    expect(half).toBeCloseTo((lchFromHex(was(1)).l + lchFromHex('#808890').l) / 2, 2);
    expect(Object.keys(toward(0.5, { only: [straw] }))).toEqual(['4', '5', '6']);
    expect(Object.keys(toward(0.5, { only: [rust, straw], except: [2, 4, 9] }))).toEqual(['1', '3', '5', '6']);
    expect(Object.keys(toward(0.5, { except: [1, 15] }))).toEqual(all.slice(1, 14));
  });

  it('exchanges ramps step for step, all read before any is changed; shorter ones by their ends', () => {
    const swap = made(exchange([0, 1], [1, 0]));
    expect([1, 2, 3, 4, 5, 6].map((id) => colorOf(swap[id]))).toEqual([4, 5, 6, 1, 2, 3].map(was));
    const short = made(exchange([4, 0], [0, 4]));
    expect([13, 14, 1, 2, 3].map((id) => colorOf(short[id]))).toEqual([1, 3, 13, 14, 14].map(was));
    expect(made({ kind: 'exchange', cells: { 1: 999, 999: 1, 2: 16 } })).toEqual({});
    expect(Object.keys(made({ ...exchange([0, 1]), except: [3] }))).toEqual(['1', '2']);
    const { cells } = exchange([0, 1], [4, 0]) as Extract<ColoringRule, { kind: 'exchange' }>;
    expect(ramps.map((r) => exchangedFrom(own, cells, r)?.name)).toEqual(['Straw', undefined, undefined, undefined, 'Rust']);
    expect(exchangeRamp(cells, ramps[0]!, null)).toEqual({ 13: 1, 14: 3 });
  });

  it('gives cells the colors of a picture so that what is lighter stays lighter', () => {
    const colors = colorsInOrder(own, ['#ffffff', '#101010', '#808080', '#c0c0c0']);
    const cells = own.sheets[0]!.cells.filter((c) => c.fill.kind === 'solid');
    expect(Object.keys(colors).map(Number)).toEqual(cells.map((c) => c.id));
    const byOwn = [...cells].sort((a, b) => lchFromHex(was(a.id)).l - lchFromHex(was(b.id)).l).map((c) => lchFromHex(colors[c.id]!).l);
    expect(byOwn).toEqual([...byOwn].sort((a, b) => a - b));
    expect([byOwn[0], byOwn.at(-1)]).toEqual([lchFromHex('#101010').l, lchFromHex('#ffffff').l]);
    const fills = made({ kind: 'drawn', reference: 'r', colors, only: [rust] });
    expect(Object.keys(fills)).toEqual(['1', '2', '3']);
    expect(colorOf(fills[1])).toBe(colors[1]);
    expect(colorsInOrder(own, [])).toEqual({});
  });

  it('works on what the rules before it made', () => {
    const first = exchange([0, 1]);
    const second: ColoringRule = { kind: 'toward', color: '#000000', share: 1, only: [straw] };
    expect(colorOf(made(first, second)[2])).toBe(was(5));
    expect(colorOf(made(second, first)[2])).toBe('#000000');
  });
});
