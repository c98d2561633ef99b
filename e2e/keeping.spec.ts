import type { Page } from '@playwright/test';
import { boxesObj, bringIn, bytesOf, expect, file, openBoxes, openDemo, saved, tally, test, viewport } from './kit';

test('a file that cannot be read is named with its line, and the kit stays as it was', async ({ page }) => {
  await openBoxes(page, 1);
  await page.getByRole('link', { name: 'Gather' }).click();
  await bringIn(page, [file('wreck.obj', 'v 0 0 0\nv 1 0 0\nf 1 2 7\n'), file('good.obj', boxesObj(1))]);
  await expect(page.getByRole('alert').filter({ hasText: 'could not be read' })).toContainText(
    'wreck.obj, line 3: a face uses vertex 7, but the file has 2 up to here.',
  );
  await expect(page.getByRole('article', { name: 'Report of good' })).toBeVisible();
  await expect(page.getByText('2 models')).toBeVisible();
  await bringIn(page, [file('letter.txt', 'the lamp is out')]);
  await expect(page.getByText('letter.txt: models are read from')).toBeVisible();
  // All of them are listed here; in the other views a word is enough.
  await expect(page.getByRole('dialog', { name: 'Reading files' })).toBeHidden();
  await bringIn(
    page,
    Array.from({ length: 7 }, (_, i) => file(`wreck ${i + 1}.obj`, 'v 0 0 0\nf 1 1 9\n')),
  );
  const unread = page.getByRole('alert').filter({ hasText: '7 files could not be read' });
  await expect(unread.getByRole('listitem')).toHaveCount(7);
  await page.getByRole('link', { name: 'Color', exact: true }).click();
  await expect(viewport(page)).toBeVisible();
  await expect(unread).toBeHidden();
  await page.getByRole('link', { name: 'Gather' }).click();
  await page.getByRole('button', { name: 'Close' }).click();
  await expect(page.getByText('2 models')).toBeVisible();
});

test('a second tab only reads until it takes over', async ({ page, context }) => {
  await openBoxes(page, 1);
  await saved(page);
  const second = await context.newPage();
  await second.goto(page.url());
  await expect(second.getByText('This kit is being edited in another tab.')).toBeVisible();
  await expect(viewport(second)).toBeVisible();
  await second.keyboard.press('Control+a');
  await second.getByRole('button', { name: /^rust, 0 faces/ }).click();
  await expect(second.getByText('Take over to edit it here.')).toBeVisible();
  await expect(tally(second)).toContainText('6 uncolored');

  await page.keyboard.press('Control+a');
  await page.getByRole('button', { name: /^moss, 0 faces/ }).click();
  await second.getByRole('button', { name: 'Edit here instead' }).click();
  await expect(second.getByText('This kit is being edited in another tab.')).toBeHidden();
  await expect(tally(second)).toContainText('0 uncolored');
  await expect(page.getByText('This kit is being edited in another tab.')).toBeVisible();
  await second.keyboard.press('Control+z');
  await expect(tally(second)).toContainText('6 uncolored');
  await saved(second);
});

/** This page alone finds no room from now on, until it is sent `room`. */
const withoutRoom = (page: Page) =>
  page.evaluate(() => {
    const { put } = IDBObjectStore.prototype;
    IDBObjectStore.prototype.put = () => {
      throw new DOMException('no room', 'QuotaExceededError');
    };
    window.addEventListener('room', () => (IDBObjectStore.prototype.put = put));
  });

/** Fills the origin's storage to the last kilobyte with a database of its own. */
async function fillStorage(page: Page): Promise<void> {
  await page.evaluate(async () => {
    const open = indexedDB.open('ballast', 1);
    const database = await new Promise<IDBDatabase>((resolve) => {
      open.onupgradeneeded = () => open.result.createObjectStore('stones', { autoIncrement: true });
      open.onsuccess = () => resolve(open.result);
    });
    const put = (bytes: number) =>
      new Promise<boolean>((resolve) => {
        const transaction = database.transaction('stones', 'readwrite');
        transaction.objectStore('stones').add(crypto.getRandomValues(new Uint8Array(bytes)));
        transaction.oncomplete = () => resolve(true);
        transaction.onabort = () => resolve(false);
      });
    for (const bytes of [65536, 4096, 256]) while (await put(bytes));
    database.close();
  });
}

test('full storage is reported, and the kit can still leave', async ({ page, context, baseURL }) => {
  await page.goto('/icon.svg');
  const devtools = await context.newCDPSession(page);
  await devtools.send('Storage.overrideQuotaForOrigin', { origin: baseURL!, quotaSize: 3_000_000 });
  await openDemo(page);
  await saved(page);
  await fillStorage(page);
  await page.keyboard.press('Control+a');
  await page.getByRole('button', { name: /^brass,/ }).click();
  const alert = page.getByRole('alert').filter({ hasText: 'Not saved.' });
  await expect(alert).toContainText('The storage of this browser is full');
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    alert.getByRole('button', { name: 'Export the kit archive' }).click(),
  ]);
  expect((await bytesOf(download)).length).toBeGreaterThan(10_000);
  // Leaving is asked about while it is so.
  page.once('dialog', (dialog) => void dialog.dismiss());
  const [dialog] = await Promise.all([page.waitForEvent('dialog'), page.close({ runBeforeUnload: true })]);
  expect(dialog.type()).toBe('beforeunload');
  await page.getByRole('link', { name: 'Oligochrome, all kits' }).click();
  await page.getByRole('dialog', { name: 'Leave without your last changes?' }).getByRole('button', { name: 'Stay' }).click();
  const home = await context.newPage();
  await home.goto('/');
  await withoutRoom(home);
  await home.getByRole('button', { name: 'New kit' }).click();
  await expect(home.getByText('so the kit was not made. Make room')).toBeVisible();
  await home.close();
  // With room again it is saved by itself.
  await devtools.send('Storage.overrideQuotaForOrigin', { origin: baseURL! });
  await page.evaluate(() => indexedDB.deleteDatabase('ballast'));
  await saved(page);
  const text = await tally(page).textContent();
  await page.reload();
  await expect(tally(page)).toHaveText(text!);
});

test('a tab that lost the kit does not write it, and offers its changes as a copy', async ({ page, context }) => {
  await openBoxes(page, 1);
  await saved(page);
  await withoutRoom(page);
  await page.keyboard.press('Control+a');
  await page.getByRole('button', { name: /^moss, 0 faces/ }).click();
  await expect(page.getByRole('alert').filter({ hasText: 'Not saved.' })).toBeVisible();
  const second = await context.newPage();
  await second.goto(page.url());
  await second.getByRole('button', { name: 'Edit here instead' }).click();
  await expect(second.getByText('This kit is being edited in another tab.')).toBeHidden();
  await expect(viewport(second)).toBeVisible();
  await second.keyboard.press('Control+a');
  await second.getByRole('button', { name: /^slate, 0 faces/ }).click();
  await saved(second);
  await page.evaluate(() => window.dispatchEvent(new Event('room')));
  const alert = page.getByRole('alert').filter({ hasText: 'Another tab edits this kit now' });
  await alert.getByRole('button', { name: 'Keep them as a copy' }).click();
  await expect(page.getByRole('button', { name: 'Kit boxes copy' }).or(page.getByRole('button', { name: /^Kit .* copy/ }))).toBeVisible();
  await expect(page.getByRole('button', { name: /^moss, 6 faces/ })).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(tally(page)).toContainText('6 uncolored');
  await second.reload();
  await expect(second.getByRole('button', { name: /^slate, 6 faces/ })).toBeVisible();
  await second.getByRole('button', { name: /^Kit / }).click();
  await second.getByRole('menuitem', { name: 'Storage' }).click();
  await expect(second.getByRole('dialog', { name: 'Storage' })).toContainText('1 other kit');
});

test('an archive opens again to the same kit, in the Color view', async ({ page }) => {
  await openDemo(page);
  await page.keyboard.press('Control+a');
  await page.getByRole('button', { name: /^brass,/ }).click();
  await expect(tally(page)).toContainText(' B');
  const text = await tally(page).textContent();
  await page.getByRole('link', { name: 'Hand-off' }).click();
  const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'Download Kit archive' }).click()]);
  expect(download.suggestedFilename()).toBe('Brindle-Skerry.oligochrome.zip');
  const buffer = Buffer.from(await bytesOf(download));
  await page.getByRole('link', { name: 'Oligochrome, all kits' }).click();
  await page
    .getByLabel('Open models or an archive')
    .setInputFiles([{ name: download.suggestedFilename(), mimeType: 'application/zip', buffer }]);
  await expect(viewport(page)).toBeVisible();
  await expect(tally(page)).toHaveText(text!);

  // Taken into itself all colors meet but painted art, which is a piece of its own each time; every model comes once more, and one undo takes it back.
  const draws = Number(/(\d+) draw calls/.exec(text!)![1]);
  await page.getByLabel('Archive of the other kit').setInputFiles([{ name: 'again.zip', mimeType: 'application/zip', buffer }]);
  await expect(page.getByText('10 models came from “Brindle Skerry”, and 1 color; 15 were there already.')).toBeVisible();
  await expect(tally(page)).toContainText(`${draws * 2} draw calls`);
  await expect(tally(page)).toContainText('15 colors');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(tally(page)).toHaveText(text!);
});

test('home: rename, duplicate, remove and undo; models within a kit likewise', async ({ page }) => {
  await openDemo(page);
  await page.getByRole('button', { name: 'Actions for Crab pots' }).click();
  await page.getByRole('menuitem', { name: 'Duplicate' }).click();
  await expect(page.getByRole('button', { name: /Crab pots copy 754 faces, all bare/ })).toBeVisible();
  await page.getByRole('button', { name: 'Actions for Crab pots copy' }).click();
  await page.getByRole('menuitem', { name: 'Remove' }).click();
  await expect(page.getByLabel('Models of the kit').getByRole('listitem')).toHaveCount(10);
  await page.keyboard.press('Control+z');
  await expect(page.getByLabel('Models of the kit').getByRole('listitem')).toHaveCount(11);
  await saved(page);

  // Renamed inside, then outside: the last name stands, also when it is opened again.
  await page.getByRole('button', { name: 'Kit Brindle Skerry' }).click();
  await page.getByRole('menuitem', { name: 'Rename the kit' }).click();
  await page.getByLabel('Kit name').fill('Skerry');
  await page.keyboard.press('Enter');
  // Home says of the kit what stood above it, also of what was colored just before.
  await page.getByRole('button', { name: /^Crab pots copy/ }).click();
  await expect(viewport(page)).toHaveAccessibleName(/Crab pots copy/);
  await page.keyboard.press('Control+a');
  const before = await tally(page).textContent();
  await page.getByRole('button', { name: /^brass,/ }).click();
  await expect(tally(page)).not.toHaveText(before!);
  const [draws, , colors, bare] = await tally(page).getByRole('listitem').allTextContents();
  await page.getByRole('link', { name: 'Oligochrome, all kits' }).click();
  await expect(page.getByRole('list', { name: 'Tally of Skerry' }).getByRole('listitem')).toHaveText([draws!, colors!, bare!]);
  // Not the model of Skerry rocks, which is there until home has come.
  await page.getByRole('button', { name: 'Actions for Skerry', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Rename' }).click();
  await page.getByLabel('Kit name').fill('The islet');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Actions for The islet' }).click();
  await page.getByRole('menuitem', { name: 'Duplicate' }).click();
  await expect(page.getByText('The islet copy')).toBeVisible();
  await page.getByRole('button', { name: 'Actions for The islet', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Remove' }).click();
  await expect(page.getByRole('link', { name: 'Open The islet', exact: true })).toBeHidden();
  await page.getByRole('button', { name: 'Undo' }).click();
  await page.getByRole('link', { name: 'Open The islet', exact: true }).click();
  await expect(page.getByLabel('Models of the kit').getByRole('listitem')).toHaveCount(11);
  await expect(page.getByRole('button', { name: 'Kit The islet' })).toBeVisible();
});
