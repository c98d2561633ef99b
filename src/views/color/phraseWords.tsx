'use client';
import { DropdownMenu, Popover } from 'radix-ui';
import type { ReactNode } from 'react';

export const itemLook =
  'flex min-h-8 items-center gap-2.5 px-3 text-panel outline-none data-[highlighted]:bg-ink data-[highlighted]:text-paper';

/** An underlined word of the phrase that opens its choices. */
export function Word({
  label,
  value,
  children,
  onOpen,
  isSmall = false,
}: {
  label: string;
  value: ReactNode;
  children: ReactNode;
  onOpen?: () => void;
  /** Within a sentence: without its capital. */
  isSmall?: boolean;
}) {
  return (
    <DropdownMenu.Root modal={false} onOpenChange={(isOpen) => isOpen && onOpen?.()}>
      <DropdownMenu.Trigger
        aria-label={`${label}: ${typeof value === 'string' ? value : 'choose'}`}
        className={`border-b-2 border-ink px-0.5 pb-px font-bold hover:bg-wash data-[state=open]:bg-ink data-[state=open]:text-paper ${isSmall ? 'lowercase' : ''}`}
      >
        {value}
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="start"
          sideOffset={6}
          className="z-50 max-h-[70vh] min-w-56 overflow-y-auto border border-ink bg-white py-1"
        >
          {children}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

/** Choices of which one holds: the word, a hint, and its key. */
export function Radio<T extends string>({
  value,
  options,
  onChange,
}: {
  value: T;
  options: readonly (readonly [T, string, string, string?])[];
  onChange: (value: T) => void;
}) {
  return (
    <DropdownMenu.RadioGroup value={value} onValueChange={(v) => onChange(v as T)}>
      {options.map(([key, word, hint, shortcut]) => (
        <DropdownMenu.RadioItem key={key} value={key} className={`${itemLook} group data-[state=checked]:font-bold`}>
          <span className="w-2.5">{key === value ? '·' : ''}</span>
          <span>{word}</span>
          <span className="ml-auto pl-6 text-small font-normal text-quiet group-data-[highlighted]:text-[#bbb]">{hint}</span>
          <span className="min-w-4 text-right text-small font-medium whitespace-nowrap">{shortcut ?? ''}</span>
        </DropdownMenu.RadioItem>
      ))}
    </DropdownMenu.RadioGroup>
  );
}

/** A word that is a number with a slider. */
export function NumberWord({
  label,
  value,
  unit,
  least,
  most,
  step = 1,
  says,
  onChange,
  typedTo,
}: {
  label: string;
  value: number;
  unit: string;
  least: number;
  most: number;
  step?: number;
  says: string;
  onChange: (value: number) => void;
  /** Numbers beyond the slider's can be typed, up to this. */
  typedTo?: number;
}) {
  return (
    <Popover.Root>
      <Popover.Trigger
        aria-label={`${label}: ${value}${unit}`}
        className="border-b-2 border-ink px-0.5 pb-px font-bold hover:bg-wash data-[state=open]:bg-ink data-[state=open]:text-paper"
      >
        {value}
        {unit}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content align="start" sideOffset={6} className="z-50 w-64 border border-ink bg-white p-4 text-panel">
          <label className="block font-medium">
            {says} {value}
            {unit}
            <input
              type="range"
              min={least}
              max={most}
              step={step}
              value={value}
              onChange={(e) => onChange(Number(e.target.value))}
              className="slider-plain mt-2"
            />
          </label>
          {typedTo !== undefined && (
            <label className="mt-3 flex items-center justify-between gap-2 text-small text-quiet">
              or typed,{unit}
              <input
                type="number"
                min={least}
                max={typedTo}
                step="any"
                value={value}
                onChange={(e) => {
                  const typed = Number(e.target.value);
                  if (typed > 0 && typed <= typedTo) onChange(typed);
                }}
                className="w-24 border border-ink bg-white px-1.5 py-1 text-right text-panel text-ink"
              />
            </label>
          )}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

/** A length: to the centimetre by its slider, to any number by typing. */
export function MetresWord({
  most = 2,
  ...about
}: {
  label: string;
  says: string;
  value: number;
  most?: number;
  onChange: (metres: number) => void;
}) {
  return <NumberWord {...about} unit=" m" least={0.01} most={most} step={0.01} typedTo={1000} />;
}
