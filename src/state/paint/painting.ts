import { paintInVariant } from '@/core/faces/variants/paintInVariant';
import type { Edit, PixelEdit } from '@/core/kit/edit/edit';
import { spansOf } from '@/core/kit/edit/seatFaces';
import { findCell } from '@/core/kit/kit';
import { brushEdit, nextInRamps, type Sets } from '@/core/sheet/paint/brush';
import { nudgedCell, type Nudge } from '@/core/sheet/ramp/nudge';
import { texelsUnder } from '@/core/faces/seat/texelsOnFaces';
import { facesWhere } from '@/core/shapes/mesh/facesWhere';
import { count } from '@/core/ground/words';
import { announce } from '../told/announce';
import { notify, notifyError } from '../told/notices';
import { useColoring } from '../chosen/coloringState';
import { usePaint } from '../chosen/paint';
import { pickedFaces } from '../chosen/pickState';
import { baseState, moment, useEditor } from '../kit/editor';
import { dispatch } from '../kit/edits';
import { symmetryInView } from '../pick/symmetries';
import { artInHand, ownersIn, type ArtInHand } from './artInHand';
import { elsewhereOnSheet, makeMask, mirroredTexel, texelsBetween, type Texel } from './reach';

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

/** Lights what a press at a texel would set. `null`: nothing. */
export function pointAtTexel(at: Texel | null, from: Texel | null = null): void {
  const art = at && artInHand();
  if (!at || !art) {
    if (usePaint.getState().lit) usePaint.setState({ lit: null });
    return;
  }
  const faces = ownersIn(art).count[at[1] * art.pixels.width + at[0]]!;
  const elsewhere = elsewhereOnSheet(art, at).reduce((sum, e) => sum + e.texels.length, 0);
  usePaint.setState({ lit: { art: art.art, at, texels: texelsBetween(art, from ?? at, at), elsewhere, faces } });
}

/** Texels change in the coloring in hand: what of the default, or of a variant alone. Returns what stands in the history. */
function paintTexels(cell: number, shown: PixelEdit, joins: Edit | null = null): Edit | null {
  const { variant } = useEditor.getState();
  return dispatch(variant ? paintInVariant(baseState(), variant, cell, shown) : shown, { joins });
}

/** The texel at which the last stroke ended, from which a straight line can go on. */
let last: { cell: number; at: Texel } | null = null;
const lineFrom = (art: ArtInHand | null): Texel | null => (art && last?.cell === art.cell.id ? last.at : null);

/** Lights the straight line that a press would set from where the last stroke ended, or the press itself where there was none. */
export const pointAlongLine = (at: Texel): void => pointAtTexel(at, usePaint.getState().form === 'dots' ? lineFrom(artInHand()) : null);

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

  /** Begins at a texel, or goes on to it from where the last one ended; `null` where there is nothing to paint on, or no color is chosen, which is said. */
  static begin(at: Texel, { isLine = false } = {}): Stroke | null {
    const art = artInHand();
    const sets = setsNow();
    if (art && !sets) notify('Choose a color of the tray first: a press sets texels to it.');
    if (!art || !sets) return null;
    const stroke = new Stroke(art.cell.id, sets, art.pixels.cells.length, at);
    const from = isLine && usePaint.getState().form === 'dots' ? lineFrom(art) : null;
    if (from) stroke.last = from;
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
    const { state } = useEditor.getState();
    const others = elsewhereOnSheet(art, at);
    const shown = brushEdit(state, art.art, texelsBetween(art, this.last, at), this.sets, this.stepped);
    this.last = at;
    last = { cell: this.cell, at };
    if (shown) this.joins = paintTexels(this.cell, shown, this.joins) ?? this.joins;
    for (const other of others) {
      const edit = brushEdit(state, other.art, other.texels, this.sets);
      if (edit) this.joins = paintTexels(other.cell, edit, this.joins) ?? this.joins;
    }
  }
}

/** One press and let go, as by a key. */
export function paintAt(at: Texel, isLine = false): void {
  Stroke.begin(at, { isLine })?.end(at);
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

/** The brush goes on with a color a little to one side of its own: one of the sheet, or a new step beside it. */
export function nudgeColor(to: Nudge): void {
  try {
    const found = nudgedCell(baseState(), useColoring.getState().cell, to);
    if (!found) return notify(`There is no ${to} color beside this one.`);
    if (found.edit && !dispatch(found.edit)) return;
    useColoring.setState({ cell: found.cell });
    usePaint.setState({ sets: 'color' });
    announce(`The brush sets ${findCell(baseState().kit, found.cell)?.cell.role || 'this color'}`);
  } catch (error) {
    notifyError(error);
  }
}

/** What lies under the picked faces comes to lie under their twins as well, across the plane of the model; one undo. */
export async function copyToOtherSide(): Promise<void> {
  const isNow = moment();
  const plane = await symmetryInView();
  const art = isNow() ? artInHand() : null;
  if (!plane || !art) return;
  const { pixels, loaded, seats, cell } = art;
  const picked = pickedFaces();
  const isPicked = new Set(picked);
  // A face that is picked itself gives, and takes nothing.
  const twins = Uint32Array.from(picked, (f) => plane.twin[f]!).filter((f) => f < loaded.mesh.faceStart.length - 1 && !isPicked.has(f));
  const isUnder = texelsUnder(loaded.mesh, seats, cell, pixels, twins);
  const mask = makeMask(art, null);
  const { face } = ownersIn(art);
  const other = new Map<number, number>();
  for (let t = 0; t < isUnder.length; t++) {
    if (!isUnder[t] || (mask && !mask[t])) continue;
    const from = mirroredTexel(art, [t % pixels.width, Math.floor(t / pixels.width)], plane);
    const source = from && from[1] * pixels.width + from[0];
    if (source !== null && isPicked.has(face[source]!)) other.set(t, pixels.cells[source]!);
  }
  const texels = facesWhere(isUnder.length, (t) => other.has(t));
  const spans = spansOf(pixels.cells, texels, (_, t) => other.get(t)!);
  if (!texels.length) return notify('The picked faces have no twins on this art. Pick faces of one side; the phrase tells the plane.');
  if (!spans.length) return void announce('The other side is like it already');
  if (paintTexels(cell.id, { kind: 'pixels', art: art.art, spans }))
    announce(`${count(texels.length, 'texel')} of the other side are like it now`);
}
