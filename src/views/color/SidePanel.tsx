'use client';
import { X } from 'lucide-react';
import { useEffect, useRef, type ReactNode } from 'react';

/** A panel over the viewport's right side: the model stays in view while its colors change. */
export function SidePanel({ title, onClose, children }: { title: string; onClose: () => void; children: ReactNode }) {
  const panel = useRef<HTMLDivElement>(null);
  useEffect(() => {
    const before = document.activeElement as HTMLElement | null;
    panel.current?.querySelector<HTMLElement>('input')?.focus();
    return () => before?.focus?.();
  }, []);
  return (
    <div
      ref={panel}
      role="dialog"
      aria-label={title}
      onKeyDown={(e) => {
        if (e.key === 'Escape') {
          e.stopPropagation();
          onClose();
        }
      }}
      className="absolute right-5 bottom-[208px] z-30 w-[316px] border border-ink bg-paper p-4"
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
