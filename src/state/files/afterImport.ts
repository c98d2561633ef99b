import { count } from '@/core/ground/words';
import { notify, notifyNextView } from '../told/notices';
import { useImport } from './importing';

/**
 * After files were brought in from elsewhere than Gather: to Color where there is nothing to decide about them, which
 * is said with a way to their reports, else to Gather.
 */
export function toWhereItGoesOn(isPlain: boolean, kitId: string, go: (path: string) => void): void {
  const gather = `/kit/${kitId}/gather`;
  if (!isPlain) return go(gather);
  const reports = useImport.getState().reports.map((r) => r.report);
  const open = reports.flatMap((r) => r.problems).reduce((n, p) => n + p.count, 0);
  const what = reports.length === 1 ? reports[0]!.name : count(reports.length, 'model');
  const message = `${what} came in: ${open ? `${count(open, 'open edge')}, as open shapes have.` : 'nothing is wrong.'}`;
  const action = { label: reports.length === 1 ? 'Its report' : 'Reports', run: () => go(gather) };
  // Where Color is open already no other view opens.
  if (location.pathname.endsWith('/color')) notify(message, { action, isBrief: true });
  else notifyNextView(message, { action, isBrief: true });
  go(`/kit/${kitId}/color`);
}
