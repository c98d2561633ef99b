import 'fake-indexeddb/auto';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { findCell, newId, type Kit, type KitState, type Model } from '@/core/kit/kit';
import { adjacencyOf } from '@/core/mesh/adjacency';
import { boundsOf } from '@/core/mesh/measure';
import type { PolyMesh } from '@/core/mesh/polyMesh';
import { triangulate } from '@/core/mesh/triangulate';
import { newKit } from '@/core/sheet/starter';
import { facesOf, type PickRequest } from '@/core/pick/scopes';
import { db } from '@/data/db';
import { createKit } from '@/data/kits';
import { emptySeats } from '@/core/kit/kit';
import { box, grid } from '@tests/meshes';

const held = vi.hoisted(() => ({
  meshes: new Map<string, unknown>(),
  tabHasKit: false,
  pickedInWorker: 0,
  forgotten: [] as string[],
  wait: Promise.resolve(),
}));

function loaded(id: string, mesh: PolyMesh) {
  const adjacency = adjacencyOf(mesh);
  return {
    id,
    mesh,
    adjacency,
    triangles: triangulate(mesh),
    bounds: boundsOf(mesh),
    angles: { flat: 10, smooth: 60 },
    asRead: new Uint8Array(adjacency.areas.length * 4),
    pictures: null,
  };
}
type Loaded = ReturnType<typeof loaded>;

vi.mock('@/workers/client', () => {
  const worker = {
    load: async (id: string) => held.meshes.get(id),
    forget: async (id: string) => void held.forgotten.push(id),
    readPalette: async () => {
      await held.wait;
      return { kind: 'hex', colors: [{ color: '#123456' }], notes: [] };
    },
    faceAt: async (_: string, [face]: [number]) => {
      await held.wait;
      if (face < 0) throw new Error('The ray could not be cast.');
      return { face, edge: 0, corner: 0 };
    },
    pick: async (id: string, cells: Uint16Array, _: number[], request: PickRequest) => {
      held.pickedInWorker++;
      await held.wait;
      const { mesh, adjacency } = held.meshes.get(id) as Loaded;
      return facesOf({ mesh, adjacency, cells }, request);
    },
  };
  return { coreWorker: () => worker, readingWorker: () => worker, onWorkerRestart: () => 0, proxy: (f: unknown) => f };
});
vi.mock('@/data/tabLock', () => ({ lockKit: async () => (held.tabHasKit ? null : { release: () => undefined }) }));
vi.mock('sonner', () => ({ toast: Object.assign(() => undefined, { error: () => undefined }) }));

const { openKit, closeKit } = await import('./openKit');
const { current, showModel, useEditor } = await import('./editor');
const { dispatch, redoEdit, undoEdit } = await import('./edits');
const { addColor, chooseCell, chooseOfRamp, makeSpare, proposeColor, setCellColor, sourceCell, stepFaces } = await import('./coloring');
const { bringBackPick, clickFace, faceName, invertPick, pickEverything, pickNextUncolored, pointAtFace, takeCellUnderPointer } =
  await import('./picking');
const { pickedFaces, usePick } = await import('./pickState');
const { usePhrase } = await import('./phrase');
const { useColoring } = await import('./coloringState');
const { useAnnouncement } = await import('./announce');
const { nameThePick, setRegionLock } = await import('./regions');
const { forgetPick, recallPick, rememberPick, renamePick } = await import('./namedPicks');
const { hidePicked, showAll, stepBackThroughPicks } = await import('./hiding');
const { takeDragged } = await import('./dragging');
const { openPalette } = await import('./palettes');
const { castRay, Hovering } = await import('./pointing');
const { growPick, takeMissed } = await import('./changePick');

const keys = { add: false, take: false };
const cells = () => [...current()!.cells];
const sheet = () => current()!.sheet;
const ramp = (n: number) => sheet().ramps[n]!.cells;
let clock = 0;
/** A click long after the one before. */
const click = (face: number, more = keys) => clickFace(face, more, (clock += 10_000));

async function open(meshes: Record<string, PolyMesh>): Promise<void> {
  const kit: Kit = newKit('Skerry');
  const models = Object.entries(meshes).map(([name, mesh]): Model => {
    const id = newId('x');
    held.meshes.set(id, loaded(id, mesh));
    return {
      id: name,
      name,
      mesh: id,
      faces: mesh.faceStart.length - 1,
      sheet: kit.sheets[0]!.id,
      regions: [],
      slots: [],
      seams: [],
      source: { format: 'made', name, files: [] },
    };
  });
  const state: KitState = { kit: { ...kit, models }, seats: Object.fromEntries(models.map((m) => [m.id, emptySeats(m.faces)])) };
  await db.blobs.bulkPut(models.map((m) => ({ id: m.mesh, bytes: new Uint8Array(1) })));
  await createKit(state);
  await openKit(kit.id);
}

beforeEach(async () => {
  await closeKit();
  held.tabHasKit = false;
  usePhrase.setState({ scope: 'face', flat: null, smooth: null, act: 'pick' });
  useColoring.setState({ cell: 0, recent: [] });
  await open({ box: box(), floor: grid(3) });
});

describe('picking', () => {
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
    await clickFace(0, keys, (clock += 10_000));
    await clickFace(0, keys, clock + 200);
    // Face to flat area: on a box one face still; the third click goes on to the smooth area, the fourth to the part.
    expect([...pickedFaces()]).toEqual([0, 5]);
    await clickFace(0, keys, clock + 400);
    await clickFace(0, keys, clock + 600);
    expect(usePick.getState().count).toBe(6);
  });

  it('colors at once when asked to; a double click is one undo', async () => {
    showModel('floor');
    usePhrase.setState({ act: 'color' });
    useColoring.setState({ cell: ramp(1)[1]! });
    await clickFace(4, keys, (clock += 10_000));
    expect(cells().filter(Boolean)).toHaveLength(1);
    await clickFace(4, keys, clock + 100);
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
    await open({ deck: uneven });
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
    await open({ sea: grid(250) });
    usePhrase.setState({ scope: 'smooth' });
    held.pickedInWorker = 0;
    await click(7);
    expect([usePick.getState().count, held.pickedInWorker]).toEqual([62_500, 1]);
  });

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
    await open({ box: box() });
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
    await open({ deck: grid(2) });
    expect([usePick.getState().count, useColoring.getState().cell, Object.keys(useEditor.getState().meshes)]).toEqual([
      0,
      0,
      [current()!.model.mesh],
    ]);
    expect(held.forgotten.sort()).toEqual(before.sort());
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
});

describe('coloring', () => {
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
});
