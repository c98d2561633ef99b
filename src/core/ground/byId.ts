declare const made: unique symbol;
declare class Made {
  private readonly [made]: true;
}

/**
 * A table by ids that may come from outside: an object without a prototype, so that no id (`__proto__`, `constructor`)
 * means anything but an entry, or none. Only the functions here make one; a spread or literal is none, as the compiler
 * tells. What storage or a worker hands on has a prototype again: such ids are none of `machineNames`.
 */
export type ById<T> = { readonly [id: string]: T } & Made;

type Entries<T> = Iterable<readonly [string, T]>;

/** A table of what is told by id; of an id that comes twice the last counts. */
export function byId<T>(from?: Entries<T>): ById<T>;
export function byId<const T extends { readonly [id: string]: unknown }>(from: T): T & ById<T[string & keyof T]>;
export function byId<T>(from: Entries<T> | { readonly [id: string]: T } = []): ById<T> {
  const table = Object.create(null) as { [id: string]: T };
  for (const [id, value] of Symbol.iterator in from ? (from as Entries<T>) : Object.entries(from)) table[id] = value;
  return table as ById<T>;
}

/** The same with an entry, instead of that of this id where there is one; `undefined` takes it away. */
export function withId<T>(table: ById<T>, id: string, value: T | undefined): ById<T> {
  const next = byId<T>(Object.entries(table)) as { [id: string]: T };
  if (value === undefined) delete next[id];
  else next[id] = value;
  return next as ById<T>;
}

/** One table after the other: what both have is the second's. */
export const joined = <T>(a: ById<T>, b: ById<T>): ById<T> => byId<T>([...Object.entries(a), ...Object.entries(b)]);

/** Names of an object's own machinery, which are no ids. */
export const machineNames: readonly string[] = ['__proto__', 'prototype', ...Object.getOwnPropertyNames(Object.prototype)];
