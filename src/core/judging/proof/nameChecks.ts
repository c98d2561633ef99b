import { nameProblem } from '../../files/handoff/template';
import { safeName } from '../../ground/bytes/fileNames';
import { count } from '../../ground/words';
import type { Check, Found } from './finding';

const told = (names: readonly string[]): Found => ({ count: names.length, detail: names.slice(0, 6).join(', ') });

/** Names under which files leave. */
export const nameChecks = {
  names: {
    inKit: ({ kit }) => {
      const written = new Map<string, string[]>();
      for (const { name } of kit.models) {
        const key = safeName(name).toLowerCase();
        written.set(key, [...(written.get(key) ?? []), name]);
      }
      return [told([...written.values()].filter((names) => names.length > 1).flat())];
    },
    say: (f) => `${count(f.count, 'model')} whose files would have one name: ${f.detail}`,
    why: 'One would replace the other in a folder that does not tell capitals apart.',
    good: 'no clashes of names',
    see: 'gather',
  },
  'refused-names': {
    inKit: ({ kit }) => [told([...kit.models, ...kit.sheets].map((m) => m.name).filter((name) => nameProblem(name) !== ''))],
    say: (f) => `${count(f.count, 'name')} that some file systems refuse: ${f.detail}`,
    why: 'Files leave under another name then, and a game that looks for this one does not find it.',
    good: 'names',
    see: 'gather',
  },
} satisfies Record<string, Check>;
