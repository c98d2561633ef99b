'use client';
import type { ReactNode } from 'react';
import { useEditor } from '@/state/kit/editor';

/** Says which coloring a view shows, where a kit has several. */
export function ShownColoring({ children, className = '' }: { children: ReactNode; className?: string }) {
  const hasVariants = useEditor((s) => s.state.kit.variants.length > 0);
  return hasVariants ? <p className={`text-[12px] text-quiet ${className}`}>{children}</p> : null;
}
