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
