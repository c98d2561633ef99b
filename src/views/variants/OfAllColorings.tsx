'use client';
import { useEditor } from '@/state/kit/editor';
import { shortened } from './shortened';

/** Says, while a variant is in hand, that what is done here is not of that alone. `what`: with a capital. */
export function OfAllColorings({ what, className = '' }: { what: string; className?: string }) {
  const name = useEditor((s) => s.base?.kit.variants.find((v) => v.id === s.variant)?.name);
  if (name === undefined) return null;
  return (
    <p className={`border-l-2 border-ink pl-2 text-[12px] ${className}`}>
      {what} of all colorings, not of {shortened(name)} alone.
    </p>
  );
}
