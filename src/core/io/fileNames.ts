const reserved = /^(con|prn|aux|nul|com\d|lpt\d)$/i;

/** A file name without extension that every file system takes: letters, digits, dots, dashes and underscores; at most 80 characters. */
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
    for (let n = 2; this.taken.has(name.toLowerCase()); n++) name = `${wanted}${this.between}${n}`;
    this.taken.add(name.toLowerCase());
    this.known.set(key, name);
    return name;
  }
}
