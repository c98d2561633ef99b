import { Unzip, UnzipInflate, zipSync } from 'fflate';
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
  return concatenated(
    parts,
    parts.reduce((n, p) => n + p.length, 0),
  );
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

/** What a zip may unpack to. */
export interface UnzipLimits {
  entries: number;
  /** Of all entries together. */
  bytes: number;
  /** Times the size of the zip, where that is more than `anyway` bytes. */
  ratio: number;
  anyway: number;
}

/**
 * The entries of a zip, by name; `kept`: up to how many bytes of one are kept, of a larger one the size alone. Bytes are
 * counted as they come out, so that what a zip says of itself is not believed. Throws `FileError` where it is none, ends
 * too early, or goes past a limit.
 */
export function unzipped(
  file: string,
  bytes: Uint8Array,
  limits: UnzipLimits,
  kept: (name: string) => number = () => Infinity,
): Map<string, { size: number; bytes?: Uint8Array }> {
  const entries = new Map<string, { size: number; bytes?: Uint8Array }>();
  const mostInAll = Math.min(limits.bytes, Math.max(limits.anyway, bytes.length * limits.ratio));
  let [total, open] = [0, 0];
  const unzip = new Unzip((entry) => {
    if (entries.size >= limits.entries) throw new FileError(file, `it holds more than ${limits.entries.toLocaleString('en')} files.`);
    if (entries.has(entry.name)) throw new FileError(file, 'it holds two files of this name.', entry.name);
    const own: { size: number; bytes?: Uint8Array } = { size: 0 };
    entries.set(entry.name, own);
    const most = kept(entry.name);
    let chunks: Uint8Array[] | null = [];
    open++;
    entry.ondata = (error, chunk, isLast) => {
      if (error) throw error;
      total += chunk.length;
      own.size += chunk.length;
      if (total > limits.bytes) throw new FileError(file, `it unpacks to more than ${limits.bytes / 1024 / 1024} MB.`);
      if (total > mostInAll) throw new FileError(file, `it unpacks to more than ${limits.ratio} times its size.`);
      if (own.size > most) chunks = null;
      chunks?.push(chunk);
      if (!isLast) return;
      open--;
      if (chunks) own.bytes = concatenated(chunks, own.size);
    };
    entry.start();
  });
  unzip.register(UnzipInflate);
  try {
    // Little by little, so that no more comes out at once than may be counted.
    for (let at = 0; at < bytes.length; at += pushedAtOnce)
      unzip.push(bytes.subarray(at, at + pushedAtOnce), at + pushedAtOnce >= bytes.length);
  } catch (error) {
    if (error instanceof FileError) throw error;
    throw new FileError(file, notWhole);
  }
  if (!entries.size || open || !hasDirectory(bytes)) throw new FileError(file, notWhole);
  return entries;
}

const notWhole = 'it is not a zip archive, or it is damaged.';
const pushedAtOnce = 1 << 16;

/** A zip ends with its directory; one without was cut short. */
function hasDirectory(bytes: Uint8Array): boolean {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.length);
  // Behind it stands a comment of 65,535 bytes at most.
  for (let at = bytes.length - endLength; at >= Math.max(0, bytes.length - endLength - 65_535); at--)
    if (view.getUint32(at, true) === 0x06054b50) return true;
  return false;
}

function concatenated(chunks: readonly Uint8Array[], length: number): Uint8Array {
  if (chunks.length === 1) return chunks[0]!;
  const out = new Uint8Array(length);
  let at = 0;
  for (const chunk of chunks) {
    out.set(chunk, at);
    at += chunk.length;
  }
  return out;
}
