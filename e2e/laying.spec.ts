import type { Page } from '@playwright/test';
import { lchFromHex } from '@/core/ground/color/hex';
import { clickAt, colorAt, expect, openDemo, pickBar, pointAway, saved, test, viewport } from './kit';

const lightness = async (page: Page, x: number, y: number) => lchFromHex((await colorAt(page, x, y)) as `#${string}`).l;
const words = (page: Page) => page.getByRole('region', { name: 'Laid along a gradient' });

/** A drag from one place of the viewport to another, 0..1 from its top left. */
async function dragOver(page: Page, from: [number, number], to: [number, number]): Promise<void> {
  const { x, y, width, height } = (await viewport(page).boundingBox())!;
  await page.mouse.move(x + from[0] * width, y + from[1] * height);
  await page.mouse.down();
  await page.mouse.move(x + to[0] * width, y + to[1] * height, { steps: 4 });
}

test('the tower lies along a line that is drawn on it, whose ends and words can be changed, also after a reload', async ({ page }) => {
  await openDemo(page);
  await page.getByRole('button', { name: /^band, \d/ }).click();
  await page.getByRole('button', { name: 'Edit color' }).click();
  await page.getByText('Gradient', { exact: true }).click();
  await page.getByRole('button', { name: 'Close' }).first().click();
  await page.getByRole('button', { name: 'Front' }).click();
  await page.getByRole('button', { name: 'A drag: turns the view' }).click();
  await page.getByRole('menuitemradio', { name: /lays the pick along a line/ }).click();
  // Without a pick there is nothing to lay.
  await dragOver(page, [0.5, 0.8], [0.5, 0.3]);
  await page.mouse.up();
  await expect(page.getByText('Pick the faces first, then draw a line')).toBeVisible();
  await viewport(page).focus();
  await page.keyboard.press('Control+a');
  await expect(pickBar(page)).toContainText('970 faces picked');

  // The walls, low and high; the picture shows it while the line is drawn.
  const change = async () => (await lightness(page, 0.495, 0.72)) - (await lightness(page, 0.495, 0.42));
  await dragOver(page, [0.5, 0.8], [0.5, 0.35]);
  await expect.poll(change).toBeGreaterThan(0.1);
  await page.mouse.up();
  await expect(words(page)).toContainText('970 faces laid along band');
  await pointAway(page);
  await expect.poll(change).toBeGreaterThan(0.1);
  const end = page.getByRole('button', { name: 'End of the line; arrow keys move it' });
  const begin = page.getByRole('button', { name: 'Beginning of the line; arrow keys move it' });
  const [low, high] = [(await begin.boundingBox())!, (await end.boundingBox())!];
  expect(low.y - high.y).toBeGreaterThan(100);

  // An end that is dragged below the other one turns it over; arrows move it by steps.
  await page.mouse.move(high.x + 12, high.y + 12);
  await page.mouse.down();
  await page.mouse.move(low.x + 12, low.y + 150, { steps: 3 });
  await page.mouse.up();
  await end.focus();
  await page.keyboard.press('ArrowRight');
  await expect.poll(async () => Math.round((await end.boundingBox())!.x - low.x)).toBe(4);
  await pointAway(page);
  const turned = await change();
  expect(turned).toBeLessThan(0);
  // All of that was one act.
  await page.keyboard.press('Control+z');
  await expect(end).toBeHidden();
  await page.keyboard.press('Control+Shift+z');
  await expect(end).toBeVisible();
  await expect.poll(change).toBe(turned);

  await saved(page);
  await page.reload();
  await page.getByRole('button', { name: 'Front' }).click();
  // Any face of it brings the words back; all that was laid with it follows.
  await clickAt(page, 0.495, 0.72);
  await expect(words(page)).toContainText('970 faces laid along band');
  await words(page).getByRole('button', { name: 'What the gradient runs along: a line' }).click();
  await page.getByRole('menuitemradio', { name: /^height/ }).click();
  await words(page).getByRole('button', { name: 'Tones: smoothly' }).click();
  await page.getByRole('menuitemradio', { name: /^a tone for each face/ }).click();
  await expect(words(page).getByRole('button', { name: 'What the gradient runs along: height' })).toBeVisible();
  await expect(end).toBeHidden();
  await page.keyboard.press('Escape');
  await pointAway(page);
  await expect.poll(change).toBeGreaterThan(0.05);
});
