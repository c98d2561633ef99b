import { toast } from 'sonner';
import { isRuntimeError, wordsOf } from '@/core/ground/wordsOf';

/** A short message at the edge of the screen; with an action where there is one. `isBrief`: its action can be found elsewhere, too. */
export function notify(
  message: string,
  { isError = false, isBrief = false, action }: { isError?: boolean; isBrief?: boolean; action?: { label: string; run: () => void } } = {},
): void {
  const options = {
    duration: !isBrief && (isError || action) ? 10_000 : 4_000,
    ...(action && { action: { label: action.label, onClick: action.run } }),
  };
  if (isError) toast.error(message, options);
  else toast(message, options);
}

type NoticeOptions = NonNullable<Parameters<typeof notify>[1]>;
const forNextView: [message: string, options: NoticeOptions][] = [];
/** What is to be read in the view that is about to open; a refusal, where nothing else is said. */
export const notifyNextView = (message: string, options: NoticeOptions = { isError: true }): number => forNextView.push([message, options]);

/** What was said in one view does not stand over the next. */
export const dismissNotices = (): void => {
  toast.dismiss();
  for (const [message, options] of forNextView.splice(0)) setTimeout(() => notify(message, options));
};

/** What went wrong, in words for the artist; what a runtime says of it stands in the console. */
export function notifyError(error: unknown): void {
  if (isRuntimeError(error)) console.error(error);
  notify(wordsOf(error), { isError: true });
}
