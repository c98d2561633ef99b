/**
 * What a frame of a stage of 2,000 placements costs in the software renderer, in the built application: all models of a
 * coloring drawn at once beside one draw for each. Part of `npm run bench`; by itself: `node --import tsx scripts/benchStage.ts`.
 */
import { spawn } from 'node:child_process';
import { existsSync } from 'node:fs';
import { setTimeout as wait } from 'node:timers/promises';
import { pathToFileURL } from 'node:url';
import { chromium, type Page } from '@playwright/test';
import { scatterBuoys } from '../e2e/kit';
import { browserPaths } from './prepare.mjs';

export interface StageFrames {
  /** Frames a second while the camera is turned. */
  moving: number;
  /** Milliseconds of one frame at rest. */
  resting: number;
}

const port = Number(process.env.PORT ?? 3221);
const address = process.env.ADDRESS ?? `http://localhost:${port}`;
/** Milliseconds for which the camera is turned. */
const turning = 8000;

/** `null` where there is no build or no browser. */
export async function benchStage(): Promise<Record<'empty' | 'instanced' | 'each', StageFrames> | null> {
  const executablePath = browserPaths.find((path) => path !== undefined && existsSync(path));
  if (!executablePath || !existsSync('.next/BUILD_ID')) return null;
  const server = process.env.ADDRESS
    ? null
    : spawn('node', ['node_modules/next/dist/bin/next', 'start', '-p', String(port)], { stdio: 'ignore' });
  const browser = await chromium.launch({
    executablePath,
    args: ['--no-sandbox', '--use-gl=angle', '--use-angle=swiftshader', '--enable-unsafe-swiftshader', '--ignore-gpu-blocklist'],
  });
  try {
    for (let n = 0; n < 100 && !(await fetch(address).catch(() => null))?.ok; n++) await wait(200);
    const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
    // What tsx puts around functions is not there in the page.
    await context.addInitScript('globalThis.__name = (f) => f');
    await context.addInitScript(countFrames);
    const page = await context.newPage();
    await page.goto(address);
    await page.getByRole('button', { name: /Open the demo kit/ }).click();
    await page.getByRole('link', { name: 'Stage' }).click();
    const stage = page.getByRole('application', { name: /The stage/ });
    await stage.and(page.locator('[aria-busy=false]')).waitFor();
    await stage.focus();
    await page.keyboard.press('Control+a');
    await page.keyboard.press('Delete');
    const empty = await measure(page);
    await scatterBuoys(page);
    await page.keyboard.press('Escape');
    // What is chosen would follow the pointer.
    await stage.press('Escape');
    const instanced = await measure(page);
    await page.getByRole('checkbox', { name: 'Drawn in one go' }).uncheck();
    return { empty, instanced, each: await measure(page) };
  } finally {
    await browser.close();
    server?.kill();
  }
}

async function measure(page: Page): Promise<StageFrames> {
  const box = (await page.getByRole('application', { name: /The stage/ }).boundingBox())!;
  await page.getByRole('button', { name: 'Frame' }).click();
  await wait(1500);
  const resting = await page.evaluate(() =>
    window.frames3d.once(() => [...document.querySelectorAll('button')].find((b) => b.textContent === 'Frame')!.click()),
  );
  await page.mouse.move(box.x + 300, box.y + 300);
  await page.mouse.down();
  const start = Date.now();
  const before = await page.evaluate(() => window.frames3d.count);
  for (let n = 0; Date.now() - start < turning; n++) await page.mouse.move(box.x + 300 + 60 * Math.sin(n / 20), box.y + 300);
  const frames = (await page.evaluate(() => window.frames3d.count)) - before;
  await page.mouse.up();
  await wait(4000);
  return { moving: (frames * 1000) / turning, resting };
}

declare global {
  interface Window {
    frames3d: { count: number; once: (act: () => void) => Promise<number> };
  }
}

/** In the page: counts animation frames in which something is drawn, and times one until it is there. */
function countFrames(): void {
  // What is driven is drawn at half its size; this measures what an artist has.
  Object.defineProperty(navigator, 'webdriver', { get: () => false });
  const drawn: { by: WebGL2RenderingContext | null } = { by: null };
  let waiting: ((ms: number) => void) | null = null;
  const own = WebGL2RenderingContext.prototype;
  for (const name of ['drawElements', 'drawArrays', 'drawElementsInstanced'] as const) {
    const draw = own[name] as (...args: unknown[]) => void;
    own[name] = function (this: WebGL2RenderingContext, ...args: unknown[]) {
      drawn.by = this;
      draw.apply(this, args);
    } as never;
  }
  const request = window.requestAnimationFrame.bind(window);
  window.frames3d = {
    count: 0,
    once: (act) =>
      new Promise((resolve) => {
        waiting = resolve;
        act();
      }),
  };
  window.requestAnimationFrame = (callback) =>
    request((time) => {
      drawn.by = null;
      const start = performance.now();
      callback(time);
      const context = drawn.by as WebGL2RenderingContext | null;
      if (!context) return;
      window.frames3d.count++;
      if (!waiting) return;
      // Only what is read back is surely drawn.
      context.readPixels(0, 0, 1, 1, context.RGBA, context.UNSIGNED_BYTE, new Uint8Array(4));
      waiting(performance.now() - start);
      waiting = null;
    });
}

if (import.meta.url === pathToFileURL(process.argv[1] ?? '').href) console.log(await benchStage());
