import type { Page } from '@playwright/test';
import { sampleWithThree } from '@tests/sampleWithThree';
import {
  bringIn,
  bytesOf,
  colorAt,
  expect,
  file,
  openBoxes,
  openDemo,
  pickAt,
  pickBar,
  saved,
  tally,
  test,
  viewport,
  pointAway,
} from './kit';

const picked = (n: number) => new RegExp(`^${n} faces? picked`);

/** Drags over the viewport between shares of its width and height. */
async function dragOver(page: Page, from: [number, number], to: [number, number]): Promise<void> {
  const box = (await viewport(page).boundingBox())!;
  await page.mouse.move(box.x + box.width * from[0], box.y + box.height * from[1]);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width * to[0], box.y + box.height * to[1], { steps: 4 });
  await page.mouse.up();
}

const chooseWord = async (page: Page, word: RegExp, option: RegExp) => {
  await page.getByRole('button', { name: word }).click();
  await page.getByRole('menuitemradio', { name: option }).click();
};

test('the light tower is colored by rings, boxes and what they missed', async ({ page }) => {
  await openDemo(page);
  await page.keyboard.press('Shift+S');
  await expect(page.getByRole('button', { name: 'How much: the ring' })).toBeVisible();
  // The face cursor stands on a face of the wall; one key turns the ring the other way.
  const bar = pickBar(page);
  const said = page.getByRole('status', { name: 'What happened' });
  await viewport(page).focus();
  // The first frames may not have found the model yet.
  await expect(async () => {
    await page.keyboard.press('ArrowUp');
    await expect(said).toContainText('Enter takes', { timeout: 1000 });
  }).toPass();
  const rings: string[] = [];
  for (let i = 0; i < 2; i++) {
    await page.keyboard.press('Enter');
    await expect(bar).toContainText('faces picked');
    rings.push(/\d+/.exec((await bar.textContent())!)![0]);
    await page.getByRole('button', { name: /^band, lit, / }).click();
    await viewport(page).focus();
    // Another face: a second Enter on the same one would widen what it took.
    await page.keyboard.press('ArrowDown');
    await expect(said).toContainText('Enter takes');
    await page.keyboard.press('o');
  }
  expect(rings.sort()).toEqual(['12', '7']);
  // One face lies on both rings.
  const litFaces = page.getByRole('button', { name: /^band, lit, \d+ faces/ });
  const lit = async () => Number(/band, lit, (\d+) faces/.exec((await litFaces.getAttribute('aria-label'))!)![1]);
  await expect.poll(lit).toBeGreaterThanOrEqual(18);

  // A box: only what is seen; what it missed beside is counted, lit, and taken by one key.
  await page.keyboard.press('y');
  await dragOver(page, [0.42, 0.35], [0.58, 0.52]);
  await expect(bar).toContainText('faces picked');
  const count = async () => Number(/(\d+) faces? picked/.exec((await bar.textContent())!)?.[1] ?? 0);
  // By then faces without a pixel of their own have joined.
  await expect(bar).toContainText(/small faces? beside them/);
  const near = await count();
  const missed = Number(/(\d+) small faces? beside/.exec((await bar.textContent())!)![1]);
  await page.keyboard.press('i');
  await expect.poll(count).toBe(near + missed);
  const before = await lit();
  await litFaces.click();
  await expect.poll(lit).toBeGreaterThan(before);
  await chooseWord(page, /^Which side/, /both sides/);
  await dragOver(page, [0.42, 0.35], [0.58, 0.52]);
  await expect.poll(count).toBeGreaterThan(near + missed);

  // Growing and shrinking give the pick back.
  const start = await count();
  await page.keyboard.press('Shift+W');
  await expect.poll(count).toBeGreaterThan(start);
  await page.keyboard.press('Shift+Q');
  await expect.poll(count).toBeGreaterThanOrEqual(start);
});

test('a box adds and takes away, the brush stops at edges, and twins go along', async ({ page }) => {
  await openBoxes(page, 2);
  await page.keyboard.press('y');
  await dragOver(page, [0.05, 0.2], [0.45, 0.8]);
  await expect(pickBar(page)).toContainText(picked(1));
  await page.keyboard.down('Shift');
  await dragOver(page, [0.55, 0.2], [0.95, 0.8]);
  await page.keyboard.up('Shift');
  await expect(pickBar(page)).toContainText(picked(2));
  await page.keyboard.down('Alt');
  await dragOver(page, [0.05, 0.2], [0.45, 0.8]);
  await page.keyboard.up('Alt');
  await expect(pickBar(page)).toContainText(picked(1));
  await page.keyboard.press('Escape');

  // The same box by keys alone.
  const said = page.getByRole('status', { name: 'What happened' });
  await viewport(page).focus();
  await page.keyboard.press('Space');
  await expect(said).toContainText('Box from 35 to 65 % across');
  for (let i = 0; i < 30; i++) await page.keyboard.press('ArrowLeft');
  await expect(said).toContainText('Box from 0 to 30 % across');
  await page.keyboard.press('Enter');
  await expect(pickBar(page)).toContainText(picked(1));
  await page.keyboard.press('Escape');

  // The other box is the mirrored twin: it is shown before the click, and takes the color too.
  await page.keyboard.press('y');
  await page.keyboard.press('y');
  await page.keyboard.press('y');
  await expect(page.getByRole('button', { name: 'A drag: turns the view' })).toBeVisible();
  await page.keyboard.press('m');
  await expect(page.getByRole('button', { name: 'Mirrored: across x' })).toBeVisible();
  await page.keyboard.press('w');
  await pickAt(page, 0.2, 0.5, 12);
  await page.getByRole('button', { name: /^rust, 0 faces/ }).click();
  await expect(tally(page)).toContainText('0 uncolored');
  await pointAway(page);
  await expect.poll(async () => (await colorAt(page, 0.15, 0.45)) === (await colorAt(page, 0.75, 0.45))).toBe(true);
  await page.keyboard.press('Control+z');
  await expect(tally(page)).toContainText('12 uncolored');
  await page.keyboard.press('m');

  // Brushing with a color: the front alone, since its edges are sharp.
  await page.getByRole('button', { name: /^moss, 0 faces/ }).click();
  await page.keyboard.press('q');
  await chooseWord(page, /^A drag/, /brushes/);
  await dragOver(page, [0.15, 0.45], [0.25, 0.55]);
  await expect(tally(page)).toContainText('11 uncolored');
  await page.keyboard.press('q');

  // Through the model the far side is brushed, too; a lasso goes round by a free hand.
  await chooseWord(page, /^Which side/, /both sides/);
  await dragOver(page, [0.75, 0.45], [0.8, 0.5]);
  await expect(pickBar(page)).toContainText(picked(2));
  await page.keyboard.press('Escape');
  await chooseWord(page, /^A drag/, /takes a lasso/);
  await chooseWord(page, /^Which side/, /the near side/);
  const box = (await viewport(page).boundingBox())!;
  const to = (x: number, y: number) => page.mouse.move(box.x + box.width * x, box.y + box.height * y, { steps: 3 });
  await to(0.6, 0.3);
  await page.mouse.down();
  await to(0.8, 0.3);
  await to(0.7, 0.8);
  await page.mouse.up();
  await expect(pickBar(page)).toContainText(picked(1));
  await saved(page);
});

test('regions: named and colored in one act, locked, proposed, and recolored as a whole', async ({ page }) => {
  await openBoxes(page, 2);
  const region = (name: RegExp) => page.getByRole('button', { name });
  await page.getByRole('button', { name: /^slate, 0 faces/ }).click();
  await page.keyboard.press('w');
  await pickAt(page, 0.2, 0.5, 6);
  await page.getByRole('button', { name: 'Name the pick' }).click();
  await page.getByLabel('Name of the region').fill('cabin');
  await page.getByRole('button', { name: 'Make it' }).click();
  await expect(region(/^Region cabin, 6 faces, 50 % of the surface$/)).toBeVisible();
  await expect(tally(page)).toContainText('6 uncolored');
  // Naming faces that have a color never recolors them by itself.
  await page.getByRole('button', { name: /^rust, 0 faces/ }).click();
  await page.keyboard.press('f');
  await pickAt(page, 0.2, 0.5, 1);
  await page.getByRole('button', { name: 'Name the pick' }).click();
  await expect(page.getByRole('checkbox', { name: 'rust' })).not.toBeChecked();
  await page.getByLabel('Name of the region').fill('door');
  await page.getByRole('button', { name: 'Make it' }).click();
  await expect(region(/^Region door, 1 face,/)).toBeVisible();
  await expect(page.getByRole('button', { name: /^slate, 6 faces/ })).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(region(/^Region door/)).toBeHidden();

  // Nothing colors a locked face, and the attempt says so.
  const act = async (name: string, what: string) => {
    await page.getByRole('button', { name: `Actions for region ${name}` }).click();
    await page.getByRole('menuitem', { name: what, exact: true }).click();
  };
  await act('cabin', 'Lock its colors');
  await page.keyboard.press('Control+a');
  await page.getByRole('button', { name: /^rust, 0 faces/ }).click();
  await expect(page.getByText('6 faces lie in a locked region and kept their color.')).toBeVisible();
  await expect(region(/^Region cabin, 6 faces, 50 % of the surface, locked$/)).toBeVisible();
  await act('cabin', 'Unlock');

  // Proposals leave the faces of regions alone.
  await page.getByRole('button', { name: 'Proposals' }).click();
  await page.getByRole('button', { name: /By parts 2 regions/ }).click();
  await expect(region(/^Region part 2, 6 faces/)).toBeVisible();
  await region(/^Region part 2, 6 faces/).click();
  await expect(pickBar(page)).toContainText('6 faces picked');
  await page.keyboard.press('Escape');

  // A face that differs is counted; coloring the region takes all of it along.
  await page.keyboard.press('f');
  await pickAt(page, 0.2, 0.5, 1);
  await page.getByRole('button', { name: /^moss, 0 faces/ }).click();
  await expect(region(/^Region cabin, 6 faces, 50 % of the surface, 1 in other colors$/)).toBeVisible();
  await act('cabin', 'Color it with the chosen color');
  await expect(page.getByRole('button', { name: /^moss, 6 faces/ })).toBeVisible();
  await saved(page);
  await page.reload();
  await expect(region(/^Region cabin, 6 faces, 50 % of the surface$/)).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('button', { name: /^moss, 1 face on/ })).toBeVisible();
});

test('what hides a face is put out of the way: hidden, cut, and never-seen faces are found', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('button', { name: 'Begin an empty kit' }).click();
  // A crate in a crate.
  const crate = (size: number, from: number) =>
    Array.from({ length: 8 }, (_, k) => `v ${[k & 1, (k >> 1) & 1, k >> 2].map((v) => (v - 0.5) * size).join(' ')}\n`).join('') +
    ['1 3 4 2', '5 6 8 7', '1 2 6 5', '3 7 8 4', '1 5 7 3', '2 4 8 6']
      .map(
        (f) =>
          `f ${f
            .split(' ')
            .map((v) => +v + from)
            .join(' ')}\n`,
      )
      .join('');
  await bringIn(page, [file('crates.obj', crate(2, 0) + crate(1, 8))]);
  await page.getByRole('button', { name: 'Color it' }).click();
  await expect(viewport(page)).toBeVisible();
  await page.getByRole('button', { name: 'Front' }).click();
  await page.getByRole('button', { name: 'faces never seen' }).click();
  const unseen = page.getByRole('dialog', { name: 'Faces never seen' });
  await expect(unseen).toContainText('6 faces in 1 part cannot be seen from any side: 12 triangles.');
  await unseen.getByRole('button', { name: 'Pick them all' }).click();
  await page.keyboard.press('Escape');
  await expect(pickBar(page)).toContainText(picked(6));
  await page.getByRole('button', { name: /^near black, 0 faces/ }).click();
  await expect(tally(page)).toContainText('6 uncolored');

  // The outer crate is hidden, so that the inner one can be reached.
  await page.keyboard.press('f');
  await pickAt(page, 0.5, 0.5, 1);
  await page.keyboard.press('k');
  await expect(pickBar(page)).toContainText('1 face hidden');
  await pickAt(page, 0.5, 0.5, 1);
  await page.keyboard.press('c');
  await page.keyboard.press('Escape');
  await pickAt(page, 0.52, 0.48, 6);
  await page.getByRole('button', { name: /^rust, 0 faces/ }).click();
  await expect(page.getByRole('button', { name: /^rust, 6 faces/ })).toBeVisible();
  await page.keyboard.press('j');
  await expect(pickBar(page)).not.toContainText('hidden');

  // So it can be by a cut.
  await page.getByRole('button', { name: 'Lines and ground' }).click();
  await page.getByRole('group', { name: 'Cut' }).getByRole('radio', { name: 'z', exact: true }).click();
  await page.getByLabel('Where it is cut').fill('0.6');
  await page.keyboard.press('Escape');
  await pickAt(page, 0.5, 0.5, 6);
  await expect(pickBar(page)).toContainText(picked(6));
  await page.keyboard.press('j');
  await page.keyboard.press('Escape');

  // With the faces before it left out, the back of the outer crate is met from inside.
  await page.keyboard.press('f');
  await page.keyboard.press('Shift+J');
  await expect(pickBar(page)).toContainText('Faces turned to you are left out');
  await pickAt(page, 0.52, 0.48, 1);
  await page.keyboard.press('k');
  await expect(pickBar(page)).toContainText('1 face hidden');
  await page.keyboard.press('j');
  await expect(pickBar(page)).not.toContainText('left out');

  // What nobody sees stays behind at hand-off, where that is wanted.
  await page.getByRole('link', { name: 'Hand-off' }).click();
  const option = page.getByRole('checkbox', { name: /It would save: 12 triangles in 1 model/ });
  const trianglesLeaving = async () => {
    const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'Download GLB' }).click()]);
    return (await sampleWithThree(await bytesOf(download))).triangles.length;
  };
  await expect(option).not.toBeChecked();
  expect(await trianglesLeaving()).toBe(24);
  await option.check();
  expect(await trianglesLeaving()).toBe(12);
});

test('a model leaves as flat materials, whose numbers and names stay', async ({ page }) => {
  await openBoxes(page, 2);
  await page.keyboard.press('w');
  await pickAt(page, 0.2, 0.5, 6);
  await page.getByRole('button', { name: /^rust, 0 faces/ }).click();
  await pickAt(page, 0.8, 0.5, 6);
  await page.getByRole('button', { name: /^moss, 0 faces/ }).click();
  // In the list of slots a click sends the picked faces to one, as in the tray.
  await page.getByRole('button', { name: 'Slots', exact: true }).click();
  await page.keyboard.press('f');
  await pickAt(page, 0.8, 0.5, 1);
  await page.getByRole('button', { name: 'Slot 0, rust, 6 faces' }).click();
  await expect(page.getByRole('button', { name: 'Slot 0, rust, 7 faces' })).toBeVisible();
  await page.keyboard.press('Control+z');
  await page.getByRole('button', { name: 'Actions for slot 1' }).click();
  await page.getByRole('menuitem', { name: 'Pick its faces' }).click();
  await expect(pickBar(page)).toContainText(picked(6));
  await page.keyboard.press('Escape');
  await page.getByRole('link', { name: 'Hand-off' }).click();
  await page.getByRole('radio', { name: 'As flat materials' }).click();
  const table = page.getByRole('region', { name: 'Material slots of boxes' });
  await expect(table.getByRole('listitem')).toHaveCount(2);
  await table.getByLabel('Name of slot 0').fill('trim');
  await table.getByLabel('Name of slot 0').press('Enter');
  const names = async () => {
    const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'Download GLB' }).click()]);
    const { materials, triangles } = await sampleWithThree(await bytesOf(download));
    expect(triangles).toHaveLength(24);
    return materials.map((m) => m.name);
  };
  expect(await names()).toEqual(['trim', 'moss']);
  await table.getByLabel('Number of slot 1').fill('0');
  await table.getByLabel('Number of slot 1').press('Enter');
  await expect(table.getByLabel('Name of slot 0')).toHaveValue('moss');
  await saved(page);
  await page.reload();
  await page.getByRole('radio', { name: 'As flat materials' }).click();
  expect(await names()).toEqual(['moss', 'trim']);
  // Another color keeps number and name, and moves no other slot.
  await table.getByRole('button', { name: 'Another color for slot 1' }).click();
  await page.getByRole('dialog', { name: 'Colors for slot 1' }).getByRole('button', { name: 'slate', exact: true }).click();
  await expect(table.getByLabel('Name of slot 1')).toHaveValue('trim');
  expect(await names()).toEqual(['moss', 'trim']);
  await page.getByRole('radio', { name: '1', exact: true }).click();
  await page.getByLabel('Numbers in names').check();
  expect(await names()).toEqual(['1-moss', '2-trim']);
});
