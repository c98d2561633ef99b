import { lchFromRgb, rgbFromLch, type Lch, type Rgb } from './oklab';

/** `#rrggbb` in lower case: how a color is kept in a kit. */
export type Hex = string;

/** Of whole numbers from 0 to 255. */
export function hexFromRgb(rgb: Rgb): Hex {
  return '#' + rgb.map((v) => v.toString(16).padStart(2, '0')).join('');
}

/**
 * Red, green and blue, 0 to 255. Colors of a kit are validated when they come in, so a malformed one here is
 * a programming error, and throws.
 */
export function rgbFromHex(hex: Hex): Rgb {
  const n = Number.parseInt(hex.slice(1), 16);
  if (hex.length !== 7 || Number.isNaN(n)) throw new Error(`“${hex}” is not a color like #b5463a.`);
  return [n >> 16, (n >> 8) & 255, n & 255];
}

/** Reads what an artist types: with or without #, three or six digits. `null` where it is no color. */
export function parseHex(text: string): Hex | null {
  const digits = text.trim().replace(/^#/, '').toLowerCase();
  if (/^[0-9a-f]{6}$/.test(digits)) return `#${digits}`;
  if (/^[0-9a-f]{3}$/.test(digits)) return '#' + [...digits].map((d) => d + d).join('');
  return null;
}

/** By way of OKLab; see `oklab.ts` for ranges. What sRGB cannot show loses chroma, and keeps lightness and hue. */
export const lchFromHex = (hex: Hex): Lch => lchFromRgb(rgbFromHex(hex));
export const hexFromLch = (lch: Lch): Hex => hexFromRgb(rgbFromLch(lch));
