import { pointOfTexel, texelAtPoint, texelsUnder } from '@/core/faces/seat/texelsOnFaces';
import { seamLinks } from '@/core/faces/seat/seamLinks';
import { findCell, type Seats } from '@/core/kit/kit';
import { isPainted, pixelsOf } from '@/core/kit/pixels';
import { facesWhere } from '@/core/shapes/mesh/facesWhere';
import { partOf } from '@/core/shapes/pick/scopes';
import type { Symmetry } from '@/core/shapes/pick/symmetry';
import { dabsAlong, rectangleBetween } from '@/core/sheet/paint/dabs';
import { texelsShowing, touchingTexels, where } from '@/core/sheet/paint/fills';
import { usePaint } from '../chosen/paint';
import { usePhrase } from '../chosen/phrase';
import { pickedFaces, usePick } from '../chosen/pickState';
import { current, useEditor } from '../kit/editor';
import { symmetryInView, useSymmetries } from '../pick/symmetries';
import { ownersIn, type ArtInHand } from './artInHand';

export type Texel = readonly [x: number, y: number];

/** The plane across which the phrase mirrors, as far as its twins are known. */
function planeNow({ loaded }: ArtInHand): Symmetry | null {
  if (usePhrase.getState().mirror === 'nowhere') return null;
  return useSymmetries.getState().twins[loaded.id] ?? null;
}

/** The texel that lies across the plane: where the twin of its face shows the mirrored point; `null` where there is none. */
export function mirroredTexel(art: ArtInHand, [x, y]: Texel, { axis, offset, twin }: Symmetry): Texel | null {
  const { pixels, seats, loaded } = art;
  const face = ownersIn(art).face[y * pixels.width + x]!;
  const other = face < 0 ? -1 : twin[face]!;
  const point = other < 0 ? null : pointOfTexel(loaded.mesh, loaded.triangles, seats, pixels, face, [x, y]);
  if (!point) return null;
  const k = ['x', 'y', 'z'].indexOf(axis);
  point[k] = 2 * offset - point[k]!;
  return texelAtPoint(loaded.mesh, loaded.triangles, seats, pixels, other, point);
}

/** The places at which a press on one sets: itself, and across the plane its twin, or that alone. */
function placesOf(art: ArtInHand, at: Texel): Texel[] {
  const plane = planeNow(art);
  const twin = plane && mirroredTexel(art, at, plane);
  if (plane && usePhrase.getState().mirror === 'instead') return twin ? [twin] : [];
  return twin ? [at, twin] : [at];
}

/** The faces to which the phrase keeps; `null`: all. */
export function facesInReach({ seats }: Pick<ArtInHand, 'seats'>): Uint32Array | null {
  const { where } = usePaint.getState();
  if (where === 'picked') return usePick.getState().count ? pickedFaces() : null;
  if (where === 'all' || !current()?.model.regions.some((r) => r.id === where)) return null;
  return facesWhere(seats.region.length, (f) => seats.region[f] === where);
}

let known: { by: readonly unknown[]; mask: Uint8Array | null } = { by: [], mask: null };

/** Texels that may be set, 1 each; `null`: all. Those under faces of locked regions, and of colors that are spared, may not. */
export function maskOf(art: ArtInHand): Uint8Array | null {
  const { where, over, isSparing } = usePaint.getState();
  const { version, count } = usePick.getState();
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
    over.length ? art.pixels : art.pixels.cells.length,
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
  if (!shut && !over.length) return mask;
  const named = new Set(over);
  return pixels.cells.reduce((out, c, t) => {
    const isMeant = !named.size || named.has(c) !== isSparing;
    out[t] = isMeant && !shut?.[t] && (!mask || mask[t]) ? 1 : 0;
    return out;
  }, new Uint8Array(pixels.cells.length));
}

const links = new WeakMap<Seats, { cell: number; width: number; height: number; of: ReturnType<typeof seamLinks> }>();
/** Texels that touch across seams of the model in view. */
function linksOf({ loaded, seats, cell, pixels: { width, height } }: ArtInHand): ReturnType<typeof seamLinks> {
  const known = links.get(seats);
  if (known?.cell === cell.id && known.width === width && known.height === height) return known.of;
  const of = seamLinks(loaded.mesh, loaded.adjacency, seats, cell.id, { width, height });
  links.set(seats, { cell: cell.id, width, height, of });
  return of;
}

/** More texels than these are marked on the whole art, and collected from there. */
const fewTexels = 5000;

/** All texels that a press from one place to another sets, at every place where it does, ascending. */
export function texelsBetween(art: ArtInHand, from: Texel, to: Texel): Uint32Array {
  const { form, size, shape } = usePaint.getState();
  const { pixels, loaded, seats, cell } = art;
  const mask = maskOf(art);
  const [starts, ends] = [placesOf(art, from), placesOf(art, to)];
  const lists = ends.map((end, i) => {
    const start = starts[i] ?? end;
    // Across a seam of the mirrored half the straight way is no way on the model.
    const isFar = i > 0 && Math.hypot(end[0] - start[0], end[1] - start[1]) > 2 * Math.hypot(to[0] - from[0], to[1] - from[1]) + 2;
    return textured(isFar ? end : start, end);
  });
  const [first] = lists;
  if (lists.length < 2 && !mask) return first ?? new Uint32Array(0);
  if (lists.every((list) => list.length < fewTexels)) {
    const found = new Set(lists.flatMap((list) => [...list]).filter((t) => !mask || mask[t]));
    return Uint32Array.from(found).sort();
  }
  const isIn = new Uint8Array(pixels.cells.length);
  for (const list of lists) for (const t of list) if (!mask || mask[t]) isIn[t] = 1;
  return where(isIn);

  function textured(a: Texel, b: Texel): Uint32Array {
    const at = b[1] * pixels.width + b[0];
    if (form === 'rectangle') return rectangleBetween(pixels, a, b);
    if (form === 'touching') return touchingTexels(pixels, at, mask ?? undefined, linksOf(art));
    if (form === 'everywhere' || form === 'onSheet') return texelsShowing(pixels, pixels.cells[at]!, mask ?? undefined);
    if (form === 'dots') return dabsAlong(pixels, a, b, { size, shape });
    const face = ownersIn(art).face[at]!;
    const faces = form === 'picked' ? pickedFaces() : face < 0 ? [] : form === 'face' ? [face] : partOf(loaded.adjacency, face);
    const isUnder = texelsUnder(loaded.mesh, seats, cell, pixels, faces);
    return where(isUnder);
  }
}

/** Art of the sheet beside the one in hand, with its texels of the color that is at a place; colors that are spared are not set. */
export function elsewhereOnSheet({ cell, pixels }: ArtInHand, [x, y]: Texel): { cell: number; art: string; texels: Uint32Array }[] {
  const { over, isSparing, form } = usePaint.getState();
  const meant = pixels.cells[y * pixels.width + x]!;
  if (form !== 'onSheet' || (over.length && over.includes(meant) === isSparing)) return [];
  const { state } = useEditor.getState();
  const { sheet } = findCell(state.kit, cell.id)!;
  return sheet.cells.flatMap(({ id, fill }) => {
    if (id === cell.id || !isPainted(fill)) return [];
    const art = pixelsOf(fill.picture);
    const own = state.pixels?.[art];
    const texels = own && art !== pixelsOf((cell.fill as { picture: string }).picture) ? texelsShowing(own, meant) : null;
    return texels?.length ? [{ cell: id, art, texels }] : [];
  });
}

/** The mirrored half of the model in view is looked up, so that pointing can show it. */
export const prepareMirror = (): void => {
  if (usePhrase.getState().mirror !== 'nowhere') void symmetryInView();
};
