'use client';
import type { Hex } from '@/core/ground/color/hex';
import type { Finish } from '@/core/kit/kit';
import { isUsualFinish, usualFinish } from '@/core/sheet/finish';
import { setCellFinish } from '@/state/color/coloring';
import { Tick } from '@/ui/Tick';

/** How a color's surface answers the light of a game: it leaves with glTF, and is not shown here. */
export function FinishEditor({ id, finish, color }: { id: number; finish: Finish; color: Hex }) {
  const change = (to: Partial<Finish>) => setCellFinish(id, { ...finish, ...to });
  const { glow: _, ...dark } = finish;
  return (
    <details className="mt-3 border-t border-hairline pt-2 text-[12px]" open={isUsualFinish(finish) ? undefined : true}>
      <summary className="cursor-pointer">Finish{isUsualFinish(finish) ? '' : `: ${words(finish)}`}</summary>
      <p className="mt-1 text-quiet">How a game lights it. It leaves with GLB and glTF, and is not shown here.</p>
      <Share label="Roughness" value={finish.roughness} onChange={(roughness) => change({ roughness })} />
      <Share label="Metalness" value={finish.metalness} onChange={(metalness) => change({ metalness })} />
      <span className="mt-1 flex items-center gap-2">
        <Tick
          label="It glows"
          value={finish.glow !== undefined}
          onChange={(is) => (is ? change({ glow: color }) : setCellFinish(id, dark))}
        />
        {finish.glow && (
          <input
            type="color"
            aria-label="Color of the glow"
            value={finish.glow}
            onChange={(e) => change({ glow: e.target.value })}
            className="h-7 w-9 border border-ink bg-white"
          />
        )}
        {!isUsualFinish(finish) && (
          <button type="button" className="ml-auto border-b border-ink hover:bg-wash" onClick={() => setCellFinish(id, usualFinish)}>
            as usual
          </button>
        )}
      </span>
    </details>
  );
}

function words({ roughness, metalness, glow }: Finish): string {
  return [
    `${Math.round(roughness * 100)} % rough`,
    ...(metalness ? [`${Math.round(metalness * 100)} % metal`] : []),
    ...(glow ? ['glows'] : []),
  ].join(', ');
}

function Share({ label, value, onChange }: { label: string; value: number; onChange: (value: number) => void }) {
  return (
    <label className="mt-1 grid grid-cols-[72px_1fr_44px] items-center gap-2">
      {label}
      <input
        type="range"
        min={0}
        max={100}
        value={Math.round(value * 100)}
        onChange={(e) => onChange(Number(e.target.value) / 100)}
        className="slider-plain"
      />
      <output className="text-right">{Math.round(value * 100)} %</output>
    </label>
  );
}
