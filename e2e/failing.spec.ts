import { clickAt, colorAt, expect, openBoxes, openDemo, pickAt, pickBar, pointAway, saved, tally, test, viewport } from './kit';

test('without 3D graphics the Color view says why, and everything else works', async ({ page }) => {
  await page.addInitScript(() => {
    const { getContext } = HTMLCanvasElement.prototype;
    HTMLCanvasElement.prototype.getContext = function (this: HTMLCanvasElement, kind: string, ...rest: never[]) {
      return kind.startsWith('webgl') ? null : (getContext as (...a: unknown[]) => RenderingContext | null).call(this, kind, ...rest);
    } as never;
  });
  await page.goto('/');
  await page.getByRole('button', { name: /Open the demo kit/ }).click();
  const alert = page.getByRole('alert').filter({ hasText: 'This browser cannot draw in 3D now.' });
  await expect(alert).toContainText('The viewport needs WebGL 2');
  await page.keyboard.press('Control+a');
  await page.getByRole('button', { name: /^timber,/ }).click();
  await expect(page.getByRole('button', { name: /^timber, 1,395 faces/ })).toBeVisible();
  await alert.getByRole('button', { name: 'Try again' }).click();
  await expect(alert).toBeVisible();
  await page.getByRole('link', { name: 'Palette' }).click();
  await expect(page.getByRole('button', { name: 'Lay out anew' })).toBeVisible();
  await saved(page);
});

test('graphics that are lost come back by themselves, with the model as it was', async ({ page }) => {
  await openBoxes(page, 1);
  await page.keyboard.press('Control+a');
  await page.getByRole('button', { name: /^moss, 0 faces/ }).click();
  await pointAway(page);
  const before = await colorAt(page, 0.5, 0.5);
  await expect.poll(() => colorAt(page, 0.5, 0.5)).not.toBe('#8f8f8f');
  await page.evaluate(() => {
    const canvas = document.querySelector('canvas')!;
    canvas.dataset.old = 'yes';
    canvas.getContext('webgl2')!.getExtension('WEBGL_lose_context')!.loseContext();
  });
  await expect(page.getByText('The graphics were lost.')).toBeVisible();
  await expect(viewport(page)).toHaveAttribute('aria-busy', 'false');
  await expect(page.locator('canvas[data-old]')).toHaveCount(0);
  await expect.poll(() => colorAt(page, 0.5, 0.5)).toBe(before);
  await pickAt(page, 0.5, 0.5, 1);
});

test('a worker that ends is started again with what it held, and nothing waits for ever', async ({ page }) => {
  await openDemo(page);
  await clickAt(page, 0.5, 0.5);
  await expect(pickBar(page)).toContainText('picked');
  const workers = page.workers();
  expect(workers.length).toBeGreaterThan(0);
  for (const worker of workers) void worker.evaluate(() => self.close()).catch(() => undefined);
  await expect.poll(() => page.workers().length).toBeLessThan(workers.length);
  // What is asked of it next finds it gone.
  await viewport(page).hover({ position: { x: 200, y: 200 } });
  await expect(page.getByText('it was started again, and nothing is lost')).toBeVisible();
  await page.keyboard.press('Escape');
  await clickAt(page, 0.5, 0.5);
  await expect(pickBar(page)).toContainText('picked');
  await expect(tally(page)).toContainText('10 draw calls');
});

test('without the server the view that is open stays, and code that did not come is loaded by trying again', async ({ page }) => {
  await openDemo(page);
  const away = page.getByText('The server cannot be reached, so this view stays open.');
  const views = page.getByRole('navigation', { name: 'Views' });
  await page.context().setOffline(true);
  await views.getByRole('link', { name: 'Gather' }).click();
  await expect(away).toBeVisible();
  await expect(page).toHaveURL(/\/color$/);
  await page.keyboard.press('Control+a');
  await expect(pickBar(page)).toContainText('picked');
  await page.context().setOffline(false);
  await page.getByRole('button', { name: 'Try again' }).first().click();
  await expect(page).toHaveURL(/\/gather$/);

  await page.route('**/_next/static/**', (route) => route.abort());
  await views.getByRole('link', { name: 'Stage' }).click();
  const failed = page.getByRole('alert').filter({ hasText: 'A part of the page could not be loaded.' });
  await expect(failed).toBeVisible();
  await expect(tally(page)).toContainText('10 draw calls');
  await page.context().setOffline(true);
  await failed.getByRole('button', { name: 'Try again' }).click();
  await expect(failed).toContainText('The server does not answer yet.');
  await page.context().setOffline(false);
  await page.unroute('**/_next/static/**');
  await failed.getByRole('button', { name: 'Try again' }).click();
  await expect(failed).toBeHidden();
  await expect(page.getByRole('region', { name: /stage/i }).or(viewport(page)).first()).toBeVisible();
});

test('every page has its headers', async ({ page }) => {
  const response = (await page.goto('/'))!;
  const headers = response.headers();
  expect(headers).toMatchObject({
    'x-content-type-options': 'nosniff',
    'referrer-policy': 'no-referrer',
    'cross-origin-opener-policy': 'same-origin',
    'cross-origin-embedder-policy': 'require-corp',
  });
  const policy = headers['content-security-policy']!;
  expect(policy).toContain("frame-ancestors 'none'");
  expect(policy.match(/script-src [^;]*/)![0]).toMatch(/^script-src 'self' 'nonce-[^']+' 'strict-dynamic' 'wasm-unsafe-eval'$/);
  expect(await page.evaluate(() => crossOriginIsolated)).toBe(true);
});

test.describe('over plain http, at an address that is not this computer', () => {
  test.use({ baseURL: `http://skerry.test:${process.env.PORT ?? 3217}` });

  test('a kit is opened, colored and kept, and a second tab only reads it', async ({ page, context }) => {
    await openDemo(page);
    expect(await page.evaluate(() => [isSecureContext, 'locks' in navigator])).toEqual([false, false]);
    await page.keyboard.press('Control+a');
    await page.getByRole('button', { name: /^timber,/ }).click();
    await saved(page);
    const second = await context.newPage();
    await second.goto(page.url());
    await expect(second.getByText('This kit is being edited in another tab.')).toBeVisible();
    await second.getByRole('button', { name: 'Edit here instead' }).click();
    await expect(second.getByText('This kit is being edited in another tab.')).toBeHidden();
    await expect(page.getByText('This kit is being edited in another tab.')).toBeVisible();
    await expect(second.getByRole('button', { name: /^timber, 1,395 faces/ })).toBeVisible();
  });
});

test('where the browser refuses storage, home says so', async ({ page }) => {
  await page.addInitScript(() => {
    IDBFactory.prototype.open = () => {
      throw new DOMException('denied', 'SecurityError');
    };
  });
  await page.goto('/');
  await expect(page.getByRole('alert').filter({ hasText: 'This browser lets no site keep anything.' })).toBeVisible();
});
