/** The name, or with a number behind it the first that is not taken. */
export function freeName(name: string, taken: readonly string[]): string {
  let candidate = name;
  for (let n = 2; taken.includes(candidate); n++) candidate = `${name} ${n}`;
  return candidate;
}
