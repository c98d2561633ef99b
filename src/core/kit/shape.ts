/** The shape that a plain value must have: what it is, and within which bounds. */
export type Shape =
  | { is: 'text'; least: number; most: number }
  /** Letters and digits as a pattern has them, none of some words. */
  | { is: 'sign'; like: RegExp; not: readonly string[]; or: readonly (string | null)[] }
  | {
      is: 'number';
      least: number;
      most: number;
      whole: boolean;
      /** Only what is above `least`, or below `most`. */
      above?: true;
      below?: true;
    }
  | { is: 'one'; of: readonly (string | number | boolean)[] }
  | { is: 'list'; of: Shape; least: number; most: number }
  | { is: 'fields'; fields: Readonly<{ [name in string]: Shape }>; maybe: ReadonlySet<string> }
  /** Entries by numbers. */
  | { is: 'table'; like: RegExp; not: readonly string[]; of: Shape; most: number }
  | { is: 'either'; of: readonly Shape[] };

/** A field that need not be there. */
type Maybe = { maybe: Shape };

export const text = (most: number, least = 0): Shape => ({ is: 'text', least, most });
export const sign = (like: RegExp, { not = [], or = [] }: { not?: readonly string[]; or?: readonly (string | null)[] } = {}): Shape => ({
  is: 'sign',
  like,
  not,
  or,
});
export const number = (least: number, most: number, open: { above?: true; below?: true } = {}): Shape => ({
  is: 'number',
  least,
  most,
  whole: false,
  ...open,
});
export const whole = (least: number, most: number = Number.MAX_SAFE_INTEGER): Shape => ({ is: 'number', least, most, whole: true });
export const one = (...of: readonly (string | number | boolean)[]): Shape => ({ is: 'one', of });
export const yesOrNo = one(true, false);
export const list = (of: Shape, most: number, least = 0): Shape => ({ is: 'list', of, least, most });
export const table = (like: RegExp, of: Shape, most: number, not: readonly string[] = []): Shape => ({ is: 'table', like, of, most, not });
export const either = (...of: readonly Shape[]): Shape => ({ is: 'either', of });
export const maybe = (shape: Shape): Maybe => ({ maybe: shape });

export function fields(of: Readonly<{ [name in string]: Shape | Maybe }>): Shape {
  const entries = Object.entries(of);
  return {
    is: 'fields',
    fields: Object.fromEntries(
      entries.map(([name, shape]) => [name, 'maybe' in shape && !('is' in shape) ? shape.maybe : (shape as Shape)]),
    ),
    maybe: new Set(entries.flatMap(([name, shape]) => ('is' in shape ? [] : [name]))),
  };
}

/**
 * Where a value of ours goes past a bound of its shape, in words (“64 steps at most, not 65”); `null` where it stays
 * within. What kind of values it holds is not looked at: the compiler has.
 */
export function pastBounds(shape: Shape, value: unknown, name = ''): string | null {
  const inWords = name ? `its ${name}` : 'it';
  switch (shape.is) {
    case 'text':
      return typeof value === 'string' && value.length > shape.most ? `${inWords} may have ${many(shape.most)} characters` : null;
    case 'number': {
      if (typeof value !== 'number') return null;
      const { least, most, above, below } = shape;
      const isIn =
        (above ? value > least : value >= least) && (below ? value < most : value <= most) && (!shape.whole || Number.isInteger(value));
      return isIn
        ? null
        : `${inWords} is ${value}, and can be ${shape.whole ? 'a whole number ' : ''}from ${least} to ${below ? 'below ' : ''}${many(most)}`;
    }
    case 'list': {
      if (!Array.isArray(value)) return null;
      if (value.length < shape.least) return `${inWords} would be ${value.length}, and there must be ${shape.least}`;
      if (value.length > shape.most) return `${inWords} would be ${many(value.length)}, and ${many(shape.most)} can be kept`;
      return first(value, (entry) => pastBounds(shape.of, entry, name));
    }
    case 'table':
      return typeof value === 'object' && value !== null ? first(Object.values(value), (entry) => pastBounds(shape.of, entry, name)) : null;
    case 'fields':
      return typeof value === 'object' && value !== null
        ? first(Object.entries(value), ([key, own]) => (shape.fields[key] ? pastBounds(shape.fields[key], own, key) : null))
        : null;
    case 'either': {
      const meant = shape.of.find((s) => isMeant(s, value));
      return meant ? pastBounds(meant, value, name) : null;
    }
    default:
      return null;
  }
}

/** Whether a value says of itself that it is of a kind. */
function isMeant(shape: Shape, value: unknown): boolean {
  if (shape.is !== 'fields' || typeof value !== 'object' || value === null) return false;
  const { kind } = shape.fields;
  return kind?.is === 'one' && kind.of.includes((value as { kind: string }).kind);
}

function first<T>(list: readonly T[], look: (entry: T) => string | null): string | null {
  for (const entry of list) {
    const found = look(entry);
    if (found) return found;
  }
  return null;
}

const many = (n: number): string => n.toLocaleString('en');
