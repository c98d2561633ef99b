'use client';
import { Component, useState, type ReactNode } from 'react';
import { Button } from '@/ui/Button';

/** Milliseconds after which a lost picture is made anew. */
const restoreAfter = 500;
/** So often in a row that is tried by itself; then the artist decides. */
const triesByItself = 3;

/**
 * Stands around the viewport: where the graphics are lost it says so and makes the picture anew, and where
 * the browser offers none it says what still works. `children` gets what to call when the graphics are lost,
 * and when they work.
 */
export function ViewportGuard({ children }: { children: (onLost: () => void, onDrawn: () => void) => ReactNode }) {
  const [generation, setGeneration] = useState(0);
  const [isLost, setLost] = useState(false);
  const [tries, setTries] = useState(0);
  const again = () => {
    setLost(false);
    setGeneration((g) => g + 1);
  };
  const onLost = () => {
    setLost(true);
    if (tries >= triesByItself) return;
    setTries(tries + 1);
    setTimeout(again, restoreAfter);
  };
  if (isLost)
    return tries >= triesByItself ? (
      <NoPicture title="The graphics of this computer keep failing." onAgain={again} />
    ) : (
      <Notice>
        <p role="status">The graphics were lost. The picture comes back by itself…</p>
      </Notice>
    );
  return (
    <Boundary key={generation} fallback={<NoPicture title="This browser cannot draw in 3D now." onAgain={again} />}>
      {children(onLost, () => setTries(0))}
    </Boundary>
  );
}

function NoPicture({ title, onAgain }: { title: string; onAgain: () => void }) {
  return (
    <Notice>
      <div role="alert">
        <h2 className="text-phrase font-bold">{title}</h2>
        <p className="mt-2">
          The viewport needs WebGL 2, which is switched off, blocked after failures, or missing for this graphics card. Switch on hardware
          acceleration in the settings of the browser, or restart it.
        </p>
        <p className="mt-2 text-quiet">
          All else works: Gather, Palette and Hand-off, regions and colors from the lists here, and the headless command. Your kit is safe.
        </p>
        <Button className="mt-4" onClick={onAgain}>
          Try again
        </Button>
      </div>
    </Notice>
  );
}

const Notice = ({ children }: { children: ReactNode }) => (
  <div className="absolute inset-0 m-auto h-fit w-[440px] border border-ink bg-paper p-6">{children}</div>
);

class Boundary extends Component<{ fallback: ReactNode; children: ReactNode }, { hasFailed: boolean }> {
  override state = { hasFailed: false };
  static getDerivedStateFromError() {
    return { hasFailed: true };
  }
  override render() {
    return this.state.hasFailed ? this.props.fallback : this.props.children;
  }
}
