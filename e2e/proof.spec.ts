import { colorAt, expect, openBoxes, pickAt, pickBar, saved, test, viewport } from './kit';

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

  // One face of twelve is forgotten when they are colored anew: it is found, and follows.
  await page.getByRole('button', { name: 'Front' }).click();
  await page.keyboard.press('f');
  await pickAt(page, 0.2, 0.5, 1);
  await page.keyboard.press('v');
  await expect(pickBar(page)).toContainText('11 faces picked');
  await page.getByRole('button', { name: /^rust, \d/ }).click();
  await page.getByRole('link', { name: 'Proof', exact: true }).click();
  await expect(open).toBeVisible();
  await expect(open).not.toContainText('not yet colored');
  await open.getByRole('button', { name: 'color them alike: 1 face still of a color that 11 others gave up' }).click();
  await expect(open).not.toContainText('gave up');
  const color = await colorAt(page, 0.05, 0.5);
  expect(color).not.toBe('#8f8f8f');

  // As an engine samples it: each color has 4 × 4 texels, so that it is itself down to level 2, and mixed with all at the last.
  const sampling = page.getByRole('group', { name: 'As a game samples the sheet' });
  const leftOut = async (filter: string, levels: number) => {
    await sampling.getByRole('radio', { name: filter }).click();
    await sampling.getByLabel('largest levels left out').fill(String(levels));
    await page.keyboard.press('Enter');
  };
  for (const levels of [1, 2]) {
    await leftOut('Nearest', levels);
    await expect.poll(() => colorAt(page, 0.05, 0.5)).toBe(color);
  }
  await leftOut('Nearest', 4);
  await expect.poll(() => colorAt(page, 0.05, 0.5)).not.toBe(color);
  const mixed = await colorAt(page, 0.05, 0.5);
  await leftOut('Trilinear', 4);
  await expect.poll(() => colorAt(page, 0.05, 0.5)).toBe(mixed);
  await sampling.getByRole('radio', { name: 'True colors' }).click();
  await expect.poll(() => colorAt(page, 0.05, 0.5)).toBe(color);

  // Colors that no face uses become spare, then the sheet is laid out smaller; no face changes its color.
  await open.getByRole('button', { name: /^make them spare/ }).click();
  await expect(open).not.toContainText('no face uses');
  await open.getByRole('button', { name: /^lay it out smaller: .* 4 × 4 texels/ }).click();
  await expect(page.getByLabel('Tally')).toContainText('4×4 texels');
  await expect(open).not.toContainText('larger than its colors need');
  expect(await colorAt(page, 0.05, 0.5)).toBe(color);

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
