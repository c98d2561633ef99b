import * as Comlink from 'comlink';
import type { CoreWorker } from './core.worker';

let remote: Comlink.Remote<CoreWorker> | null = null;

/** The one worker of this tab, started when it is first needed. */
export function coreWorker(): Comlink.Remote<CoreWorker> {
  remote ??= Comlink.wrap<CoreWorker>(new Worker(new URL('./core.worker.ts', import.meta.url), { type: 'module' }));
  return remote;
}

/** A worker of its own, so that long work can be stopped at any moment: ending it ends the work. */
export function startTask(): { worker: Comlink.Remote<CoreWorker>; end: () => void } {
  const raw = new Worker(new URL('./core.worker.ts', import.meta.url), { type: 'module' });
  return { worker: Comlink.wrap<CoreWorker>(raw), end: () => raw.terminate() };
}

export const proxy = Comlink.proxy;
