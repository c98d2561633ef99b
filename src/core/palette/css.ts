import { hexFromRgb } from '../color/hex';
import { decodeName, utf8Bytes } from '../io/text';
import { rgbFromLch, type Rgb } from '../color/oklab';
import type { Palette, PaletteColor } from './paletteFile';

/** Custom properties that are colors: hex, rgb(), hsl() or oklch(). Others are passed over and counted. Source: CSS Color Module Level 4. */
export function readCss(_file: string, bytes: Uint8Array): Palette {
  const text = decodeName(utf8Bytes(bytes)).replace(/\/\*[^]*?\*\//g, '');
  const colors: PaletteColor[] = [];
  let passed = 0;
  for (const [, name, value] of text.matchAll(/--([^\s:;{}]+)\s*:\s*([^;}]+)/g)) {
    const found = parseCssColor(value!.trim());
    if (found) colors.push({ ...found, name: name!.replaceAll('-', ' ') });
    else passed++;
  }
  return { kind: 'css', colors, notes: passed ? [`${passed} properties are not plain colors and were passed over.`] : [] };
}

/** `null` where the text is no color in one of the notations above. */
export function parseCssColor(text: string): { color: string; alpha?: number } | null {
  const hex = /^#([0-9a-f]{8}|[0-9a-f]{6}|[0-9a-f]{3,4})$/i.exec(text)?.[1]?.toLowerCase();
  if (hex) {
    const wide = hex.length < 5 ? [...hex].map((d) => d + d).join('') : hex;
    return withAlpha(`#${wide.slice(0, 6)}`, wide.length === 8 ? Number.parseInt(wide.slice(6), 16) / 255 : 1);
  }
  const call = /^(rgba?|hsla?|oklch)\(([^()]*)\)$/i.exec(text);
  if (!call) return null;
  const parts = call[2]!.trim().split(/[\s,/]+/);
  const value = (i: number, whole: number) => {
    const part = parts[i] ?? '';
    return part.endsWith('%') ? (Number.parseFloat(part) / 100) * whole : Number.parseFloat(part);
  };
  const alpha = parts[3] === undefined ? 1 : value(3, 1);
  const kind = call[1]!.toLowerCase();
  let rgb: Rgb;
  if (kind === 'oklch') rgb = rgbFromLch({ l: value(0, 1), c: value(1, 0.4), h: ((value(2, 360) % 360) + 360) % 360 });
  else if (kind.startsWith('hsl')) rgb = rgbFromHsl(value(0, 360), value(1, 1), value(2, 1));
  else rgb = [value(0, 255), value(1, 255), value(2, 255)];
  if (![...rgb, alpha].every(Number.isFinite)) return null;
  const clamped = rgb.map((v) => Math.max(0, Math.min(255, Math.round(v)))) as unknown as Rgb;
  return withAlpha(hexFromRgb(clamped), Math.max(0, Math.min(1, alpha)));
}

const withAlpha = (color: string, alpha: number) => ({ color, ...(alpha < 1 && { alpha }) });

function rgbFromHsl(h: number, s: number, l: number): Rgb {
  const a = s * Math.min(l, 1 - l);
  const channel = (n: number) => {
    const k = (((n + h / 30) % 12) + 12) % 12;
    return (l - a * Math.max(-1, Math.min(k - 3, 9 - k, 1))) * 255;
  };
  return [channel(0), channel(8), channel(4)];
}

export function writeCss(colors: readonly PaletteColor[]): Uint8Array {
  const names = cssNames(colors);
  return new TextEncoder().encode(`:root {\n${colors.map((c, i) => `  --${names[i]}: ${c.color};`).join('\n')}\n}\n`);
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
