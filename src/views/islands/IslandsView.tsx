'use client';
import { NoModelYet } from '@/views/shell/NoModelYet';
import { useCurrent } from '@/state/kit/useCurrent';
import { ModelList } from '@/views/color/ModelList';
import { Phrase } from '@/views/color/Phrase';
import { PickBar } from '@/views/color/PickBar';
import { Shortcuts } from '@/views/color/Shortcuts';
import { Waiting } from '@/ui/Waiting';
import { SheetPanels } from '@/views/sheet/SheetPanels';
import { IslandBoard } from './IslandBoard';
import { IslandBar } from './IslandBar';
import { Viewport } from '@/views/viewport/lazyViewport';
import { ShownFrom } from '@/views/viewport/ShownFrom';

/** Where faces lie on the sheet: the sheet large at the left, the model beside it; each lights the other. */
export function IslandsView() {
  const current = useCurrent();
  return (
    <>
      <div className="flex min-h-0 flex-1">
        <ModelList />
        <div className="flex min-w-0 flex-1 flex-col">
          <Phrase />
          <div className="flex min-h-0 flex-1">
            <section aria-label="Sheet" className="flex min-w-0 flex-1 flex-col border-r border-ink bg-white">
              {current?.loaded && <IslandBoard sheet={current.sheet} />}
              {current?.loaded && <IslandBar />}
            </section>
            <section aria-label="Model" className="relative min-w-0 flex-1 bg-surround">
              {current?.loaded && <Viewport loaded={current.loaded} modelId={current.model.id} name={current.model.name} />}
              {current && !current.loaded && <Waiting>Preparing {current.model.name}…</Waiting>}
              {!current && <NoModelYet />}
              {current?.loaded && <PickBar />}
              {current?.loaded && (
                <div className="pointer-events-none absolute inset-x-5 bottom-4">
                  <ShownFrom />
                </div>
              )}
            </section>
            <SheetPanels />
          </div>
        </div>
      </div>
      <Shortcuts />
    </>
  );
}
