import { hexFromRgb, rgbFromHex } from '../color/hex';
import { FileError } from '../bytes/errors';
import { decodeName, utf8Bytes } from '../bytes/text';
import { startsWith, type PaletteColor, type PaletteFormat, type ReadColors, type Sample } from './palette';

const lines = (bytes: Uint8Array): string[] => decodeName(utf8Bytes(bytes)).split(/\r\n|\r|\n/);
const isByte = (v: number) => Number.isInteger(v) && v >= 0 && v <= 255;

/**
 * `.gpl`: a title line, `Name:`, `Columns:` and other fields, then red, green, blue (and alpha, where
 * `Channels: RGBA` says so) and a name on each line; # begins a comment. The title and the names may be
 * missing. Text `.pal` without its header reads the same way. Lines that are no color are passed over and
 * told.
 */
function readColorTable(file: string, bytes: Uint8Array, isTitled: boolean): ReadColors {
  const palette: ReadColors = { colors: [], notes: [] };
  const bad: { text: string; line: number }[] = [];
  let hasTitle = false;
  let hasAlpha = false;
  lines(bytes).forEach((line, i) => {
    const text = line.trim();
    if (!text || text.startsWith('#')) return;
    if (i === 0 && /palette/i.test(text)) {
      hasTitle = true;
      return;
    }
    const field = /^([a-z]+)\s*:\s*(.*)$/i.exec(text);
    if (field) {
      if (field[1]!.toLowerCase() === 'name' && field[2]) palette.name = field[2];
      if (field[1]!.toLowerCase() === 'channels') hasAlpha = /rgba/i.test(field[2]!);
      return;
    }
    const entry = /^(\d+)[\s,;]+(\d+)[\s,;]+(\d+)(?:[\s,;]+(.*))?$/.exec(text);
    const rgb = entry ? ([Number(entry[1]), Number(entry[2]), Number(entry[3])] as const) : null;
    const rest = hasAlpha ? /^(\d+)(?:\s+(.*))?$/.exec(entry?.[4] ?? '') : null;
    const alpha = rest ? Number(rest[1]) : 255;
    if (!rgb?.every(isByte) || !isByte(alpha)) {
      bad.push({ text: text.slice(0, 40), line: i + 1 });
      return;
    }
    const name = (rest ? rest[2] : entry![4])?.trim();
    palette.colors.push({
      color: hexFromRgb(rgb),
      ...(name && name.toLowerCase() !== 'untitled' && { name }),
      ...(alpha < 255 && { alpha: alpha / 255 }),
    });
  });
  if (isTitled && !hasTitle) palette.notes.push('Its title line is missing.');
  const problem = ({ text }: { text: string }) => `“${text}” is not three numbers from 0 to 255.`;
  if (bad.length && !palette.colors.length) throw new FileError(file, problem(bad[0]!), `line ${bad[0]!.line}`);
  for (const b of bad.slice(0, 3)) palette.notes.push(`Line ${b.line} was passed over: ${problem(b)}`);
  if (bad.length > 3) palette.notes.push(`${bad.length - 3} more lines were passed over in the same way.`);
  return palette;
}

/** `.pal` in text: its magic line, a version, a count, and red, green and blue (and perhaps alpha) on each line. */
function readTextPal(file: string, bytes: Uint8Array): ReadColors {
  const [, , count, ...rest] = lines(bytes);
  const announced = Number(count);
  if (!Number.isInteger(announced) || announced < 0) throw new FileError(file, `“${count ?? ''}” is no number of colors.`, 'line 3');
  const colors: PaletteColor[] = [];
  rest.forEach((line, i) => {
    if (!line.trim()) return;
    const values = line
      .trim()
      .split(/[\s,]+/)
      .map(Number);
    if (values.length < 3 || !values.slice(0, 4).every(isByte))
      throw new FileError(file, `“${line.trim().slice(0, 40)}” is not three numbers from 0 to 255.`, `line ${i + 4}`);
    const alpha = values[3] === undefined ? 1 : values[3] / 255;
    colors.push({ color: hexFromRgb([values[0]!, values[1]!, values[2]!]), ...(alpha < 1 && { alpha }) });
  });
  const notes = colors.length === announced ? [] : [`It announces ${announced} colors and holds ${colors.length}.`];
  return { colors, notes };
}

/** `.pal` in RIFF: a `data` chunk with a version, a count, and four bytes a color (the last are flags). */
function readRiff(file: string, bytes: Uint8Array): ReadColors {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const tag = (at: number) => String.fromCharCode(...bytes.subarray(at, at + 4));
  if (bytes.length < 12 || tag(8) !== 'PAL ') throw new FileError(file, 'it is a RIFF file, but no palette.', 'byte 8');
  for (let at = 12; at + 8 <= bytes.length;) {
    const size = view.getUint32(at + 4, true);
    if (tag(at) === 'data') {
      const count = at + 12 <= bytes.length ? view.getUint16(at + 10, true) : 0;
      if (at + 12 + count * 4 > bytes.length)
        throw new FileError(file, `it announces ${count} colors, but the file ends before that.`, `byte ${at + 10}`);
      const colors = Array.from({ length: count }, (_, i) => {
        const c = at + 12 + i * 4;
        return { color: hexFromRgb([bytes[c]!, bytes[c + 1]!, bytes[c + 2]!]) };
      });
      return { colors, notes: [] };
    }
    at += 8 + size + (size % 2);
  }
  throw new FileError(file, 'its part with the colors is missing.');
}

const encode = (text: string[], end: string) => new TextEncoder().encode(text.join(end) + end);

function writeGpl(colors: readonly PaletteColor[], name: string): Uint8Array {
  const clean = (text: string) => text.replace(/[\r\n]+/g, ' ').trim();
  const rows = colors.map(
    ({ color, name: n }) =>
      `${rgbFromHex(color)
        .map((v) => String(v).padStart(3))
        .join(' ')}\t${clean(n ?? '') || 'Untitled'}`,
  );
  return encode(['GIMP Palette', `Name: ${clean(name)}`, 'Columns: 0', '#', ...rows], '\n');
}

/** Opacity as a fourth number, where it is below 1. */
const alphaByte = ({ alpha = 1 }: PaletteColor): number[] => (alpha < 1 ? [Math.round(alpha * 255)] : []);

function writeTextPal(colors: readonly PaletteColor[]): Uint8Array {
  return encode(
    ['JASC-PAL', '0100', String(colors.length), ...colors.map((c) => [...rgbFromHex(c.color), ...alphaByte(c)].join(' '))],
    '\r\n',
  );
}

function writeRiff(colors: readonly PaletteColor[]): Uint8Array {
  const data = 4 + colors.length * 4;
  const out = new Uint8Array(20 + data);
  const view = new DataView(out.buffer);
  const tag = (at: number, text: string) => [...text].forEach((c, i) => (out[at + i] = c.charCodeAt(0)));
  tag(0, 'RIFF');
  view.setUint32(4, out.length - 8, true);
  tag(8, 'PAL data');
  view.setUint32(16, data, true);
  view.setUint16(20, 0x0300, true);
  view.setUint16(22, colors.length, true);
  colors.forEach((c, i) => out.set(rgbFromHex(c.color), 24 + i * 4));
  return out;
}

/** Red, green and blue bytes one after the other, as old games kept them. */
function readRaw(file: string, bytes: Uint8Array): ReadColors {
  if (bytes.length % 3 || bytes.length > 768)
    throw new FileError(
      file,
      'this does not read as a palette: it has no header, and its length is no number of red, green and blue bytes up to 256 colors.',
    );
  const hex = (i: number) => bytes[i]!.toString(16).padStart(2, '0');
  const colors = Array.from({ length: bytes.length / 3 }, (_, i) => ({ color: `#${hex(i * 3)}${hex(i * 3 + 1)}${hex(i * 3 + 2)}` }));
  return { colors, notes: ['It has no header: its bytes were taken as red, green and blue.'] };
}

const isNumbers = ({ text, isText }: Sample) => isText && /^(\s*#[^\n]*\n)*\s*\d{1,3}[ \t,;]+\d{1,3}[ \t,;]+\d{1,3}\b/.test(text);
const isTextPal = (text: string) => text.startsWith('JASC-PAL');

export const gplFormat: PaletteFormat = {
  words: '.gpl, with roles as names',
  extensions: ['gpl'],
  isSurely: ({ text, isText }) => isText && text.startsWith('GIMP Palette'),
  isLikely: isNumbers,
  read: (file, bytes) => readColorTable(file, bytes, true),
  write: writeGpl,
  isOpaque: true,
};

export const textPalFormat: PaletteFormat = {
  words: '.pal, text',
  extensions: ['pal'],
  isSurely: ({ text, isText }) => isText && isTextPal(text),
  isLikely: isNumbers,
  isPossible: ({ text, isText }) => isText && /^[\s\x20-\x7e]*$/.test(text),
  // Without its header it is a list of numbers like any other.
  read: (file, bytes) => (isTextPal(lines(bytes)[0]!) ? readTextPal(file, bytes) : readColorTable(file, bytes, false)),
  write: writeTextPal,
};

export const riffFormat: PaletteFormat = {
  words: '.pal, RIFF',
  extensions: ['pal'],
  isSurely: ({ bytes }) => startsWith(bytes, 'RIFF'),
  isPossible: () => false,
  read: readRiff,
  write: writeRiff,
  isOpaque: true,
};

export const rawFormat: PaletteFormat = { words: '.pal, bytes', extensions: ['pal'], isPossible: () => true, read: readRaw };

/** Three numbers a line under any other name. */
export const numberFormat: PaletteFormat = {
  words: 'Numbers',
  extensions: [],
  isLikely: isNumbers,
  read: (file, bytes) => readColorTable(file, bytes, false),
};
