'use client';
import { Popover } from 'radix-ui';
import { useState } from 'react';
import { Button } from '@/ui/Button';

/** Two whole numbers, asked for beside the button that needs them. */
export function SizeForm({
  label,
  fields,
  start,
  most,
  action,
  note,
  onDone,
  className,
}: {
  label: string;
  fields: readonly [string, string];
  start: readonly [number, number];
  most: readonly [number, number];
  action: string;
  note?: string;
  onDone: (first: number, second: number) => void;
  className: string;
}) {
  const [isOpen, setOpen] = useState(false);
  const [values, setValues] = useState(start);
  return (
    <Popover.Root
      open={isOpen}
      onOpenChange={(open) => {
        setOpen(open);
        if (open) setValues(start);
      }}
    >
      <Popover.Trigger className={className}>{label}</Popover.Trigger>
      <Popover.Portal>
        <Popover.Content align="start" sideOffset={4} className="z-50 border border-ink bg-paper p-4">
          <form
            onSubmit={(e) => {
              e.preventDefault();
              setOpen(false);
              onDone(values[0], values[1]);
            }}
          >
            {fields.map((field, i) => (
              <label key={field} className="mb-2 flex items-center justify-between gap-4">
                {field}
                <input
                  type="number"
                  min={1}
                  max={most[i]}
                  required
                  value={values[i] || ''}
                  onChange={(e) => setValues(values.map((v, k) => (k === i ? Number(e.target.value) : v)) as [number, number])}
                  className="w-20 border border-hairline bg-white px-2 py-1 text-right"
                />
              </label>
            ))}
            {note && <p className="mb-2 max-w-[220px] text-[12px] text-quiet">{note}</p>}
            <Button kind="solid" type="submit" className="w-full">
              {action}
            </Button>
          </form>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
