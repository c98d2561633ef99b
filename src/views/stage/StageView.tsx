'use client';
import dynamic from 'next/dynamic';
import { ViewLink } from '@/views/shell/ViewLink';
import { useEffect } from 'react';
import { useEditor } from '@/state/kit/editor';
import { useBase } from '@/state/kit/useCurrent';
import { choosePlacement, holdModel, lookFromCamera, useStage, type StageCamera } from '@/state/stage/stage';
import { endPlay, usePlaying } from '@/state/stage/playing';
import { useThumbnails } from '@/state/shown/thumbnails';
import { Choice } from '@/ui/Choice';
import { Tick } from '@/ui/Tick';
import { Waiting } from '@/ui/Waiting';
import { loadViewport } from '@/views/viewport/lazyViewport';
import { count, number } from '@/ui/words';
import { CueTable } from './CueTable';
import { PlayCamera, PlayList, PlayLog, PlaySentence, QuestionBar } from './PlayPanel';
import { ScatterForm } from './ScatterForm';
import { StageCosts } from './StageCosts';
import { StageFiles } from './StageFiles';
import { StagePlacement } from './StagePlacement';
import { StageSentence } from './StageSentence';
import { draggedModel } from './draggedModel';
import { useStageKeys } from './useStageKeys';

const StageScene = dynamic(() => loadViewport().then(() => import('./StageScene')), {
  ssr: false,
  loading: () => <Waiting>Opening the stage…</Waiting>,
});

/** Where the kit is seen as a game will show it: models placed on a ground, each in one of its colorings. */
export function StageView() {
  const base = useBase();
  const preparing = useEditor((s) => s.preparing);
  const { models } = base.kit;
  const keys = useStageKeys();
  const play = usePlaying((s) => s.play);
  const showsCues = useStage((s) => s.showsCues);
  useEffect(
    () => () => {
      endPlay();
      useStage.setState({ act: 'choose', chosen: [] });
    },
    [],
  );
  // A play is of one state of the kit: what is changed meanwhile, by undoing or in another view, ends it.
  useEffect(() => {
    if (play && play.kit !== base.kit) endPlay();
  }, [play, base.kit]);
  useEffect(() => {
    if (play) document.getElementById('stage')?.focus();
  }, [play]);
  return (
    <div className="flex min-h-0 flex-1" onKeyDown={play ? keys : undefined}>
      {play ? <PlayList play={play} /> : <StageLists />}
      <section aria-label="Stage" className="relative flex min-w-0 flex-1 flex-col" onKeyDown={play ? undefined : keys}>
        {play ? <PlaySentence /> : <StageSentence />}
        <div className="relative min-h-0 flex-1">
          {models.length ? <StageScene /> : <NoModel kitId={base.kit.id} />}
          {preparing > 0 && <p className="absolute top-4 left-5 bg-paper px-3 py-1.5">Preparing {count(preparing, 'model')}…</p>}
          {models.length > 0 && <StageBar />}
          <QuestionBar />
        </div>
        {showsCues && !play && <CueTable />}
      </section>
      <aside aria-label="On the stage" className="w-[332px] shrink-0 overflow-y-auto border-l border-hairline bg-paper p-4">
        {play ? (
          <PlayLog play={play} />
        ) : (
          <>
            <StagePlacement />
            <StageCosts />
            <StageFiles />
          </>
        )}
      </aside>
    </div>
  );
}

function NoModel({ kitId }: { kitId: string }) {
  return (
    <div className="absolute inset-0 m-auto h-fit w-[400px] border border-ink bg-paper p-6 text-center">
      <h1 className="text-phrase font-bold">Bring in a model first</h1>
      <p className="mt-1 text-quiet">Then it can be placed here, in each of its colorings.</p>
      <ViewLink
        href={`/kit/${kitId}/gather`}
        className="mt-4 inline-flex min-h-8 items-center border border-ink bg-ink px-4 font-medium text-paper"
      >
        Go to Gather
      </ViewLink>
    </div>
  );
}

/** Models that can be placed, and what stands there. */
function StageLists() {
  const { models, placements = [], variants } = useBase().kit;
  const { act, model, chosen } = useStage();
  const pictures = useThumbnails((s) => s.pictures);
  const nameOf = (variant: string | undefined) => variants.find((v) => v.id === variant)?.name ?? 'default';
  return (
    <aside aria-label="Models" className="flex w-[204px] shrink-0 flex-col border-r border-hairline bg-paper">
      <h2 className="flex items-center justify-between py-2 pr-3 pl-4 text-[12px]">
        <span className="font-bold">Place</span>
        {models.length > 0 && <ScatterForm />}
      </h2>
      <ul className="max-h-[46%] shrink-0 overflow-y-auto">
        {models.map((m) => {
          const isHeld = act === 'place' && model === m.id;
          return (
            <li key={m.id}>
              <button
                type="button"
                aria-pressed={isHeld}
                aria-label={`Place ${m.name}`}
                draggable
                onDragStart={(e) => {
                  e.dataTransfer.setData(draggedModel, m.id);
                  e.dataTransfer.effectAllowed = 'copy';
                  holdModel(m.id);
                }}
                // What is let go elsewhere is put back.
                onDragEnd={() => useStage.setState({ act: 'choose' })}
                onClick={() => (isHeld ? choosePlacement(null) : holdModel(m.id))}
                className={`flex w-full items-center gap-2.5 px-4 py-1 text-left ${isHeld ? 'bg-ink text-paper' : 'hover:bg-wash'}`}
              >
                <span
                  aria-hidden
                  className="h-8 w-8 shrink-0 bg-surround bg-cover bg-center"
                  style={pictures[m.id] ? { backgroundImage: `url(${pictures[m.id]})` } : {}}
                />
                <span className="min-w-0 flex-1 truncate">{m.name}</span>
              </button>
            </li>
          );
        })}
      </ul>
      <h2 className="mt-2 flex justify-between border-t border-hairline px-4 pt-3 pb-2 text-[12px]">
        <span className="font-bold">Standing there</span>
        <span className="text-quiet">{number(placements.length)}</span>
      </h2>
      <ul aria-label="Standing there" className="min-h-0 flex-1 overflow-y-auto">
        {placements.slice(0, mostRows).map((p) => {
          const isChosen = chosen.includes(p.id);
          return (
            <li key={p.id}>
              <button
                type="button"
                aria-pressed={isChosen}
                onClick={(e) => choosePlacement(p.id, e.shiftKey)}
                className={`block w-full px-4 py-1 text-left ${isChosen ? 'bg-ink text-paper' : 'hover:bg-wash'}`}
              >
                <span className="block truncate">{p.name}</span>
                <span className={`block truncate text-[11px] ${isChosen ? 'text-[#bbb]' : 'text-quiet'}`}>{nameOf(p.variant)}</span>
              </button>
            </li>
          );
        })}
        {placements.length > mostRows && (
          <li className="px-4 py-1 text-[12px] text-quiet">and {number(placements.length - mostRows)} more</li>
        )}
        {placements.length === 0 && (
          <li className="px-4 text-[12px] text-quiet">Nothing yet: choose a model above, then click the ground, or drag it there.</li>
        )}
      </ul>
    </aside>
  );
}

/** Rows that the list shows: more are found on the stage itself. */
const mostRows = 200;

const cameras = [
  ['above', 'From above'],
  ['side', 'From the side'],
  ['eye', 'At eye height'],
  ['free', 'Free'],
] as const satisfies readonly (readonly [StageCamera, string])[];

function StageBar() {
  const { camera, instanced } = useStage();
  const { play, revision } = usePlaying();
  // A question takes the strip for as long as it waits.
  if (play?.question && revision) return null;
  return (
    <div className="pointer-events-none absolute inset-x-5 bottom-4 flex justify-between gap-2 [&>*]:pointer-events-auto">
      {play ? <PlayCamera /> : <Choice label="Camera" value={camera} options={cameras} onChange={lookFromCamera} />}
      {!play && (
        <span className="flex gap-2">
          <Tick
            label="Drawn in one go"
            value={instanced}
            onChange={(is) => useStage.setState({ instanced: is })}
            className="h-[26px] bg-paper px-2.5 text-[12px] font-medium"
          />
          <button
            type="button"
            className="h-[26px] bg-paper px-2.5 text-[12px] font-medium hover:bg-wash"
            onClick={() => lookFromCamera(camera)}
          >
            Frame
          </button>
        </span>
      )}
    </div>
  );
}
