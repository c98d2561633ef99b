import { colorAt, expect, openBoxes, saved, test, viewport } from './kit';

test('from what stands open before a kit leaves to nothing, by repairs, a look and a reason; undone and kept', async ({ page }) => {
  await openBoxes(page, 2);
  await page.getByRole('link', { name: 'Proof', exact: true }).click();
  const findings = page.getByRole('region', { name: 'Findings' });
  const open = findings.getByRole('list', { name: 'To look at' });
  await expect(open).toContainText('12 faces not yet colored');
  await open.getByRole('button', { name: 'Show me: 12 faces not yet colored' }).click();
  await expect(page.getByRole('group', { name: 'Pick', exact: true })).toContainText('12 faces picked');

  // Colored, it is looked at again by itself.
  await page.getByRole('link', { name: 'see to it in Color' }).first().click(); // prettier-ignore
  await page.getByRole('button', { name: /^moss, \d/ }).click();
  await page.getByRole('link', { name: 'Proof', exact: true }).click();
  await expect(open).toBeVisible();
  await expect(open).not.toContainText('not yet colored');
  const color = await colorAt(page, 0.4, 0.5);

  // Colors that no face uses become spare, then the sheet is laid out smaller; no face changes its color.
  await open.getByRole('button', { name: /^make them spare/ }).click();
  await expect(open).not.toContainText('no face uses');
  await open.getByRole('button', { name: /^lay it out smaller: .* 4 × 4 texels/ }).click();
  await expect(page.getByLabel('Tally')).toContainText('4×4 texels');
  await expect(open).not.toContainText('larger than its colors need');
  expect(await colorAt(page, 0.4, 0.5)).toBe(color);

  // What it costs: a sheet of 16 texels, and its three levels, and what blocks make of it; three copies of each are three draws.
  await findings.getByRole('radio', { name: 'What it costs' }).click();
  const costs = findings.getByRole('table', { name: 'What it costs' });
  await expect(costs.getByRole('row', { name: /^Sheet on the card/ })).toContainText('64 B');
  await expect(costs.getByRole('row', { name: /^… with mip levels/ })).toContainText('84 B');
  await expect(costs.getByRole('row', { name: /^Draw calls/ })).toHaveText('Draw calls2111');
  await expect(findings.getByRole('region', { name: '“Sheet” in blocks' })).toContainText(/BC1 (keeps all colors|changes)/);
  await findings.getByLabel('In a scene with').fill('3');
  await expect(findings.getByText('3 draw calls')).toBeVisible();
  await findings.getByRole('radio', { name: 'What is wrong' }).click();

  // Two boxes stand apart: meant so, and it stays listed with the reason.
  await open.getByRole('button', { name: 'Let it be: 12 faces of parts that float alone' }).click();
  await findings.getByLabel('Why it may be').fill('crates on a quay');
  await page.keyboard.press('Enter');
  await expect(findings.getByRole('heading', { name: 'Nothing stands open' })).toBeVisible();
  const letBe = findings.getByRole('list', { name: 'Let be' });
  await expect(letBe).toContainText('crates on a quay');
  await saved(page);
  await page.reload();
  await expect(findings.getByRole('heading', { name: 'Nothing stands open' })).toBeVisible();
  await expect(letBe).toContainText('crates on a quay');
  await letBe.getByRole('button', { name: 'look at it again' }).click();
  await expect(open).toContainText('12 faces of parts that float alone');
  await viewport(page).focus();
  await page.keyboard.press('Control+z');
  await expect(findings.getByRole('heading', { name: 'Nothing stands open' })).toBeVisible();
});
