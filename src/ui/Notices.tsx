'use client';
import { Toaster } from 'sonner';

export function Notices() {
  return (
    <Toaster
      position="bottom-center"
      offset={244}
      toastOptions={{
        unstyled: true,
        classNames: {
          toast: 'flex w-[420px] items-center gap-3 border border-ink bg-ink px-4 py-3 text-panel text-paper',
          actionButton: 'ml-auto shrink-0 border border-paper px-2 py-1 font-semibold',
        },
      }}
      icons={{ error: <strong aria-hidden>!</strong> }}
    />
  );
}
