import { texelsUnder } from '@/core/faces/seat/texelsOnFaces';
import { facesWhere } from '@/core/shapes/mesh/facesWhere';
import { lockedCells } from '@/core/sheet/paint/brush';
import { usePaint } from '../chosen/paint';
import { pickedFaces, usePick } from '../chosen/pickState';
import { current, useEditor } from '../kit/editor';
import type { ArtInHand } from './artInHand';

/** The faces to which the phrase keeps; `null`: all. */
export function facesInReach({ seats }: Pick<ArtInHand, 'seats'>): Uint32Array | null {
  const { where } = usePaint.getState();
  if (where === 'picked') return usePick.getState().count ? pickedFaces() : null;
  if (where === 'all' || !current()?.model.regions.some((r) => r.id === where)) return null;
  return facesWhere(seats.region.length, (f) => seats.region[f] === where);
}

let known: { by: readonly unknown[]; mask: Uint8Array | null } = { by: [], mask: null };

/** Texels that may be set, 1 each; `null`: all. Those under faces of locked regions, of colors that are spared and of those that are locked, may not. */
export function maskOf(art: ArtInHand): Uint8Array | null {
  const { where, over, isSparing } = usePaint.getState();
  const { version, count } = usePick.getState();
  const locked = lockedCells(useEditor.getState().state.kit);
  // Of what is shown there only colors that are meant depend on it: a mask is asked for at every move.
  const by = [
    art.art,
    art.seats,
    current()?.model.regions,
    where,
    over,
    isSparing,
    version,
    count,
    // So do colors that are locked.
    over.length || locked.size ? art.pixels : art.pixels.cells.length,
    locked,
  ];
  if (known.by.length !== by.length || by.some((v, i) => v !== known.by[i])) known = { by, mask: makeMask(art, facesInReach(art)) };
  return known.mask;
}

/** The same with other faces than those to which the phrase keeps; `null`: all. */
export function makeMask({ loaded, seats, cell, pixels }: ArtInHand, faces: Uint32Array | null): Uint8Array | null {
  const under = (faces: Uint32Array) => texelsUnder(loaded.mesh, seats, cell, pixels, faces);
  const mask = faces && under(faces);
  const locked = new Set(current()?.model.regions.flatMap((r) => (r.locked ? [r.id] : [])));
  const shut = locked.size ? under(facesWhere(seats.region.length, (f) => locked.has(seats.region[f]!))) : null;
  const { over, isSparing } = usePaint.getState();
  const kept = lockedCells(useEditor.getState().state.kit);
  if (!shut && !over.length && !kept.size) return mask;
  const named = new Set(over);
  return pixels.cells.reduce((out, c, t) => {
    const isMeant = (!named.size || named.has(c) !== isSparing) && !kept.has(c);
    out[t] = isMeant && !shut?.[t] && (!mask || mask[t]) ? 1 : 0;
    return out;
  }, new Uint8Array(pixels.cells.length));
}
