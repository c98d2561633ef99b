import { AxeBuilder } from '@axe-core/playwright';
import type { Locator, Page } from '@playwright/test';
import { bytesOf, clickAt, colorAt, expect, file, openDemo, saved, test, viewport } from './kit';

const standing = (page: Page) => page.getByRole('list', { name: 'Standing there' }).getByRole('button');
const cue = (page: Page, name: string) => page.getByRole('region', { name: 'Cues' }).getByRole('listitem', { name, exact: true });
const ran = (page: Page) => page.getByRole('region', { name: 'What ran' }).getByRole('listitem');
const shows = (page: Page, name: string) => page.getByRole('list', { name: 'What is there' }).getByRole('listitem', { name, exact: true });

async function openStage(page: Page): Promise<void> {
  await openDemo(page);
  await page.getByRole('link', { name: 'Stage' }).click();
  await expect(standing(page)).toHaveCount(10);
  await expect(viewport(page)).toHaveAttribute('aria-busy', 'false');
}

/** Chooses a word of a cue's sentence. */
async function choose(page: Page, row: Locator, word: RegExp, option: string): Promise<void> {
  await row.getByRole('button', { name: word }).click();
  await page.getByRole('menuitemradio', { name: option }).first().click();
}

const serious = async (page: Page) =>
  (await new AxeBuilder({ page }).analyze()).violations
    .filter((v) => v.impact === 'serious' || v.impact === 'critical')
    .map((v) => `${v.id} ${v.nodes[0]!.html}`);

test('a cue is made word by word and follows what it names; what it loses is listed, and undo brings it back', async ({ page }) => {
  await openStage(page);
  await standing(page).filter({ hasText: 'Crab pots' }).click();
  await page.getByRole('button', { name: 'Cues 3' }).click();
  await page.getByRole('button', { name: 'New cue' }).click();
  const row = cue(page, 'Cue 4');
  await expect(row).toContainText('When the visitor clicks Crab pots');
  await choose(page, row, /^When/, 'the visitor comes within');
  await choose(page, row, /^What changes/, 'Light tower');
  await choose(page, row, /^What it does/, 'shows');
  await choose(page, row, /^Coloring/, 'Abandoned');
  await expect(row).toContainText(/comes within\s+m of Crab pots, after\s+s, Light tower shows Abandoned; each time, in any case\./);
  await row.getByLabel('Metres').fill('5');
  await row.getByLabel('Metres').press('Enter');

  // Names are followed.
  const field = page.getByRole('region', { name: 'Chosen' }).getByLabel('Name on the stage');
  await field.fill('Pots at the landing');
  await field.press('Enter');
  await expect(row).toContainText('m of Pots at the landing');
  expect(await serious(page)).toEqual([]);

  // A variant is renamed and deleted where it is made; the cue says what to do.
  await page.getByRole('link', { name: 'Color', exact: true }).click();
  const more = async (name: string, item: string) => {
    await page.getByRole('button', { name: /^Which coloring/ }).click();
    await page.getByRole('menuitem', { name: /what differs/ }).click();
    await page.getByRole('button', { name: `More about ${name}` }).click();
    await page.getByRole('menuitem', { name: item }).click();
  };
  await more('Abandoned', 'Rename');
  await page.getByLabel('Name of the variant').fill('Left alone');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'More about Left alone' }).click();
  await page.getByRole('menuitem', { name: 'Delete' }).click();
  await expect(page.getByText('1 cue used it: “Cue 4”. Under Cues on the stage it is said what to choose instead.')).toBeVisible();
  await page.getByRole('link', { name: 'Stage' }).click();
  await expect(row.getByText('does not run')).toBeVisible();
  await expect(page.getByText('1 cue needs a choice, and does not run until then.')).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(row.getByText('does not run')).toBeHidden();
  await expect(row).toContainText('Light tower shows Left alone');

  // So with what stands there.
  await standing(page).filter({ hasText: 'Pots at the landing' }).click();
  await page.getByRole('button', { name: 'Take off' }).click();
  await expect(page.getByText('1 cue used it: “Cue 4”')).toBeVisible();
  await expect(row.getByText('does not run')).toBeVisible();
  await choose(page, row, /^What is approached/, 'Tide gauge');
  await expect(row.getByText('does not run')).toBeHidden();
  await row.getByRole('button', { name: 'More about Cue 4' }).click();
  await page.getByRole('menuitem', { name: 'Move up' }).click();
  await expect(page.getByRole('region', { name: 'Cues' }).getByRole('listitem').nth(2)).toContainText('Tide gauge');
  await saved(page);
  await page.reload();
  await page.getByRole('button', { name: 'Cues 4' }).click();
  await expect(cue(page, 'Cue 4')).toContainText('m of Tide gauge');
  await expect(cue(page, 'Cue 4').getByLabel('Metres')).toHaveValue('5');
});

test('play: the board asks, the bell goes on in turn, the gauge minds who comes; by pointer and by keyboard; the kit is as it was', async ({
  page,
}) => {
  await openStage(page);
  await page.getByRole('button', { name: 'Play' }).click();
  await expect(page.getByText('Nothing yet.')).toBeVisible();

  // By pointer: what is gone to stands in the middle.
  await page.getByRole('button', { name: 'Go to Fog bell' }).click();
  await clickAt(page, 0.5, 0.5);
  await expect(ran(page)).toHaveCount(1);
  await expect(ran(page).first()).toContainText('Bell');
  await expect(shows(page, 'Fog bell')).toContainText('Fresh paint');
  await clickAt(page, 0.5, 0.5);
  await expect(shows(page, 'Fog bell')).toContainText('Salt-worn');

  // By keyboard: the list goes there and clicks, and the question is answered where it is asked.
  await shows(page, 'Notice board').getByRole('button', { name: 'Go to Notice board' }).focus();
  await page.keyboard.press('Enter');
  const board = await colorAt(page, 0.5, 0.42);
  await page.keyboard.press('Tab');
  await expect(shows(page, 'Notice board').getByRole('button', { name: 'Click Notice board' })).toBeFocused();
  await page.keyboard.press('Enter');
  const question = page.getByRole('dialog', { name: 'How shall the islet look?' });
  await expect(question.getByRole('button')).toHaveText(['default', 'Fresh paint', 'Salt-worn', 'Abandoned', 'Leave it']);
  await expect(question.getByRole('button', { name: 'default' })).toBeFocused();
  expect(await serious(page)).toEqual([]);
  for (let n = 0; n < 3; n++) await page.keyboard.press('Tab');
  await page.keyboard.press('Enter');
  await expect(question).toBeHidden();
  await expect(shows(page, 'Light tower')).toContainText('Abandoned');
  await expect(shows(page, 'Fog bell')).toContainText('Abandoned');
  await expect.poll(() => colorAt(page, 0.5, 0.42)).not.toBe(board);

  // Walking there is what the gauge waits for.
  await expect(ran(page).filter({ hasText: 'Gauge' })).toHaveCount(0);
  await page.getByRole('button', { name: 'Go to Tide gauge' }).click();
  await expect(ran(page).first()).toContainText('Gauge');
  await expect(shows(page, 'Tide gauge')).toContainText('Fresh paint');

  await page.getByRole('button', { name: 'Start over' }).click();
  await expect(ran(page)).toHaveText(['Nothing yet.']);
  await expect(shows(page, 'Light tower')).toContainText('default');
  await viewport(page).focus();
  await page.keyboard.press('Escape');
  await expect(standing(page)).toHaveCount(10);
  await expect(standing(page).first()).toHaveText('Light towerdefault');
  await expect(page.getByRole('button', { name: 'Undo' })).toBeDisabled();
});

test('a stage leaves as a scene and as stage.json, and comes in again from both; what is no stage changes nothing', async ({ page }) => {
  await openStage(page);
  const download = async (name: string) => {
    const [got] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name }).click()]);
    return { name: got.suggestedFilename(), mimeType: 'application/octet-stream', buffer: Buffer.from(await bytesOf(got)) };
  };
  const json = await download('stage.json');
  await page.getByRole('checkbox', { name: /^Instances/ }).check();
  const scene = await download('Scene as GLB');
  expect([json.name, scene.name]).toEqual(['stage.json', 'Brindle-Skerry-stage.glb']);
  const said = JSON.parse(json.buffer.toString()) as { placements: unknown[]; cues: unknown[] };
  expect([said.placements.length, said.cues.length]).toEqual([10, 3]);

  const field = page.getByLabel('Stage file to bring in');
  for (const what of [json, scene]) {
    await viewport(page).focus();
    await page.keyboard.press('Control+a');
    await page.keyboard.press('Delete');
    await expect(standing(page)).toHaveCount(0);
    await field.setInputFiles([what]);
    await page
      .getByRole('dialog', { name: `Bring in ${what.name}` })
      .getByRole('button', { name: 'Replace what is here' })
      .click();
    await expect(standing(page)).toHaveCount(10);
    expect((await download('stage.json')).buffer.toString()).toBe(json.buffer.toString());
  }
  await field.setInputFiles([scene]);
  await page.getByRole('button', { name: 'Add to what is here' }).click();
  await expect(standing(page)).toHaveCount(20);
  await expect(standing(page).last()).toContainText('2');
  await page.getByRole('button', { name: 'Undo', exact: true }).first().click();
  await expect(standing(page)).toHaveCount(10);

  const other = (change: (stage: { version: number; placements: { model: string }[] }) => void) => {
    const stage = JSON.parse(json.buffer.toString()) as { version: number; placements: { model: string }[] };
    change(stage);
    return [file('other.json', JSON.stringify(stage))];
  };
  await field.setInputFiles(other((s) => (s.version = 2)));
  await expect(page.getByText('other.json: it is of version 2, and this Oligochrome reads up to 1.')).toBeVisible();
  await field.setInputFiles(other((s) => (s.placements[0]!.model = 'Windmill')));
  await expect(page.getByText('names the model “Windmill”, which this kit does not have')).toBeVisible();
  await expect(standing(page)).toHaveCount(10);
});
