import type { Fill, Kit, Variant } from '../kit';
import { isPainted } from '../pixels';
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
    return had.rules?.length ? showingAs(before, had, left, variant) : variant;
  });
  return variants.every((v, i) => v === after.variants[i]) ? after : { ...after, variants };
}

/** A variant that says of each cell of a kit (`now`) what it takes to show there what another showed in another kit (`was`). */
export function showingAs(was: Kit, before: Variant, now: Kit, variant: Variant): Variant {
  const [shown, said] = [fillsByCell(was, before), fillsByCell(now, variant)];
  const changed = [...said].flatMap(([id, fill]) => {
    const wanted = shown.get(id);
    // Which texels of painted art it has of its own is not for rules to say.
    const isSame = !wanted || (isPainted(wanted) && isPainted(fill)) || JSON.stringify(wanted) === JSON.stringify(fill);
    return isSame ? [] : [[id, wanted] as const];
  });
  return changed.length ? { ...variant, fills: { ...variant.fills, ...Object.fromEntries(changed) } } : variant;
}

function fillsByCell(kit: Kit, variant: Variant): Map<number, Fill> {
  const said = fillsOfVariant(kit, variant);
  return new Map(kit.sheets.flatMap((s) => s.cells.map((c) => [c.id, c.fill.kind === 'spare' ? c.fill : (said[c.id] ?? c.fill)] as const)));
}
