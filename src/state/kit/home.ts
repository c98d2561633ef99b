import { byId } from '@/core/ground/byId';
import { newKit } from '@/core/sheet/starter';
import { archiveExtension } from '@/core/kit/contents';
import { newId } from '@/core/kit/kit';
import { withStorageWords } from '@/data/db';
import { keepBlobs } from '@/data/blobs';
import { createKit, duplicateKit as duplicateStored, listKits, renameKit as renameStored } from '@/data/kits';
import { lockKit } from '@/data/tabLock';
import { freeName } from '@/core/kit/freeName';
import { pickingWorker, startTask, type LongTask } from '@/workers/client';
import { notifyNextView } from '../told/notices';

export async function makeKit(name: string): Promise<string> {
  const kit = newKit(name);
  await createKit({ kit, seats: byId() }).catch(refuse('the kit was not made'));
  return kit.id;
}

export const duplicateKit = (id: string, name: string): Promise<string | null> =>
  duplicateStored(id, name).catch(refuse('the kit was not duplicated'));

const refuse = (notDone: string) => (error: unknown) => {
  throw withStorageWords(error, notDone);
};

/** Renames a kit from outside. Throws where a tab has it open, which would write its own name over this one. */
export async function renameKit(id: string, name: string): Promise<void> {
  const lock = await lockKit(id, () => Promise.resolve());
  if (!lock) throw new Error('This kit is open in another tab. Rename it there, or close that tab first.');
  try {
    await renameStored(id, name);
  } finally {
    lock.release();
  }
}

let running: LongTask<unknown> | null = null;
/** Stops opening an archive. */
export const cancelOpening = (): void => running?.cancel();

/** Opens an archive as a new kit beside those that are there; `null` where it was cancelled. */
export async function openArchive(name: string, bytes: Uint8Array): Promise<string | null> {
  const task = startTask((worker) => worker.readArchive(name, bytes), { mayTakeSpare: true });
  running = task;
  void pickingWorker().ping();
  try {
    const opened = await task.done;
    if (!opened) return null;
    const { state, blobs, leftOut } = opened;
    await keepBlobs([...blobs].map(([id, b]) => ({ id, bytes: b })));
    const names = (await listKits()).map((k) => k.name);
    const kit = { ...state.kit, id: newId('k'), name: freeName(state.kit.name, names) };
    await createKit({ ...state, kit });
    leftOut.forEach((message) => notifyNextView(message));
    return kit.id;
  } catch (error) {
    throw withStorageWords(error, 'the kit was not opened');
  } finally {
    running = null;
  }
}

export const demoAddress = `/demo/brindle-skerry${archiveExtension}`;

export async function openDemo(): Promise<string | null> {
  const response = await fetch(demoAddress);
  if (!response.ok) throw new Error('The demo kit is missing from this installation. Run “npm run demo-kit”, then try again.');
  return openArchive('Brindle Skerry', new Uint8Array(await response.arrayBuffer()));
}

export const isArchive = (file: { name: string }): boolean => file.name.toLowerCase().endsWith('.zip');
