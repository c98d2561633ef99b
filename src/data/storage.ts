import Dexie from 'dexie';
import { contentsOfEdit } from '@/core/kit/edit/editKinds';
import { contentsOfKit } from '@/core/kit/contents';
import { db } from './db';

/** Bytes that this browser holds, each counted once. */
export interface StorageUse {
  /** Models, files, pictures and seats of the kit in question. */
  kit: number;
  /** What its undo takes, with meshes and pictures that only undo can bring back. */
  history: number;
  others: number;
  otherKits: number;
  bin: number;
  binnedKits: number;
  /** Bytes that nothing names, such as those of an import that was cancelled. */
  unused: number;
  /** What the browser leaves us beside that, where it says so. */
  free: number | null;
  /** The browser has promised not to clear it when its disk is short. */
  isPersistent: boolean;
}

/**
 * Milliseconds for which bytes that nothing names are left alone: an edit of another tab may be about to name
 * them.
 */
const lateness = { byItself: 86_400_000, asked: 600_000 };
const binDays = 7;
const everything = () => [db.kits, db.documents, db.portraits, db.edits, db.seats, db.blobs, db.restores];

/** Measures the storage, as seen from a kit. */
export const storageUse = async (id: string): Promise<StorageUse> => {
  const use = await db.transaction('r', everything(), async () => {
    const rows = await db.kits.toArray();
    const binned = new Set(rows.filter((r) => r.deleted).map((r) => r.id));
    const sum: Omit<StorageUse, 'free' | 'isPersistent'> = {
      kit: 0,
      history: 0,
      others: 0,
      otherKits: rows.length - binned.size - (rows.some((r) => r.id === id) ? 1 : 0),
      bin: 0,
      binnedKits: binned.size,
      unused: 0,
    };
    const placeOf = (kit: string) => (kit === id ? 'kit' : binned.has(kit) ? 'bin' : 'others');
    // Where several name the same bytes, the first of these counts them.
    const named = { kit: new Set<string>(), history: new Set<string>(), others: new Set<string>(), bin: new Set<string>() };
    await db.documents.each(({ kit, document }) => contentsOfKit(document).forEach((b) => named[placeOf(kit)].add(b)));
    await db.edits.each(({ kit, edit, size }) => {
      const place = kit === id ? 'history' : placeOf(kit);
      sum[place] += size;
      contentsOfEdit(edit).forEach((b) => named[place].add(b));
    });
    await db.seats.each(
      ({ kit, seats }) =>
        (sum[placeOf(kit)] +=
          'cells' in seats
            ? seats.cells.byteLength
            : seats.cell.byteLength + ('region' in seats ? seats.region.byteLength : 0) + (seats.at?.byteLength ?? 0)),
    );
    await db.restores.each(({ kit, bytes }) => (sum[kit === id ? 'history' : placeOf(kit)] += bytes.length));
    await db.blobs.each(({ id: blob, bytes }) => {
      const place = (['kit', 'history', 'others', 'bin'] as const).find((p) => named[p].has(blob));
      sum[place ?? 'unused'] += bytes.length;
    });
    return sum;
  });
  const storage = typeof navigator === 'undefined' ? undefined : (navigator.storage as StorageManager | undefined);
  const { quota, usage } = (await storage?.estimate()) ?? {};
  return {
    ...use,
    free: quota === undefined || usage === undefined ? null : Math.max(0, quota - usage),
    isPersistent: (await storage?.persisted?.()) ?? false,
  };
};

/** Asks the browser to keep what is stored even when its disk is short. */
export async function askToPersist(): Promise<void> {
  const storage = navigator.storage as StorageManager | undefined;
  if (!(await storage?.persisted?.())) await storage?.persist?.();
}

/** Empties the bin of what has lain there for a week, and drops what nothing uses any more. */
export async function tidy(): Promise<void> {
  if (await emptyBin(binDays)) await dropUnused(lateness.byItself);
}

/** Empties the bin now, and drops what nothing uses. */
export async function clearBin(): Promise<void> {
  await emptyBin(0);
  await dropUnused(lateness.asked);
}

/** How many kits went, of those that have lain in the bin for so many days. */
const emptyBin = (days: number): Promise<number> =>
  db.transaction('rw', everything(), async () => {
    const old = (await db.kits.toArray()).filter((r) => r.deleted && Date.now() - r.deleted >= days * 86_400_000);
    for (const { id } of old) {
      await db.kits.delete(id);
      await db.documents.delete(id);
      await db.portraits.delete(id);
      await db.edits.where('[kit+number]').between([id, Dexie.minKey], [id, Dexie.maxKey]).delete();
      await db.seats.where('[kit+model]').between([id, Dexie.minKey], [id, Dexie.maxKey]).delete();
      await db.restores.where('kit').equals(id).delete();
    }
    return old.length;
  });

/** Drops bytes that no kit and no edit names and that were not kept lately. */
export const dropUnused = (older: number = lateness.asked): Promise<number> =>
  db.transaction('rw', everything(), async () => {
    const used = new Set<string>();
    await db.documents.each(({ document }) => contentsOfKit(document).forEach((id) => used.add(id)));
    await db.edits.each(({ edit }) => contentsOfEdit(edit).forEach((id) => used.add(id)));
    const since = Date.now() - older;
    return db.blobs.filter((b) => !used.has(b.id) && (b.added ?? 0) < since).delete();
  });
