import { beforeEach, expect, it } from 'vitest';
import { cells, click, openBoxAndFloor, ramp, sheet } from '@tests/openKits';

const { undoEdit } = await import('../kit/edits');
const { baseState, useEditor } = await import('../kit/editor');
const { chooseCell } = await import('./coloring');
const { useColoring } = await import('../chosen/coloringState');
const { pickEverything } = await import('../pick/picking');
const board = await import('./board');
const { useBoard } = board;

const spare = () => sheet().cells.find((c) => c.fill.kind === 'spare')!.id;
const cellOf = (id: number) => sheet().cells.find((c) => c.id === id);

beforeEach(async () => {
  await openBoxAndFloor();
  useBoard.setState({ isOpen: true });
});

it('makes one selected color that of the sentence, to be edited; a spare cell, or several, none', () => {
  const [dark, middle] = ramp(0) as [number, number];
  board.selectCells([dark]);
  expect([useColoring.getState().cell, useColoring.getState().panel]).toEqual([dark, { kind: 'edit', cell: dark }]);
  board.toggleCell(middle);
  expect([useBoard.getState().selected, useColoring.getState().panel]).toEqual([[dark, middle], null]);
  board.toggleCell(dark);
  expect([useBoard.getState().selected, useColoring.getState().cell]).toEqual([[middle], middle]);
  board.selectCells([spare()]);
  expect([useColoring.getState().cell, useColoring.getState().panel]).toEqual([middle, null]);
});

it('keeps of merged colors the one with most faces, whichever was selected first', async () => {
  pickEverything();
  chooseCell(ramp(0)[1]!);
  await click(0);
  chooseCell(ramp(1)[0]!);
  // They lie beside each other, so that they can be one cell.
  const a = cellOf(ramp(0)[1]!)!.rect;
  const beside = sheet().cells.find((c) => c.rect.y === a.y && c.rect.x === a.x + a.w)!.id;
  await click(1);
  chooseCell(beside);
  board.selectCells([beside, ramp(0)[1]!]);
  board.mergeSelected();
  expect(useBoard.getState().selected).toEqual([ramp(0)[1]]);
  expect([cells()[1], cellOf(beside)]).toEqual([ramp(0)[1], undefined]);
  undoEdit();
  expect(cells()[1]).toBe(beside);
  // A spare cell gives its room, never its color.
  board.selectCells([ramp(0)[1]!, spare()]);
  board.mergeSelected();
  expect(cellOf(ramp(0)[1]!)?.fill.kind).toBe('solid');
});

it('sends faces of what goes where it is said, and nowhere else', async () => {
  await click(0);
  chooseCell(ramp(0)[0]!);
  await click(1);
  chooseCell(ramp(1)[0]!);
  board.selectCells([ramp(0)[0]!, ramp(1)[0]!]);
  board.spareSelected(ramp(1)[0]!);
  expect([cells()[0], cells()[1], cellOf(ramp(1)[0]!)?.fill.kind]).toEqual([ramp(1)[0], ramp(1)[0], 'solid']);
  undoEdit();
  const band = { axis: 'y' as const, at: 0, texels: cellOf(ramp(0)[0]!)!.rect.h };
  const gone = board.colorsInBand(band).map((c) => c.id);
  expect(gone).toContain(ramp(0)[0]);
  const to = ramp(2)[1]!;
  const height = sheet().height;
  expect(board.deleteOnBoard(band, to)).toBe(true);
  expect([cells()[0], sheet().height, gone.some((id) => cellOf(id))]).toEqual([to, height - band.texels, false]);
  undoEdit();
  expect([cells()[0], sheet().height]).toEqual([ramp(0)[0], height]);
});

it('says what forbids an act, and changes nothing', () => {
  const before = useEditor.getState().history.cursor;
  expect(board.pinchOnBoard(1, 1)).toBe(false);
  expect(board.moveSelected(0, 0)).toBe(false);
  expect(useEditor.getState().history.cursor).toBe(before);
  // While Palette is closed the sheet is that of the model in view.
  useBoard.setState({ isOpen: false, sheetId: 'gone' });
  expect(board.sheetInHand().id).toBe(baseState().kit.sheets[0]!.id);
});
