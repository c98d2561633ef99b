'use client';
import type { ReactNode } from 'react';

/** A row of the bar. */
export const row = 'flex flex-wrap items-center gap-x-3 gap-y-1 px-5 py-1.5';

export function Word({ run, children }: { run: () => void; children: ReactNode }) {
  return (
    <button type="button" onClick={run} className="border-b border-ink hover:bg-wash">
      {children}
    </button>
  );
}

/** A number that is taken when the field is left, or by Enter. */
export function NumberField({
  label,
  hint,
  value,
  onChange,
}: {
  label: string;
  hint?: string;
  value: number;
  onChange: (value: number) => void;
}) {
  const shown = String(Math.round(value * 100) / 100);
  return (
    <label title={hint} className="flex items-center gap-1.5">
      {label}
      <input
        key={shown}
        type="number"
        step={1}
        defaultValue={shown}
        onBlur={(e) => take(e.target.value)}
        onKeyDown={(e) => {
          e.stopPropagation();
          if (e.key === 'Enter') take(e.currentTarget.value);
        }}
        className="h-7 w-[50px] border border-hairline px-1.5 text-right"
      />
    </label>
  );
  function take(text: string): void {
    const wanted = Number(text);
    if (text !== '' && text !== shown && Number.isFinite(wanted)) onChange(wanted);
  }
}
