import { longestVariantName } from '../ground/limits';
import type { Kit } from './kit';

/** Names that differ in case or in spaces around them alone would be one file on many disks. */
export const isSameName = (a: string, b: string): boolean => a.trim().toLowerCase() === b.trim().toLowerCase();

/**
 * Why a variant cannot have a name; `null` where it can. `own`: the variant that would have it. A name becomes
 * part of file names and of other programs' lists, so it must be writable as one.
 */
export function problemOfName({ variants }: Pick<Kit, 'variants'>, name: string, own?: string): string | null {
  const wanted = name.trim();
  if (!wanted) return 'Give it a name.';
  if (wanted.length > longestVariantName) return `A name has at most ${longestVariantName} characters.`;
  if (isSameName(wanted, 'default')) return '“default” is what the coloring without a variant is called.';
  const other = variants.find((v) => v.id !== own && isSameName(v.name, wanted));
  if (other) return `“${other.name}” is there already.`;
  const bad = /[\\/:*?"<>|\u0000-\u001f]/.exec(wanted);
  if (bad) return `“${bad[0]}” cannot stand in a file name.`;
  if (/^\.|\.$/.test(wanted)) return 'A file name cannot begin or end with a dot.';
  if (/^(con|prn|aux|nul|com\d|lpt\d)$/i.test(wanted)) return `“${wanted}” cannot be the name of a file on some machines.`;
  return null;
}
