'use client';
import { useEffect } from 'react';
import { levelsOf } from '@/core/judging/proof/mips';
import { currentOf, useEditor } from '@/state/kit/editor';
import { stopSampling, useSampling } from '@/state/proof/sampling';
import { Choice } from '@/ui/Choice';
import { NumberField } from '@/ui/NumberField';

/** Doublings of the distance. */
const farthest = 7;

/** How a game's filter would show the model: from afar, and where it leaves out the largest mip levels. */
export function SamplingBar() {
  const { by, farther, leftOut } = useSampling();
  const sheet = useEditor((s) => currentOf(s)?.sheet);
  useEffect(() => stopSampling, []);
  if (!sheet) return null;
  const hasMips = by === 'bilinear' || by === 'trilinear';
  return (
    <div
      role="group"
      aria-label="As a game samples the sheet"
      className="absolute bottom-4 left-5 flex max-w-[calc(100%-40px)] flex-wrap items-center gap-x-4 gap-y-1.5 bg-paper px-3 py-1.5 text-[12.5px]"
    >
      <Choice
        label="Filter"
        value={by}
        options={[
          ['none', 'True colors'],
          ['nearest', 'Nearest'],
          ['bilinear', 'Bilinear'],
          ['trilinear', 'Trilinear'],
        ]}
        onChange={(to) => useSampling.setState({ by: to })}
        className="border border-ink"
      />
      {hasMips && (
        <label className="flex items-center gap-2">
          seen from
          <input
            type="range"
            aria-label="Times as far"
            min={0}
            max={farthest}
            step={0.25}
            value={Math.log2(farther)}
            aria-valuetext={`${farther.toFixed(farther < 4 ? 1 : 0)} times as far`}
            onChange={(e) => useSampling.setState({ farther: 2 ** Number(e.target.value) })}
            className="w-[110px] accent-ink"
          />
          <span className="w-[72px] tabular-nums">{farther.toFixed(farther < 4 ? 1 : 0)}× as far</span>
        </label>
      )}
      {by !== 'none' && (
        <NumberField
          label="largest levels left out"
          hint="As settings for weaker cards do"
          value={leftOut}
          least={0}
          most={levelsOf(sheet.width, sheet.height) - 1}
          onChange={(v) => useSampling.setState({ leftOut: Math.round(v) })}
        />
      )}
    </div>
  );
}
