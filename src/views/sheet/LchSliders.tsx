'use client';
import { useId, useRef } from 'react';
import { hexFromLch } from '@/core/ground/color/hex';
import { fitToGamut, isInGamut, type Lch } from '@/core/ground/color/oklab';

const most = { l: 1, c: 0.3, h: 360 } as const;
const names = { l: 'Lightness', c: 'Chroma', h: 'Hue' } as const;
const steps = { l: 0.005, c: 0.002, h: 1 } as const;

/**
 * Three sliders in OKLCH. Their tracks show the colors they lead to; hatched stretches lie outside what a
 * screen can show.
 */
export function LchSliders({
  value,
  onChange,
  onDone,
}: {
  value: Lch;
  onChange: (next: Lch) => void;
  onDone: (next: Lch, isGoingOn: boolean) => void;
}) {
  const id = useId();
  const isOut = !isInGamut(value);
  // Steps by key are one change until the slider is left.
  const hasStepped = useRef(false);
  const finish = (byKey = false) => {
    onDone(value, byKey && hasStepped.current);
    hasStepped.current = byKey;
  };
  return (
    <div className="space-y-2">
      {(['l', 'c', 'h'] as const).map((key) => (
        <div key={key} className="grid grid-cols-[72px_1fr_44px] items-center gap-2">
          <label htmlFor={`${id}${key}`}>{names[key]}</label>
          <input
            id={`${id}${key}`}
            type="range"
            min={0}
            max={most[key]}
            step={steps[key]}
            value={value[key]}
            onChange={(e) => onChange({ ...value, [key]: Number(e.target.value) })}
            onPointerUp={() => finish()}
            onKeyUp={(e) => e.key.startsWith('Arrow') && finish(true)}
            onBlur={() => finish()}
            className="slider-plain"
            style={{ ['--track' as string]: track(value, key) }}
          />
          <output htmlFor={`${id}${key}`} className="text-right text-[12px]">
            {key === 'h' ? `${Math.round(value.h)}°` : key === 'l' ? `${Math.round(value.l * 100)} %` : value.c.toFixed(3)}
          </output>
        </div>
      ))}
      <p className="h-4 text-[12px] text-quiet">
        {isOut ? `A screen shows at most chroma ${fitToGamut(value).c.toFixed(3)} here; that is used.` : ''}
      </p>
    </div>
  );
}

/** Stops of the track; out of gamut they turn to ink and paper stripes. */
function track(value: Lch, key: keyof Lch): string {
  const n = 24;
  const stops: string[] = [];
  for (let i = 0; i < n; i++) {
    const at = { ...value, [key]: ((i + 0.5) / n) * most[key] };
    const color = isInGamut(at) ? hexFromLch(at) : i % 2 ? '#f7f7f7' : '#c4c4c4';
    stops.push(`${color} ${(i / n) * 100}% ${((i + 1) / n) * 100}%`);
  }
  return `linear-gradient(90deg, ${stops.join(', ')})`;
}
