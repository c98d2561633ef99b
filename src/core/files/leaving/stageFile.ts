import { group, type Edit } from '../../kit/edit/edit';
import { heldOf, type CueActId } from '../../kit/cueActs';
import { gone } from '../../kit/cues';
import { newId, type Coloring, type Cue, type CueAct, type Kit, type Placement } from '../../kit/kit';
import { removePlacements } from '../../kit/edit/placements';

export const stageFormat = 'oligochrome stage';
export const stageVersion = 1;
/** What the coloring without a variant is called; no variant can have this name. */
const defaultName = 'default';

/** A placement as files say it: by names alone. */
export interface PlacementInFile {
  name: string;
  model: string;
  coloring: string;
  at: [x: number, y: number, z: number];
  turn: number;
  scale: number;
}

/** A cue as files say it; `null` for what is gone. */
export interface CueInFile {
  name: string;
  when:
    | { event: 'click'; placement: string | null }
    | { event: 'near'; placement: string | null; metres: number }
    | { event: 'start' }
    | { event: 'cue'; cue: string | null };
  after: number;
  who: { placement: string | null } | { model: string | null } | 'all';
  /** What its act holds (`cueActs`). */
  does: { act: CueActId; coloring?: string | null; question?: string; among?: string[] | 'all' };
  once: boolean;
  onlyIf: { placement: string | null; coloring: string | null } | null;
}

/** A stage as a file says it; the schema is docs/stage.schema.json. */
export interface StageInFile {
  format: typeof stageFormat;
  version: typeof stageVersion;
  kit: string;
  placements: PlacementInFile[];
  cues: CueInFile[];
}

/** What a stage file says of a kit. Throws where two of its models that stand there have one name. */
export function stageInFile(kit: Kit): StageInFile {
  const { placements = [], cues = [], variants, models } = kit;
  const named = (list: readonly { id: string; name: string }[], id: string) => list.find((e) => e.id === id)?.name ?? null;
  const coloring = (c: Coloring) => (c === null ? defaultName : named(variants, c));
  const standing = models.filter((m) => placements.some((p) => p.model === m.id));
  const twice = standing.find((m) => models.some((o) => o !== m && o.name === m.name));
  if (twice) throw new Error(`Two models are called “${twice.name}”. Rename one of them in Gather: a stage file names models.`);
  return {
    format: stageFormat,
    version: stageVersion,
    kit: kit.name,
    placements: placements.map(({ name, model, variant, at, turn, scale }) => ({
      name,
      model: named(models, model)!,
      coloring: coloring(variant ?? null)!,
      at,
      turn,
      scale,
    })),
    cues: cues.map(({ name, when, after = 0, who, does, once = false, onlyIf }) => ({
      name,
      when:
        when.kind === 'start'
          ? { event: 'start' }
          : when.kind === 'cue'
            ? { event: 'cue', cue: named(cues, when.cue) }
            : when.kind === 'near'
              ? { event: 'near', placement: named(placements, when.placement), metres: when.metres }
              : { event: 'click', placement: named(placements, when.placement) },
      after,
      who:
        who.placement !== undefined
          ? { placement: named(placements, who.placement) }
          : who.model !== undefined
            ? { model: named(models, who.model) }
            : 'all',
      does: actInFile(does, coloring),
      once,
      onlyIf: onlyIf ? { placement: named(placements, onlyIf.placement), coloring: coloring(onlyIf.coloring) } : null,
    })),
  };
}

const actInFile = (does: CueAct, coloring: (c: Coloring) => string | null): CueInFile['does'] => ({
  act: does.kind,
  ...heldOf(does.kind, {
    coloring: does.coloring === undefined ? null : coloring(does.coloring),
    question: does.question ?? '',
    among: does.among?.flatMap((c) => coloring(c) ?? []) ?? ('all' as const),
  }),
});

/** A stage as JSON, the same bytes each time for the same stage. Throws as `stageInFile` does. */
export const writeStage = (kit: Kit): string => `${JSON.stringify(stageInFile(kit), null, 2)}\n`;

/** What a file says, in terms of a kit. */
export interface Stage {
  placements: Placement[];
  cues: Cue[];
}

/**
 * What a stage file says, in terms of a kit: its models and variants are known by their names. Throws, in words for the
 * artist, where it speaks of something that the kit or the file does not have, or gives a name twice.
 */
export function stageOf(kit: Kit, { placements, cues }: Pick<StageInFile, 'placements' | 'cues'>): Stage {
  const lookUp = <T extends { id: string; name: string }>(what: string, list: readonly T[], where: string) => {
    const byName = new Map<string, T[]>();
    for (const e of list) {
      const same = byName.get(e.name);
      if (same) same.push(e);
      else byName.set(e.name, [e]);
    }
    return (name: string, by: string): T => {
      const [found, second] = byName.get(name) ?? [];
      if (!found) throw new Error(`${by} names the ${what} “${name}”, which ${where}`);
      if (second) throw new Error(`${by} names the ${what} “${name}”, and two are called so`);
      return found;
    };
  };
  const model = lookUp('model', kit.models, 'this kit does not have');
  const variant = lookUp('variant', kit.variants, 'this kit does not have');
  const coloring = (name: string, by: string): Coloring => (name === defaultName ? null : variant(name, by).id);
  const stand = placements.map((p): Placement => {
    const by = `“${p.name}”`;
    const start = coloring(p.coloring, by);
    return {
      id: newId('o'),
      name: p.name,
      model: model(p.model, by).id,
      ...(start !== null && { variant: start }),
      at: p.at,
      turn: p.turn,
      scale: p.scale,
    };
  });
  once(stand, 'placements');
  const named = cues.map((c) => ({ id: newId('q'), name: c.name }));
  once(named, 'cues');
  const placement = lookUp('placement', stand, 'is not in the file');
  const cue = lookUp('cue', named, 'is not in the file');
  const rules = cues.map((c, i): Cue => {
    const by = `The cue “${c.name}”`;
    const place = (name: string | null) => (name === null ? gone : placement(name, by).id);
    const shown = (name: string | null) => (name === null ? gone : coloring(name, by));
    const { when, who, does } = c;
    return {
      ...named[i]!,
      when:
        when.event === 'start'
          ? { kind: 'start' }
          : when.event === 'cue'
            ? { kind: 'cue', cue: when.cue === null ? gone : cue(when.cue, by).id }
            : when.event === 'near'
              ? { kind: 'near', placement: place(when.placement), metres: when.metres }
              : { kind: 'click', placement: place(when.placement) },
      ...(c.after && { after: c.after }),
      who:
        who === 'all'
          ? {}
          : 'model' in who
            ? { model: who.model === null ? gone : model(who.model, by).id }
            : { placement: place(who.placement) },
      does: {
        kind: does.act,
        ...(does.coloring !== undefined && { coloring: shown(does.coloring) }),
        ...(does.question !== undefined && { question: does.question }),
        ...(Array.isArray(does.among) && { among: does.among.map((name) => coloring(name, by)) }),
      },
      ...(c.once && { once: true as const }),
      ...(c.onlyIf && { onlyIf: { placement: place(c.onlyIf.placement), coloring: shown(c.onlyIf.coloring) } }),
    };
  });
  return { placements: stand, cues: rules };
}

function once(list: readonly { name: string }[], what: string): void {
  const seen = new Set<string>();
  for (const { name } of list) {
    const key = name.trim().toLowerCase();
    if (seen.has(key)) throw new Error(`two ${what} are called “${name}”`);
    seen.add(key);
  }
}

/**
 * A stage comes in: instead of what stands there and its cues, or beside them, where names that are taken get a number.
 * `null` where nothing comes and nothing goes.
 */
export function takeStage(kit: Kit, { placements, cues }: Stage, how: 'instead' | 'beside'): Edit | null {
  const [standing, rules] = how === 'beside' ? [kit.placements ?? [], kit.cues ?? []] : [[], []];
  const label = 'Bring in a stage';
  const edits: Edit[] = [];
  if (how === 'instead') {
    const own = kit.cues ?? [];
    edits.push(...changed(own, own.map(unlinked), 0));
    // From the last to the first, so that what goes does not move what is still to go.
    for (let index = own.length - 1; index >= 0; index--)
      edits.push({ kind: 'put', list: 'cues', of: 'kit', index, before: unlinked(own[index]!), after: null });
    const all = (kit.placements ?? []).map((p) => p.id);
    const cleared = removePlacements({ ...kit, cues: [] }, all);
    if (cleared) edits.push(cleared);
  }
  const free = freeNames(standing);
  const puts = placements.map((p, i) => ({ index: standing.length + i, before: null, after: { ...p, name: free(p.name) } }));
  if (puts.length) edits.push({ kind: 'stand', label, puts });
  const freeCue = freeNames(rules);
  const named = cues.map((c) => ({ ...c, name: freeCue(c.name) }));
  named
    .map(unlinked)
    .forEach((after, i) => edits.push({ kind: 'put', list: 'cues', of: 'kit', index: rules.length + i, before: null, after }));
  edits.push(...changed(named.map(unlinked), named, rules.length));
  return edits.length ? group(label, edits) : null;
}

/** Cues come and go without what they say of each other, so that each finds what it speaks of, also where this is undone. */
const unlinked = (cue: Cue): Cue => (cue.when.kind === 'cue' ? { ...cue, when: { kind: 'cue', cue: gone } } : cue);

const changed = (before: readonly Cue[], after: readonly Cue[], first: number): Edit[] =>
  before.flatMap((from, i): Edit[] => {
    const to = after[i]!;
    return from === to ? [] : [{ kind: 'put', list: 'cues', of: 'kit', index: first + i, before: from, after: to }];
  });

function freeNames(list: readonly { name: string }[]): (name: string) => string {
  const taken = new Set(list.map((e) => e.name.toLowerCase()));
  return (name) => {
    let candidate = name;
    for (let n = 2; taken.has(candidate.toLowerCase()); n++) candidate = `${name} ${n}`;
    taken.add(candidate.toLowerCase());
    return candidate;
  };
}
