import { unzipSync, zipSync, type UnzipFileInfo, type Zippable } from 'fflate';
import { FileError } from './errors';
import type { NamedFile } from './fileKinds';

/** Bytes that are packed already, which packing again would not make smaller. */
const packed = /\.(png|jpe?g|webp|zip)$/i;

/**
 * A zip of files by their paths, in the order of these, without anything from the clock: the same files give the
 * same bytes. Zip keeps the time on the clock: made of its parts it is the same in every time zone.
 */
export function zipOf(files: readonly NamedFile[]): Uint8Array {
  const entries: Zippable = {};
  for (const { name, bytes } of [...files].sort((a, b) => (a.name < b.name ? -1 : a.name > b.name ? 1 : 0)))
    entries[name] = [bytes, { level: packed.test(name) ? 0 : 6 }];
  return zipSync(entries, { mtime: new Date(2020, 0, 1) });
}

/**
 * The entries of a zip that are wanted. `isWanted` is told of each before it is unpacked, and may throw `FileError`.
 * Throws `FileError` where it is none.
 */
export function unzipped(file: string, bytes: Uint8Array, isWanted: (entry: UnzipFileInfo) => boolean): Record<string, Uint8Array> {
  try {
    return unzipSync(bytes, { filter: isWanted });
  } catch (error) {
    if (error instanceof FileError) throw error;
    throw new FileError(file, 'it is not a zip archive, or it is damaged.');
  }
}
