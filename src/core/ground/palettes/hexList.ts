import { FileError } from '../bytes/errors';
import { decodeName, utf8Bytes } from '../bytes/text';
import { hexWithAlpha } from './css';
import type { PaletteColor, PaletteFormat, ReadColors } from './palette';

/**
 * Colors in 3, 4, 6 or 8 hex digits, with or without #, and perhaps a name behind it, or before one that has its sign. `;`, `//` and a # that
 * begins no color begin comments. Eight digits are red, green, blue, alpha; where every entry begins with ff
 * and not every one ends so, alpha comes first, as some programs write it.
 */
function readHexList(file: string, bytes: Uint8Array): ReadColors {
  const entries: { digits: string; name: string }[] = [];
  decodeName(utf8Bytes(bytes))
    .split(/\r\n|\r|\n/)
    .forEach((line, i) => {
      const text = line.trim();
      if (!text || text.startsWith(';') || text.startsWith('//')) return;
      const several = colorsOfLine(text);
      if (several) {
        for (const digits of several) entries.push({ digits, name: '' });
        return;
      }
      const found = /^(?:#|0x)?([0-9a-f]{8}|[0-9a-f]{6}|[0-9a-f]{3,4})(?:[\s,;]+(.*))?$/i.exec(text);
      const nameFirst = /^(.*\S)[\s,;:=]+(?:#|0x)([0-9a-f]{8}|[0-9a-f]{6})[;,]?$/i.exec(text);
      if (found) entries.push({ digits: found[1]!.toLowerCase(), name: found[2]?.trim() ?? '' });
      else if (nameFirst)
        entries.push({ digits: nameFirst[2]!.toLowerCase(), name: nameFirst[1]!.replace(/[\s,;:="]+$/, '').replace(/^"/, '') });
      else if (!text.startsWith('#')) throw new FileError(file, `“${text.slice(0, 40)}” is no color in hex digits.`, `line ${i + 1}`);
    });
  const long = entries.filter((e) => e.digits.length === 8);
  const alphaFirst = long.length > 0 && long.every((e) => e.digits.startsWith('ff')) && !long.every((e) => e.digits.endsWith('ff'));
  const colors = entries.map(({ digits, name }): PaletteColor => {
    const wide = digits.length < 5 ? [...digits].map((d) => d + d).join('') : digits;
    const color = alphaFirst && wide.length === 8 ? wide.slice(2) : wide.slice(0, 6);
    const alpha = wide.length === 8 ? Number.parseInt(alphaFirst ? wide.slice(0, 2) : wide.slice(6), 16) / 255 : 1;
    return { color: `#${color}`, ...(name && { name }), ...(alpha < 1 && { alpha }) };
  });
  return { colors, notes: [] };
}

/**
 * Several colors in one line: parted by commas or semicolons, or each with its sign or of 6 or 8 digits, so
 * that none can be a name.
 */
function colorsOfLine(text: string): string[] | null {
  const words = text.split(/[\s,;]+/).filter(Boolean);
  const digits = words.map((w) => /^(?:#|0x)?([0-9a-f]{8}|[0-9a-f]{6}|[0-9a-f]{3,4})$/i.exec(w)?.[1]?.toLowerCase());
  if (words.length < 2 || digits.some((d) => d === undefined)) return null;
  const isCertain = /[,;]/.test(text) || words.every((w, i) => /^(#|0x)/i.test(w) || digits[i]!.length >= 6);
  return isCertain ? (digits as string[]) : null;
}

const writeHexList = (colors: readonly PaletteColor[]): Uint8Array =>
  new TextEncoder().encode(colors.map((c) => hexWithAlpha(c).slice(1)).join('\n') + '\n');

export const hexFormat: PaletteFormat = {
  words: '.hex list',
  extensions: ['hex', 'txt'],
  isLikely: ({ text, isText }) =>
    isText &&
    /^(\s*[;#/][^\n]*\n)*\s*((#|0x)?([0-9a-f]{8}|[0-9a-f]{6})[\s,;]|[^\n{}<>]*[\s,;:=](#|0x)([0-9a-f]{8}|[0-9a-f]{6})[;,]?\s*\n)/i.test(
      `${text}\n`,
    ),
  read: readHexList,
  write: writeHexList,
};
