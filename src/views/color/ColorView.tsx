'use client';
import { useEffect } from 'react';
import Link from 'next/link';
import { closePanel } from '@/state/color/coloringState';
import { currentOf, useEditor } from '@/state/kit/editor';
import { SheetPanels } from '@/views/sheet/SheetPanels';
import { Tray } from '@/views/sheet/Tray';
import { CarryReport } from './CarryReport';
import { ModelList } from './ModelList';
import { Phrase } from './Phrase';
import { PickBar } from './PickBar';
import { ReferenceWindow } from './ReferenceWindow';
import { Shortcuts } from './Shortcuts';
import { ShortcutSheet } from './ShortcutSheet';
import { ViewBar } from './ViewBar';
import { Waiting } from '@/ui/Waiting';
import { Viewport } from '@/views/viewport/lazyViewport';

/** Where faces meet colors: models at the left, the phrase above, the tray of colors below. */
export function ColorView() {
  const state = useEditor((s) => s.state);
  const modelId = useEditor((s) => s.modelId);
  const meshes = useEditor((s) => s.meshes);
  const preparing = useEditor((s) => s.preparing);
  const prepared = useEditor((s) => s.prepared);
  const current = currentOf({ state, modelId, meshes });
  useEffect(() => closePanel, []);
  return (
    <>
      <div className="flex min-h-0 flex-1">
        <ModelList />
        <section aria-label="Model" className="relative flex min-w-0 flex-1 flex-col">
          <Phrase />
          <div className="relative min-h-0 flex-1 bg-surround">
            {current?.loaded && <Viewport loaded={current.loaded} modelId={current.model.id} name={current.model.name} />}
            {current && !current.loaded && (
              <Waiting>
                Preparing {current.model.name}
                {prepared > 0 && `, ${Math.round(prepared * 100)} %`}
                {preparing > 1 && `, and ${preparing - 1} others after it`}…
              </Waiting>
            )}
            {!current && <NoModel kitId={state.kit.id} />}
            {current?.loaded && <PickBar />}
            {current?.loaded && <ViewBar />}
            <CarryReport />
            <ReferenceWindow />
          </div>
        </section>
        <SheetPanels />
      </div>
      <Tray />
      <Shortcuts />
      <ShortcutSheet />
    </>
  );
}

/** What is awaited, said where it will appear. */
function NoModel({ kitId }: { kitId: string }) {
  return (
    <div className="absolute inset-0 m-auto h-fit w-[400px] border border-ink bg-paper p-6 text-center">
      <h1 className="text-phrase font-bold">Bring in a model first</h1>
      <p className="mt-1 text-quiet">Drop an .obj, .glb, .gltf, .ply or .stl file anywhere, or choose one.</p>
      <Link
        href={`/kit/${kitId}/gather`}
        className="mt-4 inline-flex min-h-8 items-center border border-ink bg-ink px-4 font-medium text-paper"
      >
        Go to Gather
      </Link>
    </div>
  );
}
