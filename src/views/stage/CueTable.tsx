'use client';
import { longestCueName } from '@/core/ground/limits';
import { MoreHorizontal, X } from 'lucide-react';
import { useState } from 'react';
import { problemOfCue } from '@/core/kit/cues';
import type { Cue, Kit } from '@/core/kit/kit';
import { deleteCue, makeCue, nameCue, problemOfCueNameNow, shiftCue } from '@/state/stage/cues';
import { useStage } from '@/state/stage/stage';
import { useBase } from '@/state/kit/useCurrent';
import { Button } from '@/ui/Button';
import { Menu } from '@/ui/Menu';
import { count } from '@/ui/words';
import { CueSentence } from './CueSentence';

/** The rules of play, a sentence each. */
export function CueTable() {
  const { kit } = useBase();
  const { cues = [], placements = [] } = kit;
  const [fresh, setFresh] = useState<string | null>(null);
  const open = cues.filter((c) => problemOfCue(kit, c)).length;
  return (
    <section aria-label="Cues" className="flex max-h-[46%] min-h-[190px] shrink-0 flex-col border-t border-ink bg-paper">
      <header className="flex h-10 shrink-0 items-center gap-3 border-b border-hairline px-5">
        <h2 className="text-[14px] font-bold">Cues</h2>
        <p className="min-w-0 flex-1 truncate text-quiet">
          {open ? (
            <strong className="text-ink">
              {count(open, 'cue')} {open === 1 ? 'needs' : 'need'} a choice, and {open === 1 ? 'does' : 'do'} not run until then.
            </strong>
          ) : cues.length ? (
            'Press Play to try them: nothing of it changes the kit.'
          ) : (
            'Rules of play: what happens when something is clicked, approached, or the stage starts.'
          )}
        </p>
        <Button className="min-h-7" disabled={!placements.length} onClick={() => setFresh(makeCue(useStage.getState().chosen[0]))}>
          New cue
        </Button>
        <button
          type="button"
          aria-label="Close cues"
          onClick={() => useStage.setState({ showsCues: false })}
          className="flex h-7 w-7 items-center justify-center hover:bg-wash"
        >
          <X size={15} aria-hidden />
        </button>
      </header>
      <ol className="min-h-0 flex-1 overflow-y-auto">
        {cues.map((cue, i) => (
          <Row key={cue.id} {...{ kit, cue, i }} isFresh={cue.id === fresh} isLast={i === cues.length - 1} />
        ))}
        {!cues.length && (
          <li className="px-5 py-4 text-quiet">
            {placements.length
              ? 'There is none yet. A new cue begins with what is chosen on the stage.'
              : 'Place a model first: cues speak of what stands there.'}
          </li>
        )}
      </ol>
    </section>
  );
}

function Row({ kit, cue, i, isFresh, isLast }: { kit: Kit; cue: Cue; i: number; isFresh: boolean; isLast: boolean }) {
  const problem = problemOfCue(kit, cue);
  return (
    <li aria-label={cue.name} className="grid grid-cols-[118px_1fr_28px] gap-3 border-b border-hairline py-1 pr-3 pl-5">
      <NameField key={cue.name} cue={cue} isFresh={isFresh} />
      <div className="min-w-0">
        <CueSentence kit={kit} cue={cue} />
        {problem && (
          <p className="pb-1.5">
            <span className="mr-2 bg-ink px-1.5 py-px text-[12px] font-medium text-paper">does not run</span>
            {problem}
          </p>
        )}
      </div>
      <Menu
        label={`More about ${cue.name}`}
        trigger={<MoreHorizontal size={15} aria-hidden />}
        items={[
          ...(i > 0 ? [{ label: 'Move up', run: () => shiftCue(cue, -1) }] : []),
          ...(isLast ? [] : [{ label: 'Move down', run: () => shiftCue(cue, 1) }]),
          { label: 'Delete', run: () => deleteCue(cue) },
        ]}
        className="mt-0.5 inline-flex h-7 w-7 items-center justify-center hover:bg-hairline"
      />
    </li>
  );
}

function NameField({ cue, isFresh }: { cue: Cue; isFresh: boolean }) {
  const [text, setText] = useState(cue.name);
  const problem = problemOfCueNameNow(cue.id, text);
  const finish = () => {
    if (problem) setText(cue.name);
    else if (text !== cue.name) nameCue(cue, text);
  };
  return (
    <div className="pt-0.5">
      <input
        ref={(field) => {
          if (isFresh) field?.scrollIntoView({ block: 'nearest' });
        }}
        aria-label={`Name of ${cue.name}`}
        aria-invalid={problem !== null}
        value={text}
        maxLength={longestCueName + 20}
        onChange={(e) => setText(e.target.value)}
        onBlur={finish}
        onKeyDown={(e) => {
          e.stopPropagation();
          if (e.key === 'Enter') e.currentTarget.blur();
          if (e.key === 'Escape') setText(cue.name);
        }}
        className="w-full truncate border-b border-transparent bg-transparent py-0.5 font-medium hover:border-hairline focus:border-ink"
      />
      {problem && (
        <p role="status" className="text-small">
          {problem}
        </p>
      )}
    </div>
  );
}
