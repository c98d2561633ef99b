import type { PixelEdit } from '../../kit/edit/edit';
import { findModel, type Cell, type KitState, type Model, type NamedPick } from '../../kit/kit';
import { isPainted, pixelsOf } from '../../kit/pixels';
import type { Pattern } from '../../kit/patterns';
import { eachRun } from '../../kit/texelChange';
import type { PolyMesh } from '../../shapes/mesh/polyMesh';
import type { Triangles } from '../../shapes/mesh/triangulate';
import { where } from '../../sheet/paint/fills';
import { brushEdit } from '../../sheet/paint/brush';
import { unlockedFaces } from '../regions/regions';
import { pointShown } from './mirroredTexels';
import { ownersOfTexels, texelsUnder } from './texelsOnFaces';

/** A pick that is filled with a pattern. */
export type KeptPattern = NamedPick & { pattern: Pattern };

export const keptPatterns = ({ picks = [] }: Pick<Model, 'picks'>): KeptPattern[] =>
  picks.filter((p): p is KeptPattern => p.pattern !== undefined);

/** What a pattern changes on the painted art under some faces of a model, but those of locked regions: the edits by the cell of each art, none where all is as it makes it. */
export function patternEdits(
  state: KitState,
  modelId: string,
  { mesh, triangles }: { mesh: PolyMesh; triangles: Triangles },
  faces: Uint32Array,
  pattern: Pattern,
): { cell: Cell; edit: PixelEdit }[] {
  const seats = state.seats[modelId]!;
  const model = findModel(state.kit, modelId);
  const open = unlockedFaces(model, seats, faces);
  const arts = state.kit.sheets.filter((s) => s.id === model.sheet).flatMap((s) => s.cells.filter((c) => isPainted(c.fill)));
  return arts.flatMap((cell) => {
    const art = isPainted(cell.fill) ? pixelsOf(cell.fill.picture) : '';
    const own = state.pixels?.[art];
    if (!own || !open.some((f) => seats.cell[f] === cell.id)) return [];
    const texels = where(texelsUnder(mesh, seats, cell, own, open));
    // Only a line asks where texels are shown.
    const isAlong = pattern.kind === 'ordered' && pattern.line !== undefined;
    const shown = isAlong && { mesh, triangles, seats, size: own, faceOf: ownersOfTexels(mesh, seats, cell, own).face };
    const pointAt = shown ? (x: number, y: number) => pointShown(shown, y * own.width + x) : undefined;
    const edit = brushEdit(state, art, texels, pattern, { pointAt });
    return edit ? [{ cell, edit }] : [];
  });
}

/** How many texels are other than a kept pattern makes them, after a mesh, a layout, a ramp or a stroke changed them. */
export function differing(...of: Parameters<typeof patternEdits>): number {
  let sum = 0;
  for (const { edit } of patternEdits(...of)) eachRun(edit, (_, count) => (sum += count));
  return sum;
}
