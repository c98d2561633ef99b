import type { HandOff, KitState } from '../kit/kit';
import { plannedFiles } from './tree';

/**
 * Paths of the files of a hand-off that are others after a change, each with all that is written beside it: those of
 * models that were changed, of sheets, and of models on such sheets. What edits leave alone stays the same object.
 */
export function touchedPaths(before: KitState, after: KitState, handOff: HandOff): string[] {
  // What a variant says may show in any file.
  const isRenamed = before.kit.name !== after.kit.name || before.kit.variants !== after.kit.variants || before.patches !== after.patches;
  const sheets = new Set(after.kit.sheets.filter((s) => !before.kit.sheets.includes(s)));
  const cells = new Set([...sheets].flatMap((s) => s.cells.map((c) => c.id)));
  const models = new Set(
    after.kit.models.flatMap((m) => {
      const seats = after.seats[m.id]!;
      const isOther = seats !== before.seats[m.id] || !before.kit.models.includes(m);
      return isOther || (cells.size > 0 && seats.cell.some((c) => cells.has(c))) ? [m.id] : [];
    }),
  );
  const own = plannedFiles(after, handOff).filter((f) => !f.beside && f.part >= 0);
  const isTouched = (f: (typeof own)[number]) => isRenamed || f.models.some((m) => models.has(m.id)) || (f.sheet && sheets.has(f.sheet));
  return own.filter(isTouched).map((f) => f.path);
}
