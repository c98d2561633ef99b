import type { Adjacency } from '../mesh/adjacency';
import { remembered } from '../../ground/remembered';

/** Corners at each point: `corners[start[p] .. start[p + 1]]`. */
export interface PointCorners {
  start: Uint32Array;
  corners: Uint32Array;
}

/** Built when it is first asked for, and kept as long as the adjacency is. */
export const pointCorners = remembered(({ cornerPoint, pointCount }: Adjacency): PointCorners => {
  const start = new Uint32Array(pointCount + 1);
  for (const p of cornerPoint) start[p + 1]!++;
  for (let p = 0; p < pointCount; p++) start[p + 1]! += start[p]!;
  const at = start.slice();
  const corners = new Uint32Array(cornerPoint.length);
  for (let c = 0; c < cornerPoint.length; c++) corners[at[cornerPoint[c]!]!++] = c;
  return { start, corners };
});
