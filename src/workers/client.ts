import * as Comlink from 'comlink';
import type { CoreWorker } from './api';
import { supervise, type Started, type Supervised } from './supervise';

type Remote = Comlink.Remote<CoreWorker>;
let picking: Supervised<Remote> | null = null;
let working: Supervised<Remote> | null = null;
const restores: ((remote: Remote) => Promise<void>)[] = [];

/**
 * The worker of this tab that has the meshes and picks on them, started when it is first needed, and again
 * where it was lost. What is asked of it takes less than a second or comes in steps.
 */
export function coreWorker(): Remote {
  picking ??= supervise<Remote>(startWorker, async (remote) => {
    for (const restore of restores) await restore(remote);
  });
  return picking.remote;
}

/**
 * A second one for what may take longer, so that picking never waits: reading, preparing, repairing, leaving.
 * It reads meshes from the storage.
 */
export function longWorker(): Remote {
  working ??= supervise<Remote>(startWorker, () => Promise.resolve());
  return working.remote;
}

/** Ends all that the second worker does; whoever waits for it is refused. */
export function stopLongWork(): void {
  working?.stop('This was stopped, since its kit was closed.');
  working = null;
}

/** What a new worker must be given where the one before was lost. */
export const onWorkerRestart = (restore: (typeof restores)[0]): number => restores.push(restore);

/** Long work in a worker of its own, which can be stopped at any moment. */
export interface LongTask<T> {
  /** `null` where it was cancelled. */
  done: Promise<T | null>;
  cancel: () => void;
}

export function startTask<T>(ask: (worker: Remote) => Promise<T>): LongTask<T> {
  const { remote, lost, end } = startWorker();
  let cancel!: () => void;
  const cancelled = new Promise<null>((resolve) => (cancel = () => resolve(null)));
  const failed = lost.then(() => {
    throw new Error('The work stopped unexpectedly: the file may be too large for this computer. Nothing was changed.');
  });
  const done = Promise.race([ask(remote), cancelled, failed]).finally(end);
  return { done, cancel };
}

function startWorker(): Started<Remote> {
  const name = `oligochrome worker ${Math.random()}`;
  const raw = new Worker(new URL('./core.worker.ts', import.meta.url), { type: 'module', name });
  const remote = Comlink.wrap<CoreWorker>(raw);
  const lost = new Promise<unknown>((resolve) => {
    // A script that cannot be loaded, and whatever nobody caught in the worker.
    raw.onerror = (event) => resolve(event.message || 'its script could not be loaded');
    raw.onmessageerror = () => resolve('a message could not be read');
    // The worker holds a lock for as long as it lives. Who gets it knows that the worker is no more, at once.
    raw.addEventListener('message', ({ data }) => {
      if (data === 'held') void navigator.locks.request(name, () => resolve('it ended'));
    });
  });
  return { remote, lost, end: () => raw.terminate() };
}

export const proxy = Comlink.proxy;
