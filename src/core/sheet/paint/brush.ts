import type { PixelEdit } from '../../kit/edit/edit';
import { spansOf } from '../../kit/edit/seatFaces';
import type { Kit, KitState } from '../../kit/kit';
import type { Pixels } from '../../kit/pixels';
import { patternOf, type Pattern } from './patterns';

/** What a press makes of texels: a cell (0: nothing, so that they are cut away), a step along the ramp of what is there, or a pattern. */
export type Sets = { kind: 'cell'; cell: number } | { kind: 'step'; by: 1 | -1 } | Pattern;

/** The next darker (-1) or lighter (1) cell of each cell that is a step of a ramp and has one. */
export function nextInRamps({ sheets }: Pick<Kit, 'sheets'>, by: 1 | -1): Map<number, number> {
  const next = new Map<number, number>();
  for (const { ramps } of sheets)
    for (const { cells } of ramps)
      cells.forEach((cell, i) => {
        const to = cells[i + by];
        if (to !== undefined) next.set(cell, to);
      });
  return next;
}

/**
 * The edit by which texels of an art become what is set, `null` where nothing changes. `stepped`: texels that this stroke
 * has changed by a step already, 1 each; they are left, and those that are changed now are marked.
 */
export function brushEdit({ kit, pixels }: KitState, art: string, texels: Uint32Array, sets: Sets, stepped?: Uint8Array): PixelEdit | null {
  const own = pixels![art]!;
  const spans = spansSet(kit, own, texels, sets, stepped ?? new Uint8Array(own.cells.length));
  return spans.length ? { kind: 'pixels', art, spans } : null;
}

function spansSet(kit: Kit, { width, cells }: Pixels, texels: Uint32Array, sets: Sets, stepped: Uint8Array): Uint32Array {
  if (sets.kind === 'cell') return spansOf(cells, texels, sets.cell);
  if (sets.kind === 'step') return stepsOf(cells, texels, nextInRamps(kit, sets.by), stepped);
  const cellAt = patternOf(kit, sets);
  return spansOf(cells, texels, (_, t) => cellAt(t % width, Math.floor(t / width)));
}

function stepsOf(cells: Uint16Array, texels: Uint32Array, next: ReadonlyMap<number, number>, stepped: Uint8Array): Uint32Array {
  return spansOf(cells, texels, (before, t) => {
    const to = stepped[t] ? undefined : next.get(before);
    if (to !== undefined) stepped[t] = 1;
    return to ?? null;
  });
}
