'use client';
import { X } from 'lucide-react';
import { createContext, useContext, useEffect, useRef, type ReactNode } from 'react';

/** Whether panels stand in the column of another view, as in Palette, or beside the viewport. */
export const Docked = createContext(false);

/**
 * A panel about colors: a column at the right of the viewport, which makes room for it, so that nothing lies
 * over the model; or docked.
 */
export function SidePanel({ title, onClose, children }: { title: string; onClose: () => void; children: ReactNode }) {
  const panel = useRef<HTMLDivElement>(null);
  const isDocked = useContext(Docked);
  useEffect(() => {
    // A docked panel follows the selection; it must not take the focus from it.
    if (isDocked) return;
    const before = document.activeElement as HTMLElement | null;
    const first = panel.current?.querySelector<HTMLElement>('[data-first]') ?? panel.current?.querySelector<HTMLElement>('input');
    first?.focus();
    // Back to where it was, unless something else has it by now: another panel, or a field in it.
    return () => {
      if (!document.activeElement || document.activeElement === document.body) before?.focus?.();
    };
  }, [isDocked]);
  return (
    <div
      ref={panel}
      role={isDocked ? 'region' : 'dialog'}
      aria-label={title}
      onKeyDown={(e) => {
        if (e.key === 'Escape') {
          e.stopPropagation();
          onClose();
        }
      }}
      className={isDocked ? 'p-4' : 'w-[332px] shrink-0 overflow-y-auto border-l border-ink bg-paper p-4'}
    >
      <div className="mb-3 flex items-center justify-between">
        <h2 className="text-[14px] font-bold">{title}</h2>
        <button type="button" aria-label="Close" onClick={onClose} className="flex h-7 w-7 items-center justify-center hover:bg-wash">
          <X size={15} aria-hidden />
        </button>
      </div>
      {children}
    </div>
  );
}
