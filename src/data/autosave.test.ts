import { inherits } from '@/core/ground/limits';
import 'fake-indexeddb/auto';
import Dexie from 'dexie';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { group, type Edit } from '@/core/kit/edit/edit';
import { canRedo, canUndo, perform, redo, undo, type Step } from '@/core/kit/edit/history';
import { type KitState } from '@/core/kit/kit';
import { newColor } from '@/core/sheet/newColor';
import { paintInVariant } from '@/core/faces/variants/paintInVariant';
import { addVariant, freeVariantName } from '@/core/faces/variants/variantEdits';
import { stateOfVariant } from '@/core/kit/colorings/shown';
import { pixelsOf } from '@/core/kit/pixels';
import { spansOf } from '@/core/kit/edit/seatFaces';
import { colorFace, fullKit, furArt, plain, someKit } from '@tests/savedKits';
import { Autosave, autosaveBounds, type SaveStatus } from './autosave';
import { db } from './db';
import { claimKit, createKit, listKits, loadKit } from './kits';

afterEach(async () => {
  vi.restoreAllMocks();
  await Promise.all(db.tables.map((t) => t.clear()));
});

async function session(initial: KitState, bounds = autosaveBounds) {
  await createKit(initial);
  return opened(initial.kit.id, bounds);
}
/** As one tab has it open, which may write it from now on. */
async function opened(id: string, bounds = autosaveBounds) {
  const stored = (await claimKit(id))!;
  const statuses: SaveStatus[] = [];
  let step: Step = { state: stored.state, history: stored.history };
  const autosave = new Autosave(stored, (s) => statuses.push(s), bounds);
  const then = (next: Step) => {
    step = next;
    autosave.changed(step);
  };
  return {
    statuses,
    do: (make: (s: Step) => Edit) => then(perform(step, make(step))),
    undo: () => then(undo(step)),
    redo: () => then(redo(step)),
    flush: () => autosave.flush(),
    get state() {
      return step.state;
    },
    get step() {
      return step;
    },
  };
}

/** From now on there is no room, until the returned function is called. */
function withoutRoom(): () => void {
  const spy = vi.spyOn(IDBObjectStore.prototype, 'put').mockImplementation(() => {
    throw new DOMException('no room', 'QuotaExceededError');
  });
  return () => spy.mockRestore();
}

describe('autosave', () => {
  it('brings a kit back as it was left, with undo and redo, however it was saved', async () => {
    const s = await session(someKit());
    for (let i = 0; i < 6; i++) s.do((step) => colorFace(step, i % 6, (i % 3) + 1));
    await s.flush();
    s.undo();
    s.undo();
    s.do((step) => newColor(step.state, { sheet: step.state.kit.sheets[0]!.id, color: '#334455', role: 'tar' }).edit);
    s.undo();
    await s.flush();
    const loaded = (await loadKit(s.state.kit.id))!;
    expect(plain(loaded.state)).toEqual(plain(s.state));
    expect([loaded.history.cursor, loaded.history.edits.length]).toEqual([4, 5]);
    let back: Step = redo(loaded);
    expect(back.state.kit.sheets[0]!.cells.map((c) => c.role)).toContain('tar');
    while (canUndo(back.history)) back = undo(back);
    expect([...back.state.seats.mBell!.cell]).toEqual([0, 0, 0, 0, 0, 0]);
    expect(s.statuses.at(-1)).toBe('saved');
  });

  it('brings painted texels back, from edits and from a snapshot, as they were at its moment', async () => {
    const paint = (step: Step, texel: number, cell: number): Edit => ({ kind: 'pixels', art: furArt, spans: spansOf(step.state.pixels![furArt]!.cells, Uint32Array.of(texel), cell) }); // prettier-ignore
    const s = await session(fullKit(), { ...autosaveBounds, snapshotEvery: 4 });
    for (let i = 0; i < 3; i++) s.do((step) => paint(step, i, 5));
    await s.flush();
    expect(plain((await loadKit(s.state.kit.id))!.state)).toEqual(plain(s.state));
    s.do((step) => paint(step, 3, 5));
    const flushed = s.flush();
    // Painted while the snapshot is being written.
    s.do((step) => paint(step, 4, 5));
    await flushed;
    await s.flush();
    const loaded = (await loadKit(s.state.kit.id))!;
    expect(plain(loaded.state)).toEqual(plain(s.state));
    let back: Step = loaded;
    while (canUndo(back.history)) back = undo(back);
    expect([...back.state.pixels![furArt]!.cells]).toEqual([...fullKit().pixels![furArt]!.cells]);
  });

  it('takes snapshots without cutting undo, also where a snapshot holds what is then forgotten', async () => {
    const s = await session(someKit());
    for (let i = 0; i < 260; i++) s.do((step) => colorFace(step, i % 6, (i % 12) + 1));
    await s.flush();
    expect((await db.kits.get(s.state.kit.id))!.snapshot).toBe(260);
    for (let i = 0; i < 40; i++) s.undo();
    s.do((step) => colorFace(step, 1, 15));
    await s.flush();
    const loaded = (await loadKit(s.state.kit.id))!;
    expect(plain(loaded.state)).toEqual(plain(s.state));
    expect(loaded.history.edits).toHaveLength(221);
    let back: Step = loaded;
    while (canUndo(back.history)) back = undo(back);
    expect([...back.state.seats.mBell!.cell].every((c) => c === 0)).toBe(true);
  });

  it('keeps everything in memory when the storage is full, says so, and writes it when there is room', async () => {
    const s = await session(someKit(), { ...autosaveBounds, retryAfter: 5 });
    const giveRoom = withoutRoom();
    s.do((step) => colorFace(step, 2, 4));
    await s.flush();
    expect(s.statuses.at(-1)).toBe('full');
    giveRoom();
    // Nothing else is done: it is tried again by itself.
    await vi.waitFor(() => expect(s.statuses.at(-1)).toBe('saved'));
    expect(plain((await loadKit(s.state.kit.id))!.state)).toEqual(plain(s.state));
  });

  it('forgets the oldest undo past a size, and has it again where it is undone in the same tab', async () => {
    const s = await session(someKit(), { ...autosaveBounds, snapshotEvery: 10, historyBytes: 20 * 80 });
    const { kit } = s.state;
    for (let i = 0; i < 50; i++) {
      s.do((step) => colorFace(step, i % 6, (i % 12) + 1));
      await s.flush();
    }
    const short = (await loadKit(kit.id))!;
    expect([short.row.first, short.row.cursor, short.history.edits.length]).toEqual([30, 50, 20]);
    expect(plain(short.state)).toEqual(plain(s.state));
    for (let i = 0; i < 25; i++) s.undo();
    await s.flush();
    for (let i = 0; i < 20; i++) s.undo();
    await s.flush();
    const loaded = (await loadKit(kit.id))!;
    expect(plain(loaded.state)).toEqual(plain(s.state));
    let again: Step = loaded;
    while (canRedo(again.history)) again = redo(again);
    expect(again.state.seats.mBell!.cell[49 % 6]).toBe((49 % 12) + 1);
  });
});

describe('a kit that another tab has taken over', () => {
  it('is not written by the tab that lost it, whose changes become a kit of their own', async () => {
    const a = await session(someKit());
    const { id } = a.state.kit;
    const giveRoom = withoutRoom();
    a.do((step) => colorFace(step, 1, 9));
    await a.flush();
    expect(a.statuses.at(-1)).toBe('full');
    giveRoom();
    const b = await opened(id);
    b.do((step) => colorFace(step, 2, 4));
    await b.flush();
    await a.flush();
    expect([a.statuses.at(-1), b.statuses.at(-1)]).toEqual(['lost', 'saved']);
    expect([...(await loadKit(id))!.state.seats.mBell!.cell]).toEqual([0, 0, 4, 0, 0, 0]);
    // A tab that hangs while it is taken over, and then wakes.
    await claimKit(id);
    b.do((step) => colorFace(step, 3, 7));
    await b.flush();
    expect(b.statuses.at(-1)).toBe('lost');
    expect((await loadKit(id))!.state.seats.mBell!.cell[3]).toBe(0);
    await createKit({ ...a.state, kit: { ...a.state.kit, id: 'kCopy' } }, { history: a.step.history });
    const copy = (await loadKit('kCopy'))!;
    expect([...copy.state.seats.mBell!.cell]).toEqual([0, 9, 0, 0, 0, 0]);
    expect([...undo(copy).state.seats.mBell!.cell]).toEqual([0, 0, 0, 0, 0, 0]);
  });

  it('is not brought back by a tab that still has it open after it was removed for good', async () => {
    const a = await session(someKit());
    await db.kits.delete(a.state.kit.id);
    a.do((step) => colorFace(step, 1, 9));
    await a.flush();
    expect([a.statuses.at(-1), await db.edits.count()]).toEqual(['lost', 0]);
  });
});

it('stays equal to what is in memory, whatever is done, undone and opened again', async () => {
  const random = randomFrom(7);
  let s = await session(fullKit());
  for (let reload = 0; reload < Number(process.env.RELOADS ?? 25); reload++) {
    const acts = 1 + random(2 * 33);
    for (let i = 0; i < acts; i++) {
      const kind = random(16);
      if (kind < 2) s.undo();
      else if (kind < 3) s.redo();
      else if (kind < 4) s.do(({ state }) => rename(state, `Kit ${random(99)}`));
      else if (kind < 5) s.do(({ state }) => newColor(state, { sheet: state.kit.sheets[0]!.id, color: '#334455', role: `tar ${i}` }).edit);
      else if (kind < 10) s.do((step) => group('Color', [colorOther(step, random(6), 1 + random(12))]));
      else if (kind < 12)
        s.do(({ state }) => (random(9) ? sayOfFace(state, random(6)) : addVariant(state, { name: freeVariantName(state.kit, 'Gale'), copyOf: 'vFresh' }).edit)); // prettier-ignore
      // Strokes, of the default and of a variant alone.
      else s.do(({ state }) => stroke(state, kind < 14 ? null : 'vFresh', random(6), 1 + random(9)));
      // Some are written one by one, others while more are coming.
      if (random(3) === 0) await s.flush();
    }
    await s.flush();
    const before = s;
    s = await opened(s.state.kit.id, { ...autosaveBounds, snapshotEvery: 20 + random(60), historyBytes: 4_000 + random(60_000) });
    expect(plain(s.state)).toEqual(plain(before.state));
  }
  let back: Step = s.step;
  while (canUndo(back.history)) back = undo(back);
});

/** A texel, and the one after it, become a cell that the first of them does not show. */
function stroke(state: KitState, variant: string | null, texel: number, cell: number): Edit {
  const shown = stateOfVariant(state, variant);
  const fur = shown.kit.sheets[0]!.cells.find((c) => c.role === 'fur')!;
  const art = pixelsOf((fur.fill as { picture: string }).picture);
  const { cells } = shown.pixels![art]!;
  const to = cells[texel] === cell ? 0 : cell;
  const [first, before] = [texel, cells.slice(texel, texel + 2)];
  // Told in either way.
  const change = texel % 2 ? { first, before, after: before.map(() => to) } : { spans: spansOf(cells, Uint32Array.of(texel, Math.min(5, texel + 1)), to) }; // prettier-ignore
  const edit = { kind: 'pixels' as const, art, ...change };
  return variant ? paintInVariant(state, variant, fur.id, edit)! : edit;
}

const rename = (state: KitState, name: string): Edit => ({ kind: 'set', of: 'kit', before: { name: state.kit.name }, after: { name } });
const sayOfFace = (state: KitState, face: number): Edit => {
  const { id } = state.kit.variants[0]!;
  const now = state.patches?.[id]?.mBell?.cell[face] ?? inherits;
  const none = { rules: new Uint32Array(), corners: new Uint32Array(), before: new Float32Array(), after: new Float32Array() };
  return {
    kind: 'patch',
    variant: id,
    model: 'mBell',
    cornerCount: 24,
    cells: Uint32Array.of(face, 1, now, now === 2 ? inherits : 2),
    ...none,
  };
};
const colorOther = (step: Step, face: number, cell: number): Edit =>
  colorFace(step, face, step.state.seats.mBell!.cell[face] === cell ? cell + 1 : cell);
/** Whole numbers below a bound, the same each time. */
const randomFrom = (seed: number) => (bound: number) => {
  seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0;
  return Math.floor((seed / 2 ** 32) * bound);
};

it('opens kits that were kept in the first form of the storage', async () => {
  await db.delete();
  const old = new Dexie('oligochrome');
  old.version(1).stores({ kits: 'id, updated', edits: '[kit+number]', seats: '[kit+model]', blobs: 'id' });
  const { kit, seats } = someKit();
  const edit = colorFace({ state: { kit, seats }, history: { edits: [], cursor: 0 } }, 1, 5);
  const picture = Uint8Array.of(1, 2);
  await old.table('kits').put({ id: kit.id, name: kit.name, kit, snapshot: 0, cursor: 1, first: 0, updated: 3, picture });
  await old.table('edits').put({ kit: kit.id, number: 0, edit, size: 80 });
  await old.table('seats').put({ kit: kit.id, model: 'mBell', seats: seats.mBell });
  old.close();
  await db.open();
  expect((await loadKit(kit.id))!.state.seats.mBell!.cell[1]).toBe(5);
  expect(await listKits()).toMatchObject([{ name: kit.name, models: 1, updated: 3, portrait: { bytes: picture } }]);
  const s = await opened(kit.id);
  s.undo();
  await s.flush();
  expect((await loadKit(kit.id))!.state.seats.mBell!.cell[1]).toBe(0);
});

it('takes a snapshot of one moment, whatever is colored while it is written', async () => {
  const kit = someKit();
  await createKit(kit);
  const stored = (await claimKit(kit.kit.id))!;
  let step: Step = stored;
  const autosave = new Autosave(stored, () => undefined);
  for (let i = 0; i < 260; i++) step = perform(step, colorFace(step, i % 6, (i % 12) + 1));
  autosave.changed(step);
  // Coloring goes on while the edits are written and the snapshot is still to come.
  const put = IDBObjectStore.prototype.put;
  const spy = vi.spyOn(IDBObjectStore.prototype, 'put').mockImplementation(function (this: IDBObjectStore, row: unknown) {
    if (this.name === 'documents') step = perform(step, colorFace(step, 0, 15));
    return put.call(this, row);
  });
  await autosave.flush();
  expect(spy.mock.contexts.map((store) => (store as IDBObjectStore).name)).toContain('documents');
  // A crash: the edit was not written, and so its color is not there.
  const after = (await loadKit(kit.kit.id))!;
  expect(after.state.seats.mBell!.cell[0]).not.toBe(15);
  expect(after.history.cursor).toBe(260);
});

it('groups keep their label through storage', async () => {
  const state = someKit();
  await createKit(state);
  const autosave = new Autosave((await claimKit(state.kit.id))!, () => undefined);
  const step = perform(
    { state, history: { edits: [], cursor: 0 } },
    group('Wash the walls', [colorFace({ state, history: { edits: [], cursor: 0 } }, 0, 3)]),
  );
  autosave.changed(step);
  await autosave.flush();
  expect((await loadKit(state.kit.id))!.history.edits[0]).toMatchObject({ label: 'Wash the walls' });
});
