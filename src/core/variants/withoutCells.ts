import type { Edit } from '../edit/edit';
import type { Kit } from '../kit/kit';
import { fillsOfVariant } from './shown';

/**
 * Variants say nothing more of cells that go, whose numbers may come to be other colors. Where a rule of a variant took the
 * color of one of them for a cell that stays, the variant says from now on what that cell showed in it.
 */
export function withoutCells(kit: Kit, gone: ReadonlySet<number>): Edit[] {
  const stays = (id: number) => !gone.has(id);
  const left: Kit = {
    ...kit,
    sheets: kit.sheets.map((s) => ({
      ...s,
      cells: s.cells.filter((c) => stays(c.id)),
      ramps: s.ramps.map((r) => ({ ...r, cells: r.cells.filter(stays) })),
    })),
  };
  return kit.variants.flatMap((before, index): Edit[] => {
    const fills = Object.fromEntries(Object.entries(before.fills).filter(([id]) => stays(Number(id))));
    if (before.rules?.length) {
      const [was, is] = [fillsOfVariant(kit, before), fillsOfVariant(left, { ...before, fills })];
      for (const { cells } of left.sheets)
        for (const { id, fill } of cells)
          if (JSON.stringify(was[id] ?? fill) !== JSON.stringify(is[id] ?? fill)) fills[id] = was[id] ?? fill;
    }
    if (JSON.stringify(fills) === JSON.stringify(before.fills)) return [];
    return [{ kind: 'put', list: 'variants', of: 'kit', index, before, after: { ...before, fills } }];
  });
}
