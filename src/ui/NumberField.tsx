'use client';
import { useEffect, useRef } from 'react';

/** A number that is taken when the field is left, however it is, or by Enter; kept between the least and the most. */
export function NumberField({
  label,
  hint,
  value,
  least = -Infinity,
  most = Infinity,
  step = 1,
  onChange,
}: {
  label: string;
  hint?: string;
  value: number;
  least?: number;
  most?: number;
  step?: number;
  onChange: (value: number) => void;
}) {
  const shown = String(Math.round(value * 100) / 100);
  const field = useRef<HTMLInputElement | null>(null);
  const latest = useRef(take);
  useEffect(() => {
    latest.current = take;
  });
  // A panel that closes takes its fields along before they are left.
  useEffect(() => {
    const own = field;
    return () => {
      if (own.current) latest.current(own.current);
    };
  }, []);
  return (
    <label title={hint} className="flex items-center gap-1.5">
      {label}
      <input
        key={shown}
        ref={(input) => {
          if (input) field.current = input;
        }}
        type="number"
        step={step}
        {...(Number.isFinite(least) && { min: least })}
        {...(Number.isFinite(most) && { max: most })}
        defaultValue={shown}
        onBlur={(e) => take(e.target)}
        onKeyDown={(e) => {
          e.stopPropagation();
          if (e.key === 'Enter') take(e.currentTarget);
        }}
        className="h-7 w-[50px] [appearance:textfield] border border-hairline bg-white px-1.5 text-right [&::-webkit-inner-spin-button]:hidden"
      />
    </label>
  );
  function take(field: HTMLInputElement): void {
    const wanted = Number(field.value);
    if (field.value === '' || field.value === shown || !Number.isFinite(wanted)) return;
    const kept = Math.max(least, Math.min(most, wanted));
    // What is out of bounds may be kept as it was, and would go on standing there.
    field.value = String(kept);
    if (kept !== value) onChange(kept);
  }
}
