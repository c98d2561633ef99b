import type { Page } from '@playwright/test';
import { seenTriangles } from '@tests/sampleWithThree';
import { expectStated } from './acts/acts';
import { bytesOf, clickAt, expect, openBoxes, openDemo, pickBar, pointAway, saved, tally, test, viewport } from './kit';

class Counted {
  count = 0;
  async do(act: Promise<unknown>): Promise<void> {
    this.count++;
    await act;
  }
}

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
  const acts = new Counted();
  await acts.do(page.keyboard.press('Shift+A'));
  await expect(says).toContainText(/Cut ?along the ring ?in even steps ?2 times/);
  await acts.do(page.keyboard.press('q'));
  await expect(says).toContainText(/ and ?color ?what is between ?with ?lichen/);
  const lichen = page.getByRole('button', { name: /^lichen, in shade, [\d,]+ faces/ }).first();
  const colored = async () => Number(/([\d,]+) faces/.exec((await lichen.getAttribute('aria-label')) ?? '')![1]!.replace(',', ''));
  const had = await colored();

  // What is lit is what is cut: a ring of the cone under the lantern.
  const status = page.getByRole('status', { name: 'Cut', exact: true });
  const box = (await viewport(page).boundingBox())!;
  await viewport(page).hover({ position: { x: box.width / 2, y: box.height / 2 } });
  await expect(status).toContainText(/^8 faces would be cut/);
  await acts.do(clickAt(page, 0.5, 0.5));
  expectStated('a belt around a buoy', acts.count, 3);
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
  await page.keyboard.press('Shift+X');
  await expect(says).toContainText(/Cut ?along the ring ?where I point/);
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

  // No color parts what was cut: all of it is found, shown and taken away, and comes back by undo.
  await page.getByRole('button', { name: 'Edges that part nothing' }).click();
  await expect(page.getByRole('status', { name: 'Edges that part nothing' })).toContainText('4 edges would go, with 8 triangles and 8 GPU');
  await page.getByRole('button', { name: 'Take them away' }).click();
  await expect(model).toContainText('12 faces');
  await expect(page.getByRole('status', { name: 'Edges that part nothing' })).toContainText('Every edge of this model parts something');
  await page.getByRole('button', { name: 'Close' }).click();
  await page.keyboard.press('Control+z');
  await expect(model).toContainText('16 faces');
  await page.keyboard.press('Control+z');
  await expect(model).toContainText('12 faces');

  // An outline out of a file, stamped: three corners in a wall of four; a file without one is refused with a reason.
  await page.keyboard.press('s');
  const drawing = (paths: string) => ({ name: 'sail.svg', mimeType: 'image/svg+xml', buffer: Buffer.from(`<svg xmlns="http://www.w3.org/2000/svg"><g transform="scale(2)">${paths}</g></svg>`) }); // prettier-ignore
  const field = page.getByLabel('An outline to be stamped');
  await field.setInputFiles(drawing('<rect width="4" height="4"/>'));
  await expect(page.getByText('“sail.svg” has no path.')).toBeVisible();
  await field.setInputFiles(drawing('<path d="M0 4h4L2 0z"/>'));
  await expect(page.getByRole('button', { name: 'What is stamped: sail.svg' })).toBeVisible();
  await clickAt(page, 0.2, 0.5);
  await expect(status).toHaveText('1 face cut: 6 triangles and 3 vertices more.');
  await expect(page.getByText('A picture as sharp at play size, 96 pixels:')).toBeVisible();
  await expect(pickBar(page).getByText('1 face picked')).toBeVisible();
});

test('a window on the walls of a tower in six acts, lines inside outlines, and what leaves', async ({ page }) => {
  await openDemo(page);
  const tower = page.getByRole('button', { name: /^Light tower/ }).first();
  await expect(tower).toContainText('970 faces');
  const before = await leavingTriangles(page);
  const status = page.getByRole('status', { name: 'Cut', exact: true });
  const says = page.getByLabel('What a click does');
  const acts = new Counted();
  const lichen = page.getByRole('button', { name: /^lichen, in shade/ }).first();
  await acts.do(lichen.click());
  // The keys of the words of picking say how is cut: by a stamp, on every wall with the same outline, and colored at once.
  for (const key of ['Shift+A', 's', 'p', 'q']) await acts.do(page.keyboard.press(key));
  await expect(says).toContainText(/Cut ?by a stamp: ?a rectangle ?0.5 m ?by ?0.5 m.* ?and all like it.* ?color ?it ?with ?lichen/);
  const box = (await viewport(page).boundingBox())!;
  await viewport(page).hover({ position: { x: box.width * 0.5, y: box.height * 0.71 } });
  await expect(status).toHaveText('12 faces would be cut');
  await acts.do(clickAt(page, 0.5, 0.71));
  // A hole takes two corners more than a face has; its own face is two triangles.
  await expect(status).toHaveText('12 faces cut: 96 triangles and 48 vertices more.');
  await expect(tower).toContainText('1,018 faces');
  await expect(lichen).toHaveAccessibleName(/[^\d]81 faces/);
  expectStated('a window on all walls of a tower', acts.count, 6);

  // Lines inside the outline of what is picked: the frame of a window, held back where there is no room.
  await page.keyboard.press('f');
  await page.keyboard.press('p');
  await page.keyboard.press('q');
  await viewport(page).hover({ position: { x: box.width * 0.5, y: box.height * 0.71 } });
  await expect(status).toHaveText('1 face would be cut');
  await page.getByRole('button', { name: /^How far in/ }).click();
  await page.getByRole('spinbutton').fill('0.4');
  await page.keyboard.press('Escape');
  await viewport(page).hover({ position: { x: box.width * 0.5 + 1, y: box.height * 0.71 } });
  await expect(status).toHaveText('1 face would be cut, 0.237 m in: further in there is no room');
  await page.getByRole('button', { name: /^How far in/ }).click();
  await page.getByRole('spinbutton').fill('0.05');
  await page.keyboard.press('Escape');
  await clickAt(page, 0.5, 0.71);
  await expect(status).toHaveText('1 face cut: 8 triangles and 4 vertices more.');
  await expect(pickBar(page).getByText('1 face picked')).toBeVisible();
  await expect(tower).toContainText('1,022 faces');
  await pointAway(page);
  expect((await leavingTriangles(page)) - before).toBe(96 + 8);
});
