import type { Adjacency } from './adjacency';

/** Some faces by the part that they belong to, the parts with the most of them first. */
export function facesByPart({ part }: Pick<Adjacency, 'part'>, faces: Iterable<number>): { part: number; faces: Uint32Array }[] {
  const lists = new Map<number, number[]>();
  for (const f of faces) {
    const list = lists.get(part[f]!);
    if (list) list.push(f);
    else lists.set(part[f]!, [f]);
  }
  return [...lists].map(([p, list]) => ({ part: p, faces: Uint32Array.from(list) })).sort((p, q) => q.faces.length - p.faces.length);
}
