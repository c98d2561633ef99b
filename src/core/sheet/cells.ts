import { longestRole, maxSheetSize, mostCellIds, mostIn } from '../ground/limits';
import { hexFromRgb } from '../ground/color/hex';
import type { Edit } from '../kit/edit/edit';
import { type Cell, type Kit, type Rect, type Sheet } from '../kit/kit';
import { meanColor } from './raster';
import type { Pictures } from '../ground/pictures/raster';

/** The color by which a cell is drawn as a swatch. */
export const swatchOf = (cell: Cell, pictures?: Pictures): string => hexFromRgb(meanColor(cell.fill, pictures));

/** The ramp that a cell is a step of. */
export const rampOf = (sheet: Sheet, cell: number) => sheet.ramps.find((r) => r.cells.includes(cell)) ?? null;

/** The plain colors that are no step of a ramp. */
export function singleColors({ ramps, cells }: Sheet): number[] {
  const inRamps = new Set(ramps.flatMap((r) => r.cells));
  return cells.flatMap((c) => (!inRamps.has(c.id) && c.fill.kind === 'solid' ? [c.id] : []));
}

/** The next darker (-1) or lighter (+1) cell of the ramp; `null` at its end or for a cell of no ramp. */
export function stepOf(sheet: Sheet, cell: number, direction: -1 | 1): number | null {
  const ramp = rampOf(sheet, cell);
  if (!ramp) return null;
  return ramp.cells[ramp.cells.indexOf(cell) + direction] ?? null;
}

/** Whether a cell shows pixels of a frozen picture, which must not change. */
export const isKept = (sheet: Sheet, id: number): boolean => sheet.frozen !== undefined && !sheet.frozen.appended?.includes(id);

/**
 * Changes one cell of a sheet, keeping its place in the order. Throws where it is not there, or shows a
 * frozen picture.
 */
export function editCell(sheet: Sheet, id: number, change: Partial<Omit<Cell, 'id'>>): Edit {
  const index = sheet.cells.findIndex((c) => c.id === id);
  const before = sheet.cells[index];
  if (!before) throw new Error(`Cell ${id} is not on this sheet.`);
  if (change.fill && isKept(sheet, id)) throw new Error(`“${sheet.name}” is frozen: its colors stay as they are.`);
  return {
    kind: 'put',
    list: 'cells',
    of: sheet.id,
    index,
    before,
    after: { ...before, ...change, role: (change.role ?? before.role).slice(0, longestRole) },
  };
}

/**
 * Doubles the sheet's shorter side (its height, when square) and fills the new half with spare cells. Nothing
 * that is there moves. Throws where it is as large as a sheet can be.
 */
export function growSheet(kit: Kit, sheet: Sheet): Edit[] {
  const cell = commonCellSize(sheet);
  const area = newHalf(sheet);
  const [width, height] = [area.x + area.w, area.y + area.h];
  const edits: Edit[] = [{ kind: 'set', of: sheet.id, before: { width: sheet.width, height: sheet.height }, after: { width, height } }];
  let id = kit.nextCell;
  let index = sheet.cells.length;
  for (let y = 0; y + cell.h <= area.h; y += cell.h)
    for (let x = 0; x + cell.w <= area.w; x += cell.w) {
      if (id > mostCellIds || index >= mostIn.cells) break;
      const after: Cell = { id: id++, rect: { x: area.x + x, y: area.y + y, ...cell }, role: '', fill: { kind: 'spare' } };
      edits.push({ kind: 'put', list: 'cells', of: sheet.id, index: index++, before: null, after });
    }
  edits.push({ kind: 'set', of: 'kit', before: { nextCell: kit.nextCell }, after: { nextCell: id } });
  return edits;
}

/** What a sheet gains where its shorter side, or its height when square, is doubled. Throws where it cannot grow. */
export function newHalf({ width, height }: Pick<Sheet, 'width' | 'height'>): Rect {
  if (Math.min(width, height) * 2 > maxSheetSize)
    throw new Error(`The sheet is already ${width} × ${height} texels; it cannot grow past ${maxSheetSize}.`);
  return width < height ? { x: width, y: 0, w: width, h: height } : { x: 0, y: height, w: width, h: height };
}

/** Size of most cells of the sheet, in texels. */
export function commonCellSize(sheet: Pick<Sheet, 'width' | 'height'> & { cells: readonly Cell[] }): { w: number; h: number } {
  const counts = new Map<string, number>();
  for (const { rect } of sheet.cells) counts.set(`${rect.w},${rect.h}`, (counts.get(`${rect.w},${rect.h}`) ?? 0) + 1);
  const [most] = [...counts].sort((p, q) => q[1] - p[1])[0] ?? ['1,1'];
  const [w, h] = most.split(',').map(Number) as [number, number];
  return { w: Math.min(w, sheet.width), h: Math.min(h, sheet.height) };
}
