'use client';
import { ToggleGroup } from 'radix-ui';

/** A row of which one is chosen: paper on ink. */
export function Choice<T extends string>({
  label,
  value,
  options,
  onChange,
  className = '',
}: {
  label: string;
  value: T;
  options: readonly (readonly [T, string])[];
  onChange: (value: T) => void;
  className?: string;
}) {
  return (
    <ToggleGroup.Root
      type="single"
      aria-label={label}
      value={value}
      onValueChange={(v) => v && onChange(v as T)}
      className={`inline-flex bg-paper ${className}`}
    >
      {options.map(([key, word]) => (
        <ToggleGroup.Item
          key={key}
          value={key}
          className="h-[26px] px-2.5 text-[12px] font-medium hover:bg-wash data-[state=on]:bg-ink data-[state=on]:text-paper"
        >
          {word}
        </ToggleGroup.Item>
      ))}
    </ToggleGroup.Root>
  );
}
