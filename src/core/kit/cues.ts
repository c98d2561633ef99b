import { cueBounds, longestCueName } from '../ground/limits';
import { aboutAct } from './cueActs';
import type { Coloring, Cue, Kit } from './kit';

/** What stands for something that is gone. */
export const gone = '';

/** Why a cue cannot be called so; `null` where it can. */
export function problemOfCueName({ cues = [] }: Pick<Kit, 'cues'>, name: string, own?: string): string | null {
  const wanted = name.trim();
  if (!wanted) return 'Give it a name.';
  if (wanted.length > longestCueName) return `A name has at most ${longestCueName} characters.`;
  return cues.some((c) => c.id !== own && c.name.toLowerCase() === wanted.toLowerCase()) ? `Another cue is called “${wanted}”.` : null;
}

/** What a cue speaks of, by kind; `null` among colorings is the default. */
export function spokenOf({ when, who, does, onlyIf }: Cue): {
  placements: string[];
  models: string[];
  cues: string[];
  colorings: Coloring[];
} {
  return {
    placements: [
      ...('placement' in when ? [when.placement] : []),
      ...(who.placement !== undefined ? [who.placement] : []),
      ...(onlyIf ? [onlyIf.placement] : []),
    ],
    models: who.model !== undefined ? [who.model] : [],
    cues: when.kind === 'cue' ? [when.cue] : [],
    colorings: [...(does.coloring !== undefined ? [does.coloring] : []), ...(does.among ?? []), ...(onlyIf ? [onlyIf.coloring] : [])],
  };
}

/** What a cue speaks of that the kit does not have, or that counts nothing; `null` where all is there, or told to be gone. */
export function strangerIn(kit: Kit, cue: Cue): string | null {
  const { placements, models, cues, colorings } = spokenOf(cue);
  const lacks = (ids: readonly string[], list: readonly { id: string }[] = []) =>
    ids.some((id) => id !== gone && !list.some((e) => e.id === id));
  const of = `the cue “${cue.name}” speaks of`;
  if (lacks(placements, kit.placements)) return `${of} a placement that is not there`;
  if (lacks(models, kit.models)) return `${of} a model that is not there`;
  const others = cues.filter((id) => id !== cue.id);
  if (lacks(others, kit.cues)) return `${of} a cue that is not there`;
  if (
    lacks(
      colorings.filter((c) => c !== null),
      kit.variants,
    )
  )
    return `${of} a variant that is not there`;
  const isIn = (v: number, [least, most]: readonly [number, number]) => v >= least && v <= most;
  if (cue.when.kind === 'near' && !isIn(cue.when.metres, cueBounds.metres)) return `${of} a distance that cannot be`;
  if (cue.after !== undefined && !isIn(cue.after, cueBounds.after)) return `${of} a time that cannot be`;
  return null;
}

/** Why a cue cannot run as it is, and what to do; `null` where it can. */
export function problemOfCue(kit: Kit, cue: Cue): string | null {
  const { when, who, does, onlyIf } = cue;
  if (when.kind === 'click' && when.placement === gone) return 'What was clicked is gone: choose another, or delete this cue.';
  if (when.kind === 'near' && when.placement === gone) return 'What was approached is gone: choose another, or delete this cue.';
  if (when.kind === 'cue' && when.cue === gone) return 'The cue that it followed is gone: choose another, or delete this one.';
  if (waitsForItself(kit, cue)) return 'It waits for itself, in a circle of cues, and never runs: choose another.';
  if (who.placement === gone || who.model === gone) return 'What changed is gone: choose another, or delete this cue.';
  if (does.coloring === gone) return 'The variant that it showed is gone: choose another.';
  if (onlyIf?.placement === gone) return 'What it asked about first is gone: choose another, or run it in any case.';
  if (onlyIf?.coloring === gone) return 'The variant that it asked about first is gone: choose another, or run it in any case.';
  const { all, meant } = choicesOf(kit, cue);
  if (does.coloring !== undefined && !all.includes(does.coloring)) return 'Nothing that it changes can show this variant: choose another.';
  if (aboutAct(does.kind).holds.includes('among') && !meant.length) return 'No coloring is ticked: tick one at least.';
  if (does.question !== undefined && !does.question.trim()) return 'It asks nothing: write a question.';
  return null;
}

/** Whether the cues that a cue follows lead back to it. Each has one beginning, so that nothing else could start them. */
function waitsForItself({ cues = [] }: Kit, { id, when }: Cue): boolean {
  const seen = new Set<string>();
  let before = when;
  while (before.kind === 'cue' && !seen.has(before.cue)) {
    const { cue } = before;
    if (cue === id) return true;
    seen.add(cue);
    const next = cues.find((c) => c.id === cue);
    if (!next) return false;
    before = next.when;
  }
  return false;
}

/** The colorings that what a cue changes can show, and those of them that are ticked, in the kit's order. */
export function choicesOf(kit: Kit, { who, does }: Pick<Cue, 'who' | 'does'>): { all: Coloring[]; meant: Coloring[] } {
  const { placements = [] } = kit;
  const models = new Set(
    who.model !== undefined
      ? [who.model]
      : placements.filter((p) => who.placement === undefined || p.id === who.placement).map((p) => p.model),
  );
  const all = [null, ...kit.variants.filter((v) => v.model === undefined || models.has(v.model)).map((v) => v.id)];
  const { among } = does;
  return { all, meant: among ? all.filter((c) => among.includes(c)) : all };
}
