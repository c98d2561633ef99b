import { group, type Edit } from '../edit/edit';
import type { Cell, Kit, Rect, Sheet } from '../kit/kit';
import { colorsInOrder } from './order';
import { changeCells } from './arrange';
import { maxSheetSize } from './cells';

export interface RelayOptions {
  /** Mip levels down to which solid colors stay exact: a cell has 2ⁿ texels a side, aligned to as many. */
  exactTo: 0 | 1 | 2;
  /** Empty cells to keep at least. */
  spares: number;
  /** Leave out colors that no face uses. */
  dropUnused: boolean;
}

export interface Relay {
  width: number;
  height: number;
  /** Where each kept cell comes to lie; spare cells fill the rest. */
  places: { cell: Cell; rect: Rect }[];
  dropped: Cell[];
  /** Rectangles of the spare cells. */
  free: Rect[];
}

/** Down to which mip level the solid colors of a sheet are exact as it is laid out. */
export function exactnessOf(sheet: Sheet): RelayOptions['exactTo'] {
  const isExact = (n: number) =>
    sheet.cells.every(({ fill, rect: { x, y, w, h } }) => fill.kind !== 'solid' || (w >= n && h >= n && x % n === 0 && y % n === 0));
  return isExact(4) ? 2 : isExact(2) ? 1 : 0;
}

/**
 * The smallest power-of-two layout that holds the sheet's colors: solid cells as small as the mip levels allow, gradients and art at their own size. Colors
 * lie in the order of the tray. `used`: cells that faces sit on. Throws where a frozen sheet or the size limit forbids it.
 */
export function planRelay(sheet: Sheet, used: ReadonlySet<number>, { exactTo, spares, dropUnused }: RelayOptions): Relay {
  if (sheet.frozen) throw new Error(`“${sheet.name}” is frozen: its layout stays as it is.`);
  const side = 2 ** exactTo;
  const inOrder = colorsInOrder(sheet);
  const kept = inOrder.filter((c) => !dropUnused || used.has(c.id));
  const others = sheet.cells.filter((c) => c.fill.kind !== 'solid' && c.fill.kind !== 'spare');
  const align = (n: number) => Math.ceil(n / side) * side;
  const items = [
    ...others.map((cell) => ({ cell, w: align(cell.rect.w), h: align(cell.rect.h) })).sort((a, b) => b.h - a.h || b.w - a.w),
    ...kept.map((cell) => ({ cell, w: side, h: side })),
  ];
  for (let area = side * side; ; area *= 2) {
    // Of two shapes of one area the squarer is wider than high at most by two.
    const height = 2 ** Math.floor(Math.log2(area) / 2);
    const width = area / height;
    if (width > maxSheetSize) throw new Error(`The colors do not fit on a sheet of ${maxSheetSize} × ${maxSheetSize} texels.`);
    const placed = place(items, width, height, side);
    if (!placed || placed.free.length < spares) continue;
    const places = items.map((item, i) => ({ cell: item.cell, rect: ownSize(item.cell, placed.rects[i]!) }));
    return { width, height, places, dropped: inOrder.filter((c) => !kept.includes(c)), free: placed.free };
  }
}

/** Gradients and art keep their size inside the space that alignment gives them. */
const ownSize = (cell: Cell, rect: Rect): Rect => (cell.fill.kind === 'solid' ? rect : { ...rect, w: cell.rect.w, h: cell.rect.h });

/** First fit on a grid of unit squares, row by row; `null` where the items do not fit. */
function place(items: { w: number; h: number }[], width: number, height: number, unit: number): { rects: Rect[]; free: Rect[] } | null {
  const [columns, rows] = [width / unit, height / unit];
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
  const free: Rect[] = [];
  taken.forEach((t, at) => t || free.push({ x: (at % columns) * unit, y: Math.floor(at / columns) * unit, w: unit, h: unit }));
  return { rects, free };
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
  return group('Lay out the sheet anew', changeCells(kit, sheet, { width: plan.width, height: plan.height, cells }, free));
}
