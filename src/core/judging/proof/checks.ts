import { faceChecks } from './faceChecks';
import type { Check, Finding } from './finding';
import { islandChecks } from './islandChecks';
import { leftoverChecks } from './leftovers';
import { meshChecks } from './meshChecks';
import { nameChecks } from './nameChecks';
import { playSizeChecks } from './playSize';
import { sheetChecks } from './sheetChecks';
import { variantChecks } from './variantChecks';

/**
 * All checks, in the order in which they are shown. A new one is an entry in the table that it is of a kind with: how it
 * looks, what it says, and how it is repaired.
 */
export const checks: ReadonlyMap<string, Check> = new Map<string, Check>(
  Object.entries({
    ...faceChecks,
    ...leftoverChecks,
    ...islandChecks,
    ...playSizeChecks,
    ...sheetChecks,
    ...variantChecks,
    ...meshChecks,
    ...nameChecks,
  }),
);

/** What a finding says, and in which variant, where it is so in that alone. */
export const sayFinding = (found: Finding): string =>
  `${checks.get(found.check)!.say(found)}${found.variant ? `, in ${found.variant}` : ''}`;

/** How one edit repairs a finding, where one can. What is so in a variant alone is mended there. */
export function repairFor(found: Finding): Check['repair'] {
  const { repair } = checks.get(found.check)!;
  return found.variant === undefined && (repair?.can?.(found) ?? true) ? repair : undefined;
}
