'use client';
import { ViewFailed } from '@/views/shell/ViewFailed';

export default function Failed(props: { error: Error; reset: () => void }) {
  return (
    <main className="flex min-h-screen">
      <ViewFailed {...props} />
    </main>
  );
}
