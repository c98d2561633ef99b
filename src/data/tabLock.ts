/** One tab writes a kit; others read it until they take over. Built on Web Locks, with a channel to ask the writer to let go. */
export interface TabLock {
  release(): void;
}

const lockName = (kit: string) => `oligochrome kit ${kit}`;
const channelName = (kit: string) => `oligochrome tabs of ${kit}`;

/** Milliseconds after which a tab that does not answer loses the kit. */
const patience = 4000;

/** Takes the lock, or `null` where another tab has it. `onAsked` is called when another tab takes over: finish writing, then the lock goes. */
export const lockKit = (kit: string, onAsked: () => Promise<void>): Promise<TabLock | null> => request(kit, onAsked, { ifAvailable: true });

/** Asks the tab that has the kit to finish and let go, then takes the lock; from a tab that does not answer it is taken. */
export async function takeOver(kit: string, onAsked: () => Promise<void>): Promise<TabLock> {
  const channel = new BroadcastChannel(channelName(kit));
  channel.postMessage('let go');
  channel.close();
  const giveUp = new AbortController();
  const timer = setTimeout(() => giveUp.abort(), patience);
  try {
    return (await request(kit, onAsked, { signal: giveUp.signal }))!;
  } catch {
    return (await request(kit, onAsked, { steal: true }))!;
  } finally {
    clearTimeout(timer);
  }
}

function request(kit: string, onAsked: () => Promise<void>, options: LockOptions): Promise<TabLock | null> {
  return new Promise((resolve, reject) => {
    let isHeld = false;
    navigator.locks
      .request(lockName(kit), options, async (lock) => {
        if (!lock) {
          resolve(null);
          return;
        }
        isHeld = true;
        let release!: () => void;
        const held = new Promise<void>((done) => (release = done));
        const channel = new BroadcastChannel(channelName(kit));
        channel.onmessage = () => void onAsked().finally(release);
        resolve({ release });
        await held;
        channel.close();
      })
      // A lock that was held and is lost all the same has been taken by another tab.
      .catch((error: unknown) => (isHeld ? void onAsked() : reject(error instanceof Error ? error : new Error(String(error)))));
  });
}
