/**
 * Kills the browser at random moments while a kit is being colored, and looks at what is there afterwards:
 * `npm run crash -- 100 --load 6`. An edit that was shown as "Saved" must be there; no kit may fail to open.
 * After every second crash the database's log ends in half an entry, as it seldom does by itself; with `--untorn`
 * it does not. With `--paint` each edit is a stroke on painted art instead. Prints how long edits took to be durable. Needs a build.
 */
import { spawn, type ChildProcess } from 'node:child_process';
import { appendFileSync, existsSync, mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as wait } from 'node:timers/promises';
import { chromium, type Page } from '@playwright/test';
import { boxesObj, file } from '../e2e/kit';
import { browserPaths } from './prepare.mjs';

const rounds = Number(process.argv[2] ?? 20);
const load = process.argv.includes('--load') ? Number(process.argv[process.argv.indexOf('--load') + 1]) : 0;
const isPainting = process.argv.includes('--paint');
const isUntorn = process.argv.includes('--untorn');
const port = Number(process.env.PORT ?? 3219);
const address = `http://localhost:${port}`;
const profile = mkdtempSync(join(tmpdir(), 'crash-'));
/**
 * What one round did: the edits that were there and the color of all faces, the colors given one after
 * another, and how many of them were shown as saved.
 */
interface Round {
  start: number;
  color: string;
  colors: string[];
  saved: number;
}
const colors = ['moss', 'slate', 'straw', 'rust'];

const server = spawn('node', ['node_modules/next/dist/bin/next', 'start', '-p', String(port)], { stdio: 'ignore' });
const burners = Array.from({ length: load }, () => spawn('node', ['-e', 'for(;;);'], { stdio: 'ignore' }));
const latencies: number[] = [];
let acts = 0;
let wrong = 0;
let cleared = 0;
try {
  await until(async () => (await fetch(address)).ok);
  let kit = '';
  let last: Round | null = null;
  for (let round = 0; round <= rounds; round++) {
    const browser = await start();
    const page = await browser.open(kit || address);
    if (!kit) {
      kit = await makeKit(page);
      await page.getByRole('status', { name: 'Saving' }).getByText('Saved').waitFor();
      // As an artist's browser is: it was closed properly once, so that what it notes late is noted.
      await browser.close();
      round--;
      continue;
    }
    if (await isCleared(page)) {
      cleared++;
      console.log(`round ${round}: the browser has deleted the whole database`);
      await page.goto(address);
      kit = await makeKit(page);
      last = null;
    }
    const found = { color: await colorOf(page), acts: await page.evaluate(cursorOf) };
    if (last && (found.acts < last.start + last.saved || found.color !== (last.colors[found.acts - last.start - 1] ?? last.color))) {
      wrong++;
      console.log(`round ${round}: ${found.acts - last.start} acts and ${found.color} are there, of ${JSON.stringify(last)}`);
    }
    if (round < rounds) {
      // Each differs from the one before, or it would be no act.
      const at = colors.indexOf(found.color);
      const made = Array.from({ length: 100 }, (_, i) => colors[(at + 2 * i + 2 + Math.floor(Math.random() * 2)) % colors.length]!);
      const doing: Round = { start: found.acts, color: found.color, colors: made, saved: 0 };
      page.on('console', (m) => {
        if (!m.text().startsWith('{"saved"')) return;
        const told = JSON.parse(m.text()) as { saved: number; latencies: number[] };
        doing.saved = told.saved;
        latencies.push(...told.latencies);
      });
      // The compiler's helper for names is not there in the page.
      await page.evaluate(`{ const __name = (f) => f; (${colorInTurn.toString()})(${JSON.stringify(made)}, ${isPainting}); }`);
      await wait(150 + Math.random() * 850);
      last = doing;
    }
    await browser.kill();
    if (round % 2 && !isUntorn) tearLog();
    acts += last?.saved ?? 0;
    if (round && round % 20 === 0) console.log(`${round} crashes, ${acts} saved acts, ${wrong} rounds lost any`);
  }
} finally {
  for (const child of [server, ...burners]) child.kill('SIGKILL');
  rmSync(profile, { recursive: true, force: true, maxRetries: 5 });
}
latencies.sort((a, b) => a - b);
const at = (share: number) => `${(latencies[Math.floor(share * (latencies.length - 1))] ?? NaN).toFixed(0)} ms`;
console.log(
  `${rounds} crashes, ${acts} saved acts, load ${load}; from edit to durable: median ${at(0.5)}, 99 % ${at(0.99)}, most ${at(1)}`,
);
console.log(wrong ? `${wrong} rounds lost what was saved` : 'nothing that was saved is lost');
if (cleared) console.log(`${cleared} times the whole database was deleted`);
// A new log takes a moment, in which a crash can still do it; without one it is every second crash.
process.exitCode = wrong || cleared > rounds / 20 ? 1 : 0;

/**
 * In the page: gives all faces (or a texel) one color after another at random moments, and tells how many acts are called
 * saved, and how long each took to be durable.
 */
function colorInTurn(names: string[], isPainting: boolean): void {
  const status = document.querySelector('[role=status][aria-label=Saving]')!;
  const times: number[] = [];
  let saved = 0;
  let durable = 0;
  const act = () => {
    if (!isPainting) window.dispatchEvent(new KeyboardEvent('keydown', { key: 'a', code: 'KeyA', ctrlKey: true, bubbles: true }));
    times.push(performance.now());
    document.querySelector<HTMLElement>(`button[aria-label^="${names[times.length - 1]},"]`)!.click();
    const board = isPainting && document.querySelector('[role=application][aria-label^="The art"]');
    if (board) board.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', bubbles: true }));
    if (times.length < names.length) setTimeout(act, Math.random() * (Math.random() < 0.3 ? 8 : 160));
  };
  // Each write begins by looking at who owns the kit: what was done until then is in it.
  const get = IDBObjectStore.prototype.get;
  IDBObjectStore.prototype.get = function (this: IDBObjectStore, key: IDBValidKey) {
    const written = times.length;
    const complete = () => {
      const took = times.slice(durable, written).map((t) => performance.now() - t);
      durable = Math.max(durable, written);
      console.log(JSON.stringify({ saved, latencies: took }));
    };
    if (this.name === 'kits' && this.transaction.mode === 'readwrite') this.transaction.addEventListener('complete', complete);
    return get.call(this, key);
  };
  new MutationObserver(() => {
    if (status.textContent !== 'Saved') return;
    saved = times.length;
    console.log(JSON.stringify({ saved, latencies: [] }));
  }).observe(status, { childList: true, characterData: true, subtree: true });
  act();
}

/** In the page: how many edits are in force, as the storage has it. */
function cursorOf(): Promise<number> {
  return new Promise((resolve) => {
    const open = indexedDB.open('oligochrome');
    open.onsuccess = () => {
      const all = open.result.transaction('kits').objectStore('kits').getAll();
      all.onsuccess = () => {
        open.result.close();
        resolve((all.result as { cursor: number }[])[0]!.cursor);
      };
    };
  });
}

async function makeKit(page: Page): Promise<string> {
  await page.getByRole('button', { name: 'Begin an empty kit' }).click();
  await page.getByLabel('Bring in model files').setInputFiles([file('boxes.obj', boxesObj(2))]);
  await page.getByRole('button', { name: 'Color it' }).click();
  await page.waitForURL(/color$/);
  if (!isPainting) return page.url();
  await page
    .getByRole('button', { name: /^chalk, / })
    .first()
    .waitFor();
  await page.keyboard.press('Control+a');
  await page.getByRole('button', { name: /^chalk, / }).click();
  await page.getByRole('link', { name: 'Paint', exact: true }).click();
  await page.getByRole('button', { name: 'Make it paintable' }).click();
  await page.getByRole('application', { name: /^The art/ }).waitFor();
  return page.url();
}

/** Whether no kit is there at all any more, and none of the bytes that kits name. */
async function isCleared(page: Page): Promise<boolean> {
  const missing = page.getByText('There is no such kit in this browser');
  await missing.or(page.getByRole('status', { name: 'Saving' }).getByText('Saved')).waitFor({ timeout: 120_000 });
  return (await missing.isVisible()) && (await page.evaluate(countRows)) === 0;
}

/** In the page: how many kits and blobs the storage holds. */
function countRows(): Promise<number> {
  return new Promise((resolve) => {
    const open = indexedDB.open('oligochrome');
    open.onsuccess = () => {
      const transaction = open.result.transaction(['kits', 'blobs']);
      const counts = ['kits', 'blobs'].map((name) => transaction.objectStore(name).count());
      transaction.oncomplete = () => {
        open.result.close();
        resolve(counts.reduce((sum, c) => sum + c.result, 0));
      };
    };
  });
}

/** The color that all faces have, or "none"; while one paints, that of the texel in the middle. */
async function colorOf(page: Page): Promise<string> {
  const isOpen = page.getByRole('status', { name: 'Saving' }).getByText('Saved');
  await isOpen.waitFor({ timeout: 120_000 }).catch(async () => {
    throw new Error(`The kit does not open: ${(await page.locator('body').innerText()).slice(0, 400)}`);
  });
  await page
    .getByRole('button', { name: /^moss, / })
    .first()
    .waitFor();
  if (isPainting) {
    const board = page.getByRole('application', { name: /^The art/ });
    await board.waitFor();
    await board.focus();
    await page.keyboard.press('ArrowLeft');
    await page.keyboard.press('ArrowRight');
    const told = await page.getByText(/^row \d+, place \d+: /).first().textContent(); // prettier-ignore
    return told!.replace(/^.*?: /, '').split(',')[0]!;
  }
  const [label] = await page
    .getByRole('button', { name: /, 12 faces on 1 model/ })
    .or(page.getByText('12 uncolored'))
    .first()
    .evaluateAll((found) => found.map((e) => e.getAttribute('aria-label')));
  return label?.split(',')[0] ?? 'none';
}

/** A browser with the profile, and how to kill it. */
async function start() {
  const executable = browserPaths.find((path) => path !== undefined && existsSync(path))!;
  const portFile = join(profile, 'DevToolsActivePort');
  rmSync(portFile, { force: true });
  // Without a viewport: what is drawn in software would take the time of many more crashes, and the lists
  // color just as well.
  const flags = ['--headless=new', '--no-sandbox', '--disable-3d-apis'];
  const child: ChildProcess = spawn(
    executable,
    [...flags, '--disable-background-networking', '--remote-debugging-port=0', `--user-data-dir=${profile}`, 'about:blank'],
    { stdio: 'ignore', detached: true },
  );
  await until(() => Promise.resolve(existsSync(portFile) && readFileSync(portFile, 'utf8').includes('\n')));
  const browser = await chromium.connectOverCDP(`http://localhost:${readFileSync(portFile, 'utf8').split('\n')[0]}`);
  return {
    async open(url: string): Promise<Page> {
      const page = browser.contexts()[0]!.pages()[0]!;
      await page.goto(url);
      return page;
    },
    close: async () => {
      const session = await browser.newBrowserCDPSession();
      await session.send('Browser.close').catch(() => undefined);
      await until(() => Promise.resolve(child.exitCode !== null));
    },
    kill: async () => {
      process.kill(-child.pid!, 'SIGKILL');
      void browser.close().catch(() => undefined);
      await until(() => Promise.resolve(child.signalCode !== null));
      await wait(200);
    },
  };
}

/** Half an entry at the end of the database's log, as a write that is cut off leaves it: 5,000 bytes announced, 1,000 there. */
function tearLog(): void {
  const folder = join(profile, 'Default', 'IndexedDB', `http_localhost_${port}.indexeddb.leveldb`);
  const logs = readdirSync(folder).filter((name) => name.endsWith('.log'));
  const half = Buffer.alloc(7 + 1000);
  half.writeUInt16LE(5000, 4);
  half.writeUInt8(1, 6);
  appendFileSync(join(folder, logs.sort().at(-1)!), half);
}

async function until(isTrue: () => Promise<boolean>): Promise<void> {
  for (let tries = 0; tries < 300; tries++) {
    if (await isTrue().catch(() => false)) return;
    await wait(100);
  }
  throw new Error('The browser or the server did not start.');
}
