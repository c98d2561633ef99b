import type { Page } from '@playwright/test';
import { sampleWithThree } from '@tests/sampleWithThree';
import {
  boxesObj,
  bringIn,
  bytesOf,
  clickAt,
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
} from './kit';

const picked = (n: number) => new RegExp(`^${n} faces? picked`);
const modelAction = async (page: Page, model: string, what: string) => {
  await page.getByRole('button', { name: `Actions for ${model}` }).click();
  await page.getByRole('menuitem', { name: what }).click();
};
/** How many faces sit on a color of the tray. */
const facesOn = async (page: Page, role: string) => {
  const label = await page.getByRole('button', { name: new RegExp(`^${role}, \\d+ face`) }).getAttribute('aria-label');
  return Number(/, (\d+) face/.exec(label!)![1]);
};

test('a file that was changed outside is read again: colors stay, what cannot be matched is listed and bare', async ({ page }) => {
  await openBoxes(page, 3);
  await page.keyboard.press('w');
  await pickAt(page, 0.12, 0.5, 6);
  await page.getByRole('button', { name: /^rust, 0 faces/ }).click();
  await pickAt(page, 0.5, 0.5, 6);
  await page.getByRole('button', { name: 'Name the pick' }).click();
  await page.getByLabel('Name of the region').fill('deck');
  await page.getByRole('button', { name: 'Make it' }).click();
  await pickAt(page, 0.88, 0.5, 6);
  await page.keyboard.press('n');
  await page.getByRole('button', { name: /^moss, 0 faces/ }).click();
  await expect(tally(page)).toContainText('0 uncolored');

  // Outside, the last box was moved far up, and a roof was set on the first.
  const changed =
    boxesObj(3)
      .split('\n')
      .map((line, i, all) => {
        const vertices = all.slice(0, i).filter((l) => l.startsWith('v ')).length;
        const [x, y, z] = line.slice(2).split(' ').map(Number);
        return line.startsWith('v ') && vertices >= 16 ? `v ${x! + 3} ${y! + 9} ${z}` : line;
      })
      .join('\n') + 'o roof\nv 0 2 0\nv 1 2 0\nv 0.5 3 0\nv 0.5 2 1\nf 25 26 27\nf 26 28 27\nf 28 25 27\n';
  const choosing = page.waitForEvent('filechooser');
  await modelAction(page, 'boxes', 'Read its file again');
  await (await choosing).setFiles([file('boxes.obj', changed)]);
  const report = page.getByRole('region', { name: 'boxes was read again' });
  await expect(report).toContainText('18 of 21 faces known again');
  await expect(report).toContainText('12in the same place');
  await expect(report).toContainText('6on parts that moved');
  await expect(report).toContainText('3 faces could not be matched');
  await expect(tally(page)).toContainText('3 uncolored');
  expect([await facesOn(page, 'rust'), await facesOn(page, 'moss')]).toEqual([12, 6]);
  await expect(page.getByRole('button', { name: /^Region deck, 6 faces/ })).toBeVisible();
  await report.getByRole('button', { name: 'pick 3 faces' }).click();
  await expect(pickBar(page)).toContainText(picked(3));
  await page.getByRole('button', { name: '1 remembered' }).click();
  await page
    .getByRole('dialog', { name: 'Remembered picks' })
    .getByRole('button', { name: /^pick 6/ })
    .click();
  await expect(pickBar(page)).toContainText(picked(6));
  await page.keyboard.press('Escape');
  await saved(page);
  await page.reload();
  await expect(tally(page)).toContainText('3 uncolored');
  await page.keyboard.press('Control+z');
  await expect(tally(page)).toContainText('0 uncolored');
  await expect(page.getByRole('button', { name: /boxes 18 faces/ })).toBeVisible();

  // A file that is none leaves everything as it is.
  const again = page.waitForEvent('filechooser');
  await modelAction(page, 'boxes', 'Read its file again');
  await (await again).setFiles([file('boxes.obj', 'f 1 2 3\n')]);
  await expect(page.getByText(/boxes\.obj/).first()).toBeVisible();
  await expect(tally(page)).toContainText('0 uncolored');
});

test('colors come to an altered copy, and a pick of one color goes through the whole kit', async ({ page }) => {
  await openBoxes(page, 2);
  await page.keyboard.press('w');
  await pickAt(page, 0.2, 0.5, 6);
  await page.getByRole('button', { name: /^rust, 0 faces/ }).click();
  // The copy is ten times as large.
  const large = boxesObj(2).replace(
    /^v (.*)$/gm,
    (_, v: string) =>
      `v ${v
        .split(' ')
        .map((n) => Number(n) * 10)
        .join(' ')}`,
  );
  await page.getByRole('link', { name: 'Gather' }).click();
  await bringIn(page, [file('large.obj', large)]);
  await page.getByRole('button', { name: 'Color it' }).first().click();
  await expect(viewport(page)).toBeVisible();
  const takeFromBoxes = async () => {
    await modelAction(page, 'large', 'Take colors from another model');
    await page
      .getByRole('dialog')
      .getByRole('button', { name: /^boxes/ })
      .click();
  };
  // Matching has a worker of its own, here one that starts late: faces can be picked meanwhile, and it can be
  // cancelled.
  await page.route(/\.js$/, async (route) => {
    await new Promise((resolve) => setTimeout(resolve, 4000));
    await route.continue();
  });
  await takeFromBoxes();
  await expect(page.getByText('Matching faces')).toBeVisible();
  await clickAt(page, 0.2, 0.5);
  await expect(pickBar(page)).toContainText('6 faces picked');
  await page.getByRole('button', { name: 'Cancel' }).click();
  await expect(page.getByText('Matching faces')).toBeHidden();
  expect(await facesOn(page, 'rust')).toBe(6);
  await page.unrouteAll({ behavior: 'ignoreErrors' });
  await page.keyboard.press('Escape');

  await takeFromBoxes();
  await expect(page.getByRole('region', { name: 'Colors came from boxes' })).toContainText('12 of 12 faces known again');
  await expect.poll(() => facesOn(page, 'rust')).toBe(12);

  // Same color in the whole kit: here and on the other model, which has its share of the pick when it is shown.
  await page.getByRole('button', { name: /^How much/ }).click();
  await page.getByRole('menuitemradio', { name: /the same color in the whole kit/ }).click();
  await page.getByRole('button', { name: 'Front' }).click();
  await clickAt(page, 0.2, 0.5);
  await expect(pickBar(page)).toContainText('6 faces picked');
  await expect(pickBar(page)).toContainText('and 6 on 1 other model');
  await page.getByRole('button', { name: /^boxes 12 faces/ }).click();
  await expect(pickBar(page)).toContainText('6 faces picked');
  await page.getByRole('button', { name: /^moss, 0 faces/ }).click();
  await expect.poll(() => facesOn(page, 'moss')).toBe(12);
  await page.keyboard.press('Control+z');
  await expect.poll(() => facesOn(page, 'rust')).toBe(12);
});

test('the fog bell’s frame, of which one half was made, becomes whole, and is colored on both sides from one', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('button', { name: 'Begin an empty kit' }).click();
  const block = (x: [number, number], y: [number, number], from: number, faces: string[]) =>
    Array.from({ length: 8 }, (_, k) => `v ${x[k & 1]} ${y[(k >> 1) & 1]} ${k >> 2 ? 0.1 : -0.1}\n`).join('') +
    faces
      .map(
        (f) =>
          `f ${f
            .split(' ')
            .map((v) => Number(v) + from)
            .join(' ')}\n`,
      )
      .join('');
  const all = ['1 3 4 2', '5 6 8 7', '1 2 6 5', '3 7 8 4', '1 5 7 3', '2 4 8 6'];
  // A post, and a beam that is open where it was cut.
  const half =
    block([1, 1.2], [0, 2.8], 0, all) +
    block(
      [0, 1.4],
      [2.8, 3],
      8,
      all.filter((f) => f !== '1 5 7 3'),
    );
  await bringIn(page, [file('bell-frame.obj', half)]);
  const report = page.getByRole('article', { name: 'Report of bell-frame' });
  await expect(report).toContainText('The model may be half of a mirrored body');
  await page.getByRole('button', { name: 'Color it' }).click();
  await expect(viewport(page)).toBeVisible();
  await page.keyboard.press('w');
  await page.getByRole('button', { name: 'Perspective' }).click();
  await page.getByRole('button', { name: 'Front' }).click();
  await pickAt(page, 0.558, 0.6, 6);
  await page.getByRole('button', { name: /^slate, 0 faces/ }).click();

  await modelAction(page, 'bell-frame', 'Complete the other half');
  const form = page.getByRole('dialog');
  await expect(form).toContainText('4 open edges lie in the plane x = 0');
  await form.getByRole('button', { name: 'Complete it' }).click();
  await expect(page.getByRole('button', { name: /bell-frame 22 faces, 10 bare/ })).toBeVisible();
  await expect.poll(() => facesOn(page, 'slate')).toBe(12);

  // The beam is one part now; the other post is the twin of the first.
  await page.keyboard.press('m');
  await expect(page.getByRole('button', { name: 'Mirrored: across x' })).toBeVisible();
  await page.getByRole('button', { name: 'Front' }).click();
  await viewport(page).focus();
  await page.keyboard.press('PageDown');
  await page.keyboard.press('PageDown');
  await page.keyboard.press('f');
  await clickAt(page, 0.52, 0.278);
  await expect(pickBar(page)).toContainText(picked(2));
  await page.keyboard.press('w');
  await clickAt(page, 0.54, 0.278);
  await expect(pickBar(page)).toContainText(picked(10));
  await page.getByRole('button', { name: /^rust, 0 faces/ }).click();
  await expect(tally(page)).toContainText('0 uncolored');
  await page.getByRole('link', { name: 'Hand-off' }).click();
  const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'Download GLB' }).click()]);
  const { triangles, materials } = await sampleWithThree(await bytesOf(download));
  expect([triangles.length, materials.length]).toEqual([44, 1]);
});

test('the ends of all the jetty’s boards are taken at once, though no two boards are quite of one length', async ({ page }) => {
  await openDemo(page);
  await page.getByRole('button', { name: /^Landing jetty/ }).click();
  await page.getByRole('button', { name: 'Perspective' }).click();
  await page.getByRole('button', { name: 'Right', exact: true }).click();
  await page.keyboard.press('Shift+F');
  const end = () => clickAt(page, 0.154, 0.349);
  await expect(async () => {
    await end();
    await expect(pickBar(page)).toContainText(/faces? picked/, { timeout: 1000 });
  }).toPass();
  await expect(pickBar(page)).not.toContainText('26 faces picked');
  await page.getByRole('button', { name: /^Like within/ }).click();
  await page.getByRole('slider', { name: /Lengths of like parts may differ/ }).fill('10');
  await page.keyboard.press('Escape');
  await end();
  await expect(pickBar(page)).toContainText('26 faces picked');
  // The other ends, from the other side.
  await page.getByRole('button', { name: 'Left', exact: true }).click();
  await clickAt(page, 1 - 0.154, 0.349, { modifiers: ['Shift'] });
  await expect(pickBar(page)).toContainText('52 faces picked');
  const before = await facesOn(page, 'brass');
  await page.getByRole('button', { name: /^brass, / }).click();
  await expect.poll(() => facesOn(page, 'brass')).toBe(before + 52);
});

test('a pick grows by a handle, is remembered, has a border that can be made a seam, and can be stepped back through', async ({ page }) => {
  await openDemo(page);
  const count = async () => Number(/(\d+) faces? picked/.exec((await pickBar(page).textContent())!)?.[1] ?? 0);
  await page.keyboard.press('f');
  await pickAt(page, 0.5, 0.6, 1);
  const grow = page.getByRole('slider', { name: 'Grow the pick by rings of faces' });
  await grow.focus();
  await page.keyboard.press('ArrowRight');
  await expect(grow).toHaveAttribute('aria-valuetext', 'grown by 1 ring');
  await expect.poll(count).toBeGreaterThan(1);
  const once = await count();
  await page.keyboard.press('ArrowRight');
  await expect.poll(count).toBeGreaterThan(once);
  const twice = await count();
  await page.keyboard.press('ArrowLeft');
  await expect.poll(count).toBe(once);
  const box = (await grow.boundingBox())!;
  await page.mouse.move(box.x + 10, box.y + 10);
  await page.mouse.down();
  await page.mouse.move(box.x + 10 + 15, box.y + 10, { steps: 2 });
  await expect(grow).toContainText('+1 ring');
  await page.mouse.up();
  await expect.poll(count).toBe(twice);
  await page.keyboard.press('n');
  await expect(page.getByRole('button', { name: '1 remembered' })).toBeVisible();

  const more = async (name: string) => {
    await page.getByRole('button', { name: 'Change the pick' }).click();
    await page.getByRole('menuitem', { name }).click();
  };
  await more('Its border as edges');
  await expect(pickBar(page)).toContainText(/\d+ edges around it, [\d.]+ m/);
  await page.getByRole('button', { name: 'make them seams' }).click();
  await page.keyboard.press('Escape');
  // The patch around the face ends at the seams just made.
  await page.getByRole('button', { name: /^How much/ }).click();
  await page.getByRole('menuitemradio', { name: /the patch/ }).click();
  await pickAt(page, 0.5, 0.6, twice);
  await page.keyboard.press('Escape');

  // Of a whole part only what is seen from here stays.
  await page.keyboard.press('w');
  await clickAt(page, 0.5, 0.6);
  await expect.poll(count).toBeGreaterThan(twice);
  const part = await count();
  await more('Only what is seen now');
  await expect.poll(count).toBeLessThan(part);
  await page.keyboard.press('Shift+G');
  await expect.poll(count).toBe(part);
  await saved(page);
  await page.reload();
  await page.getByRole('button', { name: '1 remembered' }).click();
  await page.getByRole('dialog', { name: 'Remembered picks' }).getByRole('button', { name: /^pick/ }).first().click();
  await expect.poll(count).toBe(twice);
});
