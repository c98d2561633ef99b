'use client';
import { ViewLink } from '@/views/shell/ViewLink';
import { usePathname } from 'next/navigation';
import { useEffect, useLayoutEffect, type ReactNode } from 'react';
import { openKit } from '@/state/kit/openKit';
import { useEditor } from '@/state/kit/editor';
import { useLiveFolder } from '@/state/chosen/liveState';
import { HelpKey } from './HelpKey';
import { chooseVariant } from '@/state/laying/variants';
import { dismissNotices } from '@/state/told/notices';
import { watchThumbnails } from '@/state/shown/thumbnails';
import { InTurn } from '@/ui/InTurn';
import { loadViewport } from '@/views/viewport/lazyViewport';
import { ActSearchKey } from './ActSearchKey';
import { DropFiles } from './DropFiles';
import { KitName } from './KitName';
import { Mark } from './Mark';
import { RepeatKey } from './RepeatKey';
import { SaveState } from './SaveState';
import { SavingBar } from './SavingBar';
import { TallyLine } from './TallyLine';
import { UndoButtons } from './UndoButtons';
import { useLeave } from './useLeave';
import { viewList } from './views';

/** What stands around every view of a kit: name, views in the order of the work, tally, "Saved". */
export function KitShell({ id, children }: { id: string; children: ReactNode }) {
  const status = useEditor((s) => s.status);
  const problem = useEditor((s) => s.problem);
  const path = usePathname();
  const isLive = useLiveFolder((s) => s.live !== null);
  const [leave, question] = useLeave();
  useEffect(() => {
    void openKit(id);
    void loadViewport();
    return watchThumbnails();
  }, [id]);
  useEffect(() => dismissNotices, [path]);
  // Elsewhere the kit is looked at as a whole. Before the view's own effects, which look at it.
  useLayoutEffect(() => {
    if (!viewList.some(([slug, { ofVariants }]) => ofVariants && path.endsWith(`/${slug}`))) chooseVariant(null);
  }, [path]);
  return (
    <div className="flex h-screen min-h-[600px] min-w-[1100px] flex-col overflow-hidden">
      <header className="flex h-[46px] shrink-0 items-stretch border-b border-ink pr-5 pl-4">
        <ViewLink href="/" onClick={leave} className="flex items-center gap-5" aria-label="Oligochrome, all kits">
          <Mark />
          <span className="text-[15px] font-bold" style={{ fontStretch: '112%' }}>
            Oligochrome
          </span>
        </ViewLink>
        <KitName />
        <nav aria-label="Views" className="ml-3 flex shrink-0">
          {viewList.map(([slug, { word }]) => {
            const isHere = path.endsWith(`/${slug}`);
            return (
              <ViewLink
                key={slug}
                href={`/kit/${id}/${slug}`}
                aria-current={isHere ? 'page' : undefined}
                className={`flex items-center border-b-[3px] px-2 pt-[3px] whitespace-nowrap ${isHere ? 'border-ink font-bold' : 'border-transparent text-[#444] hover:text-ink'}`}
              >
                {word}
                {slug === 'hand-off' && isLive && <span className="ml-1.5 border border-ink px-1 text-[11px] font-medium">live</span>}
              </ViewLink>
            );
          })}
        </nav>
        <div className="ml-auto flex items-center gap-2">
          {status === 'ready' && (
            <>
              <InTurn>
                <RepeatKey />
                <ActSearchKey />
                <UndoButtons />
              </InTurn>
              {/* The kit is counted for it. */}
              <InTurn>
                <TallyLine />
                <SaveState />
              </InTurn>
            </>
          )}
        </div>
      </header>
      <SavingBar />
      {question}
      <main className="relative flex min-h-0 flex-1 flex-col">
        {status === 'ready' && <InTurn>{children}</InTurn>}
        {(status === 'loading' || status === 'none') && <Message title="Opening the kit…" />}
        {status === 'missing' && (
          <Message title="There is no such kit in this browser.">
            It may have been removed, or it was made in another browser; open it from its archive there.
          </Message>
        )}
        {status === 'failed' && <Message title="The kit cannot be opened.">{problem}</Message>}
      </main>
      <HelpKey />
      {status === 'ready' && (
        <InTurn>
          <DropFiles />
        </InTurn>
      )}
    </div>
  );
}

function Message({ title, children }: { title: string; children?: ReactNode }) {
  return (
    <div className="m-auto max-w-md text-center">
      <h1 className="text-phrase font-bold">{title}</h1>
      {children && <p className="mt-2 text-quiet">{children}</p>}
      {children && (
        <ViewLink href="/" className="mt-4 inline-block border-b-2 border-ink font-medium">
          Back to all kits
        </ViewLink>
      )}
    </div>
  );
}
