/**
 * A plain value with the keys of its objects sorted, so that what is equal is written as the same text, however it came
 * to be. Numbers that are keys come first and ascend, as the language has it.
 */
export function inOneOrder<T>(value: T): T {
  if (Array.isArray(value)) return value.map((v: unknown) => inOneOrder(v)) as T;
  if (typeof value !== 'object' || value === null) return value;
  const sorted = Object.entries(value).sort(([a], [b]) => (a < b ? -1 : 1));
  return Object.fromEntries(sorted.map(([key, v]) => [key, inOneOrder(v as unknown)])) as T;
}
