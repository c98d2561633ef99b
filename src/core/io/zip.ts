import { unzipSync, zipSync, type UnzipFileInfo } from 'fflate';
import { FileError } from './errors';
import type { NamedFile } from './fileKinds';

/** Bytes that are packed already, which packing again would not make smaller. */
const packed = /\.(png|jpe?g|webp|zip)$/i;

/**
 * A zip of files by their paths, in the order of these, without anything from the clock: the same files give the
 * same bytes. Zip keeps the time on the clock: made of its parts it is the same in every time zone.
 */
export function zipOf(files: readonly NamedFile[]): Uint8Array {
  const parts = [...zipParts(files)];
  const out = new Uint8Array(parts.reduce((n, p) => n + p.length, 0));
  let at = 0;
  for (const part of parts) {
    out.set(part, at);
    at += part.length;
  }
  return out;
}

/**
 * The same zip, file by file, so that it need not be in memory as a whole. Method: each file is zipped by itself; its
 * entry of the directory, with the offset put right, goes to the end (PKWARE APPNOTE 6.3, 4.3).
 */
export function* zipParts(files: readonly NamedFile[]): Generator<Uint8Array> {
  const directory: Uint8Array[] = [];
  let at = 0;
  for (const { name, bytes } of [...files].sort((a, b) => (a.name < b.name ? -1 : a.name > b.name ? 1 : 0))) {
    const own = zipSync({ [name]: [bytes, { level: packed.test(name) ? 0 : 6 }] }, { mtime: new Date(2020, 0, 1) });
    const end = new DataView(own.buffer, own.byteOffset + own.length - endLength);
    const from = end.getUint32(16, true);
    const entry = own.slice(from, own.length - endLength);
    new DataView(entry.buffer).setUint32(42, at, true);
    directory.push(entry);
    at += from;
    yield own.subarray(0, from);
  }
  yield* directory;
  const end = zipSync({}).slice(-endLength);
  const view = new DataView(end.buffer);
  view.setUint16(8, directory.length, true);
  view.setUint16(10, directory.length, true);
  view.setUint32(
    12,
    directory.reduce((n, e) => n + e.length, 0),
    true,
  );
  view.setUint32(16, at, true);
  yield end;
}

/** Bytes of the record that ends a zip without a comment. */
const endLength = 22;

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
