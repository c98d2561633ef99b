import { createHash } from 'node:crypto';
import { unzipSync } from 'fflate';
import { bytesOf, expect, openDemo, saved, test, viewport } from './kit';

test('a plan writes a tree of files that is seen before, by the page, a key and the server alike', async ({ page, request }) => {
  await openDemo(page);
  await page.getByRole('link', { name: 'Hand-off' }).click();
  await page.getByRole('radio', { name: 'Folders, by a plan' }).click();
  const writes = page.getByRole('region', { name: 'What it writes' });
  const leave = writes.getByRole('button', { name: 'Download as a zip' });
  await expect(writes.getByRole('status', { name: 'Proof' })).toContainText('It can leave all the same.');

  // What cannot be written is told where it is, and nothing leaves until then.
  const path = page.getByRole('group', { name: 'GLB, 2' }).getByRole('textbox', { name: 'at' });
  await path.fill('models/{model}/<{kit}>.glb');
  await expect(writes.getByRole('alert')).toContainText('1 thing to mend');
  await expect(writes.getByRole('list', { name: 'Files' })).toContainText('there is no field “model” here.');
  await expect(leave).toBeDisabled();
  await path.fill('whole/{kit}-{version}.glb');
  await page.getByRole('textbox', { name: 'Version' }).fill('2.0.1');
  await page.getByRole('button', { name: 'Add files' }).click();
  await page.getByRole('menuitem', { name: 'STL' }).click();
  await page.getByRole('combobox', { name: 'STL: files' }).click();
  await page.getByRole('option', { name: 'all in one' }).click();
  const template = page.getByRole('textbox', { name: 'Template of the manifest' });
  const whole = await template.inputValue();
  await template.fill('{"v": "{versoin}"}');
  await expect(page.getByRole('region', { name: 'Plan Game build' }).getByRole('alert')).toContainText('names “{versoin}”');
  await template.fill(whole);
  await expect(writes.getByRole('alert')).toBeHidden();

  const [download] = await Promise.all([page.waitForEvent('download'), leave.click()]);
  expect(download.suggestedFilename()).toBe('Brindle-Skerry-game-build.zip');
  const zip = await bytesOf(download);
  const files = unzipSync(zip);
  const names = Object.keys(files);
  expect(names).toContain('whole/brindle-skerry-2.0.1.glb');
  expect(names).toContain('brindle-skerry.stl');
  expect(names.filter((n) => /sheet|skerry\.png/.test(n))).toEqual(['textures/skerry.png']);
  // The tree has all of them but the picture that the tide gauge brought along, and says so.
  const shown = async () =>
    (await writes.getByRole('list', { name: 'Files' }).getByRole('listitem').allTextContents()).filter((t) => !t.endsWith('/')).sort();
  const foreseen = names
    .filter((n) => !n.startsWith('textures/tide-gauge'))
    .map((n) => n.split('/').at(-1)!)
    .sort();
  expect(await shown()).toEqual(foreseen);
  await expect(writes).toContainText(`${foreseen.length} files`);
  await expect(writes).toContainText('29 files');
  const manifest = JSON.parse(Buffer.from(files['manifest.json']!).toString()) as {
    version: string;
    files: { path: string; bytes: number; sha256: string }[];
  };
  expect(manifest.version).toBe('2.0.1');
  expect(manifest.files.length).toBe(names.length - 1);
  for (const { path: at, bytes, sha256 } of manifest.files)
    expect([bytes, sha256]).toEqual([files[at]!.length, createHash('sha256').update(files[at]!).digest('hex')]);
  const left = page.getByRole('region', { name: 'What left' });
  await expect(left).toContainText(`${names.length} files`);
  const size = files['whole/brindle-skerry-2.0.1.glb']!.length;
  await expect(left.getByRole('row', { name: /whole/ })).toContainText(`${Math.round(size / 1000)} KB`);

  // What left is an example: the plan that is read from it writes the same tree.
  await page
    .getByLabel('Archive as an example')
    .setInputFiles([{ name: 'build.zip', mimeType: 'application/zip', buffer: Buffer.from(zip) }]);
  await expect(page.getByRole('region', { name: 'Plan Like the example' })).toBeVisible();
  await expect(page.getByRole('textbox', { name: 'Version' })).toHaveValue('2.0.1');
  expect(await shown()).toEqual(foreseen);
  await page.getByRole('button', { name: 'Undo' }).click();

  // Undone and done again, by the key in another view, it is the same to the byte; so it is from the server.
  for (let i = 0; i < 3; i++) await page.getByRole('button', { name: 'Undo' }).click();
  for (let i = 0; i < 3; i++) await page.getByRole('button', { name: 'Redo' }).click();
  await page.getByRole('radio', { name: 'One file at a time' }).click();
  const [archive] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'Download Kit archive' }).click()]);
  await page.getByRole('link', { name: 'Palette', exact: true }).click();
  const [again] = await Promise.all([page.waitForEvent('download'), page.keyboard.press('Shift+R')]);
  expect(Buffer.compare(await bytesOf(again), zip)).toBe(0);
  const answer = await request.post('/api/hand-off?plan=Game%20build', { data: Buffer.from(await bytesOf(archive)) });
  expect(answer.status()).toBe(200);
  expect(Buffer.compare(await answer.body(), zip)).toBe(0);
  const refused = await request.post('/api/hand-off?plan=Engine', { data: Buffer.from(await bytesOf(archive)) });
  expect([refused.status(), ((await refused.json()) as { pointer: string }).pointer]).toEqual([422, '/kit/handOffs']);
});

test('a live folder follows each change with the files that it touches, and each replaced file can come back', async ({ page }) => {
  // The browser's own private folder stands in for one of the computer: no dialog can be driven.
  await page.addInitScript(() => {
    const folder = async () => (await navigator.storage.getDirectory()).getDirectoryHandle('game', { create: true });
    Object.assign(window, { showDirectoryPicker: folder });
  });
  const inFolder = (path: string) =>
    page.evaluate(async (at) => {
      const names = at.split('/');
      let folder = await (await navigator.storage.getDirectory()).getDirectoryHandle('game', { create: true });
      for (const name of names.slice(0, -1)) folder = await folder.getDirectoryHandle(name);
      const file = await (await folder.getFileHandle(names.at(-1)!)).getFile();
      return { at: file.lastModified, bytes: [...new Uint8Array(await file.arrayBuffer())] };
    }, path);
  await openDemo(page);
  await page.evaluate(async () => {
    const folder = await (await navigator.storage.getDirectory()).getDirectoryHandle('game', { create: true });
    const textures = await folder.getDirectoryHandle('textures', { create: true });
    const out = await (await textures.getFileHandle('skerry.png', { create: true })).createWritable();
    await out.write('mine');
    await out.close();
  });
  await page.getByRole('link', { name: 'Hand-off' }).click();
  await page.getByRole('radio', { name: 'Folders, by a plan' }).click();
  const writes = page.getByRole('region', { name: 'What it writes' });

  // Written once: all of it is there, and what was replaced is kept.
  await writes.getByRole('button', { name: 'Write into a folder…' }).click();
  await expect(page.getByRole('region', { name: 'What left' })).toContainText('Written into “game”');
  expect((await inFolder('textures/skerry.png')).bytes.slice(1, 4)).toEqual([...Buffer.from('PNG')]);
  await page.getByText('1 replaced file kept as it was').click();
  const kept = page.getByRole('list', { name: 'Replaced files' });
  const sum = createHash('sha256').update('mine').digest('hex');
  await expect(kept).toContainText(`game/textures/skerry.png`);
  await expect(kept).toContainText(sum.slice(0, 8));

  // Live: a change of one model's colors replaces its file and the manifest, and no other.
  await writes.getByRole('button', { name: 'Live folder…' }).click();
  const live = writes.getByRole('status', { name: 'Live folder' });
  await expect(live).toContainText('were the same already');
  const pots = await inFolder('models/crab-pots/crab-pots.gltf').catch(() => inFolder('models/crab-pots.glb'));
  await page.getByRole('link', { name: 'Color', exact: true }).click();
  await viewport(page).focus();
  await page.keyboard.press('Control+a');
  await page
    .getByRole('button', { name: /^slate, \d/ })
    .first()
    .click();
  await saved(page);
  await page.getByRole('link', { name: /^Hand-off/ }).click();
  await page.getByRole('radio', { name: 'Folders, by a plan' }).click();
  await expect(live).toContainText(/Wrote models\/light-tower[^,]*, .*manifest\.json\./);
  await expect(live).not.toContainText('crab-pots');
  const now = await inFolder('models/crab-pots/crab-pots.gltf').catch(() => inFolder('models/crab-pots.glb'));
  expect(now.at).toBe(pots.at);
  const manifest = JSON.parse(Buffer.from((await inFolder('manifest.json')).bytes).toString()) as {
    files: { path: string; sha256: string }[];
  };
  for (const { path, sha256 } of manifest.files)
    expect(
      createHash('sha256')
        .update(Buffer.from((await inFolder(path)).bytes))
        .digest('hex'),
      path,
    ).toBe(sha256);

  // The way back of the file that was the artist's own; the folder is not live any more then.
  await page.getByText(/replaced files? kept as it was/).click();
  await kept.getByRole('button', { name: 'Put back textures/skerry.png' }).last().click();
  await expect(page.getByText('textures/skerry.png is as it was.')).toBeVisible();
  expect(Buffer.from((await inFolder('textures/skerry.png')).bytes).toString()).toBe('mine');
  await expect(live).toBeHidden();
});
