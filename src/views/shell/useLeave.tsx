'use client';
import { useState, type ReactNode } from 'react';
import { useEditor } from '@/state/kit/editor';
import { isUnsaved } from '@/state/kit/saving';
import { Button } from '@/ui/Button';
import { Modal } from '@/ui/Modal';
import { useGo } from '@/views/shell/ViewLink';

/**
 * How to go to all kits: asks first where changes could not be saved, since they would go. Returns what goes,
 * and the question to show.
 */
export function useLeave(): [leave: (event?: { preventDefault: () => void }) => void, question: ReactNode] {
  const [isAsking, setAsking] = useState(false);
  const go = useGo();
  const leave = (event?: { preventDefault: () => void }) => {
    if (isUnsaved(useEditor.getState().save)) {
      event?.preventDefault();
      setAsking(true);
    } else if (!event) void go('/');
    // A link that was pressed goes on by itself.
  };
  const question = (
    <Modal
      open={isAsking}
      onClose={() => setAsking(false)}
      title="Leave without your last changes?"
      description="They could not be saved, and stand in this tab only. Stay to keep them as an archive, or to make room."
    >
      <div className="mt-5 flex justify-end gap-2">
        <Button onClick={() => void go('/')}>Leave without them</Button>
        <Button kind="solid" onClick={() => setAsking(false)}>
          Stay
        </Button>
      </div>
    </Modal>
  );
  return [leave, question];
}
