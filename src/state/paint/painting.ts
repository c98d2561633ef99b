import type { Edit } from '@/core/kit/edit/edit';
import { findCell } from '@/core/kit/kit';
import { facesWhere } from '@/core/shapes/mesh/facesWhere';
import { pointOfTexel, texelAtPoint, texelsUnder } from '@/core/faces/seat/texelsOnFaces';
import { paintInVariant } from '@/core/faces/variants/paintInVariant';
import { brushEdit, nextInRamps, type Sets } from '@/core/sheet/paint/brush';
import { dabsAlong, rectangleBetween } from '@/core/sheet/paint/dabs';
import { texelsShowing, touchingTexels } from '@/core/sheet/paint/fills';
import type { Symmetry } from '@/core/shapes/pick/symmetry';
import { announce } from '../told/announce';
import { notify } from '../told/notices';
import { useColoring } from '../chosen/coloringState';
import { usePaint } from '../chosen/paint';
import { usePhrase } from '../chosen/phrase';
import { pickedFaces, usePick } from '../chosen/pickState';
import { baseState, current, moment, useEditor } from '../kit/editor';
import { dispatch } from '../kit/edits';
import { symmetryInView, useSymmetries } from '../pick/symmetries';
import { artInHand, ownersIn, type ArtInHand } from './artInHand';

export type Texel = readonly [x: number, y: number];

/** What the phrase sets; `null` where no color is chosen yet. */
function setsNow(): Sets | null {
  const { sets, within, seed, share, toward } = usePaint.getState();
  if (sets === 'nothing') return { kind: 'cell', cell: 0 };
  if (sets === 'darker' || sets === 'lighter') return { kind: 'step', by: sets === 'darker' ? -1 : 1 };
  const { cell } = useColoring.getState();
  const { kit } = useEditor.getState().state;
  if (findCell(kit, cell)?.cell.fill.kind !== 'solid') return null;
  if (sets === 'noise') return { kind: 'noise', cell, within, seed };
  if (sets === 'checker') return { kind: 'ordered', cell, other: nextInRamps(kit, toward).get(cell) ?? cell, share };
  return { kind: 'cell', cell };
}

/** The plane across which the phrase mirrors, as far as its twins are known. */
function planeNow({ loaded }: ArtInHand): Symmetry | null {
  if (usePhrase.getState().mirror === 'nowhere') return null;
  return useSymmetries.getState().twins[loaded.id] ?? null;
}

/** The texel that lies across the plane: where the twin of its face shows the mirrored point; `null` where there is none. */
function mirroredTexel(art: ArtInHand, [x, y]: Texel, { axis, offset, twin }: Symmetry): Texel | null {
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

/** Texels that may be set, 1 each; `null`: all. Those under faces of locked regions may not. */
function maskOf({ loaded, seats, cell, pixels }: ArtInHand): Uint8Array | null {
  const under = (faces: Uint32Array) => texelsUnder(loaded.mesh, seats, cell, pixels, faces);
  const mask = usePaint.getState().onPicked && usePick.getState().count ? under(pickedFaces()) : null;
  const locked = new Set(current()?.model.regions.flatMap((r) => (r.locked ? [r.id] : [])));
  if (!locked.size) return mask;
  const shut = under(facesWhere(seats.region.length, (f) => locked.has(seats.region[f]!)));
  return shut.map((isShut, t) => (isShut || (mask && !mask[t]) ? 0 : 1));
}

/** All texels that a press from one place to another sets, at every place where it does, ascending. */
function texelsBetween(art: ArtInHand, from: Texel, to: Texel): Uint32Array {
  const { form, size, shape } = usePaint.getState();
  const mask = maskOf(art);
  const [starts, ends] = [placesOf(art, from), placesOf(art, to)];
  const found = new Set<number>();
  ends.forEach((end, i) => {
    const start = starts[i] ?? end;
    // Across a seam of the mirrored half the straight way is no way on the model.
    const isFar = i > 0 && Math.hypot(end[0] - start[0], end[1] - start[1]) > 2 * Math.hypot(to[0] - from[0], to[1] - from[1]) + 2;
    for (const t of textured(isFar ? end : start, end)) if (!mask || mask[t]) found.add(t);
  });
  return Uint32Array.from(found).sort();

  function textured(a: Texel, b: Texel): Uint32Array {
    const at = b[1] * art.pixels.width + b[0];
    if (form === 'rectangle') return rectangleBetween(art.pixels, a, b);
    if (form === 'touching') return touchingTexels(art.pixels, at, mask ?? undefined);
    if (form === 'everywhere') return texelsShowing(art.pixels, art.pixels.cells[at]!, mask ?? undefined);
    return dabsAlong(art.pixels, a, b, { size, shape });
  }
}

/** Lights what a press at a texel would set. `null`: nothing. */
export function pointAtTexel(at: Texel | null, from: Texel | null = null): void {
  const art = at && artInHand();
  if (!at || !art) {
    if (usePaint.getState().lit) usePaint.setState({ lit: null });
    return;
  }
  const faces = ownersIn(art).count[at[1] * art.pixels.width + at[0]]!;
  usePaint.setState({ lit: { art: art.art, at, texels: texelsBetween(art, from ?? at, at), faces } });
}

/** Texels between two places of a stroke on the model that are joined by a line. */
const nextTo = 3;

/** A press that sets texels until it is let go: one undo. */
export class Stroke {
  private joins: Edit | null = null;
  private last: Texel;
  private readonly stepped: Uint8Array;
  private readonly isNow = moment();
  private isOver = false;

  private constructor(
    /** The cell whose art is painted: in a variant that has none of its own yet, its pixels become others on the way. */
    private readonly cell: number,
    private readonly sets: Sets,
    texels: number,
    private readonly from: Texel,
  ) {
    this.last = from;
    this.stepped = new Uint8Array(texels);
  }

  /** Begins at a texel; `null` where there is nothing to paint on, or no color is chosen, which is said. */
  static begin(at: Texel): Stroke | null {
    const art = artInHand();
    const sets = setsNow();
    if (art && !sets) notify('Choose a color of the tray first: a press sets texels to it.');
    if (!art || !sets) return null;
    const stroke = new Stroke(art.cell.id, sets, art.pixels.cells.length, at);
    if (usePaint.getState().form !== 'rectangle') stroke.set(at);
    return stroke;
  }

  /** `isOnModel`: what is far apart on the art may be near on the model: then only the place itself is set. */
  moveTo(at: Texel, isOnModel = false): void {
    const { form } = usePaint.getState();
    if (isOnModel && Math.max(Math.abs(at[0] - this.last[0]), Math.abs(at[1] - this.last[1])) > nextTo) this.last = at;
    if (form === 'rectangle') return pointAtTexel(at, this.from);
    if (form === 'dots') this.set(at);
    pointAtTexel(at);
  }

  /** Ends where it was moved to. */
  end(at: Texel | null): void {
    if (usePaint.getState().form === 'rectangle' && at) {
      this.last = this.from;
      this.set(at);
    }
    this.isOver = true;
    pointAtTexel(at);
  }

  private set(at: Texel): void {
    const art = artInHand();
    // What was begun and then undone does not go on.
    const { edits, cursor } = useEditor.getState().history;
    if (this.joins && edits[cursor - 1] !== this.joins) this.isOver = true;
    if (this.isOver || !this.isNow() || art?.cell.id !== this.cell) return;
    const { state, variant } = useEditor.getState();
    const shown = brushEdit(state, art.art, texelsBetween(art, this.last, at), this.sets, this.stepped);
    const edit = shown && variant ? paintInVariant(baseState(), variant, this.cell, shown) : shown;
    this.last = at;
    if (edit) this.joins = dispatch(edit, { joins: this.joins });
  }
}

/** One press and let go, as by a key. */
export function paintAt(at: Texel): void {
  Stroke.begin(at)?.end(at);
  announce(wordsOfTexel(at));
}

/** Where a texel lies and what it shows, in words. */
export function wordsOfTexel([x, y]: Texel): string {
  const art = artInHand();
  if (!art) return '';
  const cell = art.pixels.cells[y * art.pixels.width + x]!;
  const role = cell ? findCell(useEditor.getState().state.kit, cell)?.cell.role || 'a color without a role' : 'nothing';
  return `row ${y + 1}, place ${x + 1}: ${role}`;
}

/** The color of a texel becomes the one that the brush sets. */
export function takeColorAt([x, y]: Texel): void {
  const art = artInHand();
  const cell = art?.pixels.cells[y * art.pixels.width + x];
  if (!cell) return;
  useColoring.setState({ cell });
  usePaint.setState({ sets: 'color' });
  announce(`The brush sets ${findCell(useEditor.getState().state.kit, cell)?.cell.role || 'this color'}`);
}

/** The mirrored half of the model in view is looked up, so that pointing can show it. */
export const prepareMirror = (): void => {
  if (usePhrase.getState().mirror !== 'nowhere') void symmetryInView();
};
