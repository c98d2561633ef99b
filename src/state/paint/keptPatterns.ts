import { keptPatterns, patternEdits, type KeptPattern } from '@/core/faces/seat/keptPatterns';
import { paintInVariant } from '@/core/faces/variants/paintInVariant';
import { mostIn } from '@/core/ground/limits';
import { equalArrays } from '@/core/ground/equalArrays';
import { count } from '@/core/ground/words';
import { groupForAll, type Edit } from '@/core/kit/edit/edit';
import { freeName } from '@/core/kit/freeName';
import type { Kit } from '@/core/kit/kit';
import type { Pattern } from '@/core/kit/patterns';
import { facesOfSpans, spansOfFaces } from '@/core/shapes/pick/namedPicks';
import { announce } from '../told/announce';
import { notify, notifyError } from '../told/notices';
import { useColoring } from '../chosen/coloringState';
import { usePaint } from '../chosen/paint';
import { pickedFaces } from '../chosen/pickState';
import { baseState, current, useEditor } from '../kit/editor';
import { dispatch } from '../kit/edits';
import { putPicks, recallPick } from '../pick/namedPicks';
import { colorName, motifsOf, patternNow } from './brushSets';

/** A pattern in words: “noise around slate”. */
export function wordsOfPattern(kit: Kit, pattern: Pattern): string {
  const role = (id: number) => colorName(kit, id);
  if (pattern.kind === 'noise') return `noise around ${role(pattern.cell)}, within ${count(pattern.within, 'step')}`;
  if (pattern.kind === 'mix') return `noise of ${pattern.among.map((a) => role(a.cell)).join(', ')}`;
  if (pattern.kind === 'ordered') return `a checker from ${role(pattern.from)} to ${role(pattern.to)}`;
  return `${pattern.motif.name} around ${role(pattern.cell)}`;
}

/** Fills what is picked with the pattern of the phrase, and keeps it so that it can be done anew: one undo. */
export function keepPattern(): void {
  const now = current();
  if (!now?.loaded) return;
  const { kit } = baseState();
  const pattern = patternNow(kit, useColoring.getState().cell);
  if (!pattern) return notify('Choose a noise, a checker or a motif in the phrase, and its color in the tray.');
  // Steps from what is there would go on with every time that it is done anew.
  if (pattern.kind === 'motif' && !pattern.cell)
    return notify('A motif that is kept goes around a color: say so in the phrase, “around …”.');
  const faces = pickedFaces();
  const spans = spansOfFaces(faces);
  const { picks = [] } = now.model;
  const known = keptPatterns(now.model).find((p) => equalArrays(p.spans, spans));
  if (!known && picks.length >= mostIn.picks) return notify(`The model remembers ${mostIn.picks} picks already; forget one first.`);
  const name = known?.name ?? freeName(pattern.kind === 'motif' ? pattern.motif.name : pattern.kind === 'ordered' ? 'checker' : 'noise', picks.map((p) => p.name)); // prettier-ignore
  const kept = { id: known?.id ?? 1 + Math.max(0, ...picks.map((p) => p.id)), name, spans, pattern };
  apply(`Keep ${name}`, kept);
}

/** Does a kept pattern anew, with its motif as it is drawn now. */
export function renewPattern(kept: KeptPattern): void {
  const { kit } = baseState();
  const { pattern } = kept;
  const drawn = pattern.kind === 'motif' ? motifsOf(kit).find((m) => m.id === pattern.motif.id) : undefined;
  const next = pattern.kind === 'motif' && drawn ? { ...kept, pattern: { ...pattern, motif: drawn } } : kept;
  apply(`Do ${kept.name} anew`, next);
}

/** The pattern is as it is told, among the picks of the model, and lies on its faces. */
function apply(label: string, kept: KeptPattern): void {
  const { pattern, spans, name } = kept;
  const now = current();
  if (!now?.loaded) return;
  const { state, variant } = useEditor.getState();
  try {
    const faces = facesOfSpans(spans);
    const painted = patternEdits(state, now.model.id, now.loaded, faces, pattern).flatMap(({ cell, edit }): Edit[] => {
      const own = variant ? paintInVariant(baseState(), variant, cell.id, edit) : edit;
      return own ? [own] : [];
    });
    const before = now.model.picks?.find((p) => p.id === kept.id);
    const isSame = before && JSON.stringify(before) === JSON.stringify(kept);
    const picked = isSame ? [] : putPicks((list) => (before ? list.map((p) => (p.id === kept.id ? kept : p)) : [...list, kept]));
    if (dispatch(groupForAll(label, [...picked, ...painted]))) announce(`${name} lies on ${count(faces.length, 'face')}`);
    else announce(`${name} is as it was made`);
  } catch (error) {
    notifyError(error);
  }
}

/** The pattern is kept no more; texels and the pick stay as they are. */
export function letPatternGo({ id, name }: KeptPattern): void {
  const without = putPicks((list) => list.map(({ pattern, ...p }) => (p.id === id || !pattern ? p : { ...p, pattern })));
  if (dispatch(groupForAll(`Let ${name} go`, without))) announce(`${name} is kept no more; its texels stay`);
}

/** The pattern comes into the phrase and its faces are picked, so that it can be tuned and kept again. */
export function tunePattern(kept: KeptPattern): void {
  const { pattern, name } = kept;
  recallPick(kept, false);
  const of = pattern.kind === 'ordered' ? pattern.from : pattern.kind === 'mix' ? pattern.among[0]!.cell : pattern.cell;
  useColoring.setState({ cell: of });
  if (pattern.kind === 'noise') usePaint.setState({ sets: 'noise', within: pattern.within, seed: pattern.seed, among: [] });
  else if (pattern.kind === 'mix') usePaint.setState({ sets: 'noise', among: pattern.among, seed: pattern.seed });
  else if (pattern.kind === 'motif') usePaint.setState({ sets: 'motif', motif: pattern.motif.id, around: 'color' });
  else usePaint.setState({ sets: 'checker', other: pattern.to, share: pattern.share, grid: pattern.grid, isAlong: !!pattern.line, line: pattern.line ?? null }); // prettier-ignore
  announce(`${name} is in the phrase; “Keep on the pick” does it anew`);
}
