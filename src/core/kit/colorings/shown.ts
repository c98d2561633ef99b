import { byId } from '../../ground/byId';
import type { Cell, Fill, Kit, KitState, Seats, Sheet, Variant } from '../kit';
import { isPainted, pixelsOfVariant, shownPixels } from '../pixels';
import { patchedSeats } from '../patches';
import { fillsByRules } from './rules';

/** The fills of cells that a variant says something of, by its rules or by hand. */
export const fillsOfVariant = (kit: Kit, { rules, fills }: Pick<Variant, 'rules' | 'fills'>): Record<number, Fill> => ({
  ...fillsByRules(kit, rules),
  ...fills,
});

/** Sheets as variants show them, by the sheets that they are made of: several kits are shown at once. */
const shown = new WeakMap<Variant, WeakMap<Sheet[], Sheet[]>>();

/** The kit with a variant's fills. Spare cells stay spare: what was said of them waits. */
export function kitOfVariant(kit: Kit, variant: Variant): Kit {
  let own = shown.get(variant);
  if (!own) shown.set(variant, (own = new WeakMap()));
  const known = own.get(kit.sheets);
  // The same sheets again, so that what is drawn from them is not drawn anew.
  if (known) return { ...kit, sheets: known };
  const fills = fillsOfVariant(kit, variant);
  const recolors = Object.keys(fills).length > 0;
  const fillIn = ({ id, fill }: Cell): Fill => {
    const shown = changes(fill, fills[id]) ? fills[id]! : fill;
    return recolors && isPainted(shown) ? { ...shown, picture: shownPixels(shown.picture, variant.id) } : shown;
  };
  const sheets = kit.sheets.map((sheet) => {
    const cells = sheet.cells.map((c) => {
      const fill = fillIn(c);
      return fill === c.fill ? c : { ...c, fill };
    });
    return cells.some((c, i) => c !== sheet.cells[i]) ? { ...sheet, cells } : sheet;
  });
  own.set(kit.sheets, sheets);
  return { ...kit, sheets };
}

const changes = (own: Fill, other: Fill | undefined): boolean => other !== undefined && own.kind !== 'spare';

/**
 * The kit as a variant shows it, for files of its own: a sheet that differs there is called after the variant, too, so
 * that its picture lies beside the others.
 */
export function kitApart(kit: Kit, variant: Variant): Kit {
  const { sheets, ...rest } = kitOfVariant(kit, variant);
  return { ...rest, sheets: sheets.map((s, i) => (s === kit.sheets[i] ? s : sheetNamed(s, variant.name))) };
}

export const sheetNamed = (sheet: Sheet, variant: string): Sheet => ({ ...sheet, name: `${sheet.name} ${variant}` });

const looks = new WeakMap<Sheet, string>();
/** Equal for a sheet and for variants of it that show the same. */
export function looksOfSheet(sheet: Sheet): string {
  let own = looks.get(sheet);
  if (own === undefined) looks.set(sheet, (own = `${sheet.id} ${JSON.stringify(sheet.cells.map((c) => c.fill))}`));
  return own;
}

/** For sheets as variants show them the first variant of each look; none for what the default shows. */
export function variantsOfLooks(kit: Kit): Map<string, string> {
  const own = new Set(kit.sheets.map(looksOfSheet));
  const names = new Map<string, string>();
  for (const variant of kit.variants)
    for (const sheet of kitOfVariant(kit, variant).sheets) {
      const key = looksOfSheet(sheet);
      if (!own.has(key) && !names.has(key)) names.set(key, variant.name);
    }
  return names;
}

/** A sheet as every coloring of its kit shows it: as it is, then as each variant that says something of it does. */
export type SheetInColorings = readonly [own: Sheet, ...inVariants: Sheet[]];

export function sheetInColorings(kit: Kit, sheet: Sheet): SheetInColorings {
  const index = kit.sheets.findIndex((s) => s.id === sheet.id);
  const inVariants = kit.variants.map((v) => kitOfVariant(kit, v).sheets[index]!).filter((s) => s !== sheet);
  return [sheet, ...inVariants];
}

/**
 * The kit as one of its variants shows it (`null`: the default coloring), as a state like any other: what shows,
 * counts, checks and writes a kit needs to know nothing of variants. Arrays in which nothing differs are the
 * default's own, and are not to be written.
 */
export function stateOfVariant(state: KitState, id: string | null): KitState {
  const { kit, seats, pixels } = state;
  const variant = kit.variants.find((v) => v.id === id);
  if (!variant) return { kit, seats, ...(pixels && { pixels }) };
  const patches = state.patches?.[variant.id];
  const patched = byId<Seats>(Object.entries(seats).map(([model, own]) => [model, patchedSeats(own, patches?.[model])]));
  return { kit: kitOfVariant(kit, variant), seats: patched, ...(pixels && { pixels: pixelsOfVariant(state, variant) }) };
}
