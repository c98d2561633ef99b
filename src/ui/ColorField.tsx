'use client';
import { useState } from 'react';
import type { Hex } from '@/core/ground/color/hex';
import { readColor } from '@/core/sheet/plan/nameColor';

/** A color by its hex number or a name (*brass*, *dark red*): tried as it is typed, kept when the field is left. */
export function ColorField({
  label,
  value,
  onTry,
  onKeep,
  onLeave,
  isFirst = false,
  isFocused = false,
}: {
  label: string;
  value: Hex;
  onTry?: (hex: Hex | null) => void;
  onKeep: (hex: Hex) => void;
  onLeave?: () => void;
  /** It has the focus when its panel opens, so that one can type at once. */
  isFirst?: boolean;
  /** It has the focus as soon as it is there. */
  isFocused?: boolean;
}) {
  const [text, setText] = useState<string | null>(null);
  return (
    <input
      aria-label={label}
      value={text ?? value}
      placeholder="#b5463a or brass"
      spellCheck={false}
      autoFocus={isFocused}
      maxLength={80}
      {...(isFirst && { 'data-first': '' })}
      onFocus={(e) => e.target.select()}
      onChange={(e) => {
        setText(e.target.value);
        onTry?.(readColor(e.target.value));
      }}
      onBlur={() => {
        const hex = text === null ? null : readColor(text);
        setText(null);
        onTry?.(null);
        if (hex) onKeep(hex);
        onLeave?.();
      }}
      onKeyDown={(e) => e.key === 'Enter' && (e.preventDefault(), e.currentTarget.blur())}
      aria-invalid={text !== null && !readColor(text)}
      className="w-full min-w-0 border border-hairline bg-white px-2 py-1 aria-invalid:border-dashed aria-invalid:border-ink"
    />
  );
}
