import type { Page } from '@playwright/test';
import { colorAt, expect, openBoxes, viewport } from './kit';

export const board = (page: Page) => page.getByRole('application', { name: /^The art/ });
export const told = (page: Page) => page.getByRole('region', { name: 'Art', exact: true });
export const phrase = (page: Page) => page.getByLabel('What a press sets');
/** Chooses a word of the phrase. */
export const say = async (page: Page, word: RegExp, to: RegExp) => {
  const shown = phrase(page).getByRole('button', { name: word });
  await shown.click();
  await page.getByRole('menuitemradio', { name: to }).click();
  // The menu gives the focus back as it goes.
  await expect(shown).toBeFocused();
};

/** Two boxes seen from the front, side by side; the art of the first one's front lies where the model shows it. */
export async function paintableBoxes(page: Page): Promise<void> {
  await openBoxes(page, 2);
  await page.keyboard.press('Control+a');
  await page
    .getByRole('button', { name: /^slate, / })
    .first()
    .click();
  await page.getByRole('link', { name: 'Paint', exact: true }).click();
  await page.getByLabel('Texels a metre').fill('4');
  await page.getByRole('button', { name: 'Make it paintable' }).click();
  await expect(board(page)).toBeVisible();
  await expect(viewport(page).first()).toHaveAttribute('aria-busy', 'false');
  await page.getByRole('button', { name: 'Frame', exact: true }).click();
}

export const model = (page: Page) => page.getByRole('region', { name: 'Model', exact: true });
/** The color of a texel on the front of the left box, off the borders of texels. */
export const colorOfModel = (page: Page): Promise<string> => colorAt(page, 0.19, 0.45);
