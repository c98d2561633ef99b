import { mostIn } from '../limits';
import { FileError } from '../bytes/errors';
import { extensionOf } from '../bytes/text';
import { count } from '../words';
import { cssFormat } from './css';
import { hexFormat } from './hexList';
import type { Palette, PaletteColor, PaletteFormat, Sample } from './palette';
import { pixelFormat } from './pixels';
import { gplFormat, numberFormat, rawFormat, riffFormat, textPalFormat } from './tables';
import { tokenFormat } from './tokens';

/** All formats, in the order in which they are asked. A new one is an entry here and a file of its own. */
export const paletteFormats = {
  gpl: gplFormat,
  'pal-text': textPalFormat,
  'pal-riff': riffFormat,
  hex: hexFormat,
  css: cssFormat,
  tokens: tokenFormat,
  pixels: pixelFormat,
  'pal-raw': rawFormat,
  numbers: numberFormat,
} as const satisfies Record<string, PaletteFormat>;
export type PaletteKind = keyof typeof paletteFormats;

const formats = Object.entries(paletteFormats) as [PaletteKind, PaletteFormat][];
const extensionsOf = (list: typeof formats) => [...new Set(list.flatMap(([, f]) => f.extensions))];
const dotted = (list: string[]) => list.map((e) => '.' + e).join(', ');
/** Without dots. */
export const paletteExtensions = extensionsOf(formats);
/** Formats that can be written. */
export const writtenFormats = formats.filter(([, f]) => f.write);

/** Reads a palette by what its bytes say, then by its extension. Throws `FileError`. */
export function readPalette(file: string, bytes: Uint8Array): Palette {
  if (!bytes.length) throw new FileError(file, 'the file is empty.');
  if (bytes.length > 16 * 1024 * 1024) throw new FileError(file, 'it is larger than 16 MB; no palette is.');
  const [kind, format] = formatOf(file, bytes);
  const palette: Palette = { kind, ...format.read(file, bytes) };
  if (!palette.colors.length) throw new FileError(file, 'no color was found in it.');
  if (palette.colors.length > mostIn.colors)
    throw new FileError(file, `it holds ${palette.colors.length} colors; up to ${mostIn.colors} can be read.`);
  const clear = palette.colors.filter((c) => c.alpha !== undefined && c.alpha < 1).length;
  if (clear) palette.notes.push(`${count(clear, 'color')} partly transparent; many engines draw such texels black or opaque.`);
  return palette;
}

function formatOf(file: string, bytes: Uint8Array): [PaletteKind, PaletteFormat] {
  const isText = !bytes.subarray(0, 4096).includes(0) || bytes[0] === 0xff || bytes[0] === 0xfe;
  const text = new TextDecoder('latin1').decode(bytes.subarray(0, 512)).replace(/^\xef\xbb\xbf/, '');
  const sample: Sample = { bytes, text, isText };
  const extension = extensionOf(file);
  const named = formats.filter(([, f]) => f.extensions.includes(extension));
  const found =
    formats.find(([, f]) => f.isSurely?.(sample)) ??
    named.find(([, f]) => f.isLikely?.(sample)) ??
    formats.find(([, f]) => f.isLikely?.(sample)) ??
    named.find(([, f]) => f.isPossible?.(sample) ?? isText);
  if (found) return found;
  const isKnown = paletteExtensions.includes(extension);
  throw new FileError(file, isKnown ? 'this does not read as a palette.' : `palettes are read from ${dotted(paletteExtensions)} files.`);
}

/** The kind that an extension stands for when writing. Throws `FileError`. */
export function kindOfExtension(file: string): PaletteKind {
  const found = writtenFormats.find(([, f]) => f.extensions.includes(extensionOf(file)));
  if (!found) throw new FileError(file, `palettes are written to ${dotted(extensionsOf(writtenFormats))} files.`);
  return found[0];
}

/** Throws where the format can only be read. */
export function writePalette(kind: PaletteKind, colors: readonly PaletteColor[], name: string): Uint8Array {
  const { write } = paletteFormats[kind] as PaletteFormat;
  if (!write) throw new Error('Palettes are not written in this format.');
  return write(colors, name);
}
