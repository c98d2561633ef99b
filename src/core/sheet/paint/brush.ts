import type { PixelEdit } from '../../kit/edit/edit';
import { spansOf } from '../../kit/edit/seatFaces';
import type { Kit, KitState } from '../../kit/kit';
import type { Pattern } from '../../kit/patterns';
import { patternOf, type PointAt } from './patterns';
import { neighboursInRamps } from './steps';

/** What a press makes of texels: a cell (0: nothing, so that they are cut away), a step along the ramp of what is there, or a pattern. */
export type Sets = { kind: 'cell'; cell: number } | { kind: 'step'; by: 1 | -1 } | Pattern;

/** Whether a second press goes on from what the first one set: within a stroke each texel is taken once. */
export const isStepwise = (sets: Sets): boolean => sets.kind === 'step' || (sets.kind === 'motif' && !sets.cell);

type Becomes = Parameters<typeof spansOf>[2];

const locks = new WeakMap<Kit['sheets'], ReadonlySet<number>>();
/** Colors over which nothing is painted. */
export function lockedCells({ sheets }: Pick<Kit, 'sheets'>): ReadonlySet<number> {
  const known = locks.get(sheets) ?? new Set(sheets.flatMap((s) => s.cells.flatMap((c) => (c.locked ? [c.id] : []))));
  locks.set(sheets, known);
  return known;
}

const sparing = (locked: ReadonlySet<number>, becomes: Becomes): Becomes =>
  locked.size ? (before, t) => (locked.has(before) ? null : typeof becomes === 'number' ? becomes : becomes(before, t)) : becomes;

/** How a pattern is laid out. */
export interface Laid {
  /** The texel at which it begins; that of the art otherwise. */
  from?: readonly [x: number, y: number];
  /** The texel whose place counts for another one: that of which it is the mirror image. */
  sourceOf?: (texel: number) => number;
  pointAt?: PointAt;
}

/**
 * The edit by which texels of an art become what is set, `null` where nothing changes. `stepped`: texels that this stroke
 * has changed by a step already, 1 each; they are left, and those that are changed now are marked.
 */
export function brushEdit(
  { kit, pixels }: KitState,
  art: string,
  texels: Uint32Array,
  sets: Sets,
  { stepped, from: [ox, oy] = [0, 0], sourceOf = (t) => t, pointAt }: Laid & { stepped?: Uint8Array } = {},
): PixelEdit | null {
  const { width, cells } = pixels![art]!;
  const becomes = (): Becomes => {
    if (sets.kind === 'cell') return sets.cell;
    if (sets.kind === 'step') {
      const next = neighboursInRamps(kit, sets.by);
      return once((before) => next.get(before) ?? null);
    }
    const cellAt = patternOf(kit, sets, pointAt && ((x, y) => pointAt(x + ox, y + oy)));
    const at = (before: number, t: number) => {
      const source = sourceOf(t);
      return cellAt((source % width) - ox, Math.floor(source / width) - oy, before);
    };
    return isStepwise(sets) ? once(at) : at;
  };
  const once = (of: (before: number, t: number) => number | null) => (before: number, t: number) => {
    const to = stepped?.[t] ? null : of(before, t);
    if (to !== null && stepped) stepped[t] = 1;
    return to;
  };
  const spans = spansOf(cells, texels, sparing(lockedCells(kit), becomes()));
  return spans.length ? { kind: 'pixels', art, spans } : null;
}
