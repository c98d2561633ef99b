'use client';
import { useEditor } from '@/state/kit/editor';
import { ViewLink } from './ViewLink';

/** Where a model would stand, and the way to bring one in. */
export function NoModelYet() {
  const kitId = useEditor((s) => s.state.kit.id);
  return (
    <p className="absolute inset-0 m-auto h-fit w-72 bg-paper p-5 text-center">
      There is no model yet.{' '}
      <ViewLink href={`/kit/${kitId}/gather`} className="border-b-2 border-ink font-medium">
        Go to Gather
      </ViewLink>
    </p>
  );
}
