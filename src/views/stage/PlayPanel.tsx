'use client';
import { useEffect, useRef } from 'react';
import { openCues } from '@/core/kit/edit/cueEdits';
import type { Play } from '@/core/stage/play';
import { answerInPlay, answersClicks, beginPlay, clickInPlay, endPlay, goBefore, see, usePlaying } from '@/state/stage/playing';
import { Button, Key } from '@/ui/Button';
import { Choice } from '@/ui/Choice';
import { count, number } from '@/ui/words';
import { keyOf, wordOfColoring } from './cueWords';

const times = (seconds: number): string => `${Math.floor(seconds / 60)}:${String(Math.floor(seconds % 60)).padStart(2, '0')}`;

const action = 'inline-flex h-8 shrink-0 items-center gap-2 border px-3 font-medium';

/** What is done in play, in one sentence, above the stage. */
export function PlaySentence() {
  const sees = usePlaying((s) => s.sees);
  return (
    <div className="flex h-[50px] shrink-0 items-center gap-4 border-b border-hairline bg-ink px-5 text-paper">
      <p aria-label="What a click does" className="min-w-0 flex-1 truncate text-phrase">
        {sees === 'walk' ? 'Arrow keys walk, a drag looks about, a click acts.' : 'Arrow keys walk; a click acts, or walks there.'}
      </p>
      <button type="button" className={`${action} border-paper hover:bg-[#333]`} onClick={beginPlay}>
        Start over
      </button>
      <button type="button" className={`${action} border-paper bg-paper text-ink hover:bg-wash`} onClick={endPlay}>
        End play <Key>Esc</Key>
      </button>
    </div>
  );
}

export function PlayCamera() {
  const sees = usePlaying((s) => s.sees);
  return (
    <Choice
      label="How you see it"
      value={sees}
      options={[
        ['walk', 'At eye height'],
        ['above', 'From above'],
      ]}
      onChange={see}
    />
  );
}

/** What is being asked, with a button for each answer. */
export function QuestionBar() {
  usePlaying((s) => s.revision);
  const play = usePlaying((s) => s.play);
  const question = play?.question ?? null;
  const first = useRef<HTMLButtonElement>(null);
  useEffect(() => {
    if (!question) return;
    first.current?.focus();
    return () => document.getElementById('stage')?.focus();
  }, [question]);
  if (!play || !question) return null;
  return (
    <div
      role="dialog"
      aria-label={question.text}
      onKeyDown={(e) => {
        if (e.key !== 'Escape') return;
        e.stopPropagation();
        answerInPlay(undefined);
      }}
      className="absolute inset-x-5 bottom-4 flex flex-wrap items-center gap-x-4 gap-y-2 border border-ink bg-paper px-4 py-2.5"
    >
      <p className="text-phrase font-bold">{question.text}</p>
      <span className="flex flex-wrap gap-2">
        {question.choices.map((c, i) => (
          <Button key={keyOf(c)} ref={i === 0 ? first : undefined} onClick={() => answerInPlay(c)}>
            {wordOfColoring(play.kit, c)}
          </Button>
        ))}
        <Button kind="bare" onClick={() => answerInPlay(undefined)}>
          Leave it
        </Button>
      </span>
    </div>
  );
}

/** Rows that the list shows. */
const mostRows = 200;

/** What stands there, what it shows now, and how to reach it without seeing it. */
export function PlayList({ play }: { play: Play }) {
  usePlaying((s) => s.revision);
  const { placements = [] } = play.kit;
  // What answers a click comes first: it is what there is to do.
  const rows = [...placements].sort((a, b) => Number(answersClicks(play, b.id)) - Number(answersClicks(play, a.id)));
  return (
    <aside aria-label="In play" className="flex w-[204px] shrink-0 flex-col border-r border-hairline bg-paper">
      <h2 className="flex justify-between border-b border-hairline px-4 pt-3 pb-2 text-[12px]">
        <span className="font-bold">What is there</span>
        <span className="text-quiet">{number(placements.length)}</span>
      </h2>
      <ul aria-label="What is there" className="min-h-0 flex-1 overflow-y-auto">
        {rows.slice(0, mostRows).map((p) => (
          <li key={p.id} aria-label={p.name} className="border-b border-hairline px-4 py-1.5">
            <span className="block truncate font-medium">{p.name}</span>
            <span className="flex items-baseline justify-between gap-2 text-[12px]">
              <span className="min-w-0 truncate text-quiet">{wordOfColoring(play.kit, play.shows.get(p.id) ?? null)}</span>
              <span className="flex shrink-0 gap-2">
                <button
                  type="button"
                  aria-label={`Go to ${p.name}`}
                  className="border-b border-ink hover:bg-wash"
                  onClick={() => goBefore(p)}
                >
                  go
                </button>
                {answersClicks(play, p.id) && (
                  <button
                    type="button"
                    aria-label={`Click ${p.name}`}
                    className="border-b border-ink font-bold hover:bg-wash"
                    onClick={() => clickInPlay(p.id)}
                  >
                    click
                  </button>
                )}
              </span>
            </span>
          </li>
        ))}
        {placements.length > mostRows && (
          <li className="px-4 py-1 text-[12px] text-quiet">and {number(placements.length - mostRows)} more</li>
        )}
      </ul>
    </aside>
  );
}

/** What ran, the last first. */
export function PlayLog({ play }: { play: Play }) {
  usePlaying((s) => s.revision);
  const { cues = [] } = play.kit;
  const open = openCues(play.kit);
  return (
    <section aria-label="What ran">
      <h2 className="flex justify-between text-[14px]">
        <span className="font-bold">What ran</span>
        <span className="text-quiet">{count(cues.length, 'cue')}</span>
      </h2>
      {open.length > 0 && (
        <p className="mt-2 border-l-2 border-ink pl-2.5">
          {count(open.length, 'cue')} {open.length === 1 ? 'does' : 'do'} not run: {open.map((c) => c.cue.name).join(', ')}. Under Cues it
          is said what to choose.
        </p>
      )}
      {cues.length === 0 && <p className="mt-2 text-quiet">There are no cues: nothing happens here but that you can walk about.</p>}
      <ol className="mt-2">
        {[...play.log].reverse().map((event, i) => (
          <li key={play.log.length - i} className="grid grid-cols-[38px_1fr] border-t border-hairline py-1">
            <span className="text-quiet">{times(event.at)}</span>
            <span>
              <span className="block">{event.says}</span>
              <span className="block text-[11.5px] text-quiet">{event.cue}</span>
            </span>
          </li>
        ))}
        {cues.length > 0 && play.log.length === 0 && <li className="text-quiet">Nothing yet.</li>}
      </ol>
    </section>
  );
}

/** Begins a play where none is, for a button. */
export const PlayButton = ({ disabled }: { disabled: boolean }) => (
  <Button kind="solid" className="min-h-7" disabled={disabled} onClick={beginPlay}>
    Play
  </Button>
);
