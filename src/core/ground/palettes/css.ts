import { converter, inGamut, parse, toGamut } from 'culori';
import { hexFromRgb } from '../color/hex';
import { decodeName, utf8Bytes } from '../bytes/text';
import type { PaletteColor, PaletteFormat, ReadColors } from './palette';

/**
 * Custom properties that are colors, in any notation of CSS. Others are passed over and counted. Source: CSS
 * Color Module Level 4.
 */
function readCss(_file: string, bytes: Uint8Array): ReadColors {
  const colors: PaletteColor[] = [];
  let passed = 0;
  for (const declaration of withoutComments(decodeName(utf8Bytes(bytes))).split(/[;{}]/)) {
    const text = declaration.trim();
    const colon = text.indexOf(':');
    if (!text.startsWith('--') || colon < 3) continue;
    const found = parseCssColor(text.slice(colon + 1).replace(/!important\s*$/, ''));
    if (found) colors.push({ ...found, name: text.slice(2, colon).trim().replaceAll('-', ' ') });
    else passed++;
  }
  return { colors, notes: passed ? [`${passed} properties are not plain colors and were passed over.`] : [] };
}

function withoutComments(text: string): string {
  const kept: string[] = [];
  for (let at = 0; ;) {
    const start = text.indexOf('/*', at);
    kept.push(text.slice(at, start < 0 ? undefined : start));
    const end = start < 0 ? -1 : text.indexOf('*/', start + 2);
    if (end < 0) return kept.join(' ');
    at = end + 2;
  }
}

const [toRgb, isShown, intoSrgb] = [converter('rgb'), inGamut('rgb'), toGamut('rgb', 'oklch')];

/**
 * A color in any notation of CSS: names, hex, rgb(), hsl(), hwb(), lab(), lch(), oklab(), oklch(), color().
 * What sRGB cannot show loses chroma. `null` where it is no color.
 */
export function parseCssColor(text: string): { color: string; alpha?: number } | null {
  const clean = text.trim();
  // A bare number is none, though the parser takes hex without its sign.
  if (/^[0-9a-f]*$/i.test(clean) && /\d/.test(clean)) return null;
  if (clean.length > 200) return null;
  const parsed = parse(clean.toLowerCase());
  if (!parsed) return null;
  const rgb = toRgb(parsed);
  const { r, g, b, alpha } = parsed.mode === 'rgb' || isShown(rgb) ? rgb : intoSrgb(parsed);
  // A hair more than the half, so that exact halves round alike in every notation.
  const byte = (v: number | undefined) => Math.max(0, Math.min(255, Math.round((v ?? 0) * 255 + 1e-6))) || 0;
  const opacity = Math.max(0, Math.min(1, alpha ?? 1));
  return { color: hexFromRgb([byte(r), byte(g), byte(b)]), ...(opacity < 1 && { alpha: opacity }) };
}

/** `#rrggbb`, and two digits of opacity where it is below 1. */
export const hexWithAlpha = ({ color, alpha = 1 }: PaletteColor): string =>
  color +
  (alpha < 1
    ? Math.round(alpha * 255)
        .toString(16)
        .padStart(2, '0')
    : '');

function writeCss(colors: readonly PaletteColor[]): Uint8Array {
  const names = cssNames(colors);
  return new TextEncoder().encode(`:root {\n${colors.map((c, i) => `  --${names[i]}: ${hexWithAlpha(c)};`).join('\n')}\n}\n`);
}

/** Names for properties and tokens: letters, digits and dashes, each once. */
export function cssNames(colors: readonly PaletteColor[]): string[] {
  const taken = new Set<string>();
  return colors.map(({ name }, i) => {
    const word = (name ?? '')
      .toLowerCase()
      .replace(/[^\p{L}\p{N}]+/gu, '-')
      .replace(/^-+|-+$/g, '');
    // A name that is a number would be sorted before the others in JSON.
    const base = /^\p{L}/u.test(word) ? word : `color-${word || i + 1}`;
    let free = base;
    for (let n = 2; taken.has(free); n++) free = `${base}-${n}`;
    taken.add(free);
    return free;
  });
}

export const cssFormat: PaletteFormat = {
  words: 'CSS custom properties',
  extensions: ['css'],
  isLikely: ({ text, isText }) => isText && /^\s*(\/\*|:root|[.#]?[a-z][\w-]*\s*\{)/i.test(text) && text.includes('--'),
  read: readCss,
  write: writeCss,
};
