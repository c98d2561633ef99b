import { warmWorkers } from '@/workers/client';
import { loadViewport } from '../viewport/lazyViewport';

/**
 * All ranges of characters of the font: for each new size and weight of text the browser asks the system what stands for a
 * range that is not there yet, and waits.
 */
const wholeFont = () => Promise.all(Array.from(document.fonts, (range) => range.load()));

/** In pieces, so that none of them holds the page for long when it is run. */
const steps: (() => unknown)[] = [
  wholeFont,
  warmWorkers,
  loadViewport,
  () => import('../shell/KitShell'),
  () => import('../color/ColorView'),
];

/** Makes ready what a kit is opened with, a step whenever the page has nothing else to do. Returns what stops it. */
export function readyToOpen(): () => void {
  let stopped = false;
  let waiting = 0;
  const hasIdle = 'requestIdleCallback' in window;
  const go = (i: number): void => {
    if (stopped || i === steps.length) return;
    const step = () =>
      void Promise.resolve(steps[i]!()).then(
        () => go(i + 1),
        () => undefined,
      );
    waiting = hasIdle ? requestIdleCallback(step, { timeout: 2000 }) : window.setTimeout(step);
  };
  go(0);
  return () => {
    stopped = true;
    if (hasIdle) cancelIdleCallback(waiting);
    else clearTimeout(waiting);
  };
}
