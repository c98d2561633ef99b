import { FileError } from '../bytes/errors';
import { decodeName, utf8Bytes } from '../bytes/text';
import { cssNames, hexWithAlpha, parseCssColor } from './css';
import type { PaletteColor, PaletteFormat, ReadColors } from './palette';

// eslint-disable-next-line tables/no-open-records -- what a file says: read by names of ours alone
type Json = null | boolean | number | string | Json[] | { [key: string]: Json };

/**
 * Colors of JSON design tokens (`$value` with `$type` color, or the older `value`), in groups of any depth;
 * plain lists and objects of color strings are read too, and aliases (`{group.name}`) followed. What is no
 * color is passed over and counted. Source: Design Tokens Format Module (Community Group draft).
 */
function readTokens(file: string, bytes: Uint8Array): ReadColors {
  let json: Json;
  try {
    json = JSON.parse(decodeName(utf8Bytes(bytes))) as Json;
  } catch {
    throw new FileError(file, 'it is not JSON: a bracket, comma or quotation mark is missing or out of place.');
  }
  const found: { value: Json; path: string[] }[] = [];
  walk(json, [], 0);
  const byPath = new Map(found.map((t) => [t.path.join('.'), t.value]));
  const palette: ReadColors = { colors: [], notes: [] };
  for (const { value, path } of found) {
    const color = colorOf(followed(value, byPath));
    if (color) palette.colors.push({ ...color, ...(path.length && { name: path.join(' ').replaceAll('-', ' ') }) });
  }
  const passed = found.length - palette.colors.length;
  if (passed) palette.notes.push(`${passed} tokens are not plain colors and were passed over.`);
  return palette;

  function walk(value: Json, path: string[], depth: number): void {
    if (depth > 32) throw new FileError(file, 'its groups are nested more than 32 deep.');
    if (typeof value === 'string') {
      found.push({ value, path });
      return;
    }
    if (typeof value !== 'object' || value === null) return;
    if (Array.isArray(value)) {
      value.forEach((v) => walk(v, path, depth + 1));
      return;
    }
    const token = value.$value ?? (typeof value.value === 'string' ? value.value : undefined);
    if (token !== undefined) {
      found.push({ value: token, path });
      return;
    }
    for (const [key, child] of Object.entries(value)) if (!key.startsWith('$')) walk(child, [...path, key], depth + 1);
  }
}

/** The value that an alias stands for at the end of its chain; aliases in a circle stand for nothing. */
function followed(value: Json, byPath: ReadonlyMap<string, Json>): Json {
  for (let steps = 0; steps < 32; steps++) {
    const path = typeof value === 'string' ? /^\{([^{}]+)\}$/.exec(value.trim())?.[1] : undefined;
    if (path === undefined) return value;
    value = byPath.get(path) ?? byPath.get(path.replace(/\.value$/, '')) ?? null;
  }
  return null;
}

/** How the components of each color space of the format stand in CSS. */
const notations = new Map<unknown, (c: string[]) => string>([
  ['hsl', ([h, s, l]) => `hsl(${h} ${percent(s!)} ${percent(l!)}`],
  ['hwb', ([h, w, b]) => `hwb(${h} ${percent(w!)} ${percent(b!)}`],
  ...['lab', 'lch', 'oklab', 'oklch'].map((space) => [space, (c: string[]) => `${space}(${c.join(' ')}`] as const),
  ...['srgb', 'srgb-linear', 'display-p3', 'a98-rgb', 'prophoto-rgb', 'rec2020', 'xyz-d65', 'xyz-d50'].map(
    (space) => [space, (c: string[]) => `color(${space} ${c.join(' ')}`] as const,
  ),
]);
const percent = (value: string) => (value === 'none' ? value : `${value}%`);

function colorOf(value: Json): { color: string; alpha?: number } | null {
  if (typeof value === 'string') return parseCssColor(value);
  if (typeof value !== 'object' || value === null || Array.isArray(value)) return null;
  const { hex, components, colorSpace, alpha } = value;
  const write = notations.get(colorSpace);
  if (write && Array.isArray(components) && components.length >= 3) {
    const parts = components.slice(0, 3);
    if (!parts.every((c) => typeof c === 'number' || c === 'none')) return null;
    return parseCssColor(`${write(parts.map(String))} / ${typeof alpha === 'number' ? alpha : 1})`);
  }
  const found = typeof hex === 'string' ? parseCssColor(hex) : null;
  return found && { ...found, ...(typeof alpha === 'number' && alpha < 1 && { alpha: Math.max(0, alpha) }) };
}

function writeTokens(colors: readonly PaletteColor[], name: string): Uint8Array {
  const names = cssNames(colors);
  const group = Object.fromEntries(colors.map((c, i) => [names[i]!, { $value: hexWithAlpha(c) }]));
  return new TextEncoder().encode(JSON.stringify({ [cssNames([{ color: '', name }])[0]!]: { $type: 'color', ...group } }, null, 2) + '\n');
}

export const tokenFormat: PaletteFormat = {
  words: 'JSON design tokens',
  extensions: ['json'],
  isLikely: ({ text, isText }) => isText && /^\s*[[{]\s*["[{\]}]/.test(text),
  read: readTokens,
  write: writeTokens,
};
