import type { SheetInColorings } from '../kit/colorings/shown';
import { maxSheetSize } from '../ground/limits';
import { groupForAll, type Edit } from '../kit/edit/edit';
import { isTextured, type Cell, type Fill, type Kit, type Rect, type Sheet } from '../kit/kit';
import { colorsInOrder } from './order';
import { changeCells, freeRects } from './arrange';

export interface RelayOptions {
  /** Mip levels down to which solid colors stay exact: a cell has 2ⁿ texels a side, aligned to as many. */
  exactTo: 0 | 1 | 2;
  /** Empty cells to keep at least. */
  spares: number;
  /** Leave out colors that no face uses. */
  dropUnused: boolean;
  /** The size in texels; the smallest power-of-two size that holds everything where it is left out. */
  size?: { width: number; height: number };
  /** Texels of a gradient along its axis; as many as it has where it is left out. */
  gradientTexels?: number;
  /** Texels of its own color around a piece of art, and beside a gradient. */
  padding?: number;
}

export interface Relay {
  width: number;
  height: number;
  /** Where each kept cell comes to lie; spare cells fill the rest. */
  places: { cell: Cell; rect: Rect }[];
  dropped: Cell[];
  padding: number;
  /** Rectangles of the spare cells: all that is left. */
  free: Rect[];
}

/** Down to which mip level the colors of a sheet that are solid in every coloring are exact as it is laid out. */
export function exactnessOf(shown: SheetInColorings): RelayOptions['exactTo'] {
  const fills = fillsIn(shown);
  const isExact = (n: number) =>
    shown[0].cells.every(
      ({ id, rect: { x, y, w, h } }) => fills.get(id)!.some((f) => f.kind !== 'solid') || (w >= n && h >= n && x % n === 0 && y % n === 0),
    );
  return isExact(4) ? 2 : isExact(2) ? 1 : 0;
}

/** What each cell shows, in any coloring. */
function fillsIn(shown: SheetInColorings): Map<number, Fill[]> {
  const fills = new Map<number, Fill[]>();
  for (const { cells } of shown) for (const { id, fill } of cells) fills.set(id, [...(fills.get(id) ?? []), fill]);
  return fills;
}

interface Item {
  cell: Cell;
  /** Texels it takes, padding and alignment included. */
  w: number;
  h: number;
  /** Its own rectangle inside of those. */
  own: Rect;
}

/**
 * The smallest power-of-two layout that holds the sheet's colors, or one of a given size: solid cells as
 * small as the mip levels allow, art at its own size, gradients at theirs or at a given length. Colors lie in
 * the order of the tray. `shown`: the sheet in all colorings, since what is one color in one may be a gradient in another.
 * `used`: cells that faces sit on. Throws where a frozen sheet or the size forbids it.
 */
export function planRelay(shown: SheetInColorings, used: ReadonlySet<number>, options: RelayOptions): Relay {
  const [sheet] = shown;
  const fills = fillsIn(shown);
  const isPlain = (cell: Cell) => !fills.get(cell.id)!.some(isTextured);
  if (sheet.frozen) throw new Error(`“${sheet.name}” is frozen: its layout stays as it is.`);
  const { exactTo, spares, dropUnused, size } = options;
  const side = 2 ** exactTo;
  const inOrder = colorsInOrder(sheet).filter(isPlain);
  const kept = inOrder.filter((c) => !dropUnused || used.has(c.id));
  const others = sheet.cells.filter((c) => !isPlain(c)).map((cell) => itemOf(cell, fills.get(cell.id)!, side, options));
  const solids = kept.map((cell): Item => ({ cell, w: side, h: side, own: { x: 0, y: 0, w: side, h: side } }));
  const items = [...others.sort((a, b) => b.h - a.h || b.w - a.w), ...solids];
  const area = items.reduce((sum, i) => sum + i.w * i.h, 0) + spares * side * side;
  for (const { width, height } of size ? [size] : powersOfTwo(area)) {
    const placed = place(items, width, height, side);
    if (!placed || placed.free < spares) continue;
    const places = items.map(({ cell, own }, i) => {
      const at = placed.rects[i]!;
      return { cell, rect: { ...own, x: at.x + own.x, y: at.y + own.y } };
    });
    const free = gaps(
      places.map((p) => p.rect),
      width,
      height,
      side,
      spares,
    );
    return { width, height, padding: options.padding ?? sheet.padding, places, dropped: inOrder.filter((c) => !kept.includes(c)), free };
  }
  throw new Error(
    size
      ? `The colors do not fit on ${size.width} × ${size.height} texels.`
      : `The colors do not fit on a sheet of ${maxSheetSize} × ${maxSheetSize} texels.`,
  );
}

function itemOf(cell: Cell, fills: readonly Fill[], side: number, { gradientTexels, padding = 0 }: RelayOptions): Item {
  const align = (n: number) => Math.ceil(n / side) * side;
  const { rect } = cell;
  const axes = new Set(fills.flatMap((f) => (f.kind === 'gradient' ? [f.axis] : [])));
  if (axes.size !== 1 || fills.some((f) => f.kind === 'art' || f.kind === 'corners')) {
    const pad = fills.some((f) => f.kind === 'art') ? padding : 0;
    return { cell, w: align(rect.w + 2 * pad), h: align(rect.h + 2 * pad), own: { x: pad, y: pad, w: rect.w, h: rect.h } };
  }
  const isX = axes.has('x');
  // Faces sit on the line in its middle, so that its width is its padding.
  const along = gradientTexels ?? (isX ? rect.w : rect.h);
  const across = gradientTexels || padding ? align(1 + 2 * padding) : isX ? rect.h : rect.w;
  const [w, h] = isX ? [along, across] : [across, along];
  return { cell, w: align(w), h: align(h), own: { x: 0, y: 0, w, h } };
}

/**
 * Sizes from an area up, of one area the squarer first, and wider rather than higher; none more than 8 times
 * as long as broad.
 */
function* powersOfTwo(area: number): Generator<{ width: number; height: number }> {
  const most = Math.log2(maxSheetSize);
  for (let sum = Math.max(0, Math.ceil(Math.log2(Math.max(1, area)))); sum <= most * 2; sum++)
    for (let apart = sum % 2; apart <= 3; apart += 2)
      for (const wide of apart ? [(sum + apart) / 2, (sum - apart) / 2] : [sum / 2]) {
        const high = sum - wide;
        if (wide >= 0 && high >= 0 && wide <= most && high <= most) yield { width: 2 ** wide, height: 2 ** high };
      }
}

/**
 * First fit on a grid of unit squares, row by row; `null` where the items do not fit. `free`: units that are
 * left.
 */
function place(items: readonly Item[], width: number, height: number, unit: number): { rects: Rect[]; free: number } | null {
  const [columns, rows] = [Math.floor(width / unit), Math.floor(height / unit)];
  const taken = new Uint8Array(columns * rows);
  const rects: Rect[] = [];
  let from = 0;
  for (const { w, h } of items) {
    const [across, down] = [w / unit, h / unit];
    const fits = (at: number) => {
      const [x, y] = [at % columns, Math.floor(at / columns)];
      if (x + across > columns || y + down > rows) return false;
      for (let dy = 0; dy < down; dy++) for (let dx = 0; dx < across; dx++) if (taken[at + dy * columns + dx]) return false;
      return true;
    };
    let at = across === 1 && down === 1 ? from : 0;
    while (at < taken.length && !fits(at)) at++;
    if (at >= taken.length) return null;
    if (across === 1 && down === 1) from = at + 1;
    for (let dy = 0; dy < down; dy++) taken.fill(1, at + dy * columns, at + dy * columns + across);
    rects.push({ x: (at % columns) * unit, y: Math.floor(at / columns) * unit, w, h });
  }
  return { rects, free: taken.reduce((sum, t) => sum + (t ? 0 : 1), 0) };
}

/** Spare cells of the unit where these are not too many, else larger ones. */
export function gaps(taken: readonly Rect[], width: number, height: number, unit: number, spares: number): Rect[] {
  const handy = 48;
  let fine: Rect[] = [];
  for (let size = unit; ; size *= 2) {
    const owner = new Int32Array(width * height).fill(-1);
    for (const rect of taken) for (let y = rect.y; y < rect.y + rect.h; y++) owner.fill(0, y * width + rect.x, y * width + rect.x + rect.w);
    const rects = freeRects(owner, width, height, { w: size, h: size });
    // Never fewer than were asked for: rather many small ones.
    if (rects.length < spares && fine.length) return fine;
    if (rects.length <= Math.max(handy, spares) || size >= Math.max(width, height)) return rects;
    fine = rects;
  }
}

/** The plan as one edit: cells move, no face changes its color. */
export function relaySheet(kit: Kit, sheet: Sheet, plan: Relay): Edit {
  const rectOf = new Map(plan.places.map(({ cell, rect }) => [cell.id, rect]));
  const dropped = new Set(plan.dropped.map((c) => c.id));
  const free = [...plan.free];
  const cells = sheet.cells.flatMap((cell) => {
    const rect = rectOf.get(cell.id) ?? (dropped.has(cell.id) ? undefined : free.shift());
    return rect ? [{ ...cell, rect }] : [];
  });
  const edits = changeCells(kit, sheet, { width: plan.width, height: plan.height, cells }, free);
  if (plan.padding !== sheet.padding)
    edits.push({ kind: 'set', of: sheet.id, before: { padding: sheet.padding }, after: { padding: plan.padding } });
  return groupForAll('Lay out the sheet anew', edits);
}
