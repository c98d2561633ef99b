'use client';
import { useEffect, useRef, useState } from 'react';
import { pickingWorker } from '@/workers/client';
import { useColoring } from '@/state/chosen/coloringState';
import { useEditor } from '@/state/kit/editor';
import { pictureFiles } from '@/state/chosen/pictures';
import {
  endCompare,
  goOnWith,
  heldPane,
  holdColoring,
  paneBounds,
  panesToChoose,
  stateOfPane,
  stepPane,
  tallyOfPane,
  togglePane,
  triedPane,
  useCompare,
  type Pane,
} from '@/state/shown/compare';
import { bytes, count } from '@/ui/words';

/** What the panes side by side show and cost, and which one to go on with. */
export function CompareBar({ panes }: { panes: readonly Pane[] }) {
  const at = useCompare((s) => s.at);
  const bar = useRef<HTMLDivElement>(null);
  const words = new Map(panesToChoose().map((p) => [p.pane, p.word]));
  // Listened to, so that words and figures follow.
  useEditor((s) => s.state);
  useColoring((s) => s.drafts);
  useCompare((s) => s.held);
  const isGone = panes.some((p) => !words.has(p));
  useEffect(() => {
    if (isGone) endCompare();
  }, [isGone]);
  useEffect(() => bar.current?.querySelectorAll<HTMLElement>('[data-pane]')[at]?.focus(), [at]);
  return (
    <>
      <div
        ref={bar}
        role="group"
        aria-label="Colorings side by side"
        className="pointer-events-none absolute inset-x-0 top-4 grid"
        style={{ gridTemplateColumns: `repeat(${panes.length}, 1fr)` }}
        onKeyDown={(e) => {
          if (e.key === 'ArrowRight' || e.key === 'ArrowLeft') stepPane(e.key === 'ArrowRight' ? 1 : -1);
          else if (e.key === 'Escape') endCompare();
          else return;
          e.preventDefault();
          e.stopPropagation();
        }}
      >
        {panes.map((pane, i) => (
          <PaneLabel key={pane} pane={pane} word={words.get(pane) ?? ''} isAt={i === at} />
        ))}
      </div>
      {/* Hairlines between the panes. */}
      {panes.slice(1).map((pane, i) => (
        <span
          key={pane}
          aria-hidden
          className="pointer-events-none absolute inset-y-0 w-px bg-ink"
          style={{ left: `${((i + 1) / panes.length) * 100}%` }}
        />
      ))}
      <div
        role="group"
        aria-label="Which colorings"
        className="absolute inset-x-5 bottom-4 flex gap-2 overflow-hidden text-[12px] font-medium whitespace-nowrap"
      >
        {panesToChoose().map(({ pane, word }) => (
          <button
            key={pane}
            type="button"
            aria-pressed={panes.includes(pane)}
            disabled={panes.includes(pane) ? panes.length <= paneBounds[0] : panes.length >= paneBounds[1]}
            onClick={() => togglePane(pane)}
            title={word}
            className="h-[26px] max-w-[140px] min-w-0 shrink truncate bg-paper px-2.5 hover:bg-wash disabled:cursor-default aria-pressed:bg-ink aria-pressed:text-paper"
          >
            {word}
          </button>
        ))}
        <button
          type="button"
          onClick={() => {
            holdColoring();
            if (!panes.includes(heldPane)) togglePane(heldPane);
          }}
          className="h-[26px] shrink-0 bg-paper px-2.5 hover:bg-wash"
        >
          Hold the present one
        </button>
        <button type="button" onClick={endCompare} className="h-[26px] shrink-0 border border-ink bg-paper px-2.5 hover:bg-wash">
          One again
        </button>
      </div>
    </>
  );
}

function PaneLabel({ pane, word, isAt }: { pane: Pane; word: string; isAt: boolean }) {
  const { colors, drawCalls } = tallyOfPane(pane);
  const sheetBytes = useSheetBytes(pane);
  const canGoOn = pane !== heldPane && pane !== triedPane;
  return (
    <div className="flex justify-center px-2">
      <button
        type="button"
        data-pane
        aria-label={`${canGoOn ? 'Go on with ' : ''}${word}: ${count(colors, 'color')}, ${count(drawCalls, 'draw call')}${sheetBytes ? `, ${bytes(sheetBytes)}` : ''}`}
        title={canGoOn ? 'Go on with this coloring' : 'Back to one coloring'}
        onClick={() => goOnWith(pane)}
        onFocus={() => useCompare.setState(({ panes }) => (panes ? { at: panes.indexOf(pane) } : {}))}
        className={`pointer-events-auto max-w-full px-3 py-1.5 text-left ${isAt ? 'bg-ink text-paper' : 'bg-paper hover:bg-wash'}`}
      >
        <span className="block truncate font-bold">{word}</span>
        <span className={`block truncate text-[12px] ${isAt ? 'text-[#ccc]' : 'text-quiet'}`}>
          {count(colors, 'color')}, {count(drawCalls, 'draw call')}
          {sheetBytes ? `, ${bytes(sheetBytes)}` : ''}
        </span>
      </button>
    </div>
  );
}

/** Bytes of a pane's sheets as they would leave; 0 until they are known. */
function useSheetBytes(pane: Pane): number {
  const { sheets } = stateOfPane(pane).kit;
  const [known, setKnown] = useState<{ of: typeof sheets; bytes: number } | null>(null);
  useEffect(() => {
    let isLatest = true;
    const { kit } = stateOfPane(pane);
    const encode = async () => pickingWorker().encodeSheets(kit.sheets, await pictureFiles(kit));
    encode().then(
      (encoded) => isLatest && setKnown({ of: kit.sheets, bytes: encoded.reduce((sum, e) => sum + e.bytes.length, 0) }),
      () => undefined,
    );
    return () => {
      isLatest = false;
    };
  }, [pane, sheets]);
  return known?.of === sheets ? known.bytes : 0;
}
