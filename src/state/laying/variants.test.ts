import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { mostIn } from '@/core/ground/limits';
import { newRule } from '@/core/kit/colorings/rules';
import { cells, click, openBoxAndFloor, ramp, sheet } from '@tests/openKits';

const { undoEdit } = await import('../kit/edits');
const { baseState, showModel, useEditor } = await import('../kit/editor');
const { chooseCell, setCellColor } = await import('../color/coloring');
const { pickEverything } = await import('../pick/picking');
const { usePick } = await import('../chosen/pickState');
const variants = await import('./variants');

const inHand = () => useEditor.getState().variant;
const undos = () => useEditor.getState().history.cursor;
const rulesOf = (id: string) => baseState().kit.variants.find((v) => v.id === id)!.rules ?? [];

beforeEach(async () => {
  await openBoxAndFloor();
  vi.useFakeTimers({ toFake: ['Date'], now: 1e6 });
});
afterEach(() => void vi.useRealTimers());

it('takes what is colored into the variant in hand, and leaves the default as it was', async () => {
  await click(0);
  chooseCell(ramp(0)[0]!);
  const salt = variants.makeVariant({ name: 'Salt-worn' })!;
  expect(inHand()).toBe(salt);
  await click(0);
  chooseCell(ramp(1)[1]!);
  expect([cells()[0], baseState().seats.box!.cell[0]]).toEqual([ramp(1)[1], ramp(0)[0]]);
  setCellColor(ramp(0)[0]!, '#123456');
  const colorIn = (of: typeof sheet) => of().cells.find((c) => c.id === ramp(0)[0])!.fill;
  expect(colorIn(sheet)).toEqual({ kind: 'solid', color: '#123456' });
  expect(colorIn(() => baseState().kit.sheets[0]!)).not.toEqual({ kind: 'solid', color: '#123456' });
  const own = baseState().kit.variants[0]!;
  expect(variants.differenceWords(baseState(), own)).toBe('1 color, 1 face');
  // Picked, they can be taken back alone.
  variants.pickDifferences('box', variants.differencesOf(baseState(), own).faces[0]!.faces);
  expect(usePick.getState().count).toBe(1);
  variants.takeDifferencesBack(salt, variants.pickedDifferences()!);
  expect(variants.differenceWords(baseState(), baseState().kit.variants[0]!)).toBe('1 color');
  expect(cells()[0]).toBe(ramp(0)[0]);
});

it('shows a coloring of one model with that model alone, and goes through those that fit', () => {
  const all = variants.makeVariant({ name: 'Salt-worn' })!;
  const floors = variants.makeVariant({ name: 'Wet', model: 'floor' })!;
  // Choosing it brought its model.
  expect([useEditor.getState().modelId, inHand()]).toEqual(['floor', floors]);
  showModel('box');
  expect(inHand()).toBeNull();
  const seen = [1, 2, 3].map(() => (variants.nextVariant(), inHand()));
  expect(seen).toEqual([all, null, all]);
  showModel('floor');
  expect([1, 2].map(() => (variants.nextVariant(), inHand()))).toEqual([floors, null]);
});

it('finds a free name, and gives none that another has', () => {
  const one = variants.makeVariant({ name: 'Salt-worn' })!;
  const copy = variants.makeVariant({ copyOf: one })!;
  expect(baseState().kit.variants.map((v) => v.name)).toEqual(['Salt-worn', 'Salt-worn copy']);
  variants.nameVariant(copy, 'SALT-WORN');
  expect(baseState().kit.variants[1]!.name).toBe('Salt-worn copy');
  variants.shiftVariant(copy, 1);
  variants.shiftVariant(copy, -1);
  expect(baseState().kit.variants.map((v) => v.id)).toEqual([copy, one]);
  const before = undos();
  variants.nameVariant(copy, ' Salt-worn copy ');
  expect(undos()).toBe(before);
  variants.deleteVariant(copy);
  expect([baseState().kit.variants.map((v) => v.id), inHand()]).toEqual([[one], null]);
});

it('makes one undo of a rule that is tuned, and another of each rule that comes', () => {
  pickEverything();
  chooseCell(ramp(0)[1]!);
  const id = variants.makeVariant({ name: 'Fog' })!;
  const before = undos();
  variants.addRule(id, newRule.toward('#c3cbc9'));
  variants.addRule(id, newRule.shift());
  const tune = (share: number) => variants.setRules(id, [{ kind: 'toward', color: '#c3cbc9', share }, ...rulesOf(id).slice(1)]);
  [0.4, 0.5].forEach(tune);
  vi.advanceTimersByTime(1600);
  tune(0.6);
  expect([undos() - before, rulesOf(id).map((r) => r.kind)]).toEqual([4, ['toward', 'shift']]);
  undoEdit();
  expect(rulesOf(id)[0]).toMatchObject({ share: 0.5 });
  undoEdit();
  expect(rulesOf(id)[0]).toMatchObject({ share: 0.3 });
  for (let i = rulesOf(id).length; i < mostIn.rules + 2; i++) variants.addRule(id, newRule.shift());
  expect(rulesOf(id)).toHaveLength(mostIn.rules);
});
