import { toast } from 'sonner';

/** A short message at the edge of the screen; with an action where there is one. */
export function notify(
  message: string,
  { isError = false, action }: { isError?: boolean; action?: { label: string; run: () => void } } = {},
): void {
  const options = { duration: isError || action ? 10_000 : 4_000, ...(action && { action: { label: action.label, onClick: action.run } }) };
  if (isError) toast.error(message, options);
  else toast(message, options);
}

/** What was said in one view does not stand over the next. */
export const dismissNotices = (): void => {
  toast.dismiss();
};
