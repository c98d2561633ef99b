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
export function uniqueNames(names: readonly string[]): string[] {
  const taken = new Set<string>();
  return names.map((name) => {
    let candidate = name;
    for (let n = 2; taken.has(candidate.toLowerCase()); n++) candidate = `${name}-${n}`;
    taken.add(candidate.toLowerCase());
    return candidate;
  });
}
