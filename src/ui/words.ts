const whole = new Intl.NumberFormat('en');

export const number = (n: number): string => whole.format(n);

/** "1 face", "12 faces". */
export const count = (n: number, one: string, many = `${one}s`): string => `${number(n)} ${n === 1 ? one : many}`;

export function bytes(n: number): string {
  if (n < 1000) return `${n} B`;
  if (n < 1_000_000) return `${(n / 1000).toFixed(n < 10_000 ? 1 : 0)} KB`;
  return `${(n / 1_000_000).toFixed(1)} MB`;
}

/** Metres with three significant digits. */
export const metres = (m: number): string => `${Number(m.toPrecision(3))} m`;
