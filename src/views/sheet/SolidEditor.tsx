'use client';
import { useState } from 'react';
import { hexFromLch, lchFromHex } from '@/core/ground/color/hex';
import type { Lch } from '@/core/ground/color/oklab';
import type { Fill } from '@/core/kit/kit';
import { setCellColor } from '@/state/color/coloring';
import { noDrafts, useColoring } from '@/state/chosen/coloringState';
import { ColorField } from '@/ui/ColorField';
import { LchSliders } from './LchSliders';

type Solid = Extract<Fill, { kind: 'solid' }>;

/** One color: by hex, by sliders, or one that was used lately; and how opaque it is. */
export function SolidEditor({
  id,
  stored,
  onTry,
  onKeep,
}: {
  id: number;
  stored: Solid;
  onTry: (fill: Fill) => void;
  onKeep: (fill: Fill, isGoingOn?: boolean) => void;
}) {
  const recent = useColoring((s) => s.recent);
  const [lch, setLch] = useState<Lch>(() => lchFromHex(stored.color));
  const [basis, setBasis] = useState(stored.color);
  // Undo and the like change the color under the open panel.
  if (stored.color !== basis) {
    setBasis(stored.color);
    if (hexFromLch(lch) !== stored.color) setLch(lchFromHex(stored.color));
  }
  const preview = (next: Lch) => {
    setLch(next);
    onTry({ ...stored, color: hexFromLch(next) });
  };
  const keep = (hex: string) => {
    setLch(lchFromHex(hex));
    setCellColor(id, hex);
  };
  const alpha = stored.alpha ?? 1;
  const withAlpha = (value: number): Fill => {
    const { alpha: _, ...opaque } = stored;
    return value < 1 ? { ...opaque, alpha: value } : opaque;
  };
  return (
    <>
      <label className="mt-2 flex items-center gap-2 text-[12px]">
        <span className="w-[72px] shrink-0">Hex, name</span>
        <ColorField
          label="Hex or name"
          value={hexFromLch(lch)}
          onTry={(hex) => (hex ? onTry({ ...stored, color: hex }) : useColoring.setState({ drafts: noDrafts }))}
          onKeep={keep}
          isFirst
        />
      </label>
      <div className="mt-3">
        <LchSliders value={lch} onChange={preview} onDone={(next, join) => setCellColor(id, hexFromLch(next), { join })} />
        <label className="grid grid-cols-[72px_1fr_44px] items-center gap-2">
          Opacity
          <input
            type="range"
            min={0}
            max={100}
            value={Math.round(alpha * 100)}
            onChange={(e) => onKeep(withAlpha(Number(e.target.value) / 100), true)}
            className="slider-plain"
          />
          <output className="text-right text-[12px]">{Math.round(alpha * 100)} %</output>
        </label>
        {alpha < 1 && (
          <p className="mt-1 text-[12px]">
            Most engines ignore opacity unless the material asks for it, and then draw it slower and in the wrong order; some show it black.
          </p>
        )}
      </div>
      {recent.length > 0 && (
        <div role="group" aria-label="Recent colors" className="mt-2 flex items-center gap-1.5">
          <span className="mr-1 text-[12px] text-quiet">Recent</span>
          {recent.map((hex) => (
            <button
              key={hex}
              type="button"
              aria-label={`Use ${hex}`}
              title={hex}
              onClick={() => keep(hex)}
              className="h-6 w-6 border border-hairline hover:border-ink"
              style={{ background: hex }}
            />
          ))}
        </div>
      )}
    </>
  );
}
