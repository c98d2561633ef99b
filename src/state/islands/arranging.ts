import { group, type Edit } from '@/core/kit/edit/edit';
import { layAt, moved, noMove } from '@/core/islands/arrangeIslands';
import { arranged, eachFilling, stacked, type Arranging } from '@/core/islands/arrangeMany';
import { boundsOf } from '@/core/islands/islandsOf';
import type { Cell } from '@/core/kit/kit';
import { count } from '@/core/ground/words';
import { startTask } from '@/workers/client';
import { dispatch, refusedAsReadOnly } from '../kit/edits';
import { moment, useEditor } from '../kit/editor';
import { pickedFaces, usePick } from '../chosen/pickState';
import { announce } from '../told/announce';
import { notify, notifyError } from '../told/notices';
import { clearanceOf, islandsInView, keptClearance, type IslandsInView } from './islands';
import { openFaces, packingFor } from './packing';
import { useStretch } from './stretch';

/** What is picked of each island, by cell. */
function pickedIslands(view: IslandsInView): { cell: Cell; islands: Uint32Array[] }[] {
  const { picked } = usePick.getState();
  const lists = new Map<number, Uint32Array[]>();
  for (const { cell, faces } of view.islands) {
    const own = openFaces(view, faces.filter((f) => picked[f])); // prettier-ignore
    if (own.length) lists.set(cell, [...(lists.get(cell) ?? []), own]);
  }
  return [...lists].map(([id, islands]) => ({ cell: view.sheet.cells.find((c) => c.id === id)!, islands }));
}

/** How many islands are picked, or in part. */
export const countPickedIslands = (view: IslandsInView): number => pickedIslands(view).reduce((sum, p) => sum + p.islands.length, 0);

/** Lays what is picked of each cell as `make` has it, kept inside of the cell. */
function layIslands(
  label: string,
  make: (islands: Uint32Array[], texels: Float32Array, faceStart: Uint32Array, cell: Cell) => Float32Array,
): void {
  const view = islandsInView();
  if (!view || refusedAsReadOnly()) return;
  const { state } = useEditor.getState();
  const { faceStart } = view.of.loaded!.mesh;
  try {
    const edits = pickedIslands(view).flatMap(({ cell, islands }): Edit[] => {
      const texels = make(islands, view.texels, faceStart, cell);
      const faces = Uint32Array.from(islands.flatMap((list) => [...list])).sort();
      const kept = moved(faces, faceStart, texels, noMove, cell, keptClearance(view.sheet));
      return [layAt(state, view.of.model.id, faceStart, faces, cell.id, kept, label)].filter((e) => e !== null);
    });
    if (edits.length && dispatch(group(label, edits))) announce(label);
  } catch (error) {
    notifyError(error);
  }
}

export const arrangePicked = (how: Arranging): void =>
  layIslands('Arrange islands', (islands, texels, faceStart) => arranged(islands, faceStart, texels, how));

/** Islands of one shape come to lie on each other; those of another stay, and are said. */
export function stackPicked(): void {
  let unlike = 0;
  layIslands('Stack islands', (islands, texels, faceStart) => {
    const done = stacked(islands, faceStart, texels);
    unlike += done.unlike.length;
    return done.texels;
  });
  if (unlike)
    notify(`${count(unlike, 'island')} of another shape than the first: ${unlike === 1 ? 'it stays' : 'they stay'} where they were.`);
}

/**
 * Lays the picked islands apart beside what lies on their cell already: at their size, or at the proportions that they
 * have as large as they find room.
 */
export async function spreadPicked(isAtSize: boolean): Promise<void> {
  const view = islandsInView();
  if (!view || refusedAsReadOnly()) return;
  const { state } = useEditor.getState();
  const { model, loaded } = view.of;
  const isNow = moment();
  try {
    const edits: Edit[] = [];
    let isSmaller = false;
    for (const { cell, islands } of pickedIslands(view)) {
      const faces = Uint32Array.from(islands.flatMap((list) => [...list])).sort();
      const asked = { ...packingFor(view, faces), keepsDensity: isAtSize, stacksLike: false };
      const task = startTask((worker) => worker.packIslands(model.mesh, islands, view.texels, cell, asked));
      const packed = await task.done;
      if (!packed || !isNow() || useEditor.getState().state !== state) return;
      if (!packed.factor) return notify('There is no room for them beside what lies there.');
      isSmaller ||= packed.factor < 1 - 1e-6;
      edits.push(
        ...[layAt(state, model.id, loaded!.mesh.faceStart, faces, cell.id, packed.texels, 'Lay islands apart')].filter((e) => e !== null),
      );
    }
    if (edits.length) dispatch(group('Lay islands apart', edits));
    if (isSmaller && isAtSize) notify('There was not enough room at their size, so they are smaller now.');
  } catch (error) {
    if (isNow()) notifyError(error);
  }
}

/** Every picked face takes all of the cell for itself. */
export function fillEach(cell: Cell): void {
  const view = islandsInView();
  const faces = pickedFaces();
  if (!view || !faces.length || refusedAsReadOnly()) return;
  const { mesh, adjacency } = view.of.loaded!;
  try {
    const texels = eachFilling(mesh, adjacency, faces, cell, clearanceOf(view.sheet));
    const label = 'Every face fills the cell';
    const edit = layAt(useEditor.getState().state, view.of.model.id, mesh.faceStart, faces, cell.id, texels, label);
    if (edit && dispatch(edit)) announce(`${count(faces.length, 'face')} fill ${cell.role || 'the cell'}`);
  } catch (error) {
    notifyError(error);
  }
}

/** Texels a metre of the picked faces, over all of them; 0 where none of them is stretched over art. */
export function pickedDensity(view: IslandsInView): number {
  const { now } = useStretch.getState();
  if (now?.model !== view.of.model.id) return 0;
  const { areas } = view.of.loaded!.adjacency;
  let [texels, metres] = [0, 0];
  for (const f of pickedFaces()) {
    const d = now.stretch.density[f]!;
    if (!d) continue;
    texels += d * d * areas[f]!;
    metres += areas[f]!;
  }
  return metres ? Math.sqrt(texels / metres) : 0;
}

/** Sizes each picked island about its middle, so that it has so many texels a metre. */
export function setDensity(wanted: number): void {
  const { now } = useStretch.getState();
  const view = islandsInView();
  if (!view || now?.model !== view.of.model.id || !(wanted > 0)) return;
  const { areas } = view.of.loaded!.adjacency;
  layIslands('Set the texel density', (islands, texels, faceStart) => {
    const out = texels.slice();
    for (const faces of islands) {
      let [is, metres] = [0, 0];
      for (const f of faces) {
        is += now.stretch.density[f]! ** 2 * areas[f]!;
        metres += now.stretch.density[f]! ? areas[f]! : 0;
      }
      if (!is) continue;
      const factor = wanted / Math.sqrt(is / metres);
      const [x0, x1, y0, y1] = boundsOf(faces, faceStart, texels);
      for (const f of faces)
        for (let c = faceStart[f]! * 2; c < faceStart[f + 1]! * 2; c += 2) {
          out[c] = (x0 + x1) / 2 + (texels[c]! - (x0 + x1) / 2) * factor;
          out[c + 1] = (y0 + y1) / 2 + (texels[c + 1]! - (y0 + y1) / 2) * factor;
        }
    }
    return out;
  });
}
