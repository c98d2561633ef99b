import { FileError } from '../io/errors';
import { decodeName, utf8Bytes } from '../io/text';
import { cssNames, parseCssColor } from './css';
import { hexFromRgb } from '../color/hex';
import type { Palette, PaletteColor } from './paletteFile';

type Json = null | boolean | number | string | Json[] | { [key: string]: Json };

/**
 * Colors of JSON design tokens (`$value` with `$type` color, or the older `value`), in groups of any depth; plain lists and objects of color
 * strings are read too. Aliases to other tokens are passed over and counted. Source: Design Tokens Format Module (Community Group draft).
 */
export function readTokens(file: string, bytes: Uint8Array): Palette {
  let json: Json;
  try {
    json = JSON.parse(decodeName(utf8Bytes(bytes))) as Json;
  } catch (error) {
    throw new FileError(file, `it is not JSON (${error instanceof Error ? error.message : String(error)}).`);
  }
  const palette: Palette = { kind: 'tokens', colors: [], notes: [] };
  let passed = 0;
  walk(json, [], 0);
  if (passed) palette.notes.push(`${passed} tokens are not plain colors and were passed over.`);
  return palette;

  function walk(value: Json, path: string[], depth: number): void {
    if (depth > 32) throw new FileError(file, 'its groups are nested more than 32 deep.');
    if (typeof value === 'string') {
      take(value, path);
      return;
    }
    if (typeof value !== 'object' || value === null) return;
    if (Array.isArray(value)) {
      value.forEach((v) => walk(v, path, depth + 1));
      return;
    }
    const token = value.$value ?? (typeof value.value === 'string' ? value.value : undefined);
    if (token !== undefined) {
      take(token, path);
      return;
    }
    for (const [key, child] of Object.entries(value)) if (!key.startsWith('$')) walk(child, [...path, key], depth + 1);
  }

  function take(value: Json, path: string[]): void {
    const found = typeof value === 'string' ? parseCssColor(value.trim()) : colorObject(value);
    if (found) palette.colors.push({ ...found, ...(path.length && { name: path.join(' ').replaceAll('-', ' ') }) });
    else passed++;
  }
}

function colorObject(value: Json): { color: string; alpha?: number } | null {
  if (typeof value !== 'object' || value === null || Array.isArray(value)) return null;
  const alpha = typeof value.alpha === 'number' && value.alpha < 1 ? { alpha: Math.max(0, value.alpha) } : {};
  if (typeof value.hex === 'string') {
    const found = parseCssColor(value.hex);
    return found && { ...found, ...alpha };
  }
  const { components } = value;
  if (
    value.colorSpace !== 'srgb' ||
    !Array.isArray(components) ||
    components.length < 3 ||
    !components.slice(0, 3).every((c) => typeof c === 'number')
  )
    return null;
  const bytes = (components as number[]).slice(0, 3).map((v) => Math.max(0, Math.min(255, Math.round(v * 255))));
  return { color: hexFromRgb([bytes[0]!, bytes[1]!, bytes[2]!]), ...alpha };
}

export function writeTokens(colors: readonly PaletteColor[], name: string): Uint8Array {
  const names = cssNames(colors);
  const group = Object.fromEntries(colors.map((c, i) => [names[i]!, { $value: c.color }]));
  return new TextEncoder().encode(JSON.stringify({ [cssNames([{ color: '', name }])[0]!]: { $type: 'color', ...group } }, null, 2) + '\n');
}
