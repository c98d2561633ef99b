import { beforeEach, expect, it } from 'vitest';
import { editCell } from '@/core/sheet/cells';
import { grid } from '@tests/meshes';
import { cells, click, held, openBoxAndFloor, openKitOf, ramp, sheet } from '@tests/openKits';

const { current, showModel, useEditor } = await import('../kit/editor');
const { dispatch, undoEdit } = await import('../kit/edits');
const { pickEverything } = await import('../pick/picking');
const { pickedFaces, usePick } = await import('../pick/pickState');
const { chooseCell } = await import('./coloring');
const { endPreview, lastLaid, layAgain, layPick, previewLaying, useLaying } = await import('./laying');

const gradient = () => ramp(0)[0]!;
const seats = () => useEditor.getState().state.seats[useEditor.getState().modelId!]!;
const placed = () => [...(seats().at ?? [])].filter((_, i) => i % 2 === 0);

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
  previewLaying(gradient(), 0.25, 1);
  const shown = useLaying.getState().preview!.seats;
  expect([cells(), seats().at]).toEqual([[0, 0, 0, 0, 0, 0], undefined]);
  endPreview();
  expect(useLaying.getState().preview).toBeNull();
  await layPick(gradient(), 0.25, 1);
  expect(seats()).toEqual(shown);
  expect([usePick.getState().count, new Set(placed())]).toEqual([0, new Set([0.25, 1])]);
  const before = useEditor.getState().history.cursor;
  await layAgain({ start: 1, end: 0 });
  await layAgain({ rule: 'facing', tone: 'face' });
  expect([useEditor.getState().history.cursor, new Set(placed())]).toEqual([before, new Set([1, 0.5, 0])]);
  undoEdit();
  expect([cells(), seats().at, lastLaid()]).toEqual([[0, 0, 0, 0, 0, 0], undefined, null]);
});

it('changes by words only what was the last thing done, and only on the model in view', async () => {
  await click(2);
  await layPick(gradient());
  await click(3);
  chooseCell(ramp(1)[0]!);
  expect(lastLaid()).toBeNull();
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
  useLaying.setState({ rule: 'width', tone: 'smooth', over: 'pick' });
  pickEverything();
  await layPick(gradient());
  expect([held.pickedInWorker > 0, Math.max(...placed())]).toEqual([true, 1]);
  await Promise.all([layAgain({ end: 0.75 }), layAgain({ start: 0.25 }), layAgain({ end: 0.5 })]);
  expect([Math.min(...placed()), Math.max(...placed())]).toEqual([0.25, 0.5]);
  // A pick that is made while another one is measured stays.
  let answer!: () => void;
  pickEverything();
  held.wait = new Promise((resolve) => (answer = resolve));
  const measured = layPick(gradient(), 0.5, 0.25);
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
