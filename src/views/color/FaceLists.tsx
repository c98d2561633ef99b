'use client';
import { useState } from 'react';
import { currentOf, useEditor } from '@/state/kit/editor';
import { RegionList } from './RegionList';
import { SlotList } from './SlotList';

/** Below the models: the regions of the one in view, or the slots by which it can leave. */
export function FaceLists() {
  const [list, setList] = useState<'regions' | 'slots'>('regions');
  const regions = useEditor((s) => currentOf(s)?.model.regions.length);
  if (regions === undefined) return null;
  return (
    <section
      aria-label={list === 'regions' ? 'Regions' : 'Slots'}
      className="flex min-h-[96px] flex-initial flex-col border-t border-hairline pb-2"
    >
      <div className="flex items-baseline gap-4 px-4 pt-3 pb-1">
        {(['regions', 'slots'] as const).map((l) => (
          <button
            key={l}
            type="button"
            aria-pressed={list === l}
            onClick={() => setList(l)}
            className={`text-[12px] ${list === l ? 'font-bold' : 'text-quiet hover:text-ink'}`}
          >
            {l === 'regions' ? 'Regions' : 'Slots'}
          </button>
        ))}
        <span className="ml-auto text-small text-quiet">{list === 'regions' && regions > 0 ? regions : ''}</span>
      </div>
      {list === 'regions' ? <RegionList /> : <SlotList />}
    </section>
  );
}
