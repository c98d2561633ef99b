/** One tab writes a kit; others read it until they take over. Built on Web Locks, with a channel to ask the writer to let go. */
export interface TabLock {
  release(): void;
}

const lockName = (kit: string) => `oligochrome kit ${kit}`;
const channelName = (kit: string) => `oligochrome tabs of ${kit}`;

/**
 * Resolves with the lock, or `null` where another tab has it. `onAsked` is called when another tab takes over: finish writing, then the
 * lock goes.
 */
export async function lockKit(kit: string, onAsked: () => Promise<void>, { wait = false } = {}): Promise<TabLock | null> {
  let release!: () => void;
  const held = new Promise<void>((resolve) => (release = resolve));
  return new Promise((resolve, reject) => {
    navigator.locks
      .request(lockName(kit), wait ? {} : { ifAvailable: true }, async (lock) => {
        if (!lock) {
          resolve(null);
          return;
        }
        const channel = new BroadcastChannel(channelName(kit));
        channel.onmessage = () => void onAsked().finally(release);
        resolve({ release });
        await held;
        channel.close();
      })
      .catch(reject);
  });
}

/** Asks the tab that has the kit to finish and let go, then takes the lock. */
export async function takeOver(kit: string, onAsked: () => Promise<void>): Promise<TabLock | null> {
  const waiting = lockKit(kit, onAsked, { wait: true });
  const channel = new BroadcastChannel(channelName(kit));
  channel.postMessage('let go');
  channel.close();
  return waiting;
}
