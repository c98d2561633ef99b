import { extensionOf, stemOf } from './text';

const reserved = /^(con|prn|aux|nul|(com|lpt)[\d¹²³])$/i;

/**
 * A file name without extension that every file system takes: letters, digits, dots, dashes and underscores;
 * at most 80 characters.
 */
export function safeName(name: string, fallback = 'model'): string {
  const safe = name
    .normalize('NFC')
    .replace(/[^\p{L}\p{N}._-]+/gu, '-')
    .replace(/-{2,}/g, '-')
    .replace(/^[-.]+|[-.]+$/g, '');
  const short = [...safe].slice(0, 80).join('');
  if (!short) return fallback;
  return reserved.test(short.split('.')[0]!) ? `${short.split('.')[0]}-${fallback}` : short;
}

/** The same for a file with its extension. */
export function safeFile(file: string, fallback: string): string {
  const extension = extensionOf(file);
  return safeName(stemOf(file), fallback) + (extension && `.${extension}`);
}

/** A name as one line of text shows it: without what controls, such as ends of lines. */
export const printable = (name: string): string => name.replace(/[\p{Cc}\p{Cs}\u2028\u2029]+/gu, ' ').trim();

/**
 * A name as one word of a file of lines: no space, nothing that begins a comment, and no backslash at the
 * end, which would join the next line to it.
 */
export const lineWord = (name: string): string =>
  printable(name)
    .replace(/\s+/g, '_')
    .replace(/^#+|\\+$/g, '') || 'unnamed';

/** Names that stay apart on a file system that does not tell upper from lower case. */
export function uniqueNames(names: readonly string[], between = '-'): string[] {
  const given = new NamesOnce(between);
  return names.map((name, i) => given.of(i, name));
}

/** Gives each thing a name of its own, the same one whenever it is asked again. */
export class NamesOnce<Key> {
  private readonly taken = new Set<string>();
  private readonly known = new Map<Key, string>();
  constructor(private readonly between = '-') {}

  of(key: Key, wanted: string): string {
    const known = this.known.get(key);
    if (known !== undefined) return known;
    let name = wanted;
    // The number of a second file goes before its extension.
    const [, stem, extension] = (this.between === '-' && /^(.+)(\.[a-z0-9]{1,5})$/i.exec(wanted)) || [wanted, wanted, ''];
    for (let n = 2; this.taken.has(name.toLowerCase()); n++) name = `${stem}${this.between}${n}${extension}`;
    this.taken.add(name.toLowerCase());
    this.known.set(key, name);
    return name;
  }
}
