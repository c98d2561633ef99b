'use client';
import { useEffect } from 'react';
import { ViewLink } from '@/views/shell/ViewLink';
import { closePanel } from '@/state/chosen/coloringState';
import { useEditor } from '@/state/kit/editor';
import { useCurrent } from '@/state/kit/useCurrent';
import { SheetPanels } from '@/views/sheet/SheetPanels';
import { Tray } from '@/views/sheet/Tray';
import { endCompare, useCompare } from '@/state/shown/compare';
import { CarryReport } from './CarryReport';
import { CompareBar } from './CompareBar';
import { ModelList } from './ModelList';
import { Phrase } from './Phrase';
import { PickBar } from './PickBar';
import { ReferenceWindow } from './ReferenceWindow';
import { Shortcuts } from './Shortcuts';
import { ViewBar } from './ViewBar';
import { InTurn } from '@/ui/InTurn';
import { Waiting } from '@/ui/Waiting';
import { Viewport } from '@/views/viewport/lazyViewport';

/** Where faces meet colors: models at the left, the phrase above, the tray of colors below. */
export function ColorView() {
  useEffect(
    () => () => {
      closePanel();
      endCompare();
    },
    [],
  );
  return (
    <>
      <div className="flex min-h-0 flex-1">
        <InTurn instead={<div className="w-[204px] shrink-0 border-r border-hairline bg-paper" />}>
          <ModelList />
        </InTurn>
        <section aria-label="Model" className="relative flex min-w-0 flex-1 flex-col">
          <InTurn instead={<div className="h-[50px] shrink-0 border-b border-hairline bg-paper" />}>
            <Phrase />
          </InTurn>
          <div className="relative min-h-0 flex-1 bg-surround">
            <ModelInView />
            <InTurn>
              <CarryReport />
              <ReferenceWindow />
            </InTurn>
          </div>
        </section>
        <InTurn>
          <SheetPanels />
        </InTurn>
      </div>
      <Tray />
      <Shortcuts />
    </>
  );
}

function ModelInView() {
  const current = useCurrent();
  const kitId = useEditor((s) => s.state.kit.id);
  const panes = useCompare((s) => s.panes);
  if (!current) return <NoModel kitId={kitId} />;
  const { loaded, model } = current;
  if (!loaded) return <Preparing name={model.name} />;
  return (
    <>
      <Viewport loaded={loaded} modelId={model.id} name={model.name} />
      {panes ? (
        <CompareBar panes={panes} />
      ) : (
        <InTurn>
          <PickBar />
          <ViewBar />
        </InTurn>
      )}
    </>
  );
}

function Preparing({ name }: { name: string }) {
  const preparing = useEditor((s) => s.preparing);
  const prepared = useEditor((s) => s.prepared);
  return (
    <Waiting>
      Preparing {name}
      {prepared > 0 && `, ${Math.round(prepared * 100)} %`}
      {preparing > 1 && `, and ${preparing - 1} others after it`}…
    </Waiting>
  );
}

/** What is awaited, said where it will appear. */
function NoModel({ kitId }: { kitId: string }) {
  return (
    <div className="absolute inset-0 m-auto h-fit w-[400px] border border-ink bg-paper p-6 text-center">
      <h1 className="text-phrase font-bold">Bring in a model first</h1>
      <p className="mt-1 text-quiet">Drop an .obj, .glb, .gltf, .ply or .stl file anywhere, or choose one.</p>
      <ViewLink
        href={`/kit/${kitId}/gather`}
        className="mt-4 inline-flex min-h-8 items-center border border-ink bg-ink px-4 font-medium text-paper"
      >
        Go to Gather
      </ViewLink>
    </div>
  );
}
