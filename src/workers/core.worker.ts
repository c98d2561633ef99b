import * as Comlink from 'comlink';
import { importing } from './importing';
import { leaving } from './leaving';
import { picking } from './picking';
import { pictures } from './pictures';
import { portraits } from './portraits';

// Held until this worker ends: the page learns of that by getting it.
const held = new Promise<void>((resolve) => {
  if (!(navigator.locks as LockManager | undefined)) return resolve();
  void navigator.locks.request(self.name, () => {
    resolve();
    return new Promise(() => undefined);
  });
});

/** All that the page asks of the worker. */
const api = { ...importing, ...picking, ...portraits, ...pictures, ...leaving, ping: () => held };

export type CoreWorker = typeof api;
Comlink.expose(api);
