'use client';
import { Popover } from 'radix-ui';
import { dissolveAngles } from '@/core/shapes/dissolve/dissolve';
import { takeIdleEdgesAway, useTakingAway } from '@/state/cut/takingAway';
import { currentOf, useEditor } from '@/state/kit/editor';
import { Button } from '@/ui/Button';
import { count } from '@/ui/words';

/** Edges that part nothing: shown on the model while this is open, counted, and taken away. */
export function IdleEdges({ isOffered }: { isOffered: boolean }) {
  const isOpen = useTakingAway((s) => s.isOpen);
  const loaded = useEditor((s) => currentOf(s)?.loaded);
  if (!loaded || (!isOffered && !isOpen)) return null;
  return (
    <Popover.Root open={isOpen} onOpenChange={(is) => useTakingAway.setState({ isOpen: is })}>
      <Popover.Trigger className="min-h-[30px] bg-paper px-3 font-medium hover:bg-wash">
        <span className="border-b border-ink">Edges that part nothing</span>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="start"
          sideOffset={6}
          aria-label="Edges that part nothing"
          className="z-50 w-80 border border-ink bg-white p-4 text-panel"
          // They are looked at, and the model turned, meanwhile.
          onInteractOutside={(e) => e.preventDefault()}
        >
          <Found />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

function Found() {
  const { angle, found, isBusy } = useTakingAway();
  return (
    <>
      <p role="status" aria-label="Edges that part nothing">
        {!found ? (
          'Looking for them…'
        ) : found.edges === 0 ? (
          'Every edge of this model parts something: colors, regions, seams, materials, or faces that bend.'
        ) : (
          <>
            <b className="font-bold">{count(found.edges, 'edge')}</b> would go, with {count(found.triangles, 'triangle')} and{' '}
            {count(found.gpuVertices, 'GPU vertex', 'GPU vertices')}. The same color lies on both sides, in every variant.
          </>
        )}
      </p>
      <label className="mt-3 block font-medium">
        Flat within {angle}°
        <input
          type="range"
          min={dissolveAngles.least}
          max={dissolveAngles.most}
          step={0.5}
          value={angle}
          onChange={(e) => useTakingAway.setState({ angle: Number(e.target.value) })}
          className="slider-plain mt-2"
        />
      </label>
      <div className="mt-4 flex gap-3">
        <Button kind="solid" disabled={isBusy || !found?.edges} onClick={() => void takeIdleEdgesAway()}>
          Take them away
        </Button>
        <Button onClick={() => useTakingAway.setState({ isOpen: false })}>Close</Button>
      </div>
    </>
  );
}
