/**
 * One tab writes a kit; others read it until they take over. Built on Web Locks, with a channel to ask the
 * writer to let go. A page that came over plain http has no locks: there the tabs ask each other, and two
 * that ask in the same moment are told apart by the kit's owner number.
 */
export interface TabLock {
  release(): void;
}

const lockName = (kit: string) => `oligochrome kit ${kit}`;
const channelName = (kit: string) => `oligochrome tabs of ${kit}`;

/** Milliseconds after which a tab that does not answer loses the kit. */
const patience = 4000;

/** Milliseconds in which a tab that has the kit answers, where there are no locks. */
const answerTime = 250;

const hasLocks = () => (navigator.locks as LockManager | undefined) !== undefined;

/**
 * Takes the lock, or `null` where another tab has it. `onAsked` is called when another tab takes over: finish
 * writing, then the lock goes.
 */
export const lockKit = (kit: string, onAsked: () => Promise<void>): Promise<TabLock | null> =>
  hasLocks() ? request(kit, onAsked, { ifAvailable: true }) : hold(kit, onAsked, 'who has it', answerTime, 'me');

/**
 * Asks the tab that has the kit to finish and let go, then takes the lock; from a tab that does not answer it
 * is taken.
 */
export async function takeOver(kit: string, onAsked: () => Promise<void>): Promise<TabLock> {
  if (!hasLocks()) return (await hold(kit, onAsked, 'let go', patience))!;
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
        channel.onmessage = ({ data }) => data === 'let go' && void onAsked().finally(release);
        resolve({ release });
        await held;
        channel.close();
      })
      // A lock that was held and is lost all the same has been taken by another tab.
      .catch((error: unknown) => (isHeld ? void onAsked() : reject(error instanceof Error ? error : new Error(String(error)))));
  });
}

/**
 * Without locks: asks the other tabs, and has the kit when one says that it is gone or when none answers in
 * time; `null` where one says `no`.
 */
async function hold(kit: string, onAsked: () => Promise<void>, question: string, time: number, no?: string): Promise<TabLock | null> {
  const channel = new BroadcastChannel(channelName(kit));
  const answer = await new Promise<unknown>((resolve) => {
    channel.onmessage = ({ data }) => (data === no || data === 'gone') && resolve(data);
    channel.postMessage(question);
    setTimeout(resolve, time);
  });
  if (answer !== undefined && answer === no) {
    channel.close();
    return null;
  }
  const release = () => {
    channel.onmessage = null;
    channel.postMessage('gone');
    channel.close();
  };
  channel.onmessage = ({ data }) => {
    if (data === 'who has it') channel.postMessage('me');
    if (data === 'let go') void onAsked().finally(release);
  };
  return { release };
}
