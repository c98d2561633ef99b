'use client';
import { RadioGroup } from 'radix-ui';

/** A few ways to go on, each with a word on what it does; the chosen one is paper on ink. */
export function RadioCards<T extends string>({
  label,
  value,
  options,
  onChange,
}: {
  label: string;
  value: T;
  options: readonly (readonly [T, string, string])[];
  onChange: (value: T) => void;
}) {
  return (
    <RadioGroup.Root value={value} onValueChange={(v) => onChange(v as T)} aria-label={label} className="my-3 space-y-1">
      {options.map(([key, word, hint]) => (
        <RadioGroup.Item
          key={key}
          value={key}
          className="block w-full border border-hairline px-3 py-2 text-left hover:border-ink data-[state=checked]:border-ink data-[state=checked]:bg-ink data-[state=checked]:text-paper"
        >
          <span className="block font-medium">{word}</span>
          <span className="block text-[12px] opacity-75">{hint}</span>
        </RadioGroup.Item>
      ))}
    </RadioGroup.Root>
  );
}
