import { byId } from '../ground/byId';
import { inherits } from '../ground/limits';
import { putVariant } from '../faces/variants/intoVariant';
import { placeCorners } from '../faces/seat/placeFaces';
import { ownersOfTexels, texelsOfFace } from '../faces/seat/texelsOnFaces';
import { groupForAll, type Edit } from '../kit/edit/edit';
import { kitAfter } from '../kit/edit/kitAfter';
import { seatFaces, spansOf } from '../kit/edit/seatFaces';
import { findCell, type Cell, type KitState, type Rect, type Seats } from '../kit/kit';
import { emptyPixels, isPainted, newPixelsId, paintedByVariant, type Pixels } from '../kit/pixels';
import type { Adjacency } from '../shapes/mesh/adjacency';
import type { PolyMesh } from '../shapes/mesh/polyMesh';
import { artBeside } from '../sheet/artBeside';
import { freePlaces } from '../sheet/freePlace';
import { boundsOf, islandsOf } from './islandsOf';
import { packBoxes } from './paintable';
import { stackLike } from './stackLike';

/** A model that lies on painted art. */
export interface OnArt {
  model: string;
  mesh: PolyMesh;
  adjacency: Adjacency;
  /** The cell of the art. */
  cell: number;
}

/**
 * The islands of a model on its art, and where its corners lie there, in texels of the art. What is folded over an edge, so
 * that its halves lie on each other, are two.
 */
function islandsOn(
  { kit, seats }: KitState,
  { model, mesh, adjacency, cell }: OnArt,
  { width, height }: Pixels,
): { islands: Uint32Array[]; at: Float32Array } {
  const { sheet } = findCell(kit, cell)!;
  const own = seats[model]!;
  const at = own.at!.map((v, i) => v * (i % 2 ? height : width));
  const { islands } = islandsOf(adjacency, own, { ...sheet, cells: sheet.cells.filter((c) => c.id === cell) });
  const isOver = (f: number) => areaOn(mesh, at, f) < 0;
  return {
    islands: islands.flatMap(({ faces }) => [faces.filter((f) => !isOver(f)), faces.filter(isOver)].filter((list) => list.length > 0)),
    at,
  };
}

/** Square texels of a face, twice; below 0 where it lies with its back up. */
function areaOn({ faceStart }: Pick<PolyMesh, 'faceStart'>, at: Float32Array, f: number): number {
  let area = 0;
  for (let c = faceStart[f]!, d = faceStart[f + 1]! - 1; c < faceStart[f + 1]!; d = c++)
    area += at[d * 2]! * at[c * 2 + 1]! - at[c * 2]! * at[d * 2 + 1]!;
  return area;
}

const pixelsOn = ({ kit, pixels }: KitState, cell: number): { art: string; own: Pixels } | null => {
  const fill = findCell(kit, cell)?.cell.fill;
  const own = isPainted(fill) ? pixels?.[fill.picture] : undefined;
  return own && isPainted(fill) ? { art: fill.picture, own } : null;
};

/** The islands that have texels in common with others of the model, the ones that keep theirs left out; `only`: of those alone that have one of these faces. */
export function sharingIslands(state: KitState, on: OnArt, only: Uint32Array | null): Uint32Array[] {
  const found = pixelsOn(state, on.cell);
  const seats = state.seats[on.model]!;
  if (!found || !seats.at) return [];
  const { islands } = islandsOn(state, on, found.own);
  const meant = only && new Set(only);
  const showing = new Int32Array(found.own.cells.length);
  const under = islands.map((faces) => [...new Set([...faces].flatMap((f) => texelsOfFace(on.mesh, seats, found.own, f)))]);
  for (const own of under) for (const t of own) showing[t]!++;
  // From the last, so that the largest keep their place.
  const out: Uint32Array[] = [];
  for (let i = islands.length - 1; i >= 0; i--) {
    const faces = islands[i]!;
    if (meant && !faces.some((f) => meant.has(f))) continue;
    const own = under[i]!;
    if (!own.some((t) => showing[t]! > 1)) continue;
    for (const t of own) showing[t]!--;
    out.push(faces);
  }
  return out;
}

/**
 * The edit after which islands that share texels have texels of their own, which show the same: in spare room of their art,
 * else on further art in spare room of the sheet, or on a sheet that grows. Nothing else moves, and no face changes its
 * look, in no variant. `gap`: texels between islands. `null` where none shares any. Throws where the sheet is frozen, or
 * would be too large.
 */
export function partShared(state: KitState, on: OnArt, only: Uint32Array | null, gap: number): { edit: Edit; islands: number } | null {
  const { kit } = state;
  const sharing = sharingIslands(state, on, only);
  const found = pixelsOn(state, on.cell);
  if (!sharing.length || !found) return null;
  const { cell, sheet } = findCell(kit, on.cell)!;
  const { own, art } = found;
  const { width, height } = own;
  const seats = state.seats[on.model]!;
  const { faceStart } = on.mesh;
  const { at } = islandsOn(state, on, own);
  const boxOf = (faces: Uint32Array): Rect => {
    const [x0, x1, y0, y1] = boundsOf(faces, faceStart, at).map((v, i) => (i % 2 ? Math.ceil(v - 1e-3) : Math.floor(v + 1e-3))) as [number, number, number, number]; // prettier-ignore
    return { x: x0, y: y0, w: Math.max(1, x1 - x0), h: Math.max(1, y1 - y0) };
  };
  // What reaches beyond the art shows its border there, which cannot be copied.
  const isInside = ({ x, y, w, h }: Rect) => x >= 0 && y >= 0 && x + w <= width && y + h <= height;
  const shared = sharing.filter((faces) => isInside(boxOf(faces)));
  if (!shared.length) throw new Error('The places that share texels reach beyond their art. Bring them into it first: Islands.');
  const boxes = shared.map(boxOf);
  const place = isAlone(state, on) ? freePlaces(takenTexels(on, seats, own), width, height) : () => null;
  const within = boxes.map((b) => place(b.w, b.h, gap));
  const edits: Edit[] = [];
  const to = new Map<number, { x: number; y: number; width: number; height: number }>();
  const moveTo = (i: number, { x, y }: { x: number; y: number }, size: { width: number; height: number }) => {
    for (const f of shared[i]!) to.set(f, { x: x - boxes[i]!.x, y: y - boxes[i]!.y, ...size });
  };
  within.forEach((r, i) => r && moveTo(i, r, own));
  const copies = within.flatMap((r, i) => (r ? [[boxes[i]!, r] as const] : []));
  if (copies.length)
    for (const number of [art, ...variantsOn(state, cell).map(([, n]) => n)]) {
      const edit = copied(state.pixels![number]!, copies);
      if (edit.length) edits.push({ kind: 'pixels', art: number, spans: edit });
    }
  const others = within.flatMap((r, i) => (r ? [] : [i]));
  let seated: Edit[] = [];
  if (others.length) {
    const packed = packBoxes(others.map((i) => [boxes[i]!.w, boxes[i]!.h] as const), gap); // prettier-ignore
    const goals = others.map((i, k) => ({ ...boxes[i]!, x: packed.corners[k]![0], y: packed.corners[k]![1] }));
    const pairs = others.map((i, k) => [boxes[i]!, goals[k]!] as const);
    const beside = artBeside(kit, sheet, moved(own, packed, pairs, shownIn(own, pairs[0]![0])), `${cell.role}, apart`.slice(0, 200), {
      isInSpareRoom: true,
    });
    edits.push(...beside.edits);
    others.forEach((i, k) => moveTo(i, goals[k]!, packed));
    let now = kitAfter(kit, beside.edits);
    for (const [variant, number] of variantsOn(state, cell)) {
      const picture = newPixelsId();
      const after = moved(state.pixels![number]!, packed, pairs, inherits);
      const before = now.variants.find((v) => v.id === variant)!;
      const own: Edit[] = [
        { kind: 'canvas', art: picture, before: null, after },
        putVariant({ kit: now }, { ...before, fills: { ...before.fills, [beside.cell.id]: { kind: 'art', picture, painted: true } } }),
      ];
      edits.push(...own);
      now = kitAfter(now, own);
    }
    const faces = Uint32Array.from(others.flatMap((i) => [...shared[i]!])).sort();
    seated = [seatFaces(on.model, seats.cell, faces, beside.cell.id)!];
  }
  const laid = placeCorners(on.model, seats, faceStart, Uint32Array.from(to.keys()), (out, i, corner) => {
    const { x, y, width, height } = to.get(on.adjacency.cornerFace[corner]!)!;
    out[i] = (at[corner * 2]! + x) / width;
    out[i + 1] = (at[corner * 2 + 1]! + y) / height;
  });
  return { edit: groupForAll('Part shared texels', [...edits, ...seated, ...(laid ? [laid] : [])]), islands: shared.length };
}

/**
 * The edit after which islands of one shape, of those that have one of these faces, lie on the texels of the first of each
 * shape; what theirs showed is seen no more. `unlike`: islands of shapes that none of the others has, which stay. `null`
 * where none joins another.
 */
export function shareAlike(state: KitState, on: OnArt, faces: Uint32Array): { edit: Edit; islands: number; unlike: number } | null {
  const found = pixelsOn(state, on.cell);
  const seats = state.seats[on.model]!;
  if (!found || !seats.at) return null;
  const meant = new Set(faces);
  const { islands: all, at } = islandsOn(state, on, found.own);
  const islands = all.filter((own) => own.some((f) => meant.has(f)));
  const { islands: stacks, places } = stackLike(islands, on.mesh.faceStart, at);
  const { width, height } = found.own;
  const laid = placeCorners(on.model, seats, on.mesh.faceStart, Uint32Array.from(islands.flatMap((own) => [...own])), (out, i, corner) => {
    for (const k of [0, 1]) {
      const c = corner * 2 + k;
      // What stays does so to the last digit.
      out[i + k] = places[c] === at[c] ? seats.at![c]! : places[c]! / (k ? height : width);
    }
  });
  const joined = islands.length - stacks.length;
  if (!laid || !joined) return null;
  return {
    edit: groupForAll('Share texels', [laid]),
    islands: joined,
    unlike: stacks.filter((s) => islands.some((own) => own.length === s.length && own.every((f) => s.includes(f)))).length,
  };
}

/** Whether no other model, and no variant, lays faces on an art: only then it is known which texels are spare. */
function isAlone({ kit, seats, patches = byId() }: KitState, { model, cell }: OnArt): boolean {
  const lies = kit.models.some((m) => m.id !== model && seats[m.id]?.cell.includes(cell));
  const isPatched = Object.values(patches).some((of) => Object.values(of).some((p) => p.cell.includes(cell) || p.at));
  return !lies && !isPatched;
}

function takenTexels(on: OnArt, seats: Seats, own: Pixels): Uint8Array {
  const { count } = ownersOfTexels(on.mesh, seats, { id: on.cell }, own);
  const taken = count.map((n) => Math.min(1, n));
  // Texels at the border of an island may show though their middle lies beside it: whole boxes are taken.
  const { faceStart } = on.mesh;
  for (let f = 0; f < seats.cell.length; f++) {
    if (seats.cell[f] !== on.cell) continue;
    const [x0, x1, y0, y1] = boundsOf([f], faceStart, seats.at!);
    const [left, right] = [Math.max(0, Math.floor(x0 * own.width + 1e-3)), Math.min(own.width, Math.ceil(x1 * own.width - 1e-3))];
    const [top, end] = [Math.max(0, Math.floor(y0 * own.height + 1e-3)), Math.min(own.height, Math.ceil(y1 * own.height - 1e-3))];
    for (let y = top; y < end; y++) taken.fill(1, y * own.width + left, y * own.width + Math.max(left, right));
  }
  return taken;
}

/** What variants paint on an art: variant, and the number of its pixels. */
function variantsOn({ kit, pixels }: KitState, cell: Cell): [variant: string, art: string][] {
  const size = isPainted(cell.fill) ? pixels![cell.fill.picture]! : null;
  return kit.variants.flatMap((v) =>
    paintedByVariant(v).flatMap(([id, art]): [string, string][] => {
      const own = id === cell.id ? pixels?.[art] : undefined;
      return own && size && own.width === size.width && own.height === size.height ? [[v.id, art]] : [];
    }),
  );
}

type Pairs = readonly (readonly [from: Rect, to: Rect])[];

/** What the first texel of a rectangle shows that is not nothing: beside islands nothing is cut away, which would make a material of its own. */
function shownIn({ width, cells }: Pixels, { x, y, w, h }: Rect): number {
  for (let row = y; row < y + h; row++) {
    const shown = cells.subarray(row * width + x, row * width + x + w).find((c) => c !== 0);
    if (shown) return shown;
  }
  return 0;
}

/** Rectangles of texels copied within an art, as spans of an edit. */
function copied({ width, cells }: Pixels, pairs: Pairs): Uint32Array {
  const after = new Map<number, number>();
  for (const [from, to] of pairs)
    for (let y = 0; y < from.h; y++)
      for (let x = 0; x < from.w; x++) after.set((to.y + y) * width + to.x + x, cells[(from.y + y) * width + from.x + x]!);
  return spansOf(cells, Uint32Array.from(after.keys()).sort(), (_, t) => after.get(t)!);
}

/** Rectangles of texels of an art on another one; beside them is `else`. */
function moved({ width, cells }: Pixels, size: { width: number; height: number }, pairs: Pairs, otherwise: number): Pixels {
  const out = emptyPixels(size.width, size.height, otherwise);
  for (const [from, to] of pairs)
    for (let y = 0; y < from.h; y++)
      for (let x = 0; x < from.w; x++) out.cells[(to.y + y) * size.width + to.x + x] = cells[(from.y + y) * width + from.x + x]!;
  return out;
}
