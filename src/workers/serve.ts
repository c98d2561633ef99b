import * as Comlink from 'comlink';

/** Answers the page, in a worker. */
export function serve(api: object): void {
  // A lock that is held until this worker ends: the page, told that it is held, learns of the end by getting it.
  if (navigator.locks as LockManager | undefined)
    void navigator.locks.request(self.name, () => {
      self.postMessage('held');
      return new Promise(() => undefined);
    });
  Comlink.expose(api);
}
