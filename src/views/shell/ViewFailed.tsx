'use client';
import { useEffect, useState } from 'react';
import { serverAnswers } from '@/state/told/server';
import { Button } from '@/ui/Button';

/**
 * Stands in for a view that failed: what to do, and that nothing is lost. Code that could not be loaded is never
 * asked for again by a page, so trying again loads the page anew, where the server answers.
 */
export function ViewFailed({ error, reset }: { error: Error; reset: () => void }) {
  const isCode = error.name === 'ChunkLoadError';
  const [state, setState] = useState<'' | 'asking' | 'away'>('');
  useEffect(() => console.error(error), [error]);
  const again = async () => {
    if (!isCode) return reset();
    setState('asking');
    if (await serverAnswers()) location.reload();
    else setState('away');
  };
  return (
    <div role="alert" className="m-auto max-w-[480px] px-4">
      <h1 className="text-[26px] font-bold">{isCode ? 'A part of the page could not be loaded.' : 'This view stopped working.'}</h1>
      <p className="mt-3">
        {isCode
          ? 'The server could not be reached when it was needed. What stood there as saved is kept.'
          : 'What stood there as saved is kept. Try again; if that does not help, reload the page.'}
      </p>
      {state === 'away' && <p className="mt-3 font-medium">The server does not answer yet. Check the connection, and try again.</p>}
      <div className="mt-5 flex gap-3">
        <Button kind="solid" onClick={() => void again()} disabled={state === 'asking'}>
          {state === 'asking' ? 'Trying…' : 'Try again'}
        </Button>
        {!isCode && <Button onClick={() => location.reload()}>Reload the page</Button>}
      </div>
    </div>
  );
}
