import { equalArrays } from '../../ground/equalArrays';
import type { PixelEdit } from '../../kit/edit/edit';
import { spansOf } from '../../kit/edit/seatFaces';
import type { Kit, KitState } from '../../kit/kit';
import type { Pattern } from '../../kit/patterns';
import type { TexelChange } from '../../kit/texelChange';
import { patternOf, type FillRow, type PointAt } from './patterns';
import { RowRuns } from './rowRuns';
import { neighboursInRamps, type NextInRamps } from './steps';

/** What a press makes of texels: a cell (0: nothing, so that they are cut away), a step along the ramp of what is there, or a pattern. */
export type Sets = { kind: 'cell'; cell: number } | { kind: 'step'; by: 1 | -1 } | Pattern;

/** Whether a second press goes on from what the first one set: within a stroke each texel is taken once. */
export const isStepwise = (sets: Sets): boolean => sets.kind === 'step' || (sets.kind === 'motif' && !sets.cell);

const locks = new WeakMap<Kit['sheets'], ReadonlySet<number>>();
/** Colors over which nothing is painted. */
export function lockedCells({ sheets }: Pick<Kit, 'sheets'>): ReadonlySet<number> {
  const known = locks.get(sheets) ?? new Set(sheets.flatMap((s) => s.cells.flatMap((c) => (c.locked ? [c.id] : []))));
  locks.set(sheets, known);
  return known;
}

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
  { stepped, ...laid }: Laid & { stepped?: Uint8Array } = {},
): PixelEdit | null {
  const { width, cells } = pixels![art]!;
  const runs = new RowRuns(texels, width);
  const after = runs.from(cells);
  if (sets.kind === 'cell') after.fill(sets.cell);
  else if (sets.kind === 'step') stepAll(after, neighboursInRamps(kit, sets.by));
  else layPattern(after, runs, width, patternOf(kit, sets, pointFrom(laid)), laid);
  spare(cells, runs.texels, after, lockedCells(kit), isStepwise(sets) ? stepped : undefined);
  const change = changeOf(cells, runs, after);
  return change && { kind: 'pixels', art, ...change };
}

function stepAll(cells: Uint16Array, next: NextInRamps): void {
  for (let i = 0; i < cells.length; i++) cells[i] = next.get(cells[i]!) ?? cells[i]!;
}

const pointFrom = ({ pointAt, from: [ox, oy] = [0, 0] }: Laid): PointAt | undefined => pointAt && ((x, y) => pointAt(x + ox, y + oy));

function layPattern(after: Uint16Array, runs: RowRuns, width: number, fill: FillRow, { from: [ox, oy] = [0, 0], sourceOf }: Laid): void {
  const lay = (from: number, to: number, first: number) => fill(after, from, to, (first % width) - ox, Math.floor(first / width) - oy);
  if (!sourceOf) return runs.each(lay);
  for (let i = 0; i < after.length; i++) lay(i, i + 1, sourceOf(runs.texels[i]!));
}

/** Texels of locked colors stay, and those that this stroke has changed already, where there is `stepped`. */
function spare(cells: Uint16Array, texels: Uint32Array, after: Uint16Array, locked: ReadonlySet<number>, stepped?: Uint8Array): void {
  if (!locked.size && !stepped) return;
  for (let i = 0; i < texels.length; i++) {
    const texel = texels[i]!;
    const before = cells[texel]!;
    if (after[i] === before) continue;
    if (locked.has(before) || stepped?.[texel]) after[i] = before;
    else if (stepped) stepped[texel] = 1;
  }
}

/** Of so few texels spans are joined more quickly where a stroke goes on. */
const fewTexels = 2 ** 16;

/** The change by which texels show other cells, told in the way that is about the smaller one. */
function changeOf(cells: Uint16Array, runs: RowRuns, after: Uint16Array): TexelChange | null {
  const { texels } = runs;
  const reach = texels.length && texels.at(-1)! - texels[0]! + 1;
  // Of bytes a span takes 16, a texel of a stretch 4.
  const isVaried = spansAmong(cells, texels.subarray(0, fewTexels), after) * 4 > fewTexels;
  if (texels.length <= fewTexels || texels.length * 2 < reach || !isVaried) {
    const spans = spansOf(cells, texels, (_, __, i) => after[i]!);
    return spans.length ? { spans } : null;
  }
  const [first, last] = [texels[0]!, texels.at(-1)!];
  const before = cells.slice(first, last + 1);
  const all = before.slice();
  runs.put(after, all, first);
  return equalArrays(before, all) ? null : { first, before, after: all };
}

function spansAmong(cells: Uint16Array, texels: Uint32Array, after: Uint16Array): number {
  let count = 0;
  for (let i = 1; i < texels.length; i++)
    if (after[i] !== after[i - 1] || cells[texels[i]!] !== cells[texels[i - 1]!] || texels[i] !== texels[i - 1]! + 1) count++;
  return count;
}
