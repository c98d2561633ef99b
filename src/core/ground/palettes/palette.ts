import type { Hex } from '../color/hex';

export interface PaletteColor {
  color: Hex;
  name?: string;
  /** 0..1; opaque where absent. */
  alpha?: number;
}

export interface Palette {
  /** The key of its format in the table of formats. */
  kind: string;
  name?: string;
  colors: PaletteColor[];
  /** What was passed over, in words. */
  notes: string[];
}

/** What a reader tells; the table adds which format it was. */
export type ReadColors = Omit<Palette, 'kind'>;

/** A file's bytes and the beginning of them as text, by which it is recognised. */
export interface Sample {
  bytes: Uint8Array;
  /** Up to 512 bytes, byte by byte, without a mark of UTF-8. */
  text: string;
  /** No NUL among the first bytes, or UTF-16 with its mark. */
  isText: boolean;
}

/** One format of palette files. */
export interface PaletteFormat {
  /** For lists of formats to write. */
  words: string;
  /** The first one is that of files that are written. */
  extensions: readonly string[];
  /** Whether the bytes say for sure that this is the format, whatever the file is called. */
  isSurely?: (sample: Sample) => boolean;
  /** Whether they look like it. Believed where the extension says the same, or where nothing else is believed. */
  isLikely?: (sample: Sample) => boolean;
  /** Whether they may be of it, where only the extension says so; by default any text may. */
  isPossible?: (sample: Sample) => boolean;
  /** Throws `FileError`, with the place. */
  read: (file: string, bytes: Uint8Array) => ReadColors;
  /** Absent: it is only read. */
  write?: (colors: readonly PaletteColor[], name: string) => Uint8Array;
  /** Written files have no opacity. */
  isOpaque?: boolean;
}

export const startsWith = (bytes: Uint8Array, text: string): boolean => [...text].every((c, i) => bytes[i] === c.charCodeAt(0));
