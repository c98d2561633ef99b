import { group, type Edit } from './edit';
import { withColorings } from '../cueActs';
import { gone, problemOfCue, spokenOf } from '../cues';
import { newId, type Coloring, type Cue, type Kit } from '../kit';

/** A first cue about a placement: a click shows its colorings in turn. `about`: the one that is meant, else the first. */
export function newCue(kit: Kit, about?: string): Cue {
  const { placements = [], cues = [] } = kit;
  const subject = placements.find((p) => p.id === about) ?? placements[0];
  const taken = new Set(cues.map((c) => c.name.toLowerCase()));
  let n = cues.length + 1;
  while (taken.has(`cue ${n}`)) n++;
  const placement = subject?.id ?? gone;
  return { id: newId('q'), name: `Cue ${n}`, when: { kind: 'click', placement }, who: { placement }, does: { kind: 'next' } };
}

/** Adds a cue at a place of the list, at its end where none is told. */
export const addCue = ({ cues = [] }: Kit, after: Cue, index = cues.length): Edit => ({
  kind: 'put',
  list: 'cues',
  of: 'kit',
  index,
  before: null,
  after,
});

/** A cue is another one from now on; `null` where nothing changes. */
export function changeCue({ cues = [] }: Kit, after: Cue, label = 'Change a cue'): Edit | null {
  const index = cues.findIndex((c) => c.id === after.id);
  const before = cues[index];
  if (!before || JSON.stringify(before) === JSON.stringify(after)) return null;
  return group(label, [{ kind: 'put', list: 'cues', of: 'kit', index, before, after }]);
}

/** Removes a cue; those that ran after it have to be given another. */
export function removeCue(kit: Kit, id: string): Edit | null {
  const { cues = [] } = kit;
  const index = cues.findIndex((c) => c.id === id);
  const before = cues[index];
  if (!before) return null;
  return group('Delete a cue', [...cuesWithout(kit, { cues: [id] }), { kind: 'put', list: 'cues', of: 'kit', index, before, after: null }]);
}

/** A cue takes another place in the table; `null` where it is there already. */
export function moveCue({ cues = [] }: Kit, id: string, to: number): Edit | null {
  const index = cues.findIndex((c) => c.id === id);
  const cue = cues[index];
  const place = Math.max(0, Math.min(cues.length - 1, to));
  if (!cue || place === index) return null;
  return group('Move a cue', [
    { kind: 'put', list: 'cues', of: 'kit', index, before: cue, after: null },
    { kind: 'put', list: 'cues', of: 'kit', index: place, before: null, after: cue },
  ]);
}

/** What leaves the kit, by id. */
export interface Leaves {
  placements?: readonly string[];
  models?: readonly string[];
  variants?: readonly string[];
  cues?: readonly string[];
}

/** A cue that says of what leaves that it is gone; among ticked colorings it is left out. */
export function cueWithout(cue: Cue, { placements = [], models = [], variants = [], cues = [] }: Leaves): Cue {
  const { when, who, does, onlyIf } = cue;
  const kept = <T extends Coloring>(id: T, leaving: readonly string[]) => (id !== null && leaving.includes(id) ? gone : id);
  return {
    ...cue,
    when:
      when.kind === 'cue'
        ? { ...when, cue: kept(when.cue, cues) }
        : when.kind === 'start'
          ? when
          : { ...when, placement: kept(when.placement, placements) },
    who: {
      ...(who.placement !== undefined && { placement: kept(who.placement, placements) }),
      ...(who.model !== undefined && { model: kept(who.model, models) }),
    },
    does: withColorings(
      does,
      (c) => kept(c, variants),
      (among) => among.filter((c) => kept(c, variants) === c),
    ),
    ...(onlyIf && { onlyIf: { placement: kept(onlyIf.placement, placements), coloring: kept(onlyIf.coloring, variants) } }),
  };
}

/** The edits after which no cue speaks of what leaves; see `problemOfCue` for what to do with them then. */
export const cuesWithout = ({ cues = [] }: Kit, leaves: Leaves): Edit[] =>
  cues.flatMap((before, index): Edit[] => {
    if (leaves.cues?.includes(before.id)) return [];
    const after = cueWithout(before, leaves);
    return JSON.stringify(after) === JSON.stringify(before) ? [] : [{ kind: 'put', list: 'cues', of: 'kit', index, before, after }];
  });

/** The cues that speak of what would leave. */
export function cuesAbout({ cues = [] }: Kit, { placements = [], models = [], variants = [], cues: others = [] }: Leaves): Cue[] {
  return cues.filter((cue) => {
    const spoken = spokenOf(cue);
    return (
      spoken.placements.some((id) => placements.includes(id)) ||
      spoken.models.some((id) => models.includes(id)) ||
      spoken.colorings.some((id) => id !== null && variants.includes(id)) ||
      spoken.cues.some((id) => others.includes(id))
    );
  });
}

/** Cues that do not run as they are, and why. */
export const openCues = (kit: Kit): { cue: Cue; problem: string }[] =>
  (kit.cues ?? []).flatMap((cue) => {
    const problem = problemOfCue(kit, cue);
    return problem ? [{ cue, problem }] : [];
  });
