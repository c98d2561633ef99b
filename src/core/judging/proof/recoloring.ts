import type { Hex } from '../../ground/color/hex';
import type { Edit } from '../../kit/edit/edit';
import { remembered } from '../../ground/remembered';

/** What was colored anew: so many faces of a model from one cell to another, and fills of cells. */
export interface Recoloring {
  faces: readonly { model: string; from: number; to: number; count: number }[];
  fills: readonly { cell: number; from: Hex; to: Hex }[];
}

export const noRecoloring: Recoloring = { faces: [], fills: [] };

/** What edits colored anew, one after the other. A face that had no color, or has none now, is not meant. */
export function recoloringOf(edits: readonly Edit[]): Recoloring {
  const faces = new Map<string, Recoloring['faces'][number]>();
  const fills = new Map<number, Recoloring['fills'][number]>();
  for (const edit of edits) {
    const own = ofOne(edit);
    for (const move of own.faces) {
      const [key, back] = [
        [move.model, move.from, move.to],
        [move.model, move.to, move.from],
      ].map((k) => k.join()) as [string, string];
      // What goes back was not given up.
      const returned = faces.get(back);
      const undone = Math.min(move.count, returned?.count ?? 0);
      if (returned) faces.set(back, { ...returned, count: returned.count - undone });
      faces.set(key, { ...move, count: move.count - undone + (faces.get(key)?.count ?? 0) });
    }
    for (const fill of own.fills) fills.set(fill.cell, { ...fill, from: fills.get(fill.cell)?.from ?? fill.from });
  }
  return { faces: [...faces.values()].filter((f) => f.count > 0), fills: [...fills.values()].filter((f) => f.from !== f.to) };
}

const ofOne = remembered((edit: Edit): Recoloring => {
  if (edit.kind === 'group') return recoloringOf(edit.edits);
  if (edit.kind === 'put' && edit.list === 'cells') {
    const [before, after] = [edit.before?.fill, edit.after?.fill];
    return before?.kind === 'solid' && after?.kind === 'solid' && before.color !== after.color
      ? { faces: [], fills: [{ cell: edit.after!.id, from: before.color, to: after.color }] }
      : noRecoloring;
  }
  if (edit.kind !== 'seat') return noRecoloring;
  const { model, spans } = edit;
  const counts = new Map<number, number>();
  for (let i = 0; i < spans.length; i += 4) {
    const [count, from, to] = [spans[i + 1]!, spans[i + 2]!, spans[i + 3]!];
    if (from && to && from !== to) counts.set(from * 65536 + to, (counts.get(from * 65536 + to) ?? 0) + count);
  }
  return { faces: [...counts].map(([key, count]) => ({ model, from: Math.floor(key / 65536), to: key % 65536, count })), fills: [] };
});
