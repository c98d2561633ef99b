'use client';
import { useEffect, useRef, useState } from 'react';

/** A name that turns into a field; Enter keeps, Escape leaves. */
export function Rename({
  name,
  label,
  onDone,
  className = '',
}: {
  name: string;
  label: string;
  onDone: (name: string | null) => void;
  className?: string;
}) {
  const [text, setText] = useState(name);
  const field = useRef<HTMLInputElement>(null);
  const isDone = useRef(false);
  useEffect(() => field.current?.select(), []);
  const finish = (value: string | null) => {
    if (isDone.current) return;
    isDone.current = true;
    onDone(value?.trim() || null);
  };
  return (
    <input
      ref={field}
      aria-label={label}
      value={text}
      maxLength={200}
      onChange={(e) => setText(e.target.value)}
      onBlur={() => finish(text)}
      onClick={(e) => e.stopPropagation()}
      onKeyDown={(e) => {
        e.stopPropagation();
        if (e.key === 'Enter') finish(text);
        if (e.key === 'Escape') finish(null);
      }}
      className={`w-full border-b-2 border-ink bg-white px-1 text-ink ${className}`}
    />
  );
}
