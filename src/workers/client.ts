import * as Comlink from 'comlink';
import type { LongWorker } from './api';
import type { PickingWorker } from './pickingApi';
import { supervise, type Started, type Supervised } from './supervise';

type Picking = Comlink.Remote<PickingWorker>;
type Long = Comlink.Remote<LongWorker>;
let picking: Supervised<Picking> | null = null;
let working: Supervised<Long> | null = null;
/** A worker that has done its task and may become the second one. */
let spare: Started<Long> | null = null;
const restores: ((remote: Picking) => Promise<void>)[] = [];

/**
 * The worker of this tab that has the meshes and picks on them, started when it is first needed, and again
 * where it was lost. What is asked of it takes less than a second or comes in steps.
 */
export function pickingWorker(): Picking {
  picking ??= supervise<Picking>(startPicking, async (remote) => {
    for (const restore of restores) await restore(remote);
  });
  return picking.remote;
}

/**
 * A second one for what may take longer, so that picking never waits: reading, preparing, repairing, leaving.
 * It reads meshes from the storage.
 */
export function longWorker(): Long {
  working ??= supervise<Long>(
    () => takeSpare() ?? startLong(),
    () => Promise.resolve(),
  );
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

/** `mayTakeSpare`: in a worker that was warmed before. */
export function startTask<T>(ask: (worker: Long) => Promise<T>, { mayTakeSpare = false } = {}): LongTask<T> {
  const started = (mayTakeSpare && takeSpare()) || startLong();
  const { remote, lost, end } = started;
  let cancel!: () => void;
  const cancelled = new Promise<null>((resolve) => (cancel = () => resolve(null)));
  const failed = lost.then(() => {
    throw new Error('The work stopped unexpectedly: the file may be too large for this computer. Nothing was changed.');
  });
  let isIdle = false;
  const answer = ask(remote).then((value) => {
    isIdle = true;
    return value;
  });
  const done = Promise.race([answer, cancelled, failed]).finally(() => {
    if (!isIdle || working || spare) return end();
    spare = started;
    void lost.then(() => spare === started && (spare = null));
  });
  return { done, cancel };
}

/** Starts both workers, so that what is asked of them first need not wait for it. */
export function warmWorkers(): void {
  void pickingWorker().ping();
  if (spare || working) return;
  const started = startLong();
  spare = started;
  void started.lost.then(() => spare === started && (spare = null));
}

function takeSpare(): Started<Long> | null {
  const taken = spare;
  spare = null;
  return taken;
}

const nextName = () => `oligochrome worker ${Math.random()}`;
// The bundler finds a worker's script only where its address is written out.
const startPicking = (name = nextName()): Started<Picking> =>
  started(name, new Worker(new URL('./picking.worker.ts', import.meta.url), { type: 'module', name }));
const startLong = (name = nextName()): Started<Long> =>
  started(name, new Worker(new URL('./long.worker.ts', import.meta.url), { type: 'module', name }));

function started<Api>(name: string, raw: Worker): Started<Comlink.Remote<Api>> {
  const remote = Comlink.wrap<Api>(raw);
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
