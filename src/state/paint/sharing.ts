import { count } from '@/core/ground/words';
import { gapFor } from '@/core/islands/paintable';
import { partShared, shareAlike, type OnArt } from '@/core/islands/sharing';
import { texelsOfFace } from '@/core/faces/seat/texelsOnFaces';
import { findCell } from '@/core/kit/kit';
import { announce } from '../told/announce';
import { notify, notifyError } from '../told/notices';
import { pickedFaces, usePick } from '../chosen/pickState';
import { baseState } from '../kit/editor';
import { dispatch } from '../kit/edits';
import { artInHand, ownersIn, type ArtInHand } from './artInHand';

const counted = new WeakMap<object, number>();

/** How many faces of the model in view show texels that others show as well. */
export function facesSharing(art: ArtInHand): number {
  const owners = ownersIn(art);
  const known = counted.get(owners);
  if (known !== undefined) return known;
  const { loaded, seats, cell, pixels } = art;
  let faces = 0;
  if (owners.count.some((n) => n > 1))
    for (let f = 0; f < seats.cell.length; f++)
      if (seats.cell[f] === cell.id && texelsOfFace(loaded.mesh, seats, pixels, f).some((t) => owners.count[t]! > 1)) faces++;
  counted.set(owners, faces);
  return faces;
}

const onArt = ({ loaded, cell }: ArtInHand, model: string): OnArt => ({
  model,
  mesh: loaded.mesh,
  adjacency: loaded.adjacency,
  cell: cell.id,
});

/** What shares texels gets texels of its own, of what is picked where something is: one undo. */
export function partSharedTexels(model: string): void {
  const art = artInHand();
  const { sheet } = (art && findCell(baseState().kit, art.cell.id)) ?? {};
  if (!art || !sheet) return;
  try {
    const only = usePick.getState().count ? pickedFaces() : null;
    const parted = partShared(baseState(), onArt(art, model), only, gapFor(sheet));
    if (!parted)
      return notify(only ? 'Nothing of what is picked shares texels. Let go of the pick to part all.' : 'No texels are shared here.');
    if (dispatch(parted.edit)) announce(`${count(parted.islands, 'place has', 'places have')} texels of their own now`);
  } catch (error) {
    notifyError(error);
  }
}

/** Places of one shape among what is picked show the texels of the first of them from now on: one undo. */
export function shareTexels(model: string): void {
  const art = artInHand();
  if (!art) return;
  try {
    const shared = shareAlike(baseState(), onArt(art, model), pickedFaces());
    if (!shared) return notify('Pick faces of two places of one shape at least: they come to show the same texels.');
    const rest = shared.unlike ? `; ${count(shared.unlike, 'place')} of another shape stayed` : '';
    if (dispatch(shared.edit)) announce(`${count(shared.islands, 'place shows', 'places show')} the texels of the first now${rest}`);
  } catch (error) {
    notifyError(error);
  }
}
