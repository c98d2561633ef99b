'use client';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useCallback, type ComponentProps } from 'react';
import { notify } from '@/state/told/notices';
import { askServerAhead, serverAnswers } from '@/state/told/server';

/** What was asked for last is where it goes. */
let turn = 0;

/**
 * How to go to another view: only where the server answers. The router alone would leave for the browser's own
 * page; so the view that is open stays, and says why. Tells whether it goes.
 */
export function useGo(): (to: string, options?: { scroll?: boolean }) => Promise<boolean> {
  const router = useRouter();
  return useCallback(
    (to, options) => {
      const go = async (): Promise<boolean> => {
        const own = ++turn;
        const answers = await serverAnswers();
        if (own !== turn) return false;
        if (answers) router.push(to, options);
        else
          notify('The server cannot be reached, so this view stays open. Your work is kept in this browser.', {
            isError: true,
            action: { label: 'Try again', run: () => void go() },
          });
        return answers;
      };
      return go();
    },
    [router],
  );
}

/** A link within the application; it asks for the server while it is pressed. */
export function ViewLink(props: Omit<ComponentProps<typeof Link>, 'href'> & { href: string }) {
  const go = useGo();
  return (
    <Link
      {...props}
      onPointerDown={askServerAhead}
      onNavigate={(event) => {
        event.preventDefault();
        void go(props.href);
      }}
    />
  );
}
