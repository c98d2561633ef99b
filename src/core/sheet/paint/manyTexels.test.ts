import fc from 'fast-check';
import { expect, it } from 'vitest';
import { byId } from '../../ground/byId';
import { equalArrays } from '../../ground/equalArrays';
import { inherits } from '../../ground/limits';
import type { PixelEdit } from '../../kit/edit/edit';
import { applyEdit, inverseOf, sizeOfEdit } from '../../kit/edit/editKinds';
import { emptyHistory, perform, performWith, undo } from '../../kit/edit/history';
import { EditRefused } from '../../kit/edit/refused';
import type { KitState } from '../../kit/kit';
import { texelsOfCells } from '../../kit/pixels';
import { eachRun, type TexelStretch } from '../../kit/texelChange';
import { paintInVariant } from '../../faces/variants/paintInVariant';
import { carryRasters, boundsOfChange, rasterOfPixels } from '../painted';
import { newKit } from '../starter';
import { brushEdit, type Sets } from './brush';
import { patternOf } from './patterns';
import { RowRuns } from './rowRuns';

const [width, height] = [300, 260];
const noise: Sets = { kind: 'noise', cell: 5, within: 1, seed: 2 };
function painted(locked = false): KitState {
  const kit = newKit('Skerry');
  const [sheet] = kit.sheets as [(typeof kit.sheets)[number]];
  const art = {
    id: 99,
    rect: { x: 0, y: 64, w: width, h: height },
    role: 'art',
    fill: { kind: 'art' as const, picture: 'a', painted: true as const },
  };
  const cells = sheet.cells.map((c) => (c.id === 3 && locked ? { ...c, locked: true as const } : c));
  const texels = Uint16Array.from({ length: width * height }, (_, t) => 1 + (t % 3));
  const night = { id: 'night', name: 'night', fills: {} };
  return {
    kit: { ...kit, sheets: [{ ...sheet, width: 512, height: 512, cells: [...cells, art] }], variants: [night as never], nextCell: 100 },
    seats: byId(),
    pixels: byId({ a: { width, height, cells: texels } }),
  };
}
const copied = (state: KitState): KitState => ({
  ...state,
  pixels: byId({ a: { ...state.pixels!.a!, cells: state.pixels!.a!.cells.slice() } }),
});
/** All texels but every so many-th. */
const most = (every: number) => Uint32Array.from({ length: width * height }, (_, t) => t).filter((t) => t % every);

const same = (a: ArrayLike<number>, b: ArrayLike<number>) => expect(equalArrays(a, b)).toBe(true);

it('texels that are named twice count once', () => {
  expect([...new RowRuns(Uint32Array.of(3, 3, 4), 5).texels]).toEqual([3, 4]);
});

it('texels come as runs of their rows, whatever their order, and go back to their places', () => {
  const list = fc.array(fc.tuple(fc.nat(99), fc.integer({ min: 1, max: 40 })), { minLength: 0, maxLength: 6 });
  fc.assert(
    fc.property(list, fc.integer({ min: 1, max: 50 }), (stretches, across) => {
      const texels = Uint32Array.from(stretches.flatMap(([at, n]) => Array.from({ length: n }, (_, i) => at + i)));
      const runs = new RowRuns(texels, across);
      const wanted = [...new Set(texels)].sort((a, b) => a - b);
      expect([...runs.texels]).toEqual(wanted);
      const told: number[] = [];
      let [end, after] = [0, -1];
      runs.each((from, to, first) => {
        expect([from, first % across === 0 || first > after || from === 0]).toEqual([end, true]);
        expect(Math.floor(first / across)).toBe(Math.floor((first + to - from - 1) / across));
        for (let i = from; i < to; i++) told.push(first + i - from);
        [end, after] = [to, first + to - from];
      });
      expect(told).toEqual(wanted);
      const cells = Uint16Array.from({ length: 140 }, (_, t) => t + 7);
      expect([...runs.from(cells)]).toEqual(wanted.map((t) => t + 7));
      const target = new Uint16Array(145);
      runs.put(runs.from(cells), target, -5);
      expect([...target]).toEqual(Array.from({ length: 145 }, (_, t) => (wanted.includes(t - 5) ? t + 2 : 0)));
    }),
    { seed: 5, numRuns: 200 },
  );
});

it('many texels are told one by one where that is smaller: varied, close together, and more than a few', () => {
  const of = (cells: Uint16Array, across: number, list: number[], sets: Sets = noise) => {
    const state = { ...painted(), pixels: byId({ a: { width: across, height: cells.length / across, cells } }) };
    return 'first' in brushEdit(state, 'a', Uint32Array.from(list), sets)! ? 'one by one' : 'spans';
  };
  const every = (n: number, step = 1) => Array.from({ length: n }, (_, i) => i * step);
  const even = new Uint16Array(210_000).fill(2);
  expect([every(65_536), every(65_537), every(70_000, 2), every(70_000, 3)].map((list) => of(even, 300, list))).toEqual(['spans', 'one by one', 'one by one', 'spans']); // prettier-ignore
  // One color over many is varied where these lie apart, or show many.
  const color: Sets = { kind: 'cell', cell: 5 };
  const varied = even.map((_, t) => 1 + (t % 2));
  expect([of(even, 300, every(70_000), color), of(even, 300, every(70_000, 2), color), of(varied, 300, every(70_000), color)]).toEqual(['spans', 'one by one', 'one by one']); // prettier-ignore
  const state = { ...painted(), pixels: byId({ a: { width: 300, height: 700, cells: even } }) };
  const told = brushEdit(
    state,
    'a',
    Uint32Array.from(every(70_000), (t) => t + 7),
    noise,
  ) as PixelEdit & TexelStretch;
  expect([told.first, told.before.length]).toEqual([7, 70_000]);
});

it('a pattern over many texels sets each as over one, in less room than spans, and is undone to the texel', () => {
  const state = painted(true);
  const texels = most(7).slice(3);
  const edit = brushEdit(copied(state), 'a', texels, noise)! as PixelEdit & { first: number; after: Uint16Array };
  expect([edit.first, edit.after.length, sizeOfEdit(edit) < texels.length * 5]).toEqual([texels[0], width * height - texels[0]!, true]);
  const was = state.pixels!.a!.cells;
  const next = applyEdit(copied(state), edit);
  const one = patternOf(state.kit, noise as never);
  const wanted = was.slice();
  for (const t of texels) if (was[t] !== 3) one(wanted, t, t + 1, t % width, Math.floor(t / width));
  same(next.pixels!.a!.cells, wanted);
  // Counted and drawn from what is told of it as from the whole.
  const own = copied(state);
  const [before, uses] = [own.pixels!.a!, texelsOfCells(own)];
  rasterOfPixels(before, own.kit);
  const now = applyEdit(own, edit);
  carryRasters(before, now.pixels!.a!, edit);
  expect(texelsOfCells(now)).toEqual(texelsOfCells(copied(next)));
  expect(texelsOfCells(now)).not.toEqual(uses);
  same(rasterOfPixels(now.pixels!.a!, now.kit).data, rasterOfPixels({ ...next.pixels!.a! }, next.kit).data);
  expect(boundsOfChange(edit, width)).toEqual({ x: 0, y: 0, w: width, h: height });
  let changed = 0;
  eachRun(edit, (_, count) => (changed += count));
  expect(changed).toBe(was.filter((c, t) => c !== wanted[t]).length);
  same(applyEdit(next, inverseOf(edit), { ignoreLocks: true }).pixels!.a!.cells, was);
  // The same once more changes nothing; one color is told in spans, however many.
  expect(brushEdit(applyEdit(copied(state), edit), 'a', texels, noise)).toBeNull();
  expect(brushEdit(copied(state), 'a', texels, { kind: 'cell', cell: 5 })).toHaveProperty('first');
  expect(brushEdit({ ...state, pixels: byId({ a: { width, height, cells: new Uint16Array(width * height) } }) }, 'a', texels.filter((t) => t % width), { kind: 'cell', cell: 5 })).toHaveProperty('spans'); // prettier-ignore
});

it('a stroke goes on after many texels, as one; what does not fit is refused and changes nothing', () => {
  const state = painted();
  let step = perform({ state: copied(state), history: emptyHistory }, brushEdit(state, 'a', most(9), noise)!);
  step = performWith(step, brushEdit(step.state, 'a', Uint32Array.of(5, 6, 300), { kind: 'cell', cell: 9 })!, step.history.edits[0]!);
  expect([step.history.edits.length, [5, 6, 300].map((t) => step.state.pixels!.a!.cells[t])]).toEqual([1, [9, 9, 9]]);
  same(undo(step).state.pixels!.a!.cells, state.pixels!.a!.cells);
  const stretch = (first: number, before: number[], after: number[]): PixelEdit => ({ kind: 'pixels', art: 'a', first, before: Uint16Array.from(before), after: Uint16Array.from(after) }); // prettier-ignore
  const here = copied(state);
  const last = width * height - 2;
  const faults = [
    stretch(-1, [1], [2]),
    stretch(last, [2, 3, 1], [1, 1, 1]),
    stretch(0, [1, 2], [1]),
    stretch(0, [1, 1], [1, 5]),
    stretch(0, [1, 2], [1, 700]),
  ];
  for (const fault of faults) expect(() => applyEdit(here, fault)).toThrow(EditRefused);
  same(here.pixels!.a!.cells, state.pixels!.a!.cells);
  const own = applyEdit(here, stretch(last, [2, 3], [1, 3]));
  expect([...own.pixels!.a!.cells.slice(-3)]).toEqual([1, 1, 3]);
});

it('in a variant only what is painted there differs from the default', () => {
  const state = copied(painted());
  const shown = brushEdit(state, 'a', most(5), noise)!;
  const edit = paintInVariant(state, 'night', 99, shown)!;
  const next = applyEdit(state, edit);
  const [number] = Object.values(next.kit.variants[0]!.fills).map((f) => (f as { picture: string }).picture);
  const [over, own] = [next.pixels!.a!.cells, next.pixels![number!]!.cells];
  const wanted = over.slice();
  eachRun(shown, (from, _, __, to) => (wanted[from] = to));
  same(over, painted().pixels!.a!.cells);
  same(
    own,
    wanted.map((c, t) => (c === over[t] ? inherits : c)),
  );
  expect(paintInVariant(next, 'night', 99, shown)).toBeNull();
});
