'use client';
import { useMemo } from 'react';
import { openNewColor, sourceCell } from '@/state/coloring';
import { currentOf, useEditor } from '@/state/editor';
import { bringBackPick, invertPick, pickEverything, pickNextUncolored } from '@/state/picking';
import { letPickGo, usePick } from '@/state/pickState';
import { frame } from '@/state/viewState';
import { Key } from '@/ui/Button';
import { count, number } from '@/ui/words';

/** What is picked, or what there is to do next, over the viewport. */
export function PickBar() {
  const picked = usePick((s) => s.count);
  const last = usePick((s) => s.last);
  const shown = usePick((s) => s.shown);
  const state = useEditor((s) => s.state);
  const modelId = useEditor((s) => s.modelId);
  const meshes = useEditor((s) => s.meshes);
  const bare = useMemo(() => {
    const cells = currentOf({ state, modelId, meshes })?.cells;
    return cells ? cells.reduce((n, c) => n + (c === 0 ? 1 : 0), 0) : 0;
  }, [state, modelId, meshes]);
  return (
    <div
      role="group"
      aria-label="Pick"
      className="absolute top-4 left-5 flex min-h-[30px] items-center gap-3 bg-paper px-3 py-1 text-[12.5px]"
    >
      {picked > 0 ? (
        <>
          <strong>{count(picked, 'face')} picked</strong>
          <Action k="Esc" word="let go" run={letPickGo} />
          <Action k="V" word="the others" run={invertPick} />
          <Action k="Z" word="look closer" run={() => frame('pick')} />
          <Action k="B" word="own color" run={() => openNewColor(sourceCell(), true)} />
        </>
      ) : shown.length > 0 ? (
        <>
          <strong>{count(shown.length, 'face')} shown</strong>
          <Action k="Esc" word="hide" run={() => usePick.setState({ shown: new Uint32Array(0) })} />
        </>
      ) : (
        <>
          {bare > 0 ? (
            <>
              <span>
                <strong>{number(bare)}</strong> not yet colored
              </span>
              <Action k="R" word="pick the next" run={pickNextUncolored} />
            </>
          ) : (
            <strong>Every face is colored</strong>
          )}
          {last && <Action k="G" word="give back the pick" run={bringBackPick} />}
          <Action k="Ctrl A" word="everything" run={pickEverything} />
        </>
      )}
    </div>
  );
}

function Action({ k, word, run }: { k: string; word: string; run: () => void }) {
  return (
    <button type="button" onClick={run} className="flex items-center gap-1.5 hover:underline">
      <Key>{k}</Key>
      {word}
    </button>
  );
}
