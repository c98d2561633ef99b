import type { Adjacency } from '../mesh/adjacency';

/** Corners at each point: `corners[start[p] .. start[p + 1]]`. */
export interface PointCorners {
  start: Uint32Array;
  corners: Uint32Array;
}

const cache = new WeakMap<Adjacency, PointCorners>();

/** Built when it is first asked for, and kept as long as the adjacency is. */
export function pointCorners(adjacency: Adjacency): PointCorners {
  let found = cache.get(adjacency);
  if (found) return found;
  const { cornerPoint, pointCount } = adjacency;
  const start = new Uint32Array(pointCount + 1);
  for (const p of cornerPoint) start[p + 1]!++;
  for (let p = 0; p < pointCount; p++) start[p + 1]! += start[p]!;
  const at = start.slice();
  const corners = new Uint32Array(cornerPoint.length);
  for (let c = 0; c < cornerPoint.length; c++) corners[at[cornerPoint[c]!]!++] = c;
  cache.set(adjacency, (found = { start, corners }));
  return found;
}
