/**
 * Chromium writes its database into a log, and after a crash goes on behind the last, half-written entry; at the
 * next opening it takes the whole for damaged and deletes every database of the address. It begins a new log
 * after a megabyte, and leaves the half entry behind. So that much is written before anything else, and
 * deleted at once: by the first tab alone, in a database of its own.
 */
export async function beginFreshLog(): Promise<void> {
  if (typeof window === 'undefined' || !keepsLog()) return;
  const locks = navigator.locks as LockManager | undefined;
  if (!locks) return fillLog();
  await new Promise<void>((resolve, reject) => {
    const asked = locks.request(name, { ifAvailable: true }, (isFirst) => {
      if (!isFirst) return resolve();
      fillLog().then(resolve, reject);
      // It is held until the tab is gone: while one is open the browser has not been started anew.
      return new Promise(() => undefined);
    });
    asked.catch(reject);
  });
}

const name = 'oligochrome log';
/**
 * A log holds 1 MB: so many rows, each as large as stays inside of the database, in one write. What matters is
 * that it is soon over. Zeros are packed to nothing afterwards.
 */
const rows = { count: 21, bytes: 60_000 };

/** Only Chromium tells what became of a database. */
const keepsLog = (): boolean => typeof IDBVersionChangeEvent !== 'undefined' && 'dataLoss' in IDBVersionChangeEvent.prototype;

function fillLog(): Promise<void> {
  return new Promise((resolve, reject) => {
    const fail = (request: { error: DOMException | null }) => () => reject(request.error ?? new Error('The log could not be written.'));
    const open = indexedDB.open(name, 1);
    open.onupgradeneeded = () => open.result.createObjectStore(name);
    open.onerror = fail(open);
    open.onsuccess = () => {
      const transaction = open.result.transaction(name, 'readwrite', { durability: 'relaxed' });
      const zeros = new Uint8Array(rows.bytes);
      for (let i = 0; i < rows.count; i++) transaction.objectStore(name).put(zeros, i);
      transaction.onabort = fail(transaction);
      transaction.oncomplete = () => {
        open.result.close();
        const gone = indexedDB.deleteDatabase(name);
        gone.onerror = fail(gone);
        gone.onsuccess = () => resolve();
      };
    };
  });
}
