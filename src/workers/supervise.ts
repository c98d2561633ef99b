/** A worker that was started: how to ask it, when it is lost and why, and how to end it. */
export interface Started<Api> {
  remote: Api;
  /** Settles when the worker has failed or ended, however it was; never where all is well. */
  lost: Promise<unknown>;
  end: () => void;
}

interface Call {
  method: string;
  args: unknown[];
  tries: number;
  resolve: (value: unknown) => void;
  reject: (reason: Error) => void;
}

type Method = (...args: unknown[]) => Promise<unknown>;

export const superviseDefaults = {
  /** Milliseconds between two questions whether it is alive, asked while an answer is awaited. */
  pingEvery: 5_000,
  /** Milliseconds without any answer after which it is given up: longer than any step of honest work. */
  patience: 60_000,
};

export interface Supervised<Api> {
  /** Asked as the worker itself would be. */
  remote: Api;
  /** Ends the worker; all that is awaited of it is refused with these words. */
  stop: (why: string) => void;
}

/**
 * A worker that is watched. Where it fails, ends or falls silent, another is started and `restore`d to what
 * the first one held, and what was asked meanwhile is asked once more; what loses a second worker fails with
 * a word.
 */
export function supervise<Api extends { ping: () => Promise<unknown> }>(
  start: () => Started<Api>,
  restore: (remote: Api) => Promise<void>,
  { pingEvery, patience }: typeof superviseDefaults = superviseDefaults,
): Supervised<Api> {
  let running: (Started<Api> & { ready: Promise<void> }) | null = null;
  let isRestart = false;
  const calls = new Set<Call>();
  let timer: ReturnType<typeof setTimeout> | undefined;
  let answered = 0;

  function begin() {
    const started = start();
    const ready = isRestart ? restore(started.remote).catch((error: unknown) => console.error(error)) : Promise.resolve();
    const worker = { ...started, ready };
    void started.lost.then((why) => lose(worker, why));
    running = worker;
    return worker;
  }

  function lose(worker: NonNullable<typeof running>, why: unknown): void {
    if (worker !== running) return;
    console.error('The worker was lost and is started again:', why);
    worker.end();
    running = null;
    isRestart = true;
    for (const call of [...calls]) {
      if (call.tries < 2) void send(call);
      else if (calls.delete(call)) call.reject(new Error(gone));
    }
  }

  async function send(call: Call): Promise<void> {
    const worker = running ?? begin();
    call.tries++;
    watch();
    await worker.ready;
    // A worker that was lost meanwhile is not asked: the next one was.
    if (worker !== running) return;
    try {
      const value = await (Reflect.get(worker.remote, call.method) as Method)(...call.args);
      if (worker === running && calls.delete(call)) call.resolve(value);
    } catch (error) {
      if (worker === running && calls.delete(call)) call.reject(error as Error);
    }
    answered = Date.now();
  }

  /** Asks now and then whether it is alive, as long as something is awaited from it. */
  function watch(): void {
    if (timer !== undefined) return;
    answered = Date.now();
    const look = () => {
      const worker = running;
      timer = undefined;
      if (!calls.size || !worker) return;
      if (Date.now() - answered > patience) return lose(worker, 'no answer');
      void worker.remote.ping().then(() => (answered = Date.now()));
      timer = setTimeout(look, pingEvery);
    };
    timer = setTimeout(look, pingEvery);
  }

  const stop = (why: string) => {
    running?.end();
    running = null;
    for (const call of calls) call.reject(new Error(why));
    calls.clear();
  };

  const remote = new Proxy({} as Api & object, {
    get: (_, method) =>
      method === 'then'
        ? undefined
        : (...args: unknown[]) =>
            new Promise((resolve, reject) => {
              const call: Call = { method: String(method), args, tries: 0, resolve, reject };
              calls.add(call);
              void send(call);
            }),
  });
  return { remote, stop };
}

const gone =
  'The part of this page that computes stopped twice, so this was not done. Reload the page; if it stops again, the model may be too large for this computer.';
