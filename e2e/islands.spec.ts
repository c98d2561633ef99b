import { readFileSync } from 'node:fs';
import { decode } from 'fast-png';
import { bringIn, colorAt, expect, file, harbour, openBoxes, openDemo, pickAt, pickBar, pointAway, saved, test, viewport } from './kit';

const [red, blue, green] = ['#c82828', '#2828c8', '#28a05a'];
/** Two walls of one metre side by side: the left one on red, the right one on blue. */
const walls = `mtllib boat.mtl
v 0 0 0\nv 1 0 0\nv 1 1 0\nv 0 1 0\nv 1 0 0\nv 2 0 0\nv 2 1 0\nv 1 1 0
vt 0.1 0.6\nvt 0.3 0.6\nvt 0.3 0.9\nvt 0.1 0.9\nvt 0.6 0.6\nvt 0.8 0.6\nvt 0.8 0.9\nvt 0.6 0.9
usemtl hull\nf 1/1 2/2 3/3 4/4\nf 5/5 6/6 7/7 8/8`;

test('islands of art are picked on the sheet, dragged, moved by keys and numbers, and laid flat', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('button', { name: 'Begin an empty kit' }).click();
  await bringIn(page, [file('boat.obj', walls), file('boat.mtl', 'newmtl hull\nmap_Kd harbour.png\n'), harbour()]);
  await page.getByRole('button', { name: 'Keep all of it as art' }).click();
  await expect(page.getByText('Its faces sit on the sheet.')).toBeVisible();
  await page.getByRole('link', { name: 'Islands', exact: true }).click();
  await expect(viewport(page)).toHaveAttribute('aria-busy', 'false');
  const islands = page.getByRole('button', { name: 'Island of 1 face' });
  await expect(islands).toHaveCount(2);
  const at = (x: number) => colorAt(page, x, 0.5);
  await viewport(page).focus();
  await page.keyboard.press('PageDown');
  await expect.poll(() => at(0.42)).toBe(red);
  await expect.poll(() => at(0.58)).toBe(blue);

  // A click picks its faces; a drag moves it by whole texels, shown on the model meanwhile.
  await islands.first().click();
  await expect(pickBar(page)).toContainText('1 face picked');
  const left = page.getByLabel('Left', { exact: true });
  const [was] = [Number(await left.inputValue())];
  const box = (await islands.first().boundingBox())!;
  const perTexel = (await page.getByRole('group', { name: /^The sheet, 64 × 32/ }).boundingBox())!.width / 64;
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(x + 30 * perTexel, y + 14 * perTexel, { steps: 4 });
  await expect.poll(() => at(0.42)).toBe(green);
  await page.mouse.up();
  expect(Number(await left.inputValue())).toBeCloseTo(was + 30, 1);
  await page.keyboard.press('Escape');
  await pointAway(page);
  await expect.poll(() => at(0.42)).toBe(green);

  // By keys a texel at a time, kept inside of the art; by numbers; steps in a row are one undo.
  const moved = page.getByRole('button', { name: 'Island of 1 face' }).first();
  await moved.focus();
  await page.keyboard.press('Enter');
  for (let i = 0; i < 3; i++) await page.keyboard.press('ArrowLeft');
  await expect.poll(async () => Number(await left.inputValue())).toBeCloseTo(was + 27, 1);
  await left.fill('-50');
  await left.press('Enter');
  await expect.poll(async () => Number(await left.inputValue())).toBe(0);
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await expect.poll(async () => Number(await left.inputValue())).toBeCloseTo(was + 30, 1);

  // Laid over the other, they share texels: said, and mended.
  await left.fill('39');
  await left.press('Enter');
  await page.getByLabel('Top', { exact: true }).fill('4');
  await page.getByLabel('Top', { exact: true }).press('Enter');
  const wrong = page.getByRole('group', { name: 'What is wrong' });
  await expect(wrong).toContainText('2 faces of islands that share texels');
  await wrong.getByRole('button', { name: 'lay them side by side' }).click();
  await expect(wrong).toBeHidden();

  // Both laid flat, straight on, fill the art at their proportions, side by side as they stand.
  await viewport(page).focus();
  await page.keyboard.press('Control+a');
  await page.getByRole('button', { name: 'straight on' }).click();
  await expect(page.getByRole('button', { name: /^Island of/ })).toHaveCount(1);
  await expect(page.getByLabel('Width')).toHaveValue('64');
  // The border that mip levels ask for is told, and kept to where that is wished.
  await page.getByLabel('Mip levels').fill('1');
  await wrong.getByRole('button', { name: 'move them in' }).click();
  await expect(page.getByLabel('Width')).toHaveValue('60');
  await expect(wrong).toBeHidden();
  await viewport(page).focus();
  await page.keyboard.press('Escape');
  await pointAway(page);
  await expect.poll(() => at(0.42)).toBe(red);
  await expect.poll(() => colorAt(page, 0.58, 0.53)).toBe(green);
  await saved(page);
  await page.reload();
  await expect(page.getByRole('button', { name: 'Island of 2 faces' })).toHaveCount(1);

  // Its own UVs, as a game may prescribe them, filled with the colors that it has now.
  await page.getByRole('link', { name: 'Hand-off', exact: true }).click();
  await page.getByRole('radio', { name: 'One model' }).click();
  await page.getByLabel('Width', { exact: true }).fill('40');
  await page.getByLabel('Height', { exact: true }).fill('20');
  await page.getByRole('button', { name: 'Fill it in' }).click();
  await expect(page.getByText('No two faces of different colors share a texel.')).toBeVisible();
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Download the picture for its own UVs' }).click(),
  ]);
  expect(download.suggestedFilename()).toBe('boat-uvs.png');
  const { width, height, data } = decode(readFileSync(await download.path()));
  const texel = (x: number, y: number) => `#${Buffer.from(data.slice((y * 40 + x) * 4, (y * 40 + x) * 4 + 3)).toString('hex')}`;
  // The left wall lies from 4 to 12 across and from 2 to 8 down, the right one from 24 to 32; four texels around each.
  expect([width, height, texel(5, 5), texel(1, 5), texel(18, 15)]).toEqual([40, 20, red, red, '#000000']);
  expect([texel(26, 5), texel(26, 7)]).toContain(green);
});

test('without art or gradients the sheet says so, and its colors pick the faces that sit on them', async ({ page }) => {
  await openBoxes(page, 1);
  await pickAt(page, 0.5, 0.5, 1);
  await page.getByRole('button', { name: /^moss, 0 faces/ }).click();
  await page.getByRole('link', { name: 'Islands', exact: true }).click();
  await expect(page.getByText('This sheet has no art and no gradient')).toBeVisible();
  await page.getByRole('button', { name: '1 face on moss' }).click();
  await expect(pickBar(page)).toContainText('1 face picked');
  await page.getByRole('link', { name: 'Oligochrome, all kits' }).click();

  // Two colors become gradients: what lies on one of them is dragged onto the other by hand.
  await openDemo(page);
  for (const color of [/^slate, lit, \d/, /^lamp glow, \d/]) {
    await page.getByRole('button', { name: color }).click();
    await page.getByRole('button', { name: 'Edit color' }).click();
    await page.getByRole('radio', { name: 'Gradient' }).click();
    await page.getByRole('dialog').getByRole('button', { name: 'Close' }).click();
  }
  await page.getByRole('link', { name: 'Islands', exact: true }).click();
  await expect(viewport(page)).toHaveAttribute('aria-busy', 'false');
  const islands = page.getByRole('button', { name: /^Island of/ });
  await expect(islands.first()).toBeVisible();
  const board = (await page.getByRole('group', { name: /^The sheet, 32 × 32/ }).boundingBox())!;
  const texel = board.width / 32;
  const boxes = await Promise.all((await islands.all()).map((island) => island.boundingBox()));
  const box = boxes.findLast((each) => each!.x > board.x + 12 * texel && each!.x < board.x + 16 * texel)!;
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
  await page.mouse.move(x, y);
  await page.mouse.down();
  // From the last of the four in its row to the first.
  await page.mouse.move(x - 12 * texel, y, { steps: 4 });
  await page.mouse.up();
  await expect(page.getByRole('status', { name: 'What happened' })).toHaveText('Moved onto slate, lit');
  await expect.poll(async () => Number(await page.getByLabel('Left', { exact: true }).inputValue())).toBeLessThan(4);
  await page.keyboard.press('Control+z');
  await expect.poll(async () => Number(await page.getByLabel('Left', { exact: true }).inputValue())).toBeGreaterThan(12);
});
