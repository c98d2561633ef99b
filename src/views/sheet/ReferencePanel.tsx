'use client';
import dynamic from 'next/dynamic';
import { Lock, LockOpen } from 'lucide-react';
import { useEffect, useMemo, useState } from 'react';
import type { DrawnPalette } from '@/core/sheet/picture/drawColors';
import { findCell } from '@/core/kit/kit';
import { openPalettePicture, removeReference, renameReference } from '@/state/sheet/adopting';
import { closePanel, useColoring } from '@/state/chosen/coloringState';
import { addColors, addRamps } from '@/state/sheet/drawing';
import { useEditor } from '@/state/kit/editor';
import { notify } from '@/state/told/notices';
import { usePictures } from '@/state/chosen/pictures';
import { readBlob } from '@/data/blobs';
import { pickingWorker } from '@/workers/client';
import { Button } from '@/ui/Button';
import { Rename } from '@/ui/Rename';
import { count } from '@/ui/words';
import { roleOf } from './describe';
import { DropperOptions } from './ReferenceBoard';
import { SidePanel } from './SidePanel';

const ErrorCurve = dynamic(() => import('./ErrorCurve'), { ssr: false, loading: () => <div className="h-[84px]" /> });

const most = 32;

/** Colors from a reference: by the circle, one at a time, or the few that stand for all of it. */
export function ReferencePanel({ id }: { id: string }) {
  const kit = useEditor((s) => s.state.kit);
  const reference = kit.references.find((r) => r.id === id);
  const raster = usePictures((s) => (reference ? s.rasters.get(reference.picture) : undefined));
  const chosen = useColoring((s) => s.cell);
  const [series, setSeries] = useState<DrawnPalette[]>([]);
  const [number, setNumber] = useState(8);
  const [isRenaming, setRenaming] = useState(false);
  const [locked, setLocked] = useState<readonly string[]>([]);
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  useEffect(() => {
    if (!reference) closePanel();
  }, [reference]);
  useEffect(() => {
    if (!raster) return;
    let isLatest = true;
    pickingWorker()
      .drawColors(raster, most, [...locked])
      .then(
        (next) => isLatest && setSeries(next),
        (error: unknown) => notify(String(error), { isError: true }),
      );
    return () => {
      isLatest = false;
    };
  }, [raster, locked]);
  const palette = useMemo(
    () => series.find((p) => p.colors.length === number) ?? [...series].reverse().find((p) => p.colors.length <= number) ?? series[0],
    [series, number],
  );
  if (!reference) return null;
  const colors = (palette?.colors ?? [])
    .filter((c) => !left.has(c.color))
    .map((c, i) => ({ color: c.color, role: `${reference.name} ${i + 1}` }));
  const cell = findCell(kit, chosen)?.cell;
  const least = series[0]?.colors.length ?? 1;
  return (
    <SidePanel title={reference.name} onClose={closePanel}>
      <DropperOptions hasCell={cell && cell.fill.kind === 'solid' ? roleOf(cell) : null} />
      <div className="mt-4 border-t border-hairline pt-3">
        <label className="grid grid-cols-[88px_1fr_44px] items-center gap-2">
          Draw colors
          <input
            type="range"
            aria-label="Number of colors to draw"
            min={least}
            max={Math.max(least, series.at(-1)?.colors.length ?? most)}
            value={number}
            onChange={(e) => setNumber(Number(e.target.value))}
            className="slider-plain"
          />
          <span className="text-right text-[12px]">{palette?.colors.length ?? '…'}</span>
        </label>
        {palette && (
          <>
            <ErrorCurve series={series} number={palette.colors.length} onChoose={setNumber} />
            <p className="text-[12px] text-quiet">A pixel is off by {palette.error.toFixed(3)} in the mean (0.02 is just seen).</p>
            <ul aria-label="Colors drawn" className="mt-2 max-h-[230px] overflow-y-auto">
              {palette.colors.map((c) => {
                const isLocked = locked.includes(c.color);
                return (
                  <li key={c.color} className="flex items-center gap-2 py-[2px]">
                    <input
                      type="checkbox"
                      aria-label={`Take ${c.color}`}
                      checked={!left.has(c.color)}
                      onChange={(e) => {
                        const next = new Set(left);
                        if (e.target.checked) next.delete(c.color);
                        else next.add(c.color);
                        setLeft(next);
                      }}
                      className="h-4 w-4 accent-ink"
                    />
                    <span className="h-6 flex-1" style={{ background: c.color }} />
                    <span className="w-[58px] text-[12px]">{c.color}</span>
                    <span className="w-[38px] text-right text-[12px] text-quiet">{(c.share * 100).toFixed(c.share < 0.1 ? 1 : 0)} %</span>
                    <button
                      type="button"
                      aria-label={`Lock ${c.color}`}
                      aria-pressed={isLocked}
                      title={isLocked ? 'Let it go' : 'Keep it whatever else is drawn'}
                      onClick={() => setLocked(isLocked ? locked.filter((l) => l !== c.color) : [...locked, c.color])}
                      className="flex h-6 w-6 items-center justify-center aria-pressed:bg-ink aria-pressed:text-paper"
                    >
                      {isLocked ? <Lock size={12} aria-hidden /> : <LockOpen size={12} aria-hidden />}
                    </button>
                  </li>
                );
              })}
            </ul>
            <div className="mt-3 flex gap-2">
              <Button kind="solid" disabled={!colors.length} onClick={() => addColors(colors, `Draw ${count(colors.length, 'color')}`)}>
                Add {count(colors.length, 'color')}
              </Button>
              <Button disabled={!colors.length} onClick={() => addRamps(colors, 3)}>
                As ramps of 3
              </Button>
            </div>
          </>
        )}
      </div>
      <div className="mt-3 flex justify-between border-t border-hairline pt-3">
        <Button
          kind="bare"
          className="-ml-3"
          onClick={() =>
            void readBlob(reference.picture).then((bytes) =>
              openPalettePicture(new File([bytes as Uint8Array<ArrayBuffer>], reference.name)),
            )
          }
        >
          Read it as a palette
        </Button>
        {isRenaming ? (
          <Rename
            name={reference.name}
            label="Reference name"
            className="ml-2"
            onDone={(name) => {
              setRenaming(false);
              if (name && name !== reference.name) renameReference(id, name);
            }}
          />
        ) : (
          <span>
            <Button kind="bare" onClick={() => setRenaming(true)}>
              Rename
            </Button>
            <Button kind="bare" className="-mr-3" onClick={() => removeReference(id)}>
              Remove
            </Button>
          </span>
        )}
      </div>
    </SidePanel>
  );
}
