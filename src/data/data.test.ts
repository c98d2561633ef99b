import 'fake-indexeddb/auto';
import { unzipSync, zipSync } from 'fflate';
import { afterEach, describe, expect, it } from 'vitest';
import { emptySeats, type KitState, type Model } from '@/core/kit/kit';
import { group, type Edit } from '@/core/edit/edit';
import { canUndo, perform, redo, undo, type Step } from '@/core/edit/history';
import { seatFaces } from '@/core/edit/seatFaces';
import { contentAddress, pack, unpack } from '@/core/io/pack';
import { newColor } from '@/core/sheet/newColor';
import { newKit } from '@/core/sheet/starter';
import { box } from '@tests/meshes';
import { readArchive, writeArchive } from './archive';
import { Autosave, type SaveStatus } from './autosave';
import { db } from './db';
import { keepBlobs } from './blobs';
import { binKit, createKit, duplicateKit, listKits, loadKit, renameKit, tidy, unbinKit } from './kits';

const packed = pack(box());
const address = await contentAddress(packed);

function someKit(): KitState {
  const kit = newKit('Brindle Skerry');
  const model: Model = {
    id: 'mBell',
    name: 'Fog bell',
    mesh: address,
    faces: 6,
    sheet: kit.sheets[0]!.id,
    regions: [],
    slots: [],
    seams: [],
    source: { format: 'made', name: 'Fog bell', files: [] },
  };
  return { kit: { ...kit, models: [model] }, seats: { mBell: emptySeats(6) } };
}

const plain = ({ kit, seats }: KitState) => ({ kit, seats: Object.fromEntries(Object.entries(seats).map(([id, s]) => [id, [...s.cell]])) });
const colorFace = (step: Step, face: number, cell: number): Edit =>
  seatFaces('mBell', step.state.seats.mBell!.cell, Uint32Array.of(face), cell)!;

afterEach(async () => {
  await Promise.all(db.tables.map((t) => t.clear()));
});

describe('autosave', () => {
  async function session(initial: KitState) {
    await createKit(initial);
    const stored = (await loadKit(initial.kit.id))!;
    const statuses: SaveStatus[] = [];
    let step: Step = { state: stored.state, history: stored.history };
    const autosave = new Autosave(step, stored.first, (s) => statuses.push(s));
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
    };
  }

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
    const s = await session(someKit());
    const put = db.edits.bulkPut;
    db.edits.bulkPut = (() => Promise.reject(new DOMException('no room', 'QuotaExceededError'))) as never;
    s.do((step) => colorFace(step, 2, 4));
    await s.flush();
    expect(s.statuses.at(-1)).toBe('full');
    db.edits.bulkPut = put;
    s.do((step) => colorFace(step, 3, 4));
    await s.flush();
    expect(s.statuses.at(-1)).toBe('saved');
    expect(plain((await loadKit(s.state.kit.id))!.state)).toEqual(plain(s.state));
  });
});

it('takes a snapshot of one moment, whatever is colored while it is written', async () => {
  const kit = someKit();
  await createKit(kit);
  const stored = (await loadKit(kit.kit.id))!;
  let step: Step = stored;
  const autosave = new Autosave(step, stored.first, () => undefined);
  for (let i = 0; i < 260; i++) step = perform(step, colorFace(step, i % 6, (i % 12) + 1));
  autosave.changed(step);
  const put = db.seats.bulkPut;
  // Coloring goes on in the very moment before the seats are written.
  db.seats.bulkPut = ((rows: never) => {
    db.seats.bulkPut = put;
    step = perform(step, colorFace(step, 0, 15));
    return put.call(db.seats, rows);
  }) as never;
  await autosave.flush();
  // A crash: the edit was not written, and so its color is not there.
  const after = (await loadKit(kit.kit.id))!;
  expect(after.state.seats.mBell!.cell[0]).not.toBe(15);
  expect(after.history.cursor).toBe(260);
});

it('renames a kit from outside for good, and undo inside takes even that back', async () => {
  const kit = someKit();
  await createKit(kit);
  const { id } = kit.kit;
  const stored = (await loadKit(id))!;
  const autosave = new Autosave(stored, stored.first, () => undefined);
  const inside = perform(stored, { kind: 'set', of: 'kit', before: { name: 'Brindle Skerry' }, after: { name: 'Inside' } });
  const colored = perform(inside, colorFace(inside, 1, 2));
  autosave.changed(undo(colored));
  await autosave.flush();
  await renameKit(id, 'Outside');
  const again = (await loadKit(id))!;
  expect([again.state.kit.name, (await listKits())[0]!.name, again.history.edits.length]).toEqual(['Outside', 'Outside', 2]);
  expect(undo(again).state.kit.name).toBe('Inside');
  const copy = (await duplicateKit(id, 'Copy'))!;
  await renameKit(copy, 'Second');
  expect((await loadKit(copy))!.state.kit.name).toBe('Second');
  expect((await listKits()).map((k) => k.models)).toEqual([1, 1]);
});

it('tidies away what nothing names, but not what another tab is bringing in', async () => {
  const kit = someKit();
  await createKit(kit);
  await db.kits.update((await duplicateKit(kit.kit.id, 'Old'))!, { deleted: 1 });
  await keepBlobs([{ id: 'fresh', bytes: Uint8Array.of(1) }]);
  await db.blobs.bulkPut([
    { id: 'old', bytes: Uint8Array.of(2), added: 1 },
    { id: address, bytes: packed, added: 1 },
  ]);
  await tidy();
  expect((await db.blobs.toArray()).map((b) => b.id).sort()).toEqual([address, 'fresh'].sort());
});

it('lists, duplicates and bins kits, and takes them out of the bin', async () => {
  const kit = someKit();
  await createKit(kit);
  const copy = (await duplicateKit(kit.kit.id, 'Skerry copy'))!;
  expect((await listKits()).map((k) => k.name).sort()).toEqual(['Brindle Skerry', 'Skerry copy']);
  await binKit(copy);
  expect(await loadKit(copy)).toBeNull();
  await unbinKit(copy);
  expect((await loadKit(copy))!.state.kit.name).toBe('Skerry copy');
});

describe('the archive', () => {
  const blobs = new Map([[address, packed]]);

  it('opens again to the identical kit, and to the same bytes', async () => {
    const state = someKit();
    state.seats.mBell!.cell.set([1, 2, 3, 0, 5, 6]);
    const bytes = writeArchive(state, blobs);
    const again = await readArchive('a.zip', bytes);
    expect(plain(again.state)).toEqual(plain(state));
    expect(again.blobs.get(address)).toEqual(packed);
    expect(writeArchive(again.state, again.blobs)).toEqual(bytes);
    const zone = process.env.TZ;
    process.env.TZ = 'Pacific/Auckland';
    expect(writeArchive(again.state, again.blobs)).toEqual(bytes);
    if (zone === undefined) delete process.env.TZ;
    else process.env.TZ = zone;
  });

  it('opens again whatever was typed or named by a file', async () => {
    const state = someKit();
    state.kit.name = 'n'.repeat(5000);
    state.kit.sheets[0]!.cells[0]!.role = 'r'.repeat(5000);
    const { kit } = (await readArchive('a.zip', writeArchive(state, blobs))).state;
    expect([kit.name.length, kit.sheets[0]!.cells[0]!.role.length]).toEqual([500, 500]);
  });

  it('carries pictures, frozen sheets and art with the seats on them, regions, seams and named picks', async () => {
    const picture = Uint8Array.from({ length: 90 }, (_, i) => i);
    const of = await contentAddress(picture);
    const state = someKit();
    const [sheet] = state.kit.sheets;
    sheet!.frozen = { picture: of, appended: [2] };
    sheet!.cells[0]!.fill = { kind: 'art', picture: of };
    state.kit.references.push({ id: 'pCove', name: 'Cove', picture: of });
    state.kit.allowed = { name: 'few.hex', colors: ['#112233'] };
    state.seats.mBell!.at = new Float32Array(48).fill(0.25);
    state.seats.mBell!.region.set([7, 7], 1);
    const picks = [{ id: 1, name: 'lip', spans: [0, 2, 5, 1] }];
    Object.assign(state.kit.models[0]!, { regions: [{ id: 7, name: 'rim', cell: 2, locked: true }], seams: [3, 23], picks });
    await expect(() => writeArchive(state, blobs)).toThrow('is missing');
    const again = await readArchive('a.zip', writeArchive(state, new Map([...blobs, [of, picture]])));
    expect(plain(again.state)).toEqual(plain(state));
    expect(again.blobs.get(of)).toEqual(picture);
    expect([...again.state.seats.mBell!.region]).toEqual([0, 7, 7, 0, 0, 0]);
  });

  it('is refused where anything in it does not fit together', async () => {
    const good = unzipSync(writeArchive(someKit(), blobs));
    const text = new TextDecoder().decode(good['kit.json']);
    const with_ = (change: Record<string, Uint8Array>) => readArchive('a.zip', zipSync({ ...good, ...change }));
    const json = (edit: (kit: Record<string, never>) => void) => {
      const value = JSON.parse(text) as { kit: Record<string, never> };
      edit(value.kit);
      return with_({ 'kit.json': new TextEncoder().encode(JSON.stringify(value)) });
    };
    const cells = (kit: Record<string, never>) =>
      (kit.sheets as unknown as { cells: { id: number; rect: { x: number }; fill: unknown }[] }[])[0]!.cells;
    await expect(readArchive('a.zip', Uint8Array.of(1, 2, 3))).rejects.toThrow('not a zip');
    await expect(readArchive('a.zip', zipSync({ 'x.txt': Uint8Array.of(1) }))).rejects.toThrow('kit.json is missing');
    await expect(with_({ [`blobs/${address}.bin`]: packed.slice(1) })).rejects.toThrow('missing or damaged');
    await expect(with_({ 'seats/mBell.bin': pack({ ...emptySeats(5) }) })).rejects.toThrow('do not fit');
    await expect(with_({ 'seats/mBell.bin': pack({ cell: new Uint16Array(6).fill(99), region: new Uint16Array(6) }) })).rejects.toThrow(
      'do not fit',
    );
    await expect(json((kit) => (cells(kit)[1]!.id = 1))).rejects.toThrow('same number');
    await expect(json((kit) => (cells(kit)[1]!.rect.x = 2))).rejects.toThrow('overlap');
    await expect(json((kit) => (cells(kit)[1]!.rect.x = 14))).rejects.toThrow('outside');
    await expect(json((kit) => (cells(kit)[1]!.fill = { kind: 'solid', color: 'red' }))).rejects.toThrow('fill');
    await expect(json((kit) => Object.assign(kit, { surprise: 1 }))).rejects.toThrow('surprise');
    const bell = (change: object) => json((kit) => Object.assign((kit.models as unknown as object[])[0]!, change));
    await expect(bell({ seams: [24] })).rejects.toThrow('seams do not fit');
    await expect(bell({ picks: [{ id: 1, name: 'lip', spans: [4, 3] }] })).rejects.toThrow('picks do not fit');
    await expect(bell({ picks: [{ id: 1, name: 'lip', spans: [3, 1, 2, 1] }] })).rejects.toThrow('picks do not fit');
  });

  it('packs any arrays and refuses what reaches past its end', () => {
    const value = { a: Float32Array.of(1.5, -2), b: [Uint8Array.of(7)], c: 'x', d: Int32Array.of(-1) };
    expect(unpack(pack(value))).toEqual(value);
    expect(() => unpack(pack(value).slice(0, -8))).toThrow('broken');
    expect(() => unpack(new TextEncoder().encode('\u0020\0\0\0{"$array":"constructor","at":0}'))).toThrow('broken');
  });
});

it('groups keep their label through storage', async () => {
  const state = someKit();
  await createKit(state);
  const autosave = new Autosave({ state, history: { edits: [], cursor: 0 } }, 0, () => undefined);
  const step = perform(
    { state, history: { edits: [], cursor: 0 } },
    group('Wash the walls', [colorFace({ state, history: { edits: [], cursor: 0 } }, 0, 3)]),
  );
  autosave.changed(step);
  await autosave.flush();
  expect((await loadKit(state.kit.id))!.history.edits[0]).toMatchObject({ label: 'Wash the walls' });
});
