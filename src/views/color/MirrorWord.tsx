'use client';
import { DropdownMenu } from 'radix-ui';
import { useEffect } from 'react';
import type { Axis } from '@/core/shapes/pick/symmetry';
import { currentOf, useEditor } from '@/state/kit/editor';
import { usePhrase } from '@/state/chosen/phrase';
import { showFacesWithoutTwin, symmetryInView, useSymmetries } from '@/state/pick/symmetries';
import { count, metres, number } from '@/ui/words';
import { itemLook, Radio, Word } from './phraseWords';

/** Shares of the model's size within which two faces pass for twins. */
const nearnesses = [0.002, 0.005, 0.01, 0.02, 0.05];

/** Whether, and across which plane, the other half goes along. */
export function MirrorWord() {
  const { mirror, mirrorAxis, mirrorWithin } = usePhrase();
  const meshId = useEditor((s) => currentOf(s)?.loaded?.id);
  const planes = useSymmetries((s) => (meshId ? s.planes[meshId] : undefined));
  const twins = useSymmetries((s) => (meshId ? s.twins[meshId] : undefined));
  useEffect(() => {
    if (mirror !== 'nowhere') void symmetryInView();
  }, [mirror, mirrorAxis, mirrorWithin, meshId]);
  const axis = mirrorAxis ?? planes?.[0]?.axis;
  const where = `${mirror === 'instead' ? 'only its twin ' : ''}across${axis ? ` ${axis}` : ''}`;
  return (
    <>
      <span className="-ml-1.5">, mirrored</span>
      <Word
        label="Mirrored"
        value={mirror === 'nowhere' ? 'nowhere' : where}
        onOpen={() => {
          void symmetryInView();
        }}
      >
        <Radio
          value={mirror === 'nowhere' ? 'nowhere' : (axis ?? 'x')}
          options={[
            ['nowhere', 'nowhere', 'only what is taken', 'M'],
            ...(planes ?? []).map(
              (p) =>
                [p.axis, `across ${p.axis}`, `${Math.floor(p.share * 100)} % of faces have a twin; plane at ${metres(p.offset)}`] as const,
            ),
          ]}
          onChange={(to) =>
            usePhrase.setState(
              to === 'nowhere' ? { mirror: 'nowhere' } : { mirror: mirror === 'instead' ? 'instead' : 'across', mirrorAxis: to as Axis },
            )
          }
        />
        <DropdownMenu.Separator className="my-1 h-px bg-hairline" />
        <DropdownMenu.CheckboxItem
          checked={mirror === 'instead'}
          onCheckedChange={(is) => usePhrase.setState({ mirror: is ? 'instead' : 'across' })}
          className={itemLook}
        >
          <span className="w-2.5">{mirror === 'instead' ? '·' : ''}</span>Take the twin instead, not both
        </DropdownMenu.CheckboxItem>
        {twins && twins.unmatched > 0 && (
          <DropdownMenu.Item onSelect={() => void showFacesWithoutTwin()} className={itemLook}>
            <span className="w-2.5" />
            Show the {count(twins.unmatched, 'face')} without a twin
            <span className="ml-auto pl-6 text-small text-quiet">of {number(twins.matched + twins.unmatched)}</span>
          </DropdownMenu.Item>
        )}
        <DropdownMenu.Separator className="my-1 h-px bg-hairline" />
        <DropdownMenu.Label className="px-3 pt-1 text-small text-quiet">Twins may lie apart by, of the model’s size</DropdownMenu.Label>
        <DropdownMenu.RadioGroup
          value={String(mirrorWithin)}
          onValueChange={(v) => usePhrase.setState({ mirrorWithin: Number(v) })}
          className="flex px-2 pb-1"
        >
          {nearnesses.map((n) => (
            <DropdownMenu.RadioItem
              key={n}
              value={String(n)}
              aria-label={`Twins within ${n * 100} %`}
              onSelect={(e) => e.preventDefault()}
              className="px-2 py-1 text-panel outline-none data-[highlighted]:bg-wash data-[state=checked]:bg-ink data-[state=checked]:text-paper"
            >
              {n * 100} %
            </DropdownMenu.RadioItem>
          ))}
        </DropdownMenu.RadioGroup>
      </Word>
    </>
  );
}
