import { usableCells, type Cell, type Sheet } from '../kit/kit';

/** Plain colors of a sheet in the order of the tray: ramps from dark to light, then single colors. */
export function colorsInOrder(sheet: Sheet): Cell[] {
  const byId = new Map(sheet.cells.map((c) => [c.id, c]));
  const inRamps = sheet.ramps.flatMap((r) => r.cells);
  const tied = new Set(inRamps);
  const cells = [...inRamps.map((id) => byId.get(id)!), ...usableCells(sheet).filter((c) => !tied.has(c.id))];
  return cells.filter((c) => c.fill.kind === 'solid');
}
