'use client';
import { Button } from '@/ui/Button';

/** Stands in for a view that failed: what to do, and that nothing is lost. */
export default function ViewFailed({ reset }: { reset: () => void }) {
  return (
    <main role="alert" className="m-auto max-w-[480px] pt-40">
      <h1 className="text-[26px] font-bold">This view stopped working.</h1>
      <p className="mt-3">
        A part of the page could not be loaded, or failed. What stood there as saved is kept. Try again; if that does not help, check the
        connection to the server and reload the page.
      </p>
      <div className="mt-5 flex gap-3">
        <Button kind="solid" onClick={reset}>
          Try again
        </Button>
        <Button onClick={() => location.reload()}>Reload the page</Button>
      </div>
    </main>
  );
}
