import { create } from 'zustand';
import { usePhrase } from './phrase';

/** What a newcomer is told while nothing is picked, one after the other. */
export const hints = {
  widen: 'Double click takes more: the flat area, the smooth one, up to the next narrow ring, the part.',
  add: 'Shift and a click adds to what is picked; Alt takes away.',
  box: 'Y has a drag take a box, then a lasso, then brush.',
} as const;
export type HintId = keyof typeof hints;

const key = 'oligochrome-hints';

/** Those that were used or put away: they never come back in this browser. */
export const useHints = create<{ known: readonly HintId[] }>(() => ({ known: read() }));

/** The hint that stands next; none once all were used. */
export const nextHint = (known: readonly HintId[]): HintId | undefined => (Object.keys(hints) as HintId[]).find((h) => !known.includes(h));

export function hintUsed(hint: HintId): void {
  const { known } = useHints.getState();
  if (known.includes(hint)) return;
  const next = [...known, hint];
  useHints.setState({ known: next });
  try {
    localStorage.setItem(key, next.join());
  } catch {
    // Where nothing may be stored it comes back on the next visit.
  }
}

function read(): HintId[] {
  try {
    return (localStorage.getItem(key)?.split(',') ?? []).filter((h): h is HintId => h in hints);
  } catch {
    return [];
  }
}

usePhrase.subscribe((now, before) => {
  if (now.drag !== before.drag && now.drag === 'box') hintUsed('box');
});
