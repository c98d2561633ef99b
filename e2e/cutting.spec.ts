import type { Page } from '@playwright/test';
import { seenTriangles } from '@tests/sampleWithThree';
import { bytesOf, clickAt, expect, openBoxes, openDemo, pickBar, pointAway, saved, tally, test, viewport } from './kit';

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

test('a plane cuts the part that is pointed at, the whole model or the pick, once or as a band; a ring by keys, and words where nothing can be cut', async ({
  page,
}) => {
  await openBoxes(page, 2);
  const model = page.getByRole('button', { name: /^boxes/ }).first();
  const status = page.getByRole('status', { name: 'Cut', exact: true });
  const choose = async (word: RegExp, option: RegExp) => {
    await page.getByRole('button', { name: word }).click();
    await page.getByRole('menuitemradio', { name: option }).click();
  };
  await page.keyboard.press('Shift+A');
  await choose(/^How it is cut/, /^level/);
  await clickAt(page, 0.2, 0.5);
  // The walls of one box; what is above is picked: their upper halves, and the top.
  await expect(status).toHaveText('4 faces cut: 8 triangles and 4 vertices more.');
  await expect(model).toContainText('16 faces');
  await expect(pickBar(page).getByText('5 faces picked')).toBeVisible();
  await choose(/^Of what/, /^what is picked/);
  await choose(/^How many planes/, /^twice/);
  await expect(page.getByRole('button', { name: /^How far apart: 0.1 m/ })).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(model).toContainText('12 faces');
  await choose(/^Of what/, /^the whole model/);
  await clickAt(page, 0.2, 0.5);
  await expect(status).toHaveText('8 faces cut: 32 triangles and 16 vertices more.');
  await expect(model).toContainText('28 faces');
  await expect(pickBar(page).getByText('8 faces picked')).toBeVisible();

  // Nothing is lit where nothing can be cut, and a word says why.
  await page.keyboard.press('Control+z');
  await choose(/^How it is cut/, /^along the ring/);
  await choose(/^Where it is cut/, /^along its nearer border/);
  await page.getByRole('button', { name: /^How far from it/ }).click();
  await page.getByRole('slider').fill('2');
  await page.keyboard.press('Escape');
  await clickAt(page, 0.2, 0.5);
  await expect(status).toContainText('The ring is narrower than 2 m in places');
  await expect(model).toContainText('12 faces');
  // By keys: the face cursor, and Enter.
  await page.getByRole('button', { name: /^How far from it/ }).click();
  await page.getByRole('slider').fill('0.25');
  await page.keyboard.press('Escape');
  await viewport(page).press('ArrowRight');
  await expect(page.getByRole('status', { name: 'What happened' })).toContainText('Enter cuts 4 faces');
  await viewport(page).press('Enter');
  await expect(model).toContainText('16 faces');
});
