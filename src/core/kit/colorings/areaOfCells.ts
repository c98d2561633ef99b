import type { Seats } from '../kit';

/**
 * Square metres on each cell (0: not yet colored), over models with their seats and the area of each of their
 * faces.
 */
export function areaOfCells(models: readonly { seats: Seats; area: Float32Array }[]): Map<number, number> {
  const sum = new Map<number, number>();
  for (const { seats, area } of models)
    for (let f = 0; f < area.length; f++) if (area[f]) sum.set(seats.cell[f]!, (sum.get(seats.cell[f]!) ?? 0) + area[f]!);
  return sum;
}
