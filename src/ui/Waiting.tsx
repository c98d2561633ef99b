import type { ReactNode } from 'react';

/** What is awaited, said where it will appear; only once the wait is long enough to be noticed. */
export function Waiting({ children }: { children: ReactNode }) {
  return (
    <p
      role="status"
      className="pointer-events-none absolute inset-0 m-auto h-fit w-fit animate-[appear_1ms_300ms_backwards] bg-paper px-4 py-2"
    >
      {children}
    </p>
  );
}
