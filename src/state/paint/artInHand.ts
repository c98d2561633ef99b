import { findCell, type Cell, type KitState, type Seats } from '@/core/kit/kit';
import { isPainted, pixelsOf, type Pixels } from '@/core/kit/pixels';
import { ownersOfTexels } from '@/core/faces/seat/texelsOnFaces';
import type { LoadedMesh } from '@/workers/residents';
import { usePaint } from '../chosen/paint';
import { currentOf, useEditor, type EditorState } from '../kit/editor';

/** The painted art that the model in view lies on. */
export interface ArtInHand {
  cell: Cell;
  /** The number of its pixels. */
  art: string;
  pixels: Pixels;
  seats: Seats;
  loaded: LoadedMesh;
}

/**
 * The painted art of the model in view: the one that is meant, else that on which most of its faces lie; `null` where none
 * is painted, or its mesh is not there yet.
 */
export function artOf(
  editor: Pick<EditorState, 'state' | 'modelId' | 'meshes'>,
  meant: number = usePaint.getState().artCell,
): ArtInHand | null {
  const now = currentOf(editor);
  if (!now?.loaded) return null;
  const { state } = editor;
  const seats = state.seats[now.model.id]!;
  const arts = paintedUnder(state, seats);
  const cell = arts.find((c) => c.id === meant) ?? arts[0];
  const art = cell && pixelsOf((cell.fill as { picture: string }).picture);
  const pixels = art ? state.pixels?.[art] : undefined;
  return cell && art && pixels ? { cell, art, pixels, seats, loaded: now.loaded } : null;
}

export const artInHand = (): ArtInHand | null => artOf(useEditor.getState());

/** Cells of painted art on which faces lie, those of most faces first. */
export function paintedUnder({ kit }: Pick<KitState, 'kit'>, { cell }: Pick<Seats, 'cell'>): Cell[] {
  const painted = kit.sheets.flatMap((s) => s.cells.filter((c) => isPainted(c.fill)));
  if (!painted.length) return [];
  const counts = new Map(painted.map((c) => [c.id, 0]));
  for (const id of cell) if (counts.has(id)) counts.set(id, counts.get(id)! + 1);
  return painted.filter((c) => counts.get(c.id)).sort((a, b) => counts.get(b.id)! - counts.get(a.id)!);
}

/** Whether a cell is painted art, in the coloring that is shown. */
export const isPaintedCell = (id: number): boolean => isPainted(findCell(useEditor.getState().state.kit, id)?.cell.fill);

const known = new WeakMap<Seats, { of: LoadedMesh; cell: number; owners: ReturnType<typeof ownersOfTexels> }>();

/** Of each texel of the art the first face that shows it, -1 none, and how many do. */
export function ownersIn({ cell, pixels, seats, loaded }: ArtInHand): ReturnType<typeof ownersOfTexels> {
  const before = known.get(seats);
  if (before?.of === loaded && before.cell === cell.id) return before.owners;
  const owners = ownersOfTexels(loaded.mesh, seats, cell, pixels);
  known.set(seats, { of: loaded, cell: cell.id, owners });
  return owners;
}
