import { maxSheetSize, mostCellIds, mostIn } from '../ground/limits';
import { lchFromRgb } from '../ground/color/oklab';
import { groupForAll, type Edit } from '../kit/edit/edit';
import { type Cell, type Kit, type Rect, type Sheet } from '../kit/kit';
import { commonCellSize } from './cells';
import { meanColor } from './raster';
import { goingTo, retireInDocument } from './retireCells';

/**
 * A sheet as it shall become: its size, and where its cells lie. Cells that are left out go; spare cells give
 * way and are filled in anew.
 */
export interface Arrangement {
  width: number;
  height: number;
  cells: readonly Cell[];
}

/**
 * The edit that arranges a sheet anew. Colors keep their ids, so no face is touched. Spare cells that are in
 * the way are dropped, and free texels become spare cells of the sheet's usual size. Throws where colors
 * would overlap or leave the sheet, where a limit is passed, or where the sheet is frozen.
 */
export function arrangeSheet(kit: Kit, sheet: Sheet, { width, height, cells }: Arrangement, label: string): Edit {
  if (sheet.frozen) throw new Error(`“${sheet.name}” is frozen: its layout stays as it is.`);
  if (width < 1 || height < 1 || width > maxSheetSize || height > maxSheetSize)
    throw new Error(`A sheet has 1 to ${maxSheetSize} texels a side; ${width} × ${height} is outside of that.`);
  const owner = new Int32Array(width * height).fill(-1);
  const colors = cells.filter((c) => c.fill.kind !== 'spare');
  for (const cell of colors) {
    const { rect } = cell;
    if (rect.x < 0 || rect.y < 0 || rect.w < 1 || rect.h < 1 || rect.x + rect.w > width || rect.y + rect.h > height)
      throw new Error(`“${cell.role || 'A color'}” would lie outside of the sheet.`);
    const other = take(owner, width, rect, cell.id);
    if (other >= 0) {
      const there = cells.find((c) => c.id === other)!;
      throw new Error(`“${cell.role || 'A color'}” would lie over “${there.role || 'another color'}”.`);
    }
  }
  const inSheet = ({ x, y, w, h }: Rect) => x >= 0 && y >= 0 && x + w <= width && y + h <= height;
  const spares = cells.filter((c) => c.fill.kind === 'spare' && inSheet(c.rect) && take(owner, width, c.rect, c.id) < 0);
  const free = freeRects(owner, width, height, commonCellSize({ width, height, cells: colors.length ? colors : spares }));
  return groupForAll(label, changeCells(kit, sheet, { width, height, cells: [...colors, ...spares] }, free));
}

/** Marks a rectangle; the cell that is already there instead, if there is one (nothing is marked then). */
function take(owner: Int32Array, width: number, { x, y, w, h }: Rect, id: number): number {
  for (let row = y; row < y + h; row++)
    for (let at = row * width + x; at < row * width + x + w; at++) if (owner[at]! >= 0) return owner[at]!;
  for (let row = y; row < y + h; row++) owner.fill(id, row * width + x, row * width + x + w);
  return -1;
}

/** Free texels as rectangles no larger than the given size, aligned to its grid. */
export function freeRects(owner: Int32Array, width: number, height: number, size: { w: number; h: number }): Rect[] {
  const out: Rect[] = [];
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      if (owner[y * width + x]! >= 0) continue;
      const isFree = (at: number) => owner[at]! < 0;
      const mostW = Math.min(size.w - (x % size.w), width - x);
      let w = 1;
      while (w < mostW && isFree(y * width + x + w)) w++;
      const mostH = Math.min(size.h - (y % size.h), height - y);
      let h = 1;
      const rowIsFree = (row: number) => {
        for (let k = 0; k < w; k++) if (!isFree(row * width + x + k)) return false;
        return true;
      };
      while (h < mostH && rowIsFree(y + h)) h++;
      for (let row = y; row < y + h; row++) owner.fill(0, row * width + x, row * width + x + w);
      out.push({ x, y, w, h });
    }
  return out;
}

/**
 * The edits from a sheet's cells to others with the same ids, and new spare cells; cells that are left out
 * go, and what referred to them (faces apart) does so no more. Throws where the sheet would hold too many cells.
 */
export function changeCells(kit: Kit, sheet: Sheet, next: Arrangement, spares: readonly Rect[]): Edit[] {
  const after = new Map(next.cells.map((c) => [c.id, c]));
  if (after.size + spares.length > mostIn.cells)
    throw new Error(`The sheet would have ${after.size + spares.length} cells; it can have ${mostIn.cells}.`);
  const edits: Edit[] = [];
  const { width, height } = sheet;
  if (width !== next.width || height !== next.height)
    edits.push({ kind: 'set', of: sheet.id, before: { width, height }, after: { width: next.width, height: next.height } });
  edits.push(...retireInDocument(kit, goingTo(sheet.cells.flatMap((c) => (after.has(c.id) ? [] : [c.id])))).edits);
  // From the last to the first, so that what goes does not move what is still to come.
  let length = sheet.cells.length;
  for (let index = sheet.cells.length - 1; index >= 0; index--) {
    const before = sheet.cells[index]!;
    const cell = after.get(before.id) ?? null;
    if (!cell) length--;
    if (cell && before.fill === cell.fill && before.role === cell.role && isSameRect(before.rect, cell.rect)) continue;
    edits.push({ kind: 'put', list: 'cells', of: sheet.id, index, before, after: cell });
  }
  let id = kit.nextCell;
  for (const rect of spares) {
    if (id > mostCellIds) break;
    const cell: Cell = { id: id++, rect, role: '', fill: { kind: 'spare' } };
    edits.push({ kind: 'put', list: 'cells', of: sheet.id, index: length++, before: null, after: cell });
  }
  if (id !== kit.nextCell) edits.push({ kind: 'set', of: 'kit', before: { nextCell: kit.nextCell }, after: { nextCell: id } });
  return edits;
}

const isSameRect = (a: Rect, b: Rect) => a.x === b.x && a.y === b.y && a.w === b.w && a.h === b.h;
/** Whether two rectangles have texels in common. */
export const overlap = (a: Rect, b: Rect): boolean => a.x < b.x + b.w && b.x < a.x + a.w && a.y < b.y + b.h && b.y < a.y + a.h;
const isInside = (a: Rect, b: Rect) => a.x >= b.x && a.y >= b.y && a.x + a.w <= b.x + b.w && a.y + a.h <= b.y + b.h;

/**
 * Moves cells by so many texels. What lies wholly under them goes to where they came from: two cells of one
 * size swap places.
 */
export function moveCells(kit: Kit, sheet: Sheet, ids: readonly number[], dx: number, dy: number): Edit {
  const moved = new Set(ids);
  const shift = (r: Rect, x: number, y: number): Rect => ({ ...r, x: r.x + x, y: r.y + y });
  const targets = sheet.cells.filter((c) => moved.has(c.id)).map((c) => shift(c.rect, dx, dy));
  const isUnder = (rect: Rect) => targets.some((t) => overlap(t, rect));
  const cells = sheet.cells.map((cell) => {
    if (moved.has(cell.id)) return { ...cell, rect: shift(cell.rect, dx, dy) };
    let { rect } = cell;
    if (!targets.some((t) => isInside(rect, t))) return cell;
    // What a run that moves by less than its length pushes out goes behind it.
    while (isUnder(rect)) rect = shift(rect, -dx, -dy);
    return { ...cell, rect };
  });
  return arrangeSheet(kit, sheet, { ...sheet, cells }, ids.length === 1 ? 'Move a cell' : `Move ${ids.length} cells`);
}

export function resizeCell(kit: Kit, sheet: Sheet, id: number, rect: Rect): Edit {
  const cells = sheet.cells.map((c) => (c.id === id ? { ...c, rect } : c));
  return arrangeSheet(kit, sheet, { ...sheet, cells }, 'Resize a cell');
}

/**
 * Divides a cell in `columns` × `rows`; its color stays in the first part, the others are spare. Throws where
 * it has too few texels, and on a frozen sheet.
 */
export function splitCell(kit: Kit, sheet: Sheet, id: number, columns: number, rows: number): Edit {
  const cell = sheet.cells.find((c) => c.id === id)!;
  const { x, y, w, h } = cell.rect;
  if (w < columns || h < rows)
    throw new Error(`The cell has ${w} × ${h} texels; it cannot be split in ${columns} × ${rows}. Give it more texels first.`);
  const cut = (start: number, size: number, n: number) => Array.from({ length: n + 1 }, (_, i) => start + Math.round((size * i) / n));
  const [xs, ys] = [cut(x, w, columns), cut(y, h, rows)];
  const parts: Rect[] = [];
  for (let r = 0; r < rows; r++)
    for (let c = 0; c < columns; c++) parts.push({ x: xs[c]!, y: ys[r]!, w: xs[c + 1]! - xs[c]!, h: ys[r + 1]! - ys[r]! });
  const [first, ...rest] = parts;
  const cells = sheet.cells.map((c) => (c === cell ? { ...c, rect: first! } : c));
  if (sheet.frozen) throw new Error(`“${sheet.name}” is frozen: its layout stays as it is.`);
  return groupForAll('Split a cell', changeCells(kit, sheet, { ...sheet, cells }, rest));
}

/** A band of rows (`y`) or columns (`x`). */
export interface Band {
  axis: 'x' | 'y';
  at: number;
  texels: number;
}

/** New texels before row or column `at`: cells that lie across them stretch, those after them move. */
export function insertBand(kit: Kit, sheet: Sheet, { axis, at, texels }: Band): Edit {
  const cells = sheet.cells.map((c) => {
    const [start, size] = axis === 'x' ? [c.rect.x, c.rect.w] : [c.rect.y, c.rect.h];
    if (start + size <= at) return c;
    return { ...c, rect: start < at ? along(c.rect, axis, start, size + texels) : along(c.rect, axis, start + texels, size) };
  });
  const size = axis === 'x' ? { width: sheet.width + texels, height: sheet.height } : { width: sheet.width, height: sheet.height + texels };
  return arrangeSheet(kit, sheet, { ...size, cells }, axis === 'x' ? 'Insert columns' : 'Insert rows');
}

/** Colors that lie wholly inside a band. */
export function cellsInBand(sheet: Sheet, { axis, at, texels }: Band): Cell[] {
  return sheet.cells.filter((c) => {
    const [start, size] = axis === 'x' ? [c.rect.x, c.rect.w] : [c.rect.y, c.rect.h];
    return c.fill.kind !== 'spare' && start >= at && start + size <= at + texels;
  });
}

/**
 * Takes texels out: cells across them shrink, cells wholly inside go. Their faces must have been moved before
 * (`cellsInBand`).
 */
export function deleteBand(kit: Kit, sheet: Sheet, { axis, at, texels }: Band): Edit {
  const end = at + texels;
  const cells = sheet.cells.flatMap((c) => {
    const [start, size] = axis === 'x' ? [c.rect.x, c.rect.w] : [c.rect.y, c.rect.h];
    const before = (v: number) => v - Math.max(0, Math.min(v, end) - at);
    const [from, to] = [before(start), before(start + size)];
    return from === to ? [] : [{ ...c, rect: along(c.rect, axis, from, to - from) }];
  });
  const size = axis === 'x' ? { width: sheet.width - texels, height: sheet.height } : { width: sheet.width, height: sheet.height - texels };
  return arrangeSheet(kit, sheet, { ...size, cells }, axis === 'x' ? 'Delete columns' : 'Delete rows');
}

const along = (rect: Rect, axis: 'x' | 'y', start: number, size: number): Rect =>
  axis === 'x' ? { ...rect, x: start, w: size } : { ...rect, y: start, h: size };

/**
 * The whole sheet at another size, every cell with it; borders go to the nearest texel. Throws where a color
 * would vanish.
 */
export function pinchSheet(kit: Kit, sheet: Sheet, width: number, height: number): Edit {
  const scale = (start: number, size: number, by: number): [number, number] => {
    const from = Math.round(start * by);
    return [from, Math.round((start + size) * by) - from];
  };
  const cells = sheet.cells.flatMap((c) => {
    const [x, w] = scale(c.rect.x, c.rect.w, width / sheet.width);
    const [y, h] = scale(c.rect.y, c.rect.h, height / sheet.height);
    if (w > 0 && h > 0) return [{ ...c, rect: { x, y, w, h } }];
    if (c.fill.kind === 'spare') return [];
    throw new Error(
      `At ${width} × ${height} texels “${c.role || 'a color'}” would have none. Choose a larger size, or lay the sheet out anew.`,
    );
  });
  return arrangeSheet(kit, sheet, { width, height, cells }, `Pinch the sheet to ${width} × ${height}`);
}

export type SortBy = 'ramp' | 'hue' | 'lightness' | 'use';

/**
 * Colors of one size change places among themselves, in reading order: ramp by ramp, around the hues (greys
 * first), dark to light, or most used first. Spare cells come last.
 */
export function sortCells(kit: Kit, sheet: Sheet, by: SortBy, facesOn: (cell: number) => number): Edit {
  const rampIndex = new Map(sheet.ramps.flatMap((r) => r.cells).map((id, i) => [id, i]));
  const lch = (c: Cell) => lchFromRgb(meanColor(c.fill));
  const key: Record<SortBy, (c: Cell) => number> = {
    ramp: (c) => rampIndex.get(c.id) ?? 1e6,
    hue: (c) => (lch(c).c < 0.03 ? -1 + lch(c).l / 2 : Math.round(lch(c).h / 15) + lch(c).l / 2),
    lightness: (c) => lch(c).l,
    use: (c) => -facesOn(c.id),
  };
  const sizes = new Map<string, Cell[]>();
  for (const c of sheet.cells) {
    const size = `${c.rect.w},${c.rect.h}`;
    sizes.set(size, [...(sizes.get(size) ?? []), c]);
  }
  const places = new Map<number, Rect>();
  for (const list of sizes.values()) {
    const rects = list.map((c) => c.rect).sort((a, b) => a.y - b.y || a.x - b.x);
    const rank = (c: Cell) => (c.fill.kind === 'spare' ? Infinity : key[by](c));
    const order = list.map((c) => ({ c, rank: rank(c) })).sort((a, b) => (a.rank === b.rank ? 0 : a.rank - b.rank));
    order.forEach(({ c }, i) => places.set(c.id, rects[i]!));
  }
  const cells = sheet.cells.map((c) => ({ ...c, rect: places.get(c.id)! }));
  return arrangeSheet(kit, sheet, { ...sheet, cells }, 'Sort the cells');
}
