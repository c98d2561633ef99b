'use client';
import type { Arranging } from '@/core/islands/arrangeMany';
import type { Cell } from '@/core/kit/kit';
import {
  arrangePicked,
  countPickedIslands,
  fillEach,
  pickedDensity,
  setDensity,
  spreadPicked,
  stackPicked,
} from '@/state/islands/arranging';
import { fitPicked, movePicked, pickedBounds, shrinkPicked, type IslandsInView } from '@/state/islands/islands';
import { Menu } from '@/ui/Menu';
import { NumberField } from '@/ui/NumberField';
import { row, Word } from './fields';

const arrangings: [Arranging, string][] = [
  ['left', 'In line at the left'],
  ['middle', 'In line at their middles'],
  ['right', 'In line at the right'],
  ['top', 'In line at the top'],
  ['centre', 'In line at half their height'],
  ['bottom', 'In line at the bottom'],
  ['evenly across', 'Evenly across'],
  ['evenly down', 'Evenly down'],
];

/** Where what is picked lies, in numbers, and what changes it. */
export function PlaceRows({ view, target }: { view: IslandsInView; target: Cell | null }) {
  const bounds = pickedBounds();
  if (!bounds) return null;
  const islandsPicked = countPickedIslands(view);
  const density = pickedDensity(view);
  return (
    <>
      <div className={row} role="group" aria-label="Where it lies, in texels">
        <NumberField label="Left" value={bounds[0]} onChange={(v) => movePicked({ by: [v - bounds[0], 0] })} />
        <NumberField label="Top" value={bounds[2]} onChange={(v) => movePicked({ by: [0, v - bounds[2]] })} />
        <NumberField
          label="Width"
          value={bounds[1] - bounds[0]}
          onChange={(v) => movePicked({ size: [factor(v, bounds[1] - bounds[0]), 1] })}
        />
        <NumberField
          label="Height"
          value={bounds[3] - bounds[2]}
          onChange={(v) => movePicked({ size: [1, factor(v, bounds[3] - bounds[2])] })}
        />
        {density > 0 && <NumberField label="Density" hint="Texels a metre" value={density} onChange={setDensity} />}
      </div>
      <div className={row} role="group" aria-label="Change it">
        <Word run={() => movePicked({ turn: 90 })}>turn</Word>
        <Word run={() => movePicked({ size: [-1, 1] })}>flip across</Word>
        <Word run={() => movePicked({ size: [1, -1] })}>flip down</Word>
        <Word run={() => movePicked({ size: [1.25, 1.25] })}>larger</Word>
        <Word run={() => movePicked({ size: [0.8, 0.8] })}>smaller</Word>
        <Menu
          label="Fit it into its cell"
          align="start"
          trigger="fit"
          className="border-b border-ink hover:bg-wash"
          items={[
            { label: 'In its proportions', run: () => fitPicked(false) },
            { label: 'Stretched to all of it', run: () => fitPicked(true) },
            { label: 'To a point', run: shrinkPicked },
            ...(target ? [{ label: 'Every face fills the cell', run: () => fillEach(target) }] : []),
          ]}
        />
        {islandsPicked > 1 && (
          <Menu
            label="Arrange the picked islands"
            align="start"
            trigger="arrange"
            className="border-b border-ink hover:bg-wash"
            items={[
              ...arrangings.map(([how, label]) => ({ label, run: () => arrangePicked(how) })),
              'line',
              { label: 'Stack those of one shape', run: stackPicked },
              { label: 'Lay apart at their size', run: () => void spreadPicked(true) },
              { label: 'Pack anew, as large as they fit', run: () => void spreadPicked(false) },
            ]}
          />
        )}
      </div>
    </>
  );
}

const factor = (wanted: number, is: number): number => (is > 1e-6 ? wanted / is : 1);
