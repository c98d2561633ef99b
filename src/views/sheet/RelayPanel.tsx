'use client';
import { useEffect, useMemo, useState } from 'react';
import { usesOfCells } from '@/core/budget/tally';
import type { Sheet } from '@/core/kit/kit';
import { swatchOf } from '@/core/sheet/cells';
import { rasterSheet } from '@/core/sheet/raster';
import { planRelay, relaySheet, type Relay, type RelayOptions } from '@/core/sheet/relay';
import { closePanel } from '@/state/coloringState';
import { dispatch, useEditor } from '@/state/editor';
import { coreWorker } from '@/workers/client';
import { Button } from '@/ui/Button';
import { bytes, count } from '@/ui/words';
import { SidePanel } from './SidePanel';

const exactness: [RelayOptions['exactTo'], string][] = [
  [0, '1 texel a color: exact at full size'],
  [1, '2 texels: exact at half size too'],
  [2, '4 texels: exact at a quarter too'],
];

/** The smallest sheet that holds the colors, with what it saves; no face changes its color. */
export function RelayPanel({ sheetId }: { sheetId: string }) {
  const state = useEditor((s) => s.state);
  const sheet = state.kit.sheets.find((s) => s.id === sheetId)!;
  const uses = useMemo(() => usesOfCells(state), [state]);
  const [options, setOptions] = useState<RelayOptions>({ exactTo: 0, spares: 2, dropUnused: false });
  const outcome = useMemo(() => attempt(() => planRelay(sheet, new Set(uses.keys()), options)), [sheet, uses, options]);
  const plan = typeof outcome === 'string' ? null : outcome;
  const sizes = useSizes(sheet, plan, state.kit);
  const unused = sheet.cells.filter((c) => c.fill.kind === 'solid' && !uses.has(c.id)).length;
  return (
    <SidePanel title="Lay out the sheet anew" onClose={closePanel}>
      <fieldset>
        <legend className="mb-1 text-[12px] text-quiet">How small, and for which mip levels</legend>
        {exactness.map(([level, word]) => (
          <label key={level} className="flex items-center gap-2 py-0.5">
            <input
              type="radio"
              name="exactness"
              checked={options.exactTo === level}
              onChange={() => setOptions({ ...options, exactTo: level })}
              className="h-4 w-4 accent-ink"
            />
            {word}
          </label>
        ))}
      </fieldset>
      <label className="mt-2 grid grid-cols-[96px_1fr_24px] items-center gap-2">
        Spare cells
        <input
          type="range"
          min={0}
          max={16}
          value={options.spares}
          onChange={(e) => setOptions({ ...options, spares: Number(e.target.value) })}
          className="slider-plain"
        />
        <span className="text-right text-[12px]">{options.spares}</span>
      </label>
      {unused > 0 && (
        <label className="mt-1 flex items-center gap-2">
          <input
            type="checkbox"
            checked={options.dropUnused}
            onChange={(e) => setOptions({ ...options, dropUnused: e.target.checked })}
            className="h-4 w-4 accent-ink"
          />
          Leave out {count(unused, 'color')} that no face uses
        </label>
      )}
      {typeof outcome === 'string' ? <p className="mt-3">{outcome}</p> : <Preview sheet={sheet} plan={outcome} />}
      <div className="mt-3 flex items-center justify-between border-t border-hairline pt-3">
        <span className="text-[12px] text-quiet">{sizes ? `PNG ${bytes(sizes[0])}, then ${bytes(sizes[1])}` : ''}</span>
        <Button
          kind="solid"
          disabled={!plan}
          onClick={() => {
            if (plan && dispatch(relaySheet(state.kit, sheet, plan))) closePanel();
          }}
        >
          Lay it out so
        </Button>
      </div>
    </SidePanel>
  );
}

function attempt(make: () => Relay): Relay | string {
  try {
    return make();
  } catch (error) {
    return error instanceof Error ? error.message : String(error);
  }
}

/** Encoded bytes of the sheet before and after. */
function useSizes(sheet: Sheet, plan: Relay | null, kit: Parameters<typeof relaySheet>[0]): [number, number] | null {
  const [sizes, setSizes] = useState<[number, number] | null>(null);
  useEffect(() => {
    if (!plan) return;
    let isLatest = true;
    const after: Sheet = {
      ...sheet,
      width: plan.width,
      height: plan.height,
      cells: plan.places.map(({ cell, rect }) => ({ ...cell, rect })),
    };
    void Promise.all([sheet, after].map((s) => coreWorker().encodePng(rasterSheet(s)))).then(
      ([a, b]) => isLatest && setSizes([a!.length, b!.length]),
    );
    return () => {
      isLatest = false;
    };
  }, [sheet, plan, kit]);
  return plan && sizes;
}

function Preview({ sheet, plan }: { sheet: Sheet; plan: Relay }) {
  const side = 92;
  const box = (w: number, h: number) => ({
    width: (w / Math.max(w, h)) * side,
    height: (h / Math.max(w, h)) * side,
    viewBox: `0 0 ${w} ${h}`,
  });
  return (
    <div className="mt-3 flex items-end gap-4">
      <figure>
        <svg {...box(sheet.width, sheet.height)} aria-hidden className="border border-hairline bg-white">
          {sheet.cells.map(
            (c) =>
              c.fill.kind !== 'spare' && (
                <rect key={c.id} x={c.rect.x} y={c.rect.y} width={c.rect.w} height={c.rect.h} fill={swatchOf(c)} />
              ),
          )}
        </svg>
        <figcaption className="mt-1 text-[12px] text-quiet">
          now {sheet.width} × {sheet.height}
        </figcaption>
      </figure>
      <figure>
        <svg {...box(plan.width, plan.height)} aria-hidden className="border border-ink bg-white">
          {plan.places.map(({ cell, rect }) => (
            <rect key={cell.id} x={rect.x} y={rect.y} width={rect.w} height={rect.h} fill={swatchOf(cell)} />
          ))}
        </svg>
        <figcaption className="mt-1 text-[12px] font-bold">
          then {plan.width} × {plan.height} texels
        </figcaption>
      </figure>
    </div>
  );
}
