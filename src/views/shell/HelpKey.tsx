'use client';
import dynamic from 'next/dynamic';
import { useEffect } from 'react';
import { useHelp } from '@/state/told/help';
import { isTyping } from '@/ui/isTyping';
import { listen } from '@/ui/listen';

const ShortcutSheet = dynamic(() => import('../color/ShortcutSheet').then((m) => m.ShortcutSheet), { ssr: false });

/** In every view, at home too, one key tells how it goes and lists all keys. */
export function HelpKey() {
  const isOpen = useHelp((s) => s.isOpen);
  useEffect(
    () =>
      listen(window, {
        keydown: (e) => {
          if (e.key !== '?' || e.ctrlKey || e.metaKey || e.altKey || isTyping(e.target)) return;
          e.preventDefault();
          useHelp.setState({ isOpen: true });
        },
      }),
    [],
  );
  return isOpen ? <ShortcutSheet /> : null;
}
