import { numerals } from '../scripts/demo-kit/numerals';
import { encodePng } from '@/core/io/png';
import { expect, openDemo, pickBar, saved, test, viewport } from './kit';

test('the tide gauge: room for art beside the colors, its board on the numerals, the rest unwrapped along seams', async ({ page }) => {
  await openDemo(page);
  await page.getByRole('button', { name: /^Tide gauge/ }).click();
  await page.getByRole('link', { name: 'Islands', exact: true }).click();
  await expect(page.getByRole('application', { name: /Tide gauge/ })).toHaveAttribute('aria-busy', 'false');

  // One step from the palette to a sheet on which art takes most; every face keeps its color.
  const colors = async () => /\d+ colors/.exec((await page.getByLabel('Tally').textContent())!)![0];
  const before = await colors();
  await page.getByRole('button', { name: 'Make room for art' }).click();
  const panel = page.getByRole('dialog', { name: 'Room for art' });
  const picture = { name: 'numerals.png', mimeType: 'image/png', buffer: Buffer.from(encodePng(numerals())) };
  await panel.getByLabel('Picture for the art').setInputFiles(picture);
  await expect(panel.getByText('128 × 256 texels; art 64 × 256')).toBeVisible();
  await panel.getByRole('radio', { name: 'Right' }).click();
  await panel.getByRole('button', { name: 'Make room' }).click();
  await expect(page.getByRole('group', { name: /^The sheet, 128 × 256 texels/ })).toBeVisible();
  await expect(page.getByLabel('Tally')).toContainText('128×256 texels');
  expect(await colors()).toBe(before);

  // What is closed all around is not laid flat without a cut; said, and offered.
  await viewport(page).focus();
  await page.keyboard.press('Control+a');
  const flat = page.getByRole('group', { name: 'Lay faces flat' });
  const seams = page.getByRole('group', { name: 'Seams' });
  await expect(seams).toContainText('0 edges of seams');
  await flat.getByRole('button', { name: 'along seams' }).click();
  const offer = page.getByText('cannot lie flat without a cut');
  await expect(offer).toBeVisible();
  await expect(page.getByRole('group', { name: 'Stretch' })).toBeHidden();
  await page.keyboard.press('Control+a');
  await page.getByRole('button', { name: 'Cut and lay flat' }).click();
  await expect(page.getByText(/^343 faces lie flat in \d+ islands; \d+ edges cut besides your seams\.$/)).toBeVisible();
  const stretch = page.getByRole('group', { name: 'Stretch' });
  await expect(stretch).toContainText(/Stretch ×1\.\d\d area, ×1\.\d\d angle/);
  await expect(page.getByRole('group', { name: 'What is wrong' })).toBeHidden();
  // The cuts became seams; one undo takes all of it back.
  await expect(seams).not.toContainText('0 edges of seams');
  await page.keyboard.press('Control+z');
  await expect(seams).toContainText('0 edges of seams');
  await expect(stretch).toBeHidden();

  // A seam drawn on the model, from point to point along edges; with Alt it is taken away again.
  await page.getByRole('button', { name: /^A drag/ }).click();
  await page.getByRole('menuitemradio', { name: /draws a seam/ }).click();
  const screen = (await viewport(page).boundingBox())!;
  const drawSeam = async () => {
    await page.mouse.move(screen.x + screen.width * 0.5, screen.y + screen.height * 0.35);
    await page.mouse.down();
    await page.mouse.move(screen.x + screen.width * 0.5, screen.y + screen.height * 0.5, { steps: 3 });
    await page.mouse.move(screen.x + screen.width * 0.5, screen.y + screen.height * 0.65, { steps: 3 });
    await page.mouse.up();
  };
  await drawSeam();
  await expect(seams).toContainText(/[1-9]\d* edges? of seams/);
  await page.keyboard.down('Alt');
  await drawSeam();
  await page.keyboard.up('Alt');
  await expect(seams).toContainText('0 edges of seams');

  // With seams at its creases only the round post has still to be cut, along one line.
  await seams.getByRole('button', { name: 'Mark seams' }).click();
  await page.getByRole('menuitem', { name: 'At creases' }).click();
  await expect(seams).not.toContainText('0 edges of seams');
  await flat.getByRole('button', { name: 'along seams' }).click();
  await page.getByRole('button', { name: 'Cut and lay flat' }).click();
  const done = page.getByText(/^\d+ faces lie flat in \d+ islands; \d+ edges cut besides your seams\.$/).last();
  const cuts = async () => Number(/(\d+) edges cut/.exec((await done.textContent())!)![1]);
  await expect.poll(cuts).toBeLessThan(30);
  await expect(stretch).toContainText(/×1\.0\d area, ×1\.0\d angle/);
  await stretch.getByRole('radio', { name: 'Angle' }).click();
  await expect(stretch).toContainText('×2 or more');
  await stretch.getByRole('button', { name: 'Faces that are stretched most' }).click();
  await expect(page.getByText('can hardly be seen, count for less')).toBeVisible();
  await page.keyboard.press('Escape');

  // The board's panels go on the numerals as they stand, sized by a corner of the handles.
  await viewport(page).focus();
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: /^Island of 1 face/ }).first().click(); // prettier-ignore
  await expect(pickBar(page)).toContainText('1 face picked');
  await flat.getByRole('button', { name: 'straight on' }).click();
  const width = page.getByLabel('Width');
  const wide = Number(await width.inputValue());
  const corner = page.getByRole('button', { name: 'Size what is picked at its lower right corner' });
  const box = (await corner.boundingBox())!;
  await page.mouse.move(box.x + 4, box.y + 4);
  await page.mouse.down();
  await page.mouse.move(box.x - 16, box.y - 26, { steps: 4 });
  await page.mouse.up();
  await expect.poll(async () => Number(await width.inputValue())).toBeLessThan(wide);
  const height = page.getByLabel('Height');
  const ratio = Number(await width.inputValue()) / Number(await height.inputValue());
  await page.getByRole('button', { name: 'Turn what is picked' }).focus();
  for (let i = 0; i < 6; i++) await page.keyboard.press('ArrowRight');
  await expect.poll(async () => Number(await height.inputValue()) / Number(await width.inputValue())).toBeCloseTo(ratio, 1);
  await saved(page);
});
