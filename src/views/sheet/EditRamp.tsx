'use client';
import { Plus } from 'lucide-react';
import { useEffect, useState } from 'react';
import { makeRamp, readTuning } from '@/core/sheet/ramp/makeRamp';
import { solid, spareCells, type Fill } from '@/core/kit/kit';
import { rampColors } from '@/core/sheet/ramp/rampEdits';
import { closePanel, noDrafts, useColoring } from '@/state/chosen/coloringState';
import { useEditor } from '@/state/kit/editor';
import { addRampStep, findRamp, setRampName, tuneRamp, untie } from '@/state/color/ramps';
import { Button } from '@/ui/Button';
import { RampTuning, type Tuning } from './RampTuning';
import { SidePanel } from './SidePanel';

/**
 * A ramp that is there: its name, further steps, and tuning anew around one of its steps, shown on every
 * model before it is kept.
 */
export function EditRamp({ id }: { id: string }) {
  useEditor((s) => s.state.kit);
  const found = findRamp(id);
  const drafts = useColoring((s) => s.drafts);
  const [tuned, setTuning] = useState<Tuning | null>(null);
  const [base, setBase] = useState<number | null>(null);
  useEffect(() => {
    if (!found) closePanel();
  }, [found]);
  if (!found) return null;
  const { sheet, ramp } = found;
  const stored = rampColors(sheet, ramp);
  const isFull = spareCells(sheet).length === 0;
  const shown = ramp.cells.map((cell, i) => colorOfDraft(drafts[cell]) ?? stored[i]!);
  const around = Math.min(base ?? Math.floor((stored.length - 1) / 2), stored.length - 1);
  const isTried = ramp.cells.some((cell) => drafts[cell] !== undefined);
  // Until a slider is moved they stand as the ramp runs.
  const tuning = tuned ?? readTuning(stored, around);
  const attempt = (next: Tuning, from = around) => {
    setTuning(next);
    const { colors } = makeRamp(stored[from]!, { ...next, steps: stored.length, baseIndex: from });
    useColoring.setState({ drafts: Object.fromEntries(ramp.cells.map((cell, i) => [cell, solid(colors[i]!)])) });
  };
  return (
    <SidePanel title="Ramp" onClose={closePanel}>
      <label className="mb-3 flex items-center gap-2 text-[12px]">
        <span className="w-10">Name</span>
        <NameField key={ramp.name} name={ramp.name} onDone={(name) => setRampName(id, name)} />
      </label>
      <div className="flex h-14 items-stretch">
        <Gap label="Add a darker step" at={0} id={id} />
        {shown.map((color, i) => (
          <span key={ramp.cells[i]} className="flex min-w-0 flex-1 items-stretch">
            <button
              type="button"
              aria-label={`Tune around step ${i + 1}`}
              aria-pressed={i === around}
              title="Tune around this step"
              onClick={() => {
                setBase(i);
                if (isTried) attempt(tuning, i);
              }}
              className="flex min-w-0 flex-1 items-end justify-center pb-1"
              style={{ background: color }}
            >
              {i === around && <span className="h-2 w-2 border border-ink bg-white" />}
            </button>
            <Gap label={i + 1 < shown.length ? `Add a step between ${i + 1} and ${i + 2}` : 'Add a lighter step'} at={i + 1} id={id} />
          </span>
        ))}
      </div>
      <p className="mt-1 mb-3 text-[12px] text-quiet">
        The marked step stays as it is; the others are tuned around it.
        {isFull && ' No cell is spare: a further step makes the sheet larger; nothing moves.'}
      </p>
      <RampTuning value={tuning} onChange={(next) => attempt(next)} />
      <div className="mt-3 flex items-center justify-between border-t border-hairline pt-3">
        <Button kind="bare" className="-ml-3" onClick={() => untie(id)} title="The colors stay; they are no longer steps of one ramp.">
          Untie
        </Button>
        <span className="flex gap-2">
          <Button
            disabled={!isTried}
            onClick={() => {
              setTuning(null);
              useColoring.setState({ drafts: noDrafts });
            }}
          >
            As it was
          </Button>
          <Button
            kind="solid"
            disabled={!isTried}
            onClick={() => {
              setTuning(null);
              tuneRamp(id, shown);
            }}
          >
            Keep
          </Button>
        </span>
      </div>
    </SidePanel>
  );
}

const colorOfDraft = (fill: Fill | undefined): string | undefined => (fill?.kind === 'solid' ? fill.color : undefined);

function Gap({ label, at, id }: { label: string; at: number; id: string }) {
  return (
    <button
      type="button"
      aria-label={label}
      title={label}
      onClick={() => addRampStep(id, at)}
      className="group flex w-[14px] shrink-0 items-center justify-center hover:bg-ink"
    >
      <Plus size={10} aria-hidden className="text-quiet group-hover:text-paper" />
    </button>
  );
}

function NameField({ name, onDone }: { name: string; onDone: (name: string) => void }) {
  const [text, setText] = useState(name);
  return (
    <input
      aria-label="Name"
      value={text}
      maxLength={100}
      onChange={(e) => setText(e.target.value)}
      onBlur={() => onDone(text.trim())}
      onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
      className="w-full border border-hairline bg-white px-2 py-1"
    />
  );
}
