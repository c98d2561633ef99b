import * as Comlink from 'comlink';
import type { CoreWorker } from './core.worker';
import { supervise, type Started } from './supervise';

type Remote = Comlink.Remote<CoreWorker>;
let watched: Remote | null = null;
let reader: Remote | null = null;
const restores: ((remote: Remote) => Promise<void>)[] = [];

/** The worker of this tab that has the meshes, started when it is first needed, and again where it was lost. */
export function coreWorker(): Remote {
  watched ??= supervise<Remote>(startWorker, async (remote) => {
    for (const restore of restores) await restore(remote);
  });
  return watched;
}

/** A second one for reading what comes from outside, so that picking never waits for a file. */
export function readingWorker(): Remote {
  reader ??= supervise<Remote>(startWorker, () => Promise.resolve());
  return reader;
}

/** What a new worker must be given where the one before was lost. */
export const onWorkerRestart = (restore: (typeof restores)[0]): number => restores.push(restore);

/** A worker of its own, so that long work can be stopped at any moment: ending it ends the work. `lost`: it ended by itself. */
export function startTask(): { worker: Remote; lost: Promise<never>; end: () => void } {
  const { remote, lost, end } = startWorker();
  const failed = lost.then(() => {
    throw new Error('Reading stopped unexpectedly: the file may be too large for this computer. Nothing was changed.');
  });
  failed.catch(() => undefined);
  return { worker: remote, lost: failed, end };
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
