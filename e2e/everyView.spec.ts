import AxeBuilder from '@axe-core/playwright';
import type { Page } from '@playwright/test';
import { expect, openDemo, test, viewport } from './kit';

/** Nothing that an automatic check of accessibility calls serious. */
async function expectAccessible(page: Page, where: string): Promise<void> {
  const { violations } = await new AxeBuilder({ page }).analyze();
  const serious = violations.filter((v) => v.impact === 'serious' || v.impact === 'critical');
  expect(
    serious.map((v) => `${where}: ${v.id}, ${v.nodes.map((n) => n.html.slice(0, 120)).join(' | ')}`),
    where,
  ).toEqual([]);
}

test('every view and its panels can be used by all', async ({ page }) => {
  await page.goto('/');
  await expect(page.getByRole('button', { name: /Open the demo kit/ })).toBeVisible();
  await expectAccessible(page, 'home');
  await openDemo(page);
  await expectAccessible(page, 'Color');
  await viewport(page).focus();
  await page.keyboard.press('?');
  await expectAccessible(page, 'keys');
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: /^Which coloring/ }).click();
  await page.getByRole('menuitemradio', { name: /Abandoned/ }).click();
  await page.getByRole('button', { name: /^Which coloring/ }).click();
  await page.getByRole('menuitem', { name: /what differs/ }).click();
  await expect(page.getByRole('status', { name: 'What the variant costs' })).toContainText('it costs 1 more picture');
  await expectAccessible(page, 'Variants');
  await page.getByRole('dialog', { name: 'Variants' }).getByRole('button', { name: 'Close' }).click();
  await page.keyboard.press('Shift+u');
  await expectAccessible(page, 'side by side');
  await page.keyboard.press('Escape');
  for (const [name, open] of [
    ['Gather', []],
    ['Palette', ['Plan colors', 'A new ramp', 'Room for art']],
    ['Islands', []],
    ['Paint', []],
    ['Proof', []],
    ['Hand-off', []],
  ] as const) {
    await page.getByRole('link', { name, exact: true }).click();
    await expect(page.getByRole('link', { name, exact: true })).toHaveAttribute('aria-current', 'page');
    await expectAccessible(page, name);
    for (const panel of open) {
      await page.getByRole('button', { name: panel, exact: true }).click();
      await expectAccessible(page, `${name}, ${panel}`);
    }
  }
  await page.getByRole('radio', { name: 'Folders, by a plan' }).click();
  await expectAccessible(page, 'a plan');
});

test('what can be done is found by its words, in any view, and runs', async ({ page }) => {
  await openDemo(page);
  await page.getByRole('link', { name: 'Hand-off', exact: true }).click();
  await expect(page.getByRole('heading', { name: 'Hand-off' })).toBeVisible();
  const search = page.getByRole('dialog', { name: 'What can be done' });
  const find = async (words: string) => {
    await page.keyboard.press('/');
    await search.getByRole('combobox').fill(words);
  };
  await find('lasso');
  await expectAccessible(page, 'search');
  await page.keyboard.press('Enter');
  await expect(viewport(page)).toBeVisible();
  await expect(page.getByLabel('What a click does')).toContainText('lasso');
  await find('select all');
  await expect(search.getByRole('option', { selected: true })).toContainText('Everything');
  await expect(search.getByRole('option', { selected: true })).toContainText('Ctrl A');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('group', { name: 'Pick', exact: true })).toContainText('970 faces picked');
  await find('grow');
  await expect(search.getByRole('option').first()).toBeVisible();
  await page.keyboard.press('Escape');
  await find('spare');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('region', { name: 'Plan colors from a list' })).toBeVisible();
  await find('frobnicate');
  await expect(search).toContainText('Nothing is called so');
});

test('a newcomer is told three things while pointing, each until it was done once', async ({ page }) => {
  await openDemo(page);
  const box = (await viewport(page).boundingBox())!;
  const told = page.getByRole('group', { name: 'Pick', exact: true });
  const point = async () => {
    await page.keyboard.press('Escape');
    await page.mouse.move(box.x + 5, box.y + box.height / 2);
    await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  };
  /** Rays are cast in the worker: what a click takes would come after an Escape that is too soon. */
  const settled = async () => {
    let before = '';
    const isSame = async () => {
      const now = (await told.textContent())!;
      const same = now === before && now.includes('picked');
      before = now;
      return same;
    };
    await expect.poll(isSame, { intervals: [800] }).toBe(true);
  };
  await point();
  await expect(told).toContainText('Double click takes more');
  await page.mouse.dblclick(box.x + box.width / 2, box.y + box.height / 2);
  await settled();
  await point();
  await expect(told).toContainText('Shift and a click adds');
  await page.keyboard.down('Shift');
  await page.mouse.click(box.x + box.width / 2, box.y + box.height / 2);
  await page.keyboard.up('Shift');
  await settled();
  await point();
  await expect(told).toContainText('Y has a drag take a box');
  await told.getByRole('button', { name: 'I know' }).click();
  await point();
  await expect(told).toContainText('Every face is colored');
  await page.reload();
  await expect(viewport(page)).toBeVisible();
  await point();
  await expect(told).toContainText('Every face is colored');
  await expect(told.getByRole('button', { name: 'I know' })).toHaveCount(0);
});
