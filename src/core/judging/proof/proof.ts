import { facesWithProblems } from './faceChecks';
import { checkIds, type Finding, type ProofInput } from './finding';
import { kitProblems } from './kitChecks';
import { leftoverFaces } from './leftovers';
import { meshProblems } from './meshChecks';
import { playSizeProblems } from './playSize';
import { sheetProblems } from './sheetChecks';
import { bareInVariants, variantProblems } from './variantChecks';

/** All that is wrong, or may be, in the order of `checkIds`; then of the models. */
export function prove(input: ProofInput): Finding[] {
  const found = [
    ...input.models.flatMap((m) => [
      ...facesWithProblems(input, m),
      ...leftoverFaces(input, m),
      ...playSizeProblems(input, m),
      ...meshProblems(input, m),
    ]),
    ...input.kit.sheets.flatMap((s) => sheetProblems(input, s)),
    ...kitProblems(input),
    ...variantProblems(input),
    ...bareInVariants(input),
  ].filter((f) => f.count > 0);
  return found.sort((a, b) => checkIds.indexOf(a.check) - checkIds.indexOf(b.check));
}
