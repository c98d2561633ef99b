'use client';
import { sheetInColorings } from '@/core/kit/colorings/shown';
import { maxSheetSize } from '@/core/ground/limits';
import { wordsOf } from '@/core/ground/wordsOf';
import { useEffect, useMemo, useState } from 'react';
import { usesInAll } from '@/core/kit/colorings/usesOfCells';
import type { Cell, Sheet } from '@/core/kit/kit';
import { gradientError } from '@/core/sheet/gradientError';
import { planRelay, relaySheet, type Relay, type RelayOptions } from '@/core/sheet/relay';
import { closePanel } from '@/state/chosen/coloringState';
import { dispatch } from '@/state/kit/edits';
import { useBase } from '@/state/kit/useCurrent';
import { pictureFiles } from '@/state/chosen/pictures';
import { pickingWorker } from '@/workers/client';
import { Button } from '@/ui/Button';
import { bytes, count } from '@/ui/words';
import { SheetPicture } from './SheetPicture';
import { SidePanel } from './SidePanel';
import { OfAllColorings } from '@/views/variants/OfAllColorings';

const exactness: [RelayOptions['exactTo'], string][] = [
  [0, '1 texel a color: exact at full size'],
  [1, '2 texels: exact at half size too'],
  [2, '4 texels: exact at a quarter too'],
];

/** The smallest sheet that holds the colors, with what it saves; no face changes its color. */
export function RelayPanel({ sheetId }: { sheetId: string }) {
  const state = useBase();
  const sheet = state.kit.sheets.find((s) => s.id === sheetId)!;
  const uses = useMemo(() => usesInAll(state), [state]);
  const [options, setOptions] = useState<RelayOptions>({ exactTo: 0, spares: 2, dropUnused: false, padding: sheet.padding });
  const shown = useMemo(() => sheetInColorings(state.kit, sheet), [state.kit, sheet]);
  const cells = shown.flatMap((s) => s.cells);
  const gradients = cells.flatMap((c) => (c.fill.kind === 'gradient' ? [c.fill] : []));
  const hasArt = cells.some((c) => c.fill.kind === 'art');
  const set = (change: Partial<RelayOptions>) => setOptions((o) => ({ ...o, ...change }));
  const outcome = useMemo(() => attempt(() => planRelay(shown, new Set(uses.keys()), options)), [shown, uses, options]);
  const plan = typeof outcome === 'string' ? null : outcome;
  const sizes = useSizes(sheet, plan, state.kit);
  const unused = sheet.cells.filter((c) => c.fill.kind === 'solid' && !uses.has(c.id)).length;
  return (
    <SidePanel title="Lay out the sheet anew" onClose={closePanel}>
      <OfAllColorings what="A layout is" className="mb-3" />
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
      <fieldset className="mt-2 flex items-center gap-2">
        <legend className="sr-only">Size</legend>
        <label className="flex items-center gap-1.5">
          <input
            type="checkbox"
            checked={options.size !== undefined}
            onChange={(e) => {
              const { size: _, ...rest } = options;
              setOptions(e.target.checked ? { ...rest, size: { width: sheet.width, height: sheet.height } } : rest);
            }}
            className="h-4 w-4 accent-ink"
          />
          This size, not the smallest
        </label>
        {options.size && (
          <span className="ml-auto flex items-center gap-1">
            {(['width', 'height'] as const).map((key, i) => (
              <span key={key} className="flex items-center gap-1">
                {i > 0 && '×'}
                <input
                  type="number"
                  aria-label={`${key === 'width' ? 'Width' : 'Height'} in texels`}
                  min={1}
                  max={maxSheetSize}
                  value={options.size![key] || ''}
                  onChange={(e) => {
                    const value = Math.max(1, Math.min(maxSheetSize, Math.round(Number(e.target.value)) || 1));
                    set({ size: { ...options.size!, [key]: value } });
                  }}
                  className="w-14 border border-hairline bg-white px-1 py-0.5 text-right"
                />
              </span>
            ))}
          </span>
        )}
      </fieldset>
      {options.size && !isPowerOfTwo(options.size) && (
        <p className="mt-1 text-[12px]">Colors are exact on sizes that are powers of two; some engines also ask for them.</p>
      )}
      {(gradients.length > 0 || hasArt) && (
        <label className="mt-2 grid grid-cols-[96px_1fr_44px] items-center gap-2">
          Padding
          <input
            type="range"
            min={0}
            max={8}
            value={options.padding ?? 0}
            onChange={(e) => set({ padding: Number(e.target.value) })}
            className="slider-plain"
          />
          <span className="text-right text-[12px]">{count(options.padding ?? 0, 'texel')}</span>
        </label>
      )}
      {gradients.length > 0 && (
        <>
          <label className="mt-1 grid grid-cols-[96px_1fr_44px] items-center gap-2">
            Gradients
            <input
              type="range"
              aria-label="Texels along each gradient"
              min={2}
              max={64}
              value={options.gradientTexels ?? Math.max(...sheet.cells.map(lengthOf))}
              onChange={(e) => set({ gradientTexels: Number(e.target.value) })}
              className="slider-plain"
            />
            <span className="text-right text-[12px]">
              {count(options.gradientTexels ?? Math.max(...sheet.cells.map(lengthOf)), 'texel')}
            </span>
          </label>
          <p className="text-[12px] text-quiet">
            A gradient is then off by {worstError(cells, options.gradientTexels).toFixed(3)} at worst (0.02 is just seen).
          </p>
        </>
      )}
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

const isPowerOfTwo = ({ width, height }: { width: number; height: number }) => [width, height].every((n) => Number.isInteger(Math.log2(n)));

/** Texels of a gradient along its axis; 0 for other cells. */
const lengthOf = ({ fill, rect }: Cell): number => (fill.kind !== 'gradient' ? 0 : fill.axis === 'x' ? rect.w : rect.h);

const worstError = (cells: readonly Cell[], texels?: number): number =>
  Math.max(...cells.map((c) => (c.fill.kind === 'gradient' ? gradientError(c.fill, texels ?? lengthOf(c)) : 0)));

function attempt(make: () => Relay): Relay | string {
  try {
    return make();
  } catch (error) {
    return wordsOf(error);
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
      padding: plan.padding,
      cells: plan.places.map(({ cell, rect }) => ({ ...cell, rect })),
    };
    void pictureFiles(kit)
      .then((pictures) => pickingWorker().encodeSheets([sheet, after], pictures))
      .then(([a, b]) => isLatest && setSizes([a!.bytes.length, b!.bytes.length]));
    return () => {
      isLatest = false;
    };
  }, [sheet, plan, kit]);
  return plan && sizes;
}

function Preview({ sheet, plan }: { sheet: Sheet; plan: Relay }) {
  const cells = [
    ...plan.places.map(({ cell, rect }) => ({ ...cell, rect })),
    ...plan.free.map((rect, i) => ({ id: -1 - i, rect, role: '', fill: { kind: 'spare' as const } })),
  ];
  const after: Sheet = { ...sheet, width: plan.width, height: plan.height, padding: plan.padding, cells };
  return (
    <div className="mt-3 flex items-end gap-4">
      <figure>
        <SheetPicture sheet={sheet} side={92} className="border border-hairline bg-white" />
        <figcaption className="mt-1 text-[12px] text-quiet">
          now {sheet.width} × {sheet.height}
        </figcaption>
      </figure>
      <figure>
        <SheetPicture sheet={after} side={92} className="border border-ink bg-white" />
        <figcaption className="mt-1 text-[12px] font-bold">
          then {plan.width} × {plan.height} texels
        </figcaption>
      </figure>
    </div>
  );
}
