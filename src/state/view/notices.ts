import { toast } from 'sonner';
import { isRuntimeError, wordsOf } from '@/core/wordsOf';

/** A short message at the edge of the screen; with an action where there is one. */
export function notify(
  message: string,
  { isError = false, action }: { isError?: boolean; action?: { label: string; run: () => void } } = {},
): void {
  const options = { duration: isError || action ? 10_000 : 4_000, ...(action && { action: { label: action.label, onClick: action.run } }) };
  if (isError) toast.error(message, options);
  else toast(message, options);
}

const forNextView: string[] = [];
/** A refusal that is to be read in the view that is about to open. */
export const notifyNextView = (message: string): number => forNextView.push(message);

/** What was said in one view does not stand over the next. */
export const dismissNotices = (): void => {
  toast.dismiss();
  for (const message of forNextView.splice(0)) setTimeout(() => notify(message, { isError: true }));
};

/** What went wrong, in words for the artist; what a runtime says of it stands in the console. */
export function notifyError(error: unknown): void {
  if (isRuntimeError(error)) console.error(error);
  notify(wordsOf(error), { isError: true });
}
