import Dexie from 'dexie';
import { applyEdit, inverseOf, sizeOfEdit } from '@/core/edit/edit';
import { perform, type History } from '@/core/edit/history';
import { contentsOfEdit, contentsOfKit } from '@/core/kit/contents';
import { newId, type Kit, type KitState, type Seats } from '@/core/kit/kit';
import { db, type KitRow } from './db';

export interface StoredKit {
  state: KitState;
  history: History;
  /** Number of the first edit of the history, for what is written later. */
  first: number;
}

export async function createKit(state: KitState, picture?: Uint8Array): Promise<void> {
  const row: KitRow = {
    id: state.kit.id,
    name: state.kit.name,
    kit: state.kit,
    snapshot: 0,
    cursor: 0,
    first: 0,
    updated: Date.now(),
    ...(picture && { picture }),
  };
  await db.transaction('rw', db.kits, db.seats, db.edits, async () => {
    await db.kits.put(row);
    await putSeats(state);
  });
}

/** Replaces the seats rows of a kit. */
export async function putSeats({ kit, seats }: KitState): Promise<void> {
  await db.seats.where('[kit+model]').between([kit.id, Dexie.minKey], [kit.id, Dexie.maxKey]).delete();
  await db.seats.bulkPut(Object.entries(seats).map(([model, s]) => ({ kit: kit.id, model, seats: s })));
}

const stored = { isReplay: true, ignoreLocks: true };

/** The kit as it was left: the snapshot, moved along the edits to where the artist was. `null` where there is no such kit. */
export async function loadKit(id: string): Promise<StoredKit | null> {
  return db.transaction('r', db.kits, db.edits, db.seats, async () => {
    const row = await db.kits.get(id);
    if (!row || row.deleted) return null;
    const rows = await editRows(id);
    const edits = rows.map((r) => r.edit);
    const seats: Record<string, Seats> = {};
    for (const s of await db.seats.where('[kit+model]').between([id, Dexie.minKey], [id, Dexie.maxKey]).toArray()) seats[s.model] = s.seats;
    let state: KitState = { kit: row.kit, seats };
    for (let n = row.snapshot; n < row.cursor; n++) state = applyEdit(state, edits[n - row.first]!, stored);
    for (let n = row.snapshot - 1; n >= row.cursor; n--) state = applyEdit(state, inverseOf(edits[n - row.first]!), stored);
    return { state, history: { edits, cursor: row.cursor - row.first }, first: row.first };
  });
}

const editRows = (id: string) => db.edits.where('[kit+number]').between([id, Dexie.minKey], [id, Dexie.maxKey]).sortBy('number');

export type KitEntry = Pick<KitRow, 'id' | 'name' | 'updated' | 'picture'> & { models: number; colors: string[] };

/** What the home page says of a kit. */
export const summaryOf = (kit: Kit): { models: number; colors: string[] } => ({
  models: kit.models.length,
  colors: kit.sheets.flatMap((s) => s.cells.flatMap((c) => (c.fill.kind === 'solid' ? [c.fill.color] : []))).slice(0, 16),
});

/** Kits that are not in the bin, the latest first. */
export async function listKits(): Promise<KitEntry[]> {
  const rows = await db.kits.orderBy('updated').reverse().toArray();
  return rows
    .filter((r) => !r.deleted)
    .map(({ id, name, updated, picture, kit, models, colors }) => ({
      id,
      name,
      updated,
      ...(picture && { picture }),
      ...summaryOf(kit),
      ...(models !== undefined && { models }),
      ...(colors && { colors }),
    }));
}

/** Renames a kit that no tab has open, by one more edit of its history: what was renamed inside it before cannot bring an old name back. */
export const renameKit = (id: string, name: string) =>
  db.transaction('rw', db.kits, db.edits, db.seats, async () => {
    const found = await loadKit(id);
    if (!found) return;
    const { state, history } = perform(found, { kind: 'set', of: 'kit', before: { name: found.state.kit.name }, after: { name } });
    const at = found.first + history.cursor - 1;
    const edit = history.edits[history.cursor - 1]!;
    await db.edits.where('[kit+number]').between([id, at], [id, Dexie.maxKey]).delete();
    await db.edits.put({ kit: id, number: at, edit, size: sizeOfEdit(edit) });
    await putSeats(state);
    await db.kits.update(id, { name, kit: state.kit, snapshot: at + 1, cursor: at + 1, updated: Date.now(), ...summaryOf(state.kit) });
  });

export const binKit = (id: string) => db.kits.update(id, { deleted: Date.now() });
export const unbinKit = (id: string) =>
  db.kits
    .where('id')
    .equals(id)
    .modify((row) => delete row.deleted);

/** A copy under a new name; meshes and files are shared, since they never change. */
export async function duplicateKit(id: string, name: string): Promise<string | null> {
  const stored = await loadKit(id);
  if (!stored) return null;
  const picture = (await db.kits.get(id))?.picture;
  const kit: Kit = { ...stored.state.kit, id: newId('k'), name };
  await createKit({ kit, seats: stored.state.seats }, picture);
  return kit.id;
}

const binDays = 7;
/** Milliseconds for which bytes that nothing names are left alone. */
const lateness = 86_400_000;
/** Empties the bin of what has lain there for a week, and drops blobs that no kit or edit uses. */
export async function tidy(): Promise<void> {
  const old = (await db.kits.toArray()).filter((r) => r.deleted && Date.now() - r.deleted > binDays * 86_400_000);
  if (!old.length) return;
  await db.transaction('rw', db.kits, db.edits, db.seats, db.blobs, async () => {
    for (const { id } of old) {
      await db.kits.delete(id);
      await db.edits.where('[kit+number]').between([id, Dexie.minKey], [id, Dexie.maxKey]).delete();
      await db.seats.where('[kit+model]').between([id, Dexie.minKey], [id, Dexie.maxKey]).delete();
    }
    const used = new Set<string>();
    for (const row of await db.kits.toArray()) {
      for (const id of contentsOfKit(row.kit)) used.add(id);
      for (const { edit } of await editRows(row.id)) for (const id of contentsOfEdit(edit)) used.add(id);
    }
    // What was kept lately may be about to be named by an edit of another tab.
    const since = Date.now() - lateness;
    await db.blobs.filter((b) => !used.has(b.id) && (b.added ?? 0) < since).delete();
  });
}
