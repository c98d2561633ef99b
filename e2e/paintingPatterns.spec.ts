import { convertIndexedToRgb, decode, encode } from 'fast-png';
import { bytesOf, colorAt, expect, pickAt, pointAway, saved, tally, test, viewport } from './kit';
import { board, colorOfModel, model, paintableBoxes, phrase, say, told } from './paintable';

test('a motif goes along the ramp, mirrored; one of our own is drawn, and kept on what is picked; variants follow', async ({ page }) => {
  await paintableBoxes(page);
  const slate = await colorOfModel(page);
  await page.getByRole('button', { name: 'New motif' }).click();
  const panel = page.getByRole('dialog', { name: /^Motif: motif/ });
  await expect(panel).toContainText('It has no step yet');
  await panel.getByRole('spinbutton', { name: 'Across' }).fill('2');
  await panel.getByRole('spinbutton', { name: 'Down' }).fill('1');
  await panel.getByRole('spinbutton', { name: 'Down' }).press('Enter');
  const grid = panel.getByRole('application', { name: /^The motif, 2 × 1 texels/ });
  await grid.focus();
  await page.keyboard.press('+');
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('-');
  await expect(panel).not.toContainText('It has no step yet');
  await panel.getByRole('button', { name: 'Close' }).click();
  await expect(phrase(page)).toContainText(/with\s*motif\s*around\s*what is there/);

  // Every texel of both boxes has a step, and each half is the image of the other.
  await say(page, /^What is painted/, /all texels of what hangs/);
  await say(page, /^Mirrored/, /across x/);
  const box = (await model(page).boundingBox())!;
  await page.mouse.move(box.x + box.width * 0.19, box.y + box.height * 0.45);
  await expect(model(page).getByRole('status')).toContainText(/shown at one place, and across/);
  await page.mouse.down();
  await page.mouse.up();
  await pointAway(page);
  await expect.poll(() => colorOfModel(page)).not.toBe(slate);
  for (const x of [0.13, 0.19, 0.25]) expect([x, await colorAt(page, x, 0.45)]).toEqual([x, await colorAt(page, 1 - x, 0.45)]);
  const shades = new Set<string>();
  for (let x = 0.1; x < 0.3; x += 0.02) shades.add(await colorAt(page, x, 0.45));
  expect(shades.size).toBeGreaterThan(1);

  // Kept on the pick, with a color of its own to go around.
  await page.keyboard.press('Control+a');
  await page.getByRole('button', { name: /^rust, \d/ }).click();
  await page.getByRole('button', { name: 'motif', exact: true }).click();
  await page.getByRole('button', { name: 'Keep on the pick' }).click();
  await expect(page.getByText('A motif that is kept goes around a color')).toBeVisible();
  await say(page, /^Around what/, /^.?rust/);
  await page.getByRole('button', { name: 'Keep on the pick' }).click();
  await page.getByRole('button', { name: '1 pattern kept' }).click();
  const kept = page.getByRole('dialog', { name: 'Kept patterns' });
  await expect(kept).toContainText('motif around rust');
  await expect(kept).toContainText('as it was made');
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');

  // In a variant the color is another one, and every texel of it follows there alone.
  const own = await colorOfModel(page);
  await page.getByRole('button', { name: /^Which coloring/ }).click();
  await page.getByRole('menuitem', { name: 'New variant' }).click();
  await page.getByLabel('Name of the variant').fill('Moss');
  await page.getByLabel('Name of the variant').press('Enter');
  await page.getByRole('button', { name: 'Close' }).click();
  for (const role of ['rust, lit', 'rust, in shade']) {
    await page
      .getByRole('button', { name: new RegExp(`^${role}, \\d`) })
      .first()
      .dblclick();
    await page.getByRole('textbox', { name: /hex/i }).fill('#20a060');
    await page.getByRole('textbox', { name: /hex/i }).press('Enter');
    await page.getByRole('button', { name: 'Close' }).click();
  }
  await pointAway(page);
  await expect.poll(() => colorOfModel(page)).toBe('#20a060');
  await saved(page);
  expect(own).not.toBe('#20a060');
});

test('noise stays within a mask; places share texels, and are parted; what lies behind is reached', async ({ page }) => {
  await paintableBoxes(page);
  const slate = await colorOfModel(page);
  await page.keyboard.press('Control+a');
  await page.getByRole('button', { name: 'Share texels' }).click();
  await expect(model(page)).toContainText('faces share texels');
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: /^rust, \d/ }).click();
  await say(page, /^What is painted/, /all texels that it shows/);
  const box = (await model(page).boundingBox())!;
  const press = async (x: number) => {
    await page.mouse.move(box.x + box.width * x, box.y + box.height * 0.45);
    await expect(model(page).getByRole('status')).toContainText('shown');
    await page.mouse.down();
    await page.mouse.up();
    await pointAway(page);
  };
  const both = async () => [await colorAt(page, 0.19, 0.45), await colorAt(page, 0.81, 0.45)];
  await press(0.19);
  await expect.poll(both).toEqual(['#b7493b', '#b7493b']);
  await page.keyboard.press('Control+z');
  await expect.poll(both).toEqual([slate, slate]);
  const texture = (await tally(page).innerText()).replace(/\s/g, ' ');
  await page.getByRole('button', { name: 'Part them' }).click();
  await expect(model(page)).not.toContainText('share texels');
  await expect.poll(both).toEqual([slate, slate]);
  await press(0.19);
  await expect.poll(both).toEqual(['#b7493b', slate]);
  expect(texture).toContain('draw call');

  // Noise on all of a color, but never over rust: it stays.
  await say(page, /^What it sets/, /^.?noise/);
  await phrase(page)
    .getByRole('button', { name: /^Over which colors/ })
    .click();
  await page.getByRole('menuitemcheckbox', { name: 'rust', exact: true }).click();
  await page.getByRole('menuitemradio', { name: /^never over/ }).click();
  await page.keyboard.press('Escape');
  await say(page, /^What is painted/, /on all art of the sheet/);
  await page.mouse.move(box.x + box.width * 0.19, box.y + box.height * 0.45);
  await expect(model(page).getByRole('status')).toContainText('0 texels');
  await say(page, /^What is painted/, /one after the other/);
  await say(page, /^Over which colors/, /any color/);

  // Through all layers the far side is set as well.
  await say(page, /^Where/, /through all layers/);
  await page.mouse.move(box.x + box.width * 0.81, box.y + box.height * 0.45);
  await expect(model(page).getByRole('status')).toContainText('2 texels');

  // The part under the pointer is hidden, what it hid can be painted, and all comes back.
  await page.keyboard.press('k');
  await expect(model(page)).toContainText('6 faces hidden');
  await pointAway(page);
  expect(await colorAt(page, 0.81, 0.45)).not.toBe(slate);
  await page.getByRole('button', { name: 'Show all' }).click();
  await pointAway(page);
  await expect.poll(() => colorAt(page, 0.81, 0.45)).toBe(slate);
});

test('the art is saved as a PNG, and what another program makes of it is asked about, taken, and undone', async ({ page }) => {
  await page.addInitScript(() => {
    const files = window as unknown as { onDisk: File; showOpenFilePicker: () => Promise<unknown[]> };
    files.showOpenFilePicker = () => Promise.resolve([{ name: 'boxes.png', getFile: () => Promise.resolve(files.onDisk) }]);
  });
  await paintableBoxes(page);
  const file = () => page.getByRole('button', { name: 'The art as a file' }).click();
  await file();
  const left = page.waitForEvent('download');
  await page.getByRole('menuitem', { name: /^Save as PNG, 4 times/ }).click();
  const bytes = await bytesOf(await left);
  const [, width, height] = /art, (\d+) × (\d+) texels/.exec((await board(page).getAttribute('aria-label'))!)!.map(Number) as number[];
  const picture = decode(bytes, { checkCrc: true });
  expect([picture.width, picture.height]).toEqual([width! * 4, height! * 4]);

  // Another program paints one texel of the art, four of the file a side.
  const rgba = new Uint8Array(picture.width * picture.height * 4);
  const rgb = picture.palette ? convertIndexedToRgb(picture) : picture.data;
  const step = rgb.length / (picture.width * picture.height);
  for (let t = 0; t < picture.width * picture.height; t++) rgba.set([rgb[t * step]!, rgb[t * step + 1]!, rgb[t * step + 2]!, 255], t * 4);
  for (let y = 4; y < 8; y++) for (let x = 8; x < 12; x++) rgba.set([10, 200, 30, 255], (y * picture.width + x) * 4);
  const changed = encode({ width: picture.width, height: picture.height, data: rgba, channels: 4, depth: 8 });
  const put = (data: number[], at: number) =>
    page.evaluate(
      ([list, lastModified]) => {
        (window as unknown as { onDisk: File }).onDisk = new File([Uint8Array.from(list as number[])], 'boxes.png', {
          lastModified: lastModified as number,
        });
      },
      [data, at] as const,
    );
  await put([...bytes], 1);
  await file();
  await page.getByRole('menuitem', { name: 'Follow a PNG on the disk' }).click();
  await expect(told(page)).toContainText('boxes.png is followed. It shows what is here.');
  await put([...changed], 2);
  await expect(told(page)).toContainText('boxes.png differs in 1 texel, and brings 1 color.');
  await expect(tally(page)).toContainText('1 color');
  await page.getByRole('button', { name: 'Take it' }).click();
  await expect(tally(page)).toContainText('2 colors');
  await expect(told(page)).toContainText('It shows what is here.');
  await page.keyboard.press('Control+z');
  await expect(tally(page)).toContainText('1 color');

  // A picture that does not fit is refused in words, and changes nothing.
  await put([...encode({ width: 3, height: 3, data: new Uint8Array(36), channels: 4, depth: 8 })], 3);
  await expect(told(page)).toContainText('boxes.png cannot be taken. The picture has 3 × 3 texels; this art has');
  await page.getByRole('button', { name: 'Follow no more' }).click();
  await expect(told(page)).not.toContainText('boxes.png');
});

test('a mirror that was forgotten is made good: one side is copied to the other', async ({ page }) => {
  await paintableBoxes(page);
  const slate = await colorOfModel(page);
  const both = async () => [await colorAt(page, 0.19, 0.45), await colorAt(page, 0.81, 0.45)];
  await page.getByRole('button', { name: /^rust, \d/ }).click();
  await say(page, /^What is painted/, /all texels that it shows/);
  const box = (await model(page).boundingBox())!;
  await page.keyboard.press('Escape');
  await page.mouse.move(box.x + box.width * 0.19, box.y + box.height * 0.45);
  await expect(model(page).getByRole('status')).toContainText('shown');
  await page.mouse.down();
  await page.mouse.up();
  await pointAway(page);
  await expect.poll(both).toEqual(['#b7493b', slate]);
  await page.getByRole('link', { name: 'Color', exact: true }).click();
  await page.waitForURL(/color/);
  await expect(viewport(page).first()).toHaveAttribute('aria-busy', 'false');
  await page.getByRole('button', { name: 'Frame', exact: true }).click();
  await page.keyboard.press('w');
  await pickAt(page, 0.2, 0.5, 6);
  await page.getByRole('link', { name: 'Paint', exact: true }).click();
  await say(page, /^Mirrored/, /across x/);
  await page.getByRole('button', { name: 'Copy to the other side' }).click();
  await page.getByRole('button', { name: 'Frame', exact: true }).click();
  await page.keyboard.press('Escape');
  await pointAway(page);
  await expect.poll(both).toEqual(['#b7493b', '#b7493b']);
  await page.keyboard.press('Control+z');
  await expect.poll(both).toEqual(['#b7493b', slate]);
});
