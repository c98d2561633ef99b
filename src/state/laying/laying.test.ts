import { beforeEach, expect, it } from 'vitest';
import { findCell, type Fill } from '@/core/kit/kit';
import { editCell } from '@/core/sheet/cells';
import { grid } from '@tests/meshes';
import { cells, click, held, openBoxAndFloor, openKitOf, ramp, sheet } from '@tests/openKits';

const { current, showModel, useEditor } = await import('../kit/editor');
const { dispatch, undoEdit } = await import('../kit/edits');
const { pickEverything } = await import('../pick/picking');
const { pickedFaces, usePick } = await import('../chosen/pickState');
const { chooseCell } = await import('../color/coloring');
const { endPreview, laidInHand, layAgain, previewAgain, layPick, previewLaying, useLaying } = await import('./laying');

const gradient = () => ramp(0)[0]!;
const seats = () => useEditor.getState().state.seats[useEditor.getState().modelId!]!;
const placed = () => [...(seats().at ?? [])].filter((_, i) => i % 2 === 0);

type GradientFill = Extract<Fill, { kind: 'gradient' }>;
const fillOf = (cell: number) => findCell(useEditor.getState().state.kit, cell)!.cell.fill;

const makeGradient = () => {
  const stops = [
    { at: 0, color: '#000000' },
    { at: 1, color: '#ffffff' },
  ];
  dispatch(editCell(sheet(), gradient(), { fill: { kind: 'gradient', axis: 'x', mix: 'oklab', stops } }));
};

beforeEach(async () => {
  await openBoxAndFloor();
  makeGradient();
});

it('shows a pick as it would lie, without touching it, and lays it just so in one undo', async () => {
  pickEverything();
  previewLaying(gradient(), { start: 0.25 });
  const shown = useLaying.getState().preview!.seats;
  expect([cells(), seats().at]).toEqual([[0, 0, 0, 0, 0, 0], undefined]);
  endPreview();
  expect(useLaying.getState().preview).toBeNull();
  await layPick(gradient(), { start: 0.25 });
  expect(seats()).toEqual(shown);
  expect([usePick.getState().count, new Set(placed())]).toEqual([0, new Set([0.25, 1])]);
  const before = useEditor.getState().history.cursor;
  await layAgain({ start: 1, end: 0 });
  await layAgain({ rule: 'facing', tone: 'face' });
  expect([useEditor.getState().history.cursor, new Set(placed())]).toEqual([before, new Set([1, 0.5, 0])]);
  undoEdit();
  expect([cells(), seats().at, laidInHand()]).toEqual([[0, 0, 0, 0, 0, 0], undefined, null]);
});

it('changes by words only what was the last thing done, and only on the model in view', async () => {
  await click(2);
  await layPick(gradient());
  await click(3);
  chooseCell(ramp(1)[0]!);
  expect(laidInHand()).toBeNull();
  const was = placed();
  await layAgain({ start: 0.5 });
  expect(placed()).toEqual(was);
  // What is no gradient is left alone.
  await click(4);
  await layPick(ramp(1)[0]!);
  expect(cells()[4]).toBe(0);
});

it('of several words in a row the last ones count, and none that come after another model', async () => {
  await openKitOf({ wide: grid(150), other: grid(2) });
  makeGradient();
  useLaying.setState(({ words }) => ({ words: { ...words, rule: 'width', tone: 'smooth' } }));
  pickEverything();
  await layPick(gradient());
  expect([held.pickedInWorker > 0, Math.max(...placed())]).toEqual([true, 1]);
  await Promise.all([layAgain({ end: 0.75 }), layAgain({ start: 0.25 }), layAgain({ end: 0.5 })]);
  expect([Math.min(...placed()), Math.max(...placed())]).toEqual([0.25, 0.5]);
  // A pick that is made while another one is measured stays.
  let answer!: () => void;
  pickEverything();
  held.wait = new Promise((resolve) => (answer = resolve));
  const measured = layPick(gradient(), { start: 0.5, end: 0.25 });
  await click(7);
  answer();
  await measured;
  held.wait = Promise.resolve();
  expect([[...pickedFaces()], Math.min(...placed()), Math.max(...placed())]).toEqual([[7], 0.25, 0.5]);
  const late = layAgain({ end: 1 });
  showModel('other');
  await late;
  showModel('wide');
  expect([current()!.model.id, Math.max(...placed())]).toEqual(['wide', 0.5]);
});

it('knows later what was laid together, by any face of it, and lays it anew by other words', async () => {
  await click(0);
  usePick.getState().set((picked) => picked.fill(1, 0, 4));
  useLaying.setState(({ words }) => ({ words: { ...words, rule: 'height', tone: 'smooth' } }));
  await layPick(gradient());
  await click(5);
  chooseCell(ramp(1)[0]!);
  expect(laidInHand()).toBeNull();
  await click(1);
  expect([...laidInHand()!.faces]).toEqual([0, 1, 2, 3]);
  const was = [...seats().at!];
  previewAgain({ start: 1, end: 0 });
  expect([...seats().at!]).toEqual(was);
  const shown = useLaying.getState().preview!.seats;
  endPreview();
  const { cursor } = useEditor.getState().history;
  await layAgain({ start: 1 });
  await layAgain({ end: 0 });
  // Two words are one undo; all that were laid together follow, and the pick stays.
  expect([seats().at, useEditor.getState().history.cursor, usePick.getState().count]).toEqual([shown.at, cursor + 1, 1]);
  undoEdit();
  expect([...seats().at!]).toEqual(was);
  // Another gradient takes them as they lie; a point by hand ends it.
  dispatch(editCell(sheet(), ramp(1)[1]!, { fill: { ...(fillOf(gradient()) as GradientFill), axis: 'y' } }));
  usePick.getState().set((picked) => picked.fill(1, 0, 4));
  chooseCell(ramp(1)[1]!);
  expect([...seats().at!].filter((_, i) => i < 32)).toEqual(was.filter((_, i) => i < 32).map((_, i, all) => all[i ^ 1]!));
  await click(1);
  expect(laidInHand()?.cell).toBe(ramp(1)[1]!);
  chooseCell(ramp(1)[2]!);
  chooseCell(gradient(), [0.25, 0.5]);
  await click(1);
  chooseCell(gradient(), [0.25, 0.5]);
  await click(1);
  expect([laidInHand(), seats().rule![1], seats().at![8]]).toEqual([null, 0, 0.25]);
});
