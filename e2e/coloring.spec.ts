import { sampleWithThree } from '@tests/sampleWithThree';
import {
  boxesObj,
  bringIn,
  bytesOf,
  clickAt,
  pickAt,
  colorAt,
  expect,
  file,
  openBoxes,
  openDemo,
  pickBar,
  saved,
  tally,
  test,
  viewport,
  pointAway,
} from './kit';

const picked = (n: number) => (n === 1 ? '1 face picked' : `${n} faces picked`);

test('a bare model: bring in, pick, color, edit, undo, reload, hand off', async ({ page }) => {
  await openBoxes(page, 2);
  await expect(tally(page)).toContainText('12 uncolored');
  await expect(page.getByText('12 not yet colored')).toBeVisible();

  // A part, then a flat area on the other one.
  await page.keyboard.press('w');
  await clickAt(page, 0.2, 0.5);
  await expect(pickBar(page).getByText(picked(6))).toBeVisible();
  await page.getByRole('button', { name: /^moss, 0 faces/ }).click();
  await expect(page.getByText('6 not yet colored')).toBeVisible();
  await page.keyboard.press('a');
  await clickAt(page, 0.8, 0.5);
  await expect(pickBar(page).getByText(picked(1))).toBeVisible();
  await page.getByRole('button', { name: /^rust, 0 faces/ }).click();
  await expect(tally(page)).toContainText('5 uncolored');
  await expect(tally(page)).toContainText('2 colors');

  // What the screen shows is exactly the cell's color.
  await pointAway(page);
  const rust = page.getByRole('button', { name: /^rust, 1 face/ });
  const hex = async () => /#[0-9a-f]{6}/.exec((await rust.getAttribute('title')) ?? '')![0];
  await expect.poll(async () => [await colorAt(page, 0.75, 0.45), await hex()]).toEqual([await hex(), await hex()]);

  // Editing a color moves its faces with it; so do undo and redo.
  const before = await hex();
  await rust.dblclick();
  const editor = page.getByRole('dialog', { name: 'Edit color' });
  await editor.getByLabel('Hex').fill('#3a7ca5');
  await editor.getByLabel('Hex').press('Enter');
  await editor.getByRole('button', { name: 'Close' }).click();
  await pointAway(page);
  await expect.poll(() => colorAt(page, 0.75, 0.45)).toBe('#3a7ca5');
  await page.keyboard.press('Control+z');
  await expect.poll(() => colorAt(page, 0.75, 0.45)).toBe(before);
  await page.keyboard.press('Control+Shift+z');
  await expect.poll(hex).toBe('#3a7ca5');

  await saved(page);
  await page.reload();
  await expect(tally(page)).toContainText('5 uncolored');
  await page.keyboard.press('Control+z');
  await expect.poll(hex).toBe(before);
  await page.keyboard.press('Control+Shift+z');

  await page.getByRole('link', { name: 'Hand-off' }).click();
  await expect(page.getByRole('note')).toContainText('5 faces not yet colored');
  const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'Download GLB' }).click()]);
  const { triangles, materials } = await sampleWithThree(await bytesOf(download));
  expect(materials.map((m) => m.name)).toEqual(['Sheet', 'not yet colored']);
  const blue = triangles.filter((t) => String(t.color) === '58,124,165');
  expect(blue.map((t) => [t.middle[0] > 2, t.middle[2]])).toEqual([
    [true, 1],
    [true, 1],
  ]);
  expect(triangles.filter((t) => t.color && t.middle[0] <= 1)).toHaveLength(12);
});

test('the demo kit: next uncolored, color as I click, steps, eyedropper, a new color on a spare cell', async ({ page }) => {
  await openDemo(page);
  await expect(page.getByLabel('Models of the kit').getByRole('listitem')).toHaveCount(10);
  const uncolored = async () => Number(/([\d,]+) uncolored/.exec((await tally(page).textContent()) ?? '')?.[1]?.replace(',', ''));
  const start = await uncolored();

  // The tower is done: the way on to the one model that is bare stands above it, and its key leads there.
  const bar = pickBar(page);
  await expect(bar).toContainText('Every face is coloredRon to Crab pots, still bare');
  await page.keyboard.press('r');
  await expect(viewport(page)).toHaveAccessibleName(/Crab pots/);
  await page.keyboard.press('r');
  await expect(bar).toContainText('picked');
  const count = Number(/(\d+) face/.exec((await bar.textContent())!)![1]);
  await page.getByRole('button', { name: /^lime wash, weathered/ }).click();
  await expect.poll(uncolored).toBe(start - count);

  // The pick comes back with one key and walks down its ramp.
  await page.keyboard.press('g');
  await page.keyboard.press('d');
  await expect(page.getByRole('status', { name: 'What happened' })).toHaveText('One step darker');
  await page.keyboard.press('d');
  await expect(page.getByRole('status', { name: 'What happened' })).toContainText('dark end of their ramp');
  await page.keyboard.press('Escape');

  // Color as I click; the second click of a double click widens, and both are one undo.
  const float = [0.698, 0.68] as const;
  await page.getByRole('button', { name: /^timber/ }).click();
  await page.keyboard.press('q');
  await page.keyboard.press('f');
  const bare = await uncolored();
  await page.getByRole('button', { name: 'Top' }).click();
  await clickAt(page, ...float);
  await expect.poll(uncolored).toBe(bare - 1);
  await page.keyboard.press('Control+z');
  await expect.poll(uncolored).toBe(bare);
  await clickAt(page, ...float, { clickCount: 2 });
  await expect.poll(uncolored).toBeLessThan(bare);
  await page.keyboard.press('Control+z');
  await expect.poll(uncolored).toBe(bare);
  await page.keyboard.press('q');

  // "Only here": the picked faces get a color of their own.
  await page.keyboard.press('w');
  await clickAt(page, ...float);
  await expect(bar).toContainText(/\d faces? picked/);
  await page.keyboard.press('b');
  const panel = page.getByRole('dialog', { name: 'A color only here' });
  await panel.getByLabel('Role').fill('tarred rope');
  await panel.getByLabel('Hue').focus();
  await page.keyboard.press('ArrowRight');
  await panel.getByRole('button', { name: 'Make the color' }).click();
  await expect(page.getByRole('button', { name: /^tarred rope, [1-9]/ })).toBeVisible();
  await expect(page.getByText('1 spare', { exact: true })).toBeVisible();
  await expect.poll(uncolored).toBeLessThan(bare);
});

test('a used color asks where its faces should go; an empty tray grows without moving anything', async ({ page }) => {
  await openBoxes(page, 1);
  await page.keyboard.press('Control+a');
  await page.getByRole('button', { name: /^straw, 0 faces/ }).click();
  await page.getByRole('button', { name: /^straw, 6 faces/ }).dblclick();
  const editor = page.getByRole('dialog', { name: 'Edit color' });
  await editor.getByRole('button', { name: 'Make it spare' }).click();
  await editor.getByRole('button', { name: 'To slate, lit' }).click();
  await expect(page.getByRole('button', { name: /^slate, lit, 6 faces/ })).toBeVisible();
  await expect(page.getByText('4-texel cells, 3 spare')).toBeVisible();
  for (const role of ['one', 'two', 'three', 'four']) {
    await page.getByRole('button', { name: 'New color', exact: true }).click();
    const panel = page.getByRole('dialog', { name: 'A new color from this one' });
    await panel.getByLabel('Role').fill(role);
    await panel.getByRole('button', { name: 'Make the color' }).click();
    await expect(panel).toBeHidden();
  }
  await expect(page.getByRole('button', { name: '16 × 32 texels' })).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('button', { name: '16 × 16 texels' })).toBeVisible();
});

test('the keyboard alone picks and colors', async ({ page }) => {
  await openBoxes(page, 2);
  const said = page.getByRole('status', { name: 'What happened' });
  await viewport(page).focus();
  await page.keyboard.press('ArrowRight');
  await expect(said).toContainText(/part \d of 2, face \d+, not yet colored; Enter takes it/);
  await page.keyboard.press('ArrowRight');
  await expect(said).toContainText('box 2, part 2 of 2');
  await page.keyboard.press('w');
  await page.keyboard.press('Enter');
  await expect(pickBar(page).getByText(picked(6))).toBeVisible();
  await page.keyboard.press('2');
  await expect(page.getByRole('button', { name: /^rust, 6 faces/ })).toBeVisible();

  // A word of the phrase is a menu.
  await page.getByRole('button', { name: 'How much: the whole part' }).focus();
  await page.keyboard.press('Enter');
  await page.getByRole('menuitemradio', { name: /one face/ }).focus();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: 'How much: one face' })).toBeFocused();

  await viewport(page).focus();
  await page.keyboard.press('ArrowLeft');
  await expect(said).toContainText('box 1');
  await page.keyboard.press('Enter');
  await page.keyboard.press('Shift+?');
  await expect(page.getByRole('dialog', { name: 'Help' })).toBeVisible();
  await expect(page.getByRole('img', { name: /The light tower in Color/ })).toHaveJSProperty('naturalWidth', 1280);
  await page.getByRole('radio', { name: 'Keys and pointer' }).click();
  await expect(page.getByText('the mirrored twin joins')).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(pickBar(page).getByText(picked(1))).toBeVisible();
  await page.keyboard.press('v');
  await expect(pickBar(page).getByText(picked(11))).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.getByText('6 not yet colored')).toBeVisible();
});

test('materials that came along become cells; what is wrong is shown and repaired', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('button', { name: 'Begin an empty kit' }).click();
  const obj = boxesObj(3, (i) => ['tar', 'sail', 'tar too'][i]!).replace('f 5 6 8 7', 'f 5 7 8 6');
  await bringIn(page, [
    file('boxes.obj', obj),
    file('boxes.mtl', 'newmtl tar\nKd 0.2 0.2 0.25\nnewmtl sail\nKd 0.9 0.85 0.7\nnewmtl tar too\nKd 0.2 0.2 0.25\n'),
  ]);
  const report = page.getByRole('article', { name: 'Report of boxes' });
  await expect(report).toContainText('1 face flipped against its neighbours');
  await report.getByRole('button', { name: 'Turn them outward' }).click();
  await expect(report).toContainText('Nothing is wrong with this mesh');
  const offer = report.getByRole('region', { name: 'Colors of its materials' });
  await expect(offer).toContainText('2 different colors');
  await offer.getByRole('button', { name: 'Take these colors' }).click();
  await expect(tally(page)).toContainText('0 uncolored');
  await expect(tally(page)).toContainText('2 colors');
  await page.getByRole('link', { name: 'Color', exact: true }).click();
  await expect(page.getByRole('button', { name: /^tar, 12 faces on 1 model/ })).toBeVisible();
});

test('ramps: one color becomes five, a ramp is tuned on the model, and steps go past its end', async ({ page }) => {
  await openBoxes(page, 2);
  await page.keyboard.press('w');
  await pickAt(page, 0.2, 0.5, 6);
  await page.getByRole('button', { name: /^rust, in shade/ }).click();

  // Tuning shows at once, and is kept or not.
  const shown = () => colorAt(page, 0.15, 0.45);
  await pointAway(page);
  const before = await shown();
  await page.getByRole('button', { name: 'Ramp Rust: tune, add steps' }).click();
  const panel = page.getByRole('dialog', { name: 'Ramp' });
  const cool = panel.getByRole('slider', { name: 'Cool shade' });
  await cool.fill('50');
  await expect.poll(shown).not.toBe(before);
  await panel.getByRole('button', { name: 'As it was' }).click();
  await expect.poll(shown).toBe(before);
  await cool.fill('50');
  await panel.getByRole('button', { name: 'Keep' }).click();
  await panel.getByRole('button', { name: 'Close' }).click();
  await expect.poll(shown).not.toBe(before);
  await page.keyboard.press('Control+z');
  await expect.poll(shown).toBe(before);

  // Past the end of the ramp, by one key.
  await pickAt(page, 0.2, 0.5, 6);
  await page.keyboard.press('d');
  await expect(page.getByText('Make a darker step (Shift D)')).toBeVisible();
  await page.keyboard.press('Shift+D');
  await expect(page.getByRole('button', { name: /^rust, in shade, darker, 6 faces/ })).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('button', { name: /^rust, in shade, 6 faces/ })).toBeVisible();
  await page.keyboard.press('Escape');

  await page.getByRole('button', { name: 'New ramp' }).click();
  const made = page.getByRole('dialog', { name: 'A new ramp' });
  await made.getByLabel('Name').fill('sea');
  await made.getByRole('radio', { name: '5' }).click();
  await expect(made).toContainText('Only 2 spare: the sheet grows, nothing moves.');
  await made.getByRole('button', { name: 'Make the ramp' }).click();
  await expect(page.getByRole('group', { name: 'sea', exact: true }).getByRole('button', { name: /faces on/ })).toHaveCount(5);
  await expect(page.getByRole('button', { name: '16 × 32 texels' })).toBeVisible();
  await expect.poll(shown).toBe(before);
});
