'use client';
import { Popover } from 'radix-ui';
import { useState } from 'react';
import { scatter, useStage } from '@/state/stage/stage';
import { useBase } from '@/state/kit/useCurrent';
import { Button } from '@/ui/Button';
import { NumberField } from '@/ui/NumberField';
import { Select } from '@/ui/Select';
import { Tick } from '@/ui/Tick';

/** Many of one model over an area, with turns and colorings by a seed. */
export function ScatterForm() {
  const { models, variants } = useBase().kit;
  const held = useStage((s) => s.model);
  const [model, setModel] = useState('');
  const [number, setNumber] = useState(20);
  const [reach, setReach] = useState(12);
  const [seed, setSeed] = useState(1);
  const [starts, setStarts] = useState<readonly string[]>(['']);
  const own = models.find((m) => m.id === (model || held)) ?? models[0]!;
  const colorings = [
    { id: '', name: 'default' },
    ...variants.filter((v) => v.model === undefined || v.model === own.id).map(({ id, name }) => ({ id, name })),
  ];
  const meant = colorings.filter((c) => starts.includes(c.id));
  return (
    <Popover.Root>
      <Popover.Trigger className="shrink-0 border border-hairline bg-white px-2 py-0.5 text-[12px] font-medium hover:bg-wash data-[state=open]:bg-ink data-[state=open]:text-paper">
        Scatter
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="start"
          sideOffset={6}
          aria-label="Scatter models"
          className="z-50 w-72 border border-ink bg-white p-4 text-panel"
        >
          <form
            onSubmit={(e) => {
              e.preventDefault();
              scatter({ model: own.id, variants: meant.map((c) => c.id || undefined), count: number, at: [0, 0, 0], reach, seed });
              setSeed(seed + 1);
            }}
          >
            <Select
              label="Model to scatter"
              value={own.id}
              options={models.map((m) => ({ value: m.id, word: m.name }))}
              onChange={setModel}
              className="w-full"
            />
            <div className="mt-3 flex items-center justify-between">
              <NumberField label="How many" value={number} least={1} most={5000} onChange={(n) => setNumber(Math.round(n))} />
              <NumberField label="within m" value={reach} least={1} most={500} onChange={setReach} />
            </div>
            <fieldset className="mt-3">
              <legend className="font-medium">Starting in</legend>
              {colorings.map((c) => (
                <Tick
                  key={c.id}
                  label={c.name}
                  value={starts.includes(c.id)}
                  onChange={(is) => setStarts(is ? [...starts, c.id] : starts.filter((s) => s !== c.id))}
                />
              ))}
            </fieldset>
            <div className="mt-3 flex items-center justify-between border-t border-hairline pt-3">
              <NumberField label="Seed" value={seed} least={0} most={99999} onChange={(n) => setSeed(Math.round(n))} />
              <Button kind="solid" type="submit" disabled={!meant.length}>
                Scatter them
              </Button>
            </div>
          </form>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
