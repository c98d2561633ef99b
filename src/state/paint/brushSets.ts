import { findCell, type Kit } from '@/core/kit/kit';
import type { Motif, Pattern } from '@/core/kit/patterns';
import type { Sets } from '@/core/sheet/paint/brush';
import { startMotifs } from '@/core/sheet/paint/motifs';
import { neighboursInRamps } from '@/core/sheet/paint/steps';
import { useColoring } from '../chosen/coloringState';
import { usePaint, type PaintState } from '../chosen/paint';
import { useEditor } from '../kit/editor';

/** All motifs that can be painted with: those that come along, then those of the kit. */
export const motifsOf = ({ motifs = [] }: Pick<Kit, 'motifs'>): Motif[] => [...startMotifs, ...motifs];

/** The motif of the phrase; the first where it is gone. */
export const motifNow = (kit: Pick<Kit, 'motifs'>, { motif }: Pick<PaintState, 'motif'>): Motif =>
  motifsOf(kit).find((m) => m.id === motif) ?? startMotifs[0]!;

/** What a color is called where texels are spoken of. */
export const colorName = (kit: Kit, cell: number): string =>
  cell ? findCell(kit, cell)?.cell.role || 'a color without a role' : 'nothing';

const isPlain = (kit: Kit, cell: number): boolean => findCell(kit, cell)?.cell.fill.kind === 'solid';

/** The colors among which noise chooses, as far as they are there. */
export const amongNow = (kit: Kit, { among }: Pick<PaintState, 'among'>): PaintState['among'] => among.filter((a) => isPlain(kit, a.cell));

/** What the phrase sets; `null` where no color is chosen yet. */
export function setsNow(): Sets | null {
  const { sets } = usePaint.getState();
  if (sets === 'nothing') return { kind: 'cell', cell: 0 };
  if (sets === 'darker' || sets === 'lighter') return { kind: 'step', by: sets === 'darker' ? -1 : 1 };
  const { cell } = useColoring.getState();
  const { kit } = useEditor.getState().state;
  const pattern = sets === 'color' ? null : patternNow(kit, cell);
  if (pattern) return pattern;
  return isPlain(kit, cell) ? { kind: 'cell', cell } : null;
}

/** The pattern of the phrase around a color; `null` where it sets none, or needs a color that is not there. */
export function patternNow(kit: Kit, cell: number): Pattern | null {
  const paint = usePaint.getState();
  const { sets, within, seed, share, grid, isAlong, line, around } = paint;
  const hasColor = isPlain(kit, cell);
  if (sets === 'motif') {
    if (around === 'color' && !hasColor) return null;
    return { kind: 'motif', motif: motifNow(kit, paint), cell: around === 'color' ? cell : 0 };
  }
  const among = amongNow(kit, paint);
  if (sets === 'noise' && among.length) return { kind: 'mix', among: [...among], seed };
  if (!hasColor) return null;
  if (sets === 'noise') return { kind: 'noise', cell, within, seed };
  if (sets !== 'checker') return null;
  const to = otherColor(kit, cell, paint);
  return { kind: 'ordered', from: cell, to, share, grid, ...(isAlong && line && { line }) };
}

/** The second color of a checker: the one that was chosen, else the next along the ramp. */
export const otherColor = (kit: Kit, cell: number, { other, toward }: Pick<PaintState, 'other' | 'toward'>): number =>
  isPlain(kit, other) ? other : (neighboursInRamps(kit, toward).get(cell) ?? cell);

/** Whether a press draws the line along which a checker grows, before it can set anything. */
export const needsLine = ({ sets, isAlong, line }: Pick<PaintState, 'sets' | 'isAlong' | 'line'>): boolean =>
  sets === 'checker' && isAlong && !line;

/** What is painted: stamps are of motifs alone. */
export const formNow = ({ form, sets }: Pick<PaintState, 'form' | 'sets'>): PaintState['form'] =>
  form === 'stamps' && sets !== 'motif' ? 'dots' : form;
