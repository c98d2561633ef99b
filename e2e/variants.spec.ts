import { strFromU8, unzipSync } from 'fflate';
import validator from 'gltf-validator';
import { sampleWithThree, variantsIn } from '@tests/sampleWithThree';
import { bytesOf, clickAt, colorAt, expect, openBoxes, openDemo, pickAt, pickBar, pointAway, saved, tally, test, viewport } from './kit';
import type { Page } from '@playwright/test';

const word = (page: Page) => page.getByRole('button', { name: /^Which coloring/ });
/** The variants of the demo kit, in the list. */
const own = ['Color Fresh paint', 'Color Salt-worn', 'Color Abandoned'];
const panel = (page: Page) => page.getByRole('dialog', { name: 'Variants' });

async function choose(page: Page, name: string): Promise<void> {
  await word(page).click();
  await page.getByRole('menuitemradio', { name: new RegExp(`^· *${name}|^${name}`) }).click();
  await expect(word(page)).toHaveText(name);
}

async function newVariant(page: Page, name: string): Promise<void> {
  await word(page).click();
  await page.getByRole('menuitem', { name: 'New variant' }).click();
  await panel(page).getByLabel('Name of the variant').fill(name);
  await page.keyboard.press('Enter');
  await expect(word(page)).toHaveText(name);
}

test('a variant by hand: other faces, other colors, the default shows through, take back, make default, reload', async ({ page }) => {
  await openBoxes(page, 2);
  await page.keyboard.press('w');
  await pickAt(page, 0.2, 0.5, 6);
  await page.getByRole('button', { name: /^moss, 0 faces/ }).click();
  await pickAt(page, 0.8, 0.5, 6);
  await page.getByRole('button', { name: /^rust, 0 faces/ }).click();
  const hexOf = async (role: string) =>
    /#[0-9a-f]{6}/.exec((await page.getByRole('button', { name: new RegExp(`^${role}, \\d`) }).getAttribute('title')) ?? '')![0];
  const [moss, rust, slate] = [await hexOf('moss'), await hexOf('rust'), await hexOf('slate')];
  const seen = async () => [await colorAt(page, 0.2, 0.45), await colorAt(page, 0.75, 0.45)];
  const shows = async (left: string, right: string) => {
    await pointAway(page);
    await expect.poll(seen).toEqual([left, right]);
  };
  await shows(moss, rust);

  await newVariant(page, 'Salt-worn');
  await expect(panel(page)).toContainText('Nothing differs in Salt-worn yet');
  await panel(page).getByRole('button', { name: 'Close' }).click();
  await clickAt(page, 0.2, 0.5);
  await expect(pickBar(page)).toContainText('6 faces picked');
  await page.getByRole('button', { name: /^slate, 0 faces/ }).click();
  await page.getByRole('button', { name: /^rust, 6 faces/ }).dblclick();
  const editor = page.getByRole('dialog', { name: 'Edit color' });
  await editor.getByLabel('Hex').fill('#ccbb99');
  await editor.getByLabel('Hex').press('Enter');
  await editor.getByRole('button', { name: 'Close' }).click();
  await shows(slate, '#ccbb99');
  await expect(page.getByRole('button', { name: 'rust, 6 faces on 1 model, differs from the default' })).toBeVisible();

  // The default is as it was; what changes there shows where the variant says nothing else.
  await choose(page, 'default');
  await shows(moss, rust);
  await page.getByRole('button', { name: /^slate, 0 faces/ }).dblclick();
  await editor.getByLabel('Hex').fill('#336699');
  await editor.getByLabel('Hex').press('Enter');
  await editor.getByRole('button', { name: 'Close' }).click();
  await page.keyboard.press('Shift+t');
  await expect(word(page)).toHaveText('Salt-worn');
  await shows('#336699', '#ccbb99');

  // Nothing is lost on reload; the kit opens in its default coloring.
  await saved(page);
  await page.reload();
  await expect(viewport(page)).toBeVisible();
  await expect(word(page)).toHaveText('default');
  await choose(page, 'Salt-worn');
  await shows('#336699', '#ccbb99');

  // What differs is listed, taken back for a color, made the default for the faces; undo brings each back.
  await word(page).click();
  await page.getByRole('menuitem', { name: /what differs/ }).click();
  const list = panel(page).getByRole('region', { name: 'What differs in Salt-worn' });
  await expect(list).toContainText('6 faces of boxes');
  await list.getByRole('button', { name: 'What differs: rust' }).click();
  await page.getByRole('menuitem', { name: /Take back/ }).click();
  await shows('#336699', rust);
  await page.keyboard.press('Control+z');
  await shows('#336699', '#ccbb99');
  await list.getByRole('button', { name: 'What differs: faces of boxes' }).click();
  await page.getByRole('menuitem', { name: 'Make it the default' }).click();
  await expect(list).not.toContainText('faces of');
  await choose(page, 'default');
  await shows('#336699', rust);
  await page.keyboard.press('Control+z');
  await shows(moss, rust);
});

test('variants are named, copied, put in order, deleted with what is lost said; names are checked as one types', async ({ page }) => {
  await openDemo(page);
  await newVariant(page, 'In fog');
  await expect(page.getByText('Regions are of all colorings, not of In fog alone.')).toBeVisible();
  await page.getByRole('button', { name: /^lime wash, \d/ }).dblclick();
  const editor = page.getByRole('dialog', { name: 'Edit color' });
  await editor.getByLabel('Hex').fill('#a9c3b0');
  await editor.getByLabel('Hex').press('Enter');
  await word(page).click();
  await page.getByRole('menuitem', { name: /what differs/ }).click();
  const colorings = panel(page).getByRole('list', { name: 'Colorings' });
  await colorings.getByRole('button', { name: 'More about In fog' }).click();
  await page.getByRole('menuitem', { name: 'Duplicate' }).click();
  const field = panel(page).getByLabel('Name of the variant');
  for (const [typed, problem] of [
    ['', 'Give it a name.'],
    ['SALT-worn ', '“Salt-worn” is there already.'],
    ['in FOG', '“In fog” is there already.'],
    ['fresh/paint', '“/” cannot stand in a file name.'],
    ['Default', '“default” is what the coloring without a variant is called.'],
  ] as const) {
    await field.fill(typed);
    await expect(panel(page).getByText(problem)).toBeVisible();
    await expect(field).toHaveAttribute('aria-invalid', 'true');
  }
  await field.fill('At dusk');
  await field.press('Enter');
  const names = () => colorings.getByRole('button', { name: /^Color / }).evaluateAll((all) => all.map((b) => b.getAttribute('aria-label')));
  await expect.poll(names).toEqual(['Color default, with which a game starts', ...own, 'Color In fog', 'Color At dusk']);
  await expect(colorings.getByRole('button', { name: 'Color At dusk' })).toContainText('1 color');
  const more = async (name: string, item: string) => {
    await colorings.getByRole('button', { name: `More about ${name}` }).click();
    await page.getByRole('menuitem', { name: item }).click();
  };
  await more('At dusk', 'Move up');
  await more('In fog', 'Start a game with it');
  await expect.poll(names).toEqual(['Color default', ...own, 'Color At dusk', 'Color In fog, with which a game starts']);
  await more('At dusk', 'Delete');
  await expect(page.getByText('“At dusk” is deleted: 1 color.')).toBeVisible();
  await expect(word(page)).toHaveText('default');
  await page.getByRole('button', { name: 'Undo', exact: true }).last().click();
  await expect.poll(names).toEqual(['Color default', ...own, 'Color At dusk', 'Color In fog, with which a game starts']);

  // One of one model alone is left with that model.
  await panel(page).getByRole('button', { name: 'Only of Light tower' }).click();
  await field.fill('Bell tower');
  await field.press('Enter');
  await expect(word(page)).toHaveText('Bell tower');
  await page
    .getByRole('button', { name: /^Channel buoy/ })
    .first()
    .click();
  await expect(word(page)).toHaveText('default');

  // In Palette, too, the sentence says which; elsewhere the kit is looked at as a whole.
  await choose(page, 'In fog');
  await page.getByRole('link', { name: 'Palette' }).click();
  await expect(word(page)).toHaveText('In fog');
  await expect(page.getByRole('option', { name: /^lime wash, #a9c3b0, \d+ faces, differs from the default/ })).toBeVisible();
  await expect(page.getByText('Where cells lie is of all colorings, not of In fog alone.')).toBeVisible();
  await page.getByRole('link', { name: 'Proof' }).click();
  await expect(page.getByRole('link', { name: 'Proof' })).toHaveAttribute('aria-current', 'page');
  await page.getByRole('link', { name: 'Color', exact: true }).click();
  await expect(word(page)).toHaveText('default');
  await expect(tally(page)).toContainText('15 colors');
});

test('variants by rule follow the default, compared side by side; one is gone on with, by pointer and by keyboard', async ({ page }) => {
  await openBoxes(page, 2);
  await page.keyboard.press('w');
  await pickAt(page, 0.2, 0.5, 6);
  await page.getByRole('button', { name: /^moss, 0 faces/ }).click();
  await pickAt(page, 0.8, 0.5, 6);
  await page.getByRole('button', { name: /^rust, 0 faces/ }).click();

  await newVariant(page, 'Snow');
  const rules = panel(page).getByRole('region', { name: 'Rules' });
  await rules.getByRole('button', { name: 'Add a rule' }).click();
  await page.getByRole('menuitem', { name: /Toward a color/ }).click();
  const toward = rules.getByRole('listitem', { name: 'Rule 1: Toward a color' });
  await toward.getByLabel('Toward, as hex or a name').fill('#ffffff');
  await page.keyboard.press('Enter');
  await toward.getByLabel('Share').fill('1');
  await expect.poll(async () => colorAt(page, 0.14, 0.45)).toBe('#ffffff');
  // Left alone by the rule.
  await toward.getByRole('button', { name: 'rust', exact: true }).click();
  await expect(toward.getByRole('button', { name: 'rust', exact: true })).toHaveAttribute('aria-pressed', 'false');
  await newVariant(page, 'Bands');
  await rules.getByRole('button', { name: 'Add a rule' }).click();
  await page.getByRole('menuitem', { name: /Ramps take/ }).click();
  await rules.getByRole('combobox', { name: 'Rust takes the colors of' }).click();
  await page.getByRole('option', { name: 'Slate' }).click();
  await panel(page).getByRole('button', { name: 'Close' }).click();
  const hexOf = async (role: string) =>
    /#[0-9a-f]{6}/.exec((await page.getByRole('button', { name: new RegExp(`^${role}, \\d`) }).getAttribute('title')) ?? '')![0];
  const [moss, slate] = [await hexOf('moss'), await hexOf('slate')];
  expect(await hexOf('rust')).toBe(slate);

  await page.keyboard.press('Shift+u');
  const bar = page.getByRole('group', { name: 'Colorings side by side' });
  await expect(bar.getByRole('button')).toHaveText([/^default2 colors.* B$/, /^Snow2 colors.* B$/, /^Bands2 colors.* B$/]);
  await expect(bar.getByRole('button', { name: /Bands/ })).toBeFocused();
  await pointAway(page);
  // Each third of the picture shows the left box in its own coloring.
  const lefts = async () => [
    await colorAt(page, 0.09, 0.5),
    await colorAt(page, 0.09 + 1 / 3, 0.5),
    await colorAt(page, 0.09 + 2 / 3, 0.5),
  ];
  const rights = async () => [
    await colorAt(page, 0.24, 0.5),
    await colorAt(page, 0.24 + 1 / 3, 0.5),
    await colorAt(page, 0.24 + 2 / 3, 0.5),
  ];
  await expect.poll(lefts).toEqual([moss, '#ffffff', moss]);
  const [rust] = await rights();
  expect(await rights()).toEqual([rust, rust, slate]);

  // A pane can go and come; the keyboard steps through them, Enter goes on with one.
  await page.getByRole('group', { name: 'Which colorings' }).getByRole('button', { name: 'default' }).click();
  await expect(bar.getByRole('button')).toHaveText([/^Snow/, /^Bands/]);
  await page.getByRole('group', { name: 'Which colorings' }).getByRole('button', { name: 'default' }).click();
  await bar.getByRole('button', { name: /Bands/ }).focus();
  await page.keyboard.press('ArrowLeft');
  await expect(bar.getByRole('button', { name: /Snow/ })).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(word(page)).toHaveText('Snow');
  await expect(bar).toHaveCount(0);

  // The rule is tuned later, and follows what changes in the default.
  await word(page).click();
  await page.getByRole('menuitem', { name: /what differs/ }).click();
  await rules.getByLabel('Share').fill('0');
  await expect(panel(page).getByRole('button', { name: 'Color Snow' })).toContainText('as the default');
  await rules.getByLabel('Share').fill('1');
  await panel(page).getByRole('button', { name: 'Close' }).click();
  await choose(page, 'default');
  await page.keyboard.press('Shift+u');
  await expect.poll(lefts).toEqual([moss, '#ffffff', moss]);
  await page.keyboard.press('Escape');
  await expect(bar).toHaveCount(0);

  // In the line-up a row a variant.
  await page.getByRole('link', { name: 'Palette' }).click();
  await page.getByRole('radio', { name: 'Line-up' }).click();
  await page.getByRole('checkbox', { name: 'A row a variant' }).click();
  await expect(page.getByRole('img', { name: /^The models in/ })).toHaveCount(3);
});

test('variants leave with the kit: inside a GLB, each in a file of its own, and in a list for scripts', async ({ page }) => {
  await openDemo(page);
  await choose(page, 'Abandoned');
  const worn = async () =>
    Number(/(\d+) faces/.exec((await panel(page).getByRole('button', { name: 'Color Abandoned' }).textContent()) ?? '')![1]);
  await word(page).click();
  await page.getByRole('menuitem', { name: /what differs/ }).click();
  const differing = await worn();
  expect(differing).toBeGreaterThan(10);
  await page.getByRole('link', { name: 'Hand-off' }).click();
  const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'Download GLB' }).click()]);
  const glb = await bytesOf(download);
  expect(variantsIn(glb)).toEqual(['Fresh paint', 'Salt-worn', 'Abandoned']);
  expect((await validator.validateBytes(glb)).issues).toMatchObject({ numErrors: 0, numWarnings: 0 });
  const [plain, salt, left] = [
    await sampleWithThree(glb),
    await sampleWithThree(glb, 'Salt-worn'),
    await sampleWithThree(glb, 'Abandoned'),
  ];
  // Salt-worn recolors: where two faces are of one color by default they are there. Abandoned seats faces otherwise.
  const pairs = (other: typeof plain) =>
    new Set(plain.triangles.map((t, i) => `${String(t.color)} ${String(other.triangles[i]!.color)}`)).size;
  const colors = new Set(plain.triangles.map((t) => String(t.color))).size;
  expect([pairs(salt), pairs(left)]).toEqual([colors, colors + 2]);

  // A plan: each variant in a file of its own, and the list.
  await page.getByRole('radio', { name: 'Folders, by a plan' }).click();
  await page.getByRole('group', { name: 'GLB, 2' }).getByRole('button', { name: 'How GLB leaves' }).click();
  await page.getByRole('combobox', { name: 'GLB: colorings' }).click();
  await page.getByRole('option', { name: 'A file for each variant' }).click();
  await page.getByRole('checkbox', { name: 'A list for scripts' }).check();
  const writes = page.getByRole('region', { name: 'What it writes' });
  const [zip] = await Promise.all([page.waitForEvent('download'), writes.getByRole('button', { name: 'Download as a zip' }).click()]);
  const files = unzipSync(await bytesOf(zip));
  const glbs = ['default', 'fresh-paint', 'salt-worn', 'abandoned'].map((v) => `whole/brindle-skerry-${v}.glb`);
  expect(
    Object.keys(files)
      .filter((f) => f.endsWith('.glb'))
      .sort(),
  ).toEqual([...glbs].sort());
  const list = JSON.parse(strFromU8(files['list.json']!)) as { models: { name: string; files: { path: string; colorings: string[] }[] }[] };
  const inside = ['default', 'Fresh paint', 'Salt-worn', 'Abandoned'];
  expect(list.models.find((m) => m.name === 'Light tower')!.files).toEqual([
    { path: 'models/light-tower/light-tower.gltf', format: 'gltf', colorings: inside },
    ...glbs.map((path, i) => ({ path, format: 'glb', colorings: [inside[i]] })),
  ]);
  const own = files[glbs[3]!]!;
  expect(variantsIn(own)).toEqual([]);
  expect((await sampleWithThree(own)).triangles.map((t) => String(t.color))).toEqual(left.triangles.map((t) => String(t.color)));
});
