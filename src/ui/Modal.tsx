'use client';
import { Dialog } from 'radix-ui';
import type { ReactNode } from 'react';

const widths = { narrow: 'w-[440px]', wide: 'w-[760px]', widest: 'w-[1160px]' };

export function Modal({
  open,
  onClose,
  title,
  description,
  children,
  width = 'narrow',
}: {
  open: boolean;
  onClose: () => void;
  title: string;
  description?: string;
  children: ReactNode;
  width?: keyof typeof widths;
}) {
  return (
    <Dialog.Root open={open} onOpenChange={(o) => !o && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/35" />
        <Dialog.Content
          {...(description ? {} : { 'aria-describedby': undefined })}
          // What is longer than the window is scrolled by keys, too.
          tabIndex={0}
          className={`fixed top-1/2 left-1/2 z-50 max-h-[88vh] -translate-x-1/2 -translate-y-1/2 overflow-y-auto border border-ink bg-paper p-6 outline-none ${widths[width]}`}
        >
          <Dialog.Title className="text-phrase font-bold">{title}</Dialog.Title>
          {description && <Dialog.Description className="mt-1 text-quiet">{description}</Dialog.Description>}
          {children}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
