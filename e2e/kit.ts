import { encodePng } from '@/core/ground/pictures/png';
import { readFileSync } from 'node:fs';
import { test as base, expect, type BrowserContext, type Download, type Page } from '@playwright/test';
import { decode } from 'fast-png';

let kept: { context: BrowserContext; origin: string } | undefined;
const stored = 'cookies,file_systems,indexeddb,local_storage,cache_storage,service_workers';

/**
 * Every journey fails on a request to another origin, and on an error in the page. The browser keeps the scripts that it has
 * loaded from one journey to the next, as an artist's does, which makes them a third shorter; what journeys store is cleared.
 */
export const test = base.extend<{ watched: void }>({
  context: async ({ browser, baseURL, viewport, contextOptions }, use, { retry }) => {
    const origin = new URL(baseURL!).origin;
    if (kept && (kept.origin !== origin || retry)) {
      await kept.context.close();
      kept = undefined;
    }
    kept ??= { context: await browser.newContext({ baseURL: baseURL!, viewport, ...contextOptions }), origin };
    const { context } = kept;
    await use(context);
    const blank = await context.newPage();
    for (const page of context.pages()) if (page !== blank) await page.close();
    await (await context.newCDPSession(blank)).send('Storage.clearDataForOrigin', { origin, storageTypes: stored });
    await blank.close();
  },
  watched: [
    async ({ context, baseURL }, use) => {
      const strays: string[] = [];
      const errors: string[] = [];
      context.on('request', (r) => {
        const url = new URL(r.url());
        if (!['data:', 'blob:'].includes(url.protocol) && url.origin !== new URL(baseURL!).origin) strays.push(r.url());
      });
      context.on('console', (m) => /Content.Security.Policy/i.test(m.text()) && errors.push(m.text()));
      context.on('weberror', (e) => errors.push(String(e.error())));
      await use();
      for (const event of ['request', 'console', 'weberror']) context.removeAllListeners(event);
      expect(strays, 'requests to another origin').toEqual([]);
      expect(errors, 'errors in the page').toEqual([]);
    },
    { auto: true },
  ],
});
export { expect };

export async function openDemo(page: Page): Promise<void> {
  await page.goto('/');
  await page.getByRole('button', { name: /Open the demo kit/ }).click();
  await expect(viewport(page)).toHaveAccessibleName(/Light tower/);
}

export const saved = (page: Page) => expect(page.getByRole('status', { name: 'Saving' })).toHaveText('Saved');
export const tally = (page: Page) => page.getByLabel('Tally');
export const pickBar = (page: Page) => page.getByRole('group', { name: 'Pick', exact: true });
/** Takes the pointer off the model, so that nothing on it is lit. */
export const pointAway = (page: Page) => tally(page).hover();
/** Once it can be used: until its first frame is drawn it says that it is busy. */
export const viewport = (page: Page) => page.getByRole('application').and(page.locator('[aria-busy=false]'));

/** Corners, faces and names of boxes one metre wide, standing beside each other a metre apart. */
export function boxesObj(count: number, material?: (i: number) => string): string {
  const lines: string[] = ['mtllib boxes.mtl'];
  for (let i = 0; i < count; i++) {
    lines.push(`o box ${i + 1}`);
    for (let k = 0; k < 8; k++) lines.push(`v ${i * 2 + (k & 1)} ${(k >> 1) & 1} ${k >> 2}`);
    if (material) lines.push(`usemtl ${material(i)}`);
    for (const f of ['1 3 4 2', '5 6 8 7', '1 2 6 5', '3 7 8 4', '1 5 7 3', '2 4 8 6'])
      lines.push(
        `f ${f
          .split(' ')
          .map((v) => Number(v) + i * 8)
          .join(' ')}`,
      );
  }
  return lines.join('\n') + '\n';
}

export const file = (name: string, text: string) => ({ name, mimeType: 'application/octet-stream', buffer: Buffer.from(text) });

export async function bringIn(page: Page, files: { name: string; mimeType: string; buffer: Buffer }[]): Promise<void> {
  await page.getByLabel('Bring in model files').setInputFiles(files);
}

/** Drops files from outside onto the page; `over`: what is to be seen while they are held above it. */
export async function dropFiles(page: Page, files: { name: string; buffer: Buffer }[], over?: () => Promise<void>): Promise<void> {
  const transfer = await page.evaluateHandle(
    (list) => {
      const t = new DataTransfer();
      for (const { name, data } of list) t.items.add(new File([Uint8Array.from(atob(data), (c) => c.charCodeAt(0))], name));
      return t;
    },
    files.map(({ name, buffer }) => ({ name, data: buffer.toString('base64') })),
  );
  await page.dispatchEvent('body', 'dragenter', { dataTransfer: transfer });
  await over?.();
  await page.dispatchEvent('body', 'drop', { dataTransfer: transfer });
}

/** A fresh kit with the model of one file, in the Color view. */
export async function openModel(page: Page, name: string, bytes: Uint8Array): Promise<void> {
  await page.goto('/');
  await page.getByRole('button', { name: 'Begin an empty kit' }).click();
  await bringIn(page, [{ name, mimeType: 'application/octet-stream', buffer: Buffer.from(bytes) }]);
  await page.getByRole('button', { name: 'Color it' }).click();
  await expect(viewport(page)).toBeVisible();
}

/** A fresh kit with boxes, in the Color view, seen from the front without perspective. */
export async function openBoxes(page: Page, count: number): Promise<void> {
  await openModel(page, 'boxes.obj', Buffer.from(boxesObj(count)));
  await page.getByRole('button', { name: 'Perspective' }).click();
  await page.getByRole('button', { name: 'Front' }).click();
}

/** Clicks the viewport at shares of its width and height. */
export async function clickAt(
  page: Page,
  x: number,
  y: number,
  options: Parameters<Page['mouse']['click']>[2] & { modifiers?: ('Shift' | 'Alt')[] } = {},
): Promise<void> {
  const box = (await viewport(page).boundingBox())!;
  await viewport(page).click({ position: { x: box.width * x, y: box.height * y }, ...options });
}

/**
 * Clicks, and waits until so many faces are picked: the ray is cast in the worker, and what follows needs its
 * answer.
 */
export async function pickAt(page: Page, x: number, y: number, faces: number): Promise<void> {
  await clickAt(page, x, y);
  await expect(pickBar(page)).toContainText(`${faces} face${faces === 1 ? '' : 's'} picked`);
}

/** The color that the screen shows at shares of the viewport, as hex. */
export async function colorAt(page: Page, x: number, y: number): Promise<string> {
  const box = (await viewport(page).boundingBox())!;
  const shot = decode(
    await page.screenshot({ clip: { x: Math.round(box.x + box.width * x), y: Math.round(box.y + box.height * y), width: 1, height: 1 } }),
  );
  return '#' + [0, 1, 2].map((k) => shot.data[k]!.toString(16).padStart(2, '0')).join('');
}

export async function bytesOf(download: Download): Promise<Uint8Array> {
  return new Uint8Array(readFileSync((await download.path())!));
}

/** A picture of 64 × 32 pixels: left red; right blue above green. */
export function harbour(): { name: string; mimeType: string; buffer: Buffer } {
  const [width, height] = [64, 32];
  const data = new Uint8Array(width * height * 4).fill(255);
  for (let i = 0; i < width * height; i++) data.set(i % width < 32 ? [200, 40, 40] : i < width * 16 ? [40, 40, 200] : [40, 160, 90], i * 4);
  return { name: 'harbour.png', mimeType: 'image/png', buffer: Buffer.from(encodePng({ width, height, data })) };
}

/** Walls of one metre side by side, each with a square of the picture. */
export function walls(...squares: [number, number, number, number][]): string {
  const places = squares.flatMap((_, i) => [`v ${i} 0 0`, `v ${i + 1} 0 0`, `v ${i + 1} 1 0`, `v ${i} 1 0`]);
  const uvs = squares.flatMap(([u0, v0, u1, v1]) => [`vt ${u0} ${v0}`, `vt ${u1} ${v0}`, `vt ${u1} ${v1}`, `vt ${u0} ${v1}`]);
  const faces = squares.map((_, i) => `f ${[1, 2, 3, 4].map((k) => `${i * 4 + k}/${i * 4 + k}`).join(' ')}`);
  return ['mtllib boat.mtl', ...places, ...uvs, 'usemtl hull', ...faces].join('\n');
}
export const hull = file('boat.mtl', 'newmtl hull\nmap_Kd harbour.png\n');

/** Scatters 2,000 channel buoys over the stage, in the default coloring and in those named. */
export async function scatterBuoys(page: Page, ...colorings: string[]): Promise<void> {
  await page.getByRole('button', { name: 'Scatter' }).click();
  const form = page.getByRole('dialog', { name: 'Scatter models' });
  await form.getByRole('combobox', { name: 'Model to scatter' }).click();
  await page.getByRole('option', { name: 'Channel buoy' }).click();
  await form.getByLabel('How many').fill('2000');
  await form.getByLabel('within m').fill('120');
  for (const name of colorings) await form.getByRole('checkbox', { name }).check();
  await form.getByRole('button', { name: 'Scatter them' }).click();
}
