import { spawn, type ChildProcess } from 'node:child_process';
import { existsSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { served } from '@/core/ground/limits';
import type { Told } from './handOff';

/** Why the work was ended from outside. */
export type Ended = 'late' | 'memory' | 'crashed' | 'missing';

export interface WorkApart {
  told: Told | { ended: Ended };
  /** The zip, as it is asked for. */
  zip: ReadableStream<Uint8Array>;
}

const script = () => join(process.cwd(), 'dist/hand-off.mjs');

/**
 * Does a hand-off in a process of its own, which is ended at its deadline, where it takes too much memory, where who asked
 * goes away, and where the zip is taken too slowly: nothing in an archive can hold or end the server. `onEnd`: called
 * once, when it is over.
 */
export async function workApart(
  bytes: Uint8Array,
  plan: string,
  signal: AbortSignal,
  onEnd: () => void,
  { work, memory }: { work: number; memory: number } = served,
): Promise<WorkApart> {
  if (!existsSync(script())) {
    onEnd();
    return { told: { ended: 'missing' }, zip: new ReadableStream() };
  }
  const child = spawn(process.execPath, [`--max-old-space-size=${Math.floor(memory / 2 ** 20)}`, script(), plan], {
    stdio: ['pipe', 'pipe', 'inherit', 'ipc'],
  });
  let why: Ended = 'crashed';
  const end = (because: Ended) => {
    why = because;
    child.kill('SIGKILL');
  };
  let deadline = setTimeout(() => end('late'), work);
  const watch = setInterval(() => void memoryOf(child).then((used) => used > memory && end('memory')), 100);
  const stop = () => end('crashed');
  signal.addEventListener('abort', stop);
  const over = new Promise<void>((resolve) => {
    child.on('error', () => resolve());
    child.on('close', () => resolve());
  }).then(() => {
    clearTimeout(deadline);
    clearInterval(watch);
    signal.removeEventListener('abort', stop);
    onEnd();
  });
  // One that ends before it has read everything says so by its end.
  child.stdin!.on('error', () => undefined);
  child.stdin!.end(bytes);
  const told = await Promise.race([
    new Promise<Told>((resolve) => child.once('message', (message) => resolve(message as Told))),
    over.then(() => ({ ended: why })),
  ]);
  clearTimeout(deadline);
  // Whoever takes the answer too slowly is cut off.
  deadline = setTimeout(() => end('late'), work);
  return { told, zip: streamOf(child, over) };
}

function streamOf(child: ChildProcess, over: Promise<void>): ReadableStream<Uint8Array> {
  const parts = child.stdout![Symbol.asyncIterator]() as AsyncIterator<Uint8Array>;
  return new ReadableStream<Uint8Array>({
    async pull(controller) {
      const { done, value } = await parts.next();
      if (!done) return controller.enqueue(value);
      await over;
      if (child.exitCode === 0) controller.close();
      else controller.error(new Error('The work was ended before it was done.'));
    },
    cancel() {
      child.kill('SIGKILL');
    },
  });
}

/** Bytes of memory that a process holds, where the system tells; elsewhere its heap alone is bounded. */
async function memoryOf({ pid }: ChildProcess): Promise<number> {
  const pages = await readFile(`/proc/${pid}/statm`, 'utf8').catch(() => '');
  return Number(pages.split(' ')[1] ?? 0) * 4096;
}
