const whole = new Intl.NumberFormat('en');

export const number = (n: number): string => whole.format(n);

/** "1 face", "12 faces". */
export const count = (n: number, one: string, many = `${one}s`): string => `${number(n)} ${n === 1 ? one : many}`;
