import type { Page } from '@playwright/test';
import { seenTriangles } from '@tests/sampleWithThree';
import { bytesOf, clickAt, expect, openDemo, pickBar, pointAway, saved, tally, test, viewport } from './kit';

/** Of the model in view, as its GLB holds them; then back to Color. */
async function leavingTriangles(page: Page): Promise<number> {
  await page.getByRole('link', { name: 'Hand-off' }).click();
  const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'Download GLB' }).click()]);
  const { triangles } = await seenTriangles(await bytesOf(download));
  await page.getByRole('link', { name: 'Color', exact: true }).click();
  await viewport(page).waitFor();
  return triangles.length;
}

test('a belt: two cuts along a ring and the color between them in one act; undone, done again, kept, and handed off', async ({ page }) => {
  await openDemo(page);
  const buoy = page.getByRole('button', { name: /^Channel buoy/ }).first();
  await buoy.click();
  await expect(viewport(page)).toHaveAccessibleName(/Channel buoy/);
  await expect(buoy).toContainText('437 faces');
  const before = await leavingTriangles(page);
  const says = page.getByLabel('What a click does');
  await page
    .getByRole('button', { name: /^lichen, in shade/ })
    .first()
    .click();
  await page.keyboard.press('Shift+A');
  await expect(says).toContainText(/Cut ?along the ring ?where I point/);
  await page.keyboard.press('x');
  await page.keyboard.press('q');
  await expect(says).toContainText(/in even steps ?2 times.* and ?color ?what is between ?with ?lichen/);
  const lichen = page.getByRole('button', { name: /^lichen, in shade, [\d,]+ faces/ }).first();
  const colored = async () => Number(/([\d,]+) faces/.exec((await lichen.getAttribute('aria-label')) ?? '')![1]!.replace(',', ''));
  const had = await colored();

  // What is lit is what is cut: a ring of the cone under the lantern.
  const status = page.getByRole('status', { name: 'Cut', exact: true });
  const box = (await viewport(page).boundingBox())!;
  await viewport(page).hover({ position: { x: box.width / 2, y: box.height / 2 } });
  await expect(status).toContainText(/^8 faces would be cut/);
  await clickAt(page, 0.5, 0.5);
  await expect(status).toContainText('8 faces cut: 32 triangles and 16 vertices more.');
  await expect(buoy).toContainText('453 faces');
  await expect.poll(colored).toBe(had + 8);
  await pointAway(page);

  // One undo takes both; the same again by redo; it is there after a reload.
  await page.keyboard.press('Control+z');
  await expect(buoy).toContainText('437 faces');
  await expect.poll(colored).toBe(had);
  await page.keyboard.press('Control+Shift+z');
  await expect(buoy).toContainText('453 faces');
  await saved(page);
  await page.reload();
  await expect(buoy).toContainText('453 faces');
  await expect.poll(colored).toBe(had + 8);

  // Cut once where the pointer is; the narrower side is picked.
  await buoy.click();
  await expect(viewport(page)).toHaveAccessibleName(/Channel buoy/);
  await page.keyboard.press('Shift+A');
  await viewport(page).hover({ position: { x: box.width / 2, y: box.height / 2 } });
  await expect(status).toContainText(/faces would be cut,? /);
  const ring = Number(/(\d+) faces/.exec((await status.textContent())!)![1]);
  await clickAt(page, 0.5, 0.5);
  await expect(buoy).toContainText(`${453 + ring} faces`);
  await expect(pickBar(page).getByText(`${ring} faces picked`)).toBeVisible();
  const more = Number(/(\d+) triangles/.exec((await status.textContent())!)![1]);
  await expect(tally(page)).toContainText('10 draw calls');

  // So many triangles more than it had are in the file that leaves.
  expect((await leavingTriangles(page)) - before).toBe(32 + more);
});
