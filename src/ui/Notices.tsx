'use client';
import { usePathname } from 'next/navigation';
import { Toaster } from 'sonner';

/** Pixels from below: above the tray, or above the bar of a stage. */
const [aboveTray, aboveBar] = [244, 64];

export function Notices() {
  const isOnStage = usePathname().endsWith('/stage');
  return (
    <Toaster
      position="bottom-center"
      offset={isOnStage ? aboveBar : aboveTray}
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
