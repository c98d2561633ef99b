import fc from 'fast-check';
import { expect, it } from 'vitest';
import { byId } from '../../ground/byId';
import { applyEdit } from '../../kit/edit/editKinds';
import { performWith, emptyHistory, perform, undo } from '../../kit/edit/history';
import { joinedPixels } from '../../kit/edit/kinds/pixels';
import type { PixelEdit } from '../../kit/edit/edit';
import type { KitState } from '../../kit/kit';
import type { TexelSpans } from '../../kit/texelChange';
import { emptyPixels } from '../../kit/pixels';
import { newKit } from '../starter';
import { brushEdit } from './brush';
import { dabsAlong, rectangleBetween, type Dab } from './dabs';
import { texelsShowing, touchingTexels } from './fills';
import { neighboursInRamps } from './steps';

const size = { width: 6, height: 5 };
const picture = (texels: Uint32Array) =>
  Array.from({ length: 5 }, (_, y) => Array.from({ length: 6 }, (_, x) => (texels.includes(y * 6 + x) ? '#' : '.')).join('')).join(' ');
const dab = (across: number, shape: Dab['shape'] = 'square') => ({ size: across, shape });
const stateOf = (cells: number[]): KitState => ({ kit: newKit('Skerry'), seats: byId(), pixels: byId({ a: { ...size, cells: Uint16Array.from(cells) } }) }); // prettier-ignore

it('dabs are squares and disks about a texel, and end at the border of the art', () => {
  const at = (x: number, y: number, ...of: Parameters<typeof dab>) => picture(dabsAlong(size, [x, y], [x, y], dab(...of)));
  expect(at(2, 2, 1)).toBe('...... ...... ..#... ...... ......');
  expect(at(2, 2, 2)).toBe('...... ...... ..##.. ..##.. ......');
  expect(at(2, 2, 3)).toBe('...... .###.. .###.. .###.. ......');
  expect(at(2, 2, 3, 'round')).toBe('...... ..#... .###.. ..#... ......');
  expect(at(2, 2, 4, 'round')).toBe('...... ..##.. .####. .####. ..##..');
  expect(at(2, 2, 5, 'round')).toBe('.###.. #####. #####. #####. .###..');
  expect(at(0, 0, 3)).toBe('##.... ##.... ...... ...... ......');
  expect(at(5, 4, 3)).toBe('...... ...... ...... ....## ....##');
  expect(at(9, 9, 2)).toBe('...... ...... ...... ...... ......');
});

it('lines have no gap, both ends, and no more texels than the longer way; rectangles have both corners', () => {
  const texel = fc.tuple(fc.nat(30), fc.nat(30));
  fc.assert(
    fc.property(texel, texel, (a, b) => {
      const line = dabsAlong({ width: 31, height: 31 }, a, b, dab(1));
      expect(line.length).toBe(Math.max(Math.abs(a[0] - b[0]), Math.abs(a[1] - b[1])) + 1);
      const places = [...line].map((t) => [t % 31, Math.floor(t / 31)] as const);
      for (const end of [a, b]) expect(line).toContain(end[1] * 31 + end[0]);
      const isBeside = (p: readonly [number, number], q: readonly [number, number]) =>
        Math.max(Math.abs(p[0] - q[0]), Math.abs(p[1] - q[1])) === 1;
      for (const p of places) expect(places.filter((q) => isBeside(p, q)).length).toBe(line.length === 1 ? 0 : [a, b].some((e) => e[0] === p[0] && e[1] === p[1]) ? 1 : 2); // prettier-ignore
    }),
    { seed: 2, numRuns: 80 },
  );
  expect(picture(dabsAlong(size, [0, 0], [5, 3], dab(1)))).toBe('#..... .##... ...##. .....# ......');
  expect(picture(rectangleBetween(size, [4, 3], [1, 1]))).toBe('...... .####. .####. .####. ......');
  expect(picture(rectangleBetween(size, [-3, 4], [1, 9]))).toBe('...... ...... ...... ...... ##....');
});

it('fills what touches by its sides, or all of a color, within bounds', () => {
  const cells = [1, 1, 2, 1, 1, 1, 1, 2, 2, 1, 2, 1, 2, 1, 1, 2, 1, 1, 1, 1, 1, 1, 2, 1, 2, 2, 2, 2, 2, 1];
  const pixels = { ...size, cells: Uint16Array.from(cells) };
  expect(picture(touchingTexels(pixels, 0))).toBe('##.... #..... ...... ...... ......');
  expect(picture(touchingTexels(pixels, 18))).toBe('...... ...... .##... ####.. ......');
  expect(picture(touchingTexels(pixels, 29))).toBe('...### ...#.# ....## .....# .....#');
  expect(picture(touchingTexels(pixels, 2))).toBe('..#... .##... ...... ...... ......');
  expect(picture(texelsShowing(pixels, 2))).toBe('..#... .##.#. #..#.. ....#. #####.');
  const upper = Uint8Array.from({ length: 30 }, (_, t) => (t < 12 ? 1 : 0));
  expect(picture(touchingTexels(pixels, 5, upper))).toBe('...### ...#.# ...... ...... ......');
  expect(picture(texelsShowing(pixels, 2, upper))).toBe('..#... .##.#. ...... ...... ......');
  expect(touchingTexels(pixels, 29, upper)).toHaveLength(0);
});

it('sets a cell, cuts away, or steps along ramps, each texel once a stroke', () => {
  const state = stateOf(Array.from({ length: 30 }, () => 0));
  const [ramp] = state.kit.sheets[0]!.ramps;
  const [dark, base, light] = ramp!.cells as [number, number, number];
  expect([
    neighboursInRamps(state.kit, 1).get(dark),
    neighboursInRamps(state.kit, -1).get(light),
    neighboursInRamps(state.kit, -1).get(dark),
  ]).toEqual([base, base, undefined]);
  state.pixels!.a!.cells.set([dark, base, light, 0]);
  const four = Uint32Array.of(0, 1, 2, 3);
  const after = (edit: ReturnType<typeof brushEdit>) => [...applyEdit({ ...state, pixels: byId({ a: { ...size, cells: state.pixels!.a!.cells.slice() } }) }, edit!).pixels!.a!.cells.slice(0, 4)]; // prettier-ignore
  expect(after(brushEdit(state, 'a', four, { kind: 'cell', cell: base }))).toEqual([base, base, base, base]);
  expect(after(brushEdit(state, 'a', four, { kind: 'cell', cell: 0 }))).toEqual([0, 0, 0, 0]);
  expect(brushEdit(state, 'a', Uint32Array.of(1), { kind: 'cell', cell: base })).toBeNull();
  const stepped = new Uint8Array(30);
  expect(after(brushEdit(state, 'a', four, { kind: 'step', by: 1 }, { stepped }))).toEqual([base, light, light, 0]);
  expect([...stepped.slice(0, 4)]).toEqual([1, 1, 0, 0]);
  expect(brushEdit(state, 'a', Uint32Array.of(0, 1), { kind: 'step', by: 1 }, { stepped })).toBeNull();
  expect(after(brushEdit(state, 'a', four, { kind: 'step', by: -1 }))).toEqual([dark, dark, base, 0]);
});

it('texels that touch are those of a walk from side to side, and over links, ascending', () => {
  const texel = fc.nat(41);
  const links = fc.array(fc.tuple(texel, texel), { maxLength: 4 });
  fc.assert(
    fc.property(fc.array(fc.constantFrom(1, 1, 2), { minLength: 42, maxLength: 42 }), texel, fc.array(texel, { maxLength: 6 }), links, (list, from, shut, pairs) => {
      const cells = Uint16Array.from(list);
      const within = new Uint8Array(42).fill(1);
      for (const t of shut) within[t] = 0;
      const over = new Map<number, number[]>();
      for (const [a, b] of pairs) over.set(a, [...(over.get(a) ?? []), b]);
      const found = new Set<number>();
      const walk = (t: number): void => {
        if (t < 0 || t >= 42 || found.has(t) || !within[t] || cells[t] !== cells[from]) return;
        found.add(t);
        for (const n of [t - 7, t + 7, ...(t % 7 ? [t - 1] : []), ...(t % 7 < 6 ? [t + 1] : []), ...(over.get(t) ?? [])]) walk(n);
      };
      walk(from);
      const art = { width: 7, height: 6, cells };
      expect([...touchingTexels(art, from, within, over)]).toEqual([...found].sort((a, b) => a - b));
    }),
    { seed: 8, numRuns: 300 },
  ); // prettier-ignore
});

it('a stroke of many places is one edit, with what was before it, and undone at once', () => {
  const strokes = fc.array(fc.tuple(fc.uniqueArray(fc.nat(29), { minLength: 1, maxLength: 9 }), fc.constantFrom(0, 1, 2)), {
    minLength: 2,
    maxLength: 6,
  });
  fc.assert(
    fc.property(strokes, (list) => {
      const state = stateOf(Array.from({ length: 30 }, (_, t) => 1 + (t % 3)));
      const before = [...state.pixels!.a!.cells];
      let step = { state, history: emptyHistory };
      let [last, wanted] = [null as ReturnType<typeof brushEdit>, [...before]];
      for (const [texels, cell] of list) {
        const edit = brushEdit(step.state, 'a', Uint32Array.from(texels), { kind: 'cell', cell });
        wanted = wanted.map((c, t) => (texels.includes(t) ? cell : c));
        if (!edit) continue;
        step = last ? performWith(step, edit, step.history.edits.at(-1)!) : perform(step, edit);
        last = edit;
      }
      expect([...step.state.pixels!.a!.cells]).toEqual(wanted);
      if (!last) return;
      expect(step.history.edits).toHaveLength(1);
      const { spans } = step.history.edits[0] as PixelEdit & TexelSpans;
      // No run is told in two, and nothing that is as it was.
      for (let i = 0; i < spans.length; i += 4) {
        expect(spans[i + 2]).not.toBe(spans[i + 3]);
        if (i) expect([spans[i - 4]! + spans[i - 3]!, spans[i - 2], spans[i - 1]]).not.toEqual([spans[i], spans[i + 2], spans[i + 3]]);
      }
      expect([...undo(step).state.pixels!.a!.cells]).toEqual(before);
    }),
    { seed: 4, numRuns: 80 },
  );
  const run = (...spans: number[]) => ({ kind: 'pixels' as const, art: 'a', spans: Uint32Array.from(spans) });
  expect([...joinedPixels(run(4, 2, 1, 2), run(6, 1, 1, 2, 8, 1, 3, 2)).spans]).toEqual([4, 3, 1, 2, 8, 1, 3, 2]);
  expect([...joinedPixels(run(4, 2, 1, 2), run(4, 1, 2, 1)).spans]).toEqual([5, 1, 1, 2]);
  expect(emptyPixels(2, 3, 7)).toEqual({ width: 2, height: 3, cells: Uint16Array.of(7, 7, 7, 7, 7, 7) });
});
