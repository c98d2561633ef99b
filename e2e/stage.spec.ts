import { AxeBuilder } from '@axe-core/playwright';
import type { Page } from '@playwright/test';
import { clickAt, expect, openDemo, saved, scatterBuoys, test, viewport } from './kit';

const standing = (page: Page) => page.getByRole('list', { name: 'Standing there' }).getByRole('button');
const chosen = (page: Page) => page.getByRole('region', { name: 'Chosen' });
const cost = (page: Page, row: string) =>
  page.getByRole('region', { name: 'What it costs' }).getByRole('row', { name: row }).getByRole('cell');

/** The stage of the demo kit, from which all is taken off by the keyboard. */
async function openEmptyStage(page: Page): Promise<void> {
  await openDemo(page);
  await page.getByRole('link', { name: 'Stage' }).click();
  await expect(viewport(page)).toHaveAttribute('aria-busy', 'false');
  await expect(standing(page)).toHaveCount(10);
  await viewport(page).focus();
  await page.keyboard.press('Control+a');
  await page.keyboard.press('Delete');
  await expect(standing(page)).toHaveCount(0);
}

test('models are placed by click, chosen, moved, turned, named, copied, started in a variant, taken off; undone and kept', async ({
  page,
}) => {
  await openEmptyStage(page);
  await expect(page.getByText('Nothing yet: choose a model above')).toBeVisible();
  await page.getByRole('button', { name: 'Place Fog bell' }).click();
  await page.getByRole('button', { name: /^Starting coloring/ }).click();
  await page.getByRole('menuitemradio', { name: /Salt-worn/ }).click();
  await clickAt(page, 0.4, 0.6);
  await clickAt(page, 0.6, 0.62);
  await expect(standing(page)).toHaveText(['Fog bellSalt-worn', 'Fog bell 2Salt-worn']);

  // The keyboard does the same: moved by a step of the grid, turned, lifted.
  const field = (label: string) => chosen(page).getByLabel(label, { exact: true });
  const before = Number(await field('x').inputValue());
  expect(before).toBe(Math.round(before));
  await viewport(page).press('Escape');
  await standing(page).nth(1).click();
  await viewport(page).focus();
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('r');
  await page.keyboard.press('PageUp');
  await expect(field('x')).toHaveValue(String(before + 2));
  await expect(field('°')).toHaveValue('15');
  await expect(field('y')).toHaveValue('1');
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await expect(field('x')).toHaveValue(String(before));

  // A name is checked as one types.
  await field('Name on the stage').fill('fog BELL');
  await expect(chosen(page).getByText('“fog BELL” stands there already.')).toBeVisible();
  await field('Name on the stage').fill('Bell at the landing');
  await page.keyboard.press('Enter');
  await chosen(page).getByRole('combobox', { name: 'Starts in' }).click();
  await page.getByRole('option', { name: 'Abandoned' }).click();
  await chosen(page).getByRole('combobox', { name: 'Model' }).click();
  await page.getByRole('option', { name: 'Crab pots' }).click();
  await expect(chosen(page).getByRole('combobox', { name: 'Model' })).toHaveText('Crab pots');
  await expect(chosen(page).getByRole('combobox', { name: 'Starts in' })).toHaveText('Abandoned');
  await page.getByRole('button', { name: 'Undo', exact: true }).first().click();
  await expect(chosen(page).getByRole('combobox', { name: 'Model' })).toHaveText('Fog bell');
  await chosen(page).getByRole('button', { name: 'Copy' }).click();
  await expect(standing(page)).toHaveText(['Fog bellSalt-worn', 'Bell at the landingAbandoned', 'Fog bell 2Abandoned']);
  await viewport(page).focus();
  await page.keyboard.press('Delete');
  await expect(standing(page)).toHaveCount(2);

  // What one sees of an engine's costs: two placements of one model in two colorings; nothing goes with the variant.
  await expect(cost(page, 'placements').first()).toHaveText('2');
  const calls = Number(await cost(page, 'draw calls').first().textContent());
  await expect(cost(page, 'in one go').first()).toHaveText(String(calls));
  await chosen(page).waitFor({ state: 'detached' });
  await standing(page).nth(1).click();
  await chosen(page).getByRole('combobox', { name: 'Starts in' }).click();
  await page.getByRole('option', { name: 'Salt-worn' }).click();
  await expect(cost(page, 'draw calls').first()).toHaveText(String(calls));
  await expect(cost(page, 'in one go').first()).toHaveText(String(calls / 2));

  await saved(page);
  await page.reload();
  await expect(standing(page)).toHaveText(['Fog bellSalt-worn', 'Bell at the landingSalt-worn']);
  const { violations } = await new AxeBuilder({ page }).analyze();
  expect(violations.filter((v) => v.impact === 'serious' || v.impact === 'critical').map((v) => `${v.id} ${v.nodes[0]!.html}`)).toEqual([]);
});

test('two thousand are scattered at once, drawn as instances, and taken back by one undo; what leaves the kit leaves the stage', async ({
  page,
}) => {
  await openEmptyStage(page);

  // Out of the list by dragging; by the keyboard in the middle of what is seen.
  const box = (await viewport(page).boundingBox())!;
  const target = { x: box.width * 0.4, y: box.height * 0.6 };
  await page.getByRole('button', { name: 'Place Crab pots' }).dragTo(viewport(page), { targetPosition: target });
  await expect(standing(page)).toHaveText(['Crab potsdefault']);
  await expect(page.getByRole('button', { name: 'Place Crab pots' })).toHaveAttribute('aria-pressed', 'false');
  await page.getByRole('button', { name: 'Place Fog bell' }).focus();
  await page.keyboard.press('Enter');
  await viewport(page).focus();
  await page.keyboard.press('Enter');
  await expect(standing(page)).toHaveText(['Crab potsdefault', 'Fog belldefault']);
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await expect(standing(page)).toHaveCount(0);
  await page.keyboard.press('Escape');
  await scatterBuoys(page, 'Salt-worn');
  await expect(cost(page, 'placements').first()).toHaveText('2,000');
  await page.keyboard.press('Escape');
  const [calls, inOneGo] = [await cost(page, 'draw calls').first().textContent(), await cost(page, 'in one go').first().textContent()];
  expect(Number(calls!.replace(',', ''))).toBe(Number(inOneGo) * 1000);
  await page.getByRole('button', { name: 'Frame' }).click();
  await expect(cost(page, 'placements').nth(1)).toHaveText('2,000');
  await page.getByRole('radio', { name: 'At eye height' }).click();
  await expect.poll(async () => Number((await cost(page, 'placements').nth(1).textContent())!.replace(',', ''))).toBeLessThan(2000);
  await page.keyboard.press('Control+z');
  await expect(standing(page)).toHaveCount(0);
  await page.keyboard.press('Control+Shift+z');
  await expect(cost(page, 'placements').first()).toHaveText('2,000');
});
