import { newKit } from '@/core/sheet/starter';
import { archiveExtension } from '@/core/kit/contents';
import { newId } from '@/core/kit/kit';
import { db, isStorageFull } from '@/data/db';
import { createKit, listKits } from '@/data/kits';
import { freeName } from '@/core/kit/freeName';
import { coreWorker } from '@/workers/client';

export async function makeKit(name: string): Promise<string> {
  const kit = newKit(name);
  await createKit({ kit, seats: {} });
  return kit.id;
}

/** Opens an archive as a new kit beside those that are there. */
export async function openArchive(name: string, bytes: Uint8Array): Promise<string> {
  const { state, blobs } = await coreWorker().readArchive(name, bytes);
  try {
    await db.blobs.bulkPut([...blobs].map(([id, b]) => ({ id, bytes: b })));
    const names = (await listKits()).map((k) => k.name);
    const kit = { ...state.kit, id: newId('k'), name: freeName(state.kit.name, names) };
    await createKit({ kit, seats: state.seats });
    return kit.id;
  } catch (error) {
    if (isStorageFull(error)) throw new Error('The storage of this browser is full, so the kit was not opened. Make room, then try again.');
    throw error;
  }
}

export const demoAddress = `/demo/brindle-skerry${archiveExtension}`;

export async function openDemo(): Promise<string> {
  const response = await fetch(demoAddress);
  if (!response.ok) throw new Error('The demo kit is missing from this installation. Run “npm run demo-kit”, then try again.');
  return openArchive('Brindle Skerry', new Uint8Array(await response.arrayBuffer()));
}

export const isArchive = (file: { name: string }): boolean => file.name.toLowerCase().endsWith('.zip');
