import { beforeEach, expect, it, vi } from 'vitest';
import { box, grid } from '@tests/meshes';
import { cells, click, held, openBoxAndFloor, openKitOf, ramp } from '@tests/openKits';

const { openKit, closeKit, forgetUndo } = await import('../kit/openKit');
const { current, showModel, useEditor } = await import('../kit/editor');
const { dispatch, redoEdit, undoEdit } = await import('../kit/edits');
const { flushEdits } = await import('../kit/saving');
const { chooseCell } = await import('../color/coloring');
const { pickEverything, pointAtFace } = await import('../pick/picking');
const { usePick } = await import('./pickState');
const { usePhrase } = await import('./phrase');
const { useColoring } = await import('./coloringState');
const { openPalette } = await import('../files/palettes');
const { castRay, Hovering } = await import('../pick/pointing');

beforeEach(openBoxAndFloor);

it('drops what was asked for a model that is no longer in view when the answer comes', async () => {
  let answer!: () => void;
  held.wait = new Promise((resolve) => (answer = resolve));
  showModel('floor');
  usePhrase.setState({ scope: 'like', act: 'color' });
  useColoring.setState({ cell: ramp(0)[0]! });
  const clicked = click(0);
  const pointed = pointAtFace(1);
  showModel('box');
  answer();
  await Promise.all([clicked, pointed]);
  const colored = Object.values(useEditor.getState().state.seats).some(({ cell }) => cell.some((c) => c !== 0));
  expect([colored, usePick.getState().count, usePick.getState().wouldTake.length]).toEqual([false, 0, 0]);
});

it('points at the last place that the pointer came to, drops rays of a model no longer in view, and goes on after one that failed', async () => {
  const rayTo = (face: number) => ({
    origin: [face, 0, 0] as [number, number, number],
    direction: [0, 0, 1] as [number, number, number],
  });
  const warned = vi.spyOn(console, 'warn').mockImplementation(() => undefined);
  const { id } = current()!.loaded!;
  const hovering = new Hovering(id);
  await hovering.moveTo(() => rayTo(-1));
  expect(warned).toHaveBeenCalledOnce();
  await Promise.all([1, 2, 4].map((face) => hovering.moveTo(() => rayTo(face))));
  expect(usePick.getState().face).toBe(4);
  const late = hovering.moveTo(() => rayTo(2));
  hovering.leave();
  await late;
  expect(usePick.getState().face).toBe(-1);

  let answer = () => undefined as void;
  held.wait = new Promise((resolve) => (answer = resolve));
  const [click, hover] = [castRay(id, rayTo(3)), hovering.moveTo(() => rayTo(3))];
  showModel('floor');
  answer();
  expect(await click).toBeUndefined();
  await hover;
  expect(usePick.getState().face).toBe(-1);
  held.wait = Promise.resolve();
});

it('shows a palette file in the kit on which it was dropped, and in no other', async () => {
  let answer = () => undefined as void;
  held.wait = new Promise((resolve) => (answer = resolve));
  const opened = openPalette(new File(['123456'], 'sea.hex'));
  await closeKit();
  await openKitOf({ box: box() });
  answer();
  await opened;
  expect(useColoring.getState().panel).toBeNull();
  await openPalette(new File(['123456'], 'sea.hex'));
  expect(useColoring.getState().panel).toMatchObject({ kind: 'palette', file: 'sea.hex' });
});

it('opens another kit with no pick, no color and no mesh of the one before', async () => {
  await click(4);
  useColoring.setState({ cell: ramp(0)[0]! });
  const before = Object.keys(useEditor.getState().meshes);
  held.forgotten = [];
  await closeKit();
  await openKitOf({ deck: grid(2) });
  expect([usePick.getState().count, useColoring.getState().cell, Object.keys(useEditor.getState().meshes)]).toEqual([
    0,
    0,
    [current()!.model.mesh],
  ]);
  expect(held.forgotten.sort()).toEqual(before.sort());
});

it('changes nothing while another tab has the kit', async () => {
  const { id } = useEditor.getState().state.kit;
  await closeKit();
  held.tabHasKit = true;
  await openKit(id);
  expect(useEditor.getState().readOnly).toBe('taken');
  pickEverything();
  chooseCell(ramp(0)[0]!);
  expect(cells().some(Boolean)).toBe(false);
  expect(dispatch({ kind: 'set', of: 'kit', before: {}, after: {} })).toBeNull();
});

it('keeps undo, and goes on, where there is no room even to forget it', async () => {
  const fill = () =>
    vi.spyOn(IDBObjectStore.prototype, 'put').mockImplementation(() => {
      throw new DOMException('full', 'QuotaExceededError');
    });
  let full = fill();
  await click(1);
  chooseCell(ramp(0)[0]!);
  const colored = cells();
  await expect(forgetUndo()).rejects.toThrow('The last changes are not saved yet');
  full.mockRestore();
  await flushEdits();
  full = fill();
  await expect(forgetUndo()).rejects.toThrow('so what can be undone was kept');
  full.mockRestore();
  expect([useEditor.getState().status, cells()]).toEqual(['ready', colored]);
  undoEdit();
  expect(cells()).not.toEqual(colored);
  redoEdit();
  await flushEdits();
  await forgetUndo();
  expect([useEditor.getState().history.edits.length, cells()]).toEqual([0, colored]);
});
