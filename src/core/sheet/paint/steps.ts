import type { Kit } from '../../kit/kit';

/** The next darker or lighter cell of each cell that is a step of a ramp and has one. */
export type NextInRamps = ReadonlyMap<number, number>;

/** `by`: -1 darker, 1 lighter. */
export function neighboursInRamps({ sheets }: Pick<Kit, 'sheets'>, by: 1 | -1): NextInRamps {
  const next = new Map<number, number>();
  for (const { ramps } of sheets)
    for (const { cells } of ramps)
      cells.forEach((cell, i) => {
        const to = cells[i + by];
        if (to !== undefined) next.set(cell, to);
      });
  return next;
}
