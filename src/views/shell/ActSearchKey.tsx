'use client';
import { Search } from 'lucide-react';
import dynamic from 'next/dynamic';
import { usePathname } from 'next/navigation';
import { useCallback, useEffect, useRef, useState } from 'react';
import { useEditor } from '@/state/kit/editor';
import { isTyping } from '@/ui/isTyping';
import type { Act } from './acts';
import { useGo } from '@/views/shell/ViewLink';

const load = () => import('./ActSearch');
const ActSearch = dynamic(load, { ssr: false });

/** In every view of a kit, one key (or the glass) searches all that can be done. */
export function ActSearchKey() {
  const [isOpen, setOpen] = useState(false);
  const [waiting, setWaiting] = useState<Act | null>(null);
  const kit = useEditor((s) => s.state.kit.id);
  const go = useGo();
  const path = usePathname();
  // What is for another view runs once that is there: leaving a view closes what was open in it.
  useEffect(() => {
    if (!waiting || (waiting.view && !path.endsWith(`/${waiting.view}`))) return;
    const timer = setTimeout(() => {
      setWaiting(null);
      waiting.run();
    });
    return () => clearTimeout(timer);
  }, [waiting, path]);
  const run = (act: Act) => {
    setOpen(false);
    setWaiting(act);
    if (!act.view || path.endsWith(`/${act.view}`)) return;
    // Where the view that it is for cannot be opened, it is not done later without being asked for.
    void go(`/kit/${kit}/${act.view}`).then((goes) => !goes && setWaiting((w) => (w === act ? null : w)));
  };
  // What is typed before the search stands there is typed into it, and runs as no key.
  const early = useRef<string | null>(null);
  useEffect(() => {
    void load();
    const down = (e: KeyboardEvent) => {
      if (e.ctrlKey || e.metaKey || e.altKey || isTyping(e.target)) return;
      if (early.current === null && e.key === '/') {
        early.current = '';
        setOpen(true);
      } else if (early.current === null) return;
      else if (e.key.length === 1) early.current += e.key;
      else if (e.key === 'Backspace') early.current = early.current.slice(0, -1);
      else if (e.key === 'Escape') {
        early.current = null;
        setOpen(false);
      }
      e.preventDefault();
      e.stopImmediatePropagation();
    };
    window.addEventListener('keydown', down, { capture: true });
    return () => window.removeEventListener('keydown', down, { capture: true });
  }, []);
  const begin = useCallback(() => {
    const typed = early.current ?? '';
    early.current = null;
    return typed;
  }, []);
  return (
    <>
      <button
        type="button"
        aria-label="Search all that can be done"
        title="Search all that can be done  /"
        onClick={() => setOpen(true)}
        className="flex h-8 w-8 items-center justify-center hover:bg-wash"
      >
        <Search size={16} aria-hidden />
      </button>
      {isOpen && <ActSearch begin={begin} onClose={() => setOpen(false)} onRun={run} />}
    </>
  );
}
