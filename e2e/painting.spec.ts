import { sampleWithThree } from '@tests/sampleWithThree';
import { bringIn, bytesOf, expect, file, harbour, hull, pointAway, saved, tally, test, viewport, walls } from './kit';
import { board, colorOfModel, model, paintableBoxes, phrase, say, told } from './paintable';

const [starterRust, rust] = ['#b7493b', '#a8573a'];

test('texels are set on the art by keys and pointer, on the model by a drag, and follow their color everywhere', async ({ page }) => {
  await paintableBoxes(page);
  const slate = await colorOfModel(page);
  await page.getByRole('button', { name: /^rust, \d/ }).click();
  await expect(phrase(page)).toContainText('rust');

  // By keys: the cursor says where it is, and what is there before and after.
  await board(page).focus();
  await page.keyboard.press('ArrowUp');
  await expect(told(page).getByText(/^row \d+, place \d+: slate/)).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(told(page).getByText(/^row \d+, place \d+: rust$/)).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(told(page).getByText(/^row \d+, place \d+: slate/)).toBeVisible();

  // On the model: what is lit is set, a drag is one stroke and one undo, and does not turn the view.
  const box = (await model(page).boundingBox())!;
  const at = (x: number, y: number): [number, number] => [box.x + box.width * x, box.y + box.height * y];
  await page.mouse.move(...at(0.12, 0.45));
  await expect(told(page).getByText(/^row 2, place 6: slate/)).toBeVisible();
  await expect(page.getByText('shown at one place')).toBeVisible();
  await page.mouse.down();
  await page.mouse.move(...at(0.28, 0.45), { steps: 6 });
  await page.mouse.up();
  await pointAway(page);
  await expect.poll(() => colorOfModel(page)).toBe(starterRust);
  await page.keyboard.press('Control+z');
  await expect.poll(() => colorOfModel(page)).toBe(slate);
  await page.keyboard.press('Control+Shift+z');
  await expect.poll(() => colorOfModel(page)).toBe(starterRust);

  // The color is changed: every texel of it follows, and stays so after a reload.
  await page.getByRole('button', { name: /^rust, \d/ }).dblclick();
  const hex = page.getByRole('textbox', { name: /hex/i });
  await hex.fill(rust);
  await hex.press('Enter');
  await page.getByRole('button', { name: 'Close' }).click();
  await expect.poll(() => colorOfModel(page)).toBe(rust);
  await saved(page);
  await page.reload();
  await expect(board(page)).toBeVisible();
  await expect.poll(() => colorOfModel(page)).toBe(rust);

  // A step lighter along the ramp, once a stroke; then nothing, and what leaves shows it all.
  await say(page, /^What it sets/, /one step lighter/);
  await pointAway(page);
  await board(page).focus();
  await page.keyboard.press('Enter');
  await expect(told(page).getByText(/^row \d+, place \d+: slate$/)).toBeVisible();
  await page.getByRole('link', { name: 'Hand-off', exact: true }).click();
  const left = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Download GLB' }).click();
  const { triangles, materials } = await sampleWithThree(await bytesOf(await left));
  expect([triangles.length, materials.length]).toEqual([24, 1]);
  await expect(tally(page)).toContainText('1 draw call');
});

test('the picture of a model is looked at in four ways, one is taken and painted on, and has its own colors again', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('button', { name: 'Begin an empty kit' }).click();
  await bringIn(page, [file('wall.obj', walls([0, 0, 1, 1])), hull, harbour()]);
  await expect(tally(page)).toContainText('1 uncolored');
  await page.getByRole('link', { name: 'Paint', exact: true }).click();
  await page.getByRole('button', { name: 'Few colors, big texels' }).click();
  const way = (n: number) => page.getByRole('region', { name: `Way ${n}`, exact: true });
  await expect(way(1)).toContainText('3 colors, 64 × 32 texels');
  await expect(way(1)).toContainText('off by 0.000, at most 0.000');
  await expect(way(3)).toContainText(/off by 0\.[01]\d*[1-9]/);
  await expect(viewport(page)).toHaveAccessibleName(/in 4 ways side by side/);

  await way(4).getByRole('combobox', { name: 'Texels across' }).click();
  await page.getByRole('option', { name: /^8 texels/ }).click();
  await way(4).getByLabel('at most').fill('2');
  await way(4).getByLabel('at most').press('Enter');
  await expect(way(4)).toContainText('2 colors, 8 × 4 texels');
  await way(4).getByRole('button', { name: 'Take way 4' }).click();
  await expect(board(page)).toHaveAccessibleName(/8 × 4 texels/);
  await expect(tally(page)).toContainText('0 uncolored');
  await expect(tally(page)).toContainText('2 colors');

  // What was a picture is painted on: a texel is set, and what leaves has the texels of what was taken.
  await page.getByRole('button', { name: /^rust, \d/ }).click();
  await board(page).focus();
  await page.keyboard.press('Enter');
  await expect(told(page).getByText(/^row 3, place 5: rust$/)).toBeVisible();
  await expect(tally(page)).toContainText('3 colors');
  await saved(page);

  // It becomes a picture again, which follows no color, and one undo takes it back.
  await page.getByRole('button', { name: /^harbour, 1 face/ }).dblclick();
  await page.getByRole('button', { name: 'Leave it its own colors' }).click();
  await expect(page.getByRole('heading', { name: 'wall lies on a picture' })).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(board(page)).toBeVisible();
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('heading', { name: 'wall came with a picture' })).toBeVisible();
  await expect(tally(page)).toContainText('1 uncolored');
});

test('a finger paints on the model and on the art, two fingers turn, and masks and a mirror hold', async ({ page }) => {
  await paintableBoxes(page);
  await page.getByRole('button', { name: /^rust, \d/ }).click();
  const touch = await page.context().newCDPSession(page);
  /** Fingers come down at the first places, move through the others, and are lifted. */
  const fingers = async (...way: [number, number][][]) => {
    const points = (at: [number, number][]) => at.map(([x, y], id) => ({ x, y, id }));
    await touch.send('Emulation.setTouchEmulationEnabled', { enabled: true, maxTouchPoints: 2 });
    for (const [i, at] of way.entries())
      await touch.send('Input.dispatchTouchEvent', { type: i ? 'touchMove' : 'touchStart', touchPoints: points(at) });
    await touch.send('Input.dispatchTouchEvent', { type: 'touchEnd', touchPoints: [] });
    await touch.send('Emulation.setTouchEmulationEnabled', { enabled: false });
  };
  await pointAway(page);
  const slate = await colorOfModel(page);
  const box = (await model(page).boundingBox())!;
  const on = (x: number, y: number): [number, number] => [box.x + box.width * x, box.y + box.height * y];
  await fingers(...[0.12, 0.15, 0.19, 0.24, 0.28].map((x) => [on(x, 0.45)]));
  await expect.poll(() => colorOfModel(page)).toBe(starterRust);
  await page.getByRole('button', { name: 'Undo' }).click();
  await pointAway(page);
  await expect.poll(() => colorOfModel(page)).toBe(slate);

  // Two fingers turn the view, and set nothing.
  const before = await page.screenshot({ clip: box });
  await fingers(...[0.45, 0.5, 0.55, 0.6].map((y) => [on(0.15, y), on(0.25, y)]));
  await expect.poll(async () => (await page.screenshot({ clip: box })).equals(before)).toBe(false);
  await expect(page.getByRole('button', { name: 'Redo' })).toBeEnabled();

  // On the art: nothing is set where only another color is meant.
  const art = (await board(page).boundingBox())!;
  const tap = () => fingers([[art.x + art.width / 2, art.y + art.height / 2]]);
  await phrase(page)
    .getByRole('button', { name: /^Over which colors/ })
    .click();
  await page.getByRole('menuitemcheckbox', { name: 'slate' }).click();
  await page.getByRole('menuitemradio', { name: /^never over/ }).click();
  await page.keyboard.press('Escape');
  await expect(phrase(page)).toContainText(/sparing\s*slate/);
  await tap();
  await expect(page.getByRole('button', { name: 'Redo' })).toBeEnabled();
  await phrase(page)
    .getByRole('button', { name: /^Over which colors/ })
    .click();
  await page.getByRole('menuitemradio', { name: 'any color' }).click();
  await tap();
  await expect(page.getByRole('button', { name: 'Redo' })).toBeDisabled();
});
