'use client';
import { Check } from 'lucide-react';
import { useEditor } from '@/state/kit/editor';
import { isUnsaved } from '@/state/kit/saving';

const words = { saved: 'Saved', saving: 'Saving…', full: 'Not saved', failed: 'Not saved', lost: 'Not saved' } as const;

export function SaveState() {
  const save = useEditor((s) => s.save);
  const readOnly = useEditor((s) => s.readOnly);
  const isBad = isUnsaved(save);
  return (
    <span
      role="status"
      aria-label="Saving"
      className={`flex w-[68px] items-center whitespace-nowrap gap-1 ${isBad ? 'font-bold' : 'text-[#444]'}`}
    >
      {save === 'saved' && !readOnly && <Check size={13} aria-hidden />}
      {readOnly && !isBad ? 'Read only' : words[save]}
    </span>
  );
}
