import { beforeEach, expect, it } from 'vitest';
import { findCell } from '@/core/kit/kit';
import { cells, click, openBoxAndFloor, ramp } from '@tests/openKits';

const { showModel, useEditor } = await import('../kit/editor');
const { undoEdit } = await import('../kit/edits');
const { addColor, chooseCell, chooseOfRamp, makeSpare, proposeColor, setCellColor, sourceCell, stepFaces } = await import('./coloring');
const { pickEverything, pointAtFace } = await import('../pick/picking');
const { usePick } = await import('../chosen/pickState');
const { usePhrase } = await import('../chosen/phrase');
const { useColoring } = await import('../chosen/coloringState');
const { useAnnouncement } = await import('../told/announce');
const { nameThePick, setRegionLock } = await import('../pick/regions');
const { takeDragged } = await import('../pick/dragging');
const { takeMissed } = await import('../pick/changePick');

const keys = { add: false, take: false };

beforeEach(openBoxAndFloor);

it('chooses by number from the ramp in use', () => {
  useColoring.setState({ cell: ramp(3)[2]! });
  pickEverything();
  chooseOfRamp(0);
  expect(cells().every((c) => c === ramp(3)[0])).toBe(true);
  chooseOfRamp(7);
  expect(useColoring.getState().cell).toBe(ramp(3)[0]);
});

it('steps each face along its own ramp, and says which are at the end', async () => {
  for (const [face, cell] of [
    [0, ramp(0)[1]!],
    [1, ramp(2)[2]!],
    [2, ramp(1)[0]!],
  ] as const) {
    await click(face);
    chooseCell(cell);
  }
  pickEverything();
  stepFaces(1);
  expect(cells().slice(0, 4)).toEqual([ramp(0)[2], ramp(2)[2], ramp(1)[1], 0]);
  expect(useAnnouncement.getState().text).toContain('1 face is at the light end');
  undoEdit();
  expect(cells().slice(0, 3)).toEqual([ramp(0)[1], ramp(2)[2], ramp(1)[0]]);
});

it('lands a new color on a spare cell beside its source by lightness, with the picked faces on it, in one act', () => {
  const from = ramp(1)[1]!;
  pickEverything();
  addColor('#4a3a20', 'wet straw', from);
  const made = useColoring.getState().cell;
  expect(findCell(useEditor.getState().state.kit, made)!.cell).toMatchObject({ role: 'wet straw', fill: { color: '#4a3a20' } });
  expect(ramp(1).indexOf(made)).toBe(1);
  expect(cells().every((c) => c === made)).toBe(true);
  undoEdit();
  expect([ramp(1).includes(made), cells().some(Boolean)]).toEqual([false, false]);
  expect(proposeColor(findCell(useEditor.getState().state.kit, from)!.cell).color).not.toBe('#4a3a20');
});

it('takes the source from the cell under the pointer first, then the pick, then the face under the pointer', async () => {
  await click(0);
  chooseCell(ramp(0)[0]!);
  useColoring.setState({ cell: ramp(3)[0]! });
  expect(sourceCell()).toBe(ramp(3)[0]);
  await pointAtFace(0);
  expect(sourceCell()).toBe(ramp(0)[0]);
  useColoring.setState({ pointedCell: ramp(2)[2]! });
  expect(sourceCell()).toBe(ramp(2)[2]);
});

it('moves the faces of all models when a color becomes spare, and brings everything back on undo', () => {
  const cell = ramp(0)[1]!;
  pickEverything();
  chooseCell(cell);
  showModel('floor');
  pickEverything();
  chooseCell(cell);
  makeSpare(cell, ramp(1)[1]!);
  const { seats, kit } = useEditor.getState().state;
  expect([...seats.box!.cell, ...seats.floor!.cell].every((c) => c === ramp(1)[1])).toBe(true);
  expect([findCell(kit, cell)!.cell.fill.kind, ramp(0).includes(cell)]).toEqual(['spare', false]);
  undoEdit();
  expect([ramp(0)[1], cells()[0]]).toEqual([cell, cell]);
});

it('keeps the steps of one slider as one change and one recent color', () => {
  const cell = ramp(0)[0]!;
  const before = useEditor.getState().history.cursor;
  setCellColor(cell, '#101010');
  setCellColor(cell, '#202020', { join: true });
  setCellColor(cell, '#303030', { join: true });
  expect(useEditor.getState().history.cursor).toBe(before + 1);
  expect(useColoring.getState().recent).toEqual(['#303030']);
});

it('never takes one undo for two things: what was done in between stays apart', async () => {
  showModel('floor');
  const [a, b] = [ramp(0)[0]!, ramp(1)[0]!];
  usePhrase.setState({ act: 'color' });
  useColoring.setState({ cell: a });
  await takeDragged(Uint32Array.of(0, 1, 2), new Uint8Array(9), keys, null);
  usePick.setState({
    missed: { left: Uint32Array.of(3), lone: new Uint32Array(0), cell: a, joins: useEditor.getState().history.edits.at(-1)! },
  });
  setCellColor(b, '#123456');
  takeMissed();
  setCellColor(b, '#234567', { join: true });
  undoEdit();
  undoEdit();
  expect([cells()[0], cells()[3], findCell(useEditor.getState().state.kit, b)!.cell.fill]).toEqual([
    a,
    0,
    { kind: 'solid', color: '#123456' },
  ]);
});

it('says what cannot be done under a lock, and does none of it', () => {
  showModel('floor');
  pickEverything();
  chooseCell(ramp(0)[0]!);
  pickEverything();
  nameThePick('deck', false);
  setRegionLock(1, true);
  const { state } = useEditor.getState();
  makeSpare(ramp(0)[0]!, 0);
  expect(useEditor.getState().state).toBe(state);
  expect(cells()[0]).toBe(ramp(0)[0]);
  setRegionLock(1, false);
  undoEdit();
  undoEdit();
  undoEdit();
  undoEdit();
  expect(cells()[0]).toBe(0);
});
