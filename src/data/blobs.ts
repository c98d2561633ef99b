import { contentAddress } from '@/core/io/pack';
import { db } from './db';

/** Keeps bytes under their content address; bytes that are there already are not written again. */
export async function keepBlob(bytes: Uint8Array): Promise<string> {
  const id = await contentAddress(bytes);
  if (!(await db.blobs.get(id))) await db.blobs.put({ id, bytes });
  return id;
}

export async function readBlob(id: string): Promise<Uint8Array> {
  const row = await db.blobs.get(id);
  if (!row) throw new Error('A part of this kit is missing from the storage of this browser. Open it from its archive instead.');
  return row.bytes;
}
