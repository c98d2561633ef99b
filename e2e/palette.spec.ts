import { writtenFormats } from '@/core/ground/palettes/paletteFile';
import { encodePng } from '@/core/ground/pictures/png';
import { solid, type Fill } from '@/core/kit/kit';
import { blockNames } from '@/core/sheet/picture/blockNames';
import { recognise } from '@/core/sheet/picture/readBlocks';
import { distinctColors, drawBlocks, startDecoder, toJpeg } from '@tests/palettePictures';
import { sampleWithThree } from '@tests/sampleWithThree';
import type { Page } from '@playwright/test';
import {
  bytesOf,
  colorAt,
  dropFiles,
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

test.beforeAll(startDecoder);

const go = async (page: Page, view: 'Palette' | 'Color' | 'Hand-off') => {
  await page.getByRole('link', { name: view, exact: true }).click();
  if (view === 'Palette') await expect(page.getByRole('listbox')).toBeVisible();
  if (view === 'Color') {
    await expect(viewport(page)).toBeVisible();
    await page.getByRole('button', { name: 'Front' }).click();
  }
};
const cells = (page: Page) => page.getByRole('listbox').getByRole('option');
const cell = (page: Page, name: RegExp) => page.getByRole('listbox').getByRole('option', { name });
const picture = (name: string, bytes: Uint8Array) => ({ name, mimeType: 'image/png', buffer: Buffer.from(bytes) });
const side = (page: Page) => page.getByRole('complementary', { name: 'Colors' });
const exportGlb = async (page: Page) => {
  await go(page, 'Hand-off');
  const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'Download GLB' }).click()]);
  return bytesOf(download);
};

const colors = distinctColors(32, 3).map((c, i) => (i > 26 ? '#ffffff' : c));
const drawn = drawBlocks(
  256,
  128,
  [255, 255, 255, 255],
  colors.map((c, i) => ({ rect: { x: (i % 8) * 32, y: Math.floor(i / 8) * 32, w: 32, h: 32 }, fill: solid(c) })),
);
const blocks = encodePng(drawn);
const dusk: Fill = {
  kind: 'gradient',
  axis: 'y',
  mix: 'oklab',
  stops: [
    { at: 0, color: '#1d2b53' },
    { at: 1, color: '#e8d7a0' },
  ],
};

test('a palette is planned from a list of roles in a few actions', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('button', { name: 'Begin an empty kit' }).click();
  await go(page, 'Palette');
  await page.getByRole('button', { name: 'Plan colors' }).click();
  const panel = page.getByRole('region', { name: 'Plan colors from a list' });
  await panel.getByLabel('Roles', { exact: true }).fill('sail, rope 2, brass, tar 1, wet sand, gribble 2\n3 spare');
  await expect(panel.getByRole('listitem')).toHaveCount(6);
  await expect(panel.getByRole('listitem').filter({ hasText: 'gribble' })).toContainText('no word known');
  await panel.getByRole('button', { name: 'More steps of tar' }).click();
  await expect(panel).toContainText('15 new colors, 3 spare cells');
  // A color is changed in the list, by a name as well as by its number.
  await panel.getByRole('button', { name: /^gribble: / }).click();
  await panel.getByRole('textbox', { name: 'Color of gribble' }).fill('dark crimson');
  await page.keyboard.press('Enter');
  await expect(panel.getByRole('listitem').filter({ hasText: 'gribble' })).toContainText('as given');
  await panel.getByRole('button', { name: 'Lay them out' }).click();
  await expect(page.getByText('with 15 colors')).toBeVisible();
  await expect(cell(page, /^wet sand, in shade/)).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(page.getByText('with 14 colors')).toBeVisible();
  await page.keyboard.press('Control+Shift+z');
  // A further sheet takes the colors that are made while it is on the board, also before any model is there.
  await page.getByRole('button', { name: 'Another sheet' }).click();
  await expect(page.getByText('Second sheet is')).toBeVisible();
  await cell(page, /^spare cell/)
    .first()
    .dblclick();
  const made = page.getByRole('region', { name: 'A new color from this one' });
  await made.getByLabel('Role').fill('foam');
  await made.getByRole('button', { name: 'Make the color' }).click();
  await expect(cell(page, /^foam/)).toBeVisible();
  await page.getByRole('button', { name: 'A new ramp' }).click();
  await page.getByRole('region', { name: 'A new ramp' }).getByLabel('Name').fill('kelp');
  await page.getByRole('region', { name: 'A new ramp' }).getByRole('button', { name: 'Make the ramp' }).click();
  await expect(cell(page, /^kelp, in shade/)).toBeVisible();

  await page.getByRole('link', { name: 'Color', exact: true }).click();
  await expect(page.getByRole('group', { name: 'rope', exact: true }).getByRole('button', { name: /faces on/ })).toHaveCount(2);
});

/** The demo kit's art goes, with the parts of the sheet that it has: what is left are plain colors. */
async function withoutArt(page: Page): Promise<void> {
  await cell(page, /^seal/).click();
  await page.getByRole('button', { name: 'Rows and columns' }).click();
  await page.getByRole('menuitem', { name: 'Delete these rows' }).click();
  await page.getByRole('group', { name: 'Where should its faces go?' }).getByRole('button', { name: 'To lime wash', exact: true }).click();
  await expect(page.getByRole('button', { name: '32 × 16 texels: lay out anew' })).toBeVisible();
  await cell(page, /^numerals/).click();
  await page.getByRole('button', { name: 'Rows and columns' }).click();
  await page.getByRole('menuitem', { name: 'Delete these columns' }).click();
  await page.getByRole('group', { name: 'Where should its faces go?' }).getByRole('button', { name: 'To lime wash', exact: true }).click();
  await expect(page.getByRole('button', { name: '16 × 16 texels: lay out anew' })).toBeVisible();
}

test('the sheet is arranged by hand: dragged, split, merged, cut and sorted; by keys too', async ({ page }) => {
  await openDemo(page);
  await go(page, 'Palette');
  await withoutArt(page);
  const uncolored = await tally(page).textContent();
  const box = async (name: RegExp) => (await cell(page, name).boundingBox())!;
  const [from, to] = [await box(/^band, #/), await box(/^slate, #/)];

  // Two cells change places, under the pointer and under the keys.
  await page.mouse.move(from.x + 20, from.y + 20);
  await page.mouse.down();
  await page.mouse.move(to.x + 20, to.y + 20, { steps: 4 });
  await page.mouse.up();
  await expect.poll(() => box(/^band, #/)).toEqual(to);
  expect(await box(/^slate, #/)).toEqual(from);
  await page.keyboard.press('Alt+ArrowUp');
  await expect.poll(async () => (await box(/^band, #/)).y).toBe(to.y - to.height);
  await page.keyboard.press('ArrowLeft');
  await page.keyboard.press('ArrowRight');
  const bar = page.getByRole('group', { name: 'Selection' });
  await expect(bar).toContainText('band');

  await bar.getByRole('button', { name: 'Split' }).click();
  await page.getByLabel('Rows', { exact: true }).fill('1');
  await page.getByRole('button', { name: 'Split it' }).click();
  await expect(cells(page)).toHaveCount(17);
  await expect(bar).toContainText('2 × 4 texels');

  // What goes asks where its faces go.
  await cell(page, /^brass, #/).click();
  await cell(page, /^timber, #/).click({ modifiers: ['Shift'] });
  await bar.getByRole('button', { name: 'Merge' }).click();
  await expect(bar).toContainText('8 × 4 texels');
  await cell(page, /^lichen, #/).click();
  await bar.getByRole('button', { name: 'Rows and columns' }).click();
  await page.getByRole('menuitem', { name: 'Delete these rows' }).click();
  await page.getByRole('group', { name: 'Where should its faces go?' }).getByRole('button', { name: 'To slate, lit' }).click();
  await expect(page.getByRole('button', { name: '16 × 12 texels: lay out anew' })).toBeVisible();
  await page.getByRole('button', { name: 'Sort the cells' }).click();
  await page.getByRole('menuitem', { name: 'Dark to light' }).click();
  await expect(page.getByRole('status', { name: 'What happened' })).toHaveText('Sorted');

  // A cell that does not fit says so, and no face has lost its color.
  await page.getByRole('button', { name: 'Pinch' }).click();
  await page.getByLabel('Width in texels').fill('2');
  await page.getByRole('button', { name: 'Pinch to this size' }).click();
  await expect(page.getByText(/At 2 × 12 texels .* would have none/)).toBeVisible();
  expect((await tally(page).textContent())!.replace(/[\d,]+ colors.*/, '')).not.toBe('');
  await expect(tally(page)).toContainText(/([\d,]+ uncolored)/.exec(uncolored!)![1]!);
  await saved(page);
  await page.reload();
  await expect(page.getByRole('button', { name: '16 × 12 texels: lay out anew' })).toBeVisible();
});

test('a frozen picture is colored on and leaves byte for byte', async ({ page }) => {
  await openBoxes(page, 2);
  await go(page, 'Palette');
  await page.getByLabel('Open a palette file').setInputFiles(picture('harbour.png', blocks));
  const panel = page.getByRole('region', { name: 'harbour.png' });
  await expect(panel).toContainText('8 × 4 blocks of 32 px, 27 colors, 5 empty.');
  await panel.getByRole('radio', { name: /As a frozen sheet/ }).click();
  await panel.getByRole('button', { name: 'Use it' }).click();
  await expect(page.getByText('harbour is a frozen picture of')).toBeVisible();
  await expect(cells(page)).toHaveCount(32);

  await go(page, 'Color');
  await page.keyboard.press('w');
  await pickAt(page, 0.2, 0.5, 6);
  const fourth = blockNames(recognise(drawn).blocks)[3]!;
  await page.getByRole('button', { name: `${fourth}, 0 faces` }).click();
  await pointAway(page);
  await expect.poll(() => colorAt(page, 0.15, 0.45)).toBe(colors[3]);

  // Its colors stay; what may be added is the artist's word.
  await page.getByRole('button', { name: 'New color', exact: true }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Make the color' }).click();
  await expect(page.getByText(/is frozen: it keeps its picture as it is/)).toBeVisible();
  const glb = Buffer.from(await exportGlb(page));
  expect(glb.includes(Buffer.from(blocks))).toBe(true);
  const { triangles } = await sampleWithThree(glb);
  const hex = (c: number[] | null) => c && '#' + c.map((v) => v.toString(16).padStart(2, '0')).join('');
  expect(triangles.filter((t) => t.middle[0] <= 1).map((t) => hex(t.color))).toEqual(Array(12).fill(colors[3]));

  await go(page, 'Palette');
  await page.getByRole('radio', { name: 'Sheet', exact: true }).nth(1).click();
  await page.getByLabel(/Colors may be added in its empty places/).check();
  await page.getByRole('listbox').getByRole('option', { name: 'spare cell' }).first().dblclick();
  await page.getByRole('region', { name: 'A new color from this one' }).getByRole('button', { name: 'Make the color' }).click();
  await expect(page.getByText('with 28 colors, 4 empty places.')).toBeVisible();
  const after = Buffer.from(await exportGlb(page));
  expect(after.includes(Buffer.from(blocks))).toBe(false);
  expect((await sampleWithThree(after)).triangles).toEqual(triangles);
});

test('a picture of one color a pixel takes the place of a sheet in use: who goes where is chosen in Color, and faces follow', async ({
  page,
}) => {
  await openBoxes(page, 2);
  await go(page, 'Color');
  await page.keyboard.press('w');
  await pickAt(page, 0.2, 0.5, 6);
  await page.getByRole('button', { name: /^rust, in shade, 0 faces/ }).click();
  await pickAt(page, 0.8, 0.5, 6);
  await page.getByRole('button', { name: /^slate, lit, 0 faces/ }).click();
  await pointAway(page);
  const strip = encodePng(drawBlocks(4, 1, [0, 0, 0, 255], ['#7f2233', '#8aa7c0', '#33664d', '#7f2233'].map((color, x) => ({ rect: { x, y: 0, w: 1, h: 1 }, fill: solid(color) })))); // prettier-ignore
  await dropFiles(page, [picture('pennants.png', strip)]);
  const panel = page.getByRole('dialog', { name: 'pennants.png' });
  await expect(panel).toContainText('One color a pixel, 4 colors.');
  await expect(page).toHaveURL(/\/color$/);
  await panel.getByRole('radio', { name: /^As a frozen sheet/ }).click();
  await panel.getByLabel('In the place of Sheet, of which 2 colors are in use').check();
  // The nearest are proposed, and seen on the models before anything is done.
  await expect.poll(() => colorAt(page, 0.15, 0.45)).toBe('#7f2233');
  await expect.poll(() => colorAt(page, 0.85, 0.45)).toBe('#8aa7c0');
  await panel.getByRole('button', { name: 'slate, lit becomes #8aa7c0' }).click();
  await page.getByRole('radiogroup', { name: 'What slate, lit becomes' }).getByRole('radio', { name: '#33664d' }).click();
  await expect.poll(() => colorAt(page, 0.85, 0.45)).toBe('#33664d');
  await panel.getByRole('button', { name: 'Use it' }).click();
  await expect(page).toHaveURL(/\/color$/);
  await pointAway(page);
  await expect(page.getByRole('button', { name: /^rust, in shade, 6 faces/ })).toBeVisible();
  await expect(page.getByRole('button', { name: /^slate, lit, 6 faces/ })).toBeVisible();
  const { triangles } = await sampleWithThree(await exportGlb(page));
  const hex = (c: number[] | null) => c && '#' + c.map((v) => v.toString(16).padStart(2, '0')).join('');
  expect([...new Set(triangles.map((t) => `${t.middle[0] <= 1} ${hex(t.color)}`))]).toEqual(['true #7f2233', 'false #33664d']);
  await go(page, 'Color');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect.poll(() => colorAt(page, 0.85, 0.45)).toBe('#7a9db7');
});

test('pictures of blocks and gradients become a small sheet; what was found can be corrected; faces sit along a gradient', async ({
  page,
}) => {
  test.setTimeout(120_000);
  await openBoxes(page, 2);
  await go(page, 'Palette');
  const strips = drawBlocks(
    96,
    128,
    [0, 0, 0, 255],
    [
      { rect: { x: 0, y: 0, w: 32, h: 128 }, fill: dusk },
      { rect: { x: 32, y: 0, w: 32, h: 128 }, fill: solid('#b5463a') },
      { rect: { x: 64, y: 0, w: 32, h: 128 }, fill: solid('#3f8f6b') },
    ],
  );
  await page.getByLabel('Open a palette file').setInputFiles({ ...picture('dusk.jpg', toJpeg(strips, 92)), mimeType: 'image/jpeg' });
  const panel = page.getByRole('region', { name: 'dusk.jpg' });
  await expect(panel).toContainText('2 colors; 1 gradient.');
  // A line taken away joins two colors; they part again where a line is added in the margin.
  const second = page.getByRole('slider', { name: 'Upright line 2' });
  await second.press('Delete');
  await expect(panel).toContainText('2 gradients.');
  const margin = (await page.getByRole('button', { name: 'Add an upright line' }).boundingBox())!;
  await page.mouse.click(margin.x + (margin.width * 2) / 3, margin.y + 5);
  await expect(panel).toContainText('2 colors; 1 gradient.');
  await panel.getByRole('button', { name: 'Use it' }).click();
  await expect(page.getByRole('button', { name: '4 × 32 texels: lay out anew' })).toBeVisible();
  await expect(cell(page, /^(scarlet|red|vermilion|.*green|.*teal|.* to .*), /)).toHaveCount(3);

  await go(page, 'Color');
  await page.keyboard.press('w');
  await pickAt(page, 0.2, 0.5, 6);
  const bar = page.getByRole('group', { name: / to / }).getByRole('button');
  const size = (await bar.boundingBox())!;
  await bar.click({ position: { x: size.width / 2, y: 2 } });
  await pointAway(page);
  const lightness = (hex: string) => parseInt(hex.slice(1, 3), 16);
  const facesInBar = async () => Number(/, (\d+) face/.exec((await bar.getAttribute('aria-label'))!)![1]);
  await expect.poll(async () => lightness(await colorAt(page, 0.15, 0.45))).toBeLessThan(50);
  await pickAt(page, 0.2, 0.5, 6);
  await bar.click({ position: { x: size.width / 2, y: size.height - 2 } });
  await pointAway(page);
  await expect.poll(async () => lightness(await colorAt(page, 0.15, 0.45))).toBeGreaterThan(200);
  const shown = await colorAt(page, 0.15, 0.45);
  await saved(page);
  await page.reload();
  await page.getByRole('button', { name: 'Perspective' }).click();
  await page.getByRole('button', { name: 'Front' }).click();
  await pointAway(page);
  await expect.poll(() => colorAt(page, 0.15, 0.45)).toBe(shown);
  const { triangles } = await sampleWithThree(await exportGlb(page));
  const seen = triangles.find((t) => t.middle[0] <= 1)!.color!;
  expect('#' + seen.map((v) => v.toString(16).padStart(2, '0')).join('')).toBe(shown);

  // One drag along the bar, from light to dark, lays the picked faces along it, from the lowest to the highest.
  await go(page, 'Color');
  await page.getByRole('button', { name: 'Front' }).click();
  await page.keyboard.press('w');
  await pickAt(page, 0.2, 0.5, 6);
  const { x, y, width, height } = (await bar.boundingBox())!;
  await page.mouse.move(x + width / 2, y + height - 3);
  await page.mouse.down();
  await page.mouse.move(x + width / 2, y + 3, { steps: 4 });
  const above = async () => lightness(await colorAt(page, 0.15, 0.42));
  const below = async () => lightness(await colorAt(page, 0.15, 0.58));
  await expect.poll(async () => (await below()) - (await above())).toBeGreaterThan(20);
  expect(await facesInBar()).toBe(6);
  await page.mouse.up();
  const words = page.getByRole('region', { name: 'Laid along a gradient' });
  await expect(words).toContainText('6 faces laid along');
  await pointAway(page);
  await expect.poll(async () => (await below()) - (await above())).toBeGreaterThan(20);
  await words.getByRole('button', { name: 'the other way' }).click();
  await expect.poll(async () => (await above()) - (await below())).toBeGreaterThan(20);
  await words.getByRole('button', { name: 'What the gradient runs along: height' }).click();
  await page.getByRole('menuitemradio', { name: /^how far faces look up/ }).click();
  await expect.poll(async () => (await above()) - (await below())).toBe(0);
  await saved(page);
  await page.reload();
  await page.getByRole('button', { name: 'Perspective' }).click();
  await page.getByRole('button', { name: 'Front' }).click();
  await expect.poll(async () => (await above()) - (await below())).toBe(0);
  // All of that was one act.
  await page.keyboard.press('Control+z');
  await expect.poll(() => colorAt(page, 0.15, 0.45)).toBe(shown);
});

test('a sheet of 64 × 64 shrinks to 8 × 8, and what is exported shows the same', async ({ page }) => {
  await openDemo(page);
  await go(page, 'Palette');
  await withoutArt(page);
  await page.getByRole('button', { name: 'Pinch' }).click();
  await page.getByLabel('Width in texels').fill('64');
  await page.getByLabel('Height in texels').fill('64');
  await page.getByRole('button', { name: 'Pinch to this size' }).click();
  const before = await sampleWithThree(await exportGlb(page));
  await go(page, 'Palette');
  await page.getByRole('button', { name: '64 × 64 texels: lay out anew' }).click();
  const panel = page.getByRole('region', { name: 'Lay out the sheet anew' });
  await panel.getByLabel('This size, not the smallest').check();
  await panel.getByLabel('Width in texels').fill('8');
  await panel.getByLabel('Height in texels').fill('8');
  await expect(panel).toContainText(/PNG .*, then /);
  await panel.getByRole('button', { name: 'Lay it out so' }).click();
  await expect(page.getByRole('button', { name: '8 × 8 texels: lay out anew' })).toBeVisible();
  const after = await sampleWithThree(await exportGlb(page));
  expect(after.triangles).toEqual(before.triangles);
  expect(before.triangles.some((t) => t.color)).toBe(true);
});

test('a reference lends its colors, by the circle and all at once; a list is kept to; twins are merged', async ({ page }) => {
  await openBoxes(page, 2);
  await go(page, 'Palette');
  const scene = drawBlocks(
    240,
    160,
    [157, 184, 200, 255],
    [
      { rect: { x: 0, y: 100, w: 240, h: 60 }, fill: solid('#2f5d62') },
      { rect: { x: 90, y: 40, w: 60, h: 60 }, fill: solid('#b5463a') },
    ],
  );
  await page.getByLabel('Bring in reference pictures').setInputFiles({ ...picture('cove.jpg', toJpeg(scene, 95)), mimeType: 'image/jpeg' });
  const panel = page.getByRole('region', { name: 'cove', exact: true });
  await panel.getByLabel('Number of colors to draw').fill('3');
  await expect(panel.getByRole('list', { name: 'Colors drawn' }).getByRole('listitem')).toHaveCount(3);
  await expect(panel.getByRole('img', { name: /^Mean error/ })).toBeVisible();
  await panel.getByRole('checkbox', { name: /^Take/ }).first().uncheck();
  await panel.getByRole('button', { name: 'Add 2 colors' }).click();
  const board = page.getByRole('application', { name: /Reference cove/ });
  await board.click();
  await panel.getByRole('button', { name: 'Close' }).click();
  await expect(page.getByText('with 17 colors')).toBeVisible();

  // The red of the picture is there twice now: drawn, and taken by hand.
  const remarks = side(page).getByRole('list', { name: 'Remarks' });
  const twins = remarks
    .getByRole('listitem')
    .filter({ hasText: /cove.*cove|hard to tell apart|the same color/ })
    .first();
  await twins.getByRole('button', { name: 'Merge them' }).click();
  await expect(page.getByText('with 16 colors')).toBeVisible();

  await side(page).getByRole('radio', { name: 'Keep to a list' }).click();
  await page.getByLabel('Open a list of allowed colors').setInputFiles(file('few.hex', '112233\nf7f0e0\nb5463a\n4d7c4a\n'));
  const off = side(page).getByRole('region', { name: 'Colors off the list' });
  await expect(off).toContainText('colors off the list');
  await off.getByRole('button', { name: 'Move all' }).click();
  await expect(off).toContainText('Every color is on the list.');

  // In Color the reference floats over the model; what is taken snaps to the list.
  await go(page, 'Color');
  await page.getByRole('button', { name: 'References', exact: true }).click();
  const floating = page.getByRole('dialog', { name: 'References' });
  await floating.getByRole('application').focus();
  await expect(async () => {
    await page.keyboard.press('ArrowUp');
    await expect(floating.getByText(/^#[0-9a-f]{6}$/)).toBeVisible({ timeout: 500 });
  }).toPass();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: /^from cove, 0 faces/ })).toHaveAttribute('title', /#b5463a|#f7f0e0|#4d7c4a|#112233/);
  await saved(page);
  await go(page, 'Palette');
  await page.getByRole('button', { name: 'cove', exact: true }).click();
  await panel.getByRole('button', { name: 'Rename' }).click();
  await panel.getByLabel('Reference name').fill('cove at dusk');
  await panel.getByLabel('Reference name').press('Enter');
  await page.getByRole('link', { name: 'Color', exact: true }).click();
  await expect(page.getByRole('button', { name: 'References', exact: true })).toBeVisible();
  await saved(page);
  await page.reload();
  await page.getByRole('button', { name: 'References', exact: true }).click();
  await expect(page.getByRole('dialog', { name: 'References' }).getByRole('application', { name: /Reference cove at dusk/ })).toBeVisible();
});

test('use of color names its share and picks its faces; the line-up holds two states side by side', async ({ page }) => {
  await openDemo(page);
  await go(page, 'Palette');
  await page.getByRole('radio', { name: 'Line-up' }).click();
  await expect(page.getByRole('img', { name: 'The palette as it is' })).toBeVisible();
  await page.getByRole('button', { name: 'Hold this state' }).click();
  await expect(page.getByRole('img', { name: 'The state that is held' })).toBeVisible();
  await side(page).getByRole('radio', { name: 'Use', exact: true }).click();
  const bar = side(page).getByRole('button', { name: /^slate, lit, .* %: pick its faces/ });
  await bar.click();
  await expect(pickBar(page)).toContainText('faces picked');
  await expect(page).toHaveURL(/color$/);
});

test('every kind of palette file leaves and comes back with the same colors', async ({ page }) => {
  await openDemo(page);
  await go(page, 'Hand-off');
  const files: { name: string; bytes: Uint8Array }[] = [];
  for (const { words } of writtenFormats.map(([, format]) => format)) {
    await page.getByRole('combobox', { name: 'Kind of palette file' }).click();
    await page.getByRole('option', { name: words }).click();
    const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'Download Palette' }).click()]);
    files.push({ name: download.suggestedFilename(), bytes: await bytesOf(download) });
  }
  expect(files.map((f) => f.name.split('.')[1])).toEqual(['gpl', 'pal', 'pal', 'hex', 'css', 'json', 'png']);
  await go(page, 'Palette');
  const panel = page.getByRole('region').filter({ has: page.getByRole('radiogroup', { name: 'What to do with it' }) });
  for (const { name, bytes } of files) {
    await page.getByLabel('Open a palette file').setInputFiles({ name, mimeType: 'application/octet-stream', buffer: Buffer.from(bytes) });
    await expect(panel).toContainText(name);
    await expect(panel).toContainText('14 colors');
    await expect(panel).toContainText('the sheet has them all');
    await panel.getByRole('button', { name: 'Leave it' }).click();
  }
});
