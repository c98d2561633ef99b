import type { Edit } from '@/core/kit/edit/edit';
import { freeName } from '@/core/kit/freeName';
import { newId } from '@/core/kit/kit';
import type { Motif } from '@/core/kit/patterns';
import { startMotifs } from '@/core/sheet/paint/motifs';
import { announce } from '../told/announce';
import { useColoring } from '../chosen/coloringState';
import { usePaint } from '../chosen/paint';
import { useEditor } from '../kit/editor';
import { dispatch } from '../kit/edits';
import { motifNow, motifsOf } from './brushSets';

/** The brush sets by a motif from now on. */
export function chooseMotif(id: string): void {
  usePaint.setState({ sets: 'motif', motif: id });
  announce(`The brush sets ${motifNow(useEditor.getState().state.kit, { motif: id }).name}`);
}

/** Opens the motif of a number in the panel, where it is drawn. */
export const openMotif = (id: string): void => useColoring.setState({ panel: { kind: 'motif', motif: id } });

/**
 * A motif is drawn otherwise: one of the kit as it is, one that came along as a copy. `joins`: the edit of the same drag.
 * Returns what stands in the history.
 */
export function changeMotif(after: Motif, joins: Edit | null = null): Edit | null {
  const { motifs = [] } = useEditor.getState().state.kit;
  const index = motifs.findIndex((m) => m.id === after.id);
  if (index < 0) return addMotif({ ...after, name: `${after.name} of our own` });
  const before = motifs[index]!;
  if (JSON.stringify(before) === JSON.stringify(after)) return joins;
  return dispatch({ kind: 'put', list: 'motifs', of: 'kit', index, before, after }, { joins });
}

/** A further motif, which the brush sets and the panel shows. */
function addMotif(motif: Motif): Edit | null {
  const { kit } = useEditor.getState().state;
  const { motifs = [] } = kit;
  const after = { ...motif, id: newId('m'), name: freeName(motif.name, motifsOf(kit).map((m) => m.name)) }; // prettier-ignore
  const edit = dispatch({ kind: 'put', list: 'motifs', of: 'kit', index: motifs.length, before: null, after });
  if (edit) {
    usePaint.setState({ sets: 'motif', motif: after.id });
    openMotif(after.id);
  }
  return edit;
}

/** An empty motif of 8 × 8 texels, to be drawn. */
export const newMotif = (): Edit | null => addMotif({ id: '', name: 'motif', rows: Array.from({ length: 8 }, () => '0'.repeat(8)) });

export function removeMotif(id: string): void {
  const { motifs = [] } = useEditor.getState().state.kit;
  const index = motifs.findIndex((m) => m.id === id);
  const before = motifs[index];
  if (before && dispatch({ kind: 'put', list: 'motifs', of: 'kit', index, before, after: null })) {
    useColoring.setState({ panel: null });
    announce(`${before.name} is deleted`);
  }
}

export const isOfKit = ({ id }: Motif): boolean => !startMotifs.some((m) => m.id === id);
