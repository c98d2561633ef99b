import type { Kit } from '../kit/kit';
import { fillsOfVariant } from './shown';

/**
 * A kit in which cells go, with variants that show what they showed: where a rule took the color of a cell that goes for
 * one that stays, the variant says from then on what that showed. `after`: the kit with nothing that speaks of these
 * cells; its variants are those of `before`, in their order.
 */
export function keepingLooks(before: Kit, after: Kit, gone: ReadonlySet<number>): Kit {
  const left: Kit = { ...after, sheets: after.sheets.map((s) => ({ ...s, cells: s.cells.filter((c) => !gone.has(c.id)) })) };
  const variants = after.variants.map((variant, i) => {
    const had = before.variants[i]!;
    if (!had.rules?.length) return variant;
    const [was, is] = [fillsOfVariant(before, had), fillsOfVariant(left, variant)];
    const changed = left.sheets.flatMap(({ cells }) =>
      cells.flatMap(({ id, fill }) =>
        JSON.stringify(was[id] ?? fill) === JSON.stringify(is[id] ?? fill) ? [] : [[id, was[id] ?? fill] as const],
      ),
    );
    return changed.length ? { ...variant, fills: { ...variant.fills, ...Object.fromEntries(changed) } } : variant;
  });
  return variants.every((v, i) => v === after.variants[i]) ? after : { ...after, variants };
}
