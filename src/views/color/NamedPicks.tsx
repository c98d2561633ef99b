'use client';
import { X } from 'lucide-react';
import { Popover } from 'radix-ui';
import { useState } from 'react';
import type { NamedPick } from '@/core/kit/kit';
import { currentOf, useEditor } from '@/state/kit/editor';
import { forgetPick, recallPick, rememberPick, renamePick } from '@/state/pick/namedPicks';
import { usePick } from '@/state/chosen/pickState';
import { Rename } from '@/ui/Rename';
import { number } from '@/ui/words';

/** Picks of the model in view that were given a name. */
export function NamedPicks() {
  const picks = useEditor((s) => currentOf(s)?.model.picks);
  const picked = usePick((s) => s.count);
  if (!picks?.length && !picked) return null;
  return (
    <Popover.Root>
      <Popover.Trigger className="border-b border-ink hover:bg-wash">
        {picks?.length ? `${number(picks.length)} remembered` : 'remember'}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="start"
          sideOffset={6}
          aria-label="Remembered picks"
          className="z-50 w-72 border border-ink bg-white py-2 text-panel"
        >
          <ul className="max-h-64 overflow-y-auto">
            {(picks ?? []).map((p) => (
              <PickRow key={p.id} pick={p} />
            ))}
          </ul>
          {!picks?.length && <p className="px-4 pb-1 text-quiet">Picks that you will want again, kept with the model.</p>}
          <button
            type="button"
            disabled={!picked}
            onClick={rememberPick}
            className="mx-4 mt-1 border-b border-ink font-medium disabled:border-hairline disabled:text-quiet"
          >
            Remember this pick
          </button>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

function PickRow({ pick }: { pick: NamedPick }) {
  const [isRenaming, setRenaming] = useState(false);
  const faces = pick.spans.reduce((n, v, i) => (i % 2 ? n + v : n), 0);
  if (isRenaming)
    return (
      <li className="px-4 py-0.5">
        <Rename
          name={pick.name}
          label="Name of the pick"
          onDone={(name) => {
            setRenaming(false);
            if (name && name !== pick.name) renamePick(pick.id, name);
          }}
        />
      </li>
    );
  return (
    <li className="flex items-center gap-2 pr-2 pl-4 hover:bg-wash">
      <button
        type="button"
        title="Click: pick its faces; with Shift: add them"
        onClick={(e) => recallPick(pick, e.shiftKey)}
        className="flex min-w-0 flex-1 items-center py-1 text-left"
      >
        <span className="min-w-0 flex-1 truncate">{pick.name}</span>
        <span className="text-small text-quiet">{number(faces)}</span>
      </button>
      <button
        type="button"
        aria-label={`Rename ${pick.name}`}
        onClick={() => setRenaming(true)}
        className="border-b border-[#999] text-[12px]"
      >
        rename
      </button>
      <button
        type="button"
        aria-label={`Forget ${pick.name}`}
        onClick={() => forgetPick(pick.id)}
        className="flex h-6 w-6 items-center justify-center hover:bg-hairline"
      >
        <X size={13} aria-hidden />
      </button>
    </li>
  );
}
