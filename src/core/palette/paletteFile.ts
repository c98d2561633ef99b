import type { Hex } from '../color/hex';
import { FileError } from '../io/errors';
import { extensionOf } from '../io/text';
import { readCss, writeCss } from './css';
import { readColorTable, readRiff, readTextPal, writeGpl, writeRiff, writeTextPal } from './tables';
import { readHexList, writeHexList } from './hexList';
import { readPixels, writePixels } from './pixels';
import { readTokens, writeTokens } from './tokens';
import { count } from '../words';

export interface PaletteColor {
  color: Hex;
  name?: string;
  /** 0..1; opaque where absent. */
  alpha?: number;
}

export type PaletteKind = 'gpl' | 'pal-text' | 'pal-riff' | 'pal-raw' | 'hex' | 'css' | 'tokens' | 'pixels';

export interface Palette {
  kind: PaletteKind;
  name?: string;
  colors: PaletteColor[];
  /** What was passed over, in words. */
  notes: string[];
}

/** A palette file holds at most this many colors. */
export const mostColors = 20_000;
export const paletteExtensions = ['gpl', 'pal', 'hex', 'txt', 'css', 'json', 'png'] as const;

/** Reads a palette by what its bytes say, then by its extension. Throws `FileError`. */
export function readPalette(file: string, bytes: Uint8Array): Palette {
  if (!bytes.length) throw new FileError(file, 'the file is empty.');
  if (bytes.length > 16 * 1024 * 1024) throw new FileError(file, 'it is larger than 16 MB; no palette is.');
  const palette = readAs(file, bytes);
  if (!palette.colors.length) throw new FileError(file, 'no color was found in it.');
  if (palette.colors.length > mostColors)
    throw new FileError(file, `it holds ${palette.colors.length} colors; up to ${mostColors} can be read.`);
  const clear = palette.colors.filter((c) => c.alpha !== undefined && c.alpha < 1).length;
  if (clear) palette.notes.push(`${count(clear, 'color')} partly transparent; many engines draw such texels black or opaque.`);
  return palette;
}

function readAs(file: string, bytes: Uint8Array): Palette {
  const starts = (text: string) => [...text].every((c, i) => bytes[i] === c.charCodeAt(0));
  if (starts('\x89PNG')) return readPixels(file, bytes);
  if (starts('RIFF')) return readRiff(file, bytes);
  const extension = extensionOf(file);
  const isText = !bytes.subarray(0, 4096).includes(0) || bytes[0] === 0xff || bytes[0] === 0xfe;
  if (extension === 'pal' && (!isText || !/^[\s\x20-\x7e\xef\xbb\xbf]*$/.test(latin(bytes.subarray(0, 512))))) return readRaw(file, bytes);
  if (!isText) throw new FileError(file, 'this does not read as a palette.');
  const text = latin(bytes.subarray(0, 64)).replace(/^\xef\xbb\xbf/, '');
  if (/^JASC-PAL/.test(text)) return readTextPal(file, bytes);
  switch (extension) {
    case 'gpl':
      return readColorTable(file, bytes, 'gpl');
    case 'pal':
      return readColorTable(file, bytes, 'pal-text');
    case 'css':
      return readCss(file, bytes);
    case 'json':
      return readTokens(file, bytes);
    case 'hex':
    case 'txt':
      return /^GIMP Palette/.test(text) ? readColorTable(file, bytes, 'gpl') : readHexList(file, bytes);
    default:
      throw new FileError(file, `palettes are read from ${paletteExtensions.map((e) => '.' + e).join(', ')} files.`);
  }
}

const latin = (bytes: Uint8Array) => new TextDecoder('latin1').decode(bytes);

/** Red, green and blue bytes one after the other, as old games kept them. */
function readRaw(file: string, bytes: Uint8Array): Palette {
  if (bytes.length % 3 || bytes.length > 768)
    throw new FileError(
      file,
      'this does not read as a palette: it has no header, and its length is no number of red, green and blue bytes up to 256 colors.',
    );
  const hex = (i: number) => bytes[i]!.toString(16).padStart(2, '0');
  const colors = Array.from({ length: bytes.length / 3 }, (_, i) => ({ color: `#${hex(i * 3)}${hex(i * 3 + 1)}${hex(i * 3 + 2)}` }));
  return { kind: 'pal-raw', colors, notes: ['It has no header: its bytes were taken as red, green and blue.'] };
}

export type WrittenKind = Exclude<PaletteKind, 'pal-raw'>;

/** The kind that an extension stands for when writing. */
export function kindOfExtension(file: string): WrittenKind {
  const kinds: Record<string, WrittenKind> = {
    gpl: 'gpl',
    pal: 'pal-text',
    hex: 'hex',
    txt: 'hex',
    css: 'css',
    json: 'tokens',
    png: 'pixels',
  };
  const kind = kinds[extensionOf(file)];
  if (!kind) throw new FileError(file, `palettes are written to ${paletteExtensions.map((e) => '.' + e).join(', ')} files.`);
  return kind;
}

export function writePalette(kind: WrittenKind, colors: readonly PaletteColor[], name: string): Uint8Array {
  switch (kind) {
    case 'gpl':
      return writeGpl(colors, name);
    case 'pal-text':
      return writeTextPal(colors);
    case 'pal-riff':
      return writeRiff(colors);
    case 'hex':
      return writeHexList(colors);
    case 'css':
      return writeCss(colors);
    case 'tokens':
      return writeTokens(colors, name);
    case 'pixels':
      return writePixels(colors);
  }
}
