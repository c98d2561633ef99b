'use client';
import { useMemo } from 'react';
import { findCell, type Fill, type Variant } from '@/core/kit/kit';
import { fillsOfVariant } from '@/core/kit/colorings/shown';
import type { Differences } from '@/core/faces/variants/variantEdits';
import {
  differencesOf,
  giveDifferences,
  makeDifferencesDefault,
  pickDifferences,
  pickedDifferences,
  takeDifferencesBack,
} from '@/state/laying/variants';
import { useEditor } from '@/state/kit/editor';
import { useBase } from '@/state/kit/useCurrent';
import { usePick } from '@/state/chosen/pickState';
import { Menu } from '@/ui/Menu';
import { count } from '@/ui/words';
import { useFillStyle } from '@/views/sheet/useFillStyle';

/** What differs in a variant from the default, and what can become of it. */
export function DifferenceList({ variant }: { variant: Variant }) {
  const base = useBase();
  const meshes = useEditor((s) => s.meshes);
  const picked = usePick((s) => s.count);
  // eslint-disable-next-line react-hooks/exhaustive-deps -- Counted anew as meshes come.
  const { faces } = useMemo(() => differencesOf(base, variant), [base, variant, meshes]);
  const said = useMemo(() => fillsOfVariant(base.kit, variant), [base, variant]);
  const cells = Object.keys(said).flatMap((id) => findCell(base.kit, Number(id))?.cell ?? []);
  const { variants, models } = base.kit;
  const others = variants.filter((v) => v.id !== variant.id);
  const itemsFor = (what: () => Differences | null) => {
    const go = (run: (what: Differences) => void) => () => {
      const now = what();
      if (now) run(now);
    };
    return [
      { label: 'Take back', run: go((w) => takeDifferencesBack(variant.id, w)), hint: 'as in the default' },
      { label: 'Make it the default', run: go((w) => makeDifferencesDefault(variant.id, w)) },
      ...others.map((v) => ({ label: `Copy to ${v.name}`, run: go((w) => giveDifferences(variant.id, v.id, w)) })),
    ];
  };
  if (!cells.length && !faces.length)
    return (
      <p className="mt-4 text-quiet">
        Nothing differs in {variant.name} yet. Color as always: what you do now is of {variant.name} alone. Layouts, regions and meshes stay
        common to all.
      </p>
    );
  const link = 'border-b border-ink text-[12px] hover:bg-wash';
  return (
    <section aria-label={`What differs in ${variant.name}`} className="mt-5">
      <h3 className="flex items-baseline justify-between font-bold">
        What differs
        <span className="flex gap-3 font-normal">
          {picked > 0 && (
            <Menu label="What differs of the picked faces" trigger="the pick" className={link} items={itemsFor(pickedDifferences)} />
          )}
          <Menu label="All that differs" trigger="all" className={link} items={itemsFor(() => 'all')} />
        </span>
      </h3>
      <ul className="mt-2 space-y-1">
        {cells.map((cell) => (
          <li key={cell.id} className="flex items-center gap-2.5">
            <Swatches from={cell.fill} to={said[cell.id]!} />
            <span className="min-w-0 flex-1 truncate">{cell.role || 'without a role'}</span>
            <Menu
              label={`What differs: ${cell.role || 'a color without a role'}`}
              trigger="…"
              className="h-6 w-7 hover:bg-hairline"
              items={itemsFor(() => ({ cells: [cell.id] }))}
            />
          </li>
        ))}
      </ul>
      <ul className="mt-2 space-y-1">
        {faces.map(({ model, faces: list }) => {
          const name = models.find((m) => m.id === model)?.name ?? '';
          return (
            <li key={model} className="flex items-center gap-2.5">
              <button
                type="button"
                title="Pick them"
                onClick={() => pickDifferences(model, list)}
                className="min-w-0 flex-1 truncate text-left hover:underline"
              >
                {count(list.length, 'face')} of {name}
              </button>
              <Menu
                label={`What differs: faces of ${name}`}
                trigger="…"
                className="h-6 w-7 hover:bg-hairline"
                items={itemsFor(() => ({ model, faces: list }))}
              />
            </li>
          );
        })}
      </ul>
    </section>
  );
}

/** A color as it is in the default, and as it is here. */
function Swatches({ from, to }: { from: Fill; to: Fill }) {
  const styleOf = useFillStyle();
  return (
    <span aria-hidden className="flex shrink-0 items-center gap-1">
      <span className="h-5 w-5" style={styleOf(from)} />
      <span className="text-small text-quiet">→</span>
      <span className="h-5 w-8" style={styleOf(to)} />
    </span>
  );
}
