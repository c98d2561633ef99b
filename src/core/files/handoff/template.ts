import type { ById } from '../../ground/byId';
import { longestPath } from '../../ground/limits';
import type { HandOff } from '../../kit/kit';
import { safeName } from '../../ground/bytes/fileNames';

export type Fields = ById<string | number>;

const inBraces = /\{([^{}]*)\}/g;

/** Fields that a template names and that are not among these. */
export const unknownFields = (template: string, known: readonly string[]): string[] =>
  [...template.matchAll(inBraces)].map((m) => m[1]!).filter((name) => !known.includes(name));

/** A template with its fields filled in; what is not known stays as it is. */
export const filled = (template: string, fields: Fields): string =>
  template.replace(inBraces, (whole, name: string) => (name in fields ? String(fields[name]) : whole));

/** A name as it stands in paths: what every file system takes, in the hand-off's letters. */
export function nameInPath(name: string, { letters, between }: Pick<HandOff, 'letters' | 'between'>): string {
  // “Keeper’s” is one word.
  const safe = safeName(name.replace(/['’]/g, '')).replaceAll('-', between);
  return (letters === 'small' ? safe.toLowerCase() : safe) || 'unnamed';
}

const forbidden = /[<>:"|?*\\\p{Cc}]/u;
const reserved = /^(con|prn|aux|nul|(com|lpt)\d)(\.|$)/i;

/** Why a path cannot be written on every system; empty where it can. */
export function pathProblem(path: string): string {
  const [field] = [...path.matchAll(inBraces)];
  if (field) return `there is no field “${field[1]}” here.`;
  if (path.length > longestPath) return `it is longer than ${longestPath} letters.`;
  for (const part of path.split('/')) {
    if (!part) return 'a folder or file in it has no name.';
    if (part === '.' || part === '..') return 'it leads out of what leaves.';
    const problem = nameProblem(part);
    if (problem) return problem;
  }
  return '';
}

/** Why some file system does not take a name as it is; empty where all do. */
export function nameProblem(part: string): string {
  const sign = forbidden.exec(part)?.[0] ?? (part.includes('/') ? '/' : undefined);
  if (sign) return /\p{Cc}/u.test(sign) ? 'it holds a letter that cannot be seen.' : `“${sign}” is not allowed in names.`;
  if (reserved.test(part)) return `“${part}” is a name that some systems keep for themselves.`;
  return /[. ]$/.test(part) ? `“${part}” ends with a dot or space, which some systems drop.` : '';
}
