import { aboutAct } from '../kit/cueActs';
import { choicesOf, problemOfCue } from '../kit/cues';
import type { Coloring, Cue, Kit, Placement } from '../kit/kit';
import { seededRandom } from '../kit/edit/placements';

/** What happened in a play, in order. */
export interface PlayEvent {
  /** Seconds since it began. */
  at: number;
  cue: string;
  /** In words that name what is there. */
  says: string;
}

/** A question that waits for its answer. */
export interface Question {
  cue: string;
  text: string;
  choices: Coloring[];
}

/**
 * A play of a stage's cues. It holds what each placement shows, and nothing of the kit is changed by it. The same kit,
 * seed and acts at the same times give the same play.
 */
export interface Play {
  readonly kit: Kit;
  readonly shows: ReadonlyMap<string, Coloring>;
  /** Grows with each change of what is shown. */
  readonly version: number;
  readonly time: number;
  readonly question: Question | null;
  readonly log: readonly PlayEvent[];
  /** Seconds until the next cue that waits for its time runs; `null` where none waits. */
  readonly untilNext: number | null;
  /** What runs when the visitor clicks a placement. */
  click: (placement: string) => void;
  /** Time passes, and the visitor stands there now: metres over the ground. */
  pass: (seconds: number, visitor: readonly [x: number, z: number]) => void;
  /** `undefined`: the question is left without an answer, and its cue has not run. */
  answer: (coloring: Coloring | undefined) => void;
}

/** Entries of the log that are kept. */
const mostLogged = 1000;

/** Begins a play. Cues that speak of what is gone do not run. */
export function startPlay(kit: Kit, seed = 1): Play {
  const placements = kit.placements ?? [];
  const cues = (kit.cues ?? []).filter((c) => !problemOfCue(kit, c));
  const byId = new Map(placements.map((p) => [p.id, p]));
  const random = seededRandom(seed);
  const shows = new Map<string, Coloring>(placements.map((p) => [p.id, p.variant ?? null]));
  const waiting: { at: number; cue: Cue }[] = [];
  const questions: Question[] = [];
  const ran = new Set<string>();
  /** Cues whose visitor is within their reach: they run again once the visitor has left it. */
  const within = new Set<string>();
  const log: PlayEvent[] = [];
  let [time, version] = [0, 0];

  const wordOf = (c: Coloring) => kit.variants.find((v) => v.id === c)?.name ?? 'default';
  const say = (cue: Cue, says: string) => {
    log.push({ at: time, cue: cue.name, says });
    if (log.length > mostLogged) log.shift();
  };
  const meantBy = ({ who }: Cue): Placement[] =>
    who.placement !== undefined ? [byId.get(who.placement)!] : placements.filter((p) => who.model === undefined || p.model === who.model);
  const canShow = (p: Placement, c: Coloring) => {
    const own = c === null ? null : kit.variants.find((v) => v.id === c);
    return own === null || (own !== undefined && (own.model === undefined || own.model === p.model));
  };
  const isMet = ({ onlyIf }: Cue) => !onlyIf || shows.get(onlyIf.placement) === onlyIf.coloring;
  const happened = (isMeant: (when: Cue['when'], cue: Cue) => boolean) => {
    for (const cue of cues)
      if (isMeant(cue.when, cue)) {
        if (cue.after) waiting.push({ at: time + cue.after, cue });
        else run(cue);
      }
  };
  const show = (cue: Cue, colorOf: (p: Placement) => Coloring) => {
    const changed: Placement[] = [];
    for (const p of meantBy(cue)) {
      const next = colorOf(p);
      if (!canShow(p, next) || shows.get(p.id) === next) continue;
      shows.set(p.id, next);
      changed.push(p);
    }
    if (changed.length) version++;
    const colors = [...new Set(changed.map((p) => wordOf(shows.get(p.id)!)))];
    const subject = changed.length === 1 ? changed[0]!.name : `${changed.length} of what stands there`;
    say(cue, changed.length ? `${subject} ${changed.length === 1 ? 'shows' : 'show'} ${colors.join(', ')}` : 'nothing had to change');
  };
  const done = (cue: Cue) => {
    ran.add(cue.id);
    happened((when) => when.kind === 'cue' && when.cue === cue.id);
  };
  function run(cue: Cue): void {
    if ((cue.once && ran.has(cue.id)) || !isMet(cue)) return;
    const { does } = cue;
    const { choose } = aboutAct(does.kind);
    const { meant } = choicesOf(kit, cue);
    if (!choose) {
      // A question that is being asked is not asked twice.
      if (questions.some((q) => q.cue === cue.id)) return;
      questions.push({ cue: cue.id, text: does.question ?? '', choices: meant });
      say(cue, `asks “${does.question}”`);
      return;
    }
    const choiceOf = (p: Placement) =>
      choose(
        meant.filter((c) => canShow(p, c)),
        shows.get(p.id)!,
        does.coloring,
        random,
      );
    show(cue, choiceOf);
    done(cue);
  }

  const soonest = () => waiting.reduce<(typeof waiting)[number] | null>((a, b) => (a && a.at <= b.at ? a : b), null);

  happened((when) => when.kind === 'start');
  return {
    kit,
    shows,
    log,
    get version() {
      return version;
    },
    get time() {
      return time;
    },
    get question() {
      return questions[0] ?? null;
    },
    get untilNext() {
      const next = soonest();
      return next && Math.max(0, next.at - time);
    },
    click: (placement) => happened((when) => when.kind === 'click' && when.placement === placement),
    pass(seconds, [x, z]) {
      const end = time + seconds;
      // One after the other, each at its own time, as those that they call come due.
      for (let next = soonest(); next && next.at <= end; next = soonest()) {
        waiting.splice(waiting.indexOf(next), 1);
        time = Math.max(time, next.at);
        run(next.cue);
      }
      time = end;
      happened((when, { id }) => {
        if (when.kind !== 'near') return false;
        const { at } = byId.get(when.placement)!;
        const isIn = Math.hypot(at[0] - x, at[2] - z) <= when.metres;
        const comes = isIn && !within.has(id);
        if (isIn) within.add(id);
        else within.delete(id);
        return comes;
      });
    },
    answer(coloring) {
      const question = questions.shift();
      const cue = question && cues.find((c) => c.id === question.cue);
      if (!cue) return;
      if (coloring === undefined || !question.choices.includes(coloring)) say(cue, 'was not answered');
      else {
        say(cue, `“${wordOf(coloring)}” was chosen`);
        show(cue, () => coloring);
        done(cue);
      }
    },
  };
}
