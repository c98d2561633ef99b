import { byId } from '@/core/ground/byId';
import { sizeOfEdit } from '@/core/kit/edit/editKinds';
import type { Edit } from '@/core/kit/edit/edit';
import type { KitState } from '@/core/kit/kit';
import { db, type DocumentRow, type EditRow, type KitRow, type SeatsRow } from './db';

/** Another tab has taken the kit over, or it was removed. */
export class KitLost extends Error {}

/** Rows of the pixels of art, which no id of a model begins with. */
export const artRow = '/';

const stores = ['kits', 'documents', 'edits', 'seats'];

/**
 * One transaction of which all requests leave at once, so that the disk writes while the page draws; the
 * database's package waits for a promise between requests.
 */
export async function write(work: (transaction: IDBTransaction) => void): Promise<void> {
  if (!db.isOpen()) await db.open();
  const transaction = (db.backendDB() as IDBDatabase).transaction(stores, 'readwrite', { durability: 'strict' });
  const done = new Promise<void>((resolve, reject) => {
    transaction.oncomplete = () => resolve();
    // Why it was given up is in the transaction, but for what `work` throws.
    transaction.onabort = () => reject(transaction.error ?? new KitLost());
  });
  try {
    work(transaction);
  } catch (error) {
    transaction.abort();
    await done.catch(() => undefined);
    throw error;
  }
  return done;
}

/**
 * The same, with the kit's row; throws `KitLost`, and nothing is written, where the row is no longer that of
 * its owner.
 */
export const writeAsOwner = (row: KitRow, work: (transaction: IDBTransaction) => void): Promise<void> =>
  write((transaction) => {
    const kits = transaction.objectStore('kits');
    const asked = kits.get(row.id);
    asked.onsuccess = () => {
      const now = asked.result as KitRow | undefined;
      if (now?.owner !== row.owner) transaction.abort();
      else if (now.deleted) kits.put({ ...row, deleted: now.deleted } satisfies KitRow);
    };
    work(transaction);
    kits.put(row);
  });

/** Replaces document, seats, patches and pixels of a kit; the number of the snapshot is for the caller to write. */
export function putSnapshot(transaction: IDBTransaction, { kit, seats, patches = byId<never>(), pixels = byId() }: KitState): void {
  transaction.objectStore('documents').put({ kit: kit.id, document: kit } satisfies DocumentRow);
  const store = transaction.objectStore('seats');
  store.delete(allOf(kit.id));
  for (const [model, s] of Object.entries(seats)) store.put({ kit: kit.id, model, seats: s } satisfies SeatsRow);
  for (const [variant, own] of Object.entries(patches))
    for (const [model, patch] of Object.entries(own))
      store.put({ kit: kit.id, model: `${model}/${variant}`, seats: patch } satisfies SeatsRow);
  for (const [art, own] of Object.entries(pixels)) store.put({ kit: kit.id, model: `${artRow}${art}`, seats: own } satisfies SeatsRow);
}

/** Writes edits from number `from` on; later ones that were there go. */
export function putEdits(transaction: IDBTransaction, kit: string, from: number, edits: readonly Edit[]): void {
  const store = transaction.objectStore('edits');
  store.delete(IDBKeyRange.bound([kit, from], [kit, []]));
  edits.forEach((edit, i) => store.put({ kit, number: from + i, edit, size: sizeOfEdit(edit) } satisfies EditRow));
}

/** Forgets the edits before a number. */
export const dropEdits = (transaction: IDBTransaction, kit: string, before: number): IDBRequest =>
  transaction.objectStore('edits').delete(IDBKeyRange.bound([kit, 0], [kit, before], false, true));

/** All rows of a kit in a table keyed by kit and something: arrays come after all numbers and words. */
const allOf = (kit: string): IDBKeyRange => IDBKeyRange.bound([kit], [kit, []]);
