'use client';
import { useMemo } from 'react';
import { motifNow, motifsOf } from '@/state/paint/brushSets';
import { chooseMotif, newMotif, openMotif } from '@/state/paint/motifs';
import { usePaint } from '@/state/chosen/paint';
import { useEditor } from '@/state/kit/editor';
import { MotifPicture } from './MotifPicture';

/** Beside the colors: tiles of steps, with which the brush sets along whatever ramp is there. */
export function MotifTray() {
  const kit = useEditor((s) => s.state.kit);
  const motifs = useMemo(() => motifsOf(kit), [kit]);
  const isMotif = usePaint((s) => s.sets === 'motif');
  const chosen = usePaint((s) => motifNow(kit, s).id);
  return (
    <section aria-label="Motifs" className="flex w-[246px] shrink-0 flex-col border-l border-hairline pt-4 pl-5">
      <p className="flex items-baseline justify-between pr-5 text-[12px]">
        <span>
          <b className="font-bold">Motifs</b> <span className="ml-1 text-[11px] text-quiet">steps on every ramp</span>
        </span>
      </p>
      <div className="mt-1.5 flex min-h-0 flex-1 flex-wrap content-start gap-x-[10px] gap-y-1.5 overflow-y-auto pt-1 pl-1">
        {motifs.map((m) => {
          const isChosen = isMotif && m.id === chosen;
          return (
            <button
              key={m.id}
              type="button"
              aria-pressed={isChosen}
              title={`Set ${m.name}. Double click: draw it`}
              onClick={() => chooseMotif(m.id)}
              onDoubleClick={() => openMotif(m.id)}
              className="w-[44px] text-left text-[11px] leading-tight"
            >
              <span className={`block h-[42px] w-[42px] overflow-hidden ${isChosen ? 'outline-2 outline-offset-2 outline-ink' : ''}`}>
                <MotifPicture motif={m} across={14} down={14} size={3} />
              </span>
              <span className="mt-[5px] block truncate">{m.name}</span>
            </button>
          );
        })}
      </div>
      <p className="flex gap-4 pb-3 text-[12px]">
        <button type="button" className="border-b-2 border-ink font-medium hover:bg-wash" onClick={() => openMotif(chosen)}>
          Draw this one
        </button>
        <button type="button" className="border-b-2 border-ink font-medium hover:bg-wash" onClick={newMotif}>
          New motif
        </button>
      </p>
    </section>
  );
}
