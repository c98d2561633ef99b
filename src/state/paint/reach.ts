import { mirroredTexel, mirroredTexels, sideOfTexel, type ShownArt } from '@/core/faces/seat/mirroredTexels';
import { texelsUnder } from '@/core/faces/seat/texelsOnFaces';
import { seamLinks } from '@/core/faces/seat/seamLinks';
import { findCell, type Seats } from '@/core/kit/kit';
import type { Motif } from '@/core/kit/patterns';
import { isPainted, pixelsOf } from '@/core/kit/pixels';
import { partOf } from '@/core/shapes/pick/scopes';
import type { Symmetry } from '@/core/shapes/pick/symmetry';
import { dabsAlong, rectangleBetween } from '@/core/sheet/paint/dabs';
import { tileUnder } from '@/core/sheet/paint/motifs';
import { texelsShowing, touchingTexels, where } from '@/core/sheet/paint/fills';
import { usePaint, type PaintState } from '../chosen/paint';
import { usePhrase } from '../chosen/phrase';
import { pickedFaces } from '../chosen/pickState';
import { useEditor } from '../kit/editor';
import { symmetryInView, useSymmetries } from '../pick/symmetries';
import { ownersIn, type ArtInHand } from './artInHand';
import { formNow, motifNow } from './brushSets';
import { maskOf } from './mask';

export type Texel = readonly [x: number, y: number];

/** The plane across which the phrase mirrors, as far as its twins are known. */
export function planeNow({ loaded }: ArtInHand): Symmetry | null {
  const { mirror, mirrorAxis } = usePhrase.getState();
  if (mirror === 'nowhere') return null;
  const known = useSymmetries.getState().twins[loaded.id];
  return known && (!mirrorAxis || known.axis === mirrorAxis) ? known : null;
}

/** The art as its model shows it. */
export const shownArt = (art: ArtInHand): ShownArt => {
  const { loaded, seats, pixels } = art;
  return { mesh: loaded.mesh, triangles: loaded.triangles, seats, size: pixels, faceOf: ownersIn(art).face };
};

/** What a press from one place to another sets. */
export interface Reached {
  /** All texels, at every place, ascending. */
  texels: Uint32Array;
  /** For those across the plane of the phrase, the texel whose mirror image each is. */
  sourceOf?: (texel: number) => number;
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

/** A press, or a part of a stroke: from one place to another, with what lies behind it on the model. */
export interface Press {
  from: Texel;
  to: Texel;
  behind?: readonly Texel[];
  /** The texel at which the first tile of a stroke of stamps begins. */
  stamped?: Texel;
}

/** What a press sets, across the plane of the phrase as well. */
export function reachedBy(art: ArtInHand, { from, to, behind = [], stamped }: Press): Reached {
  const mask = maskOf(art);
  const plane = planeNow(art);
  const ways: (readonly [Texel, Texel])[] = [[from, to], ...behind.map((t) => [t, t] as const)];
  const lists = ways.map(([a, b]) => textured(art, a, b, mask, stamped));
  const own = joined(art, lists, null);
  if (!plane) return { texels: within(own, mask) };
  const across = joined(art, lists.map((list, i) => acrossOf(art, list, ways[i]!, plane, mask)), null); // prettier-ignore
  const isInstead = usePhrase.getState().mirror === 'instead';
  const texels = joined(art, isInstead ? [across] : [own, across], mask);
  const shown = shownArt(art);
  const side = sideOfTexel(shown, to[1] * art.pixels.width + to[0], plane);
  // What is reached from both sides, as where a press goes over the plane, shows what lies on the side of the press.
  const isOfPress = (t: number) => side === 0 || sideOfTexel(shown, t, plane) === side;
  return { texels, sourceOf: (t) => (isOfPress(t) ? t : (mirroredTexel(shown, t, plane)?.texel ?? t)) };
}

const within = (texels: Uint32Array, mask: Uint8Array | null): Uint32Array => (mask ? texels.filter((t) => mask[t]) : texels);

/** What lies across a plane from texels that a press reaches: the mirror image of each of few, the same form again of many and of what is filled. */
function acrossOf(
  art: ArtInHand,
  own: Uint32Array,
  [from, to]: readonly [Texel, Texel],
  plane: Symmetry,
  mask: Uint8Array | null,
): Uint32Array {
  const { width } = art.pixels;
  const shown = shownArt(art);
  const form = formNow(usePaint.getState());
  if (isDrawn(form) && own.length < fewTexels) return Uint32Array.from(mirroredTexels(shown, own, plane)).sort();
  const ends = [from, to].map(([x, y]) => mirroredTexel(shown, y * width + x, plane)?.texel);
  const [a, b] = ends.map((t) => (t === undefined ? null : ([t % width, Math.floor(t / width)] as Texel)));
  return b ? textured(art, a ?? b, b, mask) : new Uint32Array(0);
}

/** Forms that are drawn on the art's grid, and those that fill what is there. */
const isDrawn = (form: PaintState['form']): boolean => form === 'dots' || form === 'stamps' || form === 'rectangle';

/** Texels of several lists that may be set, ascending, each once. */
function joined({ pixels }: ArtInHand, lists: readonly Uint32Array[], mask: Uint8Array | null): Uint32Array {
  if (lists.length < 2) return within(lists[0] ?? new Uint32Array(0), mask);
  if (lists.every((list) => list.length < fewTexels))
    return Uint32Array.from(new Set(lists.flatMap((list) => [...list]).filter((t) => !mask || mask[t]))).sort();
  const isIn = new Uint8Array(pixels.cells.length);
  for (const list of lists) for (const t of list) if (!mask || mask[t]) isIn[t] = 1;
  return where(isIn);
}

/** The texels of the phrase's form between two places, not mirrored. */
function textured(art: ArtInHand, a: Texel, b: Texel, mask: Uint8Array | null, stamped?: Texel): Uint32Array {
  const { pixels, loaded, seats, cell } = art;
  const paint = usePaint.getState();
  const { size, shape } = paint;
  const form = formNow(paint);
  const at = b[1] * pixels.width + b[0];
  if (form === 'rectangle') return rectangleBetween(pixels, a, b);
  if (form === 'touching') return touchingTexels(pixels, at, mask ?? undefined, linksOf(art));
  if (form === 'everywhere' || form === 'onSheet') return texelsShowing(pixels, pixels.cells[at]!, mask ?? undefined);
  if (form === 'dots') return dabsAlong(pixels, a, b, { size, shape });
  if (form === 'stamps') {
    const motif = motifNow(useEditor.getState().state.kit, paint);
    const [ox, oy] = stamped ?? stampAt(motif, b);
    const { x, y, w, h } = tileUnder(motif, b[0] - ox, b[1] - oy);
    const ends = [x + ox, y + oy, x + ox + w - 1, y + oy + h - 1] as const;
    if (ends[2] < 0 || ends[3] < 0 || ends[0] >= pixels.width || ends[1] >= pixels.height) return new Uint32Array(0);
    return rectangleBetween(pixels, [ends[0], ends[1]], [ends[2], ends[3]]);
  }
  const face = ownersIn(art).face[at]!;
  const faces = form === 'picked' ? pickedFaces() : face < 0 ? [] : form === 'face' ? [face] : partOf(loaded.adjacency, face);
  return where(texelsUnder(loaded.mesh, seats, cell, pixels, faces));
}

/** Where a tile begins of which a texel is the middle. */
export const stampAt = ({ rows }: Motif, [x, y]: Texel): Texel => [x - (rows[0]!.length >> 1), y - (rows.length >> 1)];

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
