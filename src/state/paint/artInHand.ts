import type { Cell, KitState, Seats } from '@/core/kit/kit';
import { isPainted, pixelsOf, type Pixels } from '@/core/kit/pixels';
import { ownersOfTexels } from '@/core/faces/seat/texelsOnFaces';
import type { LoadedMesh } from '@/workers/residents';
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

/** The art on which most faces of the model in view lie; `null` where none is painted, or its mesh is not there yet. */
export function artOf(editor: Pick<EditorState, 'state' | 'modelId' | 'meshes'>): ArtInHand | null {
  const now = currentOf(editor);
  if (!now?.loaded) return null;
  const { state } = editor;
  const seats = state.seats[now.model.id]!;
  const cell = mostPainted(state, seats);
  const art = cell && pixelsOf((cell.fill as { picture: string }).picture);
  const pixels = art ? state.pixels?.[art] : undefined;
  return cell && art && pixels ? { cell, art, pixels, seats, loaded: now.loaded } : null;
}

export const artInHand = (): ArtInHand | null => artOf(useEditor.getState());

function mostPainted({ kit }: KitState, { cell }: Seats): Cell | null {
  const painted = kit.sheets.flatMap((s) => s.cells.filter((c) => isPainted(c.fill)));
  if (!painted.length) return null;
  const counts = new Map(painted.map((c) => [c.id, 0]));
  for (const id of cell) if (counts.has(id)) counts.set(id, counts.get(id)! + 1);
  const best = painted.reduce((a, b) => (counts.get(b.id)! > counts.get(a.id)! ? b : a));
  return counts.get(best.id) ? best : null;
}

const known = new WeakMap<Seats, { of: LoadedMesh; cell: number; owners: ReturnType<typeof ownersOfTexels> }>();

/** Of each texel of the art the first face that shows it, -1 none, and how many do. */
export function ownersIn({ cell, pixels, seats, loaded }: ArtInHand): ReturnType<typeof ownersOfTexels> {
  const before = known.get(seats);
  if (before?.of === loaded && before.cell === cell.id) return before.owners;
  const owners = ownersOfTexels(loaded.mesh, seats, cell, pixels);
  known.set(seats, { of: loaded, cell: cell.id, owners });
  return owners;
}
