import { checks } from './checks';
import { finding, type Finding, type ProofInput } from './finding';

/** All that is wrong, or may be, in the order of `checks`; then of the models and sheets. */
export function prove(input: ProofInput): Finding[] {
  return [...checks].flatMap(([id, { inModel, inSheet, inKit }]) =>
    [
      ...(inModel ? input.models.flatMap((m) => inModel(input, m).map((of) => finding(id, { model: m.model.id, ...of }))) : []),
      ...(inSheet ? input.kit.sheets.flatMap((s) => inSheet(input, s).map((of) => finding(id, { sheet: s.id, ...of }))) : []),
      ...(inKit ? inKit(input).map((of) => finding(id, of)) : []),
    ].filter((f) => f.count > 0),
  );
}
