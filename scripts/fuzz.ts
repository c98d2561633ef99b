/**
 * Reads thousands of damaged files of every kind, in a process of its own that is watched: `npm run fuzz --
 * 10000`. None may crash or hang, take more than 1.5 GB, or be refused in words that a runtime made. A
 * failure is printed with its seed; `npm run fuzz -- 1 SEED` runs that one again.
 */
import { fork } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { faultOf } from '../tests/fuzzing';

const patience = 5_000;
const mostMemory = 1.5e9;
const [runs, from] = [Number(process.argv[2] ?? 10_000), Number(process.argv[3] ?? 1)];

interface Told {
  seed: number;
  fault: string | null;
  memory: number;
}
if (process.send) {
  // What a picture that cannot be shown says on the console is not looked at.
  console.warn = () => undefined;
  for (let seed = from; seed < from + runs; seed++) {
    const fault = await faultOf(seed);
    process.send({ seed, fault, memory: process.memoryUsage().rss } satisfies Told);
    await new Promise(setImmediate);
  }
  process.disconnect();
} else {
  let seed = from;
  let memory = 0;
  const faults: string[] = [];
  const started = performance.now();
  while (seed < from + runs) seed = await watch(seed);
  for (const fault of faults) console.log(fault);
  if (memory > mostMemory) faults.push('memory');
  const took = ((performance.now() - started) / 1000).toFixed(0);
  console.log(`${runs} damaged files in ${took} s, at most ${(memory / 1e6).toFixed(0)} MB: ${faults.length} faults`);
  process.exitCode = faults.length ? 1 : 0;

  /** Runs from a seed on until the end, or until one crashes or hangs; returns the seed after it. */
  async function watch(first: number): Promise<number> {
    let now = first;
    const child = fork(fileURLToPath(import.meta.url), [String(from + runs - first), String(first)], { execArgv: ['--import', 'tsx'] });
    return new Promise((resolve) => {
      let isLate = false;
      const late = () => {
        isLate = true;
        child.kill('SIGKILL');
      };
      // The first answer waits for the process to start.
      let timer = setTimeout(late, 6 * patience);
      child.on('message', (told: Told) => {
        clearTimeout(timer);
        timer = setTimeout(late, patience);
        now = told.seed + 1;
        memory = Math.max(memory, told.memory);
        if (told.fault) faults.push(told.fault);
      });
      child.on('exit', (code) => {
        clearTimeout(timer);
        if (code === 0) return resolve(now);
        faults.push(`${now}: ${isLate ? 'hung' : `crashed (${code})`}`);
        resolve(now + 1);
      });
    });
  }
}
