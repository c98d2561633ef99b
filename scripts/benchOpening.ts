/**
 * How long opening the demo kit takes in the built application, and how long the page is held meanwhile: a fresh browser each
 * time, which draws in software. Part of `npm run bench`; by itself: `node --import tsx scripts/benchOpening.ts`.
 */
import { spawn } from 'node:child_process';
import { existsSync } from 'node:fs';
import { setTimeout as wait } from 'node:timers/promises';
import { pathToFileURL } from 'node:url';
import { chromium } from '@playwright/test';
import { browserPaths } from './prepare.mjs';

export interface Opening {
  /** Milliseconds from the press to the first frame that is seen. */
  ready: number;
  /** Milliseconds of each task of the page since the press that took more than 50. */
  blocks: number[];
}

const port = Number(process.env.PORT ?? 3222);
const address = process.env.ADDRESS ?? `http://localhost:${port}`;

/** `null` where there is no build or no browser. `looking`: milliseconds at home before the press. */
export async function benchOpening(rounds: number, looking = 2500): Promise<Opening[] | null> {
  const executablePath = browserPaths.find((path) => path !== undefined && existsSync(path));
  if (!executablePath || !existsSync('.next/BUILD_ID')) return null;
  const server = process.env.ADDRESS
    ? null
    : spawn('node', ['node_modules/next/dist/bin/next', 'start', '-p', String(port)], { stdio: 'ignore' });
  try {
    for (let n = 0; n < 100 && !(await fetch(address).catch(() => null))?.ok; n++) await wait(200);
    const found: Opening[] = [];
    for (let n = 0; n < rounds; n++) found.push(await open(executablePath, looking));
    return found;
  } finally {
    server?.kill();
  }
}

async function open(executablePath: string, looking: number): Promise<Opening> {
  // As an artist's browser does on a computer without a graphics card: it is not told that it is driven, which halves the pixels.
  const browser = await chromium.launch({
    executablePath,
    args: ['--no-sandbox', '--enable-unsafe-swiftshader', '--disable-blink-features=AutomationControlled'],
  });
  try {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    // What tsx puts around functions is not there in the page.
    await page.addInitScript('globalThis.__name = (f) => f');
    await page.goto(address);
    const demo = page.getByRole('button', { name: /Open the demo kit/ });
    await demo.waitFor();
    await wait(looking);
    const opening = page.evaluate(
      () =>
        new Promise<Opening>((resolve) => {
          const blocks: number[] = [];
          new PerformanceObserver((list) => list.getEntries().forEach((e) => blocks.push(Math.round(e.duration)))).observe({
            type: 'longtask',
          });
          addEventListener(
            'click',
            (press) => {
              const look = () => {
                if (document.querySelector('#viewport')?.getAttribute('aria-busy') !== 'false') return void requestAnimationFrame(look);
                const ready = Math.round(performance.now() - press.timeStamp);
                setTimeout(() => resolve({ ready, blocks }), 1500);
              };
              look();
            },
            { capture: true, once: true },
          );
        }),
    );
    await demo.click();
    return await opening;
  } finally {
    await browser.close();
  }
}

if (import.meta.url === pathToFileURL(process.argv[1] ?? '').href)
  for (const { ready, blocks } of (await benchOpening(8)) ?? [])
    console.log(`${ready} ms, blocks over 50 ms: ${blocks.join(', ') || 'none'}`);
