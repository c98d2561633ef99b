'use client';
import { Search } from 'lucide-react';
import dynamic from 'next/dynamic';
import { usePathname, useRouter } from 'next/navigation';
import { useEffect, useState } from 'react';
import { useEditor } from '@/state/kit/editor';
import { isTyping } from '@/ui/isTyping';
import { listen } from '@/ui/listen';
import type { Act } from './acts';

const ActSearch = dynamic(() => import('./ActSearch'), { ssr: false });

/** In every view of a kit, one key (or the glass) searches all that can be done. */
export function ActSearchKey() {
  const [isOpen, setOpen] = useState(false);
  const [waiting, setWaiting] = useState<Act | null>(null);
  const kit = useEditor((s) => s.state.kit.id);
  const router = useRouter();
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
    if (act.view && !path.endsWith(`/${act.view}`)) router.push(`/kit/${kit}/${act.view}`);
  };
  useEffect(
    () =>
      listen(window, {
        keydown: (e) => {
          if (e.key !== '/' || e.ctrlKey || e.metaKey || e.altKey || isTyping(e.target)) return;
          e.preventDefault();
          setOpen(true);
        },
      }),
    [],
  );
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
      {isOpen && <ActSearch onClose={() => setOpen(false)} onRun={run} />}
    </>
  );
}
