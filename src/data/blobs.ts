import { contentAddress } from '@/core/ground/bytes/pack';
import { db } from './db';

/** Keeps bytes under their content address. */
export async function keepBlob(bytes: Uint8Array): Promise<string> {
  const id = await contentAddress(bytes);
  if (!(await db.blobs.update(id, { added: Date.now() }))) await keepBlobs([{ id, bytes }]);
  return id;
}

/**
 * Keeps bytes whose addresses are known. The time tells tidying, in this tab or another, that an edit may be
 * about to name them.
 */
export async function keepBlobs(blobs: readonly { id: string; bytes: Uint8Array }[]): Promise<void> {
  await db.blobs.bulkPut(blobs.map(({ id, bytes }) => ({ id, bytes, added: Date.now() })));
}

export async function readBlob(id: string): Promise<Uint8Array> {
  const row = await db.blobs.get(id);
  if (!row) throw new Error('A part of this kit is missing from the storage of this browser. Open it from its archive instead.');
  return row.bytes;
}
