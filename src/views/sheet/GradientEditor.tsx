'use client';
import { useRef, useState } from 'react';
import { hexFromLch, hexFromRgb, lchFromHex, type Hex } from '@/core/ground/color/hex';
import type { Fill, Rect } from '@/core/kit/kit';
import { gradientError } from '@/core/sheet/gradientError';
import { gradientAt } from '@/core/sheet/raster';
import { Button } from '@/ui/Button';
import { Choice } from '@/ui/Choice';
import { count } from '@/ui/words';
import { LchSliders } from './LchSliders';
import { useFillStyle } from './useFillStyle';

type Gradient = Extract<Fill, { kind: 'gradient' }>;
type Corners = Extract<Fill, { kind: 'corners' }>;
interface Props<F> {
  fill: F;
  rect: Rect;
  onTry: (fill: F) => void;
  onKeep: (fill: F, isGoingOn?: boolean) => void;
}

const mixes = [
  ['oklab', 'evenly to the eye'],
  ['srgb', 'as bytes (sRGB)'],
] as const;

/** 2 to 8 stops along one axis; the chosen stop's color is tuned below the bar. */
export function GradientEditor({ fill, rect, onTry, onKeep }: Props<Gradient>) {
  const bar = useRef<HTMLDivElement>(null);
  const styleOf = useFillStyle();
  const [at, setAt] = useState(0);
  const index = Math.min(at, fill.stops.length - 1);
  const stop = fill.stops[index]!;
  const withStop = (change: Partial<typeof stop>): Gradient => ({
    ...fill,
    stops: fill.stops.map((s, i) => (i === index ? { ...s, ...change } : s)),
  });
  const add = () => {
    const sorted = [...fill.stops].sort((p, q) => p.at - q.at);
    const gaps = sorted.slice(1).map((s, i) => ({ middle: (s.at + sorted[i]!.at) / 2, width: s.at - sorted[i]!.at }));
    const widest = gaps.sort((p, q) => q.width - p.width)[0]!;
    const color = hexFromRgb(gradientAt({ ...fill, bands: undefined } as Gradient, widest.middle));
    onKeep({ ...fill, stops: [...fill.stops, { at: widest.middle, color }] });
    setAt(fill.stops.length);
  };
  const texels = fill.axis === 'x' ? rect.w : rect.h;
  const error = gradientError(fill, texels);
  return (
    <div className="mt-3">
      <div ref={bar} className="relative mb-6 h-8 border border-ink" style={styleOf({ ...fill, axis: 'x' })}>
        {fill.stops.map((s, i) => (
          <button
            key={i}
            type="button"
            role="slider"
            aria-label={`Stop ${i + 1}`}
            aria-valuenow={Math.round(s.at * 100)}
            aria-valuemin={0}
            aria-valuemax={100}
            onFocus={() => setAt(i)}
            onPointerDown={(e) => {
              setAt(i);
              e.currentTarget.setPointerCapture(e.pointerId);
            }}
            onPointerMove={(e) => {
              if (!e.currentTarget.hasPointerCapture(e.pointerId) || i !== index) return;
              const box = bar.current!.getBoundingClientRect();
              onTry(withStop({ at: Math.round(Math.max(0, Math.min(1, (e.clientX - box.left) / box.width)) * 100) / 100 }));
            }}
            onPointerUp={() => onKeep(fill)}
            onKeyDown={(e) => {
              const by = { ArrowLeft: -0.01, ArrowRight: 0.01 }[e.key];
              if (by) onKeep(withStop({ at: Math.max(0, Math.min(1, Math.round((s.at + by) * 100) / 100)) }), e.repeat);
            }}
            className={`absolute top-full -ml-[7px] h-[18px] w-[14px] cursor-ew-resize border-2 border-ink ${i === index ? 'outline-2 outline-offset-1 outline-ink' : ''}`}
            style={{ left: `${s.at * 100}%`, background: s.color }}
          />
        ))}
      </div>
      <LchSliders
        key={index}
        value={lchFromHex(stop.color)}
        onChange={(lch) => onTry(withStop({ color: hexFromLch(lch) }))}
        onDone={(lch, isGoingOn) => onKeep(withStop({ color: hexFromLch(lch) }), isGoingOn)}
      />
      <div className="flex gap-2">
        <Button disabled={fill.stops.length >= 8} onClick={add}>
          Add a stop
        </Button>
        <Button
          kind="bare"
          disabled={fill.stops.length <= 2}
          onClick={() => {
            onKeep({ ...fill, stops: fill.stops.filter((_, i) => i !== index) });
            setAt(0);
          }}
        >
          Remove this stop
        </Button>
      </div>
      <div className="mt-3 space-y-2">
        <Line label="Runs">
          <Choice
            label="Runs"
            value={fill.axis}
            options={[
              ['x', 'left to right'],
              ['y', 'top to bottom'],
            ]}
            onChange={(axis) => onKeep({ ...fill, axis })}
            className="border border-hairline"
          />
        </Line>
        <Line label="Mixes">
          <Choice
            label="Mixes"
            value={fill.mix}
            options={mixes}
            onChange={(mix) => onKeep({ ...fill, mix })}
            className="border border-hairline"
          />
        </Line>
        <Line label="Bands">
          <span className="flex items-center gap-2">
            <label className="flex items-center gap-1.5">
              <input
                type="checkbox"
                checked={fill.bands !== undefined}
                onChange={(e) => {
                  const { bands: _, ...smooth } = fill;
                  onKeep(e.target.checked ? { ...fill, bands: 4 } : smooth);
                }}
                className="h-4 w-4 accent-ink"
              />
              hard, in
            </label>
            <input
              type="number"
              aria-label="Number of bands"
              min={2}
              max={64}
              disabled={fill.bands === undefined}
              value={fill.bands ?? 4}
              onChange={(e) => onKeep({ ...fill, bands: Math.max(2, Math.min(64, Math.round(Number(e.target.value)) || 2)) }, true)}
              className="w-14 border border-hairline bg-white px-1.5 py-0.5 text-right disabled:text-quiet"
            />
          </span>
        </Line>
      </div>
      <p className="mt-2 text-[12px] text-quiet">
        {count(texels, 'texel')} along it:{' '}
        {error === 0 ? 'exact.' : `off by ${error.toFixed(3)} at worst${error > 0.02 ? ', which shows' : ', hardly seen'}.`}
      </p>
    </div>
  );
}

const cornerNames = ['top left', 'top right', 'bottom left', 'bottom right'] as const;

/** A color in each corner, mixed in between. */
export function CornersEditor({ fill, onTry, onKeep }: Props<Corners>) {
  const [at, setAt] = useState(0);
  const styleOf = useFillStyle();
  const withColor = (color: Hex): Corners => ({ ...fill, colors: fill.colors.map((c, i) => (i === at ? color : c)) as Corners['colors'] });
  return (
    <div className="mt-3">
      <div role="group" aria-label="Corners" className="relative mb-3 grid h-24 grid-cols-2 border border-ink" style={styleOf(fill)}>
        {fill.colors.map((color, i) => (
          <button
            key={i}
            type="button"
            aria-label={`Color ${cornerNames[i]}`}
            aria-pressed={i === at}
            onClick={() => setAt(i)}
            className={`m-1.5 h-7 w-7 border-2 ${i === at ? 'border-ink outline-2 outline-white' : 'border-white/70'} ${i % 2 ? 'justify-self-end' : ''} ${i > 1 ? 'self-end' : ''}`}
            style={{ background: color }}
          />
        ))}
      </div>
      <LchSliders
        key={at}
        value={lchFromHex(fill.colors[at]!)}
        onChange={(lch) => onTry(withColor(hexFromLch(lch)))}
        onDone={(lch, isGoingOn) => onKeep(withColor(hexFromLch(lch)), isGoingOn)}
      />
      <Line label="Mixes">
        <Choice
          label="Mixes"
          value={fill.mix}
          options={mixes}
          onChange={(mix) => onKeep({ ...fill, mix })}
          className="border border-hairline"
        />
      </Line>
    </div>
  );
}

function Line({ label, children }: { label: string; children: React.ReactNode }) {
  return (
    <div className="flex items-center justify-between gap-3">
      <span>{label}</span>
      {children}
    </div>
  );
}
