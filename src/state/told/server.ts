/** Milliseconds for which an answer that was asked for ahead counts: from where a link is pressed to where it is let go. */
const counts = 1_000;
/** Milliseconds after which a server that is silent counts as away. */
const patience = 5_000;
let ahead: { at: number; answer: Promise<boolean> } | null = null;

const ask = (): Promise<boolean> =>
  fetch('/icon.svg', { method: 'HEAD', cache: 'no-store', signal: AbortSignal.timeout(patience) }).then(
    () => true,
    () => false,
  );

/** Asks while a link is pressed, so that its answer is there once it is let go. */
export function askServerAhead(): void {
  ahead = { at: performance.now(), answer: ask() };
}

/** Whether the server can be reached, so that a page that is left for another does not end at the browser's own. Never rejects. */
export function serverAnswers(): Promise<boolean> {
  const asked = ahead && performance.now() - ahead.at < counts ? ahead.answer : ask();
  // It counts once: what was there a moment ago may be away.
  ahead = null;
  return asked;
}
