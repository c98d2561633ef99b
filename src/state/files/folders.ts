import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex } from '@noble/hashes/utils.js';
import { equalArrays } from '@/core/ground/equalArrays';
import type { NamedFile } from '@/core/ground/bytes/fileKinds';

/** Whether this browser can write into a folder of the computer. */
export const canWriteFolders = (): boolean => typeof window !== 'undefined' && 'showDirectoryPicker' in window;

/** A folder that the artist chooses; `null` where they choose none. */
export async function chooseFolder(): Promise<FileSystemDirectoryHandle | null> {
  const pick = (window as unknown as { showDirectoryPicker: (o: object) => Promise<FileSystemDirectoryHandle> }).showDirectoryPicker;
  return pick.call(window, { mode: 'readwrite', id: 'hand-off' }).catch((error: unknown) => {
    if (error instanceof DOMException && error.name === 'AbortError') return null;
    throw error;
  });
}

/** Some names, and how many more there are. */
export const listed = (names: readonly string[]): string =>
  `${names.slice(0, 6).join(', ')}${names.length > 6 ? ` and ${names.length - 6} more` : ''}`;

/** What was there before a file was written: nothing, or other bytes. */
export interface Replaced {
  path: string;
  bytes: Uint8Array | null;
  sha256: string;
}

/**
 * Writes a file where it is another one, or is not there, and reads it back. `keep` gets what is about to be replaced;
 * where it fails, nothing is written. Returns whether it was written. Throws where what was read back differs.
 */
export async function putFile(
  folder: FileSystemDirectoryHandle,
  { name, bytes }: NamedFile,
  keep: (replaced: Replaced) => Promise<void>,
): Promise<boolean> {
  const path = name.split('/');
  let at = folder;
  for (const part of path.slice(0, -1)) at = await at.getDirectoryHandle(part, { create: true });
  const there = await at.getFileHandle(path.at(-1)!).then(
    async (handle) => new Uint8Array(await (await handle.getFile()).arrayBuffer()),
    (error: unknown) => {
      if (error instanceof DOMException && error.name === 'NotFoundError') return null;
      throw error;
    },
  );
  if (there && equalArrays(there, bytes)) return false;
  await keep({ path: name, bytes: there, sha256: there ? bytesToHex(sha256(there)) : '' });
  const handle = await at.getFileHandle(path.at(-1)!, { create: true });
  const out = await handle.createWritable();
  await out.write(bytes as Uint8Array<ArrayBuffer>);
  await out.close();
  const written = new Uint8Array(await (await handle.getFile()).arrayBuffer());
  if (!equalArrays(written, bytes)) throw new Error(`“${name}” reads back other than it was written; another program may have changed it.`);
  return true;
}
