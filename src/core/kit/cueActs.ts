import type { Coloring, CueAct, Held } from './kit';

/** Everything that there is to know of one act of cues. Kit, stage files, play and the sentence follow from it. */
interface CueActKind {
  /** What it does, in the sentence. */
  word: string;
  holds: readonly Held[];
  /**
   * The coloring that a placement takes: of those that are meant and that it can show, with the one that it shows now and
   * the one that the act holds. An act without it asks the visitor.
   */
  choose?: (meant: readonly Coloring[], now: Coloring, held: Coloring | undefined, random: () => number) => Coloring;
}

/** All acts, in the order in which they are offered. A new one is an entry here, and its words in docs/stage.schema.json. */
export const cueActs = {
  show: { word: 'shows', holds: ['coloring'], choose: (_meant, now, held) => (held === undefined ? now : held) },
  next: {
    word: 'shows the next in turn',
    holds: ['among'],
    choose: (meant, now) => (meant.length ? meant[(meant.indexOf(now) + 1) % meant.length]! : now),
  },
  random: {
    word: 'shows one at random',
    holds: ['among'],
    // Another than now, where there is one: a click that changes nothing looks broken.
    choose(meant, now, _, random) {
      const others = meant.filter((c) => c !== now);
      return others.length ? others[Math.floor(random() * others.length)]! : now;
    },
  },
  ask: { word: 'asks which', holds: ['question', 'among'] },
} as const satisfies { [kind in string]: CueActKind };

export type CueActId = keyof typeof cueActs;
export const cueActIds = Object.keys(cueActs) as CueActId[];
export const aboutAct = (kind: CueActId): CueActKind => cueActs[kind];

/** What an act begins with, of a cue that had another: what both hold goes along. */
export function actOf(kind: CueActId, before: CueAct, coloring: Coloring): CueAct {
  const { holds } = aboutAct(kind);
  return {
    kind,
    ...(holds.includes('coloring') && { coloring: before.coloring ?? coloring }),
    ...(holds.includes('question') && { question: before.question ?? 'How shall it look?' }),
    ...(holds.includes('among') && before.among && { among: before.among }),
  };
}

/** An act that speaks of other colorings: of another one, and of other ones that are meant. */
export const withColorings = (
  does: CueAct,
  coloring: (own: Coloring) => Coloring,
  among: (own: readonly Coloring[]) => Coloring[],
): CueAct => ({
  ...does,
  ...(does.coloring !== undefined && { coloring: coloring(does.coloring) }),
  ...(does.among && { among: among(does.among) }),
});

/** Of what acts may hold, as some form of the document says it, what one of them holds. */
export const heldOf = <T extends Readonly<Record<Held, unknown>>>(kind: CueActId, held: T): Partial<T> =>
  Object.fromEntries(aboutAct(kind).holds.map((name) => [name, held[name]])) as Partial<T>;
