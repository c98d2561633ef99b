import * as Comlink from 'comlink';
import { importing } from './importing';
import { leaving } from './leaving';
import { picking } from './picking';
import { pictures } from './pictures';
import { portraits } from './portraits';

// A lock that is held until this worker ends: the page, told that it is held, learns of the end by getting it.
if (navigator.locks as LockManager | undefined)
  void navigator.locks.request(self.name, () => {
    self.postMessage('held');
    return new Promise(() => undefined);
  });

/** All that the page asks of the worker. */
const api = { ...importing, ...picking, ...portraits, ...pictures, ...leaving, ping: () => true };

export type CoreWorker = typeof api;
Comlink.expose(api);
