'use client';
import { useEffect } from 'react';
import { closePanel, useColoring } from '@/state/chosen/coloringState';
import { usePaint } from '@/state/chosen/paint';
import { useEditor } from '@/state/kit/editor';
import { useCurrent } from '@/state/kit/useCurrent';
import { artOf } from '@/state/paint/artInHand';
import { closeReducing, useReducing } from '@/state/paint/reducing';
import { ModelList } from '@/views/color/ModelList';
import { Shortcuts } from '@/views/color/Shortcuts';
import { NoModelYet } from '@/views/shell/NoModelYet';
import { SheetPanels } from '@/views/sheet/SheetPanels';
import { Tray } from '@/views/sheet/Tray';
import { InTurn } from '@/ui/InTurn';
import { Waiting } from '@/ui/Waiting';
import { Viewport } from '@/views/viewport/lazyViewport';
import { ArtBoard } from './ArtBoard';
import { BrushPhrase } from './BrushPhrase';
import { MakePaintable } from './MakePaintable';
import { MotifPanel } from './MotifPanel';
import { MotifTray } from './MotifTray';
import { PaintBar } from './PaintBar';
import { ReduceView } from './ReduceView';

/** The few places that need pixels: the art and the model side by side, painted on either. */
export function PaintView() {
  useEffect(
    () => () => {
      closePanel();
      closeReducing();
      usePaint.setState({ lit: null, isOverModel: false });
    },
    [],
  );
  const current = useCurrent();
  const meant = usePaint((s) => s.artCell);
  const art = useEditor((s) => artOf(s, meant)?.art);
  useEffect(() => {
    usePaint.setState({ isOpen: art !== undefined });
    return () => usePaint.setState({ isOpen: false });
  }, [art]);
  const modelId = current?.model.id;
  // A line lies on one model.
  useEffect(() => usePaint.setState({ line: null, drawnLine: null }), [modelId]);
  const panel = useColoring((s) => s.panel);
  const isReducing = useReducing((s) => s.isOpen);
  return (
    <>
      <div className="flex min-h-0 flex-1">
        <InTurn instead={<div className="w-[204px] shrink-0 border-r border-hairline bg-paper" />}>
          <ModelList />
        </InTurn>
        {isReducing && current?.loaded ? (
          <ReduceView loaded={current.loaded} modelId={current.model.id} name={current.model.name} />
        ) : (
          <div className="flex min-w-0 flex-1 flex-col">
            {art ? <BrushPhrase /> : <NothingYet name={current?.model.name} />}
            <div className="flex min-h-0 flex-1">
              <section aria-label="Art" className="flex min-w-0 flex-1 flex-col border-r border-ink bg-white">
                {current?.loaded && (art ? <ArtBoard key={art} /> : <MakePaintable key={current.model.id} />)}
              </section>
              <section aria-label="Model" className="relative min-w-0 flex-1 bg-surround">
                {current?.loaded && (
                  <Viewport loaded={current.loaded} modelId={current.model.id} name={current.model.name} isPainted={art !== undefined} />
                )}
                {current && !current.loaded && <Waiting>Preparing {current.model.name}…</Waiting>}
                {!current && <NoModelYet />}
                {current?.loaded && <PaintBar canPaint={art !== undefined} modelId={current.model.id} />}
              </section>
            </div>
          </div>
        )}
        <InTurn>
          <SheetPanels />
          {panel?.kind === 'motif' && <MotifPanel key={panel.motif} id={panel.motif} />}
        </InTurn>
      </div>
      {!isReducing && <Tray beside={art && <MotifTray />} />}
      <Shortcuts />
    </>
  );
}

/** In the place of the phrase, where no press sets anything. */
const NothingYet = ({ name }: { name: string | undefined }) => (
  <p className="flex h-[50px] shrink-0 items-center border-b border-hairline bg-paper px-5 text-phrase">
    {name ? <span className="truncate">{name} has no texels to paint yet.</span> : 'Nothing to paint yet.'}
  </p>
);
