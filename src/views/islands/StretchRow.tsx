'use client';
import { useEffect } from 'react';
import { lightnessOf, timesOff } from '@/core/islands/unwrap/stretch';
import { useEditor } from '@/state/kit/editor';
import { checkerStep, goToFace, measureStretch, useStretch, type StretchShown } from '@/state/islands/stretch';
import { Choice } from '@/ui/Choice';
import { Menu } from '@/ui/Menu';
import { row } from './fields';

const times = (v: number): string => `×${v < 10 ? v.toFixed(2) : v.toFixed(0)}`;

/** How far faces on art are stretched, as one figure each for area and angle; shown on the model, and where it is worst. */
export function StretchRow() {
  const seats = useEditor((s) => s.state.seats);
  const sheets = useEditor((s) => s.state.kit.sheets);
  const model = useEditor((s) => s.modelId);
  const mesh = useEditor((s) => (s.modelId ? s.meshes[s.state.kit.models.find((m) => m.id === s.modelId)?.mesh ?? ''] : undefined));
  useEffect(() => {
    void measureStretch();
  }, [seats, sheets, model, mesh]);
  // What is shown of stretch is shown in this view alone.
  useEffect(() => () => useStretch.setState({ shown: 'colors' }), []);
  const { shown, now, before } = useStretch();
  if (now?.model !== model || !now) return null;
  const { stretch, worst } = now;
  return (
    <div className={row} role="group" aria-label="Stretch">
      <span>
        Stretch <strong>{times(stretch.areaStretch)}</strong> area, <strong>{times(stretch.angleStretch)}</strong> angle
        {before?.model === model && (
          <span className="text-quiet">
            {' '}
            (before {times(before.areaStretch)}, {times(before.angleStretch)})
          </span>
        )}
      </span>
      <Menu
        label="Faces that are stretched most"
        align="start"
        trigger="the worst"
        note="Small faces, and those that can hardly be seen, count for less."
        className="border-b border-ink hover:bg-wash"
        items={[...worst.subarray(0, 12)].map((f) => ({
          label: `Face ${f + 1}`,
          hint: `${times(timesOff(stretch, f))} area, ${times(stretch.angle[f]!)} angle`,
          run: () => goToFace(f),
        }))}
      />
      <Choice<StretchShown>
        label="Shown on the model"
        value={shown}
        options={[
          ['colors', 'Colors'],
          ['area', 'Area'],
          ['angle', 'Angle'],
          ['checker', 'Checker'],
        ]}
        onChange={(next) => useStretch.setState({ shown: next })}
        className="border border-hairline"
      />
      {shown !== 'colors' && <Legend shown={shown} />}
    </div>
  );
}

const steps: Record<'area' | 'angle', [number, string][]> = {
  area: [
    [4, '×4 texels'],
    [2, '2'],
    [1, 'the mean'],
    [0.5, '½'],
    [0.25, '¼'],
  ],
  angle: [
    [1, 'none'],
    [1.25, '×1.25'],
    [1.5, '×1.5'],
    [2, '×2 or more'],
  ],
};

function Legend({ shown }: { shown: Exclude<StretchShown, 'colors'> }) {
  if (shown === 'checker') return <span className="text-quiet">a square is {checkerStep} × {checkerStep} texels</span>; // prettier-ignore
  return (
    <span className="flex items-center gap-2 text-[12px]">
      {steps[shown].map(([value, word]) => {
        const grey = Math.round(lightnessOf(shown, value) * 255);
        return (
          <span key={word} className="flex items-center gap-1">
            <span aria-hidden className="h-3.5 w-3.5 border border-hairline" style={{ background: `rgb(${grey} ${grey} ${grey})` }} />
            {word}
          </span>
        );
      })}
    </span>
  );
}
