'use client';
import { useMemo, type ReactNode } from 'react';
import { usePaint } from '@/state/chosen/paint';
import { useEditor } from '@/state/kit/editor';
import { usePick } from '@/state/chosen/pickState';
import { needsLine as lacksLine } from '@/state/paint/brushSets';
import { artOf } from '@/state/paint/artInHand';
import { facesSharing, partSharedTexels, shareTexels } from '@/state/paint/sharing';
import { keepPattern } from '@/state/paint/keptPatterns';
import { showAll } from '@/state/pick/hiding';
import { copyToOtherSide } from '@/state/paint/painting';
import { count, number } from '@/ui/words';
import { ShownFrom } from '@/views/viewport/ShownFrom';
import { KeptPatterns } from './KeptPatterns';

/** What is said of the place across the plane of the phrase. */
const acrossWords = {
  exact: ', and across',
  near: '; across it the nearest texels',
  none: '; nothing lies across it on this art',
};

/** How the model is shown and from where; and above it what a press would set. */
export function PaintBar({ canPaint, modelId }: { canPaint: boolean; modelId: string }) {
  const picked = usePick((s) => s.count);
  const isPattern = usePaint((s) => s.sets === 'noise' || s.sets === 'checker' || s.sets === 'motif');
  const isHidden = usePick((s) => s.hidden);
  const hidden = useMemo(() => isHidden?.reduce((n, h) => n + h, 0) ?? 0, [isHidden]);
  const state = useEditor((s) => s.state);
  const meshes = useEditor((s) => s.meshes);
  const meant = usePaint((s) => s.artCell);
  const art = useMemo(() => artOf({ state, modelId, meshes }, meant), [state, modelId, meshes, meant]);
  const sharing = art ? facesSharing(art) : 0;
  return (
    <>
      {canPaint && (
        <div className="pointer-events-none absolute inset-x-5 top-4 flex flex-wrap items-start justify-between gap-2 select-none">
          <WhatIsLit />
          {hidden > 0 && (
            <p className="pointer-events-auto flex min-h-[30px] shrink-0 items-center gap-2 bg-paper px-3 text-panel">
              {count(hidden, 'face')} hidden
              <button type="button" className="border-b-2 border-ink font-medium hover:bg-wash" onClick={showAll}>
                Show all
              </button>
            </p>
          )}
          {sharing > 0 && (
            <p className="pointer-events-auto flex min-h-[30px] shrink-0 items-center gap-2 self-start bg-paper px-3 text-panel">
              {count(sharing, 'face')} share texels
              <button
                type="button"
                title="Each place gets texels of its own, which look the same: of what is picked, else of all"
                className="border-b-2 border-ink font-medium hover:bg-wash"
                onClick={() => partSharedTexels(modelId)}
              >
                Part them
              </button>
            </p>
          )}
        </div>
      )}
      <div className="pointer-events-none absolute inset-x-5 bottom-4 flex flex-col gap-2 select-none [&_button]:pointer-events-auto [&_button]:whitespace-nowrap">
        <div className="flex flex-wrap justify-end gap-2">
          {canPaint && picked > 0 && (
            <Act
              title="What lies under the picked faces comes to lie under their twins, across the plane of the phrase"
              onClick={() => void copyToOtherSide()}
            >
              Copy to the other side
            </Act>
          )}
          {canPaint && <KeptPatterns />}
          {canPaint && picked > 0 && isPattern && (
            <Act
              title="Fills what is picked with the pattern of the phrase, and keeps it with the model, to be tuned and done anew"
              onClick={keepPattern}
            >
              Keep on the pick
            </Act>
          )}
          {canPaint && picked > 1 && (
            <Act title="Places of one shape among what is picked show the texels of the first of them" onClick={() => shareTexels(modelId)}>
              Share texels
            </Act>
          )}
        </div>
        <ShownFrom />
      </div>
    </>
  );
}

/** What a press would set; where nothing is pointed at, what to do. It changes with every move of the pointer, the bar does not. */
function WhatIsLit() {
  const lit = usePaint((s) => s.lit);
  const needsLine = usePaint(lacksLine);
  return (
    <p role="status" className="flex min-h-[30px] items-center bg-paper px-3 text-panel">
      {lit ? (
        <>
          <b className="font-bold">{count(lit.texels.length, 'texel')}</b>
          <span className="ml-2 text-quiet">
            {lit.elsewhere > 0 && `and ${number(lit.elsewhere)} on other art, `}
            {lit.across === 'unknown'
              ? 'the other half is looked for…'
              : lit.faces > 1
                ? `shown by ${count(lit.faces, 'face')} at once`
                : 'shown at one place'}
            {lit.across && lit.across !== 'unknown' && acrossWords[lit.across]}
            {!lit.rim && ', outlined on the art alone'}
          </span>
        </>
      ) : needsLine ? (
        <span>Press where the first color begins, drag to where the other one is reached, and let go.</span>
      ) : (
        <span>
          A press sets texels. <b className="font-bold">Alt</b> takes a color, <b className="font-bold">Shift</b> draws a line,{' '}
          <b className="font-bold">K</b> hides a part.
        </span>
      )}
    </p>
  );
}

function Act({ title, onClick, children }: { title?: string; onClick: () => void; children: ReactNode }) {
  return (
    <button
      type="button"
      title={title}
      onClick={onClick}
      className="h-[26px] bg-paper px-2.5 text-[12px] font-medium whitespace-nowrap hover:bg-wash"
    >
      {children}
    </button>
  );
}
