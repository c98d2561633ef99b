import { db, type RestoreRow } from './db';

/** Bytes of files that are kept for a kit at most; the oldest go first. */
const mostBytes = 64 * 1024 * 1024;

/** Keeps a file as it was before it was replaced. */
export const keepRestore = (row: Omit<RestoreRow, 'id'>): Promise<void> =>
  db.transaction('rw', db.restores, async () => {
    await db.restores.add(row as RestoreRow);
    const rows = await db.restores.where('kit').equals(row.kit).sortBy('id');
    let sum = rows.reduce((n, r) => n + r.bytes.length, 0);
    for (const { id, bytes } of rows) {
      if (sum <= mostBytes) break;
      sum -= bytes.length;
      await db.restores.delete(id);
    }
  });

/** The files that were kept for a kit, the latest first. */
export const restoresOf = async (kit: string): Promise<RestoreRow[]> => (await db.restores.where('kit').equals(kit).sortBy('id')).reverse();

export const forgetRestores = async (kit: string): Promise<void> => {
  await db.restores.where('kit').equals(kit).delete();
};
