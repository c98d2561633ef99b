import Dexie from 'dexie';
import { applyEdit, inverseOf } from '@/core/edit/edit';
import type { History } from '@/core/edit/history';
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
    for (let n = row.snapshot; n < row.cursor; n++) state = applyEdit(state, edits[n - row.first]!);
    for (let n = row.snapshot - 1; n >= row.cursor; n--) state = applyEdit(state, inverseOf(edits[n - row.first]!));
    return { state, history: { edits, cursor: row.cursor - row.first }, first: row.first };
  });
}

const editRows = (id: string) => db.edits.where('[kit+number]').between([id, Dexie.minKey], [id, Dexie.maxKey]).sortBy('number');

export type KitEntry = Pick<KitRow, 'id' | 'name' | 'updated' | 'picture'> & { models: number; colors: string[] };

/** Kits that are not in the bin, the latest first. */
export async function listKits(): Promise<KitEntry[]> {
  const rows = await db.kits.orderBy('updated').reverse().toArray();
  return rows
    .filter((r) => !r.deleted)
    .map(({ id, name, updated, picture, kit }) => ({
      id,
      name,
      updated,
      ...(picture && { picture }),
      models: kit.models.length,
      colors: kit.sheets.flatMap((s) => s.cells.flatMap((c) => (c.fill.kind === 'solid' ? [c.fill.color] : []))).slice(0, 16),
    }));
}

export const renameKit = (id: string, name: string) =>
  db.transaction('rw', db.kits, async () => {
    const row = await db.kits.get(id);
    if (row) await db.kits.update(id, { name, kit: { ...row.kit, name }, updated: Date.now() });
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
    await db.blobs.filter((b) => !used.has(b.id)).delete();
  });
}
