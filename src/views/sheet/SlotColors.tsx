'use client';
import { Popover } from 'radix-ui';
import { useState, type ReactNode } from 'react';
import type { LeavingSlot } from '@/core/kit/kit';
import { colorsInOrder } from '@/core/sheet/order';
import { sheetInHand } from '@/state/color/board';
import { swatch } from '@/state/chosen/pictures';

/** Another color for a slot, from those of the sheet that have none. */
export function SlotColors({
  slot,
  others,
  onChoose,
  children,
}: {
  slot: LeavingSlot;
  others: readonly LeavingSlot[];
  onChoose: (cell: number) => void;
  children: ReactNode;
}) {
  const [isOpen, setOpen] = useState(false);
  const taken = new Set(others.map((o) => o.cell));
  const free = isOpen ? colorsInOrder(sheetInHand()).filter((c) => !taken.has(c.id)) : [];
  return (
    <Popover.Root open={isOpen} onOpenChange={setOpen}>
      <Popover.Trigger aria-label={`Another color for slot ${slot.number}`} title="Another color" className="shrink-0">
        {children}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="start"
          sideOffset={4}
          aria-label={`Colors for slot ${slot.number}`}
          className="z-50 w-56 border border-ink bg-white p-3 text-panel"
        >
          <p className="font-bold">Another color for slot {slot.number}</p>
          <p className="mb-2 text-small text-quiet">Its number stays. Colors that have a slot already are not listed.</p>
          <div className="flex max-h-40 flex-wrap gap-1.5 overflow-y-auto">
            {free.map((c) => (
              <button
                key={c.id}
                type="button"
                aria-label={c.role || swatch(c)}
                title={c.role}
                onClick={() => {
                  setOpen(false);
                  onChoose(c.id);
                }}
                className="h-7 w-7 border border-hairline hover:border-ink"
                style={{ background: swatch(c) }}
              />
            ))}
            {free.length === 0 && <p>Every color of the sheet has a slot.</p>}
          </div>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
