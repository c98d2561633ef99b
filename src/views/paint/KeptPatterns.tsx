'use client';
import { Popover } from 'radix-ui';
import { useMemo } from 'react';
import { differing, keptPatterns, type KeptPattern } from '@/core/faces/seat/keptPatterns';
import { facesOfSpans } from '@/core/shapes/pick/namedPicks';
import { letPatternGo, renewPattern, tunePattern, wordsOfPattern } from '@/state/paint/keptPatterns';
import { useEditor } from '@/state/kit/editor';
import { useCurrent } from '@/state/kit/useCurrent';
import { count } from '@/ui/words';

const act = 'border-b border-ink hover:bg-wash';

/** Patterns that picks of the model in view are filled with; how far each is from what lies there. */
export function KeptPatterns() {
  const current = useCurrent();
  const kept = current ? keptPatterns(current.model) : [];
  if (!kept.length) return null;
  return (
    <Popover.Root>
      <Popover.Trigger className="h-[26px] bg-paper px-2.5 text-[12px] font-medium whitespace-nowrap hover:bg-wash data-[state=open]:bg-ink data-[state=open]:text-paper">
        {count(kept.length, 'pattern')} kept
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="start"
          side="top"
          sideOffset={6}
          aria-label="Kept patterns"
          className="z-50 w-80 border border-ink bg-white py-2 text-panel"
        >
          <ul className="max-h-72 overflow-y-auto">
            {kept.map((p) => (
              <Row key={p.id} kept={p} />
            ))}
          </ul>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

function Row({ kept }: { kept: KeptPattern }) {
  const current = useCurrent();
  const state = useEditor((s) => s.state);
  const { model, loaded } = current!;
  const faces = useMemo(() => facesOfSpans(kept.spans), [kept]);
  const others = useMemo(
    () => (loaded ? differing(state, model.id, loaded, faces, kept.pattern) : 0),
    [state, model.id, loaded, faces, kept.pattern],
  );
  return (
    <li className="border-b border-hairline px-4 py-2 last:border-0">
      <p className="flex items-baseline justify-between gap-3">
        <b className="min-w-0 truncate font-bold">{kept.name}</b>
        <span className="shrink-0 text-small text-quiet">{count(faces.length, 'face')}</span>
      </p>
      <p className="text-small text-quiet">{wordsOfPattern(state.kit, kept.pattern)}</p>
      <p className="text-small">{others ? `${count(others, 'texel')} differ from it` : 'as it was made'}</p>
      <p className="mt-1 flex gap-4 text-[12px] font-medium">
        <button type="button" className={act} onClick={() => renewPattern(kept)}>
          Do it anew
        </button>
        <button type="button" className={act} onClick={() => tunePattern(kept)}>
          Tune
        </button>
        <button type="button" className={act} onClick={() => letPatternGo(kept)}>
          Let go
        </button>
      </p>
    </li>
  );
}
