import { byId, withId } from '@/core/ground/byId';
import Dexie from 'dexie';
import { applyEdit, inverseOf } from '@/core/kit/edit/editKinds';
import { emptyHistory, perform, type History } from '@/core/kit/edit/history';
import { newId, type Kit, type KitState, type SeatPatch, type Seats } from '@/core/kit/kit';
import { withPixels, type Pixels } from '@/core/kit/pixels';
import { withPatch } from '@/core/kit/patches';
import { db, type KitRow, type PortraitRow } from './db';
import { summaryOf } from './summary';
import { artRow, putEdits, putSnapshot, write, writeAsOwner } from './write';

export interface StoredKit {
  state: KitState;
  history: History;
  /** As it stands in storage; its owner is the one who read it, where it was claimed. */
  row: KitRow;
}

/** Keeps a new kit, with the history that it may have already. */
export async function createKit(
  state: KitState,
  { portrait, history = emptyHistory }: { portrait?: Omit<PortraitRow, 'kit'>; history?: History } = {},
): Promise<void> {
  const { kit } = state;
  const { cursor } = history;
  await write((transaction) => {
    const row: KitRow = { id: kit.id, ...summaryOf(kit), owner: 0, snapshot: cursor, cursor, first: 0, updated: Date.now() };
    transaction.objectStore('kits').put(row);
    putSnapshot(transaction, state);
    putEdits(transaction, kit.id, 0, history.edits);
  });
  if (portrait) await db.portraits.put({ ...portrait, kit: kit.id });
  await tellLists(kit.id);
}

/** Lists that are shown, in this tab or another, follow what is written by the database's package alone. */
const tellLists = (id: string) => db.kits.update(id, { updated: Date.now() });

const stored = { isReplay: true, ignoreLocks: true };
const tables = () => [db.kits, db.documents, db.edits, db.seats];

/**
 * The kit as it was left: the snapshot, moved along the edits to where the artist was. `null` where there is
 * no such kit.
 */
export const loadKit = (id: string): Promise<StoredKit | null> => db.transaction('r', tables(), () => readKit(id));

/** The same, and from this moment on nobody who claimed it before can write it. */
export const claimKit = (id: string): Promise<StoredKit | null> =>
  db.transaction('rw', tables(), async () => {
    const found = await readKit(id);
    if (!found) return null;
    const row = { ...found.row, owner: found.row.owner + 1 };
    await db.kits.put(row);
    return { ...found, row };
  });

async function readKit(id: string): Promise<StoredKit | null> {
  const row = await db.kits.get(id);
  const document = (await db.documents.get(id))?.document;
  if (!row || row.deleted || !document) return null;
  const edits = (await editRows(id)).map((r) => r.edit);
  let state: KitState = { kit: document, seats: byId() };
  for (const { model, seats: own } of await db.seats.where('[kit+model]').between([id, Dexie.minKey], [id, Dexie.maxKey]).toArray()) {
    const [of, variant] = model.split('/') as [string, string?];
    if (model.startsWith(artRow)) state = withPixels(state, variant!, own as Pixels);
    else if (variant === undefined) state = { ...state, seats: withId(state.seats, of, own as Seats) };
    else state = withPatch(state, variant, of, own as SeatPatch);
  }
  for (let n = row.snapshot; n < row.cursor; n++) state = applyEdit(state, edits[n - row.first]!, stored);
  for (let n = row.snapshot - 1; n >= row.cursor; n--) state = applyEdit(state, inverseOf(edits[n - row.first]!), stored);
  return { state, history: { edits, cursor: row.cursor - row.first }, row };
}

const editRows = (id: string) => db.edits.where('[kit+number]').between([id, Dexie.minKey], [id, Dexie.maxKey]).sortBy('number');

export type KitEntry = Pick<KitRow, 'id' | 'name' | 'updated' | 'models' | 'colors' | 'sheet'> & { portrait?: PortraitRow };

/** Kits that are not in the bin, the latest first. */
export async function listKits(): Promise<KitEntry[]> {
  const rows = (await db.kits.orderBy('updated').reverse().toArray()).filter((r) => !r.deleted);
  const portraits = await db.portraits.bulkGet(rows.map((r) => r.id));
  return rows.map(({ id, name, updated, models, colors, sheet }, i) => ({
    id,
    name,
    updated,
    models,
    colors,
    ...(sheet && { sheet }),
    ...(portraits[i] && { portrait: portraits[i] }),
  }));
}

/**
 * Renames a kit that no tab has open, by one more edit of its history: what was renamed inside it before
 * cannot bring an old name back.
 */
export async function renameKit(id: string, name: string): Promise<void> {
  const found = await claimKit(id);
  if (!found) return;
  const { state, history } = perform(found, { kind: 'set', of: 'kit', before: { name: found.state.kit.name }, after: { name } });
  const cursor = found.row.first + history.cursor;
  await writeAsOwner({ ...found.row, ...summaryOf(state.kit), snapshot: cursor, cursor, updated: Date.now() }, (transaction) => {
    putEdits(transaction, id, cursor - 1, history.edits.slice(history.cursor - 1));
    putSnapshot(transaction, state);
  });
  await tellLists(id);
}

export const binKit = (id: string) => db.kits.update(id, { deleted: Date.now() });
export const unbinKit = (id: string) =>
  db.kits
    .where('id')
    .equals(id)
    .modify((row) => delete row.deleted);

/** A copy under a new name; meshes and files are shared, since they never change. */
export async function duplicateKit(id: string, name: string): Promise<string | null> {
  const found = await loadKit(id);
  if (!found) return null;
  const portrait = await db.portraits.get(id);
  const kit: Kit = { ...found.state.kit, id: newId('k'), name };
  await createKit({ ...found.state, kit }, portrait ? { portrait } : {});
  return kit.id;
}
