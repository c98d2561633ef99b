'use client';
import { DropdownMenu } from 'radix-ui';
import type { ReactNode } from 'react';

export interface MenuItem {
  label: string;
  run: () => void;
  hint?: string;
}

export function Menu({
  label,
  trigger,
  items,
  align = 'end',
  className = '',
  note,
}: {
  label: string;
  trigger: ReactNode;
  items: (MenuItem | 'line')[];
  align?: 'start' | 'end';
  className?: string;
  /** What is to be known of the items, above them. */
  note?: string;
}) {
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger aria-label={label} className={className}>
        {trigger}
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align={align}
          sideOffset={4}
          className="z-50 max-h-[70vh] min-w-44 overflow-y-auto border border-ink bg-white py-1"
        >
          {note && <DropdownMenu.Label className="max-w-72 px-3 py-1.5 text-small text-quiet">{note}</DropdownMenu.Label>}
          {items.map((item, i) =>
            item === 'line' ? (
              <DropdownMenu.Separator key={i} className="my-1 h-px bg-hairline" />
            ) : (
              <DropdownMenu.Item
                key={item.label}
                onSelect={item.run}
                className="flex min-h-8 items-center gap-6 px-3 outline-none data-[highlighted]:bg-ink data-[highlighted]:text-paper"
              >
                {item.label}
                {item.hint && <span className="ml-auto text-small text-quiet">{item.hint}</span>}
              </DropdownMenu.Item>
            ),
          )}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
