'use client';
import { useAnnouncement } from '@/state/told/announce';

/** Tells screen readers what happened. */
export function Announcer() {
  const text = useAnnouncement((s) => s.text);
  return (
    <div role="status" aria-live="polite" aria-label="What happened" className="sr-only">
      {text}
    </div>
  );
}
