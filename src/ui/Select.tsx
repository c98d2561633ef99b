'use client';
import { ChevronDown } from 'lucide-react';
import { Select as Radix } from 'radix-ui';

/** Stands for the empty value, which the package keeps to itself. */
const nothing = '\u0000';

/** One of a list, behind a button that shows which. `isDisabled`: it can be seen there, but not be chosen. */
export function Select<T extends string>({
  label,
  value,
  options,
  onChange,
  placeholder = '',
  isQuiet = false,
  className = '',
}: {
  label: string;
  value: T;
  options: readonly { value: T; word: string; isDisabled?: boolean }[];
  onChange: (value: T) => void;
  /** Shown where the value is none of the list. */
  placeholder?: string;
  /** A fine line around it, for lists and panels. */
  isQuiet?: boolean;
  className?: string;
}) {
  const inside = (v: string) => v || nothing;
  return (
    <Radix.Root
      value={options.some((o) => o.value === value) ? inside(value) : ''}
      onValueChange={(v) => onChange((v === nothing ? '' : v) as T)}
    >
      <Radix.Trigger
        aria-label={label}
        className={`inline-flex ${isQuiet ? 'h-[26px] border-hairline' : 'h-[28px] border-ink'} items-center gap-1.5 border bg-white px-2 text-left hover:bg-wash data-[state=open]:bg-wash ${className}`}
      >
        <span className="min-w-0 flex-1 truncate">
          <Radix.Value placeholder={placeholder} />
        </span>
        <ChevronDown size={13} aria-hidden className="shrink-0" />
      </Radix.Trigger>
      <Radix.Portal>
        <Radix.Content
          position="popper"
          sideOffset={2}
          className="z-50 max-h-[var(--radix-select-content-available-height)] min-w-[var(--radix-select-trigger-width)] border border-ink bg-white"
        >
          <Radix.Viewport className="py-1">
            {options.map(({ value: v, word, isDisabled = false }) => (
              <Radix.Item
                key={inside(v)}
                value={inside(v)}
                disabled={isDisabled}
                className="flex min-h-7 items-center px-3 text-panel outline-none data-[disabled]:text-quiet data-[highlighted]:bg-ink data-[highlighted]:text-paper data-[state=checked]:font-bold"
              >
                <Radix.ItemText>{word}</Radix.ItemText>
              </Radix.Item>
            ))}
          </Radix.Viewport>
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}
