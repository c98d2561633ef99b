'use client';
import { scaleBounds } from '@/core/ground/limits';
import { useState } from 'react';
import type { Placement } from '@/core/kit/kit';
import {
  copyChosen,
  makeChosen,
  namePlacement,
  pasteCopied,
  problemOfName,
  removeChosen,
  setChosen,
  startChosenIn,
  useStage,
} from '@/state/stage/stage';
import { useBase } from '@/state/kit/useCurrent';
import { Button } from '@/ui/Button';
import { NumberField } from '@/ui/NumberField';
import { Select } from '@/ui/Select';
import { count } from '@/ui/words';

/** What is chosen on the stage: its name, its coloring, and where it stands. */
export function StagePlacement() {
  const { placements = [], variants, models } = useBase().kit;
  const ids = useStage((s) => s.chosen);
  const chosen = placements.filter((p) => ids.includes(p.id));
  const [first] = chosen;
  if (!first)
    return (
      <p className="text-quiet">
        {placements.length
          ? 'Click what stands on the stage to choose it; with Shift, several.'
          : 'A stage for the kit: place its models as a game would, each in one of its colorings, and see what that costs.'}
      </p>
    );
  const own = variants.filter((v) => v.model === undefined || chosen.every((p) => p.model === v.model));
  const isOne = chosen.every((p) => p.variant === first.variant);
  return (
    <section aria-label="Chosen">
      {chosen.length === 1 ? (
        <NameField key={first.id} placement={first} />
      ) : (
        <h2 className="text-[14px] font-bold">{count(chosen.length, 'model')} chosen</h2>
      )}
      <div className="mt-3 grid grid-cols-[88px_1fr] items-center gap-2">
        <span>Model</span>
        <Select
          isQuiet
          label="Model"
          value={chosen.every((p) => p.model === first.model) ? first.model : '?'}
          placeholder="several"
          options={models.map((m) => ({ value: m.id, word: m.name }))}
          onChange={makeChosen}
        />
        <span>Starts in</span>
        <Select
          isQuiet
          label="Starts in"
          value={isOne ? (first.variant ?? '') : '?'}
          placeholder="several"
          options={[{ value: '', word: 'default' }, ...own.map((v) => ({ value: v.id, word: v.name }))]}
          onChange={(id) => startChosenIn(id || null)}
        />
        {chosen.length === 1 && (
          <>
            <span>Stands at</span>
            <span className="flex gap-1.5">
              {(['x', 'y', 'z'] as const).map((axis, k) => (
                <NumberField
                  key={axis}
                  label={axis}
                  value={first.at[k]!}
                  step={0.25}
                  onChange={(v) => setChosen('Move on the stage', { at: first.at.map((own, i) => (i === k ? v : own)) as Placement['at'] })}
                />
              ))}
            </span>
            <span>Turned, sized</span>
            <span className="flex gap-1.5">
              <NumberField label="°" value={first.turn} onChange={(turn) => setChosen('Turn on the stage', { turn })} />
              <NumberField
                label="×"
                value={first.scale}
                least={scaleBounds[0]}
                most={scaleBounds[1]}
                onChange={(scale) => setChosen('Scale on the stage', { scale })}
              />
            </span>
          </>
        )}
      </div>
      <div className="mt-3 flex gap-2">
        <Button
          onClick={() => {
            copyChosen();
            pasteCopied();
          }}
        >
          Copy
        </Button>
        <Button onClick={removeChosen}>Take off</Button>
      </div>
    </section>
  );
}

function NameField({ placement }: { placement: Placement }) {
  const [text, setText] = useState<string | null>(null);
  const shown = text ?? placement.name;
  const problem = problemOfName(placement.id, shown);
  const finish = () => {
    if (text !== null && !problem) namePlacement(placement.id, text);
    setText(null);
  };
  return (
    <>
      <input
        aria-label="Name on the stage"
        aria-invalid={problem !== null}
        value={shown}
        maxLength={200}
        onChange={(e) => setText(e.target.value)}
        onBlur={finish}
        onKeyDown={(e) => {
          e.stopPropagation();
          if (e.key === 'Enter') e.currentTarget.blur();
          if (e.key === 'Escape') setText(null);
        }}
        className="w-full border-b border-transparent bg-transparent text-[14px] font-bold hover:border-hairline focus:border-ink"
      />
      {problem && (
        <p role="status" className="text-[12px]">
          {problem}
        </p>
      )}
    </>
  );
}
