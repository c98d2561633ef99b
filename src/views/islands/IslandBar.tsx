'use client';
import { useMemo, type ReactNode } from 'react';
import { isTextured } from '@/core/kit/kit';
import { useColoring } from '@/state/chosen/coloringState';
import { partIslands } from '@/state/islands/flattening';
import { bringInside, islandProblems, islandsInView, targetCell, useIslands } from '@/state/islands/islands';
import { useStretch } from '@/state/islands/stretch';
import { useEditor } from '@/state/kit/editor';
import { usePick } from '@/state/chosen/pickState';
import { frame } from '@/state/chosen/viewState';
import { Tick } from '@/ui/Tick';
import { count } from '@/ui/words';
import { row, Word } from './fields';
import { LayFlat } from './LayFlat';
import { PackingOptions } from './PackingOptions';
import { PlaceRows } from './PlaceRows';
import { StretchRow } from './StretchRow';

/** What is picked of the islands, in numbers and words; how to lay faces flat; and what is wrong. */
export function IslandBar() {
  useEditor((s) => s.state.seats);
  useEditor((s) => s.modelId);
  usePick((s) => s.version);
  useStretch((s) => s.now);
  useColoring((s) => s.cell);
  const { isKept, mipLevels } = useIslands();
  const picked = usePick((s) => s.count);
  const view = islandsInView();
  const problems = useMemo(() => (view ? islandProblems(view, mipLevels) : null), [view, mipLevels]);
  if (!view) return null;
  const target = targetCell(view);
  const hasPlace = view.sheet.cells.some((c) => isTextured(c.fill));
  return (
    // Of one height, so that the sheet above never moves under the pointer when a figure or a fault comes in later.
    <div className="flex h-[282px] shrink-0 flex-col overflow-y-auto border-t border-hairline text-[12.5px]">
      {picked === 0 && (
        <p className={row}>
          {view.islands.length > 0 ? (
            <>
              <strong>{count(view.islands.length, 'island')}</strong> on art and gradients. Click one, or pick faces on the model.
            </>
          ) : hasPlace ? (
            <>Nothing of this model lies on art or a gradient yet. Pick faces on the model, then lay them flat.</>
          ) : (
            <>
              This sheet has no art and no gradient to lay faces on.
              <Word run={() => useColoring.setState({ panel: { kind: 'art room', sheet: view.sheet.id } })}>Make room for art</Word>
            </>
          )}
        </p>
      )}
      <LayFlat view={view} target={target} />
      <PlaceRows view={view} target={target} />
      <StretchRow />
      {problems && (problems.near.length > 0 || problems.overlapping.length > 0) && (
        <div className={`${row} border-t border-hairline`} role="group" aria-label="What is wrong">
          {problems.near.length > 0 && (
            <Problem faces={problems.near} fix="move them in" run={bringInside}>
              {count(problems.near.length, 'face')} too near to the border
            </Problem>
          )}
          {problems.overlapping.length > 0 && (
            <Problem faces={problems.overlapping} fix="lay them side by side" run={() => void partIslands()}>
              {count(problems.overlapping.length, 'face')} of islands that share texels
            </Problem>
          )}
        </div>
      )}
      <div className={`${row} mt-auto border-t border-hairline`}>
        <Tick label="Keep clear of borders" value={isKept} onChange={(is) => useIslands.setState({ isKept: is })} />
        <label className="flex items-center gap-2">
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
        <span className="ml-auto">
          <PackingOptions />
        </span>
      </div>
    </div>
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
