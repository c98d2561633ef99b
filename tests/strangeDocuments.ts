import { machineNames } from '@/core/ground/byId';
import { longestText, mostCellIds, mostIn } from '@/core/ground/limits';

type Random = (bound: number) => number;
type Tree = { [key: string]: unknown } | unknown[];

/**
 * A document like a good one, with one to three things in it that are whole JSON and yet wrong: an id that is another's,
 * or the name of an object's machinery; a reference to nothing; an entry twice; another kind of value; a number at a limit
 * or past it; a list or text of a length at a limit or past it; a field too many; deep nesting.
 */
export function strangeDocument(good: unknown, random: Random): unknown {
  const document = structuredClone(good);
  const values = placesIn(good).map(([of, key]) => (of as never)[key] as unknown);
  for (let n = 1 + (random(4) ? 0 : random(3)); n > 0; n--) {
    const places = placesIn(document as Tree);
    const [of, key] = places[random(places.length)]!;
    change(of, key, values, random);
  }
  return document;
}

/** Every value, by what holds it and under which key. */
function placesIn(value: unknown, out: [of: Tree, key: string | number][] = []): [of: Tree, key: string | number][] {
  if (typeof value !== 'object' || value === null) return out;
  const keys = Array.isArray(value) ? value.keys() : Object.keys(value);
  for (const key of keys) {
    out.push([value as Tree, key]);
    placesIn((value as never)[key], out);
  }
  return out;
}

function change(of: Tree, key: string | number, values: readonly unknown[], random: Random): void {
  const value: unknown = (of as never)[key];
  const define = (name: string | number, to: unknown) =>
    void Object.defineProperty(of, name, { value: to, enumerable: true, configurable: true, writable: true });
  const set = (to: unknown) => define(key, to);
  const among = <T>(list: readonly T[]): T => list[random(list.length)]!;
  const alike = () => structuredClone(among(values.filter((v) => typeof v === typeof value)));
  // Most are of the right kind, so that it is what they say that is looked at.
  switch (random(12)) {
    case 0:
      return set(structuredClone(among(values)));
    case 1:
      return set(among([null, [], {}, true, '', NaN]));
    case 2:
      return define(among(machineNames), alike());
    case 3: {
      let deep: unknown = 1;
      for (let n = among([40, 800]); n > 0; n--) deep = random(2) ? [deep] : { a: deep };
      return set(deep);
    }
  }
  if (typeof value === 'string') return set(random(3) ? alike() : among([...machineNames, 'nobody', 'x'.repeat(longestText + random(2))]));
  if (typeof value === 'number') return set(random(3) ? alike() : among(edges));
  if (!Array.isArray(value)) return Array.isArray(of) ? void of.splice(Number(key), random(2), value, alike()) : set(alike());
  const entry = value[0] as unknown;
  const most = Math.min(3000, among(Object.values(mostIn))) + random(2);
  set(random(2) ? [...(value as unknown[]), ...(value as unknown[])] : Array.from({ length: most }, () => structuredClone(entry)));
}

const edges = [0, -1, 0.5, 1e-320, 1e308, 2 ** 31, 2 ** 53, mostCellIds, mostCellIds + 1, mostCellIds + 2, 4096, 4097];
