import { group, type Edit } from '../kit/edit/edit';
import { findCell, findModel, type Cell, type KitState } from '../kit/kit';
import { unlockedFaces } from '../faces/regions/regions';
import { placeCorners } from '../faces/seat/placeFaces';
import { ruleEdit, seatFaces } from '../kit/edit/seatFaces';
import { boundsOf, type Island } from './islandsOf';
import { seatAt } from './texels';

/** A change of where things lie on the sheet, in texels: first turned and sized about the middle, then moved. */
export interface Move {
  /** Texels to the right and down. */
  by: readonly [number, number];
  /** Factors across and down; below 0 turns over. */
  size: readonly [number, number];
  /** Degrees, clockwise. */
  turn: number;
}

export const noMove: Move = { by: [0, 0], size: [1, 1], turn: 0 };

/**
 * Texels that an island has to stay away from the border of its cell: none to the nearest texel, half a one where
 * neighbours are mixed, and as many times that as mip levels make of a texel.
 */
export const clearanceFor = (filter: 'nearest' | 'linear', mipLevels: number): number =>
  filter === 'linear' || mipLevels > 0 ? 0.5 * 2 ** mipLevels : 0;

/** How far islands may come to the border of art; a gradient's seats keep half a texel by themselves. */
export const marginOf = (cell: Cell, clearance: number): number => (cell.fill.kind === 'art' ? clearance : Math.max(0.5, clearance));

/**
 * Corners of faces after a move, in texels, at their numbers. Where they would leave their cell or come nearer to
 * its border than `clearance` they are moved back inside, and made smaller where they are larger than it.
 */
export function moved(
  faces: Uint32Array,
  faceStart: Uint32Array,
  texels: Float32Array,
  { by, size, turn }: Move,
  cell: Cell,
  clearance: number,
): Float32Array {
  const out = texels.slice();
  const [x0, x1, y0, y1] = boundsOf(faces, faceStart, texels);
  const [mx, my] = [(x0 + x1) / 2, (y0 + y1) / 2];
  const [c, s] = [Math.cos((turn * Math.PI) / 180), Math.sin((turn * Math.PI) / 180)];
  eachCorner(faces, faceStart, (i) => {
    const [x, y] = [(texels[i]! - mx) * size[0], (texels[i + 1]! - my) * size[1]];
    out[i] = mx + x * c - y * s + by[0];
    out[i + 1] = my + x * s + y * c + by[1];
  });
  // Art that repeats has no border.
  return cell.fill.kind === 'art' && cell.fill.repeats ? out : keptInside(faces, faceStart, out, cell, marginOf(cell, clearance));
}

function keptInside(faces: Uint32Array, faceStart: Uint32Array, texels: Float32Array, { rect }: Cell, margin: number): Float32Array {
  const [x0, x1, y0, y1] = boundsOf(faces, faceStart, texels);
  const room = [Math.max(0, rect.w - 2 * margin), Math.max(0, rect.h - 2 * margin)] as const;
  const factor = Math.min(1, x1 > x0 ? room[0] / (x1 - x0) : 1, y1 > y0 ? room[1] / (y1 - y0) : 1);
  const [mx, my] = [(x0 + x1) / 2, (y0 + y1) / 2];
  const shift = (middle: number, half: number, start: number, length: number, free: number) => {
    const least = start + (length - free) / 2 + half;
    const most = start + (length + free) / 2 - half;
    return Math.max(least, Math.min(most, middle)) - middle;
  };
  const dx = shift(mx, ((x1 - x0) / 2) * factor, rect.x, rect.w, room[0]);
  const dy = shift(my, ((y1 - y0) / 2) * factor, rect.y, rect.h, room[1]);
  const out = texels.slice();
  eachCorner(faces, faceStart, (i) => {
    out[i] = mx + (texels[i]! - mx) * factor + dx;
    out[i + 1] = my + (texels[i + 1]! - my) * factor + dy;
  });
  return out;
}

/** Fills a cell with faces, up to its clearance; in their proportions, or stretched to all of it. */
export function fitted(
  faces: Uint32Array,
  faceStart: Uint32Array,
  texels: Float32Array,
  cell: Cell,
  clearance: number,
  isStretched = false,
): Float32Array {
  const [x0, x1, y0, y1] = boundsOf(faces, faceStart, texels);
  const margin = marginOf(cell, clearance);
  const room = [Math.max(0, cell.rect.w - 2 * margin), Math.max(0, cell.rect.h - 2 * margin)] as const;
  const [fx, fy] = [x1 > x0 ? room[0] / (x1 - x0) : 1, y1 > y0 ? room[1] / (y1 - y0) : 1];
  const one = Math.min(x1 > x0 ? fx : Infinity, y1 > y0 ? fy : Infinity);
  const factor = isStretched ? [fx, fy] : [Number.isFinite(one) ? one : 1, Number.isFinite(one) ? one : 1];
  const out = texels.slice();
  const [mx, my] = [(x0 + x1) / 2, (y0 + y1) / 2];
  eachCorner(faces, faceStart, (i) => {
    out[i] = cell.rect.x + cell.rect.w / 2 + (texels[i]! - mx) * factor[0]!;
    out[i + 1] = cell.rect.y + cell.rect.h / 2 + (texels[i + 1]! - my) * factor[1]!;
  });
  return out;
}

function eachCorner(faces: Uint32Array, faceStart: Uint32Array, visit: (at: number) => void): void {
  for (const f of faces) for (let c = faceStart[f]!; c < faceStart[f + 1]!; c++) visit(c * 2);
}

/** Islands on art that lie nearer to the border of their cell than `clearance`. */
export const tooNear = (islands: readonly Island[], cells: ReadonlyMap<number, Cell>, clearance: number): Island[] =>
  islands.filter(({ cell, bounds: [x0, x1, y0, y1] }) => {
    const { rect, fill } = cells.get(cell)!;
    const free = clearance - 1e-3;
    const isNear = x0 < rect.x + free || y0 < rect.y + free || x1 > rect.x + rect.w - free || y1 > rect.y + rect.h - free;
    return fill.kind === 'art' && !fill.repeats && isNear;
  });

/**
 * The edit that lays faces on a cell at these texels (see `moved`); those of locked regions stay. What was laid by
 * a rule is by hand from then on. `null` where nothing changes.
 */
export function layAt(
  state: KitState,
  modelId: string,
  faceStart: Uint32Array,
  faces: Uint32Array,
  cellId: number,
  texels: Float32Array,
  label: string,
): Edit | null {
  const { cell } = findCell(state.kit, cellId)!;
  const seats = state.seats[modelId]!;
  const open = unlockedFaces(findModel(state.kit, modelId), seats, faces);
  const edits = [
    seatFaces(modelId, seats.cell, open, cellId),
    placeCorners(modelId, seats, faceStart, open, (out, at, corner) => {
      [out[at], out[at + 1]] = seatAt(cell, texels[corner * 2]!, texels[corner * 2 + 1]!) as [number, number];
    }),
    ruleEdit(modelId, seats, open, 0),
  ].filter((e) => e !== null);
  return edits.length ? group(label, edits) : null;
}
