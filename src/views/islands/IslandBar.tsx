'use client';
import { useMemo, type ReactNode } from 'react';
import { isTextured } from '@/core/kit/kit';
import {
  bringInside,
  fitPicked,
  flattenPicked,
  islandProblems,
  islandsInView,
  movePicked,
  partIslands,
  pickedBounds,
  shrinkPicked,
  targetCell,
  useIslands,
} from '@/state/islands/islands';
import { useColoring } from '@/state/color/coloringState';
import { useEditor } from '@/state/kit/editor';
import { usePick } from '@/state/pick/pickState';
import { frame } from '@/state/view/viewState';
import { Button } from '@/ui/Button';
import { Menu } from '@/ui/Menu';
import { Tick } from '@/ui/Tick';
import { count } from '@/ui/words';

const row = 'flex flex-wrap items-center gap-x-3 gap-y-1.5 px-5 py-2';

/** What is picked of the islands, in numbers and words; how to lay faces flat; and what is wrong. */
export function IslandBar() {
  useEditor((s) => s.state.seats);
  useEditor((s) => s.modelId);
  usePick((s) => s.version);
  useColoring((s) => s.cell);
  const { isKept, mipLevels } = useIslands();
  const picked = usePick((s) => s.count);
  const view = islandsInView();
  const bounds = pickedBounds();
  const problems = useMemo(() => (view ? islandProblems(view, mipLevels) : null), [view, mipLevels]);
  if (!view) return null;
  const target = targetCell(view);
  const hasPlace = view.sheet.cells.some((c) => isTextured(c.fill));
  return (
    // As high as it gets, so that the sheet above does not move.
    <div className="flex min-h-[216px] shrink-0 flex-col border-t border-hairline text-[12.5px]">
      {picked === 0 && (
        <p className={row}>
          {view.islands.length > 0 ? (
            <>
              <strong>{count(view.islands.length, 'island')}</strong> on art and gradients. Click one, or pick faces on the model.
            </>
          ) : hasPlace ? (
            <>Nothing of this model lies on art or a gradient yet. Pick faces on the model, then lay them flat.</>
          ) : (
            <>This sheet has no art and no gradient to lay faces on. Add one in Palette: From a file, or Edit color.</>
          )}
        </p>
      )}
      {picked > 0 && (
        <div className={row} role="group" aria-label="Lay faces flat">
          <strong>{count(picked, 'face')} picked</strong>
          {target && (
            <>
              <span>lay flat on {target.role || (target.fill.kind === 'art' ? 'the art' : 'the gradient')}</span>
              <Button onClick={() => flattenPicked('straight', target.id)}>straight on</Button>
              <Button onClick={() => flattenPicked('view', target.id)}>as seen now</Button>
              <Button onClick={() => flattenPicked('areas', target.id)}>each flat area</Button>
            </>
          )}
        </div>
      )}
      {bounds && (
        <>
          <div className={row} role="group" aria-label="Where it lies, in texels">
            <NumberField label="Left" value={bounds[0]} onChange={(v) => movePicked({ by: [v - bounds[0], 0] })} />
            <NumberField label="Top" value={bounds[2]} onChange={(v) => movePicked({ by: [0, v - bounds[2]] })} />
            <NumberField
              label="Width"
              value={bounds[1] - bounds[0]}
              onChange={(v) => movePicked({ size: [factor(v, bounds[1] - bounds[0]), 1] })}
            />
            <NumberField
              label="Height"
              value={bounds[3] - bounds[2]}
              onChange={(v) => movePicked({ size: [1, factor(v, bounds[3] - bounds[2])] })}
            />
            <span className="text-quiet">texels</span>
          </div>
          <div className={row} role="group" aria-label="Change it">
            <Word run={() => movePicked({ turn: 90 })}>turn</Word>
            <Word run={() => movePicked({ size: [-1, 1] })}>flip across</Word>
            <Word run={() => movePicked({ size: [1, -1] })}>flip down</Word>
            <Word run={() => movePicked({ size: [1.25, 1.25] })}>larger</Word>
            <Word run={() => movePicked({ size: [0.8, 0.8] })}>smaller</Word>
            <Menu
              label="Fit it into its cell"
              align="start"
              trigger="fit"
              className="border-b border-ink hover:bg-wash"
              items={[
                { label: 'In its proportions', run: () => fitPicked(false) },
                { label: 'Stretched to all of it', run: () => fitPicked(true) },
                { label: 'To a point', run: shrinkPicked },
              ]}
            />
          </div>
        </>
      )}
      {problems && (problems.near.length > 0 || problems.overlapping.length > 0) && (
        <div className={`${row} border-t border-hairline`} role="group" aria-label="What is wrong">
          {problems.near.length > 0 && (
            <Problem faces={problems.near} fix="move them in" run={bringInside}>
              {count(problems.near.length, 'face')} too near to the border
            </Problem>
          )}
          {problems.overlapping.length > 0 && (
            <Problem faces={problems.overlapping} fix="lay them side by side" run={partIslands}>
              {count(problems.overlapping.length, 'face')} of islands that share texels
            </Problem>
          )}
        </div>
      )}
      <div className={`${row} mt-auto border-t border-hairline`}>
        <Tick label="Keep islands clear of their cell’s border" value={isKept} onChange={(is) => useIslands.setState({ isKept: is })} />
        <label className="ml-auto flex items-center gap-2">
          for
          <input
            type="number"
            aria-label="Mip levels"
            min={0}
            max={6}
            value={mipLevels}
            onChange={(e) => useIslands.setState({ mipLevels: Math.max(0, Math.min(6, Math.round(Number(e.target.value)) || 0)) })}
            className="h-7 w-12 border border-hairline px-1.5 text-right"
          />
          mip levels
        </label>
      </div>
    </div>
  );
}

const factor = (wanted: number, is: number): number => (is > 1e-6 ? wanted / is : 1);

function Word({ run, children }: { run: () => void; children: ReactNode }) {
  return (
    <button type="button" onClick={run} className="border-b border-ink hover:bg-wash">
      {children}
    </button>
  );
}

/** What is wrong, and the way there. */
function Problem({ faces, fix, run, children }: { faces: Uint32Array; fix: string; run: () => void; children: ReactNode }) {
  const show = () => {
    usePick.getState().set((picked) => {
      picked.fill(0);
      for (const f of faces) picked[f] = 1;
    });
    frame('pick');
  };
  return (
    <span className="flex items-center gap-2">
      <strong>{children}</strong>
      <Word run={show}>pick them</Word>
      <Word run={() => (show(), run())}>{fix}</Word>
    </span>
  );
}

/** A number that is taken when the field is left, or by Enter. */
function NumberField({ label, value, onChange }: { label: string; value: number; onChange: (value: number) => void }) {
  const shown = String(Math.round(value * 100) / 100);
  return (
    <label className="flex items-center gap-1.5">
      {label}
      <input
        key={shown}
        type="number"
        step={1}
        defaultValue={shown}
        onBlur={(e) => take(e.target.value)}
        onKeyDown={(e) => {
          e.stopPropagation();
          if (e.key === 'Enter') take(e.currentTarget.value);
        }}
        className="h-7 w-[68px] border border-hairline px-1.5 text-right"
      />
    </label>
  );
  function take(text: string): void {
    const wanted = Number(text);
    if (text !== '' && text !== shown && Number.isFinite(wanted)) onChange(wanted);
  }
}
