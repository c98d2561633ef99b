'use client';
import { useEffect } from 'react';
import { useEditor } from '@/state/kit/editor';
import { useCurrent } from '@/state/kit/useCurrent';
import { stopLooking } from '@/state/proof/unseen';
import { lookForUnseen, prove, useProof } from '@/state/proof/proof';
import { notifyError } from '@/state/told/notices';
import { ModelList } from '@/views/color/ModelList';
import { PickBar } from '@/views/color/PickBar';
import { Shortcuts } from '@/views/color/Shortcuts';
import { Waiting } from '@/ui/Waiting';
import { Findings } from './Findings';
import { SamplingBar } from './SamplingBar';
import { Viewport } from '@/views/viewport/lazyViewport';

/** Milliseconds without a further change after which everything is looked at again. */
const rest = 250;

/** What is wrong before a kit leaves, beside the model on which it is shown. */
export function ProofView() {
  const state = useEditor((s) => s.state);
  const modelId = useEditor((s) => s.modelId);
  const of = useProof((s) => s.of);
  const current = useCurrent();
  useEffect(() => {
    const timer = setTimeout(() => void prove(), rest);
    return () => clearTimeout(timer);
  }, [state, modelId, of]);
  const isReady = useEditor((s) => s.preparing === 0);
  const { models } = state.kit;
  useEffect(() => {
    if (!isReady) return;
    void lookForUnseen(models.filter((m) => of === 'kit' || m.id === modelId)).catch(notifyError);
  }, [isReady, models, modelId, of]);
  useEffect(() => stopLooking, []);
  return (
    <>
      <div className="flex min-h-0 flex-1">
        <ModelList />
        <Findings />
        <section aria-label="Model" className="relative min-w-0 flex-1 bg-surround">
          {current?.loaded && <Viewport loaded={current.loaded} modelId={current.model.id} name={current.model.name} />}
          {current && !current.loaded && <Waiting>Preparing {current.model.name}…</Waiting>}
          {current?.loaded && <PickBar />}
          {current?.loaded && <SamplingBar />}
        </section>
      </div>
      <Shortcuts />
    </>
  );
}
