import { paintInVariant } from '@/core/faces/variants/paintInVariant';
import type { Edit, PixelEdit } from '@/core/kit/edit/edit';
import { spansOf } from '@/core/kit/edit/seatFaces';
import { findCell } from '@/core/kit/kit';
import { brushEdit, type Sets } from '@/core/sheet/paint/brush';
import { isEmptyMotif } from '@/core/sheet/paint/motifs';
import type { PointAt } from '@/core/sheet/paint/patterns';
import { nudgedCell, type Nudge } from '@/core/sheet/ramp/nudge';
import { mirroredTexel, pointShown } from '@/core/faces/seat/mirroredTexels';
import { rimOf, texelsUnder } from '@/core/faces/seat/texelsOnFaces';
import { facesWhere } from '@/core/shapes/mesh/facesWhere';
import { count } from '@/core/ground/words';
import { announce } from '../told/announce';
import { notify, notifyError } from '../told/notices';
import { useColoring } from '../chosen/coloringState';
import { usePaint } from '../chosen/paint';
import { usePhrase } from '../chosen/phrase';
import { pickedFaces } from '../chosen/pickState';
import { baseState, moment, useEditor } from '../kit/editor';
import { dispatch } from '../kit/edits';
import { symmetryInView } from '../pick/symmetries';
import { artInHand, ownersIn, type ArtInHand } from './artInHand';
import { colorName, formNow, setsNow } from './brushSets';
import { makeMask } from './mask';
import { elsewhereOnSheet, planeNow, reachedBy, shownArt, stampAt, type Press, type Texel } from './reach';

/** What else a press reaches, besides the texel that is meant. */
type Besides = Omit<Press, 'from' | 'to'> & { from?: Texel | null };

/** Whether the phrase mirrors, and the twins of the model in view are not known yet; then they are looked for. */
function isMirrorUnknown(art: ArtInHand): boolean {
  if (usePhrase.getState().mirror === 'nowhere' || planeNow(art)) return false;
  void symmetryInView().then(() => {
    const { lit } = usePaint.getState();
    if (lit?.across === 'unknown' && artInHand() && planeNow(artInHand()!)) pointAtTexel(lit.at);
  });
  return true;
}

/** More texels than these are outlined on the art alone. */
const mostInRim = 4000;

/** Lights what a press at a texel would set. `null`: nothing. */
export function pointAtTexel(at: Texel | null, { from, ...besides }: Besides = {}): void {
  const art = at && artInHand();
  if (!at || !art) {
    if (usePaint.getState().lit) usePaint.setState({ lit: null });
    return;
  }
  const texel = at[1] * art.pixels.width + at[0];
  const owners = ownersIn(art);
  const [faces, face] = [owners.count[texel]!, owners.face[texel]!];
  const elsewhere = elsewhereOnSheet(art, at).reduce((sum, e) => sum + e.texels.length, 0);
  const plane = planeNow(art);
  const twin = plane && mirroredTexel(shownArt(art), texel, plane);
  const across = plane ? (twin ? (twin.isExact ? 'exact' : 'near') : 'none') : isMirrorUnknown(art) ? 'unknown' : null;
  const { texels } = reachedBy(art, { from: from ?? at, to: at, ...besides });
  const rim = rimOf(art.pixels, owners, texels, mostInRim);
  usePaint.setState({ lit: { art: art.art, at, texels, rim, elsewhere, faces, face, across } });
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
export const pointAlongLine = (at: Texel): void =>
  pointAtTexel(at, { from: formNow(usePaint.getState()) === 'dots' ? lineFrom(artInHand()) : null });

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
    /** Where the first tile begins, of stamps. */
    private readonly stamped: Texel | undefined,
  ) {
    this.last = from;
    this.stepped = new Uint8Array(texels);
  }

  /** Begins at a texel, or goes on to it from where the last one ended; `null` where there is nothing to paint on, or no color is chosen, which is said. */
  static begin(at: Texel, { isLine = false, behind = [] }: { isLine?: boolean; behind?: readonly Texel[] } = {}): Stroke | null {
    const art = artInHand();
    if (usePaint.getState().isRenewing) usePaint.setState(({ seed }) => ({ seed: seed + 1 }));
    const sets = setsNow();
    if (art && !sets) notify('Choose a color of the tray first: a press sets texels to it.');
    if (!art || !sets) return null;
    // Half of what was asked for would be set otherwise.
    if (isMirrorUnknown(art)) {
      notify('The other half of the model is still looked for. Press again in a moment.');
      return null;
    }
    if (sets.kind === 'motif' && !sets.cell && isEmptyMotif(sets.motif)) {
      notify(`“${sets.motif.name}” has no step yet, so that it would change nothing. Draw it first: “Draw this one” in the tray.`);
      return null;
    }
    const form = formNow(usePaint.getState());
    const stamped = form === 'stamps' && sets.kind === 'motif' ? stampAt(sets.motif, at) : undefined;
    const stroke = new Stroke(art.cell.id, sets, art.pixels.cells.length, at, stamped);
    const from = isLine && form === 'dots' ? lineFrom(art) : null;
    if (from) stroke.last = from;
    if (form !== 'rectangle') stroke.set(at, behind);
    return stroke;
  }

  /** `isOnModel`: what is far apart on the art may be near on the model: then only the place itself is set. */
  moveTo(at: Texel, isOnModel = false, behind: readonly Texel[] = []): void {
    const form = formNow(usePaint.getState());
    if (isOnModel && Math.max(Math.abs(at[0] - this.last[0]), Math.abs(at[1] - this.last[1])) > nextTo) this.last = at;
    if (form === 'rectangle') return pointAtTexel(at, { from: this.from });
    if (form === 'dots' || form === 'stamps') this.set(at, behind);
    pointAtTexel(at, { behind, stamped: this.stamped });
  }

  /** Ends where it was moved to. */
  end(at: Texel | null): void {
    if (formNow(usePaint.getState()) === 'rectangle' && at) {
      this.last = this.from;
      this.set(at, []);
    }
    this.isOver = true;
    pointAtTexel(at);
  }

  private set(at: Texel, behind: readonly Texel[]): void {
    const art = artInHand();
    // What was begun and then undone does not go on.
    const { edits, cursor } = useEditor.getState().history;
    if (this.joins && edits[cursor - 1] !== this.joins) this.isOver = true;
    if (this.isOver || !this.isNow() || art?.cell.id !== this.cell) return;
    const { state } = useEditor.getState();
    const others = elsewhereOnSheet(art, at);
    const { stepped, stamped } = this;
    const { texels, sourceOf } = reachedBy(art, { from: this.last, to: at, behind, stamped });
    const shown = brushEdit(state, art.art, texels, this.sets, { stepped, from: stamped, sourceOf, pointAt: pointAtOf(art) });
    this.last = at;
    last = { cell: this.cell, at };
    if (shown) this.joins = paintTexels(this.cell, shown, this.joins) ?? this.joins;
    for (const other of others) {
      const edit = brushEdit(state, other.art, other.texels, this.sets);
      if (edit) this.joins = paintTexels(other.cell, edit, this.joins) ?? this.joins;
    }
  }
}

/** Where on the model the texels of an art are shown. */
export function pointAtOf(art: ArtInHand): PointAt {
  const shown = shownArt(art);
  return (x, y) => pointShown(shown, y * art.pixels.width + x);
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
  return `row ${y + 1}, place ${x + 1}: ${colorName(useEditor.getState().state.kit, cell)}`;
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
  const shown = shownArt(art);
  const other = new Map<number, number>();
  for (let t = 0; t < isUnder.length; t++) {
    if (!isUnder[t] || (mask && !mask[t])) continue;
    const source = mirroredTexel(shown, t, plane)?.texel;
    if (source !== undefined && isPicked.has(face[source]!)) other.set(t, pixels.cells[source]!);
  }
  const texels = facesWhere(isUnder.length, (t) => other.has(t));
  const spans = spansOf(pixels.cells, texels, (_, t) => other.get(t)!);
  if (!texels.length) return notify('The picked faces have no twins on this art. Pick faces of one side; the phrase tells the plane.');
  if (!spans.length) return void announce('The other side is like it already');
  if (paintTexels(cell.id, { kind: 'pixels', art: art.art, spans }))
    announce(`${count(texels.length, 'texel')} of the other side are like it now`);
}
