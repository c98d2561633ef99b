import { numerals } from '../scripts/demo-kit/numerals';
import { encodePng } from '@/core/ground/pictures/png';
import { bringIn, expect, file, pickBar, saved, test, viewport } from './kit';

/** A tide gauge: a post of eight sides, closed at both ends, and a board before it. */
function gauge(): string {
  const ring = (y: number) =>
    Array.from({ length: 8 }, (_, i) => `v ${Math.cos((i / 4) * Math.PI) / 2} ${y} ${-Math.sin((i / 4) * Math.PI) / 2}`);
  const sides = Array.from({ length: 8 }, (_, i) => `f ${i + 1} ${((i + 1) % 8) + 1} ${((i + 1) % 8) + 9} ${i + 9}`);
  const board = ['v -0.5 0.2 1', 'v 0.5 0.2 1', 'v 0.5 3.8 1', 'v -0.5 3.8 1'];
  return [...ring(0), ...ring(4), ...board, ...sides, 'f 8 7 6 5 4 3 2 1', 'f 9 10 11 12 13 14 15 16', 'f 17 18 19 20'].join('\n');
}

test('the tide gauge: room for art beside the colors, its board on the numerals, the rest unwrapped along seams', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('button', { name: 'Begin an empty kit' }).click();
  await bringIn(page, [file('tide gauge.obj', gauge())]);
  await page.getByRole('link', { name: 'Islands', exact: true }).click();
  await expect(viewport(page)).toHaveAttribute('aria-busy', 'false');

  // One step from the palette to a sheet on which art takes most.
  await page.getByRole('button', { name: 'Make room for art' }).click();
  const panel = page.getByRole('dialog', { name: 'Room for art' });
  const picture = { name: 'numerals.png', mimeType: 'image/png', buffer: Buffer.from(encodePng(numerals())) };
  await panel.getByLabel('Picture for the art').setInputFiles(picture);
  await expect(panel.getByText('128 × 256 texels; art 64 × 256')).toBeVisible();
  await panel.getByRole('radio', { name: 'Right' }).click();
  await panel.getByRole('button', { name: 'Make room' }).click();
  await expect(page.getByRole('group', { name: /^The sheet, 128 × 256 texels/ })).toBeVisible();
  await expect(page.getByLabel('Tally')).toContainText('128×256 texels');

  // What is closed all around is not laid flat without a cut; said, and offered.
  await viewport(page).focus();
  await page.keyboard.press('Control+a');
  const flat = page.getByRole('group', { name: 'Lay faces flat' });
  const seams = page.getByRole('group', { name: 'Seams' });
  await expect(seams).toContainText('0 edges of seams');
  await flat.getByRole('button', { name: 'along seams' }).click();
  await expect(page.getByText('10 faces of these cannot lie flat without a cut')).toBeVisible();
  const stretch = page.getByRole('group', { name: 'Stretch' });
  await expect(stretch).toBeHidden();
  await page.getByRole('button', { name: 'Cut and lay flat' }).click();
  // The post unfolds at each of its edges but nine, and the board lies beside it.
  await expect(page.getByText('11 faces lie flat in 2 islands; 15 edges cut besides your seams.')).toBeVisible();
  await expect(stretch).toContainText('Stretch ×1.00 area, ×1.00 angle');
  await expect(page.getByRole('group', { name: 'What is wrong' })).toBeHidden();
  // The cuts became seams; one undo takes all of it back.
  await expect(seams).toContainText('15 edges of seams');
  await page.keyboard.press('Control+z');
  await expect(seams).toContainText('0 edges of seams');
  await expect(stretch).toBeHidden();

  // A seam drawn on the model, from point to point along edges; with Alt it is taken away again.
  await page.getByRole('button', { name: /^A drag/ }).click();
  await page.getByRole('menuitemradio', { name: /draws a seam/ }).click();
  await viewport(page).focus();
  await page.keyboard.press('Shift+4');
  const screen = (await viewport(page).boundingBox())!;
  const drawSeam = async () => {
    await page.mouse.move(screen.x + screen.width * 0.5, screen.y + screen.height * 0.3);
    await page.mouse.down();
    await page.mouse.move(screen.x + screen.width * 0.5, screen.y + screen.height * 0.5, { steps: 2 });
    await page.mouse.move(screen.x + screen.width * 0.5, screen.y + screen.height * 0.75, { steps: 2 });
    await page.mouse.up();
  };
  await drawSeam();
  await expect(seams).toContainText('1 edge of seams');
  await page.keyboard.down('Alt');
  await drawSeam();
  await page.keyboard.up('Alt');
  await expect(seams).toContainText('0 edges of seams');

  // With seams at its creases only the round of the post has still to be cut, along one line.
  await seams.getByRole('button', { name: 'Mark seams' }).click();
  await page.getByRole('menuitem', { name: 'At creases' }).click();
  await expect(seams).toContainText('16 edges of seams');
  await viewport(page).focus();
  await page.keyboard.press('Control+a');
  await flat.getByRole('button', { name: 'along seams' }).click();
  await page.getByRole('button', { name: 'Cut and lay flat' }).last().click(); // prettier-ignore
  await expect(page.getByText('11 faces lie flat in 4 islands; 1 edge cut besides your seams.')).toBeVisible();
  await stretch.getByRole('radio', { name: 'Angle' }).click();
  await expect(stretch).toContainText('×2 or more');
  await stretch.getByRole('button', { name: 'Faces that are stretched most' }).click();
  await expect(page.getByText('can hardly be seen, count for less')).toBeVisible();
  await page.keyboard.press('Escape');

  // The board's panels go on the numerals as they stand, sized by a corner of the handles.
  await viewport(page).focus();
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: /^Island of 1 face/ }).last().click(); // prettier-ignore
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
