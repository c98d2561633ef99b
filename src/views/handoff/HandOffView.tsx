'use client';
import { useState } from 'react';
import { tallyOf } from '@/core/files/budget/tally';
import { useHandOff } from '@/state/chosen/handOff';
import { usePictures } from '@/state/chosen/pictures';
import { currentOf, showModel, useEditor } from '@/state/kit/editor';
import type { What } from '@/state/files/exporting';
import { setSides } from '@/state/kit/sides';
import { Choice } from '@/ui/Choice';
import { count } from '@/ui/words';
import { Accounts } from './Accounts';
import { Formats } from './Formats';
import { Plans } from './Plans';
import { Unseen } from './Unseen';
import { useAccounts } from './useAccounts';
import { Select } from '@/ui/Select';

/** What leaves, and what it costs before and after. */
export function HandOffView() {
  const state = useEditor((s) => s.state);
  const modelId = useEditor((s) => s.modelId);
  const meshes = useEditor((s) => s.meshes);
  const [way, setWay] = useState<'files' | 'plans'>('files');
  const [what, setWhat] = useState<What>('kit');
  const accounts = useAccounts(what);
  const { as, meshes: joined, nodes } = useHandOff();
  const pictures = usePictures((s) => s.rasters);
  const current = currentOf({ state, modelId, meshes });
  const models = what === 'kit' ? state.kit.models : current ? [current.model] : [];
  const uncolored = models.reduce((n, m) => n + state.seats[m.id]!.cell.reduce((k, c) => k + (c === 0 ? 1 : 0), 0), 0);
  if (state.kit.models.length === 0) return <p className="m-auto text-phrase">There is nothing to hand off yet. Bring in a model first.</p>;
  const tallyAs = (keep: typeof nodes) =>
    tallyOf(state, models, (m) => meshes[m.mesh]?.mesh, { as, meshes: joined, nodes: keep, pictures });
  const tally = tallyAs(nodes);
  const hasNodes = models.some((m) => meshes[m.mesh]?.mesh.source);
  const forNames = hasNodes && joined === 'joined' && nodes !== 'joined' ? tally.drawCalls - tallyAs('joined').drawCalls : 0;
  const sides = new Set(models.map((m) => m.sides ?? 'came'));
  return (
    <div className="min-h-0 flex-1 overflow-y-auto">
      <div className="mx-auto max-w-[1120px] px-6 py-7">
        <div className="mb-5 flex flex-wrap items-center gap-4">
          <h1 className="text-[22px] font-bold" style={{ fontStretch: '108%' }}>
            Hand-off
          </h1>
          <Choice
            label="How it leaves"
            value={way}
            options={[
              ['files', 'One file at a time'],
              ['plans', 'Folders, by a plan'],
            ]}
            onChange={setWay}
            className="border border-ink"
          />
          {way === 'files' && (
            <Choice
              label="What leaves"
              value={what}
              options={[
                ['kit', `The whole kit, ${count(state.kit.models.length, 'model')}`],
                ['model', 'One model'],
              ]}
              onChange={setWhat}
              className="border border-ink"
            />
          )}
          {way === 'files' && what === 'model' && (
            <Select
              label="Which model"
              value={modelId ?? ''}
              options={state.kit.models.map((m) => ({ value: m.id, word: m.name }))}
              onChange={showModel}
            />
          )}
          <span className="ml-auto flex items-center gap-2">
            Faces are seen
            <Choice
              label="Faces are seen"
              value={sides.size === 1 ? [...sides][0]! : 'mixed'}
              options={[
                ['came', 'as they came'],
                ['front', 'from the front'],
                ['both', 'from both sides'],
              ]}
              onChange={(to) => setSides(models, to === 'front' || to === 'both' ? to : undefined)}
              className="border border-ink"
            />
          </span>
        </div>
        {uncolored > 0 && (
          <p role="note" className="mb-4 border border-ink bg-white px-4 py-2.5">
            <strong>{count(uncolored, 'face')} not yet colored.</strong> They leave as they came in: with their material, picture, UVs and
            vertex colors, or with one neutral material. What a format cannot hold of it is listed with it.
          </p>
        )}
        <Unseen what={what} />
        {accounts.problem && (
          <p role="alert" className="mb-5 border-2 border-ink px-4 py-2.5">
            {accounts.problem}
          </p>
        )}
        {way === 'plans' ? (
          <Plans />
        ) : (
          <div className="grid grid-cols-[minmax(0,1fr)_440px] gap-8">
            <Formats what={what} losses={accounts} />
            <Accounts accounts={accounts} tally={tally} forNames={forNames} />
          </div>
        )}
      </div>
    </div>
  );
}
