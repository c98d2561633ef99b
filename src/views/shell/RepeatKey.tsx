import { useEffect } from 'react';
import { repeatPlan } from '@/state/files/plans';
import { notifyError } from '@/state/told/notices';
import { isTyping } from '@/ui/isTyping';
import { listen } from '@/ui/listen';

/** In every view of a kit, one key writes the plan that left last once more. */
export function RepeatKey() {
  useEffect(
    () =>
      listen(window, {
        keydown: (e) => {
          if (e.key.toLowerCase() !== 'r' || !e.shiftKey || e.ctrlKey || e.metaKey || e.altKey || isTyping(e.target)) return;
          e.preventDefault();
          void repeatPlan().catch(notifyError);
        },
      }),
    [],
  );
  return null;
}
