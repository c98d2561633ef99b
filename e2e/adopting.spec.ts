import { bringIn, bytesOf, colorAt, expect, file, harbour, hull, openDemo, pickBar, pointAway, saved, tally, test, walls } from './kit';

test('a textured model is taken apart, with its sister, and recolored by its cells', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('button', { name: 'Begin an empty kit' }).click();
  const red: [number, number, number, number] = [0.1, 0.1, 0.4, 0.9];
  const blue: [number, number, number, number] = [0.6, 0.6, 0.9, 0.9];
  const both: [number, number, number, number] = [0.4, 0.6, 0.6, 0.9];
  await bringIn(page, [file('boat.obj', walls(red, blue, both)), file('sister.obj', walls(blue)), hull, harbour()]);
  const report = page.getByRole('article', { name: 'Report of boat' });
  const offer = report.getByRole('region', { name: 'Its picture' });
  await offer.getByRole('button', { name: 'Look what it is made of' }).click();
  await expect(offer).toContainText('3 faces in 2 colors, 1 face on art; 2 models of this kit show it.');
  await expect(offer).toContainText('instead of 64 × 32');
  await expect(offer).toContainText('The largest change of a color is 0.000');
  await offer.getByRole('button', { name: 'Take it apart' }).click();
  await expect(report).toContainText('Its faces sit on the sheet.');
  await expect(page.getByRole('article', { name: 'Report of sister' })).toContainText('Its faces sit on the sheet.');
  await expect(tally(page)).toContainText('0 uncolored');
  await saved(page);

  await report.getByRole('button', { name: 'Color it' }).click();
  await page.getByRole('button', { name: 'Front' }).click();
  await pointAway(page);
  await expect.poll(() => colorAt(page, 0.3, 0.55)).toBe('#c82828');
  await expect.poll(() => colorAt(page, 0.5, 0.55)).toBe('#2828c8');
  // Its colors are cells now: one change recolors all faces on it, here and on the sister; the art stays.
  await page.getByRole('button', { name: /2 faces on 2 models/ }).click();
  await page.getByRole('button', { name: 'Edit color' }).click();
  await page.getByLabel('Hex').fill('#e0c060');
  await page.getByLabel('Hex').press('Enter');
  await page.getByRole('button', { name: 'Close' }).first().click();
  await pointAway(page);
  await expect.poll(() => colorAt(page, 0.5, 0.55)).toBe('#e0c060');
  expect(await colorAt(page, 0.3, 0.55)).toBe('#c82828');
  // Undone as one act each.
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await expect(tally(page)).toContainText('4 uncolored');
});

test('a model that was exported here comes back onto the cells of the sheet in one act', async ({ page }) => {
  await openDemo(page);
  await page.getByRole('button', { name: /^Channel buoy/ }).click();
  await page.getByRole('button', { name: 'Front' }).click();
  await page.keyboard.press('Control+a');
  await expect(pickBar(page)).toContainText('437 faces picked');
  await page.getByRole('button', { name: /^brass, \d/ }).click();
  await page.getByRole('link', { name: 'Hand-off', exact: true }).click();
  await page.getByText('One model', { exact: true }).click();
  const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'Download GLB' }).click()]);
  await page.getByRole('link', { name: 'Gather', exact: true }).click();
  await bringIn(page, [{ name: 'buoy again.glb', mimeType: 'model/gltf-binary', buffer: Buffer.from(await bytesOf(download)) }]);
  const offer = page.getByRole('region', { name: 'Its picture' });
  await expect(offer).toContainText('Its picture is the sheet “Skerry” of this kit');
  // As many as its quads and triangles came back as: all of them.
  await expect(offer).toContainText(/kit(\d+) of \1 faces lie on its cells\./);
  const faces = Number(/(\d+) of/.exec(await offer.innerText())![1]);
  const before = Number(/([\d,]+) uncolored/.exec(await tally(page).innerText())![1]!.replace(',', ''));
  await offer.getByRole('button', { name: 'Seat its faces' }).click();
  await expect(tally(page)).toContainText(`${(before - faces).toLocaleString('en')} uncolored`);
});
