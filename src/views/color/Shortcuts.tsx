'use client';
import { useEffect } from 'react';
import { isTyping } from '@/ui/isTyping';
import { shortcutFor, shortcutGroups } from './shortcutList';

/** Listens for keys while the Color view is open, except where something is typed. */
export function Shortcuts() {
  useEffect(() => {
    const down = (e: KeyboardEvent) => {
      if (e.defaultPrevented || e.altKey || isTyping(e.target)) return;
      const found = shortcutFor(e);
      if (!found || (e.repeat && found.shortcut.release)) return;
      e.preventDefault();
      found.run();
    };
    const up = (e: KeyboardEvent) => {
      const key = e.key.toLowerCase();
      for (const { list } of shortcutGroups) for (const s of list) if (s.release && s.keys.includes(key)) s.release();
    };
    window.addEventListener('keydown', down);
    window.addEventListener('keyup', up);
    return () => {
      window.removeEventListener('keydown', down);
      window.removeEventListener('keyup', up);
    };
  }, []);
  return null;
}
