'use client';
import { rampDefaults, rampLimits, type RampOptions } from '@/core/sheet/ramp/makeRamp';

/** How a ramp runs, apart from its number of steps. */
export type Tuning = Omit<RampOptions, 'steps' | 'baseIndex'>;
const sliders: [key: keyof Tuning, word: string, least: number, most: number, step: number, say: (v: number) => string][] = [
  ['dark', 'Dark end', 0.1, 0.6, 0.01, percent],
  ['light', 'Light end', 0.5, 0.98, 0.01, percent],
  ['coolShade', 'Cool shade', 0, 60, 1, degrees],
  ['warmLight', 'Warm light', 0, 60, 1, degrees],
  ['endChroma', 'Chroma at ends', 0, 1.5, 0.05, percent],
];

function percent(v: number): string {
  return `${Math.round(v * 100)} %`;
}
function degrees(v: number): string {
  return `${v}°`;
}

/** How a ramp runs from dark to light. */
export function RampTuning({ value, onChange }: { value: Tuning; onChange: (next: Tuning) => void }) {
  return (
    <div className="space-y-1">
      {sliders.map(([key, word, least, most, step, say]) => (
        <label key={key} className="grid grid-cols-[96px_1fr_40px] items-center gap-2">
          {word}
          <input
            type="range"
            min={least}
            max={most}
            step={step}
            value={value[key]}
            onChange={(e) => onChange({ ...value, [key]: Number(e.target.value) })}
            className="slider-plain"
          />
          <span className="text-right text-[12px]">{say(value[key])}</span>
        </label>
      ))}
    </div>
  );
}

export function StepCount({ value, onChange }: { value: number; onChange: (steps: number) => void }) {
  const counts = Array.from({ length: rampLimits.most - rampLimits.least + 1 }, (_, i) => rampLimits.least + i);
  return (
    <div role="radiogroup" aria-label="Steps" className="flex">
      {counts.map((n) => (
        <button
          key={n}
          type="button"
          role="radio"
          aria-checked={n === value}
          onClick={() => onChange(n)}
          className="h-7 flex-1 border border-l-0 border-ink first:border-l hover:bg-wash aria-checked:bg-ink aria-checked:text-paper"
        >
          {n}
        </button>
      ))}
    </div>
  );
}

const { steps: _, ...tuning } = rampDefaults;
export const tuningDefaults: Tuning = tuning;
