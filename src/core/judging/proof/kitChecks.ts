import { nameProblem } from '../../files/handoff/template';
import { safeName } from '../../ground/bytes/fileNames';
import { finding, type Finding, type ProofInput } from './finding';

/** Names that would become one file, or that some file systems do not take as they are. */
export function kitProblems({ kit }: ProofInput): Finding[] {
  const written = new Map<string, string[]>();
  for (const { name } of kit.models) {
    const key = safeName(name).toLowerCase();
    written.set(key, [...(written.get(key) ?? []), name]);
  }
  const clashing = [...written.values()].filter((names) => names.length > 1).flat();
  const refused = [...kit.models, ...kit.sheets].map((m) => m.name).filter((name) => nameProblem(name) !== '');
  const told = (check: 'names' | 'refused-names', names: readonly string[]) =>
    finding(check, { count: names.length, detail: names.slice(0, 6).join(', ') });
  return [told('names', clashing), told('refused-names', refused)];
}
