import { safeName } from '../io/fileNames';
import { finding, type Finding, type ProofInput } from './finding';

/** Names that would become one file, or that some file systems do not take as they are. */
export function kitProblems({ kit }: ProofInput): Finding[] {
  const written = new Map<string, string[]>();
  for (const { name } of kit.models) {
    const key = safeName(name).toLowerCase();
    written.set(key, [...(written.get(key) ?? []), name]);
  }
  const clashing = [...written.values()].filter((names) => names.length > 1).flat();
  return [finding('names', { count: clashing.length, detail: clashing.slice(0, 6).join(', ') })];
}
