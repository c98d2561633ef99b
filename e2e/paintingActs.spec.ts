import { newKit } from '@/core/sheet/starter';
import { Acts, expectStated } from './acts/acts';
import { goat } from './acts/models';
import { bringIn, expect, file, harbour, hull, tally, test, viewport, walls } from './kit';

const colors = new Map(newKit('Skerry').sheets[0]!.cells.map((c) => [c.role, c.fill.kind === 'solid' ? c.fill.color : '']));
async function openPaintable(acts: Acts, role: string): Promise<void> {
  await acts.open(goat);
  await acts.key('Control+a');
  await acts.color(role);
  await acts.click(acts.page.getByRole('link', { name: 'Paint', exact: true }));
  await acts.click(acts.button('Make it paintable'));
  await expect(acts.page.getByRole('application', { name: /^The art/ })).toBeVisible();
  await expect(viewport(acts.page).first()).toHaveAttribute('aria-busy', 'false');
}
/** What leaves, read by another program: the colors of all triangles, and of those of one piece. */
async function left(acts: Acts, piece: RegExp): Promise<[all: string[], own: string[]]> {
  await acts.handOff();
  const found = await acts.download('color');
  const of = (names: string[]) => [...new Set(names.flatMap((n) => found[n]!))].sort();
  return [of(Object.keys(found)), of(Object.keys(found).filter((n) => piece.test(n)))];
}
const shades = (...roles: string[]) => roles.map((r) => colors.get(r)!).sort();

test('a white animal becomes grey by noise in two shades: acts, and what leaves', async ({ page }) => {
  const acts = new Acts(page, goat);
  await openPaintable(acts, 'chalk');
  await acts.color('slate, lit');
  await acts.say(/^What it sets/, /noise/);
  await acts.say(/^What is painted/, /every texel of it on this art/);
  await acts.paint('body');
  // Noise of two colors takes a bit a texel: the tally follows what is painted.
  const bytes = async () => Number(/([\d,]+) B/.exec((await tally(page).textContent())!)?.[1]?.replace(',', ''));
  await expect.poll(bytes).toBeGreaterThan(2100 / 8);
  const [all] = await left(acts, /body/);
  expect(all).toEqual(shades('slate', 'slate, lit'));
  expectStated('a grey animal made of a white one by noise', acts.count, 14);
});

test('a furred animal of twelve boxes in three shades, mirrored: acts, and what leaves', async ({ page }) => {
  const acts = new Acts(page, goat);
  await openPaintable(acts, 'straw');
  await acts.say(/^What it sets/, /noise/);
  await acts.say(/^What is painted/, /every texel of it on this art/);
  await acts.paint('body');
  // Its legs and horns are of the darkest shade, on both sides.
  await acts.say(/^Mirrored/, /^·?across x/);
  await acts.say(/^What it sets/, /choose it in the tray/);
  await acts.color('straw, in shade');
  await acts.say(/^What is painted/, /a part/);
  for (const piece of ['front leg right', 'back leg right', 'horn right']) await acts.paint(piece);
  const [all, dark] = await left(acts, /leg|horn/);
  expect([all, dark]).toEqual([shades('straw', 'straw, in shade', 'straw, lit'), shades('straw, in shade')]);
  expectStated('a furred animal of 12 boxes in three shades, mirrored', acts.count, 60);
});

test('four ways for a picture are compared and one is taken: acts', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('button', { name: 'Begin an empty kit' }).click();
  await bringIn(page, [file('wall.obj', walls([0, 0, 1, 1])), hull, harbour()]);
  await expect(tally(page)).toContainText('1 uncolored');
  const acts = new Acts(page, goat);
  await acts.click(page.getByRole('link', { name: 'Paint', exact: true }));
  await acts.click(acts.button('Few colors, big texels'));
  const way = page.getByRole('region', { name: 'Way 4', exact: true });
  await acts.click(way.getByRole('combobox', { name: 'Texels across' }));
  await acts.click(page.getByRole('option', { name: /^16 texels/ }));
  await expect(way).toContainText('16 × 8 texels');
  await acts.click(acts.button('Take way 4'));
  await expect(tally(page)).toContainText('3 colors');
  expectStated('four ways for a picture compared, and one taken', acts.count, 6);
});
