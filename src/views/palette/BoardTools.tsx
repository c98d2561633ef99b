'use client';
import { maxSheetSize } from '@/core/ground/limits';
import type { Sheet } from '@/core/kit/kit';
import { pinchOnBoard, sortOnBoard, useBoard, type Look } from '@/state/color/board';
import { Choice } from '@/ui/Choice';
import { Menu } from '@/ui/Menu';
import { SizeForm } from './SizeForm';

const looks: readonly (readonly [Look, string])[] = [
  ['true', 'True color'],
  ['grey', 'Grey values'],
  ['protan', 'Protan'],
  ['deutan', 'Deutan'],
  ['tritan', 'Tritan'],
];

/** How the sheet is looked at, and what is done to all of it. */
export function BoardTools({ sheet }: { sheet: Sheet }) {
  const look = useBoard((s) => s.look);
  const button = 'h-[26px] bg-paper px-2.5 text-[12px] font-medium hover:bg-wash';
  return (
    <>
      <Choice
        label="How the colors read"
        value={look}
        options={looks}
        onChange={(value) => useBoard.setState({ look: value })}
        className="absolute bottom-4 left-5"
      />
      {!sheet.frozen && (
        <div className="absolute right-5 bottom-4 flex gap-2">
          <Menu
            label="Sort the cells"
            trigger="Sort"
            className={button}
            items={[
              { label: 'By ramp', run: () => sortOnBoard('ramp') },
              { label: 'Around the hues', run: () => sortOnBoard('hue') },
              { label: 'Dark to light', run: () => sortOnBoard('lightness') },
              { label: 'Most used first', run: () => sortOnBoard('use') },
            ]}
          />
          <SizeForm
            label="Pinch"
            fields={['Width in texels', 'Height in texels']}
            start={[sheet.width, sheet.height]}
            most={[maxSheetSize, maxSheetSize]}
            action="Pinch to this size"
            note="Every cell goes with the sheet; nothing changes its color."
            onDone={pinchOnBoard}
            className={button}
          />
        </div>
      )}
    </>
  );
}
