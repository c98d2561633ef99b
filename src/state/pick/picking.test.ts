import { beforeEach, expect, it, vi } from 'vitest';
import { grid } from '@tests/meshes';
import { cells, click, held, later, openBoxAndFloor, openKitOf, ramp, soon } from '@tests/openKits';

const { closeKit } = await import('../kit/openKit');
const { current, showModel, useEditor } = await import('../kit/editor');
const { redoEdit, undoEdit } = await import('../kit/edits');
const { chooseCell } = await import('../color/coloring');
const { bringBackPick, clickFace, faceName, invertPick, pickEverything, pickNextUncolored, pointAtFace, takeCellUnderPointer } =
  await import('./picking');
const { pickedFaces, usePick } = await import('../chosen/pickState');
const { usePhrase } = await import('../chosen/phrase');
const { useColoring } = await import('../chosen/coloringState');
const { useAnnouncement } = await import('../told/announce');
const { colorAndName, facesInRegion, nameByColor, nameThePick, setRegionLock, takeProposal } = await import('./regions');
const { forgetPick, recallPick, rememberPick, renamePick } = await import('./namedPicks');
const { hidePicked, showAll, stepBackThroughPicks } = await import('./hiding');
const { takeDragged } = await import('./dragging');
const { growPick, takeMissed } = await import('./changePick');

const keys = { add: false, take: false };

beforeEach(openBoxAndFloor);

it('adds, takes away, inverts, and gives the last pick back', async () => {
  await click(1);
  await click(3, { add: true, take: false });
  expect([...pickedFaces()]).toEqual([1, 3]);
  await click(1, { add: false, take: true });
  invertPick();
  expect([...pickedFaces()]).toEqual([0, 1, 2, 4, 5]);
  chooseCell(ramp(0)[0]!);
  expect(usePick.getState().count).toBe(0);
  bringBackPick();
  expect([...pickedFaces()]).toEqual([0, 1, 2, 4, 5]);
  expect(useAnnouncement.getState().text.trim()).toBe('5 faces picked');
});

it('widens on a second click at the same place, from what was picked before the first', async () => {
  usePhrase.setState({ act: 'add' });
  await click(5);
  await clickFace(0, keys, later());
  expect([...pickedFaces()]).toEqual([0, 5]);
  // On a box the flat and the smooth area are one face still: they are passed over.
  await clickFace(0, keys, soon(200));
  expect(usePick.getState().count).toBe(6);
});

it('colors at once when asked to; a double click is one undo', async () => {
  showModel('floor');
  usePhrase.setState({ act: 'color' });
  useColoring.setState({ cell: ramp(1)[1]! });
  await clickFace(4, keys, later());
  expect(cells().filter(Boolean)).toHaveLength(1);
  await clickFace(4, keys, soon(100));
  expect(cells().every((c) => c === ramp(1)[1])).toBe(true);
  undoEdit();
  expect(cells().every((c) => c === 0)).toBe(true);
  redoEdit();
  expect(cells().every((c) => c === ramp(1)[1])).toBe(true);
});

it('shows beforehand exactly what a click takes, also when the phrase changes under the pointer', async () => {
  showModel('floor');
  await pointAtFace(4);
  expect([...usePick.getState().wouldTake]).toEqual([4]);
  usePhrase.setState({ scope: 'flat' });
  await vi.waitFor(() => expect(usePick.getState().wouldTake).toHaveLength(9));
  await click(4);
  expect(pickedFaces()).toHaveLength(9);
  await pointAtFace(-1);
  expect(usePick.getState().wouldTake).toHaveLength(0);
});

it('goes through the whole kit by color, is colored there in one undo, and comes along to the other model', async () => {
  const [dark, light] = [ramp(0)[0]!, ramp(0)[1]!];
  showModel('floor');
  await click(2);
  await click(7, { add: true, take: false });
  chooseCell(dark);
  showModel('box');
  await click(4);
  chooseCell(dark);
  usePhrase.setState({ scope: 'kit color' });
  await click(4);
  expect([...pickedFaces()]).toEqual([4]);
  expect(Object.entries(usePick.getState().elsewhere).map(([id, faces]) => [id, [...faces]])).toEqual([['floor', [2, 7]]]);
  expect(useAnnouncement.getState().text.trim()).toBe('1 face picked, and 2 on another model');
  chooseCell(light);
  const colored = () => ['box', 'floor'].map((id) => useEditor.getState().state.seats[id]!.cell.filter((c) => c === light).length);
  expect(colored()).toEqual([1, 2]);
  undoEdit();
  expect(colored()).toEqual([0, 0]);
  await click(4);
  showModel('floor');
  expect([...pickedFaces()]).toEqual([2, 7]);
  expect(Object.keys(usePick.getState().elsewhere)).toEqual(['box']);
  // A locked region keeps its color, on every model.
  nameThePick('deck', false);
  setRegionLock(1, true);
  showModel('box');
  await click(4);
  chooseCell(light);
  expect(colored()).toEqual([1, 0]);
});

it('never takes what is hidden, however the pick is changed', async () => {
  showModel('floor');
  await click(4);
  hidePicked();
  for (const change of [pickEverything, invertPick, growPick]) {
    await click(0);
    change();
    expect(usePick.getState().picked[4]).toBe(0);
    expect(usePick.getState().count).toBeGreaterThan(1);
  }
  useColoring.setState({ cell: ramp(0)[0]! });
  usePhrase.setState({ act: 'color' });
  await takeDragged(Uint32Array.of(3, 4, 5), new Uint8Array(9), { add: false, take: false }, null);
  expect([...cells()].map(Number)).toEqual([0, 0, 0, ramp(0)[0], 0, ramp(0)[0], 0, 0, 0]);
  showAll();
  pickEverything();
  expect(usePick.getState().count).toBe(9);
});

it('is stepped back through, and remembered by a name that survives being undone and done again', async () => {
  for (const face of [0, 3, 5]) await click(face);
  stepBackThroughPicks();
  expect([...pickedFaces()]).toEqual([3]);
  stepBackThroughPicks();
  expect([...pickedFaces()]).toEqual([0]);
  rememberPick();
  rememberPick();
  const picks = () => useEditor.getState().state.kit.models[0]!.picks ?? [];
  expect(picks().map((p) => [p.name, p.spans])).toEqual([
    ['pick', [0, 1]],
    ['pick 2', [0, 1]],
  ]);
  renamePick(2, 'lid');
  forgetPick(1);
  await click(4);
  recallPick(picks()[0]!, true);
  expect([...pickedFaces()]).toEqual([0, 4]);
  for (let i = 0; i < 4; i++) undoEdit();
  expect('picks' in useEditor.getState().state.kit.models[0]!).toBe(false);
  redoEdit();
  expect(picks()).toHaveLength(1);
});

it('tells the small faces that coloring by a drag has missed, and gives them the color in the same undo', async () => {
  const uneven = grid(6);
  for (let v = 0; v < 49; v++) if (uneven.positions[v * 3] === 6) uneven.positions[v * 3] = 5.2;
  await closeKit();
  await openKitOf({ deck: uneven });
  usePhrase.setState({ act: 'color' });
  useColoring.setState({ cell: ramp(1)[0]! });
  const most = Uint32Array.from({ length: 36 }, (_, f) => f).filter((f) => f % 6 < 5 && f !== 14);
  await takeDragged(most, new Uint8Array(36), { add: false, take: false }, new Uint8Array(36).fill(1));
  expect(usePick.getState().missed!.left).toContain(14);
  takeMissed();
  expect(cells()[14]).toBe(ramp(1)[0]);
  expect(usePick.getState().missed).toBeNull();
  undoEdit();
  expect(cells().every((c) => c === 0)).toBe(true);
});

it('leaves large floods to the worker', async () => {
  await closeKit();
  await openKitOf({ sea: grid(250) });
  usePhrase.setState({ scope: 'smooth' });
  held.pickedInWorker = 0;
  await click(7);
  expect([usePick.getState().count, held.pickedInWorker]).toEqual([62_500, 1]);
});

it('walks from uncolored part to uncolored part and on to the next model', () => {
  pickNextUncolored();
  expect(usePick.getState().count).toBe(6);
  chooseCell(ramp(0)[0]!);
  pickNextUncolored();
  expect(useEditor.getState().modelId).toBe('floor');
  pickNextUncolored();
  chooseCell(ramp(0)[0]!);
  pickNextUncolored();
  expect(useAnnouncement.getState().text).toContain('Every face of every model');
});

it('names a face by part and color, and takes its color', async () => {
  expect(faceName(2)).toBe('part 1 of 1, face 3, not yet colored');
  await click(2);
  chooseCell(ramp(2)[0]!);
  expect(faceName(2)).toBe('part 1 of 1, face 3, moss, in shade');
  useColoring.setState({ cell: 0 });
  await pointAtFace(2);
  takeCellUnderPointer();
  expect(useColoring.getState().cell).toBe(ramp(2)[0]);
});

it('names what is colored in the same act, or right after; regions by color, and proposals with colors', async () => {
  const sheet = () => useEditor.getState().state.kit.sheets[0]!;
  const [first, second] = ramp(0) as [number, number];
  const role = (id: number) => sheet().cells.find((c) => c.id === id)!.role;
  const regions = () => current()!.model.regions.map((r) => [r.name, r.cell, [...facesInRegion(r.id)].join()]);
  await click(0);
  colorAndName(first);
  await click(3);
  colorAndName(first);
  expect(regions()).toEqual([[role(first), first, '0,3']]);
  expect([cells()[0], cells()[3], usePick.getState().count]).toEqual([first, first, 0]);
  await click(2);
  chooseCell(second);
  nameThePick('lid', true);
  expect(regions().at(-1)).toEqual(['lid', second, '2']);
  undoEdit();
  expect(cells()[2]).toBe(second);
  undoEdit();
  undoEdit();
  undoEdit();
  expect([regions(), cells().filter(Boolean)]).toEqual([[], []]);
  const faces = (...list: number[]) => Uint32Array.from(list);
  takeProposal({ by: 'parts', regions: [{ name: 'a', faces: faces(0, 1) }, { name: 'b', faces: faces(2) }, { name: 'c', faces: faces(4) }] }, [second, first]); // prettier-ignore
  expect(cells()).toEqual([second, second, first, 0, second, 0]);
  undoEdit();
  await click(1);
  chooseCell(first);
  nameByColor();
  expect(regions()).toEqual([[role(first), first, '1']]);
});
